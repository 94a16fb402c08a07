"""An index plate read hole by hole."""

from __future__ import annotations

import math

from trebb.core.condition import Row
from trebb.core.families.index_plate.subject import IndexPlate
from trebb.core.figure import Arrow, Circle, Indicator, Item, Role
from trebb.core.safety import TURN_BY_HAND
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.ground import framed
from trebb.core.survey.sizes import beyond_indicator

HOLE_SD_MM, PIN_SD_MM = 0.005, 0.004


def hole_number(place: str) -> int:
    """The number of a hole's place."""
    return int(place.rsplit(" ", 1)[1])


def _plate_items(plate: IndexPlate, number: int) -> list[Item]:
    items: list[Item] = [Circle((170, 82), 70), Circle((170, 82), 16)]
    shown = min(plate.holes, 30)
    for k in range(shown):
        a = 2 * math.pi * k / shown - math.pi / 2
        items.append(Circle((170 + 54 * math.cos(a), 82 + 54 * math.sin(a)), 3.4))
    a = 2 * math.pi * (number - 1) / plate.holes - math.pi / 2
    items.append(Circle((170 + 54 * math.cos(a), 82 + 54 * math.sin(a)), 7, Role.BLUE))
    return items


HOLES: SetUp[IndexPlate] = SetUp(
    key="plate_holes",
    letter="H",
    short="Holes",
    title="Every hole against where it belongs",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.005,
    minutes=1.0,
    setting_minutes=15,
    wanted=1,
    is_signed=True,
    places=lambda plate: tuple(
        Place(f"hole {k}", f"Hole {k}", "the first is zero" if k == 1 else "")
        for k in range(1, plate.holes + 1)
    ),
    row=lambda plate, place: Row({f"hole.{hole_number(place)}": 1.0}, HOLE_SD_MM),
    results=lambda plate, taken: [],
    figure=lambda plate, place: framed(
        [*_plate_items(plate, hole_number(place)), Arrow((224, 40), (236, 56), both_ways=True)],
        "a close pin in each hole, on a head or table",
        "turned to where it belongs: indicator on the pin",
        f"{place}: + is further round",
    ),
    refusal=lambda plate, place, raw, system: beyond_indicator(raw, 3.0, system),
    steps=(
        "On a dividing head or rotary table, centred by its bore; a close pin in the first hole: zero.",
        "Turn by one division, pin in the next hole, read along the circle; all round to the first.",
        "What goes once a turn is the plate off centre; the rest is its own.",
    ),
    cautions=(TURN_BY_HAND,),
    tells="Total and neighbouring error at the work, and what centring alone would mend.",
    cannot_tell="The detent's own play: read that too.",
    settles="what it leaves at the work",
    family="index_plate",
    measure=lambda plate, place: ("total", 1.0),
)


PIN: SetUp[IndexPlate] = SetUp(
    key="plate_pin",
    letter="P",
    short="Pin",
    title="The detent in its holes",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.005,
    minutes=1.0,
    setting_minutes=4,
    wanted=3,
    places=lambda plate: (Place("play", "Rocked, pin in", "at the radius of the holes, both ways"),),
    row=lambda plate, place: Row({"pin": 1.0}, PIN_SD_MM),
    figure=lambda plate, place: framed(
        [
            *_plate_items(plate, 1),
            Indicator((224, 60), (1, -0.4)),
            Arrow((236, 40), (248, 66), both_ways=True),
        ],
        "pin in, spindle free",
        "rocked both ways, indicator at the holes' radius",
    ),
    refusal=lambda plate, place, raw, system: beyond_indicator(raw, 3.0, system),
    steps=(
        "Pin in, spindle free, indicator at the holes' radius.",
        "Rock lightly: the whole swing.",
        "In three holes round the plate; the worst counts.",
    ),
    cautions=(),
    tells="What the pin lets the work turn.",
    cannot_tell="Whether hole or pin wore.",
    settles="the detent's play",
    family="index_plate",
    measure=lambda plate, place: ("pin", 1.0),
)


INDEX_SET_UPS = (PIN, HOLES)
