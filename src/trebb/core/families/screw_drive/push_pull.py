"""The slide pushed and pulled against an indicator, the screw held."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.screw_drive.slide_figure import frame, indicator_on_slide, slide_section
from trebb.core.families.screw_drive.stations import beyond_travel, drive_division_mm, station_places
from trebb.core.families.screw_drive.subject import ScrewDrive, felt_when_shoved
from trebb.core.figure import Arrow, Figure
from trebb.core.survey.base import InstrumentKind, SetUp, station_of

REPEAT_SD_MM = 0.007  # two shoves by hand on a clean slide agree to about a quarter of a thou


def row(drive: ScrewDrive, place: str) -> Row:
    """nut + wear under it + end float + give of the slide, mm; a nut that tips does so in full."""
    return Row({**felt_when_shoved(drive, station_of(place)), "give": 1.0}, REPEAT_SD_MM)


def figure(drive: ScrewDrive, place: str) -> Figure:
    """Indicator on the slide's end, the slide pushed and pulled."""
    station = station_of(place)
    x = 176 + (station - 1) * 68.0
    items = [
        *slide_section(drive, station),
        indicator_on_slide(station),
        Arrow((x - 40, 48), (x + 40, 48), both_ways=True),
    ]
    return frame(items)


SET_UP = SetUp(
    key="push_pull",
    letter="B",
    short="Push, pull",
    title="Slide pushed and pulled, screw held",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=2,
    setting_minutes=4,
    wanted=2,
    places=station_places,
    row=row,
    figure=figure,
    steps=(
        "Stand the indicator on the saddle, plunger square on the slide's end, along the travel.",
        "Hold the screw still, by its handwheel or its last wheel. Push the slide away firmly and let go: "
        "zero.",
        "Pull it toward you as firmly and let go: read.",
        "Let the hand's force off before reading, or the slide's give is read too.",
    ),
    cautions=("Gib snug, not tight: a dragging gib hides play.",),
    tells="Nut, screw and end float without key and handwheel, to a tenth of a thou (2.5 µm).",
    cannot_tell="It cannot tell the nut from the screw, nor either from the end float.",
    settles="what key and handwheel add",
    refusal=lambda drive, place, raw, system: beyond_travel(drive, place, raw),
    division_mm=drive_division_mm,
)
