"""Limits and fits, press and shrink fits, heat to slip."""

from trebb.core.fits.iso286 import Fit, Limits, fit, hole_limits, it_formula_um, it_um, shaft_limits
from trebb.core.fits.press import (
    CAST_IRON,
    STEEL,
    Elastic,
    PressFit,
    cool_shaft_to_slip_c,
    heat_hub_to_slip_c,
    press_fit,
    slip_at_limit_mm,
)

__all__ = [
    "CAST_IRON",
    "STEEL",
    "Elastic",
    "Fit",
    "Limits",
    "PressFit",
    "cool_shaft_to_slip_c",
    "fit",
    "heat_hub_to_slip_c",
    "hole_limits",
    "it_formula_um",
    "it_um",
    "press_fit",
    "shaft_limits",
    "slip_at_limit_mm",
]
