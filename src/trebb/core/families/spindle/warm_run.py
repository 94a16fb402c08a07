"""A warm run: temperature of the front bearing against time."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache

import numpy as np

from trebb.core.condition import Observation, Row
from trebb.core.errors import InputError
from trebb.core.families.spindle.figure import AXIS, frame, nose
from trebb.core.families.spindle.subject import Spindle
from trebb.core.figure import Arrow, Figure, Label, Role, line
from trebb.core.runout import WarmRun, settle
from trebb.core.safety import UNDER_POWER
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, SetUp
from trebb.core.units import UnitSystem

MINUTES = (0, 2, 4, 6, 8, 10, 12, 15, 20)
# Shop practice: over this rise the preload is too tight or the grease too much.
USUAL_RISE_C = 30.0


def minutes_of(place: str) -> float:
    """Time of a place, "8 min" → 8.0."""
    return float(place.split(" ")[0])


def observe(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """Warmth says nothing of the sources: it has its own verdict."""
    return []


def warm_run(taken: Sequence[PlaceReadings]) -> WarmRun | None:
    """Where it will settle; None until three times are read."""
    return _settled(tuple((minutes_of(p.place), sum(p.values) / len(p.values)) for p in taken if p.values))


@lru_cache(maxsize=32)
def _settled(points: tuple[tuple[float, float], ...]) -> WarmRun | None:
    """Fitted once for findings, picture and proof."""
    try:
        return settle([t for t, _ in points], [c for _, c in points])
    except InputError:
        return None


def stir(
    spindle: Spindle, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """A room of 17 °C; tight bearings run warm, slack ones cool."""
    rise = 16 + 10 * math.exp(-condition["slack"] / 0.004) + 3 * float(rng_of("rise").standard_normal())
    return 17 + rise * (1 - math.exp(-minutes_of(place) / 14)) + 0.3 * float(rng_of(place).standard_normal())


def refusal(spindle: Spindle, place: str, raw: float, system: UnitSystem) -> str:
    """Why a temperature cannot be a bearing's. `raw` in the set-up's own unit."""
    return "" if -10 <= raw <= 120 else "a bearing stands between −10 and 120 °C; is it degrees F? Write 95 F"


def figure(spindle: Spindle, place: str) -> Figure:
    """Where to hold the thermometer."""
    items = [
        *nose(wash="bearings"),
        line((133, 40), (150, 12), role=Role.BLUE),
        Label(
            (158, 18),
            "thermometer on the casting over the front bearing, always the same spot",
            Role.BLUE,
            "left",
        ),
    ]
    items += [
        Arrow((420, AXIS - 20), (420, AXIS + 20)),
        Label(
            (434, AXIS + 6), f"at {spindle.speed_rpm:.0f} rev/min, nothing in the spindle", Role.SOFT, "left"
        ),
    ]
    return frame(items)


SET_UP = SetUp[Spindle](
    key="warm_run",
    letter="H",
    short="Warm run",
    title="Warm run",
    instrument=InstrumentKind.THERMOMETER,
    unit="C",
    resolution_mm=0.5,
    minutes=2.4,
    setting_minutes=3,
    wanted=1,
    places=lambda spindle: tuple(
        Place(f"{m} min", f"{m} min", "at rest, before starting" if not m else "") for m in MINUTES
    ),
    row=lambda spindle, place: Row({}, 0.4),
    figure=figure,
    observe=observe,
    results=lambda spindle, taken: [],
    stir=stir,
    refusal=refusal,
    steps=(
        "Nothing in the spindle, guard shut, usual middle speed.",
        "Temperature at rest; start; read at the minutes shown.",
        "Listen: grade the noise in words, the same words after the repair.",
        "Stop at once if it climbs over 70 °C or starts to growl.",
    ),
    cautions=(
        UNDER_POWER,
        "A bearing can burn: touch the casting, not the nose.",
    ),
    tells="Where it will settle, from the first twenty minutes. Too warm: preload too tight or too much "
    "grease.",
    cannot_tell="Nothing of runout. A slack bearing runs cool.",
    settles="how warm it will run, and the noise",
    family="spindle",
    view="warm",
)
