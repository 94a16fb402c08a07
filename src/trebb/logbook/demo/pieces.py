"""The demo lathe's pieces: a thread-dial shaft bent by a knock, the tailstock's bore, two gibs of the
slides.
"""

from __future__ import annotations

import cmath
import math

from trebb.core.families.shaft.subject import Shaft, bend_key
from trebb.core.units import INCH_MM, THOU_MM
from trebb.logbook.log.entries import AssemblyAdded, Body, FactStated, Planted

SEED = 1971
DIAL_SHAFT, QUILL_BORE, BRAKE, BEVEL = "dial_shaft", "quill_bore", "brake_cone", "head_bevel"
# Facts as a shop states them, mm.
SHAFT_FACTS: tuple[tuple[str, str | float], ...] = (
    ("length_mm", 7 * INCH_MM),
    ("a_mm", 1.5 * INCH_MM),
    ("b_mm", 4 * INCH_MM),
    ("at_mm", "10 50 70 90 120 145 170"),
    ("dia_mm", 0.5 * INCH_MM),
    ("drive", "spring_pin"),
    ("pin_mm", 0.125 * INCH_MM),
    ("hub_mm", 1.0 * INCH_MM),
    ("hub_length_mm", 0.75 * INCH_MM),
    ("wheel_mm", 1.25 * INCH_MM),
    ("file", "bites"),
    ("steel", "free_cutting"),
)
BORE_FACTS: tuple[tuple[str, str | float], ...] = (
    ("dia_mm", 1.75 * INCH_MM),
    ("length_mm", 5 * INCH_MM),
    ("outside_mm", 3 * INCH_MM),
    ("use", "slides"),
)


def _shaft_condition() -> dict[str, float]:
    """Kinked beside its right journal, toward 70° by its mark: 2.4 mrad; the left journal worn, its bore
    too.
    """
    shaft = Shaft(
        length_mm=7 * INCH_MM, a_mm=1.5 * INCH_MM, b_mm=4 * INCH_MM, at_mm=(10, 50, 70, 90, 120, 145, 170)
    )
    toward = cmath.exp(1j * math.radians(70))
    found: dict[str, float] = {}
    for z in shaft.free:
        off = 0.0024 * max(0.0, z - 4 * INCH_MM) * toward
        found[f"{bend_key(z)}.x"], found[f"{bend_key(z)}.y"] = off.real, off.imag
    size = 0.4993 * INCH_MM
    for seat, wear, play in (("left", 1.4, 3.4), ("right", 0.4, 1.5), ("seat", 0.1, 0.4)):
        found[f"size.{seat}"] = size
        found[f"wear.{seat}"], found[f"play.{seat}"] = wear * THOU_MM, play * THOU_MM
    found.update({"float": 9 * THOU_MM, "joint": 4 * THOU_MM, "train": 14 * THOU_MM})
    return found


_BORE = {
    "unworn": 1.7503 * INCH_MM,
    "wear.mouth": 2.3 * THOU_MM,
    "wear.middle": 1.1 * THOU_MM,
    "wear.inner end": 0.2 * THOU_MM,
    "oval.mouth.x": 0.5 * THOU_MM,
    "oval.mouth.y": 0.4 * THOU_MM,
    "oval.middle.x": 0.2 * THOU_MM,
    "gap": 0.9 * THOU_MM,
}
_CROSS_GIB = {
    "gap.thin": 0.060,
    "gap.thick": 0.065,
    "worn.left": 0.030,
    "worn.mid": 0.012,
    "worn.right": 0.002,
    "stand": 1.5,
}
_COMPOUND_GIB = {
    "gap.thin": 0.020,
    "gap.thick": 0.022,
    "worn.left": 0.004,
    "worn.mid": 0.006,
    "worn.right": 0.003,
    "stand": 2.0,
}


