"""Straightness and twist from levels stepped along ways."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from numpy.typing import ArrayLike, NDArray

from trebb.core.errors import InputError

Vector = NDArray[np.float64]
ARCSEC_MM_M = 1000 * np.pi / (180 * 3600)  # one arc second as mm a metre


class Straightness(Struct, frozen=True):
    """Three figures of one profile, mm; they are three numbers and each has its name.

    `endpoint_total` and `endpoint_most` refer to the line through the first
    and last points (range, largest departure); `least_squares` is the range
    about the least-squares line; `minimum_zone` the narrowest pair of parallel
    lines, the one ISO 1101 asks for and never larger than the others.
    """

    endpoint_total: float
    endpoint_most: float
    least_squares: float
    minimum_zone: float
    slope_mm_m: float


class Twist(Struct, frozen=True):
    """Three figures of the roll along a bed: range (mrad), least-squares rate (mrad a metre), end to end
    (mrad).
    """

    range_mrad: float
    rate_mrad_m: float
    end_to_end_mrad: float


def heights_from_slopes(slopes_mm_m: ArrayLike, base_mm: float) -> Vector:
    """Heights of the points a level was stepped over.

    Parameters
    ----------
    slopes_mm_m : (n,) readings, + advancing end high, the level the same way round at every step.
    base_mm : distance of the level's feet; it is stepped by exactly this.

    Returns
    -------
    (n + 1,) heights in mm, the first nothing. A constant zero error of the
    level tilts all of it and cancels in what departs from a line.

    Raises
    ------
    InputError : no reading, a base that is not positive, a reading that is not a number.

    References
    ----------
    ISO 230-1, straightness by measurement of angles.
    """
    slopes = np.asarray(slopes_mm_m, dtype=float)
    if slopes.ndim != 1 or slopes.size < 1:
        raise InputError("no level reading", "step the level along the ways once at least")
    if not base_mm > 0:
        raise InputError(f"a base of {base_mm:g} mm", "the level's feet stand some distance apart")
    if not np.isfinite(slopes).all():
        raise InputError("a level reading that is not a number", "strike it out and take it again")
    return np.concatenate([[0.0], np.cumsum(slopes * base_mm / 1000)])


def endpoint_residuals(stations_mm: ArrayLike, heights_mm: ArrayLike) -> Vector:
    """Heights above the line through the first and last points, mm."""
    x, h = _profile(stations_mm, heights_mm)
    return np.asarray(h - h[0] - (h[-1] - h[0]) * (x - x[0]) / (x[-1] - x[0]))


def least_squares_residuals(stations_mm: ArrayLike, heights_mm: ArrayLike) -> Vector:
    """Heights above the least-squares line, mm."""
    x, h = _profile(stations_mm, heights_mm)
    slope, at_middle = _line(x, h)
    return np.asarray(h - at_middle - slope * (x - x.mean()))


def minimum_zone(stations_mm: ArrayLike, heights_mm: ArrayLike) -> float:
    """Distance of the narrowest pair of parallel lines that hold the profile, mm along the height.

    For points the best pair always rests on two of them on one side, so trying
    every pair's slope is exact.
    """
    x, h = _profile(stations_mm, heights_mm)
    return float(minimum_zones(h[None, :], x)[0])


def minimum_zones(profiles: Vector, stations_mm: ArrayLike) -> Vector:
    """Minimum zone of each of many profiles at once, (draws, stations) → (draws,): the narrowest pair of
    lines has two points on one of them.
    """
    x = np.asarray(stations_mm, dtype=float)
    heights = np.ascontiguousarray(profiles.T)  # station by station: a maximum over draws is quicker so
    best = np.full(profiles.shape[0], np.inf)
    for i in range(x.size - 1):  # a point with each of those after it at once
        slopes = (heights[i + 1 :] - heights[i]) / (x[i + 1 :] - x[i])[:, None]
        away = heights[:, None, :] - x[:, None, None] * slopes
        best = np.minimum(best, (away.max(axis=0) - away.min(axis=0)).min(axis=0))
    return best


def straightness(stations_mm: ArrayLike, heights_mm: ArrayLike) -> Straightness:
    """The figures of a profile; needs two stations at least, each in another place (InputError)."""
    x, h = _profile(stations_mm, heights_mm)
    ends = endpoint_residuals(x, h)
    return Straightness(
        float(np.ptp(ends)),
        float(np.abs(ends).max()),
        float(np.ptp(least_squares_residuals(x, h))),
        minimum_zone(x, h),
        1000 * _line(x, h)[0],
    )


def twist(stations_mm: ArrayLike, rolls_mrad: ArrayLike) -> Twist:
    """Twist from rolls (mm/m = mrad; + rear way high) at stations; only differences of roll count."""
    x, roll = _profile(stations_mm, rolls_mrad)
    return Twist(float(np.ptp(roll)), 1000 * _line(x, roll)[0], float(roll[-1] - roll[0]))


def level_zero(as_set_mm_m: float, turned_mm_m: float) -> tuple[float, float]:
    """True slope and the level's own zero from one place read both ways round, mm/m."""
    return (as_set_mm_m - turned_mm_m) / 2, (as_set_mm_m + turned_mm_m) / 2


def closing_error(out_mm_m: Sequence[float], back_mm_m: Sequence[float], base_mm: float) -> float:
    """What a run of levels out and back fails to close by, mm: the far end's height out less back. Raises
    InputError for runs of unlike length.

    Both ways over the same places with the level the same way round, so a zero error does not show; a shift
    or drift does.
    """
    if len(out_mm_m) != len(back_mm_m):
        raise InputError(
            f"{len(out_mm_m)} readings out, {len(back_mm_m)} back", "read the same places both ways"
        )
    return float(sum(a - b for a, b in zip(out_mm_m, back_mm_m, strict=True))) * base_mm / 1000


def _profile(x: ArrayLike, y: ArrayLike) -> tuple[Vector, Vector]:
    stations, values = np.asarray(x, dtype=float), np.asarray(y, dtype=float)
    if stations.shape != values.shape or stations.size < 2:
        raise InputError(
            f"{stations.size} stations, {values.size} values", "two stations at least, each with its value"
        )
    if len(set(stations.tolist())) != stations.size:
        raise InputError("two stations at one place", "each station stands somewhere else")
    return stations, values


def _line(x: Vector, y: Vector) -> tuple[float, float]:
    """Slope, and height at the middle."""
    away = x - x.mean()
    return float(away @ y / (away @ away)), float(y.mean())
