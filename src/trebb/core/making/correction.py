"""A measured size while threading: what is left, and what can be done if too much is gone."""

from __future__ import annotations

from trebb.core.making.operations import SizeTarget
from trebb.core.units import UnitSystem, show_sizes, show_small

# Work warm from the cut reads large; steel over a 20 mm thread about 0.00023 mm a degree.
STEEL_EXPANSION = 11.5e-6


def warm_reading_mm(diameter_mm: float, above_c: float) -> float:
    """How much larger warm steel measures, mm."""
    return diameter_mm * STEEL_EXPANSION * above_c


def size_sentence(target: SizeTarget, value_mm: float, system: UnitSystem) -> tuple[str, str, str]:
    """Tone, head and text for a size measured on its way to a band: what is left on diameter and on radius,
    or what is gone.
    """
    band = target.band
    if band.holds(value_mm):
        return "within", f"Inside {show_sizes(band.low_mm, band.high_mm, system)}: stop.", ""
    left = (value_mm - band.middle_mm) * target.side
    if left > 0:
        how = f" on diameter, {show_small(left / 2, system)} on radius" if target.is_diameter else ""
        text = f"To the middle of the band: {show_small(left, system)}{how}. Let it cool before the last cut."
        return "near", f"{show_small(left, system)} still to take off.", text
    over = band.low_mm - value_mm if target.side > 0 else value_mm - band.high_mm
    text = (
        "Make the mating part to this size if it is not made yet; else knurl, sleeve or retaining compound, "
        "or the spare."
        if target.is_diameter
        else "Take the spare; on a gib a lining brings it back."
    )
    return (
        "beyond",
        f"{show_small(over, system)} too {'small' if target.side > 0 else 'large'}: past the band.",
        text,
    )
