"""Fasteners' threads by name: Unified coarse and fine with the number sizes, ISO metric coarse and fine,
Whitworth and British fine. What is measured over its crests and over ten pitches is ranked among them.

Sizes: ASME B1.1, ISO 261 and 262, BS 84. Lengths mm, angles in degrees, included.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from functools import cache

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.units import INCH_MM

# A bolt's crests stand under its name by about this and its spread; ten pitches by caliper are known to this.
UNDER_MM, UNDER_SD_MM, PITCH_SD_MM = 0.07, 0.07, 0.012
ROOM_MM = 0.3  # that a thread passes a hole with
MOST_SD = 4.0  # what is further off than this is no thread of that name

_NUMBERS = {2: 0.086, 3: 0.099, 4: 0.112, 5: 0.125, 6: 0.138, 8: 0.164, 10: 0.190, 12: 0.216}
_UNC = {2: 56, 3: 48, 4: 40, 5: 40, 6: 32, 8: 32, 10: 24, 12: 24}
_UNF = {2: 64, 3: 56, 4: 48, 5: 44, 6: 40, 8: 36, 10: 32, 12: 28}
_INCH_UNC = {
    "1/4": 20,
    "5/16": 18,
    "3/8": 16,
    "7/16": 14,
    "1/2": 13,
    "9/16": 12,
    "5/8": 11,
    "3/4": 10,
    "7/8": 9,
    "1": 8,
}
_INCH_UNF = {
    "1/4": 28,
    "5/16": 24,
    "3/8": 24,
    "7/16": 20,
    "1/2": 20,
    "9/16": 18,
    "5/8": 18,
    "3/4": 16,
    "7/8": 14,
    "1": 12,
}
_BSW = {
    "1/8": 40,
    "3/16": 24,
    "1/4": 20,
    "5/16": 18,
    "3/8": 16,
    "7/16": 14,
    "1/2": 12,
    "9/16": 12,
    "5/8": 11,
    "3/4": 10,
    "7/8": 9,
    "1": 8,
}
_BSF = {
    "3/16": 32,
    "1/4": 26,
    "5/16": 22,
    "3/8": 20,
    "7/16": 18,
    "1/2": 16,
    "9/16": 16,
    "5/8": 14,
    "3/4": 12,
    "7/8": 11,
    "1": 10,
}
_METRIC = {
    2: (0.4,), 2.5: (0.45,), 3: (0.5,), 4: (0.7, 0.5), 5: (0.8, 0.5), 6: (1.0, 0.75), 8: (1.25, 1.0),
    10: (1.5, 1.25, 1.0), 12: (1.75, 1.5, 1.25), 14: (2.0, 1.5), 16: (2.0, 1.5), 18: (2.5, 1.5),
    20: (2.5, 1.5), 22: (2.5, 1.5), 24: (3.0, 2.0),
}  # fmt: skip


class Fastener(Struct, frozen=True):
    """A fastener's thread: its name, major and pitch (mm), included angle (degrees)."""

    name: str
    major_mm: float
    pitch_mm: float
    angle_deg: float

    @property
    def is_inch(self) -> bool:
        """Whether it is called in inches."""
        return not self.name.startswith("M")

    @property
    def minor_mm(self) -> float:
        """The screw's root by ISO 68-1 and ASME B1.1 alike: D - 1.2269 P."""
        return self.major_mm - 1.2269 * self.pitch_mm

    @property
    def tap_mm(self) -> float:
        """Tapping drill: D - P."""
        return self.major_mm - self.pitch_mm


def _inches(text: str) -> float:
    top, _, under = text.partition("/")
    return float(top) / float(under or 1) * INCH_MM


