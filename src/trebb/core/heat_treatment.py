"""Heat treatment of small steel parts: what each kind of steel wants, and what it leaves; a data sheet
goes before.

Usual figures of the steel makers' sheets for the kinds a shop buys by name: temperatures in °C, hardness HRC.
"""

from __future__ import annotations

from msgspec import Struct

from trebb.core.errors import InputError


class HardeningSteel(Struct, frozen=True):
    """A steel that a small part is hardened in.

    `quench` what it is cooled in; `harden_c` temperature; `growth` share it grows at most; `tempers`
    colour, °C and the hardness that it leaves.
    """

    key: str
    label: str
    quench: str
    harden_c: tuple[int, int]
    full_hrc: int
    growth: float
    tempers: tuple[tuple[str, int, int], ...]


STEELS = {
    s.key: s
    for s in (
        HardeningSteel(
            "oil",
            "oil-hardening tool steel",
            "warm oil",
            (790, 820),
            63,
            0.0010,
            (("pale straw", 205, 61), ("dark straw", 240, 58), ("purple", 275, 55), ("blue", 300, 52)),
        ),
        HardeningSteel(
            "water",
            "water-hardening tool steel",
            "brine or water",
            (770, 800),
            65,
            0.0020,
            (("pale straw", 205, 62), ("dark straw", 240, 59), ("purple", 275, 56), ("blue", 300, 53)),
        ),
        HardeningSteel(
            "air",
            "air-hardening tool steel",
            "still air",
            (940, 970),
            62,
            0.0008,
            (("pale straw", 205, 60), ("dark straw", 240, 59), ("purple", 275, 57), ("blue", 315, 56)),
        ),
        HardeningSteel(
            "medium",
            "medium carbon steel",
            "oil, or water where it is thick",
            (820, 850),
            55,
            0.0015,
            (("straw", 230, 50), ("blue", 300, 45), ("grey, 480 °C", 480, 35)),
        ),
        HardeningSteel(
            "case",
            "mild steel, case hardened",
            "water, out of the compound",
            (880, 920),
            60,
            0.0005,
            (("pale straw", 180, 59),),
        ),
    )
}


def hardening_steel(key: str) -> HardeningSteel:
    """The steel of that key; raises InputError for another."""
    try:
        return STEELS[key]
    except KeyError:
        raise InputError(f"steel “{key}” to harden", f"known are {', '.join(STEELS)}") from None


def soak_minutes(thickness_mm: float) -> float:
    """At heat: about a minute a millimetre once it is through (practice), five at least."""
    return max(5.0, thickness_mm)


def temper_for(steel: HardeningSteel, wanted_hrc: float) -> tuple[str, int, int]:
    """The temper that leaves nearest to a hardness: colour, °C, HRC."""
    return min(steel.tempers, key=lambda t: abs(t[2] - wanted_hrc))


def growth_mm(steel: HardeningSteel, length_mm: float) -> float:
    """How much longer it may come out."""
    return steel.growth * length_mm
