"""Square drives: the square on a bar, its socket, the plug that makes a worn socket good. Lengths in mm."""

from __future__ import annotations

import math

from trebb.core.errors import InputError

LEAST_WALL_MM = 1.5


def across_corners_mm(square_mm: float) -> float:
    """Over sharp corners: S √2."""
    return square_mm * math.sqrt(2)


def flat_depth_mm(bar_mm: float, square_mm: float) -> float:
    """What is milled off each side of a bar."""
    return (bar_mm - square_mm) / 2


def largest_square_mm(bar_mm: float) -> float:
    """Largest square with sharp corners in a bar."""
    return bar_mm / math.sqrt(2)


def flat_width_mm(bar_mm: float, square_mm: float) -> float:
    """Width of each flat of a square on a bar under S √2: round is left at its corners.

    Raises InputError for a square larger than its bar.
    """
    if square_mm >= bar_mm:
        raise InputError(f"a square of {square_mm:g} mm", f"less than the bar's {bar_mm:g} mm")
    return min(square_mm, math.sqrt(bar_mm**2 - square_mm**2))


def _tip_rad(square_mm: float, corners_mm: float) -> float:
    return math.atan2(math.sqrt(corners_mm**2 - square_mm**2), square_mm)


def slop_deg(square_mm: float, socket_mm: float, corners_mm: float | None = None) -> float:
    """How far a square turns in its socket, both ways together, degrees; 360 where it spins.

    corners_mm is over the male's corners, S √2 where they are sharp. The first
    order, 2 gap / √(dc² - S²), is too small as the gap grows.
    """
    dc = across_corners_mm(square_mm) if corners_mm is None else corners_mm
    if socket_mm >= dc:
        return 360.0
    if socket_mm <= square_mm:
        return 0.0
    return math.degrees(2 * (_tip_rad(square_mm, dc) - math.acos(socket_mm / dc)))


def slop_first_order_deg(square_mm: float, socket_mm: float, corners_mm: float | None = None) -> float:
    """The same to first order, degrees."""
    dc = across_corners_mm(square_mm) if corners_mm is None else corners_mm
    return math.degrees(2 * (socket_mm - square_mm) / math.sqrt(dc**2 - square_mm**2))


def socket_of_slop_mm(square_mm: float, slop: float, corners_mm: float | None = None) -> float:
    """Socket across flats that a slop (degrees, both ways) comes from, mm."""
    dc = across_corners_mm(square_mm) if corners_mm is None else corners_mm
    return dc * math.cos(_tip_rad(square_mm, dc) - math.radians(slop) / 2)


def plug_corner_wall_mm(plug_mm: float, square_mm: float) -> float:
    """Wall of a plug at the corners of a broached square."""
    return (plug_mm - across_corners_mm(square_mm)) / 2


def plug_least_mm(square_mm: float, wall_mm: float = LEAST_WALL_MM) -> float:
    """Least plug that leaves a wall at the corners."""
    return across_corners_mm(square_mm) + 2 * wall_mm


def plug_possible(square_mm: float, shaft_mm: float, wall_mm: float = LEAST_WALL_MM) -> bool:
    """Whether the least plug leaves as much wall outside it (practice)."""
    return across_corners_mm(square_mm) + 4 * wall_mm <= shaft_mm
