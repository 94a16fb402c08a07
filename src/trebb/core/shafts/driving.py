"""What turns a wheel on its shaft: what each can carry, and how much it can rock.

Torques in N m, lengths in mm, stresses in MPa. Nominal, as handbooks do it: no
stress concentration at steps, keyways or holes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError

KEYWAY_SHARE = 0.75  # of the torsion a plain shaft may carry (practice)
SPRING_PIN_MPA = 700.0  # hardened spring steel in shear (practice; within 4 % of ISO 8752)


def key_shear_torque(shaft_mm: float, width_mm: float, length_mm: float, shear_mpa: float) -> float:
    """Torque that a key carries in shear: τ W L d/2."""
    return shear_mpa * width_mm * length_mm * shaft_mm / 2000


def key_bearing_torque(shaft_mm: float, in_hub_mm: float, length_mm: float, bearing_mpa: float) -> float:
    """Torque that a key's side carries: σ h L d/2, h its height in the hub (half a square key's). In N·m."""
    return bearing_mpa * in_hub_mm * length_mm * shaft_mm / 2000


def key_weak_side(
    shaft_mm: float, width_mm: float, in_hub_mm: float, length_mm: float, shear_mpa: float, bearing_mpa: float
) -> str:
    """ "shear" or "bearing": which gives way first."""
    shear = key_shear_torque(shaft_mm, width_mm, length_mm, shear_mpa)
    return "shear" if shear < key_bearing_torque(shaft_mm, in_hub_mm, length_mm, bearing_mpa) else "bearing"


def key_length_mm(
    torque_nm: float,
    shaft_mm: float,
    width_mm: float,
    in_hub_mm: float,
    shear_mpa: float,
    bearing_mpa: float,
) -> float:
    """Length a key needs: the longer of what shear and its side ask for, mm."""
    most = 2000 * torque_nm / shaft_mm
    return max(most / (width_mm * shear_mpa), most / (in_hub_mm * bearing_mpa))


def key_lash_deg(shaft_mm: float, clearance_mm: float) -> float:
    """How far a wheel rocks on its key, both ways together, degrees: 2c/d (practice).

    clearance_mm is slot less key width, shaft's and hub's added.
    """
    return math.degrees(2 * clearance_mm / shaft_mm)


def key_lash_tight_deg(shaft_mm: float, width_mm: float, height_mm: float, clearance_mm: float) -> float:
    """The same with the key tight in its shaft: its top corner meets the hub's wall, degrees both ways.

    (W/2) cos t + y sin t = (W + c)/2, y = (√(d² - W²) + H)/2. Raises InputError
    for a key wider than its shaft.
    """
    if not width_mm < shaft_mm:
        raise InputError(f"key {width_mm:g} mm", f"less than the shaft's {shaft_mm:g} mm")
    y = (math.sqrt(shaft_mm**2 - width_mm**2) + height_mm) / 2
    r = math.hypot(width_mm / 2, y)
    reach = (width_mm + clearance_mm) / 2 / r
    return math.degrees(2 * (math.asin(min(1.0, reach)) - math.atan2(width_mm / 2, y)))


def lash_mm(lash_deg: float, radius_mm: float) -> float:
    """What a rock is at a radius, mm: angle × radius, as an indicator there reads it."""
    return math.radians(lash_deg) * radius_mm


def clearance_of_lash_mm(lash_deg: float, shaft_mm: float) -> float:
    """Slot less key, that a rock both ways comes from, mm."""
    return math.radians(lash_deg) * shaft_mm / 2


def shaft_torque(dia_mm: float, bore_mm: float, shear_mpa: float, *, keyed: bool = False) -> float:
    """Torque that a shaft carries: τ π (d⁴ - di⁴)/(16 d); ¾ of it where a keyway is cut
    (practice). In N·m.
    """
    plain = shear_mpa * math.pi * (dia_mm**4 - bore_mm**4) / (16 * dia_mm) / 1000
    return plain * (KEYWAY_SHARE if keyed else 1.0)


def shaft_dia_mm(torque_nm: float, shear_mpa: float, bending_nm: float = 0.0) -> float:
    """Solid shaft for a torque and a bending moment by greatest shear, mm."""
    return float((16000 * math.hypot(torque_nm, bending_nm) / (math.pi * shear_mpa)) ** (1 / 3))


def greatest_shear_mpa(dia_mm: float, torque_nm: float, bending_nm: float) -> float:
    """Greatest shear stress of a solid shaft, MPa: 16 √(M² + T²)/(π d³)."""
    return 16000 * math.hypot(torque_nm, bending_nm) / (math.pi * dia_mm**3)


def von_mises_mpa(dia_mm: float, torque_nm: float, bending_nm: float) -> float:
    """Stress by von Mises of a solid shaft, MPa: 32 √(M² + ¾T²)/(π d³)."""
    return 32000 * math.sqrt(bending_nm**2 + 0.75 * torque_nm**2) / (math.pi * dia_mm**3)


def pin_shear_torque(shaft_mm: float, pin_mm: float, planes: int, shear_mpa: float) -> float:
    """Torque that shears a straight pin: planes × (π/4) dp² τ d/2; one plane through one wall
    only. In N·m.
    """
    return planes * math.pi / 4 * pin_mm**2 * shear_mpa * shaft_mm / 2000


def taper_pin_planes_mm(large_mm: float, hub_mm: float, shaft_mm: float, ratio: float) -> tuple[float, float]:
    """Diameters of a taper pin, large end flush, where the shaft's surface cuts it: near and far, mm."""
    return large_mm - (hub_mm - shaft_mm) / (2 * ratio), large_mm - (hub_mm + shaft_mm) / (2 * ratio)


