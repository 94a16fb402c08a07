"""A head over a table: is the spindle square to it, near and far, and does what carries it travel square."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source

REACH_MM = 300.0  # figures are given for this length, as acceptance tests do
CORNERS = {"left": (-1.0, 0.0), "right": (1.0, 0.0), "front": (0.0, -1.0), "back": (0.0, 1.0)}


class Tram(Struct, frozen=True):
    """A head and table as stated, mm.

    Parameters
    ----------
    kind : "mill" or "drill".
    radius_mm : at which the indicator is swept.
    square_mm : length of travel along the square.
    column_mm : length of the column along the square.
    bolts_mm : between the bolts of the head, or of the table's bracket, for the shim.
    """

    kind: str = "mill"
    radius_mm: float = 125.0
    square_mm: float = 200.0
    column_mm: float = 300.0
    bolts_mm: float = 180.0

    @property
    def has_knee(self) -> bool:
        """A mill's table travels on knee and saddle; a drill's stands on its bracket."""
        return self.kind == "mill"


def tram_model(tram: Tram) -> ErrorModel:
    """Sources: leans in mrad (x to the right, y to the back); sag of the table's top, and how much higher
    table and saddle stand under the spindle at the ends of their travel, in mm: ends that droop tip them up
    there.
    """
    wide = 0.20 if tram.has_knee else 0.50
    sources = [
        Source("tilt_x", "head leaning to the right", 0.0, wide),
        Source("tilt_y", "head leaning to the back", 0.0, wide),
        Source("travel_x", "travel out of square, sideways", 0.0, 0.10 if tram.has_knee else 0.30),
        Source("travel_y", "travel out of square, front to back", 0.0, 0.10 if tram.has_knee else 0.30),
        Source("sag", "wear of the table's top", 0.02, 0.03, True),
    ]
    if tram.has_knee:
        sources.append(Source("droop", "table drooping when run out", 0.0, 0.10))
        sources.append(Source("ends_x", "table tipped up at the ends of its travel", 0.0, 0.035))
        sources.append(Source("ends_y", "saddle tipped up at the ends of its travel", 0.0, 0.03))
    else:
        sources.append(Source("column_x", "column leaning to the right", 0.0, 0.30))
        sources.append(Source("column_y", "column leaning to the back", 0.0, 0.30))
    return ErrorModel(tuple(sources))
