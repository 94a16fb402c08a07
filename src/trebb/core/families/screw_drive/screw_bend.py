"""A bent screw: a dial on its crests while it turns."""

from __future__ import annotations

import math

from trebb.core.condition import Row
from trebb.core.families.screw_drive.slide_figure import thread_wires_figure
from trebb.core.families.screw_drive.stations import beyond_travel, station_places
from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive
from trebb.core.figure import Figure, Indicator, Label, Role
from trebb.core.survey.base import InstrumentKind, SetUp, station_of

REPEAT_SD_MM = 0.012  # crests are worn and bruised; a flat contact rides over them


def row(drive: ScrewDrive, place: str) -> Row:
    """A bow between its supports: full at the middle, sin along it, mm of the dial over a turn."""
    return Row({"bend": math.sin(math.pi * (station_of(place) - 0.5) / STATIONS)}, REPEAT_SD_MM)


def figure(drive: ScrewDrive, place: str) -> Figure:
    """Screw on vee blocks at its ends, a wide contact on its crests."""
    fraction = (station_of(place) - 0.5) * 0.9 / STATIONS
    base = thread_wires_figure(fraction, unworn=False, crest=True, thickness=False)
    kept = tuple(
        item
        for item in base.items
        if getattr(item, "role", None) is not Role.BLUE and item.__class__.__name__ != "Arrow"
    )
    x = 120 + 400 * fraction
    return Figure(
        base.width,
        base.height,
        (
            *kept,
            Indicator((x, 75), (0, -1)),
            Label(
                (x + 40, 28),
                "flat contact over two crests, one turn",
                Role.BLUE,
                "left" if x < 380 else "right",
            ),
        ),
    )


SET_UP = SetUp(
    key="screw_bend",
    letter="G",
    short="Bend",
    title="Screw turned under a dial",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=1.5,
    setting_minutes=8,
    wanted=1,
    places=station_places,
    row=row,
    figure=figure,
    steps=(
        "Screw on vee blocks near its ends, or in place with the half nuts open.",
        "A wide flat contact over two crests, square to the screw.",
        "Turn once, slowly; read the whole swing.",
    ),
    cautions=("Turn it by hand: a slack sleeve or rag winds in.",),
    tells="Whether the screw is bent, how much and where it is worst.",
    cannot_tell="A bruised crest jumps once a turn and is no bend: look.",
    settles="whether the screw is straight",
    is_proof=False,
    is_optional=True,
    refusal=lambda drive, place, raw, system: beyond_travel(drive, place, raw),
)
