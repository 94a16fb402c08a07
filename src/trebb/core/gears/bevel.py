"""Bevel pairs: cones, mounting, and the lash read in every tooth space. Lengths mm, angles degrees.

Lash is transverse, along the pitch circle at the large end. First order; within 1 % of the exact involute of
the back-cone spur pair for shifts up to 0.35 mm.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence
from functools import cache
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from trebb.core.condition import Quantity
from trebb.core.condition.draws import vector_size
from trebb.core.errors import InputError

if TYPE_CHECKING:
    from numpy.typing import NDArray

DEDENDUM_MODULES = 1.157  # of the 14.5° form that bevels are milled to by hand


def pitch_angles_deg(teeth: int, mate_teeth: int, shafts_deg: float = 90.0) -> tuple[float, float]:
    """Pitch angles of a wheel and its mate: tan δ = sin Σ/(z₂/z₁ + cos Σ), Σ − δ. Raises InputError for
    shafts between which no pair turns.
    """
    if not 0 < shafts_deg < 180:
        raise InputError(f"shafts at {shafts_deg:g}°", "between 0 and 180°, mostly 90")
    s = math.radians(shafts_deg)
    own = math.degrees(math.atan2(math.sin(s), mate_teeth / teeth + math.cos(s)))
    return own, shafts_deg - own


def cone_distance_mm(module_mm: float, teeth: int, pitch_angle_deg: float) -> float:
    """R = m z/(2 sin δ)."""
    return module_mm * teeth / (2 * math.sin(math.radians(pitch_angle_deg)))


class BevelBlank(Struct, frozen=True):
    """A bevel gear's blank for shafts at 90°, full depth."""

    pitch_angle_deg: float
    virtual_teeth: float
    outside_dia_mm: float
    face_angle_deg: float
    cutting_angle_deg: float
    cone_distance_mm: float
    greatest_face_mm: float

    def small_module_mm(self, module_mm: float, face_mm: float) -> float:
        """Module at the small end, m (R − b)/R: the cutter must be thin enough for it."""
        return module_mm * (self.cone_distance_mm - face_mm) / self.cone_distance_mm


def bevel_blank(teeth: int, mate_teeth: int, module_mm: float) -> BevelBlank:
    """The blank of one wheel of a pair at 90°."""
    delta, _ = pitch_angles_deg(teeth, mate_teeth)
    d = math.radians(delta)
    cone = cone_distance_mm(module_mm, teeth, delta)
    return BevelBlank(
        delta,
        teeth / math.cos(d),
        module_mm * (teeth + 2 * math.cos(d)),
        delta + math.degrees(math.atan(module_mm / cone)),
        delta - math.degrees(math.atan(DEDENDUM_MODULES * module_mm / cone)),
        cone,
        cone / 3,
    )


def lash_per_mm(angle_deg: float, pitch_angle_deg: float) -> float:
    """Change of the lash for each mm that a wheel moves along its own axis: 2 tan φ sin δ, off the apex."""
    return 2 * math.tan(math.radians(angle_deg)) * math.sin(math.radians(pitch_angle_deg))


def shift_toward_apex_mm(
    mean_lash_mm: float, wanted_mm: float, angle_deg: float, pitch_angle_deg: float
) -> float:
    """How far a wheel must go toward the apex of its cone; less than nothing is away from it."""
    return (mean_lash_mm - wanted_mm) / lash_per_mm(angle_deg, pitch_angle_deg)


def eccentricity_of(once_mm: float, angle_deg: float, pitch_angle_deg: float) -> float:
    """How far off centre a gear would be to make that once a turn: |V|/(2 tan φ cos δ). In mm."""
    return once_mm / (2 * math.tan(math.radians(angle_deg)) * math.cos(math.radians(pitch_angle_deg)))


def wobble_of(once_mm: float, angle_deg: float, pitch_angle_deg: float) -> float:
    """How far along its axis its rim would rock, half its total reading: |V|/(2 tan φ sin δ). In mm."""
    return once_mm / lash_per_mm(angle_deg, pitch_angle_deg)


