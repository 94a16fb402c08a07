"""A shaft put together again: what must be on before what, by what slides over what."""

from __future__ import annotations

from typing import Any

from trebb.core.families.shaft.subject import PINS, Shaft
from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, MARKS
from trebb.core.safety import DRIFT


def shaft_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A shaft through its bearings, then what sits on it, in the order of its size."""
    shaft = subject if isinstance(subject, Shaft) else Shaft()
    pinned = shaft.drive in PINS
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
