"""Facts of a shaft."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from trebb.core.facts import YES, Choice, Fact, Length, Lengths, Schema, Torque, Words, no_system
from trebb.core.families.shaft.subject import DRIVES, SHIFTS, Shaft
from trebb.core.metals import FILES, MATERIALS
from trebb.core.stating.readers import angles_from

STEELS = {key: m.label for key, m in MATERIALS.items() if key in ("free_cutting", "carbon", "alloy_ht")}


def _build(kind: str, assembly: str, values: Mapping[str, Any]) -> Shaft:
    return Shaft(**values)


FACTS: tuple[Fact, ...] = (
    Length("length_mm", "Length over all", low=10.0, high=4000.0),
    Length("a_mm", "Left journal at", "Its middle, from the left end", low=0.0, high=4000.0),
    Length("b_mm", "Right journal at", "Its middle, from the left end", low=0.0, high=4000.0),
    Lengths(
        "at_mm", "Stations", "Where it is read, from the left end; five or more tell a kink from a curve",
        low=0.0, high=4000.0, most=12, ordered=True,
    ),
    Length("dia_mm", "Diameter between", "Where it would be pressed", low=2.0, high=300.0),
    Choice("held", "Turned", choices=SHIFTS),
    Words(
        "angles", "Angles", "How many, such as 8, or a list; four take three lobes for a bend",
        reader=angles_from, writer=no_system(angles_from), form="angles or their count",
        show=lambda value, system: "  ".join(f"{a:g}" for a in value or ()),
    ),
    Length("wheel_mm", "Rock read at radius", "Radius at which the wheel is rocked", low=3.0, high=500.0),
    Choice("drive", "Wheel held by", choices=DRIVES),
    Length("hub_mm", "Hub outside", low=4.0, high=500.0),
    Length("hub_length_mm", "Hub length", low=2.0, high=300.0),
    Length("key_length_mm", "Key length", "0 where there is none", low=0.0, high=300.0),
    Length("pin_mm", "Pin", "Its diameter; 0 where there is none", low=0.0, high=30.0),
    Length("square_mm", "Square", "Over its flats; 0 where there is none", low=0.0, high=100.0),
    Torque("torque_nm", "Carries", "Torque at work; 0 where not said", low=0, high=5000),
    Torque(
        "guards_nm", "Its shear pin guards", "What the weakest gear, nut or key behind stands; 0 not known",
        low=0, high=5000, applies=lambda shaft: shaft.drive == "shear_pin",
    ),
    Choice("steel", "Steel", choices=STEELS),
    Choice("file", "A file on it", "Tried in a place that does not matter", choices=FILES),
    Choice(
        "end_angle", "End thread's angle", "By the gauge that sits: 60° or 55°",
        choices={"": "not tried", "60": "60°", "55": "55°"},
    ),
    Choice("is_broken", "An end broken off", choices=YES, convert=lambda v: v == "yes"),
)  # fmt: skip
GROUPS = (
    ("What it carries", ("is_broken", "drive", "torque_nm", "guards_nm", "steel", "file", "end_angle")),
    (
        "How it lies to be read",
        ("length_mm", "a_mm", "b_mm", "at_mm", "dia_mm", "held", "angles", "wheel_mm"),
    ),
    ("Hub, key, pin and square", ("hub_mm", "hub_length_mm", "key_length_mm", "pin_mm", "square_mm")),
)
SCHEMA = Schema(FACTS, _build, groups=GROUPS)
