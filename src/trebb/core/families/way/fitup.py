"""A scraped way put to use, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, PROVE


def way_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A way that was scraped, its slide back on it."""
    return (
        CLEAN,
        FitStep(
            "burrs",
            "Edges broken, oil grooves clear",
            ("clean",),
            "A sharp edge is the first burr.",
            minutes=15,
        ),
        FitStep(
            "blue",
            "Slide blued on its ways, once more",
            ("burrs",),
            "Two flat faces need not fit.",
            minutes=20,
        ),
        FitStep(
            "gib",
            "Gib for what came off",
            ("blue",),
            "It stands further in now: see that it still has travel.",
            minutes=20,
        ),
        FitStep(
            "last",
            "Screw and nut in line again",
            ("gib",),
            "The slide stands lower than its nut.",
            minutes=20,
        ),
        PROVE,
    )
