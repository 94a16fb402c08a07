"""A vise or plate: its top, marks and jaw plates."""

from trebb.core.register import Family

RECORDS = {
    "jaws": Family(
        facts="facts.JAWS",
        set_ups=("reading.JAW_SET_UPS",),
        remedies="remedies.JAW_REMEDIES",
        parts=("parts.JAW_FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.jaw_steps",
        judging="findings.JUDGING",
        added="Vise or plate",
        is_piece=True,
    ),
}
