"""Marks in the work at an even spacing: what on the machine turns once while the slide goes that far.

What is bent, or sharp in one place, marks the work once a turn; what is out of round in two places, twice.
"""

from __future__ import annotations

from collections.abc import Iterable

from msgspec import Struct

LIKE = 0.03  # of a turn's travel: marks are told apart no better with a rule
EACH_TURN = (1, 2)  # marks that a turn leaves: a bend one, an oval two


class Turn(Struct, frozen=True):
    """What turns, on which assembly, and the travel of a turn of it, mm."""

    words: str
    assembly: str
    travel_mm: float


class Match(Struct, frozen=True):
    """A turn that leaves marks so far apart, `marks` of them each time; `off` by which share it does not."""

    turn: Turn
    marks: int
    off: float


def matches(spacing_mm: float, turns: Iterable[Turn]) -> tuple[Match, ...]:
    """Turns whose travel fits a spacing in mm, the nearest first and one mark a turn before two."""
    found = []
    for turn in turns:
        for marks in EACH_TURN:
            off = abs(spacing_mm * marks - turn.travel_mm) / turn.travel_mm
            if off <= LIKE:
                found.append(Match(turn, marks, off))
    return tuple(sorted(found, key=lambda m: (m.marks, m.off)))
