"""An index plate with its detent."""

from trebb.core.register import Family

RECORDS = {
    "index_plate": Family(
        facts="facts.INDEX",
        set_ups=("reading.INDEX_SET_UPS",),
        remedies="remedies.INDEX_REMEDIES",
        parts=("parts.INDEX_FAMILY",),
        routes=("routes.ROUTES",),
        fit_up="fitup.index_steps",
        judging="findings.JUDGING",
        added="Index plate",
        is_piece=True,
    ),
}
