"""A score out of 100: minutes against the best order, the verdict by a proper rule, what was spent against
the least that would do; hints and damage come off it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec import Struct

FOR_MINUTES, FOR_VERDICT, FOR_MONEY = 30.0, 40.0, 30.0
# Nobody knows beforehand which readings would have told: twice the best order's minutes cost nothing.
GRACE = 2.0
FREE_MINUTES = 5.0
HOUR_WORTH = 20.0  # of bench time, beside what a remedy costs
FREE_MONEY = 10.0
HINTS = {"trust": 4.0, "next": 3.0, "expert": 8.0}
DAMAGE = 15.0
OVER_BUDGET = 10.0
SURENESS = (0.5, 0.6, 0.7, 0.8, 0.9, 0.95, 0.99)


def quadratic_loss(said: str, sure: float, truth: str, causes: Sequence[str]) -> float:
    """Loss of a verdict, 0 to 2, by the quadratic rule (Brier 1950): Σ (p − truth)² over the causes, what is
    not put on the one named spread evenly over the others. Its expectation is least where one says what
    one believes. `sure` from 0 to 1.
    """
    rest = (1 - sure) / max(len(causes) - 1, 1)
    return sum(((sure if c == said else rest) - (c == truth)) ** 2 for c in causes)


def verdict_points(said: str, sure: float, truth: str, causes: Sequence[str]) -> float:
    """Points of a verdict: all of them where it is sure and right, as many lost where sure and wrong."""
    return FOR_VERDICT * (1 - quadratic_loss(said, sure, truth, causes))


def minutes_points(used: float, best: float) -> float:
    """Points of the minutes: all up to twice the best order's, then in proportion."""
    allowed = GRACE * best + FREE_MINUTES
    return FOR_MINUTES * min(1.0, allowed / max(used, 1e-9))


def money_points(spent: float, least: float, *, mends: bool) -> float:
    """Points of the money: all for the least that brings it within limit, in proportion for more; none where
    what was chosen does not mend it (or, where nothing does, leaves more than what leaves least).
    """
    if not mends:
        return 0.0
    return FOR_MONEY * min(1.0, (least + FREE_MONEY) / (spent + FREE_MONEY))


def worth(cost: float, hours: float) -> float:
    """What a remedy costs with its hours."""
    return cost + HOUR_WORTH * hours


class Score(Struct, frozen=True):
    """Points, part by part; `damage` the sentences of what was spoilt; `earned` how much of minutes and money
    counts: what was read must tell what was said.
    """

    minutes: float
    verdict: float
    money: float
    hints: float
    damage: tuple[str, ...] = ()
    over: tuple[str, ...] = ()
    earned: float = 1.0

    @property
    def total(self) -> float:
        """Points of 100, never under nothing."""
        lost = self.hints + DAMAGE * len(self.damage) + OVER_BUDGET * len(self.over)
        return max(0.0, min(100.0, self.minutes + self.verdict + self.money - lost))


def hint_points(asked: Mapping[str, int]) -> float:
    """What hints cost, by kind and how often."""
    return sum(HINTS[kind] * count for kind, count in asked.items())


def weakest(scores: Sequence[tuple[str, float]], least: int = 1) -> str:
    """The trap, of those met so often, with the lowest mean of its last five; "" where there is none. Scores
    of 100.
    """
    by_trap: dict[str, list[float]] = {}
    for trap, total in scores:
        by_trap.setdefault(trap, []).append(total)
    known = {t: sum(s[-5:]) / len(s[-5:]) for t, s in by_trap.items() if len(s) >= least}
    return min(known, key=lambda t: known[t]) if known else ""
