"""A cutter back in its holder, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import PROVE


def cutter_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A cutter into its holder."""
    return (
        FitStep(
            "clean",
            "Holder, shank and nut wiped",
            (),
            "A chip of a hundredth is a hundredth of runout.",
            minutes=3,
        ),
        FitStep(
            "mark",
            "First flute to the holder's mark",
            ("clean",),
            "Read one way it is true one way.",
            minutes=2,
        ),
        FitStep(
            "last",
            "Nut drawn, edges read again",
            ("mark",),
            "A nut that is drawn hard bends a collet.",
            minutes=5,
        ),
        PROVE,
    )
