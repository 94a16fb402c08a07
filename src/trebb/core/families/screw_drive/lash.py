"""Lash at the handwheel, in dial divisions, along the travel."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.screw_drive.slide_figure import frame, slide_section
from trebb.core.families.screw_drive.stations import beyond_travel, drive_division_mm, station_places
from trebb.core.families.screw_drive.subject import ScrewDrive, felt_at_dial
from trebb.core.figure import Figure
from trebb.core.safety import LOCK_OUT_FEED
from trebb.core.survey.base import InstrumentKind, SetUp, station_of

# A hand feels the take-up to a little over half a division.
FEEL_DIVISIONS = 0.6


def row(drive: ScrewDrive, place: str) -> Row:
    """nut + wear under it + end float + key, mm of slide travel; of a nut that tips a part, and the float as
    it is when turned.
    """
    return Row(
        felt_at_dial(drive, station_of(place)),
        FEEL_DIVISIONS * drive.dial.division_mm,
    )


def figure(drive: ScrewDrive, place: str) -> Figure:
    """Handwheel turned both ways, the slide at the station."""
    return frame(slide_section(drive, station_of(place), wheel_turns=True))


SET_UP = SetUp(
    key="lash",
    asks=(
        "divisions",
        "reads",
    ),
    letter="A",
    short="Lash",
    title="Lash at the handwheel",
    instrument=InstrumentKind.HANDWHEEL,
    unit="div",
    resolution_mm=0.0127,
    minutes=1.5,
    setting_minutes=2,
    wanted=2,
    places=station_places,
    row=row,
    reduce=lambda drive, place, raw: raw * drive.dial.division_mm,
    restore=lambda drive, place, value: value / drive.dial.division_mm,
    figure=figure,
    steps=(
        "Bring the slide to the station, turning one way only.",
        "Turn on until the slide just moves; set the dial to zero.",
        "Turn back gently until the slide just moves again.",
        "Read the divisions the dial went through, to half a division.",
    ),
    cautions=(LOCK_OUT_FEED,),
    tells="All that is lost between hand and slide at each place: nut, screw, end float, key together.",
    cannot_tell="It cannot split them. Lash that grows toward the middle is screw wear; the rest stays one "
    "sum.",
    settles="the whole lash at each place",
    division_mm=drive_division_mm,
    applies=lambda drive: drive.has_dial,
    refusal=lambda drive, place, raw, system: beyond_travel(drive, place, raw * drive.dial.division_mm),
)
