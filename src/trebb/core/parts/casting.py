"""A bronze, brass or iron blank cast in a made mould: what to pour, and how large the pattern is."""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError


class Melt(Struct, frozen=True):
    """A metal as poured: density cold, g/cm³; contraction per length of the cold casting; pouring
    temperature, °C; draft wanted, rad.
    """

    key: str
    label: str
    density: float
    contraction: float
    pour_c: tuple[int, int]
    melts_c: int


MELTS: dict[str, Melt] = {
    m.key: m
    for m in (
        Melt("bronze", "tin or leaded bronze", 8.8, 0.0156, (1100, 1180), 1000),
        Melt("al_bronze", "aluminium bronze", 7.6, 0.0190, (1150, 1230), 1045),
        Melt("brass", "yellow brass", 8.5, 0.0156, (1010, 1090), 930),
        Melt("iron", "grey iron", 7.2, 0.0104, (1300, 1380), 1180),
    )
}
DRAFT = math.radians(2.0)


def cold_volume_cm3(mould_cm3: float, contraction: float) -> float:
    """Volume of the casting cold: V / (1 + s)³. `contraction` without unit, as a share."""
    return mould_cm3 / (1 + contraction) ** 3


def pattern_mm(size_mm: float, contraction: float) -> float:
    """Size of the pattern for a size of the cold casting: dim (1 + s). `contraction` without unit, as a
    share.
    """
    return size_mm * (1 + contraction)


def charge_g(casting_g: float, riser_share: float, melt_loss: float) -> float:
    """Metal to melt: mass (1 + r) / (1 − l), r riser and gates as a share of the casting, l lost of the
    charge. Raises InputError for a loss that leaves nothing.
    """
    if not 0 <= melt_loss < 1:
        raise InputError(
            f"a melt loss of {melt_loss:.0%}", "it is from nothing to below all of the charge; 3 % is usual"
        )
    return casting_g * (1 + riser_share) / (1 - melt_loss)


class CastBlank(Struct, frozen=True):
    """A round cored blank to cast, mm: the casting cold, the mould (its base and mouth by the draft), what
    to melt.

    `base_mm` is the mould's diameter at its knock-out base, `mouth_mm` at the
    top, wider by the draft so that the blank is knocked out.
    """

    melt: Melt
    outside_mm: float
    length_mm: float
    core_mm: float
    base_mm: float
    mouth_mm: float
    mould_length_mm: float
    mould_core_mm: float
    volume_cm3: float
    casting_g: float
    charge_g: float
    crucible_cm3: float


def cast_blank(
    melt_key: str,
    outside_mm: float,
    length_mm: float,
    core_mm: float,
    *,
    stock_mm: float = 3.0,
    riser_share: float = 0.35,
    melt_loss: float = 0.03,
) -> CastBlank:
    """Work out a blank. `melt_loss` as a share.

    Parameters
    ----------
    outside_mm, length_mm : finished sizes; `core_mm` the bore's minor diameter, 0 for a solid blank.
    stock_mm : to machine on each side; added before the contraction.

    Raises InputError where the core would leave no wall.
    """
    melt = MELTS.get(melt_key)
    if melt is None:
        raise InputError(f"“{melt_key}”", f"cast {', '.join(m.label for m in MELTS.values())}")
    outside, length = outside_mm + 2 * stock_mm, length_mm + 2 * stock_mm
    core = max(0.0, core_mm - 2 * stock_mm) if core_mm else 0.0
    if core < 6:
        core = 0.0  # a core thinner than a pencil burns in; bore it from the solid
    if core > outside - 8:
        raise InputError(f"a core of {core:.1f} mm in {outside:.1f} mm", "leave a wall of 4 mm at least")
    mould_length = pattern_mm(length, melt.contraction)
    base = pattern_mm(outside, melt.contraction)
    mouth = base + 2 * mould_length * math.tan(DRAFT)
    mould_core = pattern_mm(core, melt.contraction)
    cone = math.pi * mould_length / 12 * (base**2 + base * mouth + mouth**2)
    mould = (cone - math.pi / 4 * mould_core**2 * mould_length) / 1000
    mass = melt.density * cold_volume_cm3(mould, melt.contraction)
    charge = charge_g(mass, riser_share, melt_loss)
    return CastBlank(
        melt,
        outside,
        length,
        core,
        base,
        mouth,
        mould_length,
        mould_core,
        mould,
        mass,
        charge,
        1.5 * charge / melt.density,
    )


def foundry_request(blank: CastBlank, finished: str) -> str:
    """What a foundry would be asked instead, in a sentence."""
    return (
        f"One {blank.melt.label} blank, Ø {blank.outside_mm:.0f} × {blank.length_mm:.0f} mm as cast, "
        f"{'solid' if not blank.core_mm else f'cored Ø {blank.core_mm:.0f} mm'}, sound and free of sand, "
        f"to finish as {finished}; continuously cast bar of the same size would serve."
    )
