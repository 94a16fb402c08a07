"""A bore and its mate put together again, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, MARKS


def bore_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A bore with its mate: clean, oil way, mate in, play tried."""
    return (
        MARKS,
        CLEAN,
        FitStep(
            "paint",
            "Paint off every seat, burrs off the mouth",
            ("clean",),
            "Paint under a flange stands it crooked.",
            "Flapped off, nothing taken from the metal.",
            minutes=10,
        ),
        FitStep(
            "oilway",
            "Oil way through the bush, clear",
            ("clean",),
            "A bush pressed round a quarter turn shuts it.",
            "Oil runs out inside.",
            minutes=5,
        ),
        FitStep(
            "mate",
            "Its mate in, by hand, from the unworn end",
            ("paint", "oilway"),
            "What must be driven in by hand force is too tight.",
            "It turns or slides through the whole length.",
            minutes=10,
        ),
        FitStep(
            "oil", "Oil it, and run it by hand", ("mate",), "A dry new bush picks up at once.", minutes=5
        ),
        FitStep("prove", "Ready to prove", ("oil",), "", minutes=5),
    )
