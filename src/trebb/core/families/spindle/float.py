"""End float of the spindle under push and pull."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.spindle.figure import AXIS, frame, nose
from trebb.core.families.spindle.subject import Spindle
from trebb.core.figure import Arrow, Figure, Indicator
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator


def row(spindle: Spindle, place: str) -> Row:
    """End float alone, mm."""
    return Row({"float": 1.0}, 0.002)


def figure(spindle: Spindle, place: str) -> Figure:
    """Indicator on the nose face along the axis."""
    return frame(
        [
            *nose(wash="bearings"),
            Indicator((190, AXIS - 18), (1, 0)),
            Arrow((240, AXIS + 36), (300, AXIS + 36), both_ways=True),
        ]
    )


SET_UP = SetUp[Spindle](
    key="spindle_float",
    measure=lambda spindle, place: ("float", 1.0),
    letter="F",
    short="End float",
    title="End float of the spindle",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=1,
    setting_minutes=2,
    wanted=3,
    places=lambda spindle: (Place("nose face", "Nose face", "push in: zero; pull out: read"),),
    row=row,
    figure=figure,
    steps=(
        "Indicator along the axis on the nose face, or on a ball in the centre.",
        "Push the spindle in with the full pull: zero. Pull it out: read.",
        "Three times, not turning it between push and pull.",
    ),
    cautions=(LOCK_OUT,),
    tells="What the bearings leave along the axis.",
    cannot_tell="Camming: that is the nose face over a turn.",
    settles="end float",
    family="spindle",
    refusal=lambda spindle, place, raw, system: beyond_indicator(raw, TURN_MOST_MM, system),
)
