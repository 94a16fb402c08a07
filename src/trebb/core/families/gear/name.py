"""Sizes that name a gear: outside, depth, two spans, centres, and what a bought one must fit."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.errors import TrebbError
from trebb.core.families.gear.reading import HEIGHT, WIDTH, face_items
from trebb.core.families.gear.subject import Gear
from trebb.core.figure import Arrow, Figure, Label, Role, box
from trebb.core.gears.naming import GearSizes, Naming, name_gear
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.units import UnitSystem

SIZES_SD_MM = {"outside": 0.02, "depth": 0.08, "span": 0.012, "more": 0.012, "centres": 0.03, "bore": 0.006}
# Over how many teeth the first span goes: the handbook's number, by a 20° tooth.


def span_teeth(gear: Gear) -> int:
    """Over how many teeth the first span is read: in the middle of the flank for either pressure angle."""
    return max(2, int(gear.teeth * 17.0 / 180 + 0.5))


def name_places(gear: Gear) -> tuple[Place, ...]:
    """What is read, and over how many teeth."""
    k = span_teeth(gear)
    over = "at the large end" if gear.is_bevel else "over the tips, most of several"
    found = [Place("outside", "Outside diameter", over), Place("depth", "Whole depth", "tip to root")]
    if gear.kind in ("spur", "helical"):
        found += [
            Place("span", f"Span over {k} teeth", "jaws flat on two flanks, in their middle"),
            Place("more", f"Span over {k + 1} teeth", "the same place, one tooth more"),
        ]
    if not gear.is_bevel:
        found.append(Place("centres", "Centre distance", "between shafts, less half of each"))
    return (*found, Place("bore", "Bore", "both ways, the larger"))


def _figure(gear: Gear, place: str) -> Figure:
    items = face_items(gear, mate=place == "centres")
    words = {
        "outside": "over the tips",
        "depth": "depth gauge, tip to root",
        "bore": "bore, both ways",
        "span": f"disc jaws over {span_teeth(gear)} teeth",
        "more": f"disc jaws over {span_teeth(gear) + 1} teeth",
        "centres": "over both shafts, less half of each",
    }[place]
    if place in ("span", "more"):
        items += [
            box(150, 4, 6, 52, role=Role.BLUE, wash=True),
            box(226, 4, 6, 52, role=Role.BLUE, wash=True),
        ]
    elif place == "outside":
        items.append(Arrow((127, 82), (253, 82), both_ways=True))
    elif place == "centres":
        items.append(Arrow((190, 82), (290, 82), both_ways=True))
    return Figure(WIDTH, HEIGHT, (*items, Label((360, 76), words, Role.BLUE, "left")))


def _refusal(gear: Gear, place: str, raw: float, system: UnitSystem) -> str:
    most = 1500.0
    return (
        "" if 0 < raw < most else "a size of a gear is more than nothing and under 1.5 m; is the unit right?"
    )


NAME: SetUp[Gear] = SetUp(
    key="gear_name",
    letter="N",
    short="Name",
    title="Sizes that name it",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.005,
    minutes=1.0,
    setting_minutes=3,
    wanted=1,
    is_optional=True,
    places=name_places,
    row=lambda gear, place: Row({place: 1.0}, SIZES_SD_MM[place]),
    results=lambda gear, taken: [],  # sizes by which it is called, neither better nor worse
    figure=_figure,
    refusal=_refusal,
    is_size=True,
    size_band_mm=lambda gear: 0.1,
    view="gear_names",
    steps=(
        "Count the teeth, with a mark on the first: one too many and nothing fits.",
        "Spans with disc jaws, in the middle of the flanks, where it is least worn: one more tooth adds the "
        "base pitch, and wear cancels.",
        "Outside and depth are worn or turned down at times: they weigh less.",
    ),
    cautions=(),
    tells="Module or diametral pitch, pressure angle, full depth or stub; what its teeth have lost.",
    cannot_tell="Helix by outside alone under 15°: roll the inked tips on paper.",
    settles="what it is called",
    family="gear",
    is_proof=False,
)


def sizes_of(gear: Gear, read: dict[str, float]) -> GearSizes:
    """The sizes as the naming wants them, mm."""
    return GearSizes(
        gear.teeth,
        read.get("outside"),
        read.get("depth"),
        span_teeth(gear),
        read.get("span"),
        read.get("more"),
        gear.mate_teeth if gear.kind != "worm" else 0,
        read.get("centres"),
        gear.pitch_angles_deg[0],
        gear.trace_deg if gear.kind == "helical" else 0.0,
    )


def naming_of(gear: Gear, read: dict[str, float]) -> Naming | None:
    """Which gear it is by what was read; None while that is too little. Sizes in mm."""
    try:
        return name_gear(sizes_of(gear, read))
    except TrebbError:
        return None
