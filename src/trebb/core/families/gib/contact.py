"""A gib's contact with marking blue."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.gib.figure import frame as gib_frame
from trebb.core.families.gib.figure import slot
from trebb.core.families.gib.subject import Slide
from trebb.core.figure import Label, Role
from trebb.core.safety import DOVETAIL
from trebb.core.survey.base import InstrumentKind, SetUp

GIB = SetUp[Slide](
    key="gib_contact",
    letter="F",
    short="Blue",
    title="Gib's contact with marking blue",
    instrument=InstrumentKind.EYE,
    unit="mm",
    resolution_mm=0.001,
    minutes=10,
    setting_minutes=5,
    wanted=1,
    places=lambda slide: (),
    row=lambda slide, place: Row({}, 1.0),
    figure=lambda slide, place: gib_frame(
        [
            *slot(wash=True),
            Label(
                (320, 160),
                "thin blue on the dovetail; gib home, slide moved a hand's breadth to and fro, gib drawn "
                "straight out",
                Role.SOFT,
            ),
        ]
    ),
    observe=lambda slide, taken: [],
    steps=(
        "Thin blue on the dovetail's face.",
        "Gib home, slide moved a hand's breadth to and fro.",
        "Draw the gib straight out; paint below where it took blue.",
    ),
    cautions=(DOVETAIL,),
    tells="Where the gib bears: an end, an edge, the middle.",
    cannot_tell="How thick the gap is anywhere: feelers do.",
    settles="why it does not bear",
    family="gib",
    view="contact",
    is_proof=False,
)
