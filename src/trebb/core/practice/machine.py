"""A machine whose condition is known, but not told."""

from __future__ import annotations

import zlib
from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import force_setattr, replace

from trebb.core.condition import Change, ErrorModel, simulate
from trebb.core.practice.lies import Lying
from trebb.core.survey import AnySetUp
from trebb.core.survey.contact import COLUMNS, ROWS

BLUE_MM = 0.010  # a film of blue bridges about this


SURE = 0.9  # of a cell that bears


def _rubbed(rng: np.random.Generator, bears: Callable[[float, float], bool]) -> frozenset[int]:
    """Cells that take blue: those that bear, and few others; height and length as shares from 0 to 1."""
    return frozenset(
        r * COLUMNS + c
        for r in range(ROWS)
        for c in range(COLUMNS)
        if rng.random() < (SURE if bears((r + 0.5) / ROWS, (c + 0.5) / COLUMNS) else 1 - SURE)
    )


class PracticeMachine(Struct, frozen=True):
    """A simulated machine, or an assembly of one.

    The same seed, set-up, place and count always give the same reading, so a
    job taken twice agrees with itself. `lies` are what is amiss with how it is read.
    """

    subject: Any
    model: ErrorModel
    condition: Mapping[str, float]
    seed: int
    lies: tuple[Lying, ...] = ()

    def __post_init__(self) -> None:
        # A condition of before a source was known has nothing of it.
        whole = {**{s.key: 0.0 for s in self.model.sources}, **self.condition}
        force_setattr(self, "condition", whole)

    def _rng(self, name: str) -> np.random.Generator:
        return np.random.default_rng(zlib.crc32(f"{self.seed}/{name}".encode()))

    def exact(self, set_up: AnySetUp, place: str, count: int = 0) -> float:
        """The raw reading before its instrument rounds it, in the set-up's unit."""
        rng = self._rng(f"{set_up.key}/{place}/{count}")
        at_work = [one for one in self.lies if one.touches(set_up.key)]
        condition = dict(self.condition)
        for one in at_work:
            for key, by in one.lie.shift(self.subject, one.amount).items():
                condition[key] = condition.get(key, 0.0) + by
        value = float(simulate([set_up.row(self.subject, place)], condition, rng)[0])
        if set_up.stir is not None:
            value += set_up.stir(
                self.subject, condition, place, lambda name: self._rng(f"{set_up.key}/{name}")
            )
        if not set_up.is_signed and not set_up.is_size:
            value = max(value, 0.0)
        raw = set_up.restore(self.subject, place, value)
        for one in at_work:
            raw = one.lie.raw(self.subject, raw, one.amount)
        return raw

    def reading(self, set_up: AnySetUp, place: str, count: int) -> float:
        """The `count`-th raw reading at a place, in the set-up's unit, rounded to its instrument's step."""
        raw = self.exact(set_up, place, count)
        step = 0.5 if set_up.unit == "div" else set_up.resolution_mm
        return round(raw / step) * step

    def contact(self) -> frozenset[int]:
        """Where marking blue rubs: on a simulated gib where its gap is smallest; on a tooth toward its
        tip, the
        wider its lash; on a friction cone at the end whose angle meets first; on a taper all over, unless its
        seat scatters: that one is worn free at its mouth.
        """
        rng = self._rng("contact")
        if "lash" in self.condition:
            high = min(0.45, max(0.0, self.condition["lash"]))  # mm of lash for shares of the height
            return _rubbed(rng, lambda r, c: 0.15 < c < 0.85 and abs(r - 0.5 + high) < 0.35)
        if "cone.big" in self.condition:
            slope = [
                (self.condition[f"{p}.big"] - self.condition[f"{p}.small"]) / self.condition[f"{p}.apart"]
                for p in ("cone", "cup")
            ]
            lean = 40.0 * (slope[0] - slope[1])  # of the whole height
            return _rubbed(rng, lambda r, c: (r if lean > 0 else 1 - r) < max(0.2, 1 - abs(lean)))
        if "gap.thin" in self.condition:
            thin, thick = self.condition["gap.thin"], self.condition["gap.thick"]
            off = [
                (thin + (thick - thin) * (c + 0.5) / COLUMNS - min(thin, thick)) / BLUE_MM
                for c in range(COLUMNS)
            ]
            return frozenset(
                r * COLUMNS + c
                for r in range(ROWS)
                for c in range(COLUMNS)
                if rng.random() < max(0.04, 0.85 * (1 - off[c]))
            )
        worn = min(1.0, max(0.0, (self.condition.get("seat", 0.0) - 0.0015) / 0.003))
        free_rows = round(worn * 0.65 * ROWS)
        sure = 0.92 - 0.12 * worn
        return frozenset(
            r * COLUMNS + c
            for r in range(ROWS)
            for c in range(COLUMNS)
            if r >= free_rows and rng.random() < sure
        )

    def repaired(self, change: Change) -> PracticeMachine:
        """The machine after a change was really made, with the scatter that making has."""
        rng = np.random.default_rng(self.seed + 7)
        after = change.apply_to(self.condition, self.model, rng)
        return replace(self, condition=after, seed=self.seed + 1)