def taper_pin_shear_torque(
    large_mm: float, hub_mm: float, shaft_mm: float, ratio: float, shear_mpa: float
) -> float:
    """Torque that shears a taper pin: its two planes differ. In N·m."""
    return sum(
        pin_shear_torque(shaft_mm, d, 1, shear_mpa)
        for d in taper_pin_planes_mm(large_mm, hub_mm, shaft_mm, ratio)
    )


def pin_bearing_in_shaft(shaft_mm: float, pin_mm: float, bearing_mpa: float) -> float:
    """Torque that crushes the hole in the shaft: σ dp d²/6, the pressure growing with the radius. In N·m."""
    return bearing_mpa * pin_mm * shaft_mm**2 / 6000


def pin_bearing_in_hub(shaft_mm: float, hub_mm: float, pin_mm: float, bearing_mpa: float) -> float:
    """Torque that crushes the hub's walls: σ dp (D² - d²)/4. In N·m."""
    return bearing_mpa * pin_mm * (hub_mm**2 - shaft_mm**2) / 4000


def taper_pin_mean_mm(large_mm: float, hub_mm: float, shaft_mm: float, ratio: float) -> float:
    """What a taper pin bears with: the mean of its two planes, mm."""
    return sum(taper_pin_planes_mm(large_mm, hub_mm, shaft_mm, ratio)) / 2


def pin_limit(shear_nm: float, in_shaft_nm: float, in_hub_nm: float) -> str:
    """What gives way first: "pin", "hole in shaft" or "hole in hub"."""
    links = {"pin": shear_nm, "hole in shaft": in_shaft_nm, "hole in hub": in_hub_nm}
    return min(links, key=lambda key: links[key])


def cross_hole_left(shaft_mm: float, pin_mm: float) -> float:
    """Share of a shaft's torsion left at a cross hole, nominal: stress concentration is as much again."""
    strip = (pin_mm * shaft_mm**3 + shaft_mm * pin_mm**3) / 12
    return 1 - strip / (math.pi * shaft_mm**4 / 32)


def spring_pin_force_kn(pin_mm: float, wall_mm: float, shear_mpa: float = SPRING_PIN_MPA) -> float:
    """Force that shears a slotted spring pin in two planes, kN: 2 π s (dp - s) τ, its slot left out."""
    return 2 * math.pi * wall_mm * (pin_mm - wall_mm) * shear_mpa / 1000


def joint_screw_torque(
    shaft_mm: float, root_mm: float, length_mm: float, shear_mpa: float, bearing_mpa: float
) -> tuple[float, float]:
    """Torque that a screw or pin down the joint line carries, in shear and by its side, N m; the smaller
    counts.
    """
    return (
        shear_mpa * root_mm * length_mm * shaft_mm / 2000,
        bearing_mpa * root_mm / 2 * length_mm * shaft_mm / 2000,
    )


def share_at(value: float, points: Sequence[tuple[float, float]]) -> float:
    """A factor by straight lines between given points, level beyond them."""
    return float(np.interp(value, [x for x, _ in points], [y for _, y in points]))


def bond_force_kn(dia_mm: float, length_mm: float, bond_mpa: float, gap: float, warm: float) -> float:
    """Force that a retaining compound holds, kN: π d L τ, with its shares for gap and temperature. The
    shares `gap` and `warm` without unit.
    """
    return math.pi * dia_mm * length_mm * bond_mpa * gap * warm / 1000


def bond_length_mm(torque_nm: float, dia_mm: float, bond_mpa: float, gap: float, warm: float) -> float:
    """Length of bond that a torque needs, mm."""
    return 2000 * torque_nm / (math.pi * dia_mm**2 * bond_mpa * gap * warm)


class ShearPin(Struct, frozen=True):
    """A pin that is to break first: sizes in mm; `choice` None where no size offered will do."""

    smallest_mm: float
    largest_mm: float
    choice_mm: float | None
    breaks_nm: float | None

    @property
    def is_possible(self) -> bool:
        """Whether a pin can hold the work and still break first."""
        return self.smallest_mm <= self.largest_mm


def shear_pin(
    shaft_mm: float,
    planes: int,
    ultimate_mpa: float,
    weakest_nm: float,
    working_nm: float,
    sizes_mm: Sequence[float],
    *,
    safety_weak: float = 1.5,
    safety_work: float = 1.5,
) -> ShearPin:
    """The fuse: it holds the work with a margin and breaks before the weakest of shaft, key and gear.
    Margins without unit.

    ultimate_mpa is the pin's *ultimate* shear strength: it must break, not yield.
    """

    def size(torque_nm: float) -> float:
        return math.sqrt(8000 * torque_nm / (planes * math.pi * ultimate_mpa * shaft_mm))

    smallest, largest = size(working_nm * safety_work), size(weakest_nm / safety_weak)
    fits = [s for s in sizes_mm if smallest <= s <= largest]
    choice = max(fits) if fits else None
    breaks = pin_shear_torque(shaft_mm, choice, planes, ultimate_mpa) if choice else None
    return ShearPin(smallest, largest, choice, breaks)
