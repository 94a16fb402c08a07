"""Whether a size typed can be what is expected there."""

from __future__ import annotations

from trebb.core.units import UnitSystem, show_size


def wrong_size(expected_mm: float, most_share: float, raw_mm: float, system: UnitSystem) -> str:
    """Why a size cannot be, or "" where it lies within a share of what is expected."""
    if abs(raw_mm - expected_mm) <= most_share * expected_mm:
        return ""
    return f"about {show_size(expected_mm, system)} is expected here; is the unit right, or is it stated wrong at Parts?"
