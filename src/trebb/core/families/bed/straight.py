"""Straightness without a level: straightedge and feelers, an indicator against a reference bar, and the wear
ridge.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

import numpy as np

from trebb.core.condition import Row
from trebb.core.families.bed.figure import WAY, at, bed_front, carriage
from trebb.core.families.bed.levels import number_of
from trebb.core.families.bed.subject import WAYS, Bed, scaled
from trebb.core.figure import Arrow, Figure, Role, box, line
from trebb.core.safety import LOCK_OUT_CARRIAGE, LONG_EDGE
from trebb.core.survey.base import InstrumentKind, Lot, Place, SetUp
from trebb.core.survey.ground import frame, indicator_on, words_at
from trebb.core.survey.sharing import ZERO_MM, Unknowns, observe_sharing
from trebb.core.survey.sizes import beyond_indicator
from trebb.core.units import UnitSystem, show_size

FEELER_SD, BAR_SD, RIDGE_SD = 0.010, 0.0025, 0.004
BLOCK_MM = 0.50
MOST_GAP_MM = 2.0


def _stations(bed: Bed, group: str) -> list[Place]:
    return [Place(f"{group}, station {k}", f"Station {k}", "", group) for k in range(bed.steps + 1)]


def laid(bed: Bed, place: str) -> Unknowns:
    """How straightedge or bar was laid: a height, and a slope along the bed."""
    group, x = place.split(",")[0], bed.stations[number_of(place)]
    return {f"at {group}": (1.0, 2.0), f"slope {group}": (x / bed.length_mm, ZERO_MM)}


def laid_stir(
    bed: Bed, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """How it was laid this time. The condition by source, in mm."""
    group, x = place.split(",")[0], bed.stations[number_of(place)]
    return float(
        0.02 * rng_of(f"at/{group}").standard_normal()
        + 0.03 * x / bed.length_mm * rng_of(f"slope/{group}").standard_normal()
    )


# straightedge ---------------------------------------------------------------------------------


def edge_places(bed: Bed) -> tuple[Place, ...]:
    """Both ways at every station."""
    return tuple(p for way in WAYS for p in _stations(bed, f"{way} way"))


def edge_row(bed: Bed, place: str) -> Row:
    """Gap below the straightedge: its blocks' height less the way's."""
    return Row(
        scaled(bed.height(place.split(" ", 1)[0], bed.stations[number_of(place)]), -1.0), FEELER_SD, BLOCK_MM
    )


def edge_figure(bed: Bed, place: str) -> Figure:
    """A straightedge on two equal blocks, feelers below it."""
    k = number_of(place)
    x = at(bed, bed.stations[k])
    items = [
        *bed_front(bed, wash="ways", station=k),
        box(at(bed, 0) - 4, WAY - 26, at(bed, bed.length_mm) - at(bed, 0) + 8, 16, role=Role.BLUE),
    ]
    items += [
        box(at(bed, 0), WAY - 10, 10, 10),
        box(at(bed, bed.length_mm) - 10, WAY - 10, 10, 10),
        line((x, WAY - 6), (x + 34, WAY - 2), role=Role.BLUE),
    ]
    items.append(
        words_at(
            x,
            WAY - 36,
            f"straightedge on two equal blocks, {BLOCK_MM:g} mm; the gap by feelers",
            anchor="middle",
        )
    )
    return frame(items)


def edge_refusal(bed: Bed, place: str, raw: float, system: UnitSystem) -> str:
    """A gap is about the blocks' height. `raw` in the set-up's own unit."""
    return (
        f"the gap is about the blocks' height, {show_size(BLOCK_MM, system)}, not more than "
        f"{show_size(MOST_GAP_MM, system)}"
        if raw > MOST_GAP_MM
        else ""
    )


STRAIGHTEDGE: SetUp[Bed] = SetUp(
    key="straightedge",
    measure=lambda bed, place: ("straight_up", 1.0),
    letter="D",
    short="Edge",
    title="Straightedge and feelers",
    instrument=InstrumentKind.FEELERS,
    unit="mm",
    resolution_mm=0.01,
    minutes=0.8,
    setting_minutes=8,
    wanted=1,
    places=edge_places,
    row=edge_row,
    figure=edge_figure,
    observe=observe_sharing(lambda: STRAIGHTEDGE, laid),
    stir=laid_stir,
    refusal=edge_refusal,
    is_proof=False,
    is_size=True,
    lots=lambda bed: tuple(
        Lot(f"{w} way", f"Straightedge, {w} way", tuple(p.key for p in _stations(bed, f"{w} way")))
        for w in WAYS
    ),
    steps=(
        f"A straightedge on two equal blocks of {BLOCK_MM:g} mm at the unworn ends.",
        "At each station find the blades that just drag; at the ends they are the blocks.",
        "Turn the straightedge end for end if its own error is in doubt.",
    ),
    cautions=(f"{LONG_EDGE} Rest it at two ninths from its ends.",),
    tells="Height of each way below its ends.",
    cannot_tell="Nothing finer than a blade; a straightedge's own bow is read as the bed's.",
    settles="height of the ways, coarsely",
    family="ways",
)


# reference bar --------------------------------------------------------------------------------


def bar_places(bed: Bed) -> tuple[Place, ...]:
    """The carriage stopped at every station, read sideways."""
    return tuple(_stations(bed, "side"))


def bar_row(bed: Bed, place: str) -> Row:
    """A tool that goes to the front takes its indicator off the bar's front."""
    return Row(scaled(bed.tool_out(bed.stations[number_of(place)]), -1.0), BAR_SD)