@cache
def fasteners() -> tuple[Fastener, ...]:
    """Every thread known here."""
    found = []
    for words, numbers, sizes in (("UNC", _UNC, _INCH_UNC), ("UNF", _UNF, _INCH_UNF)):
        found += [
            Fastener(f"No. {n}-{tpi} {words}", _NUMBERS[n] * INCH_MM, INCH_MM / tpi, 60)
            for n, tpi in numbers.items()
        ]
        found += [Fastener(f"{d}-{tpi} {words}", _inches(d), INCH_MM / tpi, 60) for d, tpi in sizes.items()]
    for words, sizes in (("BSW", _BSW), ("BSF", _BSF)):
        found += [Fastener(f"{d}-{tpi} {words}", _inches(d), INCH_MM / tpi, 55) for d, tpi in sizes.items()]
    for d, pitches in _METRIC.items():
        for i, p in enumerate(pitches):
            found.append(Fastener(f"M{d:g}" if i == 0 else f"M{d:g} × {p:g}", float(d), p, 60))
    return tuple(found)


def fastener(name: str) -> Fastener:
    """A thread by its name. Raises InputError where it is none of those known here."""
    found = next((f for f in fasteners() if f.name == name), None)
    if found is None:
        raise InputError(f"thread “{name}”", "a usual one, as M8 or 1/4-20 UNC")
    return found


def largest_under(threads: Mapping[str, Fastener], under_mm: float, *, inch: bool) -> str | None:
    """Key of the largest of some threads that passes a hole with some room; None where none does."""
    fits = [k for k, t in threads.items() if t.is_inch == inch and t.major_mm <= under_mm - ROOM_MM]
    return max(fits, key=lambda k: threads[k].major_mm, default=None)


def name_fastener(
    major_mm: float, pitch_mm: float, angle_deg: float | None = None, most: int = 3
) -> list[tuple[Fastener, float]]:
    """What it could be, likeliest first, with likelihoods that sum to one over all of them.

    Empty where nothing comes near.

    Parameters
    ----------
    major_mm : over crests that are not battered. pitch_mm : a tenth of ten pitches.
    angle_deg : 55 or 60 where a gauge was tried, else None.

    Raises
    ------
    InputError : a size that is not more than nothing.
    """
    for name, value in (("over its crests", major_mm), ("pitch", pitch_mm)):
        if not value > 0:
            raise InputError(f"{name}: {value:g} mm", "more than nothing")
    scored = []
    for f in fasteners():
        off = ((f.pitch_mm - pitch_mm) / PITCH_SD_MM, (f.major_mm - UNDER_MM - major_mm) / UNDER_SD_MM)
        if max(map(abs, off)) <= MOST_SD and (angle_deg is None or abs(f.angle_deg - angle_deg) < 2):
            scored.append((f, math.exp(-0.5 * sum(x * x for x in off))))
    total = sum(w for _, w in scored)
    ranked = sorted(((f, w / total) for f, w in scored), key=lambda fw: -fw[1])
    return ranked[:most]


# Threads at the end of a part and screws that hold one, by the key that a job keeps.
LISTED: dict[str, Fastener] = {
    key: fastener(name)
    for key, name in {
        "m4": "M4", "m5": "M5", "m6": "M6", "m8": "M8", "m10": "M10", "m12": "M12", "m16": "M16",
        "m20": "M20",
        "no8_32": "No. 8-32 UNC", "no10_24": "No. 10-24 UNC", "no10_32": "No. 10-32 UNF",
        "1_4_20": "1/4-20 UNC", "5_16_18": "5/16-18 UNC", "3_8_16": "3/8-16 UNC", "1_2_13": "1/2-13 UNC",
        "5_8_11": "5/8-11 UNC",
    }.items()
}  # fmt: skip
SCREWS = {key: t.name for key, t in LISTED.items()}


def cap_head_mm(key: str) -> tuple[float, float]:
    """Diameter and height of a socket cap screw's head: ISO 4762, ASME B18.3, to the millimetre above."""
    d = LISTED[key].major_mm
    inch = "-" in LISTED[key].name
    return (1.5 * d if inch else float(math.ceil(1.5 * d + 0.5))), d