class TeethRead(Struct, frozen=True):
    """Lash round a gear, in the readings' unit, split into what goes once a turn and what is the teeth's own.

    Parameters
    ----------
    once : V, its argument the tooth (as an angle) of the greatest lash; `pinion` the pinion's own turn, None
        where it cannot be told from a lobed gear or was not asked.
    left : what is left of each tooth read, in order.
    once_sd, mean_sd : standard deviations, by what is left over; `freedom` behind them.
    """

    teeth: int
    numbers: tuple[int, ...]
    readings: tuple[float, ...]
    mean: float
    once: complex
    pinion: complex | None
    left: tuple[float, ...]
    once_sd: float
    mean_sd: float
    freedom: int

    @property
    def spread(self) -> float:
        """Most less least. In mm."""
        return max(self.readings) - min(self.readings)

    @property
    def least(self) -> float:
        """Of the tightest tooth."""
        return min(self.readings)

    @property
    def tightest(self) -> int:
        """Number of the first tooth of least lash."""
        return self.numbers[self.readings.index(self.least)]

    @property
    def once_tooth(self) -> float:
        """Tooth of the greatest part once a turn, 0 to z."""
        return (cmath.phase(self.once) / (2 * math.pi) * self.teeth) % self.teeth

    @property
    def own_spread(self) -> float:
        """Most less least of what is left. In mm."""
        return max(self.left) - min(self.left)

    @property
    def own_rms(self) -> float:
        """Root mean square of what is left. In mm."""
        return math.sqrt(sum(v * v for v in self.left) / len(self.left))

    @property
    def own_sd(self) -> float:
        """Standard deviation of what is left, by its freedom; nothing where none is left."""
        return math.sqrt(sum(v * v for v in self.left) / self.freedom) if self.freedom else 0.0

    @property
    def once_size(self) -> Quantity:
        """What goes once a turn with its 95 % interval, by Student's t of what is left over; without anything
        left over the interval is as wide as the readings spread.
        """
        return vector_size(self.once + self.once_sd_known * _t_draws(max(1, min(self.freedom, 60))))

    @property
    def once_sd_known(self) -> float:
        """Standard deviation of either part of V: three readings fix it and leave nothing to judge it by. In
        mm.
        """
        return self.once_sd if self.freedom else self.spread / 2

    @property
    def greatest_step(self) -> float:
        """Largest difference of neighbours, last to first too; of every tooth read."""
        pairs = zip(self.readings, (*self.readings[1:], self.readings[0]), strict=True)
        return max(abs(b - a) for a, b in pairs)

    @property
    def odd(self) -> tuple[int, ...]:
        """Teeth that stand out of what is left, by the median of it."""
        if self.freedom < 4:
            return ()
        typical = float(np.median(np.abs(self.left))) * 1.4826
        # Below this a tooth's own error is the reading's.
        return tuple(
            n for n, v in zip(self.numbers, self.left, strict=True) if abs(v) > max(4.0 * typical, 1e-9)
        )


@cache
def _t_draws(freedom: int) -> NDArray[np.complex128]:
    """Draws of a vector whose parts have Student's t of so much freedom."""
    rng = np.random.default_rng(14)
    scale = np.sqrt(freedom / rng.chisquare(freedom, 2000))
    drawn: NDArray[np.complex128] = (rng.standard_normal(2000) + 1j * rng.standard_normal(2000)) * scale
    centred: NDArray[np.complex128] = drawn - drawn.mean()
    return centred


def once_round(teeth: int, readings: Sequence[float]) -> complex:
    """V = (2/z) Σ y e^{i 2π j/z}, of a gear read in every space. In mm."""
    at = np.exp(2j * np.pi * np.arange(teeth) / teeth)
    return complex(2 / teeth * np.sum(np.asarray(readings) * at))


def split_teeth(
    teeth: int, numbers: Sequence[int], readings: Sequence[float], mate_teeth: int = 0
) -> TeethRead:
    """Lash at some or all teeth by least squares: mean, once a turn, and with `mate_teeth` the pinion's turn.

    Every tooth read evenly this is the plain sum; where z/z_p is not whole the pinion's turn leaks into V,
    so both are fitted together. Raises InputError for fewer than three teeth.
    """
    if len(set(numbers)) < 3:
        raise InputError(f"{len(set(numbers))} teeth read", "at least three round the gear, better all")
    turn = 2 * np.pi * np.asarray(numbers, dtype=float) / teeth
    y = np.asarray(readings, dtype=float)
    columns = [np.ones_like(turn), np.cos(turn), np.sin(turn)]
    # The pinion's turn is a lobe of the gear's of z/z_p cycles; two such cannot stand for one, nor for none.
    fits_pinion = bool(mate_teeth) and len(y) >= 8 and not _alias(teeth, mate_teeth)
    if fits_pinion:
        own = turn * teeth / mate_teeth
        columns += [np.cos(own), np.sin(own)]
    design = np.stack(columns, axis=1)
    found, *_ = np.linalg.lstsq(design, y, rcond=None)
    left = y - design @ found
    freedom = max(0, len(y) - design.shape[1])
    sd = float(np.sqrt(left @ left / freedom)) if freedom else 0.0
    spread = np.sqrt(np.diag(np.linalg.pinv(design.T @ design)))
    return TeethRead(
        teeth,
        tuple(int(n) for n in numbers),
        tuple(float(v) for v in y),
        float(found[0]),
        complex(found[1], found[2]),
        complex(found[3], found[4]) if fits_pinion else None,
        tuple(float(v) for v in left),
        float(max(spread[1], spread[2]) * sd),
        float(spread[0] * sd),
        freedom,
    )


def _alias(teeth: int, mate_teeth: int) -> bool:
    """Whether the pinion's turn looks like the gear's own first turn or its mean at the teeth."""
    cycles = teeth / mate_teeth
    return any(abs(math.remainder(cycles - other, teeth)) < 1e-9 for other in (0.0, 1.0, -1.0))


def reseated(at_0: complex, at_180: complex) -> tuple[complex, complex]:
    """Gear turned 180° on its seat: the gear's own part, and the seat's or bearing's."""
    return (at_0 + at_180) / 2, (at_0 - at_180) / 2


def once_of_quarters(readings: Sequence[float]) -> float:
    """The part once a turn by four quarters, teeth 0, z/4, z/2, 3z/4: tooth errors come with it."""
    a, b, c, d = readings
    return 0.5 * math.hypot(a - c, b - d)


def quarter_teeth(teeth: int) -> tuple[int, ...]:
    """The teeth at four quarters."""
    return tuple(round(k * teeth / 4) % teeth for k in range(4))


def after_shift(readings: NDArray[np.float64], mean: float, wanted: float) -> float:
    """Lash of the tightest tooth once the mean is brought to what is wanted."""
    return float(readings.min() - mean + wanted)
