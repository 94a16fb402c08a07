"""A gear on its shaft with its mate, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.families.gear.subject import Gear
from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, MARKS
from trebb.core.safety import DRIFT, LOCK_OUT


def gear_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A gear onto its shaft and into mesh; a bevel with its spacer."""
    gear = subject if isinstance(subject, Gear) else Gear()
    before_on: tuple[str, ...] = ("clean", "marks")
    steps = [MARKS, CLEAN]
    if remedy in ("used", "new", "both"):
        steps.append(
            FitStep(
                "check",
                "Check what came: teeth, name, bore, face, key, hub",
                (),
                "Found wrong when the shaft is out, everything waits.",
                "Every tooth looked at, span read, bore on the shaft by hand.",
                minutes=15,
            )
        )
        before_on = ("clean", "marks", "check")
    if gear.missing:
        steps.append(
            FitStep(
                "pieces",
                "Every broken piece found and out of the train",
                (),
                "A crumb of a tooth breaks the next one.",
                "A magnet does not find zinc or bronze: count the pieces.",
                LOCK_OUT,
                15,
            )
        )
        before_on = (*before_on, "pieces")
    if gear.is_bevel:
        steps.append(
            FitStep(
                "spacer",
                "Spacer on its seat, faces wiped",
                ("clean",),
                "A chip under it leans the gear.",
                "Compound on the rim only, if any: its depth must stay measurable.",
                minutes=5,
            )
        )
        before_on = (*before_on, "spacer")
    steps += [
        *_gear_on(gear, before_on),
        FitStep(
            "oil", "Oil or grease that suits the metals", ("lash",), "Dry bronze picks up at once.", minutes=5
        ),
        FitStep(
            "guard",
            "Cover on, last",
            ("lash", "oil"),
            "The cover goes on before the gear behind it, and comes off again.",
            "",
            minutes=5,
        ),
        FitStep("prove", "Ready to prove: it turns through a whole turn of both", ("guard",), "", minutes=5),
    ]
    return tuple(steps)


def _gear_on(gear: Gear, before_on: tuple[str, ...]) -> list[FitStep]:
    return [
        FitStep(
            "on",
            "Gear on its seat, the way round it came",
            before_on,
            "Backwards, its hub keeps the shaft from going home.",
            "Index it to its mark before anything is pinned."
            if not gear.key_mm
            else "Key tight in the shaft, sliding in the gear.",
            DRIFT,
            10,
        ),
        FitStep(
            "mate",
            "Mate in mesh, its tooth to its mark",
            ("on",),
            "A lapped pair runs quiet only as it was lapped.",
            "Shaft's ends home: look, do not feel.",
            minutes=10,
        ),
        FitStep(
            "lash",
            "Lash at four quarters, the tightest found",
            ("mate",),
            "Set at one place it may bind at another.",
            "Paper between the teeth is about a tenth of a millimetre.",
            LOCK_OUT,
            10,
        ),
    ]
