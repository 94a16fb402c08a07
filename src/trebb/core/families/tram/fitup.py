"""A head or a table set square, step by step."""

from __future__ import annotations

from trebb.core.families.tram.subject import Tram
from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import WIPED, ready


def tram_steps(remedy: str, tram: Tram | None) -> tuple[FitStep, ...]:
    """A head or a table set square."""
    if remedy == "leave":
        return (WIPED, ready("clean"))
    block = FitStep(
        "block",
        "Head, table or knee blocked from below",
        (),
        "It swings or drops when its bolts ease.",
        "",
        "Never trust a screw or a clamp alone with the weight.",
        10,
    )
    steps: list[FitStep] = [WIPED, block]
    if remedy == "shim":
        steps.append(
            FitStep(
                "shims",
                "Tapered shims under bracket and column, covering the face",
                ("clean", "block"),
                "A shim at one bolt bends the casting.",
                "Sizes at Parts.",
                minutes=60,
            )
        )
    last = steps[-1].key
    steps += [
        FitStep(
            "set",
            "Set by the indicator, front to back first",
            ("clean", last),
            "Left to right moves the other; front to back hardly.",
            minutes=30,
        ),
        FitStep(
            "tighten",
            "Bolts drawn down in turns, swept again",
            ("set",),
            "Tightening moves it: aim off by that.",
            minutes=10,
        ),
    ]
    return (*steps, ready("tighten"))
