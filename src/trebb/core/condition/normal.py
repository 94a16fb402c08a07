"""The normal distribution cut off below, in plain Python: SciPy's takes a fifth of a second to load."""

from __future__ import annotations

import math
from statistics import NormalDist

_STANDARD = NormalDist()
# Below this the ratio φ/Φ is taken from its asymptotic series, before Φ underflows.
DEEP_TAIL = -12.0


def upper_normal(x: float) -> float:
    """Share of a standard normal above x."""
    return 0.5 * math.erfc(x / math.sqrt(2))


def hazard(alpha: float) -> float:
    """φ(α) / Φ(α), stable for very negative α. Without unit."""
    if alpha < DEEP_TAIL:
        return -alpha - 1 / alpha + 2 / alpha**3
    return math.exp(-alpha * alpha / 2) / (math.sqrt(2 * math.pi) * upper_normal(-alpha))


def truncated_moments(mean: float, sd: float, low: float) -> tuple[float, float]:
    """Mean and variance of a normal cut off below `low`. In one unit, the variance in its square."""
    alpha = (mean - low) / sd
    ratio = hazard(alpha)
    return mean + sd * ratio, max(sd * sd * (1 - ratio * (alpha + ratio)), 1e-12 * sd * sd)


def truncated_quantile(mean: float, sd: float, low: float, probability: float) -> float:
    """The value below which `probability` of a normal cut off at `low` lies. All in one unit."""
    alpha = (mean - low) / sd
    if alpha < -7:  # what is left of the tail is an exponential
        return low - math.log1p(-probability) * sd / hazard(alpha)
    cut = _STANDARD.cdf(-alpha)
    inside = cut + probability * (1 - cut)
    return max(low, mean + sd * _STANDARD.inv_cdf(min(max(inside, 1e-300), 1 - 1e-16)))
