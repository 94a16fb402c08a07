"""A reading as text, in the unit it is read in."""

from __future__ import annotations

from trebb.core.survey.base import AnySetUp
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.units import UnitSystem, show_size, show_small, size_unit, small_unit


def reading_text(raw: float, s: AnySetUp, system: UnitSystem, *, unit: bool = False) -> str:
    """A raw reading as text, to the set-up's resolution."""
    if s.unit in RAW_UNITS:
        return RAW_UNITS[s.unit].show(raw, system, unit)
    if s.is_size:
        return show_size(raw, system, unit=unit)
    return show_small(
        raw,
        system,
        resolution_mm=s.resolution_mm if system is UnitSystem.INCH else 0.001,
        signed=s.is_signed,
        unit=unit,
    )


def reading_unit(s: AnySetUp, system: UnitSystem) -> str:
    """The unit a set-up's readings are shown in."""
    if s.unit in RAW_UNITS:
        return RAW_UNITS[s.unit].name(system)
    if s.is_size:
        return size_unit(system)[0]
    return small_unit(system)[0]
