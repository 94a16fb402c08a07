"""Tapers ground or reamed again: the gauge line against the stock. Taper 1:N on diameter, mm."""

from __future__ import annotations

import math

from trebb.core.errors import InputError


def half_deg(ratio: float) -> float:
    """Half angle, degrees: atan(1/(2N))."""
    return math.degrees(math.atan(1 / (2 * ratio)))


def shift_of_dia(ratio: float, removed_mm: float) -> float:
    """How much deeper a plug goes for so much off the diameter: × N."""
    return removed_mm * ratio


def shift_of_stock(ratio: float, normal_mm: float) -> float:
    """The same for stock taken square to the wall. In mm."""
    return normal_mm / math.sin(math.radians(half_deg(ratio)))


def dia_of_shift(ratio: float, shift_mm: float) -> float:
    """Diameter that a shift stands for. In mm."""
    return shift_mm / ratio


def stock_of_shift(ratio: float, shift_mm: float) -> float:
    """Stock square to the wall that a shift stands for. In mm."""
    return shift_mm * math.sin(math.radians(half_deg(ratio)))


def dia_to_run_true(near_tir_mm: float, far_tir_mm: float) -> float:
    """What must come off the diameter: the larger total reading of the two ends. In mm."""
    return max(near_tir_mm, far_tir_mm)


def shift_to_run_true(
    ratio: float, near_tir_mm: float, far_tir_mm: float, allowance_mm: float = 0.0
) -> float:
    """How much deeper tools then stand. In mm."""
    return (dia_to_run_true(near_tir_mm, far_tir_mm) + allowance_mm) * ratio


def may_be_ground(shift_mm: float, allowed_mm: float, faced_mm: float = 0.0) -> bool:
    """Whether the gauge line stays where tools may stand: what is faced off the nose brings it back."""
    return shift_mm <= allowed_mm + faced_mm


def gap_at_end(socket: float, plug: float, length_mm: float) -> float:
    """Gap at the free end of a plug 1:M in a socket 1:N, on diameter. Raises InputError for no taper."""
    if socket <= 0 or plug <= 0:
        raise InputError(f"tapers 1:{socket:g} and 1:{plug:g}", "both more than nothing")
    return abs(1 / socket - 1 / plug) * length_mm


def touches_at(socket: float, plug: float) -> str:
    """ "inner end" where the socket is steeper, "mouth" where the plug is, "all along" where they are alike.
    Both as N of 1 : N.
    """
    if math.isclose(socket, plug, rel_tol=1e-9):
        return "all along"
    return "inner end" if socket < plug else "mouth"


def rock_deg(socket: float, plug: float, length_mm: float) -> float:
    """How far the plug rocks, both ways, degrees."""
    return math.degrees(gap_at_end(socket, plug, length_mm) / length_mm)
