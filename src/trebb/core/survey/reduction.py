"""From raw readings to observations: repeats averaged, spread taken seriously, odd ones pointed out."""

from __future__ import annotations

import math
import statistics
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from trebb.core.condition import Observation
from trebb.core.machine import ScrewDrive
from trebb.core.survey.base import SetUp

# A reading this many times its neighbours, or a tenth of them, is asked about.
OUTLIER_RATIO = 8.0
# Below this many resolutions nothing is called an outlier: last-digit noise is not a blunder.
OUTLIER_FLOOR = 4.0


@dataclass(frozen=True)
class PlaceReadings:
    """Raw values standing (not struck out) at one place, in the set-up's unit."""

    place: str
    values: tuple[float, ...]


def pooled_sd(groups: Iterable[Sequence[float]]) -> tuple[float, int]:
    """Standard deviation within places, pooled, and its degrees of freedom; (0, 0) without repeats."""
    total, freedom = 0.0, 0
    for values in groups:
        if len(values) > 1:
            centre = statistics.fmean(values)
            total += sum((v - centre) ** 2 for v in values)
            freedom += len(values) - 1
    return (math.sqrt(total / freedom), freedom) if freedom else (0.0, 0)


def spread(values: Sequence[float]) -> float:
    """Largest less smallest of the repeats."""
    return max(values) - min(values) if values else 0.0


def reduced_mean(set_up: SetUp, drive: ScrewDrive, readings: PlaceReadings) -> float:
    """Mean of a place's readings in the row's mm."""
    return statistics.fmean(set_up.reduce(drive, readings.place, value) for value in readings.values)


def observations(set_up: SetUp, drive: ScrewDrive, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """One observation a place: the mean of its repeats.

    The noise is what the set-up is known for, or what the repeats really
    show if that is more (with at least three degrees of freedom, so that one
    unlucky pair does not decide). The instrument's own step does not average
    away: its uniform error (step / √12) is kept whole.
    """
    reduced = [(p.place, [set_up.reduce(drive, p.place, v) for v in p.values]) for p in taken if p.values]
    seen, freedom = pooled_sd(values for _, values in reduced)
    result = []
    for place, values in reduced:
        row = set_up.row(drive, place)
        single = max(row.noise_sd, seen) if freedom >= 3 else row.noise_sd
        step = set_up.resolution_mm / math.sqrt(12)
        noise = math.sqrt(max(single**2 - step**2, 0.0) / len(values) + min(step, single) ** 2)
        result.append(Observation(replace(row, noise_sd=noise), statistics.fmean(values)))
    return result


@dataclass(frozen=True)
class Outlier:
    """A reading far from its neighbours; `typical` is their median, same unit."""

    value: float
    typical: float


def outlier(set_up: SetUp, drive: ScrewDrive, value: float, others: Sequence[float]) -> Outlier | None:
    """Is this raw reading out of all proportion to the others of its set-up?

    Sizes are judged by their difference from the median, plays by their ratio.
    Needs two others. Answers only ask: nothing is ever dropped here.
    """
    if len(others) < 2:
        return None
    typical = statistics.median(others)
    step = set_up.resolution_mm if set_up.unit == "mm" else set_up.resolution_mm / drive.dial.division_mm
    if set_up.is_size:
        band = 0.06 * drive.thread.pitch_mm * OUTLIER_RATIO
        return Outlier(value, typical) if abs(value - typical) > band else None
    high, low = max(abs(value), abs(typical)), min(abs(value), abs(typical))
    if high - low <= OUTLIER_FLOOR * step:
        return None
    return Outlier(value, typical) if high > OUTLIER_RATIO * max(low, step) else None
