"""Turns against travel, which gives the lead."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.screw_drive.slide_figure import frame, slide_section
from trebb.core.families.screw_drive.stations import drive_division_mm
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.figure import Arrow, Figure, Label, Role
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.sizes import wrong_size

REPEAT_SD_MM = 0.03


def row(drive: ScrewDrive, place: str) -> Row:
    """Travel = turns of the screw × lead, mm."""
    return Row({"lead": drive.turns / drive.ratio}, REPEAT_SD_MM)


def figure(drive: ScrewDrive, place: str) -> Figure:
    """Handwheel turned whole turns, travel measured."""
    items = [
        *slide_section(drive, None, wheel_turns=True),
        Arrow((228, 48), (396, 48)),
        Label((312, 40), f"{drive.turns} turns, one way", Role.BLUE),
    ]
    return frame(items)


SET_UP = SetUp(
    key="turns_travel",
    asks=("turns",),
    letter="D",
    short="Turns",
    title="Turns against travel",
    instrument=InstrumentKind.CALIPER,
    unit="mm",
    resolution_mm=0.0254,
    minutes=3,
    setting_minutes=2,
    wanted=2,
    places=lambda drive: (Place("travel", f"{drive.turns} turns", "always turning the same way"),),
    row=row,
    figure=figure,
    steps=(
        "Take up the lash, then measure from a fixed face to the slide.",
        "Turn whole turns by the dial (a lead screw by a chalk mark on its end), never backing up.",
        "Measure again; the reading is the difference.",
    ),
    cautions=("If you overshoot, go back more than the lash and come up again.",),
    tells="The lead of the screw, and so its pitch if the starts are known.",
    cannot_tell="Not the starts: count the thread beginnings at the screw's end.",
    settles="the lead of the screw",
    is_proof=False,
    is_size=True,
    size_band_mm=lambda drive: 0.06 * drive.thread.pitch_mm,
    refusal=lambda drive, place, raw, system: wrong_size(
        drive.turns / drive.ratio * drive.thread.lead_mm, 0.5, raw, system
    ),
    division_mm=drive_division_mm,
)
