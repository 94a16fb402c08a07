"""Facts of a way read as a map."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import Choice, Fact, Length, Number, Schema, Small
from trebb.core.families.way.subject import AGAINST, WayMap


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> WayMap:
    return WayMap(**values)


FACTS: tuple[Fact, ...] = (
    Number("along", "Stations along", low=2, high=12, whole=True),
    Number("across", "Rows across", "1: a single way", low=1, high=6, whole=True),
    Length("along_mm", "From one to the next", low=5.0, high=1000.0),
    Length("across_mm", "Row to row", low=5.0, high=1000.0),
    Choice("against", "Read against", choices=AGAINST),
    Small("pass_mm", "A pass takes", "Of your scraper", low=0.0005, high=0.02),
    Length("spare_mm", "May come down", "At most", low=0.0, high=10.0),
)
SCHEMA = Schema(FACTS, _build)