def bar_figure(bed: Bed, place: str) -> Figure:
    """A bar laid parallel at centre height, the carriage's indicator on its front."""
    k = number_of(place)
    x = at(bed, bed.stations[k])
    items = [
        *bed_front(bed, station=k),
        box(at(bed, 0), 54, at(bed, bed.length_mm) - at(bed, 0), 10, role=Role.BLUE, wash=True),
        *carriage(x),
        *indicator_on(x, 64, top=False),
    ]
    items.append(words_at(x, 46, "reference bar at centre height; indicator on its front", anchor="middle"))
    return frame(items)


REFERENCE_BAR: SetUp[Bed] = SetUp(
    key="reference_bar",
    measure=lambda bed, place: ("straight_up", 1.0),
    letter="E",
    short="Bar",
    title="Carriage along a reference bar",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.4,
    setting_minutes=15,
    wanted=2,
    places=bar_places,
    row=bar_row,
    figure=bar_figure,
    observe=observe_sharing(lambda: REFERENCE_BAR, laid),
    stir=laid_stir,
    is_signed=True,
    is_proof=False,
    refusal=lambda bed, place, raw, system: beyond_indicator(raw, 1.6, system),
    steps=(
        "Lay a ground bar beside the axis at centre height, parallel to within the indicator's range.",
        "Indicator on the carriage, on the bar's front; stop at every station, coming from one side.",
        "Read there and back.",
    ),
    cautions=(LOCK_OUT_CARRIAGE,),
    tells="The tool's path sideways: what the work sees at first hand.",
    cannot_tell="It does not tell bent ways from a saddle that rolls; the level across does.",
    settles="the tool's path sideways",
    family="ways",
)


# ridge ----------------------------------------------------------------------------------------


def ridge_places(bed: Bed) -> tuple[Place, ...]:
    """Both ways at every station."""
    return tuple(p for way in WAYS for p in _stations(bed, f"{way} way"))


def ridge_row(bed: Bed, place: str) -> Row:
    """The unworn strip beside the worn part: wear at first hand."""
    return Row({f"{place.split(' ', 1)[0]}.{number_of(place)}": 1.0}, RIDGE_SD)


def ridge_figure(bed: Bed, place: str) -> Figure:
    """A finger indicator stepped off the unworn strip."""
    k = number_of(place)
    x = at(bed, bed.stations[k])
    items = [
        *bed_front(bed, wash="ways", station=k),
        *indicator_on(x, WAY, top=True),
        Arrow((x + 16, WAY - 6), (x + 34, WAY - 6), both_ways=True),
    ]
    items.append(
        words_at(
            x + 40 if x < 380 else x - 20,
            WAY - 22,
            "from the unworn strip onto the worn one",
            anchor="left" if x < 380 else "right",
        )
    )
    return frame(items)


RIDGE: SetUp[Bed] = SetUp(
    key="ridge",
    measure=lambda bed, place: ("way_wear", 1.0),
    letter="F",
    short="Ridge",
    title="Wear ridge",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.5,
    setting_minutes=4,
    wanted=1,
    places=ridge_places,
    row=ridge_row,
    figure=ridge_figure,
    refusal=lambda bed, place, raw, system: beyond_indicator(raw, 1.6, system),
    lots=lambda bed: tuple(
        Lot(f"{w} way", f"Wear ridge, {w} way", tuple(p.key for p in _stations(bed, f"{w} way")))
        for w in WAYS
    ),
    steps=(
        "Run a fingernail across: it catches at about 25 µm (1 thou). Note where it does at Intake.",
        "Indicator on a block that slides on unworn metal; step its finger from the unworn strip onto the "
        "way.",
        "Where no strip is left unworn, leave the station out: a level does the rest.",
    ),
    cautions=("Run the nail along a ridge, never along a fresh edge: it cuts.",),
    tells="Wear there, apart from any bend of the bed.",
    cannot_tell="Where the strip itself is worn it reads too little.",
    settles="wear, apart from bend",
    family="ways",
)
