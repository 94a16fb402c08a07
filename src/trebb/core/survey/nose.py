"""Nose register and face: the bearings alone, and camming."""

from __future__ import annotations

from collections.abc import Sequence

from trebb.core.condition import Observation, Row
from trebb.core.figure import Figure, Indicator
from trebb.core.machine import Spindle
from trebb.core.survey.base import InstrumentKind, Lot, PlaceReadings, SetUp
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator
from trebb.core.survey.spindle_figure import AXIS, frame, indicators, nose, turning
from trebb.core.survey.turning import (
    READING_SD_MM,
    expected_turn,
    lobe_row,
    no_seat,
    observe_turns,
    split_place,
    stir_zero,
    turn_places,
    turn_results,
    vector_row,
)

PLANES = (("register", "on the ground seat of the nose"), ("face", "near its rim"))


def row(spindle: Spindle, place: str) -> Row:
    """Register: bearings + register. Face: lean of bearings and face × radius; read along the axis."""
    plane, angle = split_place(place)
    if plane == "register":
        return Row({**vector_row((("bearing", 0.0), ("register", None)), {}, angle), **lobe_row(angle)}, READING_SD_MM)
    return Row(vector_row((("bearing", 0.0), ("face", 0.0)), {}, angle, axial_mm=spindle.face_radius_mm), READING_SD_MM)


def figure(spindle: Spindle, place: str) -> Figure:
    """On the register from above, or on the face from the front."""
    plane, _ = split_place(place)
    items = [*nose(wash="register"), *turning()]
    if plane == "register":
        items += indicators([(159, "register", True)], AXIS - 30)
    else:
        items += [Indicator((190, AXIS - 18), (1, 0))]
    return frame(items)


def observe(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Each turn by itself."""
    return observe_turns(spindle, taken, row, lambda group: group, no_seat)


SET_UP = SetUp[Spindle](
    key="nose",
    letter="A",
    short="Nose",
    title="Nose, register and face",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.2,
    setting_minutes=3,
    wanted=1,
    places=lambda spindle: turn_places(PLANES, spindle.angles),
    lots=lambda spindle: tuple(Lot(plane, f"Nose, {plane}", tuple(p.key for p in turn_places(((plane, note),), spindle.angles)), 2.0) for plane, note in PLANES),
    row=row,
    figure=figure,
    observe=observe,
    stir=stir_zero,
    results=turn_results(row),
    expected=expected_turn(row),
    steps=(
        "Wipe register and face; stone off burrs.",
        "Chalk the dial angles on the nose: 0° at its key, drive slot or a mark you make.",
        "Indicator square on the register; turn by hand, stop at each angle, read.",
        "Then along the axis on the face, close to its rim.",
    ),
    cautions=("Lock out power. Turn by hand, never under power with an indicator on.",),
    tells="How truly the bearings carry the spindle: nothing is seated, so nothing can be seated badly. Face: does it cam.",
    cannot_tell="Nothing of the taper. The register's own grinding is in it, a tenth or so.",
    settles="the bearings, without a taper or a bar",
    family="spindle",
    view="turn",
    plane_mm=lambda spindle, group: 0.0 if group == "register" else None,
    refusal=lambda spindle, place, raw, system: beyond_indicator(raw, TURN_MOST_MM, system),
    is_signed=True,
)
