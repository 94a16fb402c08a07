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
    sound: bool = False
    slipped: list[tuple[int, str, str]] = field(default_factory=list)
    typed: list[int] = field(default_factory=list)

    def read(self, job: object, set_up: str, place: str, values: list[float], unit: str) -> list[float]:
        """Values as they are written down."""
        if unit == "mm" and self.step_mm and set_up not in NOT_ROUNDED:
            values = [round(v / self.step_mm) * self.step_mm for v in values]
        if len(values) > 2 and self.slips:
            self.typed.append(id(job))
            rng = np.random.default_rng((len(self.typed), hash_of(set_up + place), int(1e5 * abs(values[0]))))
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


def is_sound(seed: int) -> bool:
    """Whether nothing is wrong with a machine of this number: every other, where half are sound."""
    return BENCH.sound and seed % 2 == 0


@contextmanager
def reading(*, step_mm: float = 0.0, slips: float = 0.0, sound: bool = False) -> Iterator[Bench]:
    """All jobs typed meanwhile are read so: to a step, with slips in a share of the places that are repeated,
    half of the machines with nothing wrong.
    """
    before = (BENCH.step_mm, BENCH.slips, BENCH.sound)
    BENCH.step_mm, BENCH.slips, BENCH.sound, BENCH.slipped, BENCH.typed = step_mm, slips, sound, [], []
    try:
        yield BENCH
    finally:
        BENCH.step_mm, BENCH.slips, BENCH.sound = before
