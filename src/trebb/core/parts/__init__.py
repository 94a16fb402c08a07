"""Part families: one module each, holding its fields, sizes, checks and drawing.

A new family is one file and one name in its record (`core/families.py`).
"""

from functools import cache

from trebb.core.families import FAMILIES as RECORDS
from trebb.core.families import each
from trebb.core.parts.base import Check, Part, PartFamily, PartField, PartInputs, Section, SizeRow
from trebb.core.parts.drawing import drawing_of


@cache
def _by_key() -> dict[str, PartFamily]:
    found = (f for record in RECORDS.values() for f in each("parts", record.parts))
    return {f.key: f for f in found}


def family(key: str) -> PartFamily:
    """The part family of that key; raises KeyError for another."""
    return _by_key()[key]


def all_families() -> tuple[PartFamily, ...]:
    """Every part family."""
    return tuple(_by_key().values())


__all__ = [
    "Check",
    "Part",
    "PartFamily",
    "PartField",
    "PartInputs",
    "Section",
    "SizeRow",
    "all_families",
    "drawing_of",
    "family",
]
