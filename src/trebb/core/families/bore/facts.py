"""Facts of a bore."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import YES, Choice, Fact, Length, Number, Schema
from trebb.core.families.bore.subject import USES, Bore
from trebb.core.metals import FILES, MATERIALS


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Bore:
    return Bore(**values)


FACTS: tuple[Fact, ...] = (
    Length("dia_mm", "Bore, by name", low=2.0, high=400.0),
    Length("length_mm", "Length", low=3.0, high=1000.0),
    Length("outside_mm", "Metal round it", "Outside of the metal round it", low=4.0, high=1500.0),
    Choice("use", "Its mate", choices=USES),
    Number("rpm", "Turns at", low=0, high=10000, what="its speed, rpm,", unit=" rpm"),
    Choice("housing", "Metal", choices={key: m.label for key, m in MATERIALS.items()}),
    Choice(
        "has_repair",
        "Repaired before",
        "A bush, plug or weld is in it",
        choices=YES,
        convert=lambda v: v == "yes",
    ),
    Choice(
        "is_taper", "A taper", "That tools or a centre stand in", choices=YES, convert=lambda v: v == "yes"
    ),
    Choice("file", "A file in it", "Tried before a reamer goes in: hard, it ruins the reamer", choices=FILES),
)
SCHEMA = Schema(FACTS, _build)
