"""Which of several listed things was measured, or none of them: with miscounts, and an honest "none".

A length over so many turns may have been one turn more or less; what no list
holds is even over a box of pitch, size and angle, so that few measurements leave
it more. The best of a short list can be nearly certain and fit nothing: so its
fit has to pass by itself.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

from msgspec import Struct

from trebb.core.condition.normal import upper_normal

# Sure: so likely against all else, and what was measured lies no further off than this chance.
SURE, LEAST_FIT = 0.99, 0.01
_ROOT = math.sqrt(2 * math.pi)


class Listed(Struct, frozen=True):
    """One of the list: sizes by what is measured of it (a length over turns by its pitch), and how often it
    is met beside the others.
    """

    name: str
    sizes: Mapping[str, float]
    share: float = 1.0


class Measured(Struct, frozen=True):
    """What was measured: values with their sd by name; `over` the length over `turns` counted, with the
    chance that one was lost or counted twice.
    """

    values: Mapping[str, tuple[float, float]]
    over: tuple[float, float]
    turns: int
    miscount: float


class Chances(Struct, frozen=True):
    """How likely each is ("" what no list holds), how many turns the likeliest of the list needs, and how
    well that one fits by itself.
    """

    by_name: Mapping[str, float]
    count: int
    p_value: float

    @property
    def order(self) -> list[str]:
        """Names, likeliest first."""
        return sorted(self.by_name, key=lambda name: -self.by_name[name])

    @property
    def is_sure(self) -> bool:
        """Whether nothing else is within the measuring: never of what no list holds."""
        best = self.order[0]
        return is_sure(self.by_name[best], self.p_value) and best != ""


def is_sure(chance: float, p_value: float) -> bool:
    """Whether one is certain enough against all others, and fits what was measured at all."""
    return chance > SURE and p_value > LEAST_FIT


def fit_p_value(squares: float, freedom: int) -> float:
    """Chance of a sum of so many squared normal deviations as large as this one: χ², by its closed forms
    (Abramowitz and Stegun 26.4.4, 26.4.5).
    """
    if freedom <= 0:
        return 1.0
    half = squares / 2
    if freedom % 2 == 0:
        term, total = 1.0, 1.0
        for k in range(1, freedom // 2):
            term *= half / k
            total += term
        return math.exp(-half) * total
    root = math.sqrt(squares)
    term, total = root, 0.0
    for k in range(3, freedom + 2, 2):
        total += term
        term *= squares / k
    return min(1.0, 2 * upper_normal(root) + 2 / _ROOT * math.exp(-half) * total)


def counts(turns: int, miscount: float) -> dict[int, float]:
    """How many turns there may have been where so many were counted, each with its chance."""
    return {turns: 1 - miscount, turns - 1: miscount / 2, turns + 1: miscount / 2}


def _density(value: float, expected: float, sd: float) -> float:
    return math.exp(-(((value - expected) / sd) ** 2) / 2) / (sd * _ROOT)


def chances(
    listed: Sequence[Listed], measured: Measured, unlisted: float, box: Mapping[str, tuple[float, float]]
) -> Chances:
    """How likely each of a list is, and that it is none of them.

    Parameters
    ----------
    listed : their sizes by the names in `measured.values`, and "pitch".
    unlisted : the chance beforehand that no list holds it; then it is even over `box`, by the same names.
    """
    total = sum(one.share for one in listed)
    over, sd = measured.over
    by_name: dict[str, float] = {}
    for one in listed:
        likelihood = sum(
            p * _density(over, n * one.sizes["pitch"], sd)
            for n, p in counts(measured.turns, measured.miscount).items()
        )
        for name, (value, own) in measured.values.items():
            likelihood *= _density(value, one.sizes[name], own)
        by_name[one.name] = (1 - unlisted) * one.share / total * likelihood
    free = unlisted * sum(
        p / n * _even(over / n, sd / n, *box["pitch"])
        for n, p in counts(measured.turns, measured.miscount).items()
    )
    for name, (value, own) in measured.values.items():
        free *= _even(value, own, *box[name])
    by_name[""] = free
    whole = sum(by_name.values()) or 1.0
    best = max(listed, key=lambda one: by_name[one.name])
    count = max(
        counts(measured.turns, measured.miscount).items(),
        key=lambda c: c[1] * _density(over, c[0] * best.sizes["pitch"], sd),
    )[0]
    squares = ((over - count * best.sizes["pitch"]) / sd) ** 2
    squares += sum(((v - best.sizes[name]) / own) ** 2 for name, (v, own) in measured.values.items())
    p_value = fit_p_value(squares, 1 + len(measured.values))
    return Chances({name: p / whole for name, p in by_name.items()}, count, p_value)


def _even(value: float, sd: float, low: float, high: float) -> float:
    """Density of a value read off what is even between two ends."""
    return (upper_normal((low - value) / sd) - upper_normal((high - value) / sd)) / (high - low)
