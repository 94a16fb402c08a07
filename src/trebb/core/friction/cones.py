"""Cone clutches and brakes: torque, whether it lets go, wear, lining. Lengths mm, forces N, torques N·m.

The angle is the *half* angle to the axis. Two theories, as the machine-design handbooks give them: uniform
wear for faces that are run in, uniform pressure for new ones.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.errors import InputError


class Cone(Struct, frozen=True):
    """A cone's contact: larger and smaller diameter, half angle. Raises InputError where these are none."""

    big_mm: float
    small_mm: float
    half_deg: float

    def __post_init__(self) -> None:
        if not 0 < self.small_mm < self.big_mm:
            raise InputError(
                f"diameters of {self.big_mm:g} and {self.small_mm:g} mm",
                "two that differ, the larger first: alike they are no cone",
            )
        if not 1 <= self.half_deg <= 80:
            raise InputError(f"a half angle of {self.half_deg:g}°", "from 1 to 80°, usually 8 to 20")

    @property
    def _sin(self) -> float:
        return math.sin(math.radians(self.half_deg))

    @property
    def _tan(self) -> float:
        return math.tan(math.radians(self.half_deg))

    @property
    def axial_mm(self) -> float:
        """Width along the axis, (D − d)/(2 tan α)."""
        return (self.big_mm - self.small_mm) / (2 * self._tan)

    @property
    def face_mm(self) -> float:
        """Width along the slope, (D − d)/(2 sin α)."""
        return (self.big_mm - self.small_mm) / (2 * self._sin)

    @property
    def area_mm2(self) -> float:
        """Of the face."""
        return math.pi * (self.big_mm**2 - self.small_mm**2) / (4 * self._sin)

    @property
    def mean_radius_mm(self) -> float:
        """(D + d)/4."""
        return (self.big_mm + self.small_mm) / 4

    def torque_worn_nm(self, mu: float, force_n: float) -> float:
        """Run in, uniform wear: μ F (D + d)/(4 sin α). Friction μ without unit."""
        return mu * force_n * self.mean_radius_mm / self._sin / 1000

    def torque_new_nm(self, mu: float, force_n: float) -> float:
        """New, uniform pressure: μ F (D³ − d³)/(3 sin α (D² − d²)). Friction μ without unit."""
        top = self.big_mm**3 - self.small_mm**3
        return mu * force_n * top / (3 * self._sin * (self.big_mm**2 - self.small_mm**2)) / 1000

    def torque_pushed_nm(self, mu: float, force_n: float) -> float:
        """Pushed in without turning, friction holding part of the push: μ F r/(sin α + μ cos α). Friction μ
        without unit.
        """
        slope = self._sin + mu * math.cos(math.radians(self.half_deg))
        return mu * force_n * self.mean_radius_mm / slope / 1000

    def greatest_pressure_mpa(self, force_n: float) -> float:
        """At the small end, uniform wear: 2F/(π d (D − d))."""
        return 2 * force_n / (math.pi * self.small_mm * (self.big_mm - self.small_mm))

    def mean_pressure_mpa(self, force_n: float) -> float:
        """4F/(π (D² − d²))."""
        return 4 * force_n / (math.pi * (self.big_mm**2 - self.small_mm**2))

    def force_for_nm(self, torque_nm: float, mu: float) -> float:
        """Push that a torque wants, uniform wear. Friction μ without unit."""
        return 1000 * torque_nm * self._sin / (mu * self.mean_radius_mm)

    def lets_go(self, mu: float) -> bool:
        """Whether it comes free by itself: tan α > μ. Friction μ without unit."""
        return self._tan > mu

    def pull_out_n(self, mu: float, force_n: float) -> float:
        """Pull that frees it once the push is off, engaged while turning: F (μ/tan α − 1); 0 if it lets go.
        Friction μ without unit.
        """
        return max(0.0, force_n * (mu / self._tan - 1))

    def travel_of_wear(self, wear_mm: float) -> float:
        """How much further in it goes for wear square to the face: t/sin α. In mm."""
        return wear_mm / self._sin

    def dia_of_wear(self, wear_mm: float) -> float:
        """Change of the diameter at a plane for the same: 2t/cos α. In mm."""
        return 2 * wear_mm / math.cos(math.radians(self.half_deg))

    def wear_of_travel(self, travel_mm: float) -> float:
        """Wear that a travel allows, square to the face. In mm."""
        return travel_mm * self._sin

    def engaged_after(self, wear_mm: float) -> float:
        """Width along the axis still in contact after wear, the faces level when new. In mm."""
        return max(0.0, self.axial_mm - self.travel_of_wear(wear_mm))

    def net_area_mm2(self, rivets: int, head_mm: float) -> float:
        """Face less the rivets' heads."""
        return self.area_mm2 - rivets * math.pi * head_mm**2 / 4

    def net_pressure_mpa(self, force_n: float, rivets: int, head_mm: float) -> float:
        """On what is left of the face. Raises InputError where the heads leave nothing."""
        net = self.net_area_mm2(rivets, head_mm)
        if net <= 0:
            raise InputError(
                f"{rivets} rivets of {head_mm:g} mm heads", "they leave no face: fewer or smaller"
            )
        return force_n / (self._sin * net)

    def rivets_needed(self, pitch_mm: float) -> int:
        """Rivets of one row at the middle no further apart than that."""
        return math.ceil(math.pi * 2 * self.mean_radius_mm / pitch_mm - 1e-9)

    def rivet_pitch_mm(self, rivets: int) -> float:
        """How far apart they then stand."""
        return math.pi * 2 * self.mean_radius_mm / rivets

    def rivet_load_n(self, torque_nm: float, rivets: int) -> float:
        """Shear of each, as if nothing else held the lining."""
        return 1000 * torque_nm / (self.mean_radius_mm * rivets)


