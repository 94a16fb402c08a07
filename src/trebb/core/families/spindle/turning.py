"""What all runout set-ups share: a turn read at angles, as rows of vectors.

A place is "plane, 45°" or "seat 2 at 180°, far, 45°". The reading at dial angle
θ of a vector (x, y) turned by φ is x·cos(θ − φ) + y·sin(θ − φ), + toward the
indicator. The indicator's zero is another for each turn and is never used.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from functools import cache
from typing import TYPE_CHECKING, Any

import numpy as np
from msgspec.structs import replace

from trebb.core.condition import Estimate, Row
from trebb.core.condition.draws import quantiles
from trebb.core.families.spindle.subject import LEAN_MM, Spindle
from trebb.core.figure import Figure
from trebb.core.survey.angles import angle_words
from trebb.core.survey.base import InstrumentKind, Lot, Place, SetUp
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator

if TYPE_CHECKING:
    from numpy.typing import NDArray
from trebb.core.survey.turns import (
    READING_SD_MM,
    RowOf,
    no_seat,
    observe_turns,
    stir_zero,
    turn_places,
    turn_results,
)

# Name of a vector, and the distance at which its lean counts (None: it has none).
Part = tuple[str, float | None]


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
