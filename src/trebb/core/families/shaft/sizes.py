"""Sizes of a shaft's journals and seat, of what they run in, and what is felt of them in place."""

from __future__ import annotations

import math
from collections.abc import Sequence

from trebb.core.condition import Z95, Row
from trebb.core.families.shaft.figure import AXIS, HALF, at, frame, seat_mm, side, words_at
from trebb.core.families.shaft.subject import SEATS, Shaft
from trebb.core.figure import Arrow, Figure, Indicator
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Lot, Place, PlaceReadings, Result, SetUp, lots_by_group
from trebb.core.survey.sizes import beyond_indicator

MICROMETER_SD_MM, BORE_SD_MM, PUSH_SD_MM, FLOAT_SD_MM = 0.003, 0.005, 0.004, 0.006
MOST_PLAY_MM = 5.0
BESIDE = "unworn"


def sizes_places(shaft: Shaft) -> tuple[Place, ...]:
    """Two directions on each seat, and metal beside it that nothing touched."""
    found = []
    for seat, words in SEATS.items():
        found += [
            Place(f"{seat}, 0°", f"{words.capitalize()}, 0°", "by its mark", seat),
            Place(f"{seat}, 90°", f"{words.capitalize()}, 90°", "square to it", seat),
            Place(f"{seat}, {BESIDE}", "Beside it, unworn", "where nothing ever ran", seat),
        ]
    return tuple(found)


def sizes_row(shaft: Shaft, place: str) -> Row:
    """A diameter: unworn size, less wear, and half the out-of-round one way or the other."""
    seat, spot = place.split(", ")
    if spot == BESIDE:
        return Row({f"size.{seat}": 1.0}, MICROMETER_SD_MM)
    half = 0.5 if spot == "0°" else -0.5
    return Row({f"size.{seat}": 1.0, f"wear.{seat}": -1.0, f"oval.{seat}": half}, MICROMETER_SD_MM)


def sizes_results(shaft: Shaft, taken: Sequence[PlaceReadings]) -> list[Result]:
    """How far each seat is worn under the unworn metal beside it, mm; nothing without that."""
    read = {p.place: sum(p.values) / len(p.values) for p in taken if p.values}
    found = []
    for seat, words in SEATS.items():
        sizes = [read[key] for key in (f"{seat}, 0°", f"{seat}, 90°") if key in read]
        beside = read.get(f"{seat}, {BESIDE}")
        if beside is not None and sizes:
            half = Z95 * MICROMETER_SD_MM * math.sqrt(1 + 1 / len(sizes))
            row = Row({f"wear.{seat}": 1.0}, MICROMETER_SD_MM)
            found.append(Result(f"{words}, worn", beside - sum(sizes) / len(sizes), half, row))
    return found


def _measure_of(shaft: Shaft, place: str) -> tuple[str, float]:
    seat = next((key for key, words in SEATS.items() if place.startswith((words, f"{key}, "))), "left")
    return f"wear.{seat}", 1.0


def _seat_words(group: str) -> str:
    return SEATS[group].capitalize()


def sizes_figure(shaft: Shaft, place: str) -> Figure:
    """A micrometer over the seat."""
    seat, spot = place.split(", ")
    x = at(shaft, seat_mm(shaft, seat)) + (38 if spot == BESIDE else 0)
    return frame(
        [
            *side(shaft, washed="" if spot == BESIDE else seat, held=False),
            Arrow((x, AXIS - HALF - 30), (x, AXIS - HALF - 2)),
            Arrow((x, AXIS + HALF + 30), (x, AXIS + HALF + 2)),
            words_at(
                60, 146, "micrometer, by the shaft's mark and square to it; then beside, where nothing ran"
            ),
        ]
    )


SIZES: SetUp[Shaft] = SetUp(
    key="shaft_sizes",
    measure=_measure_of,
    results=sizes_results,
    letter="J",
    short="Sizes",
    title="Journals and seat",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.7,
    setting_minutes=3,
    wanted=1,
    places=sizes_places,
    lots=lots_by_group(sizes_places, _seat_words, 1.0),
    row=sizes_row,
    figure=sizes_figure,
    is_size=True,
    size_band_mm=lambda shaft: 0.02,
    steps=(
        "Zero the micrometer on a standard near the size.",
        "Each seat in two directions; then beside it, where nothing ever ran.",
        "Read several times: the mean counts, and for a fit the worst of it.",
    ),
    cautions=(),
    tells="Wear and out-of-round of each seat, and its size for a fit.",
    cannot_tell="Three or five lobes: a micrometer is blind to them; turned in a V-block they show.",
    settles="the shaft's sizes",
    family="shaft",
)


def mates_places(shaft: Shaft) -> tuple[Place, ...]:
    """The bore that each seat goes in."""
    words = {"left": "Left bearing's bore", "right": "Right bearing's bore", "seat": "Wheel's bore"}
    return tuple(Place(key, words[key], "", key) for key in SEATS)


