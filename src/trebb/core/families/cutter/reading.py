"""A cutter read in its holder: every edge as it passes, and again turned half round."""

from __future__ import annotations

import math

from trebb.core.condition import Row
from trebb.core.families.cutter.subject import Cutter
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, line
from trebb.core.safety import TURN_BY_HAND
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator

WIDTH, HEIGHT = 640.0, 164.0
EDGE_SD_MM = 0.0015
STEPS = (
    "Holder clean, cutter as far in as it works; indicator with a flat foot over the cutting edges.",
    "Turn by hand BACKWARDS, so that the edge slides off the foot: the highest of each edge.",
    "The first flute is marked, zero on the nominal radius or on the first.",
)


def flute_words(number: int) -> str:
    """A flute as it stands in a place."""
    return f"flute {number}"


def flute_number(place: str) -> int:
    """Its number."""
    return int(place.rsplit(" ", 1)[1])


def edge_row(cutter: Cutter, place: str, sign: float) -> Row:
    """An edge as held: its own, and the holder's off centre; turned half round that comes from the other
    side. `sign` is 1 or −1.
    """
    k = flute_number(place)
    cos, sin = cutter.turn(k)
    return Row({f"edge.{k}": 1.0, "holder.x": sign * cos, "holder.y": sign * sin}, EDGE_SD_MM)


def cutter_items(cutter: Cutter, blue: int = 0, *, turned: bool = False) -> list[Item]:
    """A cutter from its end."""
    x, y, r = 170.0, 82.0, 46.0
    items: list[Item] = [Circle((x, y), r - 12), Circle((x, y), 4, Role.SOFT)]
    for k, angle in enumerate(cutter.angles_deg, 1):
        a = math.radians(angle) - math.pi / 2 + (math.pi if turned else 0.0)
        tip = (x + r * math.cos(a), y + r * math.sin(a))
        root = (x + (r - 16) * math.cos(a - 0.25), y + (r - 16) * math.sin(a - 0.25))
        heel = (x + (r - 14) * math.cos(a + 0.3), y + (r - 14) * math.sin(a + 0.3))
        items.append(line(root, tip, heel, role=Role.BLUE if k == blue else Role.INK))
        if k == blue:
            items.append(Circle(tip, 6, Role.BLUE))
    return items


def _figure(cutter: Cutter, place: str, *, turned: bool = False) -> Figure:
    items = cutter_items(cutter, flute_number(place), turned=turned)
    items += [Indicator((170, 36), (0, -1)), Arrow((232, 70), (226, 44))]
    words: tuple[str, ...] = (
        "flat foot over the edges, turned backwards by hand",
        f"{place} at {cutter.angles_deg[flute_number(place) - 1]:g}°",
    )
    if turned:
        words = (*words, "the cutter turned half round in its holder")
    labels: list[Item] = [Label((300, 60 + 24 * i), w, Role.BLUE, "left") for i, w in enumerate(words)]
    return Figure(WIDTH, HEIGHT, (*items, *labels))


def _places(cutter: Cutter) -> tuple[Place, ...]:
    return tuple(
        Place(flute_words(k), f"Flute {k}", f"at {a:g}°") for k, a in enumerate(cutter.angles_deg, 1)
    )


FLUTES: SetUp[Cutter] = SetUp(
    key="flutes",
    letter="F",
    short="Flutes",
    title="Edges as they pass, in the holder",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.001,
    minutes=0.6,
    setting_minutes=5,
    wanted=1,
    is_signed=True,
    places=_places,
    row=lambda cutter, place: edge_row(cutter, place, 1.0),
    results=lambda cutter, taken: [],
    figure=_figure,
    refusal=lambda cutter, place, raw, system: beyond_indicator(raw, TURN_MOST_MM, system),
    steps=STEPS,
    cautions=(TURN_BY_HAND,),
    tells="The hole it would make, how far it runs off centre, and which flutes differ.",
    cannot_tell="Whether cutter or holder runs off: turn one in the other. Of three flutes, neither.",
    settles="off centre against the flutes' own",
    family="cutter",
    measure=lambda cutter, place: ("runs", 1.0),
)

TURNED: SetUp[Cutter] = SetUp(
    key="flutes_turned",
    letter="R",
    short="Reversed",
    title="The same, turned half round in its holder",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.001,
    minutes=0.6,
    setting_minutes=4,
    wanted=1,
    is_signed=True,
    is_optional=True,
    is_proof=False,
    places=_places,
    row=lambda cutter, place: edge_row(cutter, place, -1.0),
    results=lambda cutter, taken: [],
    figure=lambda cutter, place: _figure(cutter, place, turned=True),
    refusal=lambda cutter, place, raw, system: beyond_indicator(raw, TURN_MOST_MM, system),
    steps=("Half a turn in the holder, as far in as before.", *STEPS[1:]),
    cautions=(TURN_BY_HAND,),
    tells="What is the cutter's and what is the holder's or the spindle's.",
    cannot_tell="Holder from spindle: the spindle's own survey does.",
    settles="whose the runout is",
    family="cutter",
    measure=lambda cutter, place: ("runs", 1.0),
)
SET_UPS = (FLUTES, TURNED)
