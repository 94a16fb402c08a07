"""Turns read at angles, whatever turns: their places, what they come to, what is odd in them."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache
from typing import TYPE_CHECKING, Any

import numpy as np

from trebb.core.belief.repeats import on_one_mark
from trebb.core.condition import Z95, Observation, Quantity, Row, Shared, grouped
from trebb.core.errors import InputError
from trebb.core.runout import Turn, fit_turn
from trebb.core.survey.angles import angle_words, is_figure, split_place
from trebb.core.survey.base import Place, PlaceReadings, Result
from trebb.core.survey.reduction import repeated

if TYPE_CHECKING:
    pass


# One angle of a clean turn by hand under a tenths indicator: its hysteresis and the hand, half a tenth.
READING_SD_MM = 0.0013


# The step of a tenths indicator, as everywhere.
STEP_MM = 0.00254


ODD_NOISE_MM = 1.0  # what a slipped reading is worth: next to nothing


# What is not spindle or seating in a turn is at most this much out at a guess before it is read: the zero.
ZERO_SD_MM = 0.5


@lru_cache(maxsize=128)
def turn_places(planes: tuple[tuple[str, str], ...], angles: tuple[float, ...]) -> tuple[Place, ...]:
    """Places of turns; `planes` are (group, note). Asked for dozens of times a repaint, so kept."""
    return tuple(
        Place(f"{group}, {angle_words(a)}", angle_words(a), note, group)
        for group, note in planes
        for a in angles
    )


def by_group(taken: Sequence[PlaceReadings]) -> dict[str, list[tuple[float, float]]]:
    """Angle and mean reading, turn by turn. Degrees and mm."""
    result: dict[str, list[tuple[float, float]]] = {}
    for p in taken:
        if p.values and not is_figure(p.place):
            group, angle = split_place(p.place)
            result.setdefault(group, []).append((angle, sum(p.values) / len(p.values)))
    return result


def turn_of(points: Sequence[tuple[float, float]]) -> Turn | None:
    """The turn through these points; None while they are too few or all on one side. Degrees and mm."""
    return _turn_of(tuple(points))


@lru_cache(maxsize=512)
def _turn_of(points: tuple[tuple[float, float], ...]) -> Turn | None:
    """A turn is asked for by noise, seat, picture and proof: fitted once."""
    odd = {i for i, _ in odd_angles(points)}
    kept = [p for i, p in enumerate(points) if i not in odd]
    try:
        return fit_turn([a for a, _ in kept], [v for _, v in kept])
    except InputError:
        return None


# A reading of a turn is odd this many times a reading's noise off a plain eccentricity, and this many times
# what the rest is off it: lobes and scratches are everywhere, a slip is in one place.
ODD_NOISES, ODD_RESTS, LEAST_POINTS = 8.0, 5.0, 6


def odd_angles(points: Sequence[tuple[float, float]]) -> list[tuple[int, float]]:
    """The reading of a turn that all the others leave alone, if there is one: its position and what they
    foretell there, mm.
    """
    return list(_odd_angles(tuple(points)))


@lru_cache(maxsize=512)  # asked for by oddities, noise and observations of every turn, at each reading
def _odd_angles(points: tuple[tuple[float, float], ...]) -> tuple[tuple[int, float], ...]:
    if len(points) < LEAST_POINTS:
        return ()
    theta = np.radians([a for a, _ in points])
    y = np.array([v for _, v in points])
    design = np.column_stack([np.ones_like(theta), np.cos(theta), np.sin(theta)])
    found: tuple[float, int, float] | None = None
    for i in range(len(points)):
        rest = np.arange(len(points)) != i
        fit, *_ = np.linalg.lstsq(design[rest], y[rest], rcond=None)
        left = y[rest] - design[rest] @ fit
        scatter = math.sqrt(float(left @ left) / max(1, rest.sum() - 3))
        told = float(design[i] @ fit)
        off = abs(float(y[i]) - told)
        if off > max(ODD_NOISES * READING_SD_MM, ODD_RESTS * scatter) and (found is None or off > found[0]):
            found = off, i, told
    return ((found[1], found[2]),) if found is not None else ()


def seen_noise(
    groups: Mapping[str, Sequence[tuple[float, float]]], step_mm: float, known_sd: float = READING_SD_MM
) -> float:
    """Noise of one reading: what the set-up is known for and its step makes, or what the turns leave over if
    that is more.
    """
    total, freedom = 0.0, 0
    for points in groups.values():
        turn = turn_of(points)
        if turn is not None and turn.freedom > 0:
            total += turn.residual_sd**2 * turn.freedom
            freedom += turn.freedom
    known = math.hypot(known_sd, max(step_mm, STEP_MM) / math.sqrt(12))
    if step_mm > STEP_MM:
        more = [
            v for points in groups.values() for v in on_one_mark([v for _, v in points], known_sd, step_mm)
        ]
        known = math.sqrt(known**2 + sum(more) / max(len(more), 1))
    return max(known, math.sqrt(total / freedom)) if freedom >= 3 else known


RowOf = Callable[[Any, str], Row]  # of whatever is turned


def coarsest(taken: Sequence[PlaceReadings]) -> float:
    """The coarsest step that these are read to, mm; 0 where none is known."""
    return max((p.step for p in taken), default=0.0)


def turn_noise(
    spindle: Any, row: RowOf, groups: Mapping[str, Sequence[tuple[float, float]]], step_mm: float
) -> float:
    """Noise of one reading of these turns: the set-up's own, or what they leave over if that is more."""
    first = next(((group, points[0][0]) for group, points in groups.items()), None)
    known = (
        row(spindle, f"{first[0]}, {angle_words(first[1])}").noise_sd if first is not None else READING_SD_MM
    )
    return seen_noise(groups, step_mm, known)


