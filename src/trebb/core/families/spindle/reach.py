"""The length or height of one tool, before the spindle comes out and after it is back."""

from __future__ import annotations

from collections.abc import Sequence

from trebb.core.condition import Observation, Row
from trebb.core.families.spindle.figure import frame, nose
from trebb.core.families.spindle.subject import Spindle
from trebb.core.figure import Arrow, Figure, Label, Role, line
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, SetUp

# One height on a good tool setter or height gauge: half a thou.
REACH_SD_MM = 0.013


def observe(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Nothing of the error: only where the nose stands."""
    return []


def figure(spindle: Spindle, place: str) -> Figure:
    """From a fixed face of the machine to the tool's end."""
    items = [
        *nose(bar=True),
        line((600, 30), (600, 140), role=Role.BLUE),
        line((152, 20), (152, 34), role=Role.BLUE),
        Arrow((152, 24), (600, 24), both_ways=True),
    ]
    items.append(Label((376, 18), "one tool, from a face of the machine that stays", Role.BLUE))
    return frame(items)


SET_UP = SetUp[Spindle](
    key="reach",
    letter="K",
    short="Tool length",
    title="Length of one tool",
    instrument=InstrumentKind.HEIGHT,
    unit="mm",
    resolution_mm=0.0127,
    minutes=2,
    setting_minutes=4,
    wanted=2,
    places=lambda spindle: (Place("tool", "One tool", "note which; the same one afterwards"),),
    row=lambda spindle, place: Row({}, REACH_SD_MM),
    figure=figure,
    observe=observe,
    results=lambda spindle, taken: [],
    stir=lambda spindle, condition, place, rng_of: 127.0 + float(0.05 * rng_of("reach").standard_normal()),
    steps=(
        "One tool that is kept: note its number.",
        "Quill up, or the turret at its stop. Measure to a face that will not be moved.",
        "Twice. After the spindle is back: the same tool, the same face.",
    ),
    cautions=(),
    tells="By how much every stored length shifts after the repair.",
    cannot_tell="Nothing of truth.",
    settles="the shift of every stored tool",
    family="spindle",
    is_size=True,
    size_band_mm=lambda spindle: 0.05,
)
