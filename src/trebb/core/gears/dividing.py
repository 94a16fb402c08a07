"""Dividing by worm head and plates in exact fractions, or by a plate direct; what is nearest where none is
exact. And index plates: what their holes leave at the work.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from fractions import Fraction

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError

# Plates as dividing heads come with them; a shop's own go before.
CIRCLES = (15, 16, 17, 18, 19, 20, 21, 23, 27, 29, 31, 33, 37, 39, 41, 43, 47, 49)
ARCSEC = 180 * 3600 / math.pi


class Setting(Struct, frozen=True):
    """Whole turns, then so many holes of a circle; circle 0: whole turns only."""

    whole: int
    circle: int
    holes: int

    @property
    def words(self) -> str:
        """As one says it at the head."""
        if not self.circle:
            return f"{self.whole} whole turns"
        turns = f"{self.whole} turn{'s' if self.whole > 1 else ''} and " if self.whole else ""
        return f"{turns}{self.holes} holes of the {self.circle} circle"


def turns_per_division(divisions: int, ratio: int = 40) -> Fraction:
    """Turns of the crank for one division, exact. Raises InputError for fewer than two divisions."""
    if divisions < 2:
        raise InputError(f"{divisions} divisions", "two or more")
    return Fraction(ratio, divisions)


def exact_settings(divisions: int, ratio: int = 40, circles: Sequence[int] = CIRCLES) -> tuple[Setting, ...]:
    """Every circle that comes out whole, smallest first; one of whole turns where it needs no hole."""
    turns = turns_per_division(divisions, ratio)
    whole = turns.numerator // turns.denominator
    rest = turns - whole
    if rest == 0:
        return (Setting(whole, 0, 0),)
    return tuple(
        Setting(whole, circle, int(rest * circle))
        for circle in sorted(set(circles))
        if (rest * circle).denominator == 1
    )


class Nearest(Struct, frozen=True):
    """One step repeated where none is exact: turns counted in holes, its error and what it adds up to, "."""

    circle: int
    holes: int
    step_arcsec: float
    closing_arcsec: float

    @property
    def setting(self) -> Setting:
        """The same as whole turns and holes."""
        return Setting(self.holes // self.circle, self.circle, self.holes % self.circle)


def nearest_setting(divisions: int, ratio: int = 40, circles: Sequence[int] = CIRCLES) -> Nearest:
    """The single step of least error, the smaller circle where two are alike; its error adds up all round and
    the last space takes all of it.
    """
    turns = turns_per_division(divisions, ratio)

    def off(circle: int) -> Fraction:
        return Fraction(round(turns * circle), circle) - turns

    best = min(sorted(set(circles)), key=lambda c: (abs(off(c)), c))
    step = float(off(best)) * 360 * 3600 / ratio
    return Nearest(best, round(turns * best), step, step * divisions)


class Rounded(Struct, frozen=True):
    """Each division to its own nearest hole: circle, worst error at the work ("), and the holes of each."""

    circle: int
    worst_arcsec: float
    settings: tuple[Setting, ...]


def rounded_settings(divisions: int, ratio: int = 40, circles: Sequence[int] = CIRCLES) -> Rounded:
    """Every division rounded afresh, k q/N: never more than half a hole, and nothing adds up."""
    turns = turns_per_division(divisions, ratio)

    def worst(circle: int) -> Fraction:
        return max(abs(Fraction(round(k * turns * circle), circle) - k * turns) for k in range(divisions))

    best = min(sorted(set(circles)), key=lambda c: (worst(c), c))
    settings = []
    before = 0
    for k in range(1, divisions + 1):
        holes = round(k * turns * best)
        settings.append(Setting((holes - before) // best, best, (holes - before) % best))
        before = holes
    return Rounded(best, float(worst(best)) * 360 * 3600 / ratio, tuple(settings))


def arc_mm(arcsec: float, radius_mm: float) -> float:
    """Arc that an angle makes at a radius: 1″ at 100 mm is 0.485 µm."""
    return arcsec / ARCSEC * radius_mm


def angle_arcsec(arc: float, radius_mm: float) -> float:
    """Angle of an arc at a radius. Raises InputError for no radius. The arc in mm."""
    if radius_mm <= 0:
        raise InputError(f"a radius of {radius_mm:g} mm", "more than nothing")
    return arc / radius_mm * ARCSEC


def pin_play_arcsec(clearance_mm: float, circle_radius_mm: float, ratio: float = 1.0) -> float:
    """What a loose detent lets the work turn, both ways together: c/(r q); ratio 1 for a direct plate."""
    return angle_arcsec(clearance_mm, circle_radius_mm) / ratio


def off_centre_arcsec(off_mm: float, circle_radius_mm: float, ratio: float = 1.0) -> float:
    """Worst position error of a plate off centre, each way, once a turn: e/(r q)."""
    return angle_arcsec(off_mm, circle_radius_mm) / ratio


def off_centre_space_arcsec(off_mm: float, circle_radius_mm: float, divisions: int) -> float:
    """Worst space between neighbours of such a plate, direct: 2 (e/r) sin(180°/N)."""
    return 2 * angle_arcsec(off_mm, circle_radius_mm) * math.sin(math.pi / divisions)


class PlateRead(Struct, frozen=True):
    """Position errors of all its holes, ″, evenly spaced: what is off centre, what is the plate's own."""

    total: float
    worst_space: float
    once: complex
    total_if_centred: float

    def off_centre_mm(self, circle_radius_mm: float) -> float:
        """How far off centre it stands by that."""
        return abs(self.once) / ARCSEC * circle_radius_mm


def plate_read(errors_arcsec: Sequence[float]) -> PlateRead:
    """Split a plate's errors. Raises InputError for fewer than four holes."""
    e = np.asarray(errors_arcsec, dtype=float)
    if len(e) < 4:
        raise InputError(f"{len(e)} holes", "four or more, all round, to tell it from being off centre")
    at = np.exp(2j * np.pi * np.arange(len(e)) / len(e))
    once = complex(2 / len(e) * np.sum(e * at))
    left = e - e.mean() - (once * np.conj(at)).real
    steps = np.abs(np.diff(np.concatenate([e, e[:1]])))
    return PlateRead(float(e.max() - e.min()), float(steps.max()), once, float(left.max() - left.min()))


def direct_step(divisions: int, holes: int) -> int:
    """Holes from stop to stop of a plate used direct. Raises InputError where it does not close."""
    if holes < divisions or holes % divisions:
        other = [
            n for n in range(holes - holes % divisions, holes + divisions + 1, divisions) if n >= divisions
        ]
        raise InputError(
            f"{divisions} divisions on {holes} holes",
            f"it does not close: {' or '.join(str(n) for n in other[:2] or [divisions])} holes would",
        )
    return holes // divisions
