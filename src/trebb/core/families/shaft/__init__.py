"""A shaft with what sits on it and what it runs in."""

from trebb.core.register import Family

RECORDS = {
    "shaft": Family(
        set_ups=(
            "turns.SET_UP",
            "sizes.SIZES",
            "sizes.MATES",
            "sizes.PUSH",
            "sizes.FLOAT",
            "wheel.ROCK",
            "wheel.KEYS",
            "wheel.PIN_HOLE",
            "wheel.SQUARE",
            "wheel.END_THREAD",
        ),
        remedies="remedies.SHAFT_REMEDIES",
        bounds="bounds.bounds",
        parts=("parts.FAMILIES",),
        routes=("routes.ROUTES", "making.bush_routes.ROUTES", "pin_routes.ROUTES"),
        fit_up="fitup.shaft_steps",
        added="Shaft",
        is_piece=True,
    ),
}
