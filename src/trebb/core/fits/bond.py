"""Retaining compound: what gap to leave and what a bonded joint holds. The maker's sheet governs.

One set of figures for every part that is bonded: 15 MPa is two thirds of what data sheets give for cured
compound on clean steel; how a wide gap weakens it is practice, by straight lines between given points.
"""

from __future__ import annotations

import math

import numpy as np

SHEAR_MPA = 15.0
# On diameter: the gap to make. Narrower it is wiped off as the part goes in, wider it holds less.
GAP_MM = (0.02, 0.06)
# On diameter: beyond this the bond is called weak, and a sleeve is the better repair.
MOST_GAP_MM = 0.10
_GAPS_MM = (0.05, 0.10, 0.15, 0.25)
_SHARES = (1.0, 0.8, 0.6, 0.4)


def gap_share(gap_mm: float) -> float:
    """Share of its strength that compound keeps in a gap on diameter, mm; level beyond the last point."""
    return float(np.interp(gap_mm, _GAPS_MM, _SHARES))


def bond_thrust_n(dia_mm: float, length_mm: float, gap_mm: float) -> float:
    """What a bonded joint holds along its axis, N: π d L τ times the share its gap leaves. On its
    circumference the same force, so the torque is this times half the diameter.
    """
    return math.pi * dia_mm * length_mm * SHEAR_MPA * gap_share(gap_mm)
