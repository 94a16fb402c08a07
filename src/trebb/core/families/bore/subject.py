"""A bore that something runs, slides or is held in: a quill's, a bush, a bearing's housing."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.units import is_inch_size

DEPTHS = ("mouth", "middle", "inner end")
ANGLES = (0.0, 45.0, 90.0, 135.0)
USES = {"turns": "turns in it", "slides": "slides in it", "fixed": "is held in it"}


class Bore(Struct, frozen=True):
    """A bore as stated, mm.

    Parameters
    ----------
    dia_mm, length_mm : its name and depth.
    outside_mm : of the metal round it, for a bush's press.
    use : what its mate does, a key of `USES`; rpm of what turns.
    housing : material round it, a key of `MATERIALS`.
    has_repair : a bush, plug or weld is in it already.
    is_taper : a taper that tools or a centre stand in; file what a file did in it, a key of `FILES`.
    """

    dia_mm: float = 25.0
    length_mm: float = 40.0
    outside_mm: float = 60.0
    use: str = "turns"
    rpm: float = 0.0
    housing: str = "iron"
    has_repair: bool = False
    is_taper: bool = False
    file: str = ""

    def __post_init__(self) -> None:
        if not self.dia_mm < self.outside_mm:
            raise InputError(
                f"a bore of {self.dia_mm:g} mm in {self.outside_mm:g} mm", "the metal round it is larger"
            )

    @property
    def is_inch(self) -> bool:
        """Whether its sizes are called in inches."""
        return is_inch_size(self.dia_mm)

    def depth_mm(self, name: str) -> float:
        """How deep a section lies: near each end and half way."""
        return self.length_mm * (0.1, 0.5, 0.9)[DEPTHS.index(name)]


def bore_model(bore: Bore) -> ErrorModel:
    """Sources, mm on diameter: unworn size; at each depth wear and the two parts of the oval; the gap to its
    mate as unworn, less than nothing where it is pressed.
    """
    gap = {"turns": 0.020, "slides": 0.015, "fixed": -0.010}[bore.use]
    sources = [Source("unworn", "unworn size", bore.dia_mm, 4.0)]
    for depth in DEPTHS:
        sources += [
            Source(f"wear.{depth}", f"wear at the {depth}", 0.010, 0.030, True),
            Source(f"oval.{depth}.x", f"oval at the {depth}", 0.0, 0.010),
            Source(f"oval.{depth}.y", f"oval at the {depth}", 0.0, 0.010),
        ]
    sources.append(Source("gap", "gap to its mate as unworn", gap, 0.030))
    return ErrorModel(tuple(sources))
