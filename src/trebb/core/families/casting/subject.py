"""A casting that is cracked or broken: a bracket, a lever, a cover, an arm."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.units import is_inch_size

METALS = {
    "iron": "grey iron",
    "steel": "steel",
    "zinc": "zinc die casting",
    "aluminium": "aluminium",
    "bronze": "bronze",
}
EARLIER = {
    "none": "none",
    "weld": "welded once",
    "braze": "brazed once",
    "plate": "plated or pinned",
    "glue": "glued",
}
HOLDS = {
    "shape": "only its shape",
    "load": "a load of the cut or the feed",
    "lifts": "something that can fall",
}
CORNERS = ("corner 1", "corner 2", "corner 3", "corner 4")
ANGLES = (0, 45, 90, 135)


class Casting(Struct, frozen=True):
    """A casting as stated, mm.

    Parameters
    ----------
    metal, earlier, holds : keys of `METALS`, `EARLIER`, `HOLDS`.
    section_mm, width_mm : thickness and width where it is cracked.
    is_through : broken in two.
    ends_found : both ends of the crack were found and marked.
    is_oily, is_closed : soaked with oil; a hollow that nothing leaves.
    bore_mm, bore_length_mm, boss_mm : a bore beside the crack, its length and the boss round it; 0 without
        one.
    load_n : what it must bear across the crack; 0 where not said.
    """

    metal: str = "iron"
    earlier: str = "none"
    holds: str = "shape"
    section_mm: float = 8.0
    width_mm: float = 40.0
    is_through: bool = False
    ends_found: bool = False
    is_oily: bool = False
    is_closed: bool = False
    bore_mm: float = 0.0
    bore_length_mm: float = 25.0
    boss_mm: float = 0.0
    load_n: float = 0.0

    def __post_init__(self) -> None:
        if self.bore_mm and self.boss_mm and self.boss_mm <= self.bore_mm:
            raise InputError(
                f"a bore of {self.bore_mm:g} mm in a boss of {self.boss_mm:g} mm", "the boss is larger"
            )

    @property
    def is_inch(self) -> bool:
        """Whether its sizes are called in inches."""
        return is_inch_size(self.bore_mm or self.section_mm)


def casting_model(casting: Casting) -> ErrorModel:
    """Sources, mm: the crack's length and opening; the bore's mean and oval; the faces' corners."""
    sources = [
        Source("crack", "length of the crack", 15.0, 20.0, True),
        Source("open", "how far it opens", 0.1, 0.3, True),
    ]
    if casting.bore_mm:
        sources += [
            Source("bore", "bore", casting.bore_mm, 2.0),
            Source("oval.x", "bore out of round", 0.0, 0.05),
            Source("oval.y", "bore out of round", 0.0, 0.05),
        ]
    sources += [Source(corner, f"face at {corner}", 0.0, 0.10) for corner in CORNERS]
    return ErrorModel(tuple(sources))
