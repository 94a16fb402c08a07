"""End float of the screw in its bearing."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.screw_drive.slide_figure import frame, slide_section
from trebb.core.families.screw_drive.stations import beyond_travel, drive_division_mm
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.figure import Arrow, Figure, Indicator
from trebb.core.survey.base import InstrumentKind, Place, SetUp

REPEAT_SD_MM = 0.005


def row(drive: ScrewDrive, place: str) -> Row:
    """End float alone, mm."""
    return Row({"float": 1.0}, REPEAT_SD_MM)


def figure(drive: ScrewDrive, place: str) -> Figure:
    """Indicator on the screw's own end; the screw pushed and pulled by the wheel."""
    items = [
        *slide_section(drive, None),
        Indicator((560, 104), (1, 0)),
        Arrow((20, 66), (56, 66), both_ways=True),
    ]
    return frame(items)


SET_UP = SetUp(
    key="end_float",
    asks=("divisions",),
    letter="C",
    short="End float",
    title="End float of the screw",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=1.5,
    setting_minutes=3,
    wanted=3,
    places=lambda drive: (Place("collar", "Screw's end", "plunger on the end or on a ball in its centre"),),
    row=row,
    figure=figure,
    steps=(
        "Back the slide off its ends so that the nut does not hold the screw.",
        "Indicator on the screw's own end, on a ball in the centre if it has one.",
        "Push the handwheel in: zero. Pull it out: read. Do not turn it.",
        "Take three; turn the screw a third between them.",
    ),
    cautions=("On the handwheel's rim you read its wobble, not the float.",),
    tells="The play between collar and bearing faces, by itself.",
    cannot_tell="Nothing of nut or screw. If it differs round the turn, a face is not square.",
    settles="end float from nut and screw",
    refusal=lambda drive, place, raw, system: beyond_travel(drive, place, raw),
    division_mm=drive_division_mm,
)
