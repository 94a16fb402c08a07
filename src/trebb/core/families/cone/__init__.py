"""A friction cone with its lining and cup."""

from trebb.core.register import Family

RECORDS = {
    "cone": Family(
        set_ups=("reading.SET_UPS",),
        remedies="remedies.CONE_REMEDIES",
        parts=("parts.FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.cone_steps",
        judging="findings.JUDGING",
        added="Friction cone",
        is_piece=True,
    ),
}
