"""An index plate with its detent."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.units import is_inch_size


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
