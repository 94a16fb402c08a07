"""Which repairs buy most: of every assembly's ways to be mended, the sets that no other beats.

Options of assemblies whose errors share one model come as one group, each with the figures of the work it
would leave; those that another of the group beats in money, hours and every figure are dropped, the rest are
joined group by group, exactly.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence

import numpy as np
from msgspec import Struct

MOST_OPTIONS = 4000  # of a join: beyond it only those that do best are kept, and `Choice.is_exact` says so
SAME = 1e-12
BARGAIN = 0.6  # of what is enough: what costs more, having to follow counted, is not begun with


class Option(Struct, frozen=True):
    """A way to mend, or to leave, one assembly or several.

    `how` : of `METHODS`, where it mends nothing and is done otherwise.
    `chances` that all the work of a condition is inside, by condition; `ratios` of a figure's size, nine
    times in ten, to its tolerance, by piece and figure; `remedies` by assembly.
    """

    money: float
    hours: float
    chances: Mapping[str, float]
    ratios: Mapping[str, float]
    remedies: Mapping[str, str]
    days: float = 0.0
    how: str = ""

    @property
    def worst(self) -> float:
        """The largest figure against its tolerance."""
        return max(self.ratios.values(), default=0.0)

    @property
    def chance(self) -> float:
        """That all of the work is inside."""
        return math.prod(self.chances.values())


class Choice(Struct, frozen=True):
    """Sets of remedies over the whole machine; `is_exact` where none was dropped unbeaten."""

    options: tuple[Option, ...]
    is_exact: bool


def _unbeaten(options: Sequence[Option]) -> list[Option]:
    """Those that no other is as good as in everything; of those alike the first, by money, hours, fewest."""
    ordered = sorted(options, key=lambda o: (o.money, o.hours, len(o.remedies)))
    table = np.array(
        [[o.money, o.hours, o.days, *o.ratios.values(), *(-c for c in o.chances.values())] for o in ordered]
    )
    kept: list[int] = []
    for i, one in enumerate(table):
        if not kept or not np.any(np.all(table[kept] <= one + SAME, axis=1)):
            kept.append(i)
    return [ordered[i] for i in kept]


def joined_options(groups: Sequence[Sequence[Option]]) -> Choice:
    """All sets over the groups that no other beats. A group's figures are its own: chances multiply over
    groups.
    """
    found, is_exact = [Option(0.0, 0.0, {}, {}, {})], True
    for group in groups:
        able = _unbeaten(group)
        if len(able) * len(found) > MOST_OPTIONS:
            is_exact = False
            found = sorted(found, key=_by_use)[: max(1, MOST_OPTIONS // len(able))]
        found = _unbeaten([_both(one, other) for one in found for other in able])
    return Choice(tuple(found), is_exact)


def _by_use(one: Option) -> tuple[float, float, float]:
    return (one.worst, one.money, one.hours)


def _both(one: Option, other: Option) -> Option:
    return Option(
        one.money + other.money,
        one.hours + other.hours,
        {**one.chances, **other.chances},
        {**one.ratios, **other.ratios},
        {**one.remedies, **other.remedies},
        max(one.days, other.days),
    )


def cheapest(options: Sequence[Option], does: Callable[[Option], bool]) -> Option | None:
    """Of those that do the least money, then hours, then fewest remedies, then the first as given; None where
    none does.
    """
    able = [(o.money, o.hours, len(o.remedies), i) for i, o in enumerate(options) if does(o)]
    return options[min(able)[3]] if able else None


def begun_with(options: Sequence[Option], least: Option, hour: float) -> Option | None:
    """What to begin with where a set that is enough is dear: the one that costs least, the dear one counted
    by the chance that it has to follow; None where that saves little.
    """
    worth = least.money + least.hours * hour

    def expected(one: Option) -> float:
        return one.money + one.hours * hour + (1 - one.chance) * worth

    best = min((o for o in options if o.chance > 0), key=expected, default=least)
    return best if best.remedies and expected(best) < BARGAIN * worth else None


def surest(options: Sequence[Option], money: float, hours: float) -> Option | None:
    """Within the means the one whose worst figure is least against its tolerance, of those alike the
    cheapest; None where nothing is within them.
    """
    able = [o for o in options if o.money <= money + 1e-9 and o.hours <= hours + 1e-9]
    return min(able, key=lambda o: (round(o.worst, 9), o.money, o.hours, len(o.remedies)), default=None)


def edge_of(
    options: Sequence[Option], across: Callable[[Option], float], others: Sequence[Option] = ()
) -> list[Option]:
    """The edge between cost and accuracy: each is more accurate than every one that costs less; the first
    mends nothing. `others`, ways that mend nothing, stand among them by their cost and push none off.
    """
    found = [o for o in options if not o.remedies]
    for one in sorted(options, key=lambda o: (across(o), o.worst, o.money, o.hours)):
        if not found or one.worst < found[-1].worst - 1e-9:
            found.append(one)
    return [*found[:1], *sorted([*found[1:], *others], key=across)]
