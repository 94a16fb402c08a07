"""A bore by gauge: four directions at three depths, the unworn ridge, its mate, and the play in place."""

from __future__ import annotations

import math
from collections.abc import Sequence

from trebb.core.condition import Z95, Row
from trebb.core.families.bore.subject import ANGLES, DEPTHS, Bore
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, box, line
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.angles import angle_words, split_place
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, Result, SetUp, lots_by_group
from trebb.core.survey.sizes import beyond_indicator

GAUGE_SD_MM, MATE_SD_MM, PUSH_SD_MM = 0.004, 0.003, 0.004
MOST_PLAY_MM = 5.0
RIDGE = "ridge"


def gauge_places(bore: Bore) -> tuple[Place, ...]:
    """Directions at each depth, and metal that nothing touched."""
    found = [
        Place(f"{depth}, {angle_words(a)}", angle_words(a), f"{bore.depth_mm(depth):.0f} mm deep", depth)
        for depth in DEPTHS
        for a in ANGLES
    ]
    return (*found, Place(RIDGE, "Unworn", "where its mate never reached", RIDGE))


def gauge_row(bore: Bore, place: str) -> Row:
    """A diameter: unworn size, wear, and B cos 2(θ - ψ) of the oval."""
    if place == RIDGE:
        return Row({"unworn": 1.0}, GAUGE_SD_MM)
    depth, angle = split_place(place)
    theta = 2 * math.radians(angle)
    return Row(
        {
            "unworn": 1.0,
            f"wear.{depth}": 1.0,
            f"oval.{depth}.x": math.cos(theta),
            f"oval.{depth}.y": math.sin(theta),
        },
        GAUGE_SD_MM,
    )


def gauge_results(bore: Bore, taken: Sequence[PlaceReadings]) -> list[Result]:
    """How far each depth stands over the unworn ridge at its widest, mm; nothing without the ridge."""
    read = {p.place: sum(p.values) / len(p.values) for p in taken if p.values}
    ridge = read.get(RIDGE)
    found = []
    for depth in DEPTHS:
        sizes = [v for key, v in read.items() if key.startswith(f"{depth}, ")]
        if ridge is not None and sizes:
            row = Row({f"wear.{depth}": 1.0}, GAUGE_SD_MM)
            half = Z95 * GAUGE_SD_MM * math.sqrt(2)
            found.append(Result(f"{depth}, over the ridge", max(sizes) - ridge, half, row))
    return found


def _section(washed: str) -> list[Item]:
    """The bore in section, its three depths."""
    items: list[Item] = [
        box(60, 24, 300, 26), box(60, 108, 300, 26), line((40, 79), (380, 79), role=Role.HATCH),
    ]  # fmt: skip
    for depth, share in zip(DEPTHS, (0.1, 0.5, 0.9), strict=True):
        x = 60 + 300 * share
        blue = depth == washed
        items.append(line((x, 50), (x, 108), role=Role.BLUE if blue else Role.SOFT))
        items.append(Label((x, 152), depth, Role.BLUE if blue else Role.SOFT))
    return items


def _face(angle: float | None) -> list[Item]:
    """The bore from its mouth, the gauge's line."""
    x, y, r = 500.0, 79.0, 48.0
    items: list[Item] = [Circle((x, y), 66), Circle((x, y), r)]
    if angle is not None:
        dx, dy = r * math.sin(math.radians(angle)), -r * math.cos(math.radians(angle))
        items.append(Arrow((x - dx, y - dy), (x + dx, y + dy), both_ways=True))
        items.append(Label((x, 158), f"{angle_words(angle)}, from the top clockwise", Role.BLUE))
    return items


def gauge_figure(bore: Bore, place: str) -> Figure:
    """Section with the depth, face with the direction."""
    if place == RIDGE:
        return Figure(
            640,
            164,
            (*_section(""), *_face(None), Label((210, 14), "the end its mate never reached", Role.BLUE)),
        )
    depth, angle = split_place(place)
    return Figure(640, 164, (*_section(depth), *_face(angle)))


def _depth_words(group: str) -> str:
    return "Unworn ridge" if group == RIDGE else f"Gauge at the {group}"


