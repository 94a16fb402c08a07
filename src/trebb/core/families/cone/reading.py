"""A friction cone read: sizes of cone and cup, draw and linkage left, lining over its rivets, blue."""

from __future__ import annotations

import math

from trebb.core.condition import Row
from trebb.core.families.cone.subject import FrictionCone
from trebb.core.figure import Arrow, Figure, Indicator, Item, Label, Role, Shape, box, line
from trebb.core.safety import ASBESTOS, LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.units import UnitSystem

WIDTH, HEIGHT = 640.0, 164.0
SIZE_SD_MM, APART_SD_MM, DRAW_SD_MM, OVER_SD_MM = 0.02, 0.10, 0.10, 0.05
_PLACES = (
    ("cone.big", "Cone, large end", "over the lining"),
    ("cone.small", "Cone, small end", "over the lining"),
    ("cone.apart", "Cone, between the two", "along the axis"),
    ("cup.big", "Cup, large end", "in the cup"),
    ("cup.small", "Cup, small end", "in the cup"),
    ("cup.apart", "Cup, between the two", "along the axis"),
)


def cone_items(*, cup: bool = True, gap: float = 26.0) -> list[Item]:
    """A cone and its cup in section, half drawn apart. In figure units."""
    items: list[Item] = [
        line((30, 130), (420, 130), role=Role.HATCH),
        Shape(((80, 118), (80, 34), (240, 62), (240, 118)), True),
        Shape(((80, 34), (240, 62), (240, 70), (80, 42)), True, Role.BLUE, wash=True),
    ]
    if cup:
        x = gap
        items.append(
            Shape(((80 + x, 26), (240 + x, 54), (300 + x, 54), (300 + x, 14), (80 + x, 14)), True, Role.SOFT)
        )
    return items


def _frame(items: list[Item], *words: str) -> Figure:
    labels: list[Item] = [Label((430, 50 + 24 * i), w, Role.BLUE, "left") for i, w in enumerate(words)]
    return Figure(WIDTH, HEIGHT, (*items, *labels))


def _size_figure(cone: FrictionCone, place: str) -> Figure:
    part, _, what = place.partition(".")
    x = {"big": 92.0, "small": 228.0, "apart": 160.0}[what]
    items = cone_items(gap=70.0)
    if what == "apart":
        items.append(Arrow((92, 100), (228, 100), both_ways=True))
    else:
        items.append(Arrow((x, 130), (x, 40 if what == "big" else 64), both_ways=True))
    return _frame(items, f"the {part}", "two places near its ends", "and how far apart these are")


def _size_refusal(cone: FrictionCone, place: str, raw: float, system: UnitSystem) -> str:
    return (
        "" if 0 < raw < 1000 else "a cone's size is more than nothing and under a metre; is the unit right?"
    )


SIZES: SetUp[FrictionCone] = SetUp(
    key="cone_sizes",
    letter="S",
    short="Sizes",
    title="Cone and cup at both ends",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.01,
    minutes=1.0,
    setting_minutes=3,
    wanted=1,
    places=lambda cone: tuple(Place(*p) for p in _PLACES),
    row=lambda cone, place: Row({place: 1.0}, APART_SD_MM if place.endswith("apart") else SIZE_SD_MM),
    results=lambda cone, taken: [],  # judged as angles, one against the other
    figure=_size_figure,
    refusal=_size_refusal,
    is_size=True,
    size_band_mm=lambda cone: 0.5,
    steps=(
        "Ask first what the lining is: asbestos is not scraped, blown or ground.",
        "Two places near the ends of the cone's face, over the lining; and how far apart they are.",
        "The same in the cup.",
    ),
    cautions=(ASBESTOS,),
    tells="The half angle of either, and whether they are the same.",
    cannot_tell="Whether they are round: blue shows it.",
    settles="the two angles",
    family="cone",
    measure=lambda cone, place: ("angle", 1.0),
)

