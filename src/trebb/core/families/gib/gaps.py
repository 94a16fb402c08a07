"""A gib in its slot: feelers at both ends with the gib home, its stand-out, the slide's rock along the
travel, the saddle's drop, spots per inch.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

import numpy as np

from trebb.core.condition import Observation, Row
from trebb.core.families.gib.figure import blade, frame, push, slot
from trebb.core.families.gib.subject import ENDS, SPOT_SHORT, SPOT_WORDS, SPOTS, Slide, play
from trebb.core.figure import Arrow, Figure, Item, Label, Role, box
from trebb.core.safety import APRON, DOVETAIL, LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, Result, SetUp, lots_by_group
from trebb.core.survey.ground import words_at
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator
from trebb.core.units import UnitSystem, show_size

FEELER_SD, ROCK_SD, STAND_SD = 0.008, 0.004, 0.15
MOST_GAP_MM, MOST_STAND_MM, MOST_DROP_MM = 1.5, 60.0, 3.0
DROPS = {"rack": 0.06, "lead screw": 0.03, "feed rod": 0.05}
# A gib stopped early by the screw at its thin end leans: what the blade then finds more at its thick end.
STOPPED_LEAN_MM = 0.22


def gap_places(slide: Slide) -> tuple[Place, ...]:
    """Both ends, the slide at mid travel."""
    return tuple(
        Place(f"{end} end", f"{end.capitalize()} end", "slide at mid travel, gib fully home") for end in ENDS
    )


def gap_row(slide: Slide, place: str) -> Row:
    """Gap at an end where the slide stands."""
    return Row(play(place.split(" ")[0], "mid"), FEELER_SD)


def gap_refusal(slide: Slide, place: str, raw: float, system: UnitSystem) -> str:
    """A blade thicker than a gap can be. `raw` in the set-up's own unit."""
    return (
        f"no gib is that loose: more than {show_size(MOST_GAP_MM, system)}; is the unit right?"
        if raw > MOST_GAP_MM
        else ""
    )


