"""What all runout set-ups share: a turn read at angles, as rows of vectors.

A place is "plane, 45°" or "seat 2 at 180°, far, 45°". The reading at dial angle
θ of a vector (x, y) turned by φ is x·cos(θ − φ) + y·sin(θ − φ), + toward the
indicator. The indicator's zero is another for each turn and is never used.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from functools import cache, lru_cache
from typing import TYPE_CHECKING, Any

import numpy as np
from msgspec.structs import replace

from trebb.core.condition import Z95, Estimate, Observation, Row, Shared, grouped
from trebb.core.condition.draws import quantiles
from trebb.core.errors import InputError
from trebb.core.figure import Figure
from trebb.core.machine.spindle import LEAN_MM, Spindle
from trebb.core.runout import Turn, fit_turn
from trebb.core.survey.angles import angle_words, split_place
from trebb.core.survey.base import InstrumentKind, Lot, Place, PlaceReadings, Result, SetUp
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator

if TYPE_CHECKING:
    from numpy.typing import NDArray

# One angle of a clean turn by hand under a tenths indicator: its hysteresis and the hand, half a tenth.
READING_SD_MM = 0.0013
# The step of a tenths indicator, as everywhere: uniform, a tenth of a thou.
STEP_SD_MM = 0.00254 / math.sqrt(12)
ODD_NOISE_MM = 1.0  # what a slipped reading is worth: next to nothing
# What is not spindle or seating in a turn is at most this much out at a guess before it is read: the zero.
ZERO_SD_MM = 0.5

# Name of a vector, and the distance at which its lean counts (None: it has none).
Part = tuple[str, float | None]


@lru_cache(maxsize=128)
def turn_places(planes: tuple[tuple[str, str], ...], angles: tuple[float, ...]) -> tuple[Place, ...]:
    """Places of turns; `planes` are (group, note). Asked for dozens of times a repaint, so kept."""
    return tuple(
        Place(f"{group}, {angle_words(a)}", angle_words(a), note, group)
        for group, note in planes
        for a in angles
    )


def lots_by_plane(
    planes: tuple[tuple[str, str], ...], title: str, setting_minutes: float
) -> Callable[[Spindle], tuple[Lot, ...]]:
    """Each plane by itself as a lot: "title, plane"."""

    def lots(spindle: Spindle) -> tuple[Lot, ...]:
        return tuple(
            Lot(
                group,
                f"{title}, {group}",
                tuple(p.key for p in turn_places(((group, note),), spindle.angles)),
                setting_minutes,
            )
            for group, note in planes
        )

    return lots


def vector_row(
    parts: Sequence[Part], turned: Mapping[str, float], angle_deg: float, *, axial_mm: float = 0.0
) -> dict[str, float]:
    """Coefficients of one reading. `turned` gives φ of a vector in degrees.

    With `axial_mm` the face at that radius is read: a lean moves it by lean × radius.
    """
    result: dict[str, float] = {}
    for name, z in parts:
        angle = math.radians(angle_deg - turned.get(name, 0.0))
        c, s = math.cos(angle), math.sin(angle)
        if axial_mm:
            share = axial_mm / LEAN_MM
        else:
            result[f"{name}.x"], result[f"{name}.y"] = c, s
            share = (z or 0.0) / LEAN_MM
        if z is not None and share:
            result[f"{name}_lean.x"], result[f"{name}_lean.y"] = share * c, share * s
    return result


def lobe_row(angle_deg: float) -> dict[str, float]:
    """Two and three lobes of the spindle's own turning. Coefficients by source, without unit."""
    theta = math.radians(angle_deg)
    return {f"lobe{k}.{axis}": f(k * theta) for k in (2, 3) for axis, f in (("x", math.cos), ("y", math.sin))}


def by_group(taken: Sequence[PlaceReadings]) -> dict[str, list[tuple[float, float]]]:
    """Angle and mean reading, turn by turn. Degrees and mm."""
    result: dict[str, list[tuple[float, float]]] = {}
    for p in taken:
        if p.values:
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


def seen_noise(groups: Mapping[str, Sequence[tuple[float, float]]], known_sd: float = READING_SD_MM) -> float:
    """Noise of one reading: what the set-up is known for, or what the turns leave over if that is more."""
    total, freedom = 0.0, 0
    for points in groups.values():
        turn = turn_of(points)
        if turn is not None and turn.freedom > 0:
            total += turn.residual_sd**2 * turn.freedom
            freedom += turn.freedom
    known = math.hypot(known_sd, STEP_SD_MM)
    return max(known, math.sqrt(total / freedom)) if freedom >= 3 else known


RowOf = Callable[[Any, str], Row]  # of whatever is turned


def remembered(row: RowOf) -> RowOf:
    """The same rows, each worked out once for a spindle: a turn more is read, and all those before it are
    asked for again. The last spindle's are kept; how its seat scatters is not in a row.
    """
    held: list[Any] = [None, None, {}]

    def asked(spindle: Spindle, place: str) -> Row:
        if held[0] is not spindle:
            plain = replace(spindle, seat_mm=0.0, seat_sd_mm=0.0)
            held[0] = spindle
            if plain != held[1]:
                held[1], held[2] = plain, {}
        known: dict[str, Row] = held[2]
        if place not in known:
            known[place] = row(spindle, place)
        return known[place]

    return asked


