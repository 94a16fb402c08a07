"""What one figure bounds another by, and readings at odds.

A play read by push and pull is part of the whole lash, wear is not more than the
thread is deep, what is left is not less than nothing. Where such a bound was
unlikely before it was laid on, the readings contradict each other: that is said,
and nothing is cut.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.condition.normal import upper_normal

NAMED = 0.95  # chance of a slip from which two readings at odds are named
CONTRADICTION = 0.01  # chance of the bounds below which they are no bounds but a contradiction


def denied(part: tuple[float, float], whole: tuple[float, float], correlation: float = 0.0) -> bool:
    """Whether readings deny that a part is not more than its whole, each a mean and sd, with what they share
    as a correlation: the chance that it held was less than one in a hundred.
    """
    spread = part[1] ** 2 + whole[1] ** 2 - 2 * correlation * part[1] * whole[1]
    return upper_normal((part[0] - whole[0]) / math.sqrt(spread)) < CONTRADICTION


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
