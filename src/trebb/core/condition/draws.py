"""Conditions that the readings allow, drawn: for figures that are not linear in the sources."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import cache

import numpy as np
from numpy.typing import NDArray

from trebb.core.condition.estimating import Estimate, Quantity

DRAWS = 2000
Array = NDArray[np.float64]


@cache
def _normal_draws(count: int) -> Array:
    return np.random.default_rng(20).standard_normal((DRAWS, count))


def draw(now: Estimate) -> dict[str, Array]:
    """Conditions that the readings allow: DRAWS values of each source, clearances never negative. The same
    each time.
    """
    values, vectors = np.linalg.eigh(now.covariance)
    spread = vectors * np.sqrt(np.maximum(values, 0.0))
    all_ = now.mean + _normal_draws(len(now.model.sources)) @ spread.T
    return {
        s.key: np.maximum(all_[:, i], 0.0) if s.is_clearance else all_[:, i]
        for i, s in enumerate(now.model.sources)
    }


def combined(drawn: Mapping[str, Array], coefficients: Mapping[str, float]) -> Array:
    """A combination of sources, one value a draw."""
    return np.asarray(sum((c * drawn[key] for key, c in coefficients.items()), np.zeros(1)))


def quantity(values: Array) -> Quantity:
    """Median of draws, sd and 95 % interval."""
    low, middle, high = quantiles(values, (0.025, 0.5, 0.975))
    return Quantity(middle, float(values.std()), low, high)


def quantiles(values: Array, shares: Sequence[float]) -> list[float]:
    """Quantiles by straight lines between the ordered values, as NumPy's own by default, which at its first
    use loads a fifth of NumPy more.
    """
    ordered = np.sort(values, axis=None)
    at = np.asarray(shares) * (len(ordered) - 1)
    low = np.floor(at).astype(int)
    high = np.minimum(low + 1, len(ordered) - 1)
    return [float(v) for v in ordered[low] + (at - low) * (ordered[high] - ordered[low])]
