"""The metals a part is made of: what each stands, how it cuts, how it grows. One table for every room.

Strengths are the usual *least* of bar as bought (EN 10277, EN 10025, EN 10083 for the steels, EN 12163 and
EN 1982 for the copper alloys, EN 1561 for iron, which goes by its tensile strength), rounded down; the
specific cutting forces are of a form tool at a fine feed, from the machining handbooks. A certificate goes
before them.
"""

from __future__ import annotations

from msgspec import Struct

from trebb.core.errors import InputError

STEEL_MODULUS_MPA = 207_000.0
# Of what a metal stands, what a wall is loaded with at most.
ALLOWED_SHARE = 2 / 3
# Shear that pins are loaded with at most, MPa: mild steel as a taper pin is, which shears first as it
# should; a hardened one pressed into a wrench and knocked by hand.
PIN_SHEAR_MPA = 180.0
HARD_PIN_MPA = 150.0
# Shear at which a pin breaks, MPa, for one that is to: *ultimate*, not what it is loaded with. Three quarters
# of the tensile strength of bright free-cutting bar, six tenths of half-hard brass (practice).
SHEARS_AT_MPA = {"free_cutting": 380.0, "brass": 240.0}


class Material(Struct, frozen=True):
    """A material as bought.

    hardness_hb : usual Brinell hardness; speed_m_min : turning speed with high-speed steel, m/min;
    expansion_per_c : growth, per °C; stands_mpa : yield, of iron the tensile strength, MPa;
    cutting_mpa : specific cutting force of a form tool, MPa; turning_mpa : of a turning tool at a chip 0.2 mm
    thick, MPa (practice); modulus_mpa : elastic, MPa; kg_dm3 : its density.
    """

    key: str
    label: str
    hardness_hb: int
    speed_m_min: float
    expansion_per_c: float
    stands_mpa: float
    cutting_mpa: float
    kg_dm3: float
    turning_mpa: float
    modulus_mpa: float

    @property
    def allowed_mpa(self) -> float:
        """What a wall of it is loaded with at most, MPa: two thirds of what it stands."""
        return ALLOWED_SHARE * self.stands_mpa


MATERIALS: dict[str, Material] = {
    m.key: m
    for m in (
        Material("free_cutting", "free-cutting steel", 160, 38, 11.5e-6, 250, 1700, 7.85, 2000, 207_000),
        Material("carbon", "medium carbon steel", 200, 28, 11.5e-6, 340, 2100, 7.85, 2300, 207_000),
        Material("alloy_ht", "alloy steel, heat treated", 290, 20, 11.5e-6, 650, 2600, 7.85, 2700, 207_000),
        Material("bronze", "leaded bronze", 75, 45, 18.0e-6, 120, 900, 8.9, 1100, 105_000),
        Material("al_bronze", "aluminium bronze", 170, 30, 16.5e-6, 240, 1300, 7.6, 1100, 115_000),
        Material("brass", "brass", 100, 60, 20.0e-6, 135, 800, 8.5, 800, 100_000),
        Material("iron", "grey cast iron", 190, 22, 10.5e-6, 135, 1300, 7.2, 1300, 110_000),
    )
}


def material(key: str) -> Material:
    """The material of that key; raises InputError for another."""
    try:
        return MATERIALS[key]
    except KeyError:
        raise InputError(f"material “{key}”", f"materials are {', '.join(MATERIALS)}") from None


FILES = {"": "not tried", "bites": "a file bites", "drags": "bites with force", "skates": "a file skates"}


# About what a file tells of hardness, HRC (practice): bites below 40, skates from 60 on.
FILE_HRC = {"bites": 25.0, "drags": 45.0, "skates": 60.0}
