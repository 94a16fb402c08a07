"""A slide on its dovetail with a taper gib."""

from trebb.core.register import Family

RECORDS = {
    "gib": Family(
        set_ups=(
            "gaps.FEELERS",
            "gaps.STAND_OUT",
            "gaps.ROCK",
            "gaps.DROP",
            "gaps.SPOTS_PER_INCH",
            "contact.GIB",
        ),
        remedies="remedies.GIB_REMEDIES",
        bounds="bounds.bounds",
        parts=("parts.FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.gib_steps",
        added="Slide on a gib",
    ),
}
