"""Which measurement would tell two threads apart."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec import Struct

from trebb.core.threads.forms import ThreadSpec
from trebb.core.units import UnitSystem, show_size

LEAST_APART = 1.5  # of a careful reading's scatter: what lies less apart tells nothing


def crest_tolerance(spec: ThreadSpec) -> float:
    """How far below its major diameter a crest may lie new, mm."""
    return max(0.05 * spec.pitch_mm, 0.127)


class Telling(Struct, frozen=True):
    """The one measurement that tells two candidates apart best: what each would give, and how many sd lie
    between.
    """

    key: str
    what: str
    first: float
    second: float
    is_angle: bool
    apart: float

    def words(self, system: UnitSystem, first: str, second: str) -> str:
        """As a sentence; `first` and `second` name the candidates."""

        def shown(value: float) -> str:
            return (
                f"{value:g}" + ("°" if self.is_angle else "")
                if self.is_angle or self.key == "starts"
                else show_size(value, system)
            )

        sure = "it tells them apart" if self.apart > 4 else "it leans one way, no more"
        return f"{self.what}: {shown(self.first)} would be {first}, {shown(self.second)} {second}; {sure}."


# What may be measured next: key, words, what a thread would give, and the scatter of a careful reading.
_MEASURES: tuple[tuple[str, str, float], ...] = (
    ("lead", "Travel of 20 turns", 0.05),
    ("pitch", "Over 20 crests", 0.04),
    ("major", "Major diameter by micrometer, where it never ran in the nut", 0.06),
    ("angle", "Flank angle on a projected shadow", 0.3),
    ("depth", "Depth of the groove", 0.06),
    ("flat", "Width of an unworn crest", 0.05),
    ("starts", "Thread beginnings counted at the screw's end", 0.1),
)


def _would_give(spec: ThreadSpec) -> Mapping[str, float]:
    return {
        "lead": 20 * spec.lead_mm,
        "pitch": 20 * spec.pitch_mm,
        "major": spec.major_mm - 0.5 * crest_tolerance(spec),
        "angle": 2 * math.degrees(spec.form.half_angle),
        "depth": spec.depth_mm,
        "flat": spec.crest_flat_mm,
        "starts": float(spec.starts),
    }


def tell_apart(first: ThreadSpec, second: ThreadSpec, taken: Mapping[str, float | None]) -> Telling | None:
    """The measurement that lies most standard deviations apart for two threads; None where none lies two.
    `taken` is what was read already, by key.
    """
    a, b = _would_give(first), _would_give(second)
    best: Telling | None = None
    for key, what, sd in _MEASURES:
        if key == "starts" and taken.get(key) is not None:
            continue
        apart = min(abs(a[key] - b[key]) / sd, 12.0)
        # What was read already is worth less the second time.
        if taken.get(key) is not None:
            apart *= 0.5
        if apart > LEAST_APART and (best is None or apart > best.apart):
            best = Telling(key, what, a[key], b[key], key == "angle", apart)
    return best
