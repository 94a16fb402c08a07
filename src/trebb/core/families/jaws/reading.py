"""A vise's top, marks and jaw plates read; an index plate read hole by hole."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.jaws.subject import CORNERS, PLATES, Jaws
from trebb.core.figure import Circle, Indicator, Item, Role, box, line
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.ground import framed
from trebb.core.survey.sizes import beyond_indicator
from trebb.core.units import UnitSystem

WIDTH, HEIGHT = 640.0, 164.0
TOP_SD_MM, MARK_SD_MM, PLATE_SD_MM = 0.004, 0.05, 0.004


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
    figure=lambda jaws, place: framed(
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
    figure=lambda jaws, place: framed(
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
    figure=lambda jaws, place: framed(
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
