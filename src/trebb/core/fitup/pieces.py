"""Putting a shaft or a bore together again: what must be on before what, by what slides over what."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from trebb.core.fitup.order import FitStep
from trebb.core.machine.shaft import Shaft
from trebb.core.parts.base import Section
from trebb.core.safety import DRIFT, SOLVENT

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


def shaft_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A shaft through its bearings, then what sits on it, in the order of its size."""
    shaft = subject if isinstance(subject, Shaft) else Shaft()
    pinned = shaft.drive in ("pin", "taper_pin", "spring_pin")
    steps = [
        MARKS,
        CLEAN,
        *_shaft_in(),
        FitStep(
            "hold",
            "Pin driven, or key fitted and nut run up",
            ("wheel",),
            "Drilled or driven before it is indexed, it is scrap.",
            "A spring pin may not lie across an oil way."
            if pinned
            else "Key tight in the shaft, sliding in the wheel.",
            DRIFT if pinned else "",
            15,
        ),
        FitStep(
            "oil",
            "Oil every bore",
            ("hold",),
            "The first dry turn scores a new bush.",
            "The oil cap everybody forgets.",
            minutes=5,
        ),
        FitStep(
            "cover",
            "Cover and dial on",
            ("oil",),
            "The cover goes on before the gear behind it, and comes off again.",
            "",
            minutes=10,
        ),
        FitStep("prove", "Ready to prove: it turns freely", ("cover",), "", minutes=5),
    ]
    return tuple(steps)


def _shaft_in() -> list[FitStep]:
    return [
        FitStep(
            "bores",
            "Try the shaft in each bore by itself",
            ("clean",),
            "Tight in both and straight in neither: bores out of line.",
            "It turns by two fingers, oiled.",
            minutes=10,
        ),
        FitStep(
            "collars",
            "Collars and washers on in their order, the largest bore first",
            ("bores", "marks"),
            "A collar that does not pass a journal goes on before the shaft does.",
            "Oil grooves toward the bearing.",
            minutes=10,
        ),
        FitStep(
            "through",
            "Shaft through its bearings",
            ("collars",),
            "What stands between the bearings goes on as it passes.",
            "Gears back to back as they came: one put on backwards keeps the shaft from going home.",
            minutes=15,
        ),
        FitStep(
            "float",
            "End float by push and pull, collar or washer to suit",
            ("through",),
            "Set after the wheel is on it cannot be reached.",
            "Turn it by hand without a catch.",
            minutes=15,
        ),
        FitStep(
            "wheel",
            "Wheel on its seat, indexed to its mark",
            ("float",),
            "The dial's lines miss the index for good once it is pinned.",
            "Teeth against the mark, hand of the thread minded.",
            minutes=15,
        ),
    ]


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
