"""A vise put together again, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, MARKS, PROVE


def jaw_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """Jaw plates on, the vise in line on its table."""
    return (
        MARKS,
        CLEAN,
        FitStep(
            "burrs",
            "Burrs stoned off every seat",
            ("clean",),
            "A burr under a plate is its new angle.",
            minutes=10,
        ),
        FitStep(
            "plates", "Plates on, screws drawn evenly", ("burrs",), "One drawn first cocks it.", minutes=10
        ),
        FitStep(
            "parallel",
            "A parallel pinched: it holds at four corners alike",
            ("plates",),
            "If not, look under the plates before the jaw is blamed.",
            minutes=5,
        ),
        FitStep("last", "Set in line by its fixed jaw", ("parallel",), "The moving jaw lifts.", minutes=10),
        PROVE,
    )
