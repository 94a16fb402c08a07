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
from trebb.core.remedies import BY_ITSELF, JOINED, Remedy, remedies_of
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


MARKS_MINUTES, MOST_OFF_MINUTES, TRY_MINUTES = 10.0, 20.0, 10.0


def fit_steps(remedy: str, family: str = "screw_drive", subject: Any = None) -> tuple[FitStep, ...]:
    """Steps for a chosen remedy, or several done together, in the order they are listed, not yet sorted."""
    record = FAMILIES.get(family)
    if record is None or not record.fit_up:
        return GENERAL
    known = {r.key: r for r in remedies_of(family)}

    def steps_of(key: str) -> tuple[FitStep, ...]:
        r = known.get(key)
        if r is not None and r.in_place == BY_ITSELF:
            return _by_itself(r)
        steps: tuple[FitStep, ...] = record.named(record.fit_up)(key, subject)
        return steps

    lists = [steps_of(key) for key in remedy.split(JOINED)]
    return lists[0] if len(lists) == 1 else merged(lists, [steps_of(key) for key in known])


def _by_itself(remedy: Remedy) -> tuple[FitStep, ...]:
    """What nothing comes apart for: the one step that it is, and the proof. Where a part is made for it, its
    route has the work, and what is left is to try it.
    """
    title, minutes = (remedy.title, 60.0 * remedy.hours)
    if remedy.parts:
        title, minutes = f"{remedy.title}: it is in, tried by hand", TRY_MINUTES
    done = FitStep(f"do_{remedy.key}", title, (), "", remedy.summary, remedy.caution, minutes)
    return (done, replace(GENERAL[-1], title="Ready to prove", after=(done.key,)))


def down_hours(steps: Sequence[FitStep]) -> float:
    """Hours of taking apart what these steps put together: as its own steps say, else half of what each
    step that puts something on takes, no more than ten minutes each, and the marks (practice).
    """
    said = [s.minutes for s in steps if s.takes_apart]
    if said:
        return sum(said) / 60
    return (MARKS_MINUTES + sum(0.5 * min(s.minutes, MOST_OFF_MINUTES) for s in steps)) / 60


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


__all__ = ["FitStep", "FitUpError", "assembly_order", "blocked_by", "down_hours", "fit_steps", "merged"]
