"""Putting it together: a partial order of steps, with what each reminds of.

The steps of a family of assemblies stand in its folder.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from typing import Any

from msgspec.structs import replace

from trebb.core.fitup.order import FitStep, FitUpError, assembly_order, blocked_by
from trebb.core.register import FAMILIES
from trebb.core.remedies import JOINED, remedies_of
from trebb.core.safety import SOLVENT

# For what has no steps of its own: what came off goes between the two.
GENERAL = (
    FitStep(
        "marks",
        "Find the marks and photographs made at strip-down",
        (),
        "What goes two ways round goes wrong.",
        minutes=5,
    ),
    FitStep("clean", "Clean it all; twice", (), "Swarf goes where the oil goes.", "", SOLVENT, 20),
    FitStep("prove", "Turned by hand through its whole travel", ("marks", "clean"), "", minutes=5),
)


def fit_steps(remedy: str, family: str = "screw_drive", subject: Any = None) -> tuple[FitStep, ...]:
    """Steps for a chosen remedy, or several done together, in the order they are listed, not yet sorted."""
    record = FAMILIES.get(family)
    if record is None or not record.fit_up:
        return GENERAL
    lists: list[tuple[FitStep, ...]] = [
        record.named(record.fit_up)(key, subject) for key in remedy.split(JOINED)
    ]
    if len(lists) == 1:
        return lists[0]
    every = [record.named(record.fit_up)(r.key, subject) for r in remedies_of(family)]
    return merged(lists, every)


def merged(lists: Sequence[Sequence[FitStep]], every: Sequence[Sequence[FitStep]]) -> tuple[FitStep, ...]:
    """One order of several: each step once, waiting for all that it waits for in any of them.

    Where two have a step of one key in other words, an end float set by the old shim and one set by a nut, it
    is the one that fewer of the family's orders (`every`) have: what is always done gives way to what this
    repair asks.
    """
    common = Counter(replace(s, after=()) for steps in every for s in steps)
    found: dict[str, FitStep] = {}
    for step in (s for steps in lists for s in steps):
        known = found.setdefault(step.key, step)
        special = min(known, step, key=lambda s: common[replace(s, after=())])
        found[step.key] = replace(special, after=tuple(dict.fromkeys((*known.after, *step.after))))
    return tuple(found.values())


__all__ = ["FitStep", "FitUpError", "assembly_order", "blocked_by", "fit_steps", "merged"]
