"""Slack in the drive coupler, by turning back and forth."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.spindle.figure import frame
from trebb.core.families.spindle.subject import Spindle
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, box, line
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Lot, Place, SetUp
from trebb.core.survey.sizes import beyond_indicator

RADIUS_MM = 25.4
SIDE = "side"


def row(spindle: Spindle, place: str) -> Row:
    """Play of the coupler at one inch radius, or sideways where the spindle's top stands in it, mm."""
    return Row({"coupler_side" if place == SIDE else "coupler": 1.0}, 0.012)


def figure(spindle: Spindle, place: str) -> Figure:
    """From below: an arm on the chuck, indicator at an inch."""
    items: list[Item] = [
        Circle((300, 76), 50),
        Circle((300, 76), 14),
        box(294, 22, 12, 40, role=Role.BLUE, wash=True),
        line((300, 76), (300, 26), role=Role.SOFT),
    ]
    items += [
        Indicator((306, 34), (1, 0)),
        Arrow((262, 30), (336, 24), both_ways=True),
        Label((430, 96), "an arm in the chuck, read 1 in (25.4 mm) from the axis", Role.SOFT, "left"),
        Label((120, 130), "pulley held", Role.SOFT),
    ]
    return frame(items)


SET_UP = SetUp[Spindle](
    key="coupler",
    measure=lambda spindle, place: ("coupler_side" if place == SIDE else "coupler", 1.0),
    letter="G",
    short="Coupler",
    title="Drive coupler, back and forth",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.0254,
    minutes=1,
    setting_minutes=3,
    wanted=3,
    places=lambda spindle: (
        Place("arm", "Arm at one inch (25.4 mm)", "pulley held; turn the chuck back, zero; forth, read"),
        Place(
            SIDE,
            "Spindle's top, to and fro",
            "indicator where it stands in the drive; push, zero; pull, read",
        ),
    ),
    lots=lambda spindle: (
        Lot("arm", "Drive coupler, back and forth", ("arm",)),
        Lot(SIDE, "Drive coupler, sideways", (SIDE,)),
    ),
    row=row,
    figure=figure,
    steps=(
        "Hold the pulley still, or put the machine in its lowest gear and block it.",
        "A straight arm in the chuck; indicator on it one inch (25.4 mm) from the axis.",
        "Turn the chuck gently back until it stops: zero. Forth until it stops: read.",
        "Sideways it is felt at the top: indicator on the spindle beside the drive, pushed to and fro by "
        "hand.",
    ),
    cautions=(f"{LOCK_OUT} The hand is in the chuck.",),
    tells="Wear of splines or driving dogs: it knocks in an interrupted cut and wears on from there.",
    cannot_tell="Nothing of runout.",
    settles="slack in the coupler",
    family="spindle",
    refusal=lambda spindle, place, raw, system: beyond_indicator(raw, 8.0, system),
    applies=lambda spindle: spindle.has_quill,
)
