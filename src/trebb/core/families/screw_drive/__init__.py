"""A slide moved by a feed screw: lash, lead, its nut, collar and dial."""

from trebb.core.register import Family

RECORDS = {
    "screw_drive": Family(
        set_ups=(
            "lash.SET_UP",
            "push_pull.SET_UP",
            "end_float.SET_UP",
            "turns_travel.SET_UP",
            "thread_size.SET_UP",
            "lead_error.SET_UP",
            "screw_bend.SET_UP",
            "half_nuts.SET_UP",
            "which_thread.SET_UP",
        ),
        remedies="remedies.SCREW_REMEDIES",
        parts=("screw.FAMILY", "nut.FAMILY", "thrust_collar.FAMILY", "dial.FAMILY"),
        routes=("screw_routes.SCREW_ROUTES",),
        bounds="bounds.bounds",
        fit_up="fitup.screw_steps",
        work="makes.rows",
        added="Feed screw and nut",
    ),
}
