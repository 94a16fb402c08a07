"""Facts of a casting."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import YES, Choice, Fact, Force, Length, Schema
from trebb.core.families.casting.subject import EARLIER, HOLDS, METALS, Casting


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Casting:
    return Casting(**values)


def _yes(key: str, words: str, tip: str = "") -> Fact:
    return Choice(key, words, tip, choices=YES, convert=lambda v: v == "yes")


FACTS: tuple[Fact, ...] = (
    Choice("metal", "Metal", "A file, a magnet and a spark tell", choices=METALS),
    Choice("earlier", "Repaired before", "An old weld cracks again beside it", choices=EARLIER),
    Choice("holds", "It holds", choices=HOLDS),
    Length("section_mm", "Section", "Thickness where it is cracked", low=1.0, high=200.0),
    Length("width_mm", "Width there", low=2.0, high=1000.0),
    _yes("is_through", "In two pieces"),
    _yes("ends_found", "Ends found", "Both ends of the crack marked, by chalk and thin oil, or a penetrant"),
    _yes("is_oily", "Soaked with oil"),
    _yes("is_closed", "Closed hollow", "A hollow that nothing can leave bursts in the fire"),
    Length("bore_mm", "Bore beside it", "Its diameter; 0 for none", low=0.0, high=300.0),
    Length("bore_length_mm", "Bore's length", low=2.0, high=500.0),
    Length("boss_mm", "Boss round it", "0 where not said", low=0.0, high=500.0),
    Force("load_n", "Load across", "What it must bear across the crack; 0 where not said", high=200_000.0),
)
GROUPS = (
    ("What it is", ("metal", "earlier", "holds", "load_n")),
    ("The crack", ("section_mm", "width_mm", "is_through", "ends_found", "is_oily", "is_closed")),
    ("A bore beside it", ("bore_mm", "bore_length_mm", "boss_mm")),
)
SCHEMA = Schema(FACTS, _build, groups=GROUPS)
