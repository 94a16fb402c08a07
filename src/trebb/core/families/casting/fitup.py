"""A mended casting back in its place, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import MARKS, PROVE
from trebb.core.safety import LOCK_OUT


def casting_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A mended casting back in its place."""
    return (
        MARKS,
        FitStep(
            "cold",
            "Cold, and chalked once more",
            (),
            "Heat closes a crack that opens again cold.",
            minutes=10,
        ),
        FitStep(
            "seat",
            "Seat tried on its face, by feeler or blue",
            ("cold",),
            "Bolted down on a warped seat it cracks again.",
            "Scraped or milled, never shimmed at one corner.",
            minutes=15,
        ),
        FitStep(
            "bore",
            "Its shaft tried in the bore",
            ("cold",),
            "Tight in the hand is bound in the machine.",
            "Bored or reamed in line now, if at all.",
            minutes=10,
        ),
        FitStep(
            "bolt",
            "Bolted, from the middle, by turns",
            ("seat", "bore", "marks"),
            "One screw drawn first springs it.",
            "Dowels last.",
            minutes=10,
        ),
        FitStep(
            "last", "Shaft still turns by two fingers", ("bolt",), "If not, it was sprung.", "", LOCK_OUT, 5
        ),
        PROVE,
    )
