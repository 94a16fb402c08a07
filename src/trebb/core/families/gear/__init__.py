"""A gear with its mate."""

from trebb.core.register import Family

RECORDS = {
    "gear": Family(
        set_ups=("reading.SET_UPS", "name.NAME"),
        remedies="remedies.GEAR_REMEDIES",
        bounds="bounds.bounds",
        parts=("parts.FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.gear_steps",
        judging="findings.JUDGING",
        added="Gear",
        is_piece=True,
    ),
}