GAUGE: SetUp[Bore] = SetUp(
    key="bore_gauge",
    measure=lambda bore, place: ("wear", 1.0),
    letter="G",
    short="Gauge",
    title="Bore gauge",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.5,
    setting_minutes=4,
    wanted=1,
    places=gauge_places,
    lots=lots_by_group(gauge_places, _depth_words, 1.0),
    row=gauge_row,
    results=gauge_results,
    figure=gauge_figure,
    is_size=True,
    size_band_mm=lambda bore: 0.02,
    view="bore",
    steps=(
        "Gauge set by a micrometer or a ring near the size; paint and burrs off the mouth.",
        "Both ways and on the diagonals at each depth: rock for the smallest reading.",
        "Then the ridge or end that its mate never reached: the wear is against that.",
    ),
    cautions=(
        "Galling is knocked down with a hone only: no reamer into a bore that was not tried by a file.",
    ),
    tells="Size, oval, taper and wear, depth by depth.",
    cannot_tell="Three, five or seven lobes: a gauge with two points is blind to them. An indicator turned "
    "about the axis shows them.",
    settles="how the bore is worn",
    family="bore",
)

MATE: SetUp[Bore] = SetUp(
    key="bore_mate",
    measure=lambda bore, place: ("play", 1.0),
    letter="M",
    short="Mate",
    title="What goes in it",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.7,
    setting_minutes=2,
    wanted=2,
    places=lambda bore: (Place("0°", "Its diameter, 0°"), Place("90°", "Its diameter, 90°")),
    row=lambda bore, place: Row({"unworn": 1.0, "gap": -1.0}, MATE_SD_MM),
    results=lambda bore, taken: [],  # a size alone is neither better nor worse
    figure=lambda bore, place: Figure(
        640,
        164,
        (
            *_section(""),
            *_face(None),
            Circle((500, 79), 44, Role.BLUE),
            Label((500, 158), "micrometer on its mate", Role.BLUE),
        ),
    ),
    is_size=True,
    size_band_mm=lambda bore: 0.02,
    steps=(
        "The same micrometer that set the gauge.",
        "On the part that goes in, where it runs, both ways.",
        "Where it is worn it is smaller: the most worn place counts.",
    ),
    cautions=(),
    tells="The play that is left, and the size a bush must be finished to.",
    cannot_tell="Whether it runs true.",
    settles="the fit that is left",
    family="bore",
)

CONTACT: SetUp[Bore] = SetUp(
    key="bore_contact",
    asks=("file",),
    letter="B",
    short="Blue",
    title="Its taper with blue",
    instrument=InstrumentKind.EYE,
    unit="mm",
    resolution_mm=0.001,
    minutes=8,
    setting_minutes=3,
    wanted=1,
    places=lambda bore: (),
    row=lambda bore, place: Row({}, 1.0),
    figure=lambda bore, place: Figure(
        640,
        164,
        (
            *_section(""),
            Label((500, 79), "thin blue on a sound arbor", Role.BLUE),
            Label((500, 103), "in, a light twist, out", Role.BLUE),
        ),
    ),
    observe=lambda bore, taken: [],
    applies=lambda bore: bore.is_taper,
    steps=(
        "Clean it; thin blue on an arbor that is known to be sound, in, a light twist, straight out.",
        "Paint below where it took blue.",
        "Then a file in its mouth: does it bite? State it.",
    ),
    cautions=(LOCK_OUT,),
    tells="Whether it bears all along or at one end: blue and hardness come before any reamer.",
    cannot_tell="Whether it runs true.",
    settles="where the taper bears",
    family="bore",
    view="contact",
    is_proof=False,
)

PUSH: SetUp[Bore] = SetUp(
    key="bore_push",
    measure=lambda bore, place: ("push", 1.0),
    letter="P",
    short="Push",
    title="Play by push, in place",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=1,
    setting_minutes=3,
    wanted=3,
    places=lambda bore: (Place("mouth", "At the mouth", "up, then down"),),
    row=lambda bore, place: Row({"gap": 1.0, "wear.mouth": 1.0}, PUSH_SD_MM),
    figure=lambda bore, place: Figure(
        640,
        164,
        (
            *_section("mouth"),
            box(10, 64, 350, 30, role=Role.BLUE, wash=True),
            Indicator((30, 64), (0, -1)),
            Arrow((22, 98), (22, 130), both_ways=True),
            Label((470, 82), "press: zero; lift: read", Role.BLUE),
        ),
    ),
    refusal=lambda bore, place, raw, system: beyond_indicator(raw, MOST_PLAY_MM, system),
    applies=lambda bore: bore.use != "fixed",
    steps=(
        "Indicator on the shaft beside the mouth, its foot on the housing.",
        "Press: zero. Lift: read.",
        "Three times, not turning it between.",
    ),
    cautions=(LOCK_OUT,),
    tells="The play itself, before anything comes apart.",
    cannot_tell="Whether shaft or bore wore, and how it is deeper in.",
    settles="the play in place",
    family="bore",
)
