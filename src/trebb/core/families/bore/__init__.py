"""A bore that something runs, slides or is held in."""

from trebb.core.register import Family

RECORDS = {
    "bore": Family(
        set_ups=("gauge.GAUGE", "gauge.MATE", "gauge.PUSH", "gauge.CONTACT"),
        remedies="remedies.BORE_REMEDIES",
        bounds="bounds.bounds",
        parts=("parts.FAMILIES",),
        routes=("making.bush_routes.ROUTES",),
        fit_up="fitup.bore_steps",
        added="Bore",
        is_piece=True,
    ),
}
