"""A vise's top, marks and jaw plates read; an index plate read hole by hole."""

from __future__ import annotations

import math

from trebb.core.condition import Row
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, box, line
from trebb.core.machine.plates import CORNERS, PLATES, IndexPlate, Jaws
from trebb.core.safety import TURN_BY_HAND
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.sizes import beyond_indicator
from trebb.core.units import UnitSystem

WIDTH, HEIGHT = 640.0, 164.0
TOP_SD_MM, MARK_SD_MM, PLATE_SD_MM, HOLE_SD_MM, PIN_SD_MM = 0.004, 0.05, 0.004, 0.005, 0.004


def vise(*, corner: int = -1, washed: str = "") -> list[Item]:
    """A vise from its side: base, fixed and moving jaw with their plates."""
    items: list[Item] = [
        box(40, 112, 280, 22),
        box(60, 50, 60, 62),
        box(210, 50, 60, 62),
        box(120, 54, 14, 40, role=Role.BLUE if washed == "fixed" else Role.INK, wash=washed == "fixed"),
        box(196, 54, 14, 40, role=Role.BLUE if washed == "moving" else Role.INK, wash=washed == "moving"),
        line((20, 134), (340, 134), role=Role.HATCH),
    ]
    if corner >= 0:
        items.append(Indicator(((72, 50), (108, 50), (222, 50), (258, 50))[corner], (0, -1)))
    return items


def _frame(items: list[Item], *words: str) -> Figure:
    labels: list[Item] = [Label((370, 54 + 24 * i), w, Role.BLUE, "left") for i, w in enumerate(words)]
    return Figure(WIDTH, HEIGHT, (*items, *labels))


def _size_refusal(jaws: Jaws, place: str, raw: float, system: UnitSystem) -> str:
    return "" if 0 <= raw < 200 else "nothing or more, and under 200 mm; is the unit right?"


TOP: SetUp[Jaws] = SetUp(
    key="jaw_top",
    letter="T",
    short="Top",
    title="Top over its own base",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.005,
    minutes=0.7,
    setting_minutes=4,
    wanted=1,
    is_signed=True,
    places=lambda jaws: tuple(Place(c, c.capitalize(), "") for c in CORNERS),
    row=lambda jaws, place: Row({f"top.{place}": 1.0}, TOP_SD_MM),
    results=lambda jaws, taken: [],
    figure=lambda jaws, place: _frame(
        vise(corner=CORNERS.index(place)),
        "its base on a plate, wiped",
        "indicator from the plate over its corners",
        f"{place}: zero at the first corner",
    ),
    refusal=lambda jaws, place, raw, system: beyond_indicator(raw, 5.0, system),
    steps=(
        "Base on a plate or the clean table, burrs stoned off.",
        "Indicator over the four corners of the top; the first is zero.",
        "What is milled is milled with its base packed so, and read both ways.",
    ),
    cautions=("A vise is heavy and slips: two hands, nothing under it but the plate.",),
    tells="By how much, and to which corner, the top leans.",
    cannot_tell="Whether the base itself is flat: a feeler under it.",
    settles="the top",
    family="jaws",
    measure=lambda jaws, place: ("top", 1.0),
)

MARKS: SetUp[Jaws] = SetUp(
    key="jaw_marks",
    letter="M",
    short="Marks",
    title="Marks and holes in the top",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.02,
    minutes=1,
    setting_minutes=1,
    wanted=1,
    is_optional=True,
    places=lambda jaws: (Place("deepest", "Deepest mark", "depth gauge, or a needle on the indicator"),),
    row=lambda jaws, place: Row({"mark": 1.0}, MARK_SD_MM),
    figure=lambda jaws, place: _frame(
        [*vise(), Circle((100, 50), 5, Role.BLUE)], "depth of the deepest", "not its burr"
    ),
    is_size=True,
    size_band_mm=lambda jaws: 0.5,
    refusal=_size_refusal,
    steps=(
        "Stone the burr first: it is not depth.",
        "Depth gauge over it, or a needle on the indicator, from sound metal on both sides.",
        "The deepest is what would have to come off.",
    ),
    cautions=(),
    tells="What height it would cost to take it out.",
    cannot_tell="Whether it matters: that is for you to say, and to write down.",
    settles="blemish or not",
    family="jaws",
    measure=lambda jaws, place: ("mark", 1.0),
)

PLATES_READ: SetUp[Jaws] = SetUp(
    key="jaw_plates",
    letter="J",
    short="Plates",
    title="Jaw plates, both ends",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.002,
    minutes=0.7,
    setting_minutes=4,
    wanted=1,
    places=lambda jaws: tuple(Place(p, p.capitalize(), "") for p in PLATES),
    row=lambda jaws, place: Row({f"plate.{place}": 1.0}, PLATE_SD_MM),
    results=lambda jaws, taken: [],
    figure=lambda jaws, place: _frame(
        vise(washed=place.split(",")[0]), "off, wiped, burrs stoned", f"{place} end"
    ),
    is_size=True,
    size_band_mm=lambda jaws: 0.5,
    refusal=_size_refusal,
    steps=(
        "Plates off, burrs stoned.",
        "Thickness at either end of both: a pair is ground as a pair.",
        "Where a vee is cut, beside it.",
    ),
    cautions=(),
    tells="Whether the two are a pair.",
    cannot_tell="Whether the jaws behind them are square.",
    settles="the pair",
    family="jaws",
    measure=lambda jaws, place: ("pair", 1.0),
)
JAW_SET_UPS = (TOP, PLATES_READ, MARKS)


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
    figure=lambda plate, place: _frame(
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
    figure=lambda plate, place: _frame(
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
