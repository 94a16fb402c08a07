"""Nose register and face: the bearings alone, and camming."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.spindle.figure import AXIS, frame, indicators, nose, turning
from trebb.core.families.spindle.subject import Spindle
from trebb.core.families.spindle.turning import lobe_row, lots_by_plane, turn_set_up, vector_row
from trebb.core.figure import Figure, Indicator
from trebb.core.safety import LOCK_OUT, TURN_BY_HAND
from trebb.core.survey.angles import split_place
from trebb.core.survey.turns import READING_SD_MM, turn_places

PLANES = (("register", "on the ground seat of the nose"), ("face", "near its rim"))


def row(spindle: Spindle, place: str) -> Row:
    """Register: bearings + register. Face: lean of bearings and face × radius; read along the axis."""
    plane, angle = split_place(place)
    if plane == "register":
        return Row(
            {**vector_row((("bearing", 0.0), ("register", None)), {}, angle), **lobe_row(angle)},
            READING_SD_MM,
        )
    return Row(
        vector_row((("bearing", 0.0), ("face", 0.0)), {}, angle, axial_mm=spindle.face_radius_mm),
        READING_SD_MM,
    )


def figure(spindle: Spindle, place: str) -> Figure:
    """On the register from above, or on the face from the front."""
    plane, _ = split_place(place)
    items = [*nose(wash="register"), *turning()]
    if plane == "register":
        items += indicators([(159, "register", True)], AXIS - 27)
    else:
        items += [Indicator((190, AXIS - 18), (1, 0))]
    return frame(items)


SET_UP = turn_set_up(
    row,
    figure,
    key="nose",
    letter="A",
    short="Nose",
    title="Nose, register and face",
    minutes=0.2,
    setting_minutes=3,
    places=lambda spindle: turn_places(PLANES, spindle.angles),
    lots=lots_by_plane(PLANES, "Nose", 2.0),
    steps=(
        "Wipe register and face; stone off burrs.",
        "Chalk the dial angles on the nose: 0° at its key, drive slot or a mark you make.",
        "Indicator square on the register; turn by hand, stop at each angle, read.",
        "Then along the axis on the face, close to its rim.",
    ),
    cautions=(f"{LOCK_OUT} {TURN_BY_HAND}",),
    tells="How truly the bearings carry the spindle: nothing is seated, so nothing can be seated badly. "
    "Face: does it cam.",
    cannot_tell="Nothing of the taper. The register's own grinding is in it, a tenth or so.",
    settles="the bearings, without a taper or a bar",
    plane_mm=lambda spindle, group: 0.0 if group == "register" else None,
)
