"""How a shop reads: needles coarser than the simulators' own, and slips of the hand."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field

import numpy as np

THOU = 0.0254
# Read to by whom: places where nothing else is used.
NOT_ROUNDED = ("which_thread",)


@dataclass
class Bench:
    """What is read with: a step in mm, 0 for the simulators' own; in how many jobs a reading slips, and which
    slipped, by set-up and place.
    """

    step_mm: float = 0.0
    slips: float = 0.0
    seed: int = 0
    slipped: list[tuple[int, str, str]] = field(default_factory=list)

    def read(self, job: object, set_up: str, place: str, values: list[float], unit: str) -> list[float]:
        """Values as they are written down."""
        if unit == "mm" and self.step_mm and set_up not in NOT_ROUNDED:
            values = [round(v / self.step_mm) * self.step_mm for v in values]
        if len(values) > 2 and self.slips:
            rng = np.random.default_rng(
                (self.seed, len(self.slipped), hash_of(set_up + place), int(1e5 * values[0]))
            )
            if rng.random() < self.slips:
                at = int(rng.integers(len(values)))
                turn = 125.0 if unit == "div" else 2.54
                values = list(values)
                values[at] = {
                    0: values[at] + turn,
                    1: values[at] * 10,
                    2: values[at] * 25.4,
                    3: values[at] + 12 * (self.step_mm or 0.0254),
                }[int(rng.integers(4))]
                self.slipped.append((id(job), set_up, place))
        return values


def hash_of(words: str) -> int:
    """The same number for the same words on any day."""
    return sum(ord(c) * 31**i for i, c in enumerate(words[:40])) % (2**31)


BENCH = Bench()


@contextmanager
def reading(*, step_mm: float = 0.0, slips: float = 0.0) -> Iterator[Bench]:
    """All jobs typed meanwhile are read so."""
    before = Bench(BENCH.step_mm, BENCH.slips)
    BENCH.step_mm, BENCH.slips, BENCH.slipped = step_mm, slips, []
    try:
        yield BENCH
    finally:
        BENCH.step_mm, BENCH.slips = before.step_mm, before.slips
