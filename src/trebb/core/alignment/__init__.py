"""Where a machine's ways and axes lie: levels, the two-collar cut, shims, scraping. Pure functions; lengths
in mm, angles in mrad (= mm/m).
"""

from trebb.core.alignment.levels import (
    ARCSEC_MM_M,
    Straightness,
    Twist,
    closing_error,
    endpoint_residuals,
    heights_from_slopes,
    least_squares_residuals,
    level_zero,
    minimum_zone,
    minimum_zones,
    straightness,
    twist,
)
from trebb.core.alignment.scraping import ScrapingPlan, liner_thickness_mm, scraping_plan
from trebb.core.alignment.shims import Pack, shim_pack
from trebb.core.alignment.two_collar import Feet, TwoCollar, taper_from_levels

__all__ = [
    "ARCSEC_MM_M",
    "Feet",
    "Pack",
    "ScrapingPlan",
    "Straightness",
    "Twist",
    "TwoCollar",
    "closing_error",
    "endpoint_residuals",
    "heights_from_slopes",
    "least_squares_residuals",
    "level_zero",
    "liner_thickness_mm",
    "minimum_zone",
    "minimum_zones",
    "scraping_plan",
    "shim_pack",
    "straightness",
    "taper_from_levels",
    "twist",
]
