"""A flat way or table read as a map."""

from trebb.core.register import Family

RECORDS = {
    "way": Family(
        set_ups=("reading.MAP",),
        remedies="remedies.WAY_REMEDIES",
        fit_up="fitup.way_steps",
        judging="findings.JUDGING",
        added="Ways by map",
        is_piece=True,
    ),
}
