"""Press and shrink fits: Lamé, plane stress, elastic. Lengths mm, stress MPa, force N.

Interference is always on diameter. A bush pressed into a housing is the
"shaft" here: its own bore closes by nearly the interference.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.metals import STEEL_MODULUS_MPA


class Elastic(Struct, frozen=True):
    """Young's modulus in MPa, Poisson's ratio, expansion per °C."""

    modulus_mpa: float
    poisson: float
    expansion_per_c: float


STEEL = Elastic(STEEL_MODULUS_MPA, 0.30, 11.7e-6)
CAST_IRON = Elastic(100_000, 0.26, 10.5e-6)


class PressFit(Struct, frozen=True):
    """What an interference does. Pressure and stresses MPa (tension +), sizes mm on diameter.

    `bore_closure_mm` is how much smaller the shaft's own bore becomes;
    `von_mises_mpa` is at the hub's bore (for cast iron judge `hub_hoop_mpa`
    against the tensile strength instead).
    """

    pressure_mpa: float
    hub_hoop_mpa: float
    hub_hoop_outside_mpa: float
    shaft_hoop_mpa: float
    shaft_hoop_inside_mpa: float
    von_mises_mpa: float
    force_n: float
    torque_nm: float
    outside_growth_mm: float
    bore_closure_mm: float


def press_fit(
    *, dia_mm: float, shaft_bore_mm: float, hub_outside_mm: float, length_mm: float, interference_mm: float,
    shaft: Elastic = STEEL, hub: Elastic = STEEL, friction: float = 0.12,
) -> PressFit:  # fmt: skip
    """Lamé's solution for a shaft (solid with bore 0) in a hub of uniform wall. `friction` without unit.

    p = δ / (d (C_h/E_h + C_s/E_s)), C_h = (D²+d²)/(D²−d²) + ν_h,
    C_s = (d²+d_i²)/(d²−d_i²) − ν_s. Holds while both stay elastic and the
    length is about half the diameter or more; roughness is not taken off.

    Raises InputError where the walls are not walls.
    """
    d, di, do = dia_mm, shaft_bore_mm, hub_outside_mm
    if not 0 <= di < d < do:
        raise InputError(
            f"bore {di:g}, fit {d:g}, outside {do:g} mm", "each must be larger than the one before"
        )
    hub_ratio = (do**2 + d**2) / (do**2 - d**2)
    shaft_ratio = (d**2 + di**2) / (d**2 - di**2)
    p = interference_mm / (
        d * ((hub_ratio + hub.poisson) / hub.modulus_mpa + (shaft_ratio - shaft.poisson) / shaft.modulus_mpa)
    )
    hoop = p * hub_ratio
    force = friction * p * math.pi * d * length_mm
    return PressFit(
        p,
        hoop,
        2 * p * d**2 / (do**2 - d**2),
        -p * shaft_ratio,
        -2 * p * d**2 / (d**2 - di**2) if di else -p,
        math.sqrt(hoop**2 + hoop * p + p**2),
        force,
        force * d / 2000,
        2 * p * d**2 * do / (hub.modulus_mpa * (do**2 - d**2)),
        2 * p * d**2 * di / (shaft.modulus_mpa * (d**2 - di**2)),
    )


def heat_hub_to_slip_c(
    dia_mm: float, interference_mm: float, slip_mm: float, expansion_per_c: float
) -> float:
    """Temperature rise of the outer part so that it drops on with `slip_mm` to spare, °C, the shaft staying
    cool.
    """
    return (interference_mm + slip_mm) / (expansion_per_c * dia_mm)


def cool_shaft_to_slip_c(
    dia_mm: float, interference_mm: float, slip_mm: float, expansion_per_c: float
) -> float:
    """Temperature change of the inner part instead, °C: negative is cooling."""
    return -(interference_mm + slip_mm) / (expansion_per_c * dia_mm)


def slip_at_limit_mm(dia_mm: float, interference_mm: float, expansion_per_c: float, rise_c: float) -> float:
    """Clearance while fitting when the part may be warmed by `rise_c` at most, mm; negative: it will not
    drop on.
    """
    return expansion_per_c * dia_mm * rise_c - interference_mm
