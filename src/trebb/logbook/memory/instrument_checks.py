"""An instrument checked on a block: what it resolves, how it repeats, how far going up and going down differ,
how far it is from the block.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.logbook.memory.shop import InstrumentChecked

LEAST_EACH_WAY = 3
MOST_MM = 500.0
ROUNDED = 1 / math.sqrt(12)


class Check(Struct, frozen=True):
    """What a check came to, mm: the step its readings move in, its repeatability (sd), its hysteresis (mean
    going down less mean going up), how far the mean of all is from the block; and what all of that makes one
    reading uncertain by, sd.
    """

    name: str
    kind: str
    block_mm: float
    step_mm: float
    repeat_mm: float
    hysteresis_mm: float
    off_mm: float
    count: int

    @property
    def reading_sd_mm(self) -> float:
        """Of one reading, sd: repeatability, half the hysteresis either way with equal chances (÷ √3), and
        the last digit as far as the repeats do not hold it (GUM, rectangular: step/√12).
        """
        digit = max(self.step_mm * ROUNDED, 0.0)
        return math.sqrt(max(self.repeat_mm, digit) ** 2 + (abs(self.hysteresis_mm) / 2) ** 2 / 3)


def step_of(values: Sequence[float]) -> float:
    """The step that readings move in: the smallest difference between two unlike ones; 0 where all are
    alike.
    """
    ordered = sorted(set(values))
    apart = [b - a for a, b in pairwise(ordered) if b - a > 1e-7]
    return min(apart, default=0.0)


def check_of(checked: InstrumentChecked) -> Check:
    """What a check came to."""
    up, down = checked.up, checked.down
    every = [*up, *down]
    mean_up, mean_down = sum(up) / len(up), sum(down) / len(down)
    squares = sum((v - mean_up) ** 2 for v in up) + sum((v - mean_down) ** 2 for v in down)
    degrees = max(len(every) - 2, 1)
    return Check(
        checked.name,
        checked.kind_of,
        checked.block_mm,
        step_of(every),
        math.sqrt(squares / degrees),
        mean_down - mean_up,
        sum(every) / len(every) - checked.block_mm,
        len(every),
    )


def admitted_check(
    name: str, kind: str, block_mm: float, up: Sequence[float], down: Sequence[float]
) -> InstrumentChecked:
    """The entry of a check; raises InputError saying what is missing."""
    if not name.strip():
        raise InputError("an instrument without a name", "name it, such as “indicator with the red dot”")
    for way, values in (("up", up), ("down", down)):
        if len(values) < LEAST_EACH_WAY:
            raise InputError(
                f"{len(values)} readings going {way}",
                f"at least {LEAST_EACH_WAY} each way; ten in all tell more",
            )
        if any(not math.isfinite(v) or abs(v) > MOST_MM for v in values):
            raise InputError(f"a reading going {way}", f"of a block, from nothing to {MOST_MM:g} mm")
    return InstrumentChecked(
        name=name.strip()[:200], kind_of=kind, block_mm=block_mm, up=list(up), down=list(down)
    )
