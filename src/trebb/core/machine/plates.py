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


class IndexPlate(Struct, frozen=True):
    """An index plate as stated, mm.

    Parameters
    ----------
    holes, circle_mm : how many and on what circle (diameter); detent_mm the pin's size.
    divisions : what it is wanted for; ratio of the worm, 1 for a direct plate.
    work_mm : radius at which the work is cut.
    """

    holes: int = 24
    circle_mm: float = 90.0
    detent_mm: float = 5.0
    divisions: int = 24
    ratio: int = 1
    work_mm: float = 50.0
    outside_mm: float = 110.0
    bore_mm: float = 25.0
    thick_mm: float = 8.0

    def __post_init__(self) -> None:
        if (
            not self.bore_mm < self.circle_mm - 2 * self.detent_mm
            or self.circle_mm + self.detent_mm >= self.outside_mm
        ):
            raise InputError(
                f"a circle of {self.circle_mm:g} mm between {self.bore_mm:g} and {self.outside_mm:g} mm",
                "the holes stand clear of bore and rim",
            )

    @property
    def is_inch(self) -> bool:
        """Whether it is called in inches."""
        return is_inch_size(self.outside_mm)


def index_model(plate: IndexPlate) -> ErrorModel:
    """Sources, mm along the circle: each hole's place against the first; the detent's play."""
    sources = [Source(f"hole.{k}", f"hole {k}", 0.0, 0.05) for k in range(1, plate.holes + 1)]
    sources.append(Source("pin", "detent's play", 0.02, 0.05, True))
    return ErrorModel(tuple(sources))
