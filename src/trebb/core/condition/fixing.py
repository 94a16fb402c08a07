"""What readings alone fix, as against what is merely expected.

All of it is asked of an estimate of the loosened model (`ErrorModel.loosened`),
which expects next to nothing: what is known there was read.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import combinations

import numpy as np
from msgspec import Struct

from trebb.core.condition.estimating import Estimate, Quantity, ReadingsOnly
from trebb.core.condition.model import variances_of

# A combination was touched when readings took more than half of its sd away.
TOUCHED_SHARE = 0.5
# What a half normal keeps of the sd of the normal that it is cut from: √(1 − 2/π).
HALF_NORMAL = 0.603
# A sum is fixed to this share of itself, or to the doubt that does not matter.
FIXED_SHARE = 0.15


class Fixed(Struct, frozen=True):
    """The part of a sum that is fixed: its value, the keys of the parts in it, and of those that nothing
    tells of.
    """

    value: Quantity
    keys: tuple[str, ...]
    unread: tuple[str, ...]


def is_touched(alone: ReadingsOnly, coefficients: Mapping[str, float], share: float = TOUCHED_SHARE) -> bool:
    """Whether any reading tells something of a combination of sources. Coefficients without unit."""
    return narrows(alone, coefficients, share)


def narrows(alone: Estimate, coefficients: Mapping[str, float], share: float = TOUCHED_SHARE) -> bool:
    """Whether an estimate knows a combination of sources better than its model expects it: to less than a
    share of that doubt. Coefficients without unit.
    """
    model = alone.model
    at = [model.position(key) for key in coefficients]
    if len(at) == 1:  # asked most
        (i,), (weight,) = at, coefficients.values()
        usual = model.prior_covariance[i, i] * (HALF_NORMAL**2 if model.bounded[i] else 1.0)
        return bool(weight and alone.covariance[i, i] < share**2 * usual)
    vector = np.array(list(coefficients.values()))
    cut = vector * np.where(model.bounded[at], HALF_NORMAL, 1.0)
    before = cut @ model.prior_covariance[at][:, at] @ cut
    now = vector @ alone.covariance[at][:, at] @ vector
    return bool(now < share**2 * before)


def are_touched(alone: ReadingsOnly, combinations: Sequence[Mapping[str, float]]) -> list[bool]:
    """The same of several combinations at once. Coefficients without unit."""
    model = alone.model
    vectors = np.array([model.vector(coefficients) for coefficients in combinations])
    before = variances_of(vectors * np.where(model.bounded, HALF_NORMAL, 1.0), model.prior_covariance)
    found: list[bool] = (variances_of(vectors, alone.covariance) < TOUCHED_SHARE**2 * before).tolist()
    return found


def is_read(alone: ReadingsOnly, coefficients: Mapping[str, float], limit_mm: float) -> bool:
    """Whether readings tell of a combination to what its limit asks at all: touched, and known to the limit
    itself or to a share of the value.
    """
    return is_touched(alone, coefficients) and is_fixed(alone.combination(coefficients), limit_mm)


def is_fixed(value: Quantity, doubt: float) -> bool:
    """Whether a value is known to a doubt (sd) that does not matter, or to a share of itself."""
    return value.sd <= max(doubt, FIXED_SHARE * abs(value.value))


def fixed_sum(alone: ReadingsOnly, parts: Mapping[str, Mapping[str, float]], doubt: float) -> Fixed | None:
    """The largest part of a sum of clearances that readings fix; None where they fix none.

    Parts are combinations of sources that cannot be less than nothing, so that
    what is fixed is the least that the whole can be.

    Parameters
    ----------
    doubt : sd (mm) below which a sum counts as fixed.
    """
    best: Fixed | None = None
    for size in range(len(parts), 0, -1):
        for keys in combinations(parts, size):
            summed: dict[str, float] = {}
            for key in keys:
                for source, share in parts[key].items():
                    summed[source] = summed.get(source, 0.0) + share
            value = alone.combination(summed)
            if is_fixed(value, doubt) and (best is None or value.low > best.value.low):
                best = Fixed(value, keys, tuple(k for k in parts if k not in keys))
        if best is not None and size == len(parts):
            return best
    return best
