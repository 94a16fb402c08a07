"""What every part is: fields, sizes, checks and drawing. The parts of a family stand in its folder."""

from functools import cache

from trebb.core.parts.base import Check, Part, PartFamily, PartField, PartInputs, Section, SizeRow
from trebb.core.parts.drawing import drawing_of
from trebb.core.register import FAMILIES as RECORDS


@cache
def _by_key() -> dict[str, PartFamily]:
    found = (f for record in RECORDS.values() for f in record.each(record.parts))
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
