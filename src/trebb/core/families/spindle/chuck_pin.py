"""Runout of a chuck, collet or drill chuck on a ground pin, at two distances."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.spindle.figure import AXIS, NOSE, frame, indicators, nose, turning
from trebb.core.families.spindle.subject import Spindle
from trebb.core.families.spindle.turning import lobe_row, turn_set_up, vector_row
from trebb.core.figure import Figure
from trebb.core.safety import CHUCK_KEY
from trebb.core.survey.angles import split_place
from trebb.core.survey.base import Lot
from trebb.core.survey.turns import READING_SD_MM, turn_places

PLANES = (("pin near", "close to the jaws"), ("pin far", "near its end"))


def row(spindle: Spindle, place: str) -> Row:
    """Bearings + chuck, and the taper where the chuck sits in it."""
    plane, angle = split_place(place)
    z = spindle.pin_near_mm if plane == "pin near" else spindle.pin_far_mm
    parts = [("bearing", z), ("chuck", z)] + ([("taper", z)] if spindle.chuck_on_taper else [])
    return Row({**vector_row(parts, {}, angle), **lobe_row(angle)}, 2 * READING_SD_MM)


def figure(spindle: Spindle, place: str) -> Figure:
    """A ground pin in the chuck, read near and far."""
    plane, _ = split_place(place)
    planes = [(NOSE + 116, "near the jaws", plane == "pin near"), (NOSE + 226, "far", plane == "pin far")]
    return frame([*nose(chuck=True), *turning(), *indicators(planes, AXIS - 8)])


SET_UP = turn_set_up(
    row,
    figure,
    key="chuck_pin",
    measure=lambda spindle, place: ("chuck", 1.0),
    letter="D",
    short="Chuck",
    title="Chuck on a ground pin",
    minutes=0.2,
    setting_minutes=4,
    places=lambda spindle: turn_places(PLANES, spindle.angles),
    lots=lambda spindle: (
        Lot("pin", "Chuck on a ground pin", tuple(p.key for p in turn_places(PLANES, spindle.angles)), 4.0),
    ),
    steps=(
        "Chuck, collet or drill chuck as it is used, on its mark if it has one.",
        "Grip a ground pin, short end in the jaws, with the usual force.",
        "Read close to the jaws at each angle, then near the pin's end.",
        "Let go, turn the pin half round, grip again: another answer is the jaws'.",
    ),
    cautions=(CHUCK_KEY,),
    tells="What the work or the drill will see. Less the spindle's part, it is the chuck's own.",
    cannot_tell="A chuck's runout is the chuck's, not the spindle's: it says nothing of the bearings by "
    "itself.",
    settles="the chuck's own part",
    plane_mm=lambda spindle, group: spindle.pin_near_mm if group == "pin near" else spindle.pin_far_mm,
)
