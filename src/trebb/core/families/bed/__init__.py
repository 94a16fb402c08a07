"""A lathe in space: ways, headstock, tailstock and stand, four assemblies of one machine."""

from trebb.core.register import Family

RECORDS = {
    "ways": Family(
        set_ups=(
            "levels.ALONG",
            "levels.ACROSS",
            "levels.COLLIMATOR",
            "straight.STRAIGHTEDGE",
            "straight.REFERENCE_BAR",
            "straight.RIDGE",
        ),
        remedies="remedies.BED_REMEDIES",
        parts=("foot_parts.FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.ways_steps",
        work="makes.rows",
    ),
    "headstock": Family(
        set_ups=("cuts.TWO_COLLAR", "cuts.TRIALS", "cuts.FACING", "sweep.BAR_SWEEP"),
        remedies="remedies.BED_REMEDIES",
        parts=("foot_parts.FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.headstock_steps",
    ),
    "tailstock": Family(
        set_ups=("centres.CENTRES", "axes.QUILL", "axes.KEY", "cuts.LONG_PIECE"),
        remedies="remedies.BED_REMEDIES",
        parts=("foot_parts.FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.tailstock_steps",
    ),
    "stand": Family(
        set_ups=("axes.SOFT_FEET", "axes.STAND_FLEX"),
        remedies="remedies.BED_REMEDIES",
        parts=("foot_parts.FAMILIES",),
        routes=("routes.ROUTES",),
        fit_up="fitup.stand_steps",
    ),
}
