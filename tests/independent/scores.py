"""What is counted over many machines, family by family."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

from tests.independent.job import TypedJob

COUNTS = ("cover", "state", "cause", "false alarm", "sure and wrong", "not said")

# What of a job with everything read is typed: all of it, or what Trebb itself asks for.
Played = Callable[[TypedJob], TypedJob]


def all_of_it(full: TypedJob) -> TypedJob:
    """Everything that was read."""
    return full


@dataclass
class Score:
    """Hits and tries of each count.

    `cover`: the truth inside the 95 % interval; `state`: inside or over its
    limit, of what is said; `cause`: the named cause is the largest; `false
    alarm`: of figures inside their limit, those said to be over it; `sure
    and wrong`: the whole interval on the wrong side; `not said`: figures that
    cannot be said yet.
    """

    tries: dict[str, int] = field(default_factory=lambda: dict.fromkeys(COUNTS, 0))
    hits: dict[str, int] = field(default_factory=lambda: dict.fromkeys(COUNTS, 0))

    def count(self, name: str, hit: bool) -> None:
        """One try."""
        self.tries[name] += 1
        self.hits[name] += bool(hit)

    def share(self, name: str) -> float:
        """Share of hits; not a number where nothing was tried."""
        return self.hits[name] / self.tries[name] if self.tries[name] else float("nan")

    def figure(self, m, truth: float) -> None:
        """A figure against the truth, both as the limit counts them, mm."""
        limit, low, high = m.limit.limit_mm, m.value.low, m.value.high
        if not m.unread:
            self.count("cover", low - 1e-9 <= truth <= high + 1e-9)
        state = m.state.name
        beyond = state == "BEYOND"
        self.count("not said", state == "UNKNOWN")
        if truth <= limit:
            self.count("false alarm", beyond)
        if state == "UNKNOWN":
            return
        self.count("state", beyond == (truth > limit))
        sure = low > limit or (high <= limit and not m.unread)
        self.count("sure and wrong", sure and beyond != (truth > limit))

    def interval(self, q, truth: float) -> None:
        """A stated interval against the truth."""
        self.count("cover", q.low - 1e-9 <= truth <= q.high + 1e-9)

    def cells(self) -> list[str]:
        """The shares as text, in the order of `COUNTS`."""
        return [f"{100 * self.share(c):5.1f}" if self.tries[c] else "    –" for c in COUNTS]
