"""Part families: one module each, holding its fields, sizes, checks and drawing.

A new family is one file and one line in `FAMILIES`.
"""

from trebb.core.parts import dial, foot_parts, gib_parts, nut, screw, spindle_parts, thrust_collar
from trebb.core.parts.base import Check, Part, PartFamily, PartField, PartInputs, Section, SizeRow
from trebb.core.parts.drawing import drawing_of

FAMILIES: tuple[PartFamily, ...] = (
    screw.FAMILY,
    nut.FAMILY,
    thrust_collar.FAMILY,
    dial.FAMILY,
    *spindle_parts.FAMILIES,
    *gib_parts.FAMILIES,
    *foot_parts.FAMILIES,
)

_BY_KEY = {f.key: f for f in FAMILIES}


def family(key: str) -> PartFamily:
    """The part family of that key; raises KeyError for another."""
    return _BY_KEY[key]


__all__ = [
    "FAMILIES",
    "Check",
    "Part",
    "PartFamily",
    "PartField",
    "PartInputs",
    "Section",
    "SizeRow",
    "drawing_of",
    "family",
]