def mates_row(shaft: Shaft, place: str) -> Row:
    """A bore: what runs in it as worn, and the play."""
    return Row({f"size.{place}": 1.0, f"wear.{place}": -1.0, f"play.{place}": 1.0}, BORE_SD_MM)


def mates_figure(shaft: Shaft, place: str) -> Figure:
    """The bore that goes over the seat."""
    x = at(shaft, seat_mm(shaft, place))
    return frame(
        [
            *side(shaft, washed=place, held=False),
            Arrow((x, 20), (x, AXIS - HALF - 2)),
            words_at(60, 146, "bore gauge or small-hole gauge in what goes here, at the worst of it"),
        ]
    )


MATES: SetUp[Shaft] = SetUp(
    key="shaft_mates",
    measure=lambda shaft, place: (f"play.{place}", 1.0),
    letter="B",
    short="Bores",
    title="Bores that it runs in",
    instrument=InstrumentKind.MICROMETER,
    unit="mm",
    resolution_mm=0.00254,
    minutes=1.5,
    setting_minutes=4,
    wanted=2,
    places=mates_places,
    lots=lambda shaft: tuple(Lot(p.key, p.label, (p.key,), 1.0) for p in mates_places(shaft)),
    row=mates_row,
    results=lambda shaft, taken: [],  # a size alone is neither better nor worse
    figure=mates_figure,
    is_size=True,
    size_band_mm=lambda shaft: 0.03,
    steps=(
        "Gauge set by the same micrometer as the shaft.",
        "Deburr the mouth; paint and oil out.",
        "At its widest and across it: the worst of the bore counts for the play.",
    ),
    cautions=(),
    tells="Together with the journals: the play that is left, and what a new part must fit.",
    cannot_tell="Which of the two wore: that needs unworn metal beside each.",
    settles="the size that a new shaft must fit",
    family="shaft",
)


def push_places(shaft: Shaft) -> tuple[Place, ...]:
    """Each seat, in place."""
    words = {"left": "At the left bearing", "right": "At the right bearing", "seat": "Wheel on its seat"}
    return tuple(Place(key, words[key], "up, then down") for key in SEATS)


def push_figure(shaft: Shaft, place: str) -> Figure:
    """Lifted and pressed beside a bearing."""
    x = at(shaft, seat_mm(shaft, place))
    return frame(
        [
            *side(shaft, washed=place, held=False),
            Indicator((x + 34, AXIS - HALF), (0, -1)),
            Arrow((x - 34, AXIS + HALF + 4), (x - 34, AXIS + HALF + 40), both_ways=True),
            words_at(
                60, 150, "lift and press beside the bearing, indicator on the shaft against its housing"
            ),
        ]
    )


PUSH: SetUp[Shaft] = SetUp(
    key="shaft_push",
    measure=lambda shaft, place: (f"play.{place}", 1.0),
    letter="P",
    short="Push",
    title="Play by push, in place",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=1,
    setting_minutes=3,
    wanted=3,
    places=push_places,
    row=lambda shaft, place: Row({f"play.{place}": 1.0}, PUSH_SD_MM),
    figure=push_figure,
    refusal=lambda shaft, place, raw, system: beyond_indicator(raw, MOST_PLAY_MM, system),
    steps=(
        "Oil wiped out, indicator on the shaft beside the bearing, its foot on the housing.",
        "Press down: zero. Lift: read.",
        "Three times, not turning it between.",
    ),
    cautions=(LOCK_OUT,),
    tells="Shaft in bearing, wheel on seat: the play itself, before anything comes apart.",
    cannot_tell="Whether shaft or bore wore.",
    settles="the play in place",
    family="shaft",
)

FLOAT: SetUp[Shaft] = SetUp(
    key="shaft_float",
    measure=lambda shaft, place: ("float", 1.0),
    letter="F",
    short="End float",
    title="End float of the shaft",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.01,
    minutes=0.8,
    setting_minutes=2,
    wanted=3,
    places=lambda shaft: (Place("end", "Shaft's end", "push in: zero; pull out: read"),),
    row=lambda shaft, place: Row({"float": 1.0}, FLOAT_SD_MM),
    figure=lambda shaft, place: frame(
        [
            *side(shaft, held=False),
            Indicator((580, AXIS), (1, 0)),
            Arrow((300, 124), (360, 124), both_ways=True),
            words_at(60, 150, "indicator on the end, along the shaft; push and pull"),
        ]
    ),
    refusal=lambda shaft, place, raw, system: beyond_indicator(raw, MOST_PLAY_MM, system),
    steps=(
        "Indicator along the shaft on its end.",
        "Push: zero. Pull: read.",
        "Three times, at three marks.",
    ),
    cautions=(LOCK_OUT,),
    tells="What collars and washers leave along the shaft.",
    cannot_tell="Which of the faces wore.",
    settles="end float",
    family="shaft",
)
