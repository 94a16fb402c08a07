"""A vise or fixture with its jaws and top; an index plate with its detent."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.units import is_inch_size

CORNERS = ("front left", "front right", "back left", "back right")
PLATES = ("fixed, left", "fixed, right", "moving, left", "moving, right")


class Jaws(Struct, frozen=True):
    """A vise as stated, mm.

    Parameters
    ----------
    long_mm, high_mm, thick_mm : of a jaw plate now.
    screw : what holds it, a fastener's key; apart_mm between the two, up_mm above the plate's lower edge.
    top_long_mm, top_wide_mm : of the top that carries work, between the corners that are read.
    spare_mm : how much may come off the top at most.
    marks : holes and drill marks in it, how many; mark_mm the largest across.
    """

    long_mm: float = 100.0
    high_mm: float = 35.0
    thick_mm: float = 12.0
    screw: str = "m8"
    apart_mm: float = 60.0
    up_mm: float = 12.0
    top_long_mm: float = 120.0
    top_wide_mm: float = 100.0
    spare_mm: float = 0.5
    marks: int = 0
    mark_mm: float = 6.0

    def __post_init__(self) -> None:
        if self.up_mm >= self.high_mm:
            raise InputError(
                f"screws {self.up_mm:g} mm up a plate of {self.high_mm:g} mm", "lower, or a higher plate"
            )
        if self.apart_mm >= self.long_mm:
            raise InputError(
                f"screws {self.apart_mm:g} mm apart in a plate of {self.long_mm:g} mm", "nearer together"
            )

    @property
    def is_inch(self) -> bool:
        """Whether it is called in inches."""
        return is_inch_size(self.long_mm)


def jaws_model(jaws: Jaws) -> ErrorModel:
    """Sources, mm: the top's four corners over its base; the deepest mark; each end of either plate."""
    sources = [Source(f"top.{c}", f"top, {c}", 0.0, 0.10) for c in CORNERS]
    sources.append(Source("mark", "deepest mark", 0.3, 1.0, True))
    sources += [Source(f"plate.{p}", f"plate, {p}", jaws.thick_mm, 2.0) for p in PLATES]
    return ErrorModel(tuple(sources))
