"""A flat way or table read as a map: stations along by rows across."""

from __future__ import annotations

from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.units import is_inch_size

if TYPE_CHECKING:
    from numpy.typing import NDArray

AGAINST = {
    "straightedge": "a straightedge on blocks, row by row",
    "plate": "a surface plate under the indicator",
    "level": "steps of a level, worked out to heights",
}


class WayMap(Struct, frozen=True):
    """A surface as stated, mm.

    Parameters
    ----------
    along, across : places read; along_mm, across_mm from one to the next.
    against : a key of `AGAINST`.
    pass_mm : what one pass of the scraper takes.
    spare_mm : how far it may come down at most.
    """

    along: int = 5
    across: int = 2
    along_mm: float = 100.0
    across_mm: float = 60.0
    against: str = "plate"
    pass_mm: float = 0.003
    spare_mm: float = 0.5

    @property
    def keys(self) -> tuple[tuple[int, int], ...]:
        """Row and station of each place, row by row."""
        return tuple((r, s) for r in range(1, self.across + 1) for s in range(1, self.along + 1))

    @property
    def points(self) -> NDArray[np.float64]:
        """Where they lie, (n, 2)."""
        return np.array([[(s - 1) * self.along_mm, (r - 1) * self.across_mm] for r, s in self.keys])

    @property
    def is_inch(self) -> bool:
        """Whether it is called in inches."""
        return is_inch_size(self.along_mm)


def place_of(row: int, station: int) -> str:
    """How a place is named: "row 1, station 3"."""
    return f"row {row}, station {station}"


def way_model(way: WayMap) -> ErrorModel:
    """Sources, mm: height of each place over the plane that it was set to."""
    return ErrorModel(tuple(Source(f"high.{r}.{s}", f"row {r}, station {s}", 0.0, 0.06) for r, s in way.keys))
