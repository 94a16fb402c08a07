"""ISO 286 limits and fits, by the standard's rounded tables.

Ranges are over the lower and up to *and including* the upper size. The
formula of ISO 286-1 departs from the table by up to 6 µm in the small ranges;
the table is followed, and `it_formula_um` is kept to show the difference.
"""

from __future__ import annotations

import math
from bisect import bisect_left

from msgspec import Struct

from trebb.core.errors import InputError

_UPPER = (3, 6, 10, 18, 30, 50, 80, 120)
_IT: dict[int, tuple[int, ...]] = {
    4: (3, 4, 4, 5, 6, 7, 8, 10),
    5: (4, 5, 6, 8, 9, 11, 13, 15),
    6: (6, 8, 9, 11, 13, 16, 19, 22),
    7: (10, 12, 15, 18, 21, 25, 30, 35),
    8: (14, 18, 22, 27, 33, 39, 46, 54),
    9: (25, 30, 36, 43, 52, 62, 74, 87),
    10: (40, 48, 58, 70, 84, 100, 120, 140),
    11: (60, 75, 90, 110, 130, 160, 190, 220),
}
_IT_FACTOR = {5: 7, 6: 10, 7: 16, 8: 25, 9: 40, 10: 64, 11: 100}
# Fundamental deviations of shafts, µm: es of f, g, h; ei of the rest.
_SHAFT: dict[str, tuple[int, ...]] = {
    "f": (-6, -10, -13, -16, -20, -25, -30, -36),
    "g": (-2, -4, -5, -6, -7, -9, -10, -12),
    "h": (0,) * 8,
    "k": (0, 1, 1, 1, 2, 2, 2, 3),
    "m": (2, 4, 6, 7, 8, 9, 11, 13),
    "n": (4, 8, 10, 12, 15, 17, 20, 23),
    "p": (6, 12, 15, 18, 22, 26, 32, 37),
}
# r and s divide the last two ranges again, at 65 and 100 mm.
_FINE_UPPER = (3, 6, 10, 18, 30, 50, 65, 80, 100, 120)
_FINE: dict[str, tuple[int, ...]] = {
    "r": (10, 15, 19, 23, 28, 34, 41, 43, 51, 54),
    "s": (14, 19, 23, 28, 35, 43, 53, 59, 71, 79),
}


class Limits(Struct, frozen=True):
    """Lower and upper deviation from the nominal size, µm."""

    nominal_mm: float
    low_um: float
    high_um: float

    @property
    def low_mm(self) -> float:
        """Smallest size, mm."""
        return self.nominal_mm + self.low_um / 1000

    @property
    def high_mm(self) -> float:
        """Largest size, mm."""
        return self.nominal_mm + self.high_um / 1000


class Fit(Struct, frozen=True):
    """A hole and a shaft of one nominal size. Clearance in µm; negative is interference."""

    hole: Limits
    shaft: Limits

    @property
    def max_clearance_um(self) -> float:
        """Loosest: ES − ei."""
        return self.hole.high_um - self.shaft.low_um

    @property
    def min_clearance_um(self) -> float:
        """Tightest: EI − es."""
        return self.hole.low_um - self.shaft.high_um

    @property
    def mean_clearance_um(self) -> float:
        """Half way between."""
        return (self.max_clearance_um + self.min_clearance_um) / 2

    @property
    def kind(self) -> str:
        """ "clearance", "transition" or "interference"."""
        if self.min_clearance_um >= 0:
            return "clearance"
        return "interference" if self.max_clearance_um <= 0 else "transition"


def _range(size_mm: float, upper: tuple[int, ...] = _UPPER) -> int:
    if not 0 < size_mm <= upper[-1]:
        raise InputError(f"{size_mm:g} mm", f"these tables go from above nothing to {upper[-1]} mm")
    return bisect_left(upper, size_mm)


