"""What a finding is."""

from __future__ import annotations

from dataclasses import dataclass

from trebb.core.condition import Quantity
from trebb.core.machine import RatedLimit, State, state_of


@dataclass(frozen=True)
class Measure:
    """One thing an assembly is judged by, mm."""

    key: str
    label: str
    limit: RatedLimit
    value: Quantity

    @property
    def state(self) -> State:
        """How it stands to its limit."""
        return state_of(self.value.value, self.limit.limit_mm)

    @property
    def share_of_limit(self) -> float:
        """1 is at the limit."""
        return self.value.value / self.limit.limit_mm


@dataclass(frozen=True)
class Finding:
    """One verdict: a sentence a rebuilder would say, what it rests on, and the next move.

    `weight_mm` ranks findings by what they do to the work; `set_ups` are the ways on: words and the set-up's key.
    """

    key: str
    state: State
    sentence: str
    rests_on: str
    next_move: str
    weight_mm: float
    set_ups: tuple[tuple[str, str], ...] = ()