def turn_noise(spindle: Any, row: RowOf, groups: Mapping[str, Sequence[tuple[float, float]]]) -> float:
    """Noise of one reading of these turns: the set-up's own, or what they leave over if that is more."""
    first = next(((group, points[0][0]) for group, points in groups.items()), None)
    known = (
        row(spindle, f"{first[0]}, {angle_words(first[1])}").noise_sd if first is not None else READING_SD_MM
    )
    return seen_noise(groups, known)


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
    noise = turn_noise(spindle, row, groups)
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


def turn_results(row: RowOf) -> Callable[[Any, Sequence[PlaceReadings]], list[Result]]:
    """Runout of each turn that can be fitted, by its eccentricity, with the vector's rows for a
    prediction.
    """

    def results(spindle: Any, taken: Sequence[PlaceReadings]) -> list[Result]:
        groups = by_group(taken)
        noise = turn_noise(spindle, row, groups)
        found = []
        for group, points in groups.items():
            turn = turn_of(points)
            if turn is not None:
                half = 2 * Z95 * noise * math.sqrt((turn.covariance[1, 1] + turn.covariance[2, 2]) / 2)
                found.append(Result(group, turn.tir_of_eccentricity, half))
        return found

    return results


@cache
def _normal_draws() -> NDArray[np.float64]:
    """The same each time, so that a figure does not dance."""
    return np.random.default_rng(21).standard_normal((2000, 2))


def expected_turn(
    row: RowOf, loose: Callable[[Spindle, str], list[tuple[str, float, float]]] = no_seat
) -> Callable[[Spindle, Estimate, str], tuple[float, float]]:
    """Runout of a turn to expect in a condition: value and 95 % half width, one more seating and the
    reading's noise included.
    """

    def expected(spindle: Spindle, after: Estimate, group: str) -> tuple[float, float]:
        spindle = replace(spindle, seat_mm=after.source("seat").value, seat_sd_mm=0.0)
        axes = []
        seating = 0.0
        for angle in (0.0, 90.0):
            place = f"{group}, {angle_words(angle)}"
            plain = row(spindle, place)
            axes.append(
                after.model.vector({k: c for k, c in plain.coefficients.items() if not k.startswith("lobe")})
            )
            seating += sum((share * sd) ** 2 for _, share, sd in loose(spindle, place)) / 2
        gain = np.array(axes)
        covariance = gain @ after.covariance @ gain.T + np.eye(2) * (seating + READING_SD_MM**2 / 4)
        drawn = gain @ after.mean + _normal_draws() @ np.linalg.cholesky(covariance).T
        low, middle, high = quantiles(2 * np.hypot(drawn[:, 0], drawn[:, 1]), (0.025, 0.5, 0.975))
        return float(middle), float(max(high - middle, middle - low))

    return expected


Loose = Callable[[Spindle, str], list[tuple[str, float, float]]]
Stir = Callable[[Spindle, Mapping[str, float], str, "Callable[[str], np.random.Generator]"], float]


def turn_set_up(
    row: RowOf,
    figure: Callable[[Spindle, str], Figure],
    *,
    key: str,
    letter: str,
    short: str,
    title: str,
    minutes: float,
    setting_minutes: float,
    places: Callable[[Spindle], tuple[Place, ...]],
    lots: Callable[[Spindle], tuple[Lot, ...]],
    plane_mm: Callable[[Spindle, str], float | None],
    steps: tuple[str, ...],
    cautions: tuple[str, ...],
    tells: str,
    cannot_tell: str,
    settles: str,
    loose: Loose = no_seat,
    bundle: Callable[[str], str] = str,
    stir: Stir = stir_zero,
    measure: Callable[[Spindle, str], tuple[str, float]] | None = None,
) -> SetUp[Spindle]:
    """A set-up read as turns on a tenths indicator: what all of them share is stated here once.

    `loose` gives what a seating adds to a place, `bundle` names the turns of
    one seating; by default nothing is seated and each turn stands by itself.
    """
    row = remembered(row)
    return SetUp(
        key=key,
        letter=letter,
        short=short,
        title=title,
        instrument=InstrumentKind.INDICATOR,
        unit="mm",
        resolution_mm=0.00254,
        minutes=minutes,
        setting_minutes=setting_minutes,
        wanted=1,
        places=places,
        lots=lots,
        row=row,
        figure=figure,
        observe=lambda spindle, taken: observe_turns(spindle, taken, row, bundle, loose),
        stir=stir,
        results=turn_results(row),
        measure=measure,
        expected=expected_turn(row, loose),
        plane_mm=plane_mm,
        refusal=lambda spindle, place, raw, system: beyond_indicator(raw, TURN_MOST_MM, system),
        steps=steps,
        cautions=cautions,
        tells=tells,
        cannot_tell=cannot_tell,
        settles=settles,
        family="spindle",
        view="turn",
        is_signed=True,
    )
