"""A machine whose condition is known, but not told."""

from __future__ import annotations

import zlib
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from trebb.core.condition import Change, simulate
from trebb.core.machine import ScrewDrive, drive_model
from trebb.core.survey import SetUp


@dataclass(frozen=True)
class PracticeMachine:
    """A simulated machine.

    The same seed, set-up, place and count always give the same reading, so a
    job taken twice agrees with itself.
    """

    drive: ScrewDrive
    condition: Mapping[str, float]
    seed: int

    def reading(self, set_up: SetUp, place: str, count: int) -> float:
        """The `count`-th raw reading at a place, in the set-up's unit, rounded to its instrument's step."""
        name = f"{self.seed}/{set_up.key}/{place}/{count}"
        rng = np.random.default_rng(zlib.crc32(name.encode()))
        row = set_up.row(self.drive, place)
        value = float(simulate([row], self.condition, rng)[0])
        raw = set_up.restore(self.drive, place, max(value, 0.0))
        step = 0.5 if set_up.unit == "div" else set_up.resolution_mm
        return round(raw / step) * step

    def repaired(self, change: Change) -> PracticeMachine:
        """The machine after a change was really made, with the scatter that making has."""
        rng = np.random.default_rng(self.seed + 7)
        after = change.apply_to(self.condition, drive_model(self.drive), rng)
        return replace(self, condition=after, seed=self.seed + 1)
