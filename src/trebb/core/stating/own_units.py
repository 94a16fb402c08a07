"""Usual sizes of a piece in the system that its machine's sizes are called in."""

from __future__ import annotations

from collections.abc import Collection
from typing import Any

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.threads.fasteners import LISTED
from trebb.core.units import INCH_MM

# Steps that sizes are called in: from so many mm on, in inches and in mm.
STEPS = ((12.0, INCH_MM / 16, 1.0), (3.0, INCH_MM / 32, 0.5), (0.0, INCH_MM / 64, 0.1))


def called_mm(mm: float, *, inch: bool) -> float:
    """The size nearest to one that is called so: sixteenths, thirty-seconds or sixty-fourths, or whole, half
    or tenth millimetres. Both in mm.
    """
    _, of_inch, of_mm = next(step for step in STEPS if mm >= step[0])
    step = of_inch if inch else of_mm
    return max(1, round(mm / step)) * step


def in_own_units(subject: Any, stated: Collection[str], *, inch: bool) -> Any:
    """A subject whose sizes that nobody stated are called in inches, or in millimetres; as it is, where a
    stated size has it otherwise, or the sizes would not go together.
    """
    if not hasattr(type(subject), "is_inch") or subject.is_inch == inch:
        return subject
    changed: dict[str, float | str] = {}
    for name in subject.__struct_fields__:
        value = getattr(subject, name)
        if name in stated:
            continue
        if name.endswith("_mm") and isinstance(value, float) and value > 0:
            changed[name] = called_mm(value, inch=inch)
        elif isinstance(value, str) and value in LISTED and LISTED[value].is_inch != inch:
            major = LISTED[value].major_mm
            alike = (key for key, screw in LISTED.items() if screw.is_inch == inch)
            changed[name] = min(alike, key=lambda key: abs(LISTED[key].major_mm - major))
    try:
        made = replace(subject, **changed)
    except InputError:
        return subject
    return made if made.is_inch == inch else subject