def half_angle_deg(big_mm: float, small_mm: float, axial_mm: float) -> float:
    """Half angle of two diameters so far apart along the axis. Raises InputError where they give none."""
    if axial_mm <= 0 or big_mm <= small_mm:
        raise InputError(
            f"{big_mm:g} and {small_mm:g} mm over {axial_mm:g} mm",
            "two diameters that differ, some way apart: these give no angle",
        )
    return math.degrees(math.atan((big_mm - small_mm) / 2 / axial_mm))


def least_half_deg(mu: float) -> float:
    """Half angle below which it sticks: atan μ. Friction μ without unit."""
    return math.degrees(math.atan(mu))


def rivet_shear_mpa(load_n: float, rivet_mm: float) -> float:
    """Shear of one rivet."""
    return load_n / (math.pi / 4 * rivet_mm**2)


class Band(Struct, frozen=True):
    """A straight band on a cylinder, turned to the taper afterwards: body, thickness to start with, length,
    and the share of it that is turned away.
    """

    cylinder_mm: float
    start_mm: float
    length_mm: float
    cut_away: float


def straight_band(cone: Cone, least_mm: float, allowance_mm: float, gap_mm: float = 1.0) -> Band:
    """Body turned parallel to d − 2 t_min; start t_min + (D − d)/2 + allowance; length with the neutral line
    in the middle (practice; weave bends otherwise: a data sheet goes before). Raises InputError where no
    body is left.
    """
    cylinder = cone.small_mm - 2 * least_mm
    if cylinder <= 0 or least_mm <= 0:
        raise InputError(
            f"a lining of {least_mm:g} mm on {cone.small_mm:g} mm", "thinner, or there is no body"
        )
    start = least_mm + (cone.big_mm - cone.small_mm) / 2 + allowance_mm
    length = math.pi * (cylinder + start) - gap_mm
    outer = cylinder + 2 * start
    ring = (outer**2 - cylinder**2) / 4
    frustum = (cone.big_mm**2 + cone.big_mm * cone.small_mm + cone.small_mm**2) / 12 - cylinder**2 / 4
    return Band(cylinder, start, length, 1 - frustum / ring)


class Pattern(Struct, frozen=True):
    """The flat pattern of a true cone: radii, angle of the whole, and the blank of each piece."""

    outer_mm: float
    inner_mm: float
    angle_deg: float

    def blank_mm(self, pieces: int) -> tuple[float, float]:
        """Width and height of the stock one piece is cut from."""
        half = math.radians(self.angle_deg / pieces / 2)
        width = 2 * self.outer_mm * math.sin(min(half, math.pi / 2))
        return width, self.outer_mm - self.inner_mm * math.cos(half)


def flat_pattern(cone: Cone, thickness_mm: float = 0.0) -> Pattern:
    """D/(2 sin α), d/(2 sin α), 360° sin α; for a thickness outside a metal cone of this size (t/2)/tan α is
    added to both radii, the neutral line in the middle.
    """
    more = thickness_mm / 2 / cone._tan
    return Pattern(
        cone.big_mm / (2 * cone._sin) + more,
        cone.small_mm / (2 * cone._sin) + more,
        360 * cone._sin,
    )
