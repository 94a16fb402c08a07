"""A spindle: runout by link, float, slack, its bearings, seat and coupler."""

from trebb.core.register import Family

RECORDS = {
    "spindle": Family(
        set_ups=(
            "nose.SET_UP",
            "taper_bore.SET_UP",
            "test_bar.SET_UP",
            "chuck_pin.SET_UP",
            "push_test.SET_UP",
            "float.SET_UP",
            "coupler.SET_UP",
            "warm_run.SET_UP",
            "contact.SET_UP",
            "journals.SET_UP",
            "reach.SET_UP",
            "push_test.PIN_SET_UP",
        ),
        remedies="remedies.SPINDLE_REMEDIES",
        parts=("parts.FAMILIES", "sleeve.FAMILY", "stepped_spacer.FAMILY"),
        routes=("routes.SPINDLE_ROUTES", "stepped_spacer_route.ROUTES"),
        fit_up="fitup.spindle_steps",
        work="makes.rows",
        added="Spindle",
    ),
}