def gap_stir(
    slide: Slide, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """A gib that is not home leans until it was asked about and pushed in. The condition by source, in mm."""
    return (
        STOPPED_LEAN_MM
        if condition.get("stopped", 0.0) and slide.home != "yes" and place.startswith("thick")
        else 0.0
    )


def gap_figure(slide: Slide, place: str) -> Figure:
    """A blade at an end; below it how to know that the gib is home."""
    items = [*slot(wash=True), *blade(place.split(" ")[0])]
    items.append(
        words_at(
            320,
            160,
            "home: thin-end screw off two turns, pushed in by thumb until it stops, no blade enters under "
            "its "
            "head",
            anchor="middle",
            role=Role.INK,
        )
    )
    return frame(items)


FEELERS: SetUp[Slide] = SetUp(
    key="feelers",
    measure=lambda slide, place: ("play", 1.0),
    view="gib",
    letter="A",
    short="Feelers",
    title="Feelers at both ends of the gib",
    instrument=InstrumentKind.FEELERS,
    unit="mm",
    resolution_mm=0.01,
    minutes=1.0,
    setting_minutes=6,
    wanted=2,
    places=gap_places,
    row=gap_row,
    figure=gap_figure,
    refusal=gap_refusal,
    stir=gap_stir,
    steps=(
        "Back the screw at the thin end off two whole turns: a gib it stops early gives a false taper.",
        "Push the gib in by thumb until it stops; try a blade under its head: none must enter. Now it is "
        "home.",
        "Slide at mid travel: the thickest blade that goes in at the thin end, then at the thick end.",
        "Draw the gib, wipe it, push it home again and repeat.",
    ),
    cautions=(f"{LOCK_OUT} {DOVETAIL}",),
    tells="How much thickness the gib lacks at each end, and whether its taper still fits its slot.",
    cannot_tell="Wear of the slideways is in it as it is at mid travel: rock the slide at its ends.",
    settles="thickness lacking at both ends",
    family="gib",
)


def stand_figure(slide: Slide, place: str) -> Figure:
    """A depth caliper on the slide's end."""
    items = [
        *slot(wash=True, stand=26),
        Arrow((512, 124), (536, 124), both_ways=True),
        words_at(524, 140, "stands out", anchor="middle"),
    ]
    return frame(items)


STAND_OUT: SetUp[Slide] = SetUp(
    key="stand_out",
    letter="B",
    short="Stand-out",
    title="How far the gib stands out",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.02,
    minutes=0.5,
    setting_minutes=1,
    wanted=2,
    places=lambda slide: (
        Place(
            "as it ran",
            "As it ran",
            "at the thick end, before anything is touched",
        ),
        Place(
            "stand-out",
            "Pushed home",
            "at the thick end, gib home; less than nothing: it has gone in past flush",
        ),
    ),
    row=lambda slide, place: Row({"stand": 1.0, **({"off": 1.0} if place == "as it ran" else {})}, STAND_SD),
    figure=stand_figure,
    is_signed=True,
    is_proof=False,
    refusal=lambda slide, place, raw, system: (
        f"not more than {show_size(MOST_STAND_MM, system)} either way; is the unit right?"
        if abs(raw) > MOST_STAND_MM
        else ""
    ),
    steps=(
        "As it ran, first, before a screw is touched; then with the gib home, as for the feelers.",
        "Depth caliper from the slide's end to the gib's head.",
        "Gone in past flush counts as less than nothing.",
    ),
    cautions=(LOCK_OUT,),
    tells="How far it has been fed in over the years: that times its taper is the thickness it has lost. "
    "As it "
    "ran and home differ: it was backed off, and both ends were open by as much.",
    cannot_tell="Not whether gib or slot wore.",
    settles="how much adjustment is used up",
    family="gib",
)


def rock_places(slide: Slide) -> tuple[Place, ...]:
    """Both ends of the slide, at three places of its travel."""
    return tuple(
        Place(f"{spot}, {end} end", f"{end.capitalize()} end", SPOT_WORDS[spot], spot)
        for spot in SPOTS
        for end in ENDS
    )


def rock_row(slide: Slide, place: str) -> Row:
    """Play across at an end, the slide at a spot."""
    spot, end = place.split(", ")
    return Row(play(end.split(" ")[0], spot), ROCK_SD)


def rock_figure(slide: Slide, place: str) -> Figure:
    """An indicator across the slide's end, the slide pushed to and fro."""
    spot, end = place.split(", ")
    shift = {"left": -40.0, "mid": 0.0, "right": 40.0}[spot]
    x = (150.0 if end.startswith("thin") else 490.0) + shift
    items = [
        *slot(slide=spot),
        *push(x),
        words_at(320, 160, "pushed and pulled across; indicator opposite, on the dovetail", anchor="middle"),
    ]
    return frame(items)


ROCK: SetUp[Slide] = SetUp(
    key="rock",
    measure=lambda slide, place: ("play", 1.0),
    view="gib",
    letter="C",
    short="Rock",
    title="Rock of the slide",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.6,
    setting_minutes=5,
    wanted=2,
    places=rock_places,
    row=rock_row,
    figure=rock_figure,
    refusal=lambda slide, place, raw, system: beyond_indicator(raw, TURN_MOST_MM, system),
    lots=lots_by_group(rock_places, lambda spot: f"Rock at the {SPOT_SHORT[spot]} of travel", 4.0),
    steps=(
        "Gib set as it runs. Indicator on the fixed part, against one end of the slide, across.",
        "Push and pull that end across: what it swings through is the play there.",
        "Both ends, at mid travel and at both extremes.",
    ),
    cautions=(LOCK_OUT,),
    tells="Play along the travel: set free at its ends, a slide with worn ways is loose in the middle.",
    cannot_tell="Gap and wear at one place are one sum; it is their difference along the travel that shows.",
    settles="play along the travel",
    family="gib",
)


def drop_figure(slide: Slide, place: str) -> Figure:
    """Heights of the screw at its bearing and at the apron."""
    items: list[Item] = [
        box(70, 60, 40, 60),
        Label((90, 52), "bearing", Role.SOFT),
        box(110, 96, 420, 8),
        box(300, 50, 90, 64),
        Label((345, 44), "apron", Role.SOFT),
        box(330, 92, 30, 16, role=Role.BLUE, wash=True),
    ]
    items += [
        Arrow((240, 140), (240, 106)),
        Arrow((345, 140), (345, 110)),
        words_at(630, 158, f"height of the {place}: at its bearing, and at the apron", anchor="right"),
    ]
    return frame(items)


DROP: SetUp[Slide] = SetUp(
    key="drop",
    measure=lambda slide, place: ("drop", 1.0),
    letter="D",
    short="Drop",
    title="Drop of the saddle",
    instrument=InstrumentKind.HEIGHT,
    unit="mm",
    resolution_mm=0.02,
    minutes=2.5,
    setting_minutes=6,
    wanted=2,
    places=lambda slide: tuple(
        Place(name, name.capitalize(), "height at its bearing less height at the apron", "drop")
        for name in DROPS
    ),
    row=lambda slide, place: Row({"drop": 1.0}, DROPS[place]),
    figure=drop_figure,
    applies=lambda slide: slide.is_saddle,
    refusal=lambda slide, place, raw, system: (
        f"a saddle does not drop more than {show_size(MOST_DROP_MM, system)}; is the unit right?"
        if raw > MOST_DROP_MM
        else ""
    ),
    steps=(
        "Half nuts open. Height of the lead screw at its bearing, and where the half nuts hold it: the "
        "difference is the drop.",
        "The same for the feed rod against its hole in the apron.",
        "Rack: how much deeper its pinion stands than its teeth's full depth.",
    ),
    cautions=(APRON,),
    tells="How far saddle and apron have come down on worn ways.",
    cannot_tell="A bent lead screw reads as drop at one place: turn it.",
    settles="drop of the saddle",
    family="gib",
)


def spots_results(slide: Slide, taken: Sequence[PlaceReadings]) -> list[Result]:
    """Counts are not lengths: they are shown at Findings, not compared in mm."""
    return []


def spots_stir(
    slide: Slide, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """A gib that matches its slot was scraped to it; one that does not bears on few places. The condition by
    source, in mm.
    """
    mismatch = abs(condition.get("gap.thick", 0.0) - condition.get("gap.thin", 0.0))
    return max(1.0, 8.0 - mismatch / 0.004 + 1.2 * float(rng_of(f"spots/{place}").standard_normal()))


def no_observation(slide: Slide, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Spots say how well a face bears, nothing of its size."""
    return []


SPOTS_PER_INCH: SetUp[Slide] = SetUp(
    key="spots",
    letter="E",
    short="Spots",
    title="Spots counted in a square",
    instrument=InstrumentKind.COUNTING,
    unit="count",
    resolution_mm=1.0,
    minutes=1.0,
    setting_minutes=8,
    wanted=1,
    places=lambda slide: tuple(
        Place(f"spots, {where}", where.capitalize(), "count in a 25 mm square window")
        for where in ("thin end", "middle", "thick end")
    ),
    row=lambda slide, place: Row({}, 1.0),
    figure=lambda slide, place: frame(
        [
            *slot(wash=True),
            box(300, 88, 24, 24, role=Role.BLUE),
            words_at(320, 160, "a square window of 25 mm; count the spots in it", anchor="middle"),
        ]
    ),
    observe=no_observation,
    stir=spots_stir,
    results=spots_results,
    is_proof=False,
    refusal=lambda slide, place, raw, system: (
        "spots are counted: a whole number up to 60" if raw > 60 or raw != int(raw) else ""
    ),
    steps=(
        "Thin blue on the dovetail, rub the gib on it.",
        "Lay a window of 25 mm square on the gib and count the spots.",
        "At both ends and in the middle.",
    ),
    cautions=(DOVETAIL,),
    tells="How well it bears: 5 to 10 for a slide, more for toolroom work; under 3 it floats on oil or on "
    "dirt.",
    cannot_tell="Not whether it is flat over its whole length: paint it.",
    settles="how well the gib bears",
    family="gib",
)
