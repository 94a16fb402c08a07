"""A cracked casting read: the crack by chalk, the bore beside it, its faces on a plate."""

from __future__ import annotations

import math

from trebb.core.condition import Row
from trebb.core.families.casting.subject import ANGLES, CORNERS, Casting
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, Shape, line
from trebb.core.safety import LOCK_OUT, SOLVENT
from trebb.core.survey.angles import angle_words
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.sizes import beyond_indicator
from trebb.core.units import UnitSystem

WIDTH, HEIGHT = 640.0, 164.0
LENGTH_SD_MM, OPEN_SD_MM, BORE_SD_MM, FACE_SD_MM = 0.3, 0.03, 0.004, 0.006


def bracket(*, crack: bool = True, bore: str = "", corner: int = -1) -> list[Item]:
    """A bracket with its boss and a crack beside it."""
    items: list[Item] = [
        Shape(((60, 132), (60, 104), (150, 96), (190, 44), (262, 44), (262, 84), (220, 132)), True),
        Circle((226, 64), 26),
        Circle((226, 64), 13, Role.BLUE if bore else Role.INK),
    ]
    if crack:
        items.append(line((150, 96), (164, 108), (160, 120), (172, 132), role=Role.BLUE))
    if bore:
        a = math.radians(float(bore))
        dx, dy = 12 * math.sin(a), -12 * math.cos(a)
        items.append(Arrow((226 - dx, 64 - dy), (226 + dx, 64 + dy), both_ways=True))
    if corner >= 0:
        x = (70, 110, 160, 205)[corner]
        items += [line((30, 140), (300, 140), role=Role.HATCH), Indicator((x, 132), (0, -1))]
    return items


def _frame(items: list[Item], *words: str) -> Figure:
    labels: list[Item] = [Label((340, 50 + 24 * i), w, Role.BLUE, "left") for i, w in enumerate(words)]
    return Figure(WIDTH, HEIGHT, (*items, *labels))


def _length_refusal(casting: Casting, place: str, raw: float, system: UnitSystem) -> str:
    return "" if 0 <= raw <= 2000 else "a crack is nothing or more, and shorter than the casting"


CRACK: SetUp[Casting] = SetUp(
    key="crack",
    letter="C",
    short="Crack",
    title="The crack, from end to end",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.5,
    minutes=6,
    setting_minutes=10,
    wanted=1,
    places=lambda casting: (
        Place("length", "Its length", "along it, both sides of the wall, from mark to mark"),
        Place("open", "How far it opens", "thinnest feeler that goes in; 0 where none does"),
    ),
    row=lambda casting, place: Row(
        {"crack": 1.0} if place == "length" else {"open": 1.0},
        LENGTH_SD_MM if place == "length" else OPEN_SD_MM,
    ),
    figure=lambda casting, place: _frame(
        bracket(),
        "thin oil, wiped off, chalk: it draws the crack",
        "or a penetrant: red on white",
        "mark where it ends, on both faces",
    ),
    refusal=_length_refusal,
    is_size=True,
    size_band_mm=lambda casting: 10.0,
    steps=(
        "Degrease it. Thin oil, wiped dry, powdered chalk; or a penetrant and its developer.",
        "Follow it on both faces to where it ends, mark with a punch; it is longer than it looks.",
        "After the repair the same: it must draw nothing.",
    ),
    cautions=(SOLVENT,),
    tells="Where it ends, so that it can be stopped there.",
    cannot_tell="How deep it is where it shows on one face only.",
    settles="the crack",
    family="casting",
    measure=lambda casting, place: ("crack", 1.0),
)


def bore_row(casting: Casting, place: str) -> Row:
    """A diameter: mean and both parts of the oval."""
    a = 2 * math.radians(float(place.rstrip("°")))
    return Row({"bore": 1.0, "oval.x": math.cos(a), "oval.y": math.sin(a)}, BORE_SD_MM)


BORE: SetUp[Casting] = SetUp(
    key="casting_bore",
    letter="B",
    short="Bore",
    title="The bore beside it",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.005,
    minutes=0.7,
    setting_minutes=3,
    wanted=1,
    places=lambda casting: tuple(Place(angle_words(a), angle_words(a), "") for a in ANGLES),
    row=bore_row,
    results=lambda casting, taken: [],
    figure=lambda casting, place: _frame(
        bracket(bore=place.rstrip("°")),
        "bore gauge, four directions",
        "before, and when it is cold again",
    ),
    is_size=True,
    size_band_mm=lambda casting: 0.2,
    applies=lambda casting: casting.bore_mm > 0,
    steps=(
        "Its burrs off, four directions before anything is heated.",
        "Rock the gauge for the least.",
        "The same when it is cold: heat draws a bore oval.",
    ),
    cautions=(),
    tells="What the mandrel must fill, and what the repair did to it.",
    cannot_tell="Whether it still stands in line: try its shaft.",
    settles="the bore",
    family="casting",
    measure=lambda casting, place: ("bore", 1.0),
)

FACES: SetUp[Casting] = SetUp(
    key="casting_faces",
    letter="F",
    short="Faces",
    title="Its seat on a plate",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=1.0,
    setting_minutes=6,
    wanted=1,
    is_signed=True,
    places=lambda casting: tuple(Place(c, c.capitalize(), "") for c in CORNERS),
    row=lambda casting, place: Row({place: 1.0}, FACE_SD_MM),
    results=lambda casting, taken: [],
    figure=lambda casting, place: _frame(
        bracket(corner=CORNERS.index(place)),
        "seat upward on three jacks, corners 1 to 3 levelled to 0",
        "then corner 4: how far it is off their plane",
    ),
    refusal=lambda casting, place, raw, system: beyond_indicator(raw, 5.0, system),
    steps=(
        "On a plate, seat upward, on three jacks; indicator over its corners.",
        "All four are read; any three make a plane, and what the fourth is off it is the warp.",
        "After the repair, cold, before it is machined.",
    ),
    cautions=(LOCK_OUT,),
    tells="Whether it sits flat, before and after.",
    cannot_tell="Whether the seat is square to the bore.",
    settles="the seat",
    family="casting",
    measure=lambda casting, place: ("face", 1.0),
)
SET_UPS = (CRACK, BORE, FACES)