def it_um(size_mm: float, grade: int) -> int:
    """Standard tolerance IT4 to IT11 of a size, µm. ISO 286-1 table 1.

    Raises InputError for a size above 120 mm or another grade.
    """
    if grade not in _IT:
        raise InputError(f"IT{grade}", "grades here are IT4 to IT11")
    return _IT[grade][_range(size_mm)]


def it_formula_um(size_mm: float, grade: int) -> float:
    """The unrounded formula, i = 0.45·D^(1/3) + 0.001·D, D the range's geometric mean; only to compare with
    the table.
    """
    i = _range(size_mm)
    lower = _UPPER[i - 1] if i else 1
    mean = math.sqrt(lower * _UPPER[i])
    return _IT_FACTOR[grade] * (0.45 * math.cbrt(mean) + 0.001 * mean)


def _ei(size_mm: float, letter: str, grade: int) -> int:
    if letter in _FINE:
        return _FINE[letter][_range(size_mm, _FINE_UPPER)]
    if letter == "k" and not 4 <= grade <= 7:
        return 0
    return _SHAFT[letter][_range(size_mm)]


def _split(zone: str) -> tuple[str, int]:
    letters = zone.rstrip("0123456789")
    digits = zone[len(letters) :]
    if not letters or not digits:
        raise InputError(f"fit “{zone}”", "write a letter and a grade, such as H7 or k6")
    return letters, int(digits)


def shaft_limits(size_mm: float, zone: str) -> Limits:
    """Limits of a shaft such as "k6": f, g, h, js, k, m, n, p, r, s. ISO 286-2. Raises InputError for
    another letter.
    """
    letter, grade = _split(zone)
    width = it_um(size_mm, grade)
    if letter == "js":
        return Limits(size_mm, -width / 2, width / 2)
    if letter in ("f", "g", "h"):
        es = _SHAFT[letter][_range(size_mm)]
        return Limits(size_mm, es - width, es)
    if letter in _SHAFT or letter in _FINE:
        ei = _ei(size_mm, letter, grade)
        return Limits(size_mm, ei, ei + width)
    raise InputError(f"shaft “{zone}”", "letters here are f, g, h, js, k, m, n, p, r and s")


def hole_limits(size_mm: float, zone: str) -> Limits:
    """Limits of a hole such as "H7": H, JS, K, M, N, P. ISO 286-2. Raises InputError for another letter.

    K and N up to IT8, P up to IT7, above 3 mm: ES = −ei + Δ with
    Δ = ITn − IT(n−1). N9 and coarser: ES = 0. Up to 3 mm Δ is nothing.
    """
    letter, grade = _split(zone)
    width = it_um(size_mm, grade)
    if letter == "H":
        return Limits(size_mm, 0, width)
    if letter == "JS":
        return Limits(size_mm, -width / 2, width / 2)
    if letter == "F":
        ei = -_SHAFT["f"][_range(size_mm)]
        return Limits(size_mm, ei, ei + width)
    if letter == "G":
        ei = -_SHAFT["g"][_range(size_mm)]
        return Limits(size_mm, ei, ei + width)
    if letter not in ("K", "M", "N", "P"):
        raise InputError(f"hole “{zone}”", "letters here are F, G, H, JS, K, M, N and P")
    small = size_mm <= 3
    if letter == "N" and grade >= 9 and not small:
        return Limits(size_mm, -width, 0)
    fine = grade <= (7 if letter == "P" else 8)
    delta = it_um(size_mm, grade) - it_um(size_mm, grade - 1) if fine and not small else 0
    # The shaft of the same letter at its basic deviation, whatever the hole's grade: k is that of grades 4
    # to 7.
    ei = _SHAFT[letter.lower()][_range(size_mm)] if fine or letter != "K" else 0
    es = -ei + delta
    return Limits(size_mm, es - width, es)


def fit(size_mm: float, hole: str, shaft: str) -> Fit:
    """A hole and a shaft of one nominal size, such as (25, "H7", "k6")."""
    return Fit(hole_limits(size_mm, hole), shaft_limits(size_mm, shaft))
