"""Taper gibs: from gaps at both ends to thickness, advance, shim, lining and a new gib. Lengths in mm."""

from trebb.core.gibs.taper_gib import (
    Ends,
    Gaps,
    NewGib,
    OffHome,
    TaperGib,
    backed_off_mm,
    not_home,
    sine_bar_height_mm,
)

__all__ = ["Ends", "Gaps", "NewGib", "OffHome", "TaperGib", "backed_off_mm", "not_home", "sine_bar_height_mm"]
