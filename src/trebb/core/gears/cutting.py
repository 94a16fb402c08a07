"""Form cutters by number of teeth. Lengths mm, angles degrees."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError

# Fewest and most teeth of each cutter of the DP sets; the module sets count the other way.
_FULL = (
    (1, 135, 10**9),
    (2, 55, 134),
    (3, 35, 54),
    (4, 26, 34),
    (5, 21, 25),
    (6, 17, 20),
    (7, 14, 16),
    (8, 12, 13),
)
_HALVES = (
    (1.5, 80, 134), (2.5, 42, 54), (3.5, 30, 34), (4.5, 23, 25), (5.5, 19, 20), (6.5, 15, 16), (7.5, 13, 13),
)  # fmt: skip
FEWEST_CUT = 12


def virtual_teeth_helical(teeth: int, helix_deg: float) -> float:
    """z/cos³ β. Teeth, not a whole number."""
    return teeth / math.cos(math.radians(helix_deg)) ** 3


def cutter_number(teeth: float, cutters: str = "DP", *, halves: bool = False) -> float | None:
    """Number of the form cutter, by the whole part of the teeth; None under twelve, which no set cuts.
    Raises InputError for other cutters.

    `cutters` "DP" counts 1 = 135 to a rack, "module" the other way. With `halves` the closer half is taken.
    """
    if cutters not in ("DP", "module"):
        raise InputError(f"cutters “{cutters}”", "DP or module")
    whole = int(teeth + 1e-9)
    listed = (*_HALVES, *_FULL) if halves else _FULL
    found = next((number for number, low, high in listed if low <= whole <= high), None)
    if found is None:
        return None
    return found if cutters == "DP" else 9 - found


def cutter_words(teeth: float, cutters: str = "DP", *, halves: bool = False) -> str:
    """The same as text, "none" where there is none."""
    found = cutter_number(teeth, cutters, halves=halves)
    return "none" if found is None else f"{found:g}"


class Cut(Struct, frozen=True):
    """How a wheel is cut: cutter, depth of the cut, and by how much the span says to go deeper."""

    cutter: str
    depth_mm: float
    deeper_per_span: float
