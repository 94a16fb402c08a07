"""What one figure bounds another by, and readings at odds.

A play read by push and pull is part of the whole lash, wear is not more than the
thread is deep, what is left is not less than nothing. Where such a bound was
unlikely before it was laid on, the readings contradict each other: that is said,
and nothing is cut.
"""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from trebb.core.belief.curve import Array, Curve, between, curve_of, nodes, panels, phi_upper

TAIL = 9.0
NAMED = 0.95  # chance of a slip from which two readings at odds are named
CONTRADICTION = 0.01  # chance of the bounds below which they are no bounds but a contradiction
_ROOT = math.sqrt(2 * math.pi)


class Bounded(Struct, frozen=True):
    """Two figures with what is left between them once bounds are laid on: x and y; y − x where they are
    ordered; the chance that the bounds held before.
    """

    x: Curve
    y: Curve
    rest: Curve | None
    chance: float

    @property
    def is_contradiction(self) -> bool:
        """Whether the readings deny the bounds."""
        return self.chance < CONTRADICTION


def at_least_nothing(mean: float, sd: float) -> Curve:
    """A figure that cannot be less than nothing. In its own unit."""
    top = max(mean, 0.0) + TAIL * sd
    return curve_of(
        lambda x: -(((x - mean) / sd) ** 2) / 2, panels(0.0, top, [(mean, sd), (0.0, _decay(mean, sd))])
    )


def _decay(mean: float, sd: float) -> float:
    """Over how much a normal cut off far from its mean falls by a factor."""
    return min(sd, sd * sd / max(-mean, 1e-12 * sd))


def part_of(
    x: tuple[float, float], y: tuple[float, float], correlation: float = 0.0, *, is_positive: bool = False
) -> Bounded:
    """A part x that is not more than the whole y, each a mean and sd, with what they share as a correlation;
    `is_positive`: and not less than nothing.
    """
    (mx, sx), (my, sy) = x, y
    r = correlation
    slope_x, left_x = r * sy / sx, sy * math.sqrt(1 - r * r)  # y by x
    slope_y, left_y = r * sx / sy, sx * math.sqrt(1 - r * r)  # x by y

    def log_x(at: Array) -> Array:
        above = phi_upper((at - (my + slope_x * (at - mx))) / left_x)
        return np.asarray(-(((at - mx) / sx) ** 2) / 2 + np.log(np.maximum(above, 1e-300)))

    def log_y(at: Array) -> Array:
        middle = mx + slope_y * (at - my)
        below = phi_upper((middle - at) / left_y)
        if is_positive:
            below = between((0 - middle) / left_y, (at - middle) / left_y) * (at > 0)
        return np.asarray(-(((at - my) / sy) ** 2) / 2 + np.log(np.maximum(below, 1e-300)))

    low_x, high_x = min(mx, my) - TAIL * (sx + sy), max(mx, my) + TAIL * (sx + sy)
    turns = [(mx, sx), (my, sy), (mx, left_y), (my, left_x)]
    low = 0.0 if is_positive else low_x
    found_x = curve_of(log_x, panels(low, high_x, [*turns, (low, sx)]))
    found_y = curve_of(log_y, panels(low, high_x, [*turns, (low, sy)]))
    x_at, weight = nodes(panels(low, high_x, turns))
    chance = float(weight @ np.exp(log_x(x_at))) / (sx * _ROOT)
    rest = None
    if not is_positive:
        spread = math.sqrt(sx * sx + sy * sy - 2 * r * sx * sy)
        rest = at_least_nothing(my - mx, spread)
    return Bounded(found_x, found_y, rest, chance)


class AtOdds(Struct, frozen=True):
    """Two readings of one thing: chance of so much between them if both are right, how much likelier a slip
    makes it, chance that one slipped, and from how far apart that is said.
    """

    p_value: float
    factor: float
    chance: float
    named_from: float

    @property
    def is_named(self) -> bool:
        """Whether they contradict each other."""
        return self.chance > NAMED


def at_odds(one: tuple[float, float], other: tuple[float, float], slip: float, slip_size: float) -> AtOdds:
    """Whether two readings of one thing, each a mean and sd, contradict each other.

    `slip` is the chance of a slip in either, `slip_size` the spread (sd) of what a slip makes. A Bayes factor
    N(d; 0, v + S²)/N(d; 0, v) with prior odds 2p/(1 − p). In one unit.
    """
    d = one[0] - other[0]
    v = one[1] ** 2 + other[1] ** 2
    wide = v + slip_size**2
    log_factor = d * d / 2 * (1 / v - 1 / wide) - math.log(wide / v) / 2
    prior = 2 * slip / (1 - slip)
    log_odds = log_factor + math.log(prior)
    chance = 1 / (1 + math.exp(-log_odds)) if log_odds > -700 else 0.0
    needed = math.log(NAMED / (1 - NAMED)) - math.log(prior) + math.log(wide / v) / 2
    apart = math.sqrt(max(0.0, 2 * v * wide / slip_size**2 * needed))
    return AtOdds(math.erfc(abs(d) / math.sqrt(2 * v)), math.exp(min(log_factor, 700.0)), chance, apart)
