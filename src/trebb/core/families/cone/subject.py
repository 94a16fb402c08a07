"""A friction cone, a clutch's or a brake's, with its lining and the cup it goes into."""

from __future__ import annotations

from msgspec import Struct

from trebb.core.condition import ErrorModel, Source
from trebb.core.errors import InputError
from trebb.core.friction.cones import Cone

KINDS = {"clutch": "cone clutch", "brake": "cone brake"}
FACES = {
    "woven": "woven lining",
    "moulded": "moulded lining",
    "leather": "leather",
    "cork": "cork",
    "bare": "iron on iron, dry",
    "bronze": "bronze on iron, oiled",
}
# Friction of a face against an iron cup, dry and oiled: the lower of what handbooks give; a maker's sheet
# goes before.
FRICTION = {
    "woven": (0.30, 0.12),
    "moulded": (0.30, 0.10),
    "leather": (0.30, 0.12),
    "cork": (0.30, 0.20),
    "bare": (0.15, 0.07),
    "bronze": (0.15, 0.06),
}
ASBESTOS = {"": "not known", "no": "tested: none", "yes": "it is, or is taken to be"}


class FrictionCone(Struct, frozen=True):
    """A cone as stated, mm.

    Parameters
    ----------
    big_mm, small_mm, half_deg : its face by name; measured sizes go before.
    face : a key of `FACES`; oiled whether oil reaches it.
    asbestos : a key of `ASBESTOS`.
    force_n, torque_nm : what presses it, what it must hold; 0 where not said.
    draw_mm : how far it must still go in after it grips, to serve until the next look.
    over_mm : least lining wanted over its rivets.
    rivets, rows, rivet_mm, head_mm : of its lining; no rivets: bonded.
    lining_mm : thinnest of a new lining, at its small end.
    grooved, oil_grooves : worn in grooves; whether its face has grooves for oil.
    body : "one" piece, or "three" joined by a pin.
    """

    kind: str = "clutch"
    big_mm: float = 60.0
    small_mm: float = 48.0
    half_deg: float = 12.5
    face: str = "woven"
    oiled: bool = False
    asbestos: str = ""
    force_n: float = 0.0
    torque_nm: float = 0.0
    draw_mm: float = 2.0
    over_mm: float = 1.0
    rivets: int = 8
    rows: int = 1
    rivet_mm: float = 3.0
    head_mm: float = 6.0
    lining_mm: float = 3.0
    grooved: bool = False
    oil_grooves: bool = False
    body: str = "one"

    def __post_init__(self) -> None:
        if self.small_mm >= self.big_mm:
            raise InputError(
                f"a cone of {self.big_mm:g} and {self.small_mm:g} mm",
                "the larger end first: two alike give no angle",
            )
        if self.rivets and self.head_mm <= self.rivet_mm:
            raise InputError(
                f"heads of {self.head_mm:g} mm on rivets of {self.rivet_mm:g} mm", "the heads are larger"
            )

    @property
    def cone(self) -> Cone:
        """By name."""
        return Cone(self.big_mm, self.small_mm, self.half_deg)

    @property
    def mu(self) -> float:
        """Friction of its face. Without unit."""
        return FRICTION[self.face][1 if self.oiled else 0]

    @property
    def is_inch(self) -> bool:
        """Whether it is called in inches."""
        from trebb.core.units import is_inch_size

        return is_inch_size(self.big_mm)


def cone_model(cone: FrictionCone) -> ErrorModel:
    """Sources, mm: diameters of cone and cup at their two ends and how far apart these are; draw and linkage
    left; lining over the rivets, and how it differs round.
    """
    width = cone.cone.axial_mm
    sources = []
    for part in ("cone", "cup"):
        sources += [
            Source(f"{part}.big", f"{part}, large end", cone.big_mm, 8.0),
            Source(f"{part}.small", f"{part}, small end", cone.small_mm, 8.0),
            Source(f"{part}.apart", f"{part}, between the two", width, 8.0),
        ]
    sources += [
        Source("draw", "draw left", cone.draw_mm, 2.0),
        Source("linkage", "linkage left", 5.0, 4.0),
        Source("over", "lining over its rivets", cone.over_mm, 1.0),
        Source("over.x", "lining, one side against the other", 0.0, 0.3),
        Source("over.y", "lining, one side against the other", 0.0, 0.3),
    ]
    return ErrorModel(tuple(sources))