# A headstock's brake whose lining is nearly at its rivets, and a mill head's bevel that whines.
BRAKE_FACTS: tuple[tuple[str, str | float], ...] = (
    ("asbestos", "no"),
    ("kind", "brake"),
    ("big_mm", 2.5 * INCH_MM),
    ("small_mm", 2.0 * INCH_MM),
    ("half_deg", 12.0),
    ("force_n", 350.0),
    ("torque_nm", 6.0),
    ("draw_mm", 2.0),
    ("body", "three"),
)
_BRAKE = {
    "cone.big": 2.47 * INCH_MM,
    "cone.small": 1.985 * INCH_MM,
    "cone.apart": 1.1 * INCH_MM,
    "cup.big": 2.504 * INCH_MM,
    "cup.small": 2.008 * INCH_MM,
    "cup.apart": 1.15 * INCH_MM,
    "draw": 0.7,
    "linkage": 4.0,
    "over": 0.25,
    "over.x": 0.10,
    "over.y": -0.05,
}
BEVEL_FACTS: tuple[tuple[str, str | float], ...] = (
    ("kind", "bevel"),
    ("teeth", 32.0),
    ("mate_teeth", 24.0),
    ("name", "DP12 14.5 full"),
    ("bore_mm", 0.875 * INCH_MM),
    ("hub_mm", 1.5 * INCH_MM),
    ("face_mm", 0.5 * INCH_MM),
    ("spacer_mm", 0.125 * INCH_MM),
    ("every", "yes"),
    ("metal", "steel"),
    ("mate_metal", "steel"),
)
_BEVEL = {
    "lash": 16 * THOU_MM,
    "once.x": 1.1 * THOU_MM,
    "once.y": 0.6 * THOU_MM,
    "seat.x": 0.3 * THOU_MM,
    "pinion.x": 0.3 * THOU_MM,
    "own": 1.0 * THOU_MM,
    "play": 0.4 * THOU_MM,
}


def bevel_bodies() -> list[Body]:
    """What adds the bevel to the mill's head, states it, and hides its condition."""
    return [
        AssemblyAdded(assembly=BEVEL, label="Head bevel", family="gear", under="head"),
        *[FactStated(assembly=BEVEL, field=f, value=v) for f, v in BEVEL_FACTS],
        Planted(assembly=BEVEL, seed=SEED, condition=dict(_BEVEL)),
    ]


def piece_bodies() -> list[Body]:
    """What adds the pieces to the lathe, states them, and hides their condition."""
    found: list[Body] = [
        AssemblyAdded(assembly=DIAL_SHAFT, label="Thread-dial shaft", family="shaft", under="apron"),
        AssemblyAdded(assembly=QUILL_BORE, label="Quill's bore", family="bore", under="tailstock"),
        AssemblyAdded(assembly=BRAKE, label="Brake cone", family="cone", under="headstock"),
    ]
    found += [FactStated(assembly=DIAL_SHAFT, field=f, value=v) for f, v in SHAFT_FACTS]
    found += [FactStated(assembly=QUILL_BORE, field=f, value=v) for f, v in BORE_FACTS]
    found += [FactStated(assembly=BRAKE, field=f, value=v) for f, v in BRAKE_FACTS]
    found += [
        Planted(assembly=DIAL_SHAFT, seed=SEED, condition=_shaft_condition()),
        Planted(assembly=QUILL_BORE, seed=SEED, condition=dict(_BORE)),
        Planted(assembly=BRAKE, seed=SEED, condition=dict(_BRAKE)),
        Planted(assembly="cross_gib", seed=SEED, condition=dict(_CROSS_GIB)),
        Planted(assembly="compound_gib", seed=SEED, condition=dict(_COMPOUND_GIB)),
    ]
    return found


# What has been read of them when the demo opens.
SHAFT_TAKEN = (
    ("shaft_turn", tuple(f"{z} mm, {a}°" for z in (145, 170) for a in range(0, 360, 45))),
    ("shaft_push", ("left", "left")),
)
BORE_TAKEN = (("bore_gauge", tuple(f"mouth, {a}°" for a in (0, 45, 90, 135))),)
BRAKE_TAKEN = (("cone_draw", ("draw",)),)
BEVEL_TAKEN = (("gear_rock", ("tooth 1", "tooth 9", "tooth 17", "tooth 25")),)