DRAW: SetUp[FrictionCone] = SetUp(
    key="cone_draw",
    letter="D",
    short="Draw",
    title="Draw and linkage that are left",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.05,
    minutes=1.0,
    setting_minutes=4,
    wanted=2,
    places=lambda cone: (
        Place("draw", "Draw left", "from where it grips to where it bottoms"),
        Place("linkage", "Linkage left", "from where it grips to the end of the lever's or screw's travel"),
    ),
    row=lambda cone, place: Row({place: 1.0}, DRAW_SD_MM),
    figure=lambda cone, place: _frame(
        [*cone_items(), Arrow((60, 84), (22, 84), both_ways=True), box(318, 54, 8, 64, role=Role.SOFT)],
        "pressed home by hand: mark",
        "without the cup: as far as it goes",
        "what lies between is left",
    ),
    is_size=True,
    size_band_mm=lambda cone: 1.0,
    steps=(
        "Press it home by hand where it grips: mark, or read the depth.",
        "Take the cup off, or look along it: how far until cone or lever meets something.",
        "The same of the linkage: from where it grips to the end of its travel.",
    ),
    cautions=(LOCK_OUT,),
    tells="How much wear it can still take, and how much the linkage can still follow.",
    cannot_tell="Whether it holds: sizes and face tell.",
    settles="the draw that is left",
    family="cone",
    measure=lambda cone, place: ("draw", 1.0),
)


def over_places(cone: FrictionCone) -> tuple[Place, ...]:
    """At four quarters round."""
    return tuple(Place(f"over, {a}°", f"Over a rivet at {a}°") for a in (0, 90, 180, 270))


def over_row(cone: FrictionCone, place: str) -> Row:
    """Lining over the rivets, and one side against the other."""
    a = math.radians(float(place.split(", ")[1].rstrip("°")))
    return Row({"over": 1.0, "over.x": math.cos(a), "over.y": math.sin(a)}, OVER_SD_MM)


LINING: SetUp[FrictionCone] = SetUp(
    key="cone_lining",
    letter="L",
    short="Lining",
    title="Lining over its rivets",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.02,
    minutes=0.7,
    setting_minutes=2,
    wanted=1,
    places=over_places,
    row=over_row,
    figure=lambda cone, place: _frame(
        [*cone_items(cup=False), Indicator((150, 47), (0, -1))],
        "depth gauge on the face,",
        "its rod on a rivet's head",
        "less than nothing: the head stands proud",
    ),
    is_signed=True,
    applies=lambda cone: cone.rivets > 0,
    steps=(
        "Depth gauge across the face, its rod on a rivet's head, at four quarters.",
        "A head that stands proud is less than nothing: it scores the cup.",
        "Where it is thinnest counts, not the mean.",
    ),
    cautions=(ASBESTOS,),
    tells="What may still wear before the rivets touch.",
    cannot_tell="How the cone draws: read that too.",
    settles="the lining that is left",
    family="cone",
    measure=lambda cone, place: ("lining", 1.0),
)

CONTACT: SetUp[FrictionCone] = SetUp(
    key="cone_contact",
    letter="B",
    short="Blue",
    title="Cone in its cup, with blue",
    instrument=InstrumentKind.EYE,
    unit="mm",
    resolution_mm=0.001,
    minutes=8,
    setting_minutes=4,
    wanted=1,
    places=lambda cone: (),
    row=lambda cone, place: Row({}, 1.0),
    figure=lambda cone, place: _frame(
        cone_items(),
        "thin blue in the cup",
        "pressed home, a light twist, out again",
        "paint below where it took",
    ),
    observe=lambda cone, taken: [],
    steps=(
        "Thin blue in the cup; cone pressed home, a light twist, straight out.",
        "Paint where it took blue: large end above, small end below, unrolled.",
        "Turn the cone half round in the cup and blue it again: what moves with it is the cone's.",
    ),
    cautions=(LOCK_OUT,),
    tells="Which end bears, and whether it is round.",
    cannot_tell="How much must come off: the sizes do.",
    settles="where it bears",
    family="cone",
    view="contact",
    is_proof=False,
)
SET_UPS = (DRAW, LINING, SIZES, CONTACT)
