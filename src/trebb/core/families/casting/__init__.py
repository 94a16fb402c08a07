"""A casting that is cracked or broken."""

from trebb.core.register import Family

RECORDS = {
    "casting": Family(
        set_ups=("reading.SET_UPS",),
        remedies="remedies.CASTING_REMEDIES",
        parts=("parts.FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.casting_steps",
        judging="findings.JUDGING",
        added="Cracked casting",
        is_piece=True,
    ),
}