def observe_turns(
    spindle: Any,
    taken: Sequence[PlaceReadings],
    row: RowOf,
    bundle: Callable[[str], str],
    loose: Callable[[Any, str], list[tuple[str, float, float]]],
) -> list[Observation]:
    """Turns as independent observations, zero and seating taken out.

    `bundle` names what turns of one seating share; `loose` gives what the
    seating adds to a place: (name, share in this reading, sd).
    """
    groups = by_group(taken)
    noise = turn_noise(spindle, row, groups, coarsest(taken))
    bundles: dict[str, list[str]] = {}
    for group in groups:
        bundles.setdefault(bundle(group), []).append(group)
    result: list[Observation] = []
    for members in bundles.values():
        rows, values, zeros, shares = [], [], [], []
        for group in members:
            points = groups[group]
            centre = sum(v for _, v in points) / len(points)
            odd = {i for i, _ in odd_angles(points)}
            for i, (angle, value) in enumerate(points):
                place = f"{group}, {angle_words(angle)}"
                plain = row(spindle, place)
                rows.append(Row(plain.coefficients, noise if i not in odd else ODD_NOISE_MM))
                values.append(value - centre)
                zeros.append(group)
                shares.append({name: (share, sd) for name, share, sd in loose(spindle, place)})
        shared = [
            Shared(np.array([1.0 if z == group else 0.0 for z in zeros]), ZERO_SD_MM) for group in members
        ]
        names = {name: sd for line in shares for name, (_, sd) in line.items()}
        shared += [
            Shared(np.array([line.get(name, (0.0, 0.0))[0] for line in shares]), sd)
            for name, sd in names.items()
            if sd > 0
        ]
        result += grouped(rows, values, shared)
    return result


def no_seat(spindle: Any, place: str) -> list[tuple[str, float, float]]:
    """Nothing is seated: the reading depends on no seating. Shares without unit, sd in mm."""
    return []


def stir_zero(
    spindle: Any, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """The indicator's zero of a turn, on the simulated machine. The condition by source, in mm."""
    group, _ = split_place(place)
    return float(0.04 * rng_of(f"zero/{group}").standard_normal())


def figure_quantities(taken: Sequence[PlaceReadings], known_sd: float = READING_SD_MM) -> dict[str, Quantity]:
    """Total reading of each turn read as one figure, mm: high less low, two readings of one needle."""
    found = {}
    for p in taken:
        if p.values and is_figure(p.place):
            group = p.place.rsplit(", ", 1)[0]
            single = math.sqrt(2 * (known_sd**2 + max(p.step, STEP_MM) ** 2 / 12))
            repeats = repeated(p.values, single, single, 0.0)
            half = Z95 * repeats.sd
            value = repeats.mean
            found[group] = Quantity(value, repeats.sd, max(0.0, value - half), value + half)
    return found


def figure_readings(taken: Sequence[PlaceReadings]) -> dict[str, Quantity]:
    """The same of the turns that were not read by their angles."""
    groups = by_group(taken)
    return {
        group: value
        for group, value in figure_quantities(taken).items()
        if turn_of(groups.get(group, ())) is None
    }


def turn_results(row: RowOf) -> Callable[[Any, Sequence[PlaceReadings]], list[Result]]:
    """Runout of each turn that can be fitted, by its eccentricity, with the vector's rows for a
    prediction.
    """

    def results(spindle: Any, taken: Sequence[PlaceReadings]) -> list[Result]:
        groups = by_group(taken)
        noise = turn_noise(spindle, row, groups, coarsest(taken))
        found = []
        for group, points in groups.items():
            turn = turn_of(points)
            if turn is not None:
                half = 2 * Z95 * noise * math.sqrt((turn.covariance[1, 1] + turn.covariance[2, 2]) / 2)
                found.append(Result(group, turn.tir_of_eccentricity, half))
        fitted = {one.place for one in found}
        return found + [
            Result(group, value.value, value.half_width)
            for group, value in figure_quantities(taken).items()
            if group not in fitted
        ]

    return results
