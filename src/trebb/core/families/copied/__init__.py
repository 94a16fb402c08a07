"""A part copied from an old one."""

from trebb.core.register import Family

RECORDS = {
    "copied": Family(
        set_ups=(),
        remedies="remedies.COPY_REMEDIES",
        parts=("built.FAMILY",),
        routes=("built_route.ROUTES",),
        added="Part to copy",
        is_piece=True,
    ),
}
