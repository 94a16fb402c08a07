"""A head over a table."""

from trebb.core.register import Family

RECORDS = {
    "tram": Family(
        set_ups=(
            "sweep.SWEEP",
            "sweep.SQUARE",
            "sweep.SAG",
            "sweep.TRAVEL",
            "sweep.COLUMN",
            "table_edges.SET_UP",
        ),
        remedies="remedies.TRAM_REMEDIES",
        parts=("parts.FAMILY",),
        routes=("routes.ROUTES",),
        fit_up="fitup.tram_steps",
        work="makes.rows",
    ),
}
