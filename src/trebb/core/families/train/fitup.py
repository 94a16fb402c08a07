"""A train put together in an order that lets it in, step by step."""

from __future__ import annotations

from typing import Any

from trebb.core.families.train.subject import Train
from trebb.core.fitup.order import FitStep
from trebb.core.fitup.pieces import CLEAN, MARKS
from trebb.core.safety import LOCK_OUT
from trebb.core.words import large


def train_steps(remedy: str, subject: Any = None) -> tuple[FitStep, ...]:
    """A train in the order it can go in: each part after what it needs, as stated or as such a nest is
    known.
    """
    train = subject if isinstance(subject, Train) else Train()
    keys = {p.name: f"part_{i}" for i, p in enumerate(train.parts)}
    steps = [MARKS, CLEAN]
    for p in train.parts:
        needs = tuple(keys[a] for a in p.after)
        why = (
            f"It cannot pass once {', '.join(p.after)} is missing."
            if p.after
            else "Nothing else goes in before it."
        )
        steps.append(FitStep(keys[p.name], large(p.name), ("clean", "marks", *needs), why, minutes=10))
    last = tuple(keys.values()) or ("clean", "marks")
    steps += [
        FitStep(
            "mesh",
            "Every mesh tried by hand through a whole turn",
            last,
            "One tooth high binds once a turn.",
            "",
            LOCK_OUT,
            10,
        ),
        FitStep(
            "positions",
            "Every position engaged in turn",
            ("mesh",),
            "A wheel put on backwards shows here, or at its end play.",
            "Neutral must be neutral.",
            LOCK_OUT,
            10,
        ),
        FitStep(
            "guard",
            "Oil, caps, cover on last",
            ("positions",),
            "The cap everybody forgets returns the oil.",
            minutes=10,
        ),
        FitStep("prove", "Ready to prove", ("guard",), "", minutes=5),
    ]
    return tuple(steps)
