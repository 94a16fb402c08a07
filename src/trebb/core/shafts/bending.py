"""A stepped shaft on two supports under loads: how far it bends, slopes and twists, where it is worst.

Euler–Bernoulli, piece by piece; shear deflection and the give of bearings left
out. Positions along the shaft from its left end, mm; loads N, + and deflections
+ the same way.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.metals import STEEL_MODULUS_MPA
from trebb.core.solving import root_between

if TYPE_CHECKING:
    from numpy.typing import NDArray


class Piece(Struct, frozen=True):
    """A length of shaft of one outside and inside diameter, mm."""

    length_mm: float
    outside_mm: float
    inside_mm: float = 0.0

    @property
    def second_moment(self) -> float:
        """I, mm⁴."""
        return math.pi * (self.outside_mm**4 - self.inside_mm**4) / 64

    @property
    def polar(self) -> float:
        """J, mm⁴."""
        return 2 * self.second_moment


class BentShaft(Struct, frozen=True, dict=True):
    """Pieces from the left; supports a and b; loads as (place, newtons); torque between two places, N m."""

    pieces: tuple[Piece, ...]
    a_mm: float
    b_mm: float
    loads: tuple[tuple[float, float], ...]
    modulus_mpa: float = STEEL_MODULUS_MPA
    shear_modulus_mpa: float = 80_000.0
    torque_nm: float = 0.0
    torque_from_mm: float = 0.0
    torque_to_mm: float = 0.0

    def __post_init__(self) -> None:
        if not self.a_mm < self.b_mm <= self.length_mm + 1e-9:
            raise InputError(
                f"supports at {self.a_mm:g} and {self.b_mm:g} mm", "the left one first, both on the shaft"
            )
        if any(not 0 <= z <= self.length_mm + 1e-9 for z, _ in self.loads):
            raise InputError("a load off the shaft", f"from 0 to {self.length_mm:g} mm")

    @property
    def length_mm(self) -> float:
        """Length over all."""
        return sum(p.length_mm for p in self.pieces)

    @property
    def reactions_n(self) -> tuple[float, float]:
        """At a and b, + where the support pushes against a + load: moments about the other one."""
        span = self.b_mm - self.a_mm
        at_b = sum(f * (z - self.a_mm) for z, f in self.loads) / span
        return sum(f for _, f in self.loads) - at_b, at_b

    @cached_property
    def _forces(self) -> tuple[tuple[float, float], ...]:
        a, b = self.reactions_n
        return (*self.loads, (self.a_mm, -a), (self.b_mm, -b))

    @cached_property
    def _faces(self) -> NDArray[np.float64]:
        return np.concatenate(([0.0], np.cumsum([p.length_mm for p in self.pieces])))

    @cached_property
    def _marks(self) -> NDArray[np.float64]:
        """Faces, forces and the torque's ends: between two of them all is smooth."""
        found = [*self._faces, *(z for z, _ in self._forces), self.torque_from_mm, self.torque_to_mm]
        return np.unique(np.clip(np.asarray(found, float), 0.0, self.length_mm))

    def moment_nmm(self, z: float) -> float:
        """E I y'' at a place: the sum of forces to its left times their distance, N mm."""
        return sum(f * max(0.0, z - at) for at, f in self._forces)

    def _piece_at(self, z: float, *, right: bool) -> Piece:
        i = int(np.searchsorted(self._faces, z, side="right" if right else "left")) - 1
        return self.pieces[max(0, min(len(self.pieces) - 1, i))]

    @cached_property
    def _integrals(self) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
        """Slope and deflection at the marks from zero at the left end, before the supports are minded."""
        slope, rise = [0.0], [0.0]
        for z0, z1 in zip(self._marks[:-1], self._marks[1:], strict=True):
            s, y = self._over(float(z0), float(z1), slope[-1], rise[-1])
            slope.append(s)
            rise.append(y)
        return np.asarray(slope), np.asarray(rise)

    def _over(self, z0: float, z1: float, slope: float, rise: float) -> tuple[float, float]:
        """Slope and deflection at z1 from those at z0, the moment straight between them."""
        h = z1 - z0
        if h <= 0:
            return slope, rise
        ei = self.modulus_mpa * self._piece_at((z0 + z1) / 2, right=True).second_moment
        m0, m1 = self.moment_nmm(z0), self.moment_nmm(z1)
        return (
            slope + h * (m0 + m1) / 2 / ei,
            rise + slope * h + h * h * (2 * m0 + m1) / 6 / ei,
        )

    def _raw(self, z: float) -> tuple[float, float]:
        i = int(np.searchsorted(self._marks, z, side="right")) - 1
        i = max(0, min(len(self._marks) - 1, i))
        slopes, rises = self._integrals
        return self._over(float(self._marks[i]), z, float(slopes[i]), float(rises[i]))

    @cached_property
    def _rigid(self) -> tuple[float, float]:
        ya, yb = self._raw(self.a_mm)[1], self._raw(self.b_mm)[1]
        lean = (yb - ya) / (self.b_mm - self.a_mm)
        return ya - lean * self.a_mm, lean

    def deflection_mm(self, z: float) -> float:
        """Deflection at a place, mm."""
        shift, lean = self._rigid
        return self._raw(z)[1] - shift - lean * z

    def slope_rad(self, z: float) -> float:
        """Slope at a place, rad."""
        return self._raw(z)[0] - self._rigid[1]

    def most_between(self) -> tuple[float, float]:
        """Place and size of the largest deflection between the supports, mm."""
        inside = [float(z) for z in self._marks if self.a_mm < z < self.b_mm]
        best = max(inside, key=lambda z: abs(self.deflection_mm(z)), default=self.a_mm)
        for z0, z1 in zip(self._marks[:-1], self._marks[1:], strict=True):
            low, high = max(float(z0), self.a_mm), min(float(z1), self.b_mm)
            if low < high and self.slope_rad(low) * self.slope_rad(high) < 0:
                root = self._level(low, high)
                best = max(best, root, key=lambda z: abs(self.deflection_mm(z)))
        return best, self.deflection_mm(best)

    def _level(self, low: float, high: float) -> float:
        return root_between(self.slope_rad, low, high, xtol=1e-10)

    def stiffness_n_um(self, z: float) -> float:
        """Load over deflection at a loaded place, N/µm."""
        load = sum(f for at, f in self.loads if math.isclose(at, z))
        return load / (1000 * self.deflection_mm(z))

    def _torque_at(self, z: float, *, right: bool) -> float:
        low, high = sorted((self.torque_from_mm, self.torque_to_mm))
        inside = low <= z < high if right else low < z <= high
        return 1000 * self.torque_nm if inside else 0.0

    def _stresses(self) -> list[tuple[float, float, float]]:
        """Place, bending and torsion stress at both sides of every mark: the larger is at a step's small
        side.
        """
        found = []
        for z in map(float, self._marks):
            for right in (False, True):
                piece = self._piece_at(z, right=right)
                bend = abs(self.moment_nmm(z)) * piece.outside_mm / 2 / piece.second_moment
                twist = abs(self._torque_at(z, right=right)) * piece.outside_mm / 2 / piece.polar
                found.append((z, bend, twist))
        return found

    def most_bending_mpa(self) -> tuple[float, float]:
        """Largest bending stress, MPa, and its place."""
        z, bend, _ = max(self._stresses(), key=lambda s: s[1])
        return bend, z

    def most_torsion_mpa(self) -> float:
        """Largest torsion stress, MPa."""
        return max(t for _, _, t in self._stresses())

    def most_von_mises_mpa(self) -> float:
        """Largest stress by von Mises, MPa."""
        return max(math.sqrt(b * b + 3 * t * t) for _, b, t in self._stresses())

    def twist_deg(self) -> float:
        """Twist between the torque's ends, degrees: Σ T l/(G J)."""
        total = 0.0
        for z0, z1 in zip(self._marks[:-1], self._marks[1:], strict=True):
            torque = self._torque_at(float(z0 + z1) / 2, right=True)
            total += (
                torque
                * float(z1 - z0)
                / (self.shear_modulus_mpa * self._piece_at(float(z0 + z1) / 2, right=True).polar)
            )
        return math.degrees(total)


def pieces_of(lengths: Sequence[tuple[float, float, float]]) -> tuple[Piece, ...]:
    """Pieces from (length, outside, inside). In mm."""
    return tuple(Piece(*three) for three in lengths)
