"""Putting a shaft or a bore together again: what must be on before what, by what slides over what."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace

from trebb.core.fitup.order import FitStep
from trebb.core.parts.base import Section
from trebb.core.safety import SOLVENT

MARKS = FitStep(
    "marks",
    "Find the marks made at strip-down",
    (),
    "A wheel or collar goes on two ways round.",
    "Photographs at Intake.",
    minutes=5,
)
CLEAN = FitStep(
    "clean",
    "Clean shaft, bores and oil ways; twice",
    (),
    "Grit in a new bush laps it out.",
    "Blow the oil way through both ends.",
    SOLVENT,
    15,
)


PASSES_MM = 0.002  # more than this over a bore, and a ring does not slide over it


def slides_to(sections: Sequence[Section], label: str, bore_mm: float) -> tuple[bool, bool]:
    """Whether a ring of a bore can be slid from the left end, and from the right, to a section of a shaft.

    The section itself is not asked: what fits there is its own business. Raises KeyError for another label.
    """
    names = [s.label for s in sections]
    if label not in names:
        raise KeyError(label)
    at = names.index(label)

    def passes(over: Sequence[Section]) -> bool:
        return all((s.size.low_mm if s.size else s.diameter_mm) <= bore_mm + PASSES_MM for s in over)

    return passes(sections[:at]), passes(sections[at + 1 :])


def slide_words(from_left: bool, from_right: bool, what: str) -> str:
    """From which end something goes on, or that it goes on from neither."""
    if from_left and from_right:
        return f"{what} goes on from either end."
    if from_left or from_right:
        return (
            f"{what} goes on from the {'left' if from_left else 'right'} end only: before what stands there."
        )
    return f"{what} cannot pass from either end: split it, bore it larger, or turn the shaft down."


WIPED = FitStep(
    "clean",
    "Ways, feet and faces wiped twice, burrs stoned off",
    (),
    "A chip under a foot or a saddle is a shim nobody logged.",
    minutes=15,
)


def ready(*after: str) -> FitStep:
    return FitStep("prove", "Ready to prove: the same set-ups, the same marks", after, "", minutes=5)


def put_after(step: FitStep, *after: str) -> FitStep:
    return replace(step, after=after)


PROVE = FitStep("prove", "Ready to prove", ("last",), "", minutes=5)
