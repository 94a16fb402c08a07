"""What a finding is."""

from __future__ import annotations

from dataclasses import dataclass

from trebb.core.machine import State


@dataclass(frozen=True)
class Finding:
    """One verdict: a sentence a rebuilder would say, what it rests on, and the next move.

    `weight_mm` ranks findings by what they do to the work.
    """

    key: str
    state: State
    sentence: str
    rests_on: str
    next_move: str
    weight_mm: float
