"""Facts of a friction cone."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import YES, Choice, Fact, Force, Length, Number, Schema, Torque
from trebb.core.families.cone.subject import ASBESTOS, FACES, KINDS, FrictionCone


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> FrictionCone:
    return FrictionCone(**values)


def _yes(key: str, words: str, tip: str = "") -> Fact:
    return Choice(key, words, tip, choices=YES, convert=lambda v: v == "yes")


FACTS: tuple[Fact, ...] = (
    Choice("asbestos", "Asbestos", "Old linings may be: do not scrape or blow; test first", choices=ASBESTOS),
    Choice("kind", "It is a", choices=KINDS),
    Length("big_mm", "Large end", "By name; measured sizes go before", low=5.0, high=600.0),
    Length("small_mm", "Small end", low=4.0, high=600.0),
    Number(
        "half_deg", "Half angle", "To the axis: half of what the two sides make", low=2, high=60, unit="°"
    ),
    Choice("face", "Face", choices=FACES),
    _yes("oiled", "Oil reaches it"),
    Force(
        "force_n", "Pressed by", "The spring or the lever, along the axis; 0 where not said", high=50_000.0
    ),
    Torque("torque_nm", "Must hold", "0 where not said", low=0, high=5000),
    Length("draw_mm", "Draw wanted", "How far it must still go in", low=0.0, high=30.0),
    Length("over_mm", "Over the rivets", "Least lining wanted over their heads", low=0.0, high=10.0),
    Number("rivets", "Rivets a row", "0: bonded", low=0, high=60, whole=True),
    Number("rows", "Rows", low=1, high=4, whole=True),
    Length("rivet_mm", "Rivet", low=1.0, high=10.0),
    Length("head_mm", "Its head", low=1.5, high=20.0),
    Length("lining_mm", "New lining", "At its thinnest", low=0.5, high=20.0),
    _yes("grooved", "Worn in grooves"),
    _yes("oil_grooves", "Grooves for oil", "Cut in the face, so that oil gets out"),
    Choice("body", "Its hub", choices={"one": "in one piece", "three": "in three, joined by a pin"}),
)
GROUPS = (
    ("What the lining is", ("asbestos", "kind", "face", "oiled", "body")),
    ("Its size", ("big_mm", "small_mm", "half_deg")),
    ("What it must hold", ("force_n", "torque_nm", "draw_mm")),
    (
        "New lining and its rivets",
        ("lining_mm", "over_mm", "rivets", "rows", "rivet_mm", "head_mm", "grooved", "oil_grooves"),
    ),
)
SCHEMA = Schema(FACTS, _build, groups=GROUPS)
