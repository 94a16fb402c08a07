"""Bushes pressed into bores and sleeves over journals: what closes, what grows, what is left to carry.

Sizes in mm on diameter, stresses in MPa. A bush pressed into a housing is the
"shaft" of the press fit: its bore closes by nearly the interference.
"""

from __future__ import annotations

import math

from trebb.core.errors import InputError
from trebb.core.fits.iso286 import fit as iso_fit
from trebb.core.fits.iso286 import it_um
from trebb.core.fits.press import Elastic, press_fit
from trebb.core.solving import root_between

# Finished bore up to and including → allowance on diameter for a machine reamer, mm (practice).
_REAM = ((6.0, 0.10), (12.0, 0.15), (25.0, 0.25), (40.0, 0.30), (math.inf, 0.40))
# Upper deviation of e by the ranges of ISO 286-2, µm: to 3, 6, 10, 18, 30, 50, 80, 120 mm.
_E = ((3, -14), (6, -20), (10, -25), (18, -32), (30, -40), (50, -50), (80, -60), (120, -72))


def ream_allowance_mm(finished_mm: float, *, by_hand: bool = False) -> float:
    """What is left for the reamer, on diameter: by hand a third (practice)."""
    machine = next(allowance for most, allowance in _REAM if finished_mm <= most)
    return machine / 3 if by_hand else machine


def bush_outside_mm(housing_mm: float, interference_mm: float) -> float:
    """Bush's outside: the *measured* housing bore and the interference."""
    return housing_mm + interference_mm


def closure_mm(
    housing_mm: float,
    outside_mm: float,
    bush_bore_mm: float,
    interference_mm: float,
    bush: Elastic,
    housing: Elastic,
) -> float:
    """How much a bush's bore closes when pressed in, mm on diameter (Lamé)."""
    if interference_mm <= 0:
        return 0.0
    found = press_fit(
        dia_mm=housing_mm, shaft_bore_mm=bush_bore_mm, hub_outside_mm=outside_mm, length_mm=1.0,
        interference_mm=interference_mm, shaft=bush, hub=housing,
    )  # fmt: skip
    return found.bore_closure_mm


def bore_before_pressing_mm(
    finished_mm: float,
    allowance_mm: float,
    housing_mm: float,
    outside_mm: float,
    interference_mm: float,
    bush: Elastic,
    housing: Elastic,
) -> float:
    """Bore to turn before pressing so that it stands at finished less the ream allowance once in, mm.

    Raises InputError where the bush has no wall for it.
    """
    target = finished_mm - allowance_mm

    def over(bore: float) -> float:
        return bore - closure_mm(housing_mm, outside_mm, bore, interference_mm, bush, housing) - target

    most = housing_mm - 1e-6
    if not 0 < target < most or over(most) < 0:
        raise InputError(f"a bore of {finished_mm:g} mm in {housing_mm:g} mm", "a bush needs a wall")
    return root_between(over, target, most, xtol=1e-9)


def speed_m_s(dia_mm: float, rpm: float) -> float:
    """Surface speed, m/s."""
    return math.pi * dia_mm * rpm / 60_000


def running_fit(speed: float, *, by_hand: bool = False, aligned: bool = True) -> str:
    """The usual running fit (practice): by hand or slow H7/g6, to 4 m/s H7/f7, over or poorly aligned
    H8/e8.
    """
    if not aligned:
        return "H8/e8"
    if by_hand or speed < 0.5:
        return "H7/g6"
    return "H7/f7" if speed <= 4 else "H8/e8"


def running_clearance_um(dia_mm: float, name: str) -> tuple[float, float]:
    """Least and most clearance of one of those fits, µm. Raises InputError past the table."""
    hole, shaft = name.split("/")
    if shaft == "e8":
        if dia_mm > _E[-1][0]:
            raise InputError(f"{dia_mm:g} mm", f"the table of e ends at {_E[-1][0]} mm")
        es = next(dev for most, dev in _E if dia_mm <= most)
        return float(-es), float(it_um(dia_mm, 8) - es + it_um(dia_mm, 8))
    found = iso_fit(dia_mm, hole, shaft)
    return found.min_clearance_um, found.max_clearance_um


def clearance_by_speed_um(dia_mm: float, speed: float) -> float:
    """Clearance of an oiled metal bush by speed, µm: 0.8 d v^¼ (practice), tighter than the ISO fits."""
    return float(0.8 * dia_mm * speed**0.25)


def groove_mm(length_mm: float, land_mm: float, dia_mm: float = 0.0, turns: float = 0.0) -> float:
    """Length of an oil groove that stays off both ends, straight or helical, mm. Raises InputError for lands
    longer than the bush.
    """
    along = length_mm - 2 * land_mm
    if along <= 0:
        raise InputError(f"lands of {land_mm:g} mm in {length_mm:g} mm", "less than half the length each")
    return math.hypot(math.pi * dia_mm * turns, along)


def hone_to_mm(clean_up_mm: float, roughness_um: float) -> float:
    """Least size that loses every mark: clean-up and twice their depth Rz."""
    return clean_up_mm + 2 * roughness_um / 1000


def torsion_left(dia_mm: float, turned_mm: float, bore_mm: float = 0.0) -> float:
    """Share of a journal's torsion that is left when it is turned down for a sleeve, which counts for
    nothing.
    """

    def carries(d: float) -> float:
        return (d**4 - bore_mm**4) / d

    return carries(turned_mm) / carries(dia_mm)


def stiffness_left(dia_mm: float, turned_mm: float, bore_mm: float = 0.0) -> float:
    """Share of its stiffness that is left."""
    return (turned_mm**4 - bore_mm**4) / (dia_mm**4 - bore_mm**4)


def torque_left_nm(turned_mm: float, shear_mpa: float, bore_mm: float = 0.0) -> float:
    """Torque that the turned journal carries, N m."""
    return shear_mpa * math.pi * (turned_mm**4 - bore_mm**4) / (16 * turned_mm) / 1000


def least_turned_mm(torque_nm: float, shear_mpa: float, bore_mm: float = 0.0) -> float:
    """Least diameter that a journal may be turned to for a torque, mm."""
    solid = float((16_000 * torque_nm / (math.pi * shear_mpa)) ** (1 / 3))
    if bore_mm <= 0:
        return solid
    return root_between(
        lambda d: torque_left_nm(d, shear_mpa, bore_mm) - torque_nm,
        bore_mm * (1 + 1e-9),
        solid + 2 * bore_mm,
    )
