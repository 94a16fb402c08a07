"""An index plate back on its head, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, MARKS, PROVE


def index_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """An index plate on its spindle, its detent to its holes."""
    return (
        MARKS,
        CLEAN,
        FitStep(
            "centre",
            "Plate centred by its holes",
            ("clean",),
            "By its rim it is as good as its rim.",
            minutes=15,
        ),
        FitStep("screws", "Screws drawn, read again", ("centre",), "They pull it off centre.", minutes=5),
        FitStep(
            "detent",
            "Detent into every hole by hand",
            ("screws",),
            "One that sticks is a hole that is off.",
            minutes=10,
        ),
        FitStep(
            "last",
            "Once round: the first hole again",
            ("detent",),
            "A circle that does not close was miscounted.",
            minutes=5,
        ),
        PROVE,
    )
