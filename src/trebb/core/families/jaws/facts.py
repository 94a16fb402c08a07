"""Facts of vise jaws and of an index plate."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import Choice, Fact, Length, Number, Schema
from trebb.core.families.jaws.subject import Jaws
from trebb.core.threads.fasteners import SCREWS


def _jaws(kind: str, assembly: str, values: Mapping[str, Any]) -> Jaws:
    return Jaws(**values)


JAW_FACTS: tuple[Fact, ...] = (
    Length("long_mm", "Plate, along", low=20.0, high=600.0),
    Length("high_mm", "Plate, height", low=8.0, high=300.0),
    Length("thick_mm", "Plate, thickness", low=3.0, high=80.0),
    Choice("screw", "Held by", choices=SCREWS),
    Length("apart_mm", "Screws apart", low=8.0, high=500.0),
    Length("up_mm", "Screws up", "Above the plate's lower edge", low=3.0, high=250.0),
    Length("top_long_mm", "Top, along", "Between the corners that are read", low=20.0, high=1000.0),
    Length("top_wide_mm", "Top, across", low=10.0, high=1000.0),
    Length("spare_mm", "May come off", "Off the top, at most", low=0.0, high=10.0),
    Number("marks", "Marks and holes", "How many in the top", low=0, high=60, whole=True),
    Length("mark_mm", "Largest mark", "Across", low=1.0, high=40.0),
)
GROUPS = (
    ("The plates", ("long_mm", "high_mm", "thick_mm")),
    ("Their screws", ("screw", "apart_mm", "up_mm")),
    ("The top", ("top_long_mm", "top_wide_mm", "spare_mm", "marks", "mark_mm")),
)
JAWS = Schema(JAW_FACTS, _jaws, groups=GROUPS)
