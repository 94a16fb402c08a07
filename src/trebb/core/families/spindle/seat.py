"""Does the seat repeat? Its scatter as a variance component from repeated seatings."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from trebb.core.condition import Row
from trebb.core.families.spindle.subject import BAR_LEAN_SD, BAR_SD, LEAN_MM, Spindle
from trebb.core.families.spindle.test_bar import plane_mm, seating_of
from trebb.core.runout import Turn
from trebb.core.survey.base import PlaceReadings
from trebb.core.survey.turns import by_group, coarsest, seen_noise, turn_of

GRID = np.geomspace(0.0001, 0.12, 48)
# What seats of old machines do, before this one is tried (a Student's t: a few are bad without bound).
USUAL_MM, USUAL_SD_MM, USUAL_FREEDOM = 0.0015, 0.0035, 4.0
# Spindle and taper may stand anywhere: only what differs between seatings tells of the seat.
ANYWHERE_SD = 2.0
# A bar may be bent: its error is a Student's t of four degrees, as a mixture of scales (weight w² e^−2w at
# scale 1/√w, on steps of √2).
BAR_SCALES = tuple(2.0 ** (k / 2) for k in range(9))
LEAST_ANGLES = 5


class SeatScatter(Struct, frozen=True):
    """Scatter of the seat: sd of eccentricity at the mouth on each axis, mm.

    `low_mm` is above 10 % of what it may be, `least_mm` to `high_mm` the 95 % interval; `seatings` how many
    were read, `between_mm` the largest change of runout (TIR) seen between two of them at
    the far plane, the bar's own turning taken out; `odd` the
    number of a seating left out because it alone is unlike the others, or 0.
    """

    mean_mm: float
    sd_mm: float
    low_mm: float
    high_mm: float
    seatings: int
    between_mm: float
    odd: int = 0
    least_mm: float = 0.0


NOT_TRIED = SeatScatter(USUAL_MM, USUAL_SD_MM, 0.0, USUAL_MM + 2 * USUAL_SD_MM, 0, 0.0)
Turned = tuple[tuple[int, float, str], Turn]


def turns_of(taken: Sequence[PlaceReadings]) -> tuple[list[Turned], float]:
    """The turns of each seating that can be fitted, and the noise of one reading."""
    groups = by_group(taken)
    turns = [
        (seating_of(g), t)
        for g, points in groups.items()
        if len(points) >= LEAST_ANGLES and (t := turn_of(points)) is not None
    ]
    return turns, seen_noise(groups, coarsest(taken))


def seat_scatter(spindle: Spindle, taken: Sequence[PlaceReadings]) -> SeatScatter:
    """The scatter that the seatings show, by its likelihood over a grid; one seating that alone is unlike all
    others is named, and left out.

    Each turn gives a vector V = spindle(z) + R(φ)·bar(z) + seat(z) + noise. With
    the spindle's free and the bar's normal about nothing with an unknown scale,
    the vectors of all turns are jointly normal for each trial scatter; the
    trials are weighed by that likelihood and by what seats usually do. What
    turns with the bar is so taken out by itself, and what all seatings share
    says nothing of the seat.
    """
    turns, noise = turns_of(taken)
    if not turns:
        return NOT_TRIED
    joint = _jointly(spindle, turns, noise)
    whole = _scatter_of(spindle, joint)
    odd = _odd_seating(joint, whole)
    if odd:
        whole = _scatter_of(spindle, joint.without(odd))
    return replace(whole, odd=odd)


class _Joint(Struct, frozen=True):
    """The vectors of all turns as one: values (n,), noise covariance (n, n), how spindle (n, 4), bar (n, 4)
    and each seating (n, 4 × seatings) move them, and of which seating each is (n,).
    """

    values: np.ndarray
    cov: np.ndarray
    anywhere: np.ndarray
    bar: np.ndarray
    moved: np.ndarray
    seat: np.ndarray

    @property
    def base(self) -> np.ndarray:
        """Covariance without bar and seat, (n, n)."""
        return np.asarray(self.cov + self.anywhere @ self.anywhere.T)

    @property
    def numbers(self) -> list[int]:
        """Numbers of the seatings, in order."""
        return sorted(set(self.seat.tolist()))

    def without(self, number: int) -> _Joint:
        """The same with a seating left out."""
        kept = self.seat != number
        at = 4 * self.numbers.index(number)
        moved = np.delete(self.moved[kept], range(at, at + 4), axis=1)
        return _Joint(
            self.values[kept],
            self.cov[np.ix_(kept, kept)],
            self.anywhere[kept],
            self.bar[kept],
            moved,
            self.seat[kept],
        )


def _by_scales(joints: Sequence[_Joint], bar_scales: Sequence[float] = BAR_SCALES) -> list[np.ndarray]:
    """Log likelihoods that each of these gives each trial scatter with each bar, (bar scales, grid); those of
    one size are worked out at once.
    """
    scales = np.array(bar_scales)[:, None]
    if len({len(j.values) for j in joints}) > 1:
        return [found for j in joints for found in _by_scales([j], bar_scales)]
    bent = np.stack([j.base + np.square(scales)[..., None] * (j.bar @ j.bar.T) for j in joints])
    scatter = np.stack([j.moved @ j.moved.T for j in joints])
    values = np.stack([j.values for j in joints])
    return list(_log_likelihoods(bent, scatter, values) - 4 * np.log(scales) - 2 / scales**2)


def _weights(by_scale: np.ndarray) -> np.ndarray:
    """Weight of each trial scatter, whatever the bar and with what seats usually do, (grid,)."""
    most = by_scale.max(axis=0)
    log_weight = most + np.log(np.exp(by_scale - most).sum(axis=0))
    away = ((GRID - USUAL_MM) / USUAL_SD_MM) ** 2
    log_weight += -0.5 * (USUAL_FREEDOM + 1) * np.log1p(away / USUAL_FREEDOM) + np.log(GRID)
    weight = np.exp(log_weight - log_weight.max())
    return np.asarray(weight / weight.sum())


def _scatter_of(spindle: Spindle, joint: _Joint) -> SeatScatter:
    """The scatter that the turns show."""
    (by_scale,) = _by_scales([joint])
    weight = _weights(by_scale)
    mean = float(weight @ GRID)
    sd = math.sqrt(max(float(weight @ (GRID - mean) ** 2), 1e-10))
    summed = np.cumsum(weight)
    least, low, high = (
        float(GRID[min(int(np.searchsorted(summed, q)), len(GRID) - 1)]) for q in (0.025, 0.10, 0.975)
    )
    best = BAR_SCALES[int(np.argmax(by_scale.max(axis=1)))]
    between = _between(spindle, joint, joint.base + best**2 * joint.bar @ joint.bar.T, mean)
    return SeatScatter(mean, sd, low, high, len(joint.numbers), between, least_mm=least)


def _jointly(spindle: Spindle, turns: Sequence[Turned], noise: float) -> _Joint:
    """The vectors of all turns as one."""
    numbers = sorted({seat[0] for seat, _ in turns})
    n = 2 * len(turns)
    values, cov = np.zeros(n), np.zeros((n, n))
    anywhere, bar, moved = np.zeros((n, 4)), np.zeros((n, 4)), np.zeros((n, 4 * len(numbers)))
    for i, ((number, index, plane), turn) in enumerate(turns):
        at = slice(2 * i, 2 * i + 2)
        z = plane_mm(spindle, plane)
        values[at] = turn.vectors[0].real, turn.vectors[0].imag
        cov[at, at] = noise**2 * turn.covariance[1:3, 1:3]
        c, s = math.cos(math.radians(index)), math.sin(math.radians(index))
        turned = np.array([[c, -s], [s, c]])
        anywhere[at, :2] = ANYWHERE_SD * _TWO
        anywhere[at, 2:] = ANYWHERE_SD * z / LEAN_MM * _TWO
        bar[at, :2] = turned * BAR_SD
        bar[at, 2:] = turned * (BAR_LEAN_SD * z / LEAN_MM)
        k = 4 * numbers.index(number)
        moved[at, k : k + 2] = _TWO
        moved[at, k + 2 : k + 4] = _TWO * z / spindle.seat_length_mm
    return _Joint(values, cov, anywhere, bar, moved, np.repeat([seat[0] for seat, _ in turns], 2))


_TWO = np.eye(2)
# A seating is unlike the others beyond this (squared distance, four figures a seating), and what is left
# when it is dropped repeats this many times better.
ODD_DISTANCE, ODD_GAIN = 40.0, 3.0
# Whether what is left repeats so much better is seen at a glance, with a bar as it usually is and a bent one;
# only what comes near it is weighed with all bars.
GLANCE_SCALES, GLANCE_MARGIN = (1.0, 4.0), 1.6


def _odd_seating(joint: _Joint, whole: SeatScatter) -> int:
    """Number of the one seating that the others, which agree, leave alone; 0 where there is none.

    It takes four: of three no two say which one lies.
    """
    numbers = joint.numbers
    if len(numbers) < 4:
        return 0
    enough = whole.mean_mm / ODD_GAIN
    without = {number: joint.without(number) for number in numbers}
    glances = zip(numbers, _by_scales(list(without.values()), GLANCE_SCALES), strict=True)
    near = [number for number, by in glances if _weights(by) @ GRID < GLANCE_MARGIN * enough]
    found, furthest = 0, ODD_DISTANCE
    for number, by in zip(near, _by_scales([without[n] for n in near]) if near else (), strict=True):
        left = float(_weights(by) @ GRID)
        distance = _distance(joint, number, left) if left <= enough else 0.0
        if distance > furthest:
            found, furthest = number, distance
    return found


def _distance(joint: _Joint, number: int, sigma: float) -> float:
    """How far a seating's vectors lie from what the others foretell of it, squared, in their own
    covariance.
    """
    anywhere, bar, moved, values = joint.anywhere, joint.bar, joint.moved, joint.values
    whole = joint.cov + anywhere @ anywhere.T + 4 * bar @ bar.T + sigma**2 * moved @ moved.T
    own = joint.seat == number
    cross = whole[np.ix_(own, ~own)]
    gain = np.linalg.solve(whole[np.ix_(~own, ~own)], cross.T).T
    left = values[own] - gain @ values[~own]
    return float(left @ np.linalg.solve(whole[np.ix_(own, own)] - gain @ cross.T, left))


def _log_likelihoods(bases: np.ndarray, scatter: np.ndarray, values: np.ndarray) -> np.ndarray:
    """Of each trial on the grid, (m, k, grid), for each of k covariances without the seat, (m, k, n, n), of m
    jobs' scatter (m, n, n) and values (m, n): one factoring serves all trials. In a base’s own frame the
    scatter is diagonal, Λ: C = L·U·(1 + σ²Λ)·Uᵀ·Lᵀ.
    """
    factor = np.linalg.cholesky(bases)
    half = np.linalg.solve(factor, np.broadcast_to(scatter[:, None], bases.shape))
    share, frame = np.linalg.eigh(np.linalg.solve(factor, half.swapaxes(-1, -2)))
    own = np.linalg.solve(factor, np.broadcast_to(values[:, None, :, None], (*bases.shape[:3], 1)))
    squared = (frame.swapaxes(-1, -2) @ own)[..., 0][..., None, :] ** 2
    scale = 1 + np.square(GRID)[:, None] * np.maximum(share, 0.0)[..., None, :]
    spread = np.log(np.diagonal(factor, axis1=-2, axis2=-1)).sum(axis=-1)  # half of log |base|
    return np.asarray(-0.5 * (squared / scale + np.log(scale)).sum(axis=-1) - spread[..., None])


def _between(spindle: Spindle, joint: _Joint, base: np.ndarray, sigma: float) -> float:
    """Largest difference of two seatings' own shift at the far plane, as runout."""
    moved = joint.moved
    seats = sigma**2 * moved.T @ np.linalg.solve(base + sigma**2 * moved @ moved.T, joint.values)
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
