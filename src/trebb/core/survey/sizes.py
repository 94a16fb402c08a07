"""Whether a size typed can be what is expected there."""

from __future__ import annotations

from trebb.core.units import UnitSystem, show_size
from trebb.core.words import large

# A tenths indicator has a range of a millimetre or less; more is a slip of the unit.
TURN_MOST_MM = 1.6


def wrong_size(expected_mm: float, most_share: float, raw_mm: float, system: UnitSystem) -> str:
    """Why a size cannot be, or "" where it lies within a share of what is expected."""
    if abs(raw_mm - expected_mm) <= most_share * expected_mm:
        return ""
    return (
        f"about {show_size(expected_mm, system)} is expected here; is the unit right, or is it stated "
        "wrong at Parts?"
    )


def beyond_indicator(raw_mm: float, most_mm: float, system: UnitSystem) -> str:
    """Why a reading cannot be one of a fine indicator, or ""."""
    if abs(raw_mm) <= most_mm:
        return ""
    how = "write 3 tenths, or .0003" if system is UnitSystem.INCH else "write 8 µm, or 0.008"
    return (
        f"more than {show_size(most_mm, system)} is beyond what this indicator reads; is the unit right? "
        f"{large(how)}"
    )
