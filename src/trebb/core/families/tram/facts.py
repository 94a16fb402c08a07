"""Facts of a head over its table."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import Fact, Length, Schema
from trebb.core.families.tram.subject import Tram


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Tram:
    return Tram(kind, **values)


FACTS: tuple[Fact, ...] = (
    Length("radius_mm", "Swept at radius", low=30.0, high=500.0),
    Length("square_mm", "Travel along square", low=30.0, high=800.0),
    Length("column_mm", "Column along square", low=50.0, high=1200.0),
    Length("bolts_mm", "Between bolts", low=20.0, high=900.0),
)
SCHEMA = Schema(FACTS, _build)
