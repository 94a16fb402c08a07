"""The largest of several, and what may be nothing at all: a chance that all is sound, and else how much.

A largest reading of several is too high by what scatter makes of equal ones, and
a runout, a straightness, an out-of-round are never nothing where anything
scatters. So nothing has a chance of its own (a spike), the rest a prior as wide
as such faults are (a slab): Mitchell and Beauchamp 1988, "Bayesian variable
selection in linear regression".
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import cache

import numpy as np

from trebb.core.belief.curve import Array, Curve, curve_of, nodes, panels, phi_upper
from trebb.core.condition import Quantity
from trebb.core.condition.normal import hazard

TAIL = 9.0
_STEP = 1e-4  # of the range, for the slope of a chance


def odds_to_chance(log_odds: float) -> float:
    """Chance of what has these log odds."""
    return 1 / (1 + math.exp(-log_odds)) if log_odds > -700 else 0.0


def sound_chance(readings: Sequence[float], noise: float, slab: float, before: float) -> float:
    """Chance that several sizes, none less than nothing, are all nothing, by one reading of each.

    Each is else half-normal of scale `slab`; `before` is the chance of all together. Lengths in one unit.
    """
    if not 0 < before < 1:
        return before
    log = math.log(before / (1 - before))
    wide = math.hypot(slab, noise)
    for y in readings:
        mu, g = _slab(y, noise, slab)
        log += -((y / noise) ** 2) / 2 - math.log(noise)
        log -= math.log(2) - (y / wide) ** 2 / 2 - math.log(wide) + _log_phi(mu / g)
    return odds_to_chance(log)


def _slab(y: float, noise: float, slab: float) -> tuple[float, float]:
    """Mean and sd of a size by its reading, before it is cut at nothing."""
    share = slab**2 / (slab**2 + noise**2)
    return y * share, noise * math.sqrt(share)


def _log_phi(x: float) -> float:
    if x < -30:
        return -x * x / 2 - math.log(math.sqrt(2 * math.pi)) - math.log(hazard(x))
    return math.log(0.5 * math.erfc(-x / math.sqrt(2)))


def largest(readings: Sequence[float], noise: float, slab: float, before: float) -> Curve:
    """The largest of several sizes, none less than nothing, by one reading of each: see `sound_chance`."""
    mus = [_slab(y, noise, slab)[0] for y in readings]
    g = _slab(0.0, noise, slab)[1]
    top = max(*mus, 0.0) + TAIL * g
    edges = panels(0.0, top, [(max(m, 0.0), g) for m in mus])

    def log_density(z: Array) -> Array:
        """Σ of each one's hazard, × the product of all chances to be below."""
        logs, slopes = np.zeros(len(z)), np.zeros(len(z))
        for m in mus:
            whole = math.exp(_log_phi(m / g))
            below = (phi_upper((m - z) / g) - 0.5 * math.erfc(m / g / math.sqrt(2))) / whole
            if m < -6 * g:  # an exponential, of which a difference of tails keeps nothing
                rate = hazard(m / g) / g
                below = -np.expm1(-rate * z - (z / g) ** 2 / 2)
            below = np.maximum(below, 1e-300)
            density = np.exp(-(((z - m) / g) ** 2) / 2 - _log_phi(m / g)) / (g * math.sqrt(2 * math.pi))
            logs += np.log(below)
            slopes += density / below
        return np.asarray(logs + np.log(np.maximum(slopes, 1e-300)))

    return curve_of(log_density, edges, sound_chance(readings, noise, slab, before))


@cache
def too_high(count: int) -> float:
    """By how many of their sd the largest of so many equal readings is too high on average."""
    z, weight = nodes(panels(-TAIL, TAIL, [(0.0, 1.0)]))
    below = 1 - phi_upper(z)
    density = np.exp(-(z**2) / 2) / math.sqrt(2 * math.pi)
    return float(weight @ (z * count * density * below ** (count - 1)))


# Of several alike so many scatter by themselves: the rest of their scatter is one and the same.
LIKELY_APART = 2


def largest_of(each: Sequence[Quantity]) -> Quantity:
    """The largest of several quantities that were read, none less than nothing: of those that are alike the
    largest is too high by what scatter makes of equal ones.
    """
    worst = max(each, key=lambda q: q.value)
    alike = sum(q.value > worst.value - worst.sd for q in each)
    lean = min(worst.value, worst.sd * too_high(min(alike, LIKELY_APART))) if alike > 1 else 0.0
    return Quantity(worst.value - lean, worst.sd, max(0.0, worst.low - lean), worst.high - lean)


def straightness_of_noise(steps: int) -> float:
    """What a perfectly straight way shows on average, in the sd of one step's reading: the range about its
    end points, 2/√(2π) Σ √((n − k)/(k n)) (Spitzer's identity, for a bridge). A straightness read below this
    is none.
    """
    n = steps
    return 2 / math.sqrt(2 * math.pi) * math.fsum(math.sqrt((n - k) / (k * n)) for k in range(1, n))
