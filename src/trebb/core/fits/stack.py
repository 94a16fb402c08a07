"""A stack of faces and widths: what a spacer or a shoulder must measure, from several readings of each."""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence

from msgspec import Struct

from trebb.core.errors import InputError


class StackItem(Struct, frozen=True):
    """A face-to-face width with its readings, mm; `side` +1 adds to the room, −1 takes from it. `bought_mm`
    ± of a bought part's width.
    """

    label: str
    readings_mm: tuple[float, ...]
    side: int
    bought_mm: float = 0.0

    @property
    def mean_mm(self) -> float:
        return statistics.fmean(self.readings_mm)

    @property
    def half_range_mm(self) -> float:
        """Half of what its readings spread, not less than the bought part's tolerance."""
        return max((max(self.readings_mm) - min(self.readings_mm)) / 2, self.bought_mm)

    @property
    def sd_mm(self) -> float:
        """Doubt of the mean, sd: from the readings' scatter, or a bought part's tolerance as three sd."""
        n = len(self.readings_mm)
        spread = statistics.stdev(self.readings_mm) / math.sqrt(n) if n > 1 else self.bought_mm / 3
        return math.hypot(spread, self.bought_mm / 3)


class Stack(Struct, frozen=True):
    """What is left for the part that closes the stack, mm.

    `left_mm` by the means; `worst_low_mm`, `worst_high_mm` with every width at
    its end; `statistical_mm` the ± that 95 % of assemblies stay within;
    `make_mm` what to make it, so that even the worst case still leaves a facing cut.
    """

    left_mm: float
    worst_low_mm: float
    worst_high_mm: float
    statistical_mm: float
    make_mm: float
    facing_mm: float


def stack_up(items: Sequence[StackItem], wanted_float_mm: float, *, step_mm: float = 0.05) -> Stack:
    """Sum a stack.

    Parameters
    ----------
    wanted_float_mm : end float to be left, + ; preload is negative.
    step_mm : what one would call the size to; `make_mm` is rounded *up* to it, so that the last fit is a
        facing cut.

    Raises InputError where a width was not read, or nothing is left.
    """
    for item in items:
        if not item.readings_mm:
            raise InputError(f"{item.label}: not read", "read each face at three places")
    left = sum(item.side * item.mean_mm for item in items) - wanted_float_mm
    worst = sum(item.half_range_mm for item in items)
    if left + worst <= 0:
        raise InputError(
            f"a stack that leaves {left:.3f} mm", "a width is missing or counted on the wrong side"
        )
    statistical = 1.96 * math.sqrt(sum(item.sd_mm**2 for item in items))
    make = math.ceil((left + worst) / step_mm - 1e-9) * step_mm
    return Stack(left, left - worst, left + worst, statistical, make, make - left)
