"""A reamer or milling cutter in its holder."""

from trebb.core.register import Family

RECORDS = {
    "cutter": Family(
        set_ups=("reading.SET_UPS",),
        remedies="remedies.CUTTER_REMEDIES",
        parts=("parts.CUTTER_FAMILY",),
        routes=("routes.ROUTES",),
        fit_up="fitup.cutter_steps",
        judging="findings.JUDGING",
        added="Cutter",
        is_piece=True,
    ),
}
