"""Does the seat repeat? Its scatter as a variance component from repeated seatings."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from trebb.core.condition import Row
from trebb.core.machine import Spindle
from trebb.core.machine.spindle import LEAN_MM
from trebb.core.survey.base import PlaceReadings
from trebb.core.survey.test_bar import plane_mm, seating_of
from trebb.core.survey.turning import by_group, seen_noise, turn_of

GRID = np.geomspace(0.0001, 0.12, 48)
# What seats of old machines do, before this one is tried; and what else may move the vectors.
USUAL_MM, USUAL_SD_MM = 0.0015, 0.0035
SPINDLE_SD, SPINDLE_LEAN_SD = math.hypot(0.0070, 0.0035), math.hypot(0.0040, 0.0015)
BAR_SD, BAR_LEAN_SD = 0.0025, 0.0012
LEAST_ANGLES = 5


@dataclass(frozen=True)
class SeatScatter:
    """Scatter of the seat: sd of eccentricity at the mouth on each axis, mm.

    `low_mm` is above 10 % of what it may be; `seatings` how many were read,
    `between_mm` the largest change of runout (TIR) seen between two of them at
    the far plane, the bar's own turning taken out.
    """

    mean_mm: float
    sd_mm: float
    low_mm: float
    high_mm: float
    seatings: int
    between_mm: float

    def typical_tir(self, spindle: Spindle, z_mm: float) -> float:
        """Runout that a seating typically adds at z: mean length of a scattered vector, twice."""
        return 2 * math.sqrt(math.pi / 2) * self.mean_mm * spindle.seat_spread(z_mm)


NOT_TRIED = SeatScatter(USUAL_MM, USUAL_SD_MM, 0.0, USUAL_MM + 2 * USUAL_SD_MM, 0, 0.0)


def seat_scatter(spindle: Spindle, taken: Sequence[PlaceReadings]) -> SeatScatter:
    """The scatter that the seatings show, by its likelihood over a grid.

    Each turn gives a vector V = spindle(z) + R(φ)·bar(z) + seat(z) + noise. With
    spindle and bar normal about nothing, the vectors of all turns are jointly
    normal for each trial scatter; the trials are weighed by that likelihood
    and by what seats usually do. Turning the bar is so taken out by itself.
    """
    groups = by_group(taken)
    noise = seen_noise(groups)
    turns = [
        (seating_of(g), t)
        for g, points in groups.items()
        if len(points) >= LEAST_ANGLES and (t := turn_of(points)) is not None
    ]
    numbers = sorted({seat[0] for seat, _ in turns})
    if not turns:
        return NOT_TRIED
    n = 2 * len(turns)
    values, cov, fixed, moved = (
        np.zeros(n),
        np.zeros((n, n)),
        np.zeros((n, 8)),
        np.zeros((n, 4 * len(numbers))),
    )
    for i, ((number, index, plane), turn) in enumerate(turns):
        at = slice(2 * i, 2 * i + 2)
        z = plane_mm(spindle, plane)
        values[at] = turn.vectors[0].real, turn.vectors[0].imag
        cov[at, at] = noise**2 * turn.covariance[1:3, 1:3]
        c, s = math.cos(math.radians(index)), math.sin(math.radians(index))
        turned = np.array([[c, -s], [s, c]])
        fixed[at] = np.hstack(
            [
                np.eye(2) * SPINDLE_SD,
                np.eye(2) * SPINDLE_LEAN_SD * z / LEAN_MM,
                turned * BAR_SD,
                turned * BAR_LEAN_SD * z / LEAN_MM,
            ]
        )
        k = 4 * numbers.index(number)
        moved[at, k : k + 4] = np.hstack([np.eye(2), np.eye(2) * z / spindle.seat_length_mm])
    base = cov + fixed @ fixed.T
    scatter = moved @ moved.T
    log_weight = _log_likelihoods(base, scatter, values)
    log_weight += -0.5 * ((GRID - USUAL_MM) / USUAL_SD_MM) ** 2 * (1 if len(numbers) < 2 else 0.25) + np.log(
        GRID
    )
    weight = np.exp(log_weight - log_weight.max())
    weight /= weight.sum()
    mean = float(weight @ GRID)
    sd = math.sqrt(max(float(weight @ (GRID - mean) ** 2), 1e-10))
    summed = np.cumsum(weight)
    low, high = (float(GRID[min(int(np.searchsorted(summed, q)), len(GRID) - 1)]) for q in (0.10, 0.975))
    return SeatScatter(mean, sd, low, high, len(numbers), _between(spindle, turns, base, moved, mean, values))


def _log_likelihoods(base: np.ndarray, scatter: np.ndarray, values: np.ndarray) -> np.ndarray:
    """Of each trial: one factoring serves all. In base's own frame the scatter is diagonal, Λ, and C =
    L·U·(1 + σ²Λ)·Uᵀ·Lᵀ.
    """
    factor = np.linalg.cholesky(base)
    half = np.linalg.solve(factor, scatter)
    share, frame = np.linalg.eigh(np.linalg.solve(factor, half.T))
    z = frame.T @ np.linalg.solve(factor, values)
    scale = 1 + np.outer(GRID**2, np.maximum(share, 0.0))
    return np.asarray(-0.5 * (z**2 / scale).sum(axis=1) - 0.5 * np.log(scale).sum(axis=1))


def _between(
    spindle: Spindle,
    turns: Sequence[tuple[tuple[int, float, str], object]],
    base: np.ndarray,
    moved: np.ndarray,
    sigma: float,
    values: np.ndarray,
) -> float:
    """Largest difference of two seatings' own shift at the far plane, as runout."""
    seats = sigma**2 * moved.T @ np.linalg.solve(base + sigma**2 * moved @ moved.T, values)
    lean = spindle.far_mm / spindle.seat_length_mm
    at_far = [complex(s[0] + lean * s[2], s[1] + lean * s[3]) for s in seats.reshape(-1, 4)]
    return max((2 * abs(a - b) for a in at_far for b in at_far), default=0.0)


def seat_information(spindle: Spindle, scatter: SeatScatter) -> tuple[Row, ...]:
    """What one more seating would tell of the seat's scatter.

    A standard deviation found from f free differences is known to itself / √(2f);
    a seating after the first gives four: shift and tilt, each in two directions.
    What the first seating gives is nothing of the scatter.
    """
    if scatter.seatings < 1:
        return ()
    single = math.hypot(max(scatter.mean_mm, 0.0005), 0.0013)
    return (Row({"seat": 1.0}, single / math.sqrt(2 * 4)),)


def with_scatter(spindle: Spindle, scatter: SeatScatter) -> Spindle:
    """The spindle with its seat as found."""
    return replace(spindle, seat_mm=scatter.mean_mm, seat_sd_mm=max(scatter.sd_mm, 1e-4))
