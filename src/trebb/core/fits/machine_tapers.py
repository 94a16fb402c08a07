"""Tapers by their number: Morse, Jarno and the steep ones, and how they are set and measured.

Inch per foot, in; angles in degrees. Other series run about half an inch to the
foot: measure the taper and look it up, nothing is taken for granted here.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError

# ASME B5.10: taper per foot; large end at the gauge line; small end of the plug, and its depth, in.
_MORSE = {
    0: (0.62460, 0.3561, 0.2520, 2.0), 1: (0.59858, 0.4750, 0.3690, 2.125), 2: (0.59941, 0.7, 0.5720, 2.5625),
    3: (0.60235, 0.9380, 0.7780, 3.1875), 4: (0.62326, 1.2310, 1.0200, 4.0625),
    5: (0.63151, 1.7480, 1.4750, 5.1875), 6: (0.62565, 2.4940, 2.1160, 7.25),
}  # fmt: skip
# ISO 296: diameter at the gauge line, mm.
_MORSE_MM = {0: 9.045, 1: 12.065, 2: 17.780, 3: 23.825, 4: 31.267, 5: 44.399, 6: 63.348}
JARNO_PER_FOOT, STEEP_PER_FOOT = 0.600, 3.500
COLLET_DEG = 16 + 51 / 60  # included, of the drawn-in mill collet


class MachineTaper(Struct, frozen=True):
    """One taper: inch per foot, large and small end and the length between, in."""

    per_foot: float
    large_in: float
    small_in: float
    length_in: float


def morse(number: int) -> MachineTaper:
    """A Morse taper by ASME B5.10. Raises InputError for a number over 6."""
    if number not in _MORSE:
        raise InputError(f"Morse taper {number}", "numbers are 0 to 6")
    return MachineTaper(*_MORSE[number])


def jarno(number: int) -> MachineTaper:
    """A Jarno taper: N/8, N/10 and N/2 in."""
    return MachineTaper(JARNO_PER_FOOT, number / 8, number / 10, number / 2)


def dia_at(per_foot: float, large_in: float, distance_in: float) -> float:
    """Diameter at an axial distance toward the small end, in. `per_foot` in inches on diameter."""
    return large_in - per_foot / 12 * distance_in


def included_deg(per_foot: float) -> float:
    """Included angle, degrees."""
    return 2 * half_deg(per_foot)


def half_deg(per_foot: float) -> float:
    """What a compound is set to, from the spindle's axis, degrees."""
    return math.degrees(math.atan(per_foot / 24))


def sine_bar_in(per_foot: float, length_in: float) -> float:
    """Height under a sine bar for the whole angle, the part on one side of its taper, in. `per_foot` in
    inches on diameter.
    """
    return length_in * math.sin(math.radians(included_deg(per_foot)))


def ratio_of(per_foot: float) -> float:
    """1 in so many, on diameter. `per_foot` in inches on diameter; the ratio without unit."""
    return 12 / per_foot
