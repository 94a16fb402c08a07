"""Facts of an index plate."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import Fact, Length, Number, Schema
from trebb.core.families.index_plate.subject import IndexPlate


def _index(kind: str, assembly: str, values: Mapping[str, Any]) -> IndexPlate:
    return IndexPlate(**values)


INDEX_FACTS: tuple[Fact, ...] = (
    Number("holes", "Holes", low=4, high=120, whole=True),
    Length("circle_mm", "Their circle", "Diameter through the holes' middles", low=10.0, high=600.0),
    Length("detent_mm", "Detent", low=1.0, high=30.0),
    Number("divisions", "Wanted", "Divisions of the work", low=2, high=400, whole=True),
    Number("ratio", "Worm", "Turns of the plate for one of the work; 1: direct", low=1, high=120, whole=True),
    Length("work_mm", "Work's radius", "Where it is cut", low=1.0, high=1000.0),
    Length("outside_mm", "Outside", low=15.0, high=700.0),
    Length("bore_mm", "Bore", low=2.0, high=400.0),
    Length("thick_mm", "Thickness", low=2.0, high=40.0),
)


INDEX = Schema(INDEX_FACTS, _index)
