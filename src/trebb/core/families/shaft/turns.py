"""A shaft turned on V-blocks, or between centres, under an indicator: is it bent, where, and which way."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence

import numpy as np

from trebb.core.condition import Estimate, Observation, Row
from trebb.core.condition.draws import draw, vector_size
from trebb.core.families.shaft.figure import at, frame, indicator_above, side, words_at
from trebb.core.families.shaft.subject import Shaft, bend_key
from trebb.core.figure import Figure
from trebb.core.safety import TURN_BY_HAND
from trebb.core.survey.angles import split_place
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, SetUp, lots_by_group
from trebb.core.survey.sizes import beyond_indicator
from trebb.core.survey.turns import no_seat, observe_turns, stir_zero, turn_places, turn_results

MOST_MM = 10.0  # range of a plain dial indicator
# A shaft of common finish under a dial of hundredths, turned by hand: its step alone is 0.003.
READING_SD_MM = 0.0045


def places(shaft: Shaft) -> tuple[Place, ...]:
    """Every angle at every station."""
    notes = {shaft.a_mm: "at the left journal", shaft.b_mm: "at the right journal"}
    planes = tuple((shaft.station_words(z), notes.get(z, "from the left end")) for z in shaft.stations)
    return turn_places(planes, shaft.angles)


def station_of(group: str) -> float:
    """Place along the shaft of a turn, mm."""
    return float(group.removesuffix(" mm"))


def row(shaft: Shaft, place: str) -> Row:
    """Bend at the station toward the indicator; between centres their holes' offsets too, by the line
    between the journals. + is toward the indicator.
    """
    group, angle = split_place(place)
    z, theta = station_of(group), math.radians(angle)
    found: dict[str, float] = {}
    if z in shaft.free:
        found[f"{bend_key(z)}.x"], found[f"{bend_key(z)}.y"] = math.cos(theta), math.sin(theta)
    if shaft.held == "centres":
        share = (z - shaft.a_mm) / shaft.span_mm
        for end, part in (("a", 1 - share), ("b", share)):
            found[f"centre_{end}.x"] = part * math.cos(theta)
            found[f"centre_{end}.y"] = part * math.sin(theta)
    return Row(found, READING_SD_MM)


def observe(shaft: Shaft, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Turns as independent observations, the indicator's zero taken out."""
    return observe_turns(shaft, taken, row, str, no_seat)


def expected(shaft: Shaft, after: Estimate, group: str) -> tuple[float, float]:
    """Total reading of a station to expect, mm, and its 95 % half width."""
    z, drawn = station_of(group), draw(after)
    zero = np.zeros(len(next(iter(drawn.values()))))
    x = drawn[f"{bend_key(z)}.x"] if z in shaft.free else zero
    y = drawn[f"{bend_key(z)}.y"] if z in shaft.free else zero
    found = vector_size(x + 1j * y, 2.0)
    return found.value, found.half_width


def figure(shaft: Shaft, place: str) -> Figure:
    """Shaft on its supports, the indicator over the station."""
    x = at(shaft, station_of(split_place(place)[0]))
    how = "between centres" if shaft.held == "centres" else "on V-blocks under its journals"
    return frame(
        [
            *side(shaft),
            *indicator_above(x),
            words_at(60, 150, f"{how}, turned by its mark; indicator zeroed at 0° of each station"),
        ]
    )


def stir(
    shaft: Shaft, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """The indicator's zero, and two lobes of a journal that is not round. The condition by source, in mm."""
    group, angle = split_place(place)
    lobes = rng_of(f"lobes/{group}").normal(0, 0.003, 2)
    theta = 2 * math.radians(angle)
    return float(
        stir_zero(shaft, condition, place, rng_of) + lobes[0] * math.cos(theta) + lobes[1] * math.sin(theta)
    )


SET_UP: SetUp[Shaft] = SetUp(
    key="shaft_turn",
    measure=lambda shaft, place: ("bend", 1.0),
    letter="V",
    short="Turned",
    title="Shaft turned under an indicator",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=0.2,
    setting_minutes=4,
    wanted=1,
    places=places,
    lots=lots_by_group(places, lambda group: f"Turn at {group}", 1.0),
    row=row,
    figure=figure,
    observe=observe,
    stir=stir,
    results=turn_results(row),
    expected=expected,
    plane_mm=lambda shaft, group: station_of(group),
    refusal=lambda shaft, place, raw, system: beyond_indicator(raw, MOST_MM, system),
    steps=(
        "Wipe journals and V-blocks; blocks under the two journals, a stop against one end.",
        "Scribe a mark: 0° is where it stands under the indicator.",
        "At each station zero at 0°, then read every angle; numbers rise against the turning.",
        "Five stations or more: fewer cannot tell a kink from an even bow.",
    ),
    cautions=(TURN_BY_HAND,),
    tells="How far each station runs off the line through the journals, and to which side.",
    cannot_tell="An oval journal in a V-block shows as two lobes, and is kept apart; with four angles three "
    "lobes pass for a bend: read eight.",
    settles="whether the shaft is bent",
    family="shaft",
    view="turn",
    is_signed=True,
)
