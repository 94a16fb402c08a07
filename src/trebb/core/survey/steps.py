"""What an instrument reads to: stated with a reading, else as its figures fall."""

from __future__ import annotations

import contextlib
import math
from collections.abc import Mapping, Sequence
from typing import Any

from trebb.core.belief.repeats import ON_A_MARK, step_chances
from trebb.core.errors import InputError
from trebb.core.survey.base import AnySetUp, InstrumentKind, PlaceReadings
from trebb.core.units import (
    INCH_MM,
    THOU_MM,
    UnitSystem,
    parse_length,
    parse_number,
    show_small,
    small_unit,
)

# Steps of instruments as they are sold, mm, with how often each is met. Where nothing is stated the figures
# decide: so many places on the marks of a coarse one would be chance with a finer.
_INDICATOR = {
    0.1 * THOU_MM: 0.30, 0.5 * THOU_MM: 0.22, THOU_MM: 0.12, 0.001: 0.12, 0.002: 0.08, 0.01: 0.14, 0.02: 0.02,
}  # fmt: skip
_MICROMETER = {
    0.1 * THOU_MM: 0.4, 0.5 * THOU_MM: 0.05, THOU_MM: 0.15, 0.001: 0.13, 0.002: 0.05, 0.01: 0.2, 0.02: 0.02,
}  # fmt: skip
_CALIPER = {THOU_MM: 0.4, 0.5 * THOU_MM: 0.1, 0.01: 0.3, 0.02: 0.1, 0.05: 0.1}
_BLADES = {0.5 * THOU_MM: 0.2, THOU_MM: 0.3, 2 * THOU_MM: 0.03, 0.01: 0.25, 0.05: 0.15}
OFFERED: Mapping[InstrumentKind, Mapping[float, float]] = {
    InstrumentKind.INDICATOR: _INDICATOR,
    InstrumentKind.MICROMETER: _MICROMETER,
    InstrumentKind.CALIPER: _CALIPER,
    InstrumentKind.HEIGHT: _CALIPER | {0.1 * THOU_MM: 0.3},
    InstrumentKind.FEELERS: _BLADES,
}
DIVISIONS = {0.5: 0.6, 1.0: 0.3, 0.1: 0.1}  # a dial is read to half a division, to whole ones, or to tenths
ENOUGH_PLACES = 40  # that tell of a step all that there is to tell
FINER = 0.3  # of a set-up's noise: what is left of it, where its usual step makes most


def offered(s: AnySetUp) -> Mapping[float, float]:
    """Steps that the instrument of a set-up may have, in its own unit, each with how often it is met; none
    where it is not read to a step.
    """
    if s.unit == "div":
        return DIVISIONS
    return OFFERED.get(s.instrument, {}) if s.unit == "mm" else {}


def step_words(s: AnySetUp, raw: float) -> str:
    """A step of a set-up in words; `raw` in its own unit."""
    if s.unit == "div":
        return f"{raw:g} division" + ("" if raw <= 1 else "s")
    inch = is_inch_step(raw)
    return show_small(raw, UnitSystem.INCH if inch else UnitSystem.METRIC) if s.unit == "mm" else f"{raw:g}"


def step_offers(s: AnySetUp, subject: Any, system: UnitSystem) -> tuple[tuple[str, float], ...]:
    """Steps to choose from at a set-up, those of the shop's own system first: in words, and in mm."""
    to_mm = s.unit_mm(subject)
    steps = sorted(offered(s), key=lambda raw: (is_inch_step(raw) is not (system is UnitSystem.INCH), raw))
    return tuple((f"Reads to {step_words(s, raw)}", raw * to_mm) for raw in steps)


MOST_STEP_MM = 1.0


def read_step(s: AnySetUp, subject: Any, text: str, system: UnitSystem) -> float:
    """A step as typed, mm: what an instrument is read to. Raises InputError saying what would do."""
    to_mm = s.unit_mm(subject)
    if s.unit == "div":
        step = parse_number(text)[0] * to_mm
    else:
        step = parse_length(text, system, bare_mm=small_unit(system)[1])
    if not 0 < step <= MOST_STEP_MM:
        raise InputError(f"“{text.strip()}”", "what it is read to: .5 thou, .0001 in, 0.01 mm")
    return step


def found_step(s: AnySetUp, taken: Sequence[PlaceReadings]) -> float:
    """The step that figures are written to, in the set-up's unit, where nobody stated it; 0 where nothing
    tells.

    Each place counts once, for repeats of one place are of one size; what reads nothing lies on every mark,
    and counts for none. One figure between a step's marks rules it out.
    """
    places = [p for p in taken if any(p.values)]
    if not places:
        return 0.0
    steps = offered(s)
    values = [v for p in places for v in p.values]
    fitting = [step for step in steps if all(_is_on_mark(v, step) for v in values)]
    chances = step_chances([p.values[:1] for p in places[:ENOUGH_PLACES]], 1.0, fitting) if fitting else {}
    return max(chances, key=lambda step: steps[step] * chances[step], default=0.0)


def _is_on_mark(value: float, step: float) -> bool:
    return abs(value / step - round(value / step)) <= ON_A_MARK


def is_inch_step(step_mm: float) -> bool:
    """Whether an instrument with this step is one of inches."""
    in_tenths = step_mm / (0.1 * THOU_MM)
    return abs(in_tenths - round(in_tenths)) < ON_A_MARK


def whole_turns(s: AnySetUp, subject: Any, step: float) -> tuple[float, ...]:
    """What a turn miscounted would make at a set-up, in its unit: of its dial, the indicator's hand or the
    micrometer's thimble. `step` is what it reads to, in its unit.
    """
    if s.unit == "div":
        dial = getattr(subject, "dial", None)
        return (float(dial.divisions),) if dial is not None else ()
    if s.unit != "mm":
        return ()
    inch = is_inch_step(step or s.resolution_mm)
    if s.instrument is InstrumentKind.MICROMETER:
        return (0.025 * INCH_MM,) if inch else (0.5,)
    if s.instrument is InstrumentKind.INDICATOR:
        return (0.1 * INCH_MM,) if inch else (1.0,)
    return ()


def moved_mm(s: AnySetUp, subject: Any, p: PlaceReadings, by: float) -> float:
    """How far a place's reading goes in the row's mm where it is so much more, in the set-up's unit; 0 where
    it cannot be that.
    """
    value = p.values[0] if p.values else 0.0
    for sign in (1, -1):
        with contextlib.suppress(InputError):
            return abs(s.reduce(subject, p.place, value + sign * by) - s.reduce(subject, p.place, value))
    return 0.0


def step_mm(s: AnySetUp, subject: Any, p: PlaceReadings) -> float:
    """The step of a place's readings in the row's mm: what was stated or found, never finer than usual."""
    return moved_mm(s, subject, p, max(p.step, s.step(subject)))


def coarser_sd(taken: Sequence[PlaceReadings], usual_mm: float) -> float:
    """What a coarser step than the usual one adds to the noise of each reading, mm: uniform between marks."""
    step = max((p.step for p in taken), default=0.0)
    return math.sqrt(max(step**2 - usual_mm**2, 0.0) / 12)


def written_places(s: AnySetUp, step: float) -> int:
    """Figures after the point that readings of a step are written with in the set-up's unit; −1 where that is
    another unit's: a figure of inches kept in millimetres has no last two figures to swap.
    """
    if s.unit != "mm" or is_inch_step(step or s.resolution_mm):
        return -1
    return max(0, len(f"{step or s.resolution_mm:.6f}".rstrip("0").partition(".")[2]))
