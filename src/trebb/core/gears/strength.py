"""What a tooth carries: Lewis's form factors by the classic table, Barth's velocity factors. N, mm, MPa,
N·m.
"""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.gears.teeth import Spur

_TEETH = (12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 23, 25, 27, 30, 34, 38, 43, 50, 60, 75, 100, 150, 300)
# The machine-design handbooks' table of Lewis's y by number of teeth; it goes before the short formula.
_Y = {  # thousandths
    "14.5 full": (
        67, 71, 75, 78, 81, 84, 86, 88, 90, 92, 94, 97, 99, 101, 104,
        106, 108, 110, 113, 115, 117, 119, 122,
    ),
    "20 full": (
        78, 83, 88, 92, 94, 96, 98, 100, 102, 104, 106, 108, 111, 114, 118,
        122, 126, 130, 134, 138, 142, 146, 150,
    ),
    "20 stub": (
        99, 103, 108, 111, 115, 117, 120, 123, 125, 127, 130, 133, 136, 139, 142,
        145, 147, 151, 154, 158, 161, 165, 170,
    ),
}  # fmt: skip
_FORMULA = {"14.5 full": (0.124, 0.684), "20 full": (0.154, 0.912), "20 stub": (0.175, 0.841)}


class GearMetal(Struct, frozen=True):
    """What gears are made of, with the static tooth stress it is loaded with at most, MPa (practice)."""

    key: str
    label: str
    allowed_mpa: float


GEAR_METALS = {
    m.key: m
    for m in (
        GearMetal("zinc", "zinc die casting", 30),
        GearMetal("iron", "grey iron", 55),
        GearMetal("bronze", "phosphor bronze", 80),
        GearMetal("steel", "low-carbon steel", 140),
        GearMetal("alloy", "steel, heat treated", 240),
        GearMetal("case_hardened", "alloy steel, case hardened", 380),
    )
}


def lewis_y(teeth: float, form: str) -> float:
    """Lewis's Y = π y by the table, straight between its rows; beyond it, its ends. Raises InputError for an
    unknown system or fewer than twelve teeth.
    """
    if form not in _Y:
        raise InputError(f"tooth system “{form}”", f"known are {', '.join(_Y)}")
    if teeth < _TEETH[0]:
        raise InputError(f"{teeth:g} teeth", "the table begins at 12: an undercut tooth is weaker still")
    return math.pi * float(np.interp(teeth, _TEETH, _Y[form])) / 1000


def lewis_y_by_formula(teeth: float, form: str) -> float:
    """The short formula; good for 14.5° only, up to 9 % above the table for 20°."""
    a, b = _FORMULA[form]
    return math.pi * (a - b / teeth)


def pitch_speed_m_s(module_mm: float, teeth: float, rpm: float) -> float:
    """Speed at the pitch circle, m/s."""
    return math.pi * module_mm * teeth * rpm / 60_000


def velocity_factor(speed_m_s: float, made: str = "cut") -> float:
    """Barth: 6.1/(6.1 + v) for milled teeth, 3.05/(3.05 + v) for cast ones."""
    base = 3.05 if made == "cast" else 6.1
    return base / (base + speed_m_s)


def tooth_load_n(allowed_mpa: float, face_mm: float, module_mm: float, y: float) -> float:
    """σ b m Y: on one tooth, at its tip, at rest."""
    return allowed_mpa * face_mm * module_mm * y


def worn_load_n(load_n: float, thickness_left: float) -> float:
    """A worn tooth's: × (thickness left / new)²."""
    return load_n * thickness_left**2


def torque_nm(load_n: float, module_mm: float, teeth: float) -> float:
    """Torque on a wheel by its tooth load: W m z/2."""
    return load_n * module_mm * teeth / 2000


def face_for_torque(
    torque: float, module_mm: float, teeth: float, allowed_mpa: float, y: float, factor: float = 1.0
) -> float:
    """Face width, mm, that carries a torque: 2T/(m z σ m Y K_v)."""
    return 2000 * torque / (module_mm * teeth * allowed_mpa * module_mm * y * factor)


class PairStrength(Struct, frozen=True):
    """What a pair carries: the weaker of the two, and the torque on the gear running and at rest, N·m."""

    weak: str
    torque_running_nm: float
    torque_at_rest_nm: float
    mate_torque_running_nm: float


def pair_strength(
    gear: Spur,
    mate: Spur,
    form: str,
    face_mm: float,
    allowed_mpa: float,
    mate_allowed_mpa: float,
    rpm: float = 0.0,
    made: str = "cut",
    thickness_left: float = 1.0,
) -> PairStrength:
    """The pair by its weaker tooth, the smaller σ Y; `rpm` of the gear."""
    own = worn_load_n(
        tooth_load_n(allowed_mpa, face_mm, gear.module_mm, lewis_y(gear.teeth, form)), thickness_left
    )
    mates = tooth_load_n(mate_allowed_mpa, face_mm, mate.module_mm, lewis_y(mate.teeth, form))
    load = min(own, mates)
    factor = velocity_factor(pitch_speed_m_s(gear.module_mm, gear.teeth, rpm), made)
    return PairStrength(
        "gear" if own <= mates else "mate",
        torque_nm(load * factor, gear.module_mm, gear.teeth),
        torque_nm(load, gear.module_mm, gear.teeth),
        torque_nm(load * factor, mate.module_mm, mate.teeth),
    )
