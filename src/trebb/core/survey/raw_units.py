"""What is read in something else than a length: how it is typed, shown and named. One line each."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.survey.base import AnySetUp
from trebb.core.units import (
    UnitSystem,
    parse_length,
    parse_number,
    parse_slope,
    parse_temperature,
    show_slope,
    slope_unit,
)


class RawUnit(Struct, frozen=True):
    """A unit of raw readings.

    Parameters
    ----------
    name(system) : the unit in words; `plain` in sentences about files.
    show(raw, system, unit) : text, with or without the unit.
    parse(text, system, set_up, subject) : raises InputError with what would do.
    hint(system) : what may be typed.
    turn(raw, subject, system) : where the pod's needle stands, in turns, and what its face is numbered in.
    """

    name: Callable[[UnitSystem], str]
    plain: str
    show: Callable[[float, UnitSystem, bool], str]
    parse: Callable[[str, UnitSystem, AnySetUp, Any], float]
    hint: Callable[[UnitSystem], str]
    turn: Callable[[float, Any, UnitSystem], tuple[float, str]]


def _tenths(unit: str) -> Callable[[float, UnitSystem, bool], str]:
    return lambda raw, system, named: f"{raw:.1f}{unit if named else ''}".replace("-", "−")


def _divisions(text: str, system: UnitSystem, s: AnySetUp, subject: Any) -> float:
    value, unit = parse_number(text)
    if not unit or unit.lower().startswith("div"):
        return value
    return parse_length(text, system, dial=getattr(subject, "dial", None)) / s.division_mm(subject)


def _count(text: str, system: UnitSystem, s: AnySetUp, subject: Any) -> float:
    value, unit = parse_number(text)
    if unit not in ("", "spots"):
        raise InputError(f"“{text.strip()}”", "count them: a whole number such as 8")
    return value


RAW_UNITS: dict[str, RawUnit] = {
    "div": RawUnit(
        lambda system: "divisions",
        "divisions",
        _tenths(" div"),
        _divisions,
        lambda system: "or type divisions, such as 24.5",
        lambda raw, subject, system: (raw / subject.divisions, f"of {subject.divisions} div"),
    ),
    "C": RawUnit(
        lambda system: "°C",
        "°C",
        _tenths(" °C"),
        lambda text, system, s, subject: parse_temperature(text),
        lambda system: "or type it: 31.5, or 89 F",
        lambda raw, subject, system: (raw / 100, "× 10 °C"),
    ),
    "mm/m": RawUnit(
        lambda system: slope_unit(system)[0],
        "mm per metre",
        lambda raw, system, named: show_slope(raw, system, unit=named),
        lambda text, system, s, subject: parse_slope(text, system),
        lambda system: (
            "or type it: -.5, or 8 arcsec" if system is UnitSystem.INCH else "or type it: -0.04, or 8 arcsec"
        ),
        lambda raw, subject, system: (
            (1.2 * raw, "× 1 thou/ft") if system is UnitSystem.INCH else (raw, "× 0.1 mm/m")
        ),
    ),
    "count": RawUnit(
        lambda system: "spots",
        "spots counted",
        lambda raw, system, named: f"{raw:.0f}{' spots' if named else ''}",
        _count,
        lambda system: "or type it: 8",
        lambda raw, subject, system: (raw / 50, "× 5 spots"),
    ),
}
