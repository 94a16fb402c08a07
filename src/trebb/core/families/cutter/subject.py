"""A reamer or a milling cutter in its holder, its flutes at their true angles."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.metals import FILES
from trebb.core.units import is_inch_size

KINDS = {"reamer": "reamer", "taper": "taper reamer", "end_mill": "end mill", "drill": "drill or counterbore"}


class Cutter(Struct, frozen=True):
    """A cutter as stated, mm.

    Parameters
    ----------
    angles_deg : of its flutes; reamers are unequally spaced.
    dia_mm : its name; ratio N of a taper 1:N, 0 of a straight one.
    feed_mm : per tooth.
    hole_file : what a file did in the hole it was used on, a key of `FILES`.
    """

    kind: str = "reamer"
    angles_deg: tuple[float, ...] = tuple(60.0 * i for i in range(6))
    dia_mm: float = 12.0
    ratio: float = 0.0
    feed_mm: float = 0.05
    hole_file: str = ""

    def __post_init__(self) -> None:
        turned = {round(a % 360, 2) for a in self.angles_deg}
        if len(turned) < len(self.angles_deg) or len(turned) < 2:
            raise InputError(f"{len(self.angles_deg)} flutes", "two or more, each at its own angle")

    @property
    def is_inch(self) -> bool:
        """Whether it is called in inches."""
        return is_inch_size(self.dia_mm)

    @property
    def count(self) -> int:
        """Flutes."""
        return len(self.angles_deg)

    def turn(self, flute: int) -> tuple[float, float]:
        """cos and sin of a flute's angle; the first is 1. Without unit."""
        a = math.radians(self.angles_deg[flute - 1])
        return math.cos(a), math.sin(a)


def cutter_model(cutter: Cutter) -> ErrorModel:
    """Sources, mm: each edge over the nominal radius, about the shank's own axis; the holder off centre."""
    sources = [Source(f"edge.{k}", f"flute {k}", 0.0, 0.02) for k in range(1, cutter.count + 1)]
    sources += [Source(f"holder.{axis}", "holder or spindle off centre", 0.0, 0.02) for axis in ("x", "y")]
    return ErrorModel(tuple(sources))


__all__ = ["FILES", "KINDS", "Cutter", "cutter_model"]
