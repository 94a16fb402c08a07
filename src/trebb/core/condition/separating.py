"""Which sources the readings so far cannot tell apart."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import combinations

from msgspec import Struct

from trebb.core.condition.estimating import Estimate, Quantity
from trebb.core.condition.fixing import is_fixed

# A sum counts as known apart from its parts when its variance is under a quarter of what it
# would be were the parts independent: the parts then owe most of their doubt to each other.
TANGLED_SHARE = 0.25
MOST_PARTS = 5


class Tangle(Struct, frozen=True):
    """Parts known only together; `total` is the sum that the readings do fix."""

    keys: tuple[str, ...]
    total: Quantity


def tangles(
    now: Estimate, parts: Mapping[str, Mapping[str, float]], doubt: float, sum_doubt: float | None = None
) -> list[Tangle]:
    """Smallest groups of parts whose readings fix the sum but not the parts.

    Parameters
    ----------
    parts : what is to be told apart, each a combination of sources by key.
    doubt : standard deviation (mm) below which a part counts as known.
    sum_doubt : the same for a sum that counts as fixed; `doubt` if not given.
    """
    wide = {key: q for key in parts if (q := now.combination(parts[key])).sd > doubt}
    found: list[Tangle] = []
    for size in range(2, min(len(wide), MOST_PARTS) + 1):
        for group in combinations(wide, size):
            if any(set(known.keys) <= set(group) for known in found):
                continue
            total = now.combination(_sum([parts[key] for key in group]))
            if total.sd**2 < TANGLED_SHARE * sum(wide[key].sd ** 2 for key in group) and is_fixed(
                total, doubt if sum_doubt is None else sum_doubt
            ):
                found.append(Tangle(group, total))
    return found


def _sum(combined: Sequence[Mapping[str, float]]) -> dict[str, float]:
    result: dict[str, float] = {}
    for coefficients in combined:
        for key, value in coefficients.items():
            result[key] = result.get(key, 0.0) + value
    return result
