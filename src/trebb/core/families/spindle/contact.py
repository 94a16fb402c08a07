"""A taper's contact with marking blue."""

from __future__ import annotations

from collections.abc import Sequence

from trebb.core.condition import Observation, Row
from trebb.core.families.spindle.figure import AXIS, frame, nose
from trebb.core.families.spindle.subject import Spindle
from trebb.core.figure import Arrow, Figure, Label, Role
from trebb.core.survey.base import InstrumentKind, PlaceReadings, SetUp


def observe(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Contact is painted, not read."""
    return []


def figure(spindle: Spindle, place: str) -> Figure:
    """Blue on the bar, a light twist, out again."""
    items = [
        *nose(bar=True, wash="bar"),
        Arrow((300, AXIS - 26), (240, AXIS - 26)),
        Label(
            (310, AXIS - 22),
            "thin blue on three lines along the bar; seat, a quarter turn, out",
            Role.SOFT,
            "left",
        ),
    ]
    return frame(items)


SET_UP = SetUp[Spindle](
    key="contact",
    letter="I",
    short="Blue",
    title="Taper contact with marking blue",
    instrument=InstrumentKind.EYE,
    unit="mm",
    resolution_mm=0.001,
    minutes=10,
    setting_minutes=5,
    wanted=1,
    places=lambda spindle: (),
    row=lambda spindle, place: Row({}, 1.0),
    figure=figure,
    observe=observe,
    steps=(
        "Clean both tapers dry. Blue the bar as thin as a breath.",
        "Seat it lightly, turn a quarter, draw it out straight.",
        "Paint below where the taper took blue: mouse, or arrows and space.",
        "Once more with the bar turned half round: what turns with it is the bar's.",
    ),
    cautions=("Blue is for finding, not for fitting by: never lap a spindle with its bar.",),
    tells="Where the bar bears, and so why it does not repeat.",
    cannot_tell="How far out anything is.",
    settles="why the seat does not repeat",
    family="spindle",
    view="contact",
)
