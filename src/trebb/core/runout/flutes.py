"""A cutter's or reamer's flutes read in their holder: off centre, or the flutes' own. Readings + larger."""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError


class FlutesRead(Struct, frozen=True):
    """Edges against the nominal radius, the readings' unit: off centre as a vector toward the far side, what
    is left of each flute; `sd` of the vector by what is left, 0 where nothing is.
    """

    readings: tuple[float, ...]
    mean: float
    once: complex
    own: tuple[float, ...]
    sd: float
    freedom: int

    @property
    def off_centre(self) -> float:
        """How far the tool turns off its own axis."""
        return abs(self.once)

    @property
    def direction_deg(self) -> float:
        """Flute angle of the far side."""
        return math.degrees(cmath.phase(self.once)) % 360

    @property
    def own_spread(self) -> float:
        """Most less least of what is left. In mm."""
        return max(self.own) - min(self.own)

    @property
    def tir(self) -> float:
        """Most less least of the edges. In mm."""
        return max(self.readings) - min(self.readings)

    @property
    def can_tell(self) -> bool:
        """More than three flutes: mean and off centre take three numbers."""
        return len(self.readings) > 3

    @property
    def oversize(self) -> float:
        """Of the hole a rigid cutter makes: twice the largest edge. In mm."""
        return 2 * max(self.readings)


def read_flutes(angles_deg: Sequence[float], readings: Sequence[float]) -> FlutesRead:
    """Split by least squares over the flutes' true angles: reamers stand unequally. Raises InputError for
    fewer than two flutes, or two at one angle. In mm.
    """
    n = len(angles_deg)
    if n < 2 or len({round(a % 360, 3) for a in angles_deg}) < n:
        raise InputError(f"{n} flutes", "two or more, each at its own angle")
    theta = np.radians(np.asarray(angles_deg, dtype=float))
    y = np.asarray(readings, dtype=float)
    design = np.stack([np.ones(n), np.cos(theta), np.sin(theta)], axis=1)
    found, *_ = np.linalg.lstsq(design, y, rcond=None)
    own = y - design @ found
    freedom = max(0, n - 3)
    spread = float(np.sqrt(np.diag(np.linalg.pinv(design.T @ design))[1:].max()))
    sd = float(np.sqrt(own @ own / freedom)) * spread if freedom else 0.0
    return FlutesRead(
        tuple(float(v) for v in y),
        float(found[0]),
        complex(found[1], found[2]),
        tuple(float(v) for v in own),
        sd,
        freedom,
    )


def over_two_flutes(angles_deg: Sequence[float], readings_mm: Sequence[float], dia_mm: float) -> float:
    """The largest that a micrometer over two opposite flutes reads; being off centre does not show in it.
    Raises InputError where no two stand opposite. In mm.
    """
    found = [
        dia_mm + readings_mm[i] + readings_mm[j]
        for i, a in enumerate(angles_deg)
        for j, b in enumerate(angles_deg)
        if i < j and abs((b - a) % 360 - 180) < 0.5
    ]
    if not found:
        raise InputError(f"{len(angles_deg)} flutes", "no two stand opposite: read it over a vee, or turning")
    return max(found)


def chips(readings: Sequence[float], feed_per_tooth: float) -> tuple[float, ...]:
    """Thickness of each flute's chip, in the order they pass: the least over the flutes before it of m f + y
    − y_before; nothing where it only rubs. In mm.
    """
    n = len(readings)
    return tuple(
        max(0.0, min(m * feed_per_tooth + readings[j] - readings[(j - m) % n] for m in range(1, n + 1)))
        for j in range(n)
    )
