"""The taper's bore, read directly at its mouth and deep."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.spindle.figure import AXIS, NOSE, frame, nose, turning
from trebb.core.families.spindle.subject import Spindle
from trebb.core.families.spindle.turning import lobe_row, lots_by_plane, turn_set_up, vector_row
from trebb.core.figure import Circle, Figure, Label, Role, line
from trebb.core.safety import LOCK_OUT_TAPER
from trebb.core.survey.angles import split_place
from trebb.core.survey.turns import READING_SD_MM, turn_places

PLANES = (("mouth", "a finger's width in"), ("deep", "as far as the lever reaches"))
# A lever in a bore is a longer lever, and old tapers are scored.
BORE_SD_MM = 1.6 * READING_SD_MM


def row(spindle: Spindle, place: str) -> Row:
    """Bearings + taper, with their leans at that depth."""
    plane, angle = split_place(place)
    z = spindle.mouth_mm if plane == "mouth" else spindle.deep_mm
    return Row({**vector_row((("bearing", z), ("taper", z)), {}, angle), **lobe_row(angle)}, BORE_SD_MM)


def figure(spindle: Spindle, place: str) -> Figure:
    """A lever indicator reaching into the bore."""
    plane, _ = split_place(place)
    x = NOSE - 14 if plane == "mouth" else NOSE - 66
    y = AXIS - (13 if plane == "mouth" else 9)
    items = [
        *nose(),
        *turning(),
        line((x, y), (x + 26, AXIS + 1), (NOSE + 60, AXIS + 1), role=Role.BLUE),
        Circle((x, y), 2.5, Role.BLUE, wash=True),
        Circle((NOSE + 82, AXIS + 1), 22, Role.BLUE),
    ]
    items += [
        line((NOSE + 82, AXIS + 1), (NOSE + 92, AXIS - 13), role=Role.BLUE),
        Label(
            (NOSE + 116, AXIS + 6),
            f"lever at the {plane if plane == 'mouth' else 'deep end'}; reads + as the wall moves outward",
            Role.SOFT,
            "left",
        ),
    ]
    return frame(items)


SET_UP = turn_set_up(
    row,
    figure,
    key="taper_bore",
    letter="B",
    short="Taper bore",
    title="Taper bore, mouth and deep",
    minutes=0.25,
    setting_minutes=4,
    places=lambda spindle: turn_places(PLANES, spindle.angles),
    lots=lots_by_plane(PLANES, "Taper bore", 3.0),
    steps=(
        "Clean the taper twice; feel for burrs with a fingertip, stone them off.",
        "Lever indicator on the wall; it must read + as the wall moves outward. Try with a fingernail, turn "
        "the lever over if not.",
        "Same angle under the indicator as at the nose. Turn by hand; read at each angle.",
        "Then as deep as it reaches, without moving the zero of the dial angles.",
    ),
    cautions=(LOCK_OUT_TAPER,),
    tells="Taper and bearings together, with nothing seated: no bar, no seat.",
    cannot_tell="Scores and wear make it rough. Taper and bearings only come apart with the nose.",
    settles="the taper itself, without trusting a seat",
    plane_mm=lambda spindle, group: spindle.mouth_mm if group == "mouth" else spindle.deep_mm,
)
