"""What gauges say of a bore's shape: size, oval, taper, barrel, wear, and what it takes to clean it up.

Diameters in mm over directions of a half turn; radii over a whole one. A
two-point gauge shows even lobes four times over and is blind to odd ones; three
anvils at 120° the other way about.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError

if TYPE_CHECKING:
    from numpy.typing import NDArray


class Section(Struct, frozen=True):
    """One depth by a two-point gauge, mm; `long_deg` the direction of the larger diameter, 0 to 180."""

    mean_mm: float
    spread_mm: float
    oval_mm: float
    long_deg: float


def section(angles_deg: Sequence[float], diameters_mm: Sequence[float]) -> Section:
    """Mean, spread and fitted ovality of a depth: D = D0 + B cos 2(θ - ψ).

    Two directions give a spread only, and the direction of the larger: B is then
    half their difference. Raises InputError for none.
    """
    if not diameters_mm:
        raise InputError("no diameter", "read a depth in two directions or more, better four")
    d = np.asarray(diameters_mm, float)
    theta = 2 * np.radians(np.asarray(angles_deg, float))
    if len(d) < 3:
        wide = float(angles_deg[int(np.argmax(d))]) % 180
        return Section(float(d.mean()), float(np.ptp(d)), float(np.ptp(d)), wide)
    design = np.column_stack((np.ones_like(theta), np.cos(theta), np.sin(theta)))
    mean, x, y = np.linalg.lstsq(design, d, rcond=None)[0]
    return Section(
        float(d.mean()) if _is_even(angles_deg) else float(mean),
        float(np.ptp(d)),
        2 * math.hypot(x, y),
        math.degrees(math.atan2(y, x)) / 2 % 180,
    )


def _is_even(angles_deg: Sequence[float]) -> bool:
    steps = np.diff(np.sort(np.asarray(angles_deg, float)))
    return bool(len(steps)) and bool(np.allclose(steps, 180 / len(angles_deg)))


def taper_per_mm(depths_mm: Sequence[float], means_mm: Sequence[float]) -> float:
    """Least-squares slope of the mean diameters over depth, mm per mm on diameter; + is wider inside. Raises
    InputError for one depth.
    """
    if len(depths_mm) < 2:
        raise InputError("one depth", "two or more show a taper")
    return float(np.polyfit(np.asarray(depths_mm, float), np.asarray(means_mm, float), 1)[0])


def barrel_mm(depths_mm: Sequence[float], means_mm: Sequence[float]) -> float:
    """Mean diameter at half depth less that of the ends, mm; + is wide in the middle, - bell-mouthed."""
    z, d = np.asarray(depths_mm, float), np.asarray(means_mm, float)
    order = np.argsort(z)
    z, d = z[order], d[order]
    return float(np.interp((z[0] + z[-1]) / 2, z, d) - (d[0] + d[-1]) / 2)


def wear_mm(largest_mm: float, unworn_mm: float) -> float:
    """On diameter: half of it a side where both sides wore alike, the whole where one side did."""
    return largest_mm - unworn_mm


def gauge_swing(lobes: int, amplitude: float, points: int) -> float:
    """What a gauge of 2 or 3 points shows of lobes of the radius: 4 × amplitude, or nothing. In mm."""
    if points == 2:
        return 4 * amplitude if lobes % 2 == 0 else 0.0
    return 4 * amplitude if lobes % 3 == 0 else 0.0


class Radii(Struct, frozen=True):
    """One depth by an indicator turned about an axis, in the readings' unit."""

    centre: complex
    form: float
    three_lobes: float


def radii(angles_deg: Sequence[float], readings: Sequence[float]) -> Radii:
    """Off-centre, form error (after mean and first harmonic) and three-lobe amplitude of a whole turn. In
    mm.
    """
    theta = np.radians(np.asarray(angles_deg, float))
    r = np.asarray(readings, float)
    design = np.column_stack((np.ones_like(theta), np.cos(theta), np.sin(theta)))
    found = np.linalg.lstsq(design, r, rcond=None)[0]
    rest = r - design @ found
    three = 2 / len(r) * np.sum(r * np.exp(3j * theta))
    return Radii(complex(found[1], found[2]), float(np.ptp(rest)), float(abs(three)))


class CleanUp(Struct, frozen=True):
    """What a bore is opened to so that no old surface stays, mm: about the old axis, and about its own
    centre, which lies off the old axis by `moves`.
    """

    about_axis_mm: float
    own_centre_mm: float
    moves_mm: complex

    @property
    def saved_mm(self) -> float:
        """Metal that its own centre saves, on diameter."""
        return self.about_axis_mm - self.own_centre_mm


def clean_up(angles_deg: Sequence[float], radii_mm: Sequence[float]) -> CleanUp:
    """By radii from the old axis at *all* depths together: the smallest circle round every point."""
    theta = np.radians(np.asarray(angles_deg, float))
    points = np.asarray(radii_mm, float) * np.exp(1j * theta)
    centre, radius = smallest_circle(points)
    return CleanUp(2 * float(np.max(np.abs(points))), 2 * radius, centre)


def smallest_circle(points: NDArray[np.complex128]) -> tuple[complex, float]:
    """Centre and radius of the smallest circle round all points: pairs and triples of the
    outermost. In mm.
    """
    outer = _hull(points)
    best: tuple[float, complex] | None = None
    tried = [_of_two(a, b) for a, b in combinations(outer, 2)]
    tried += [c for c in (_of_three(*t) for t in combinations(outer, 3)) if c is not None]
    for centre, radius in sorted(tried, key=lambda c: c[1]):
        if np.all(np.abs(outer - centre) <= radius * (1 + 1e-12) + 1e-12):
            best = (radius, centre)
            break
    if best is None:
        return complex(points[0]), 0.0
    return best[1], best[0]


def _hull(points: NDArray[np.complex128]) -> NDArray[np.complex128]:
    """Points that can touch: the convex hull, or all of few."""
    if len(points) < 8:
        return points
    from scipy.spatial import ConvexHull, QhullError

    try:
        hull = ConvexHull(np.column_stack((points.real, points.imag)))
    except QhullError:
        return points
    return points[hull.vertices]


def _of_two(a: complex, b: complex) -> tuple[complex, float]:
    return (a + b) / 2, abs(a - b) / 2


def _of_three(a: complex, b: complex, c: complex) -> tuple[complex, float] | None:
    w = (c - a) / (b - a) if b != a else 0
    if abs(complex(w).imag) < 1e-15:
        return None
    centre = (b - a) * (w - abs(w) ** 2) / (2j * complex(w).imag) + a
    return complex(centre), abs(a - centre)
