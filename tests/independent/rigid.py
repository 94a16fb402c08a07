"""Machines as rigid bodies in space, and indicators that touch them: which way a needle goes is worked out
from where things are, never from a row.

x is to the right (along a lathe's bed from its headstock), y to the back, z up; mm and rad.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

Vector = NDArray[np.float64]
RIGHT, LEFT = np.array([1.0, 0, 0]), np.array([-1.0, 0, 0])
BACK, FRONT = np.array([0, 1.0, 0]), np.array([0, -1.0, 0])
UP, DOWN = np.array([0, 0, 1.0]), np.array([0, 0, -1.0])


def turned(axis: Vector, angle: float) -> NDArray[np.float64]:
    """The rotation by `angle` about `axis`, right handed (Rodrigues)."""
    k = np.array([[0, -axis[2], axis[1]], [axis[2], 0, -axis[0]], [-axis[1], axis[0], 0]])
    return np.eye(3) + np.sin(angle) * k + (1 - np.cos(angle)) * (k @ k)


def leaning(to: Vector, angle: float) -> NDArray[np.float64]:
    """The rotation that leans what stands upright over toward `to`."""
    return turned(np.cross(UP, to), angle)


class Cylinder:
    """A bar, a quill, a round column: a line and a radius."""

    def __init__(self, point: Vector, along: Vector, radius: float) -> None:
        self.point, self.along, self.radius = point, along / np.linalg.norm(along), radius

    def distance(self, at: Vector, toward: Vector) -> float:
        """From a stylus to the surface along its plunger."""
        off, across = at - self.point, toward - (toward @ self.along) * self.along
        start = off - (off @ self.along) * self.along
        a, b, c = across @ across, 2 * across @ start, start @ start - self.radius**2
        return float((-b - np.sqrt(b * b - 4 * a * c)) / (2 * a))

    def off_axis(self, at: Vector) -> float:
        """How far a point is from the axis: the radius that a tool there turns."""
        off = at - self.point
        return float(np.linalg.norm(off - (off @ self.along) * self.along))


class Face:
    """A plane: a table's top, a square's face, a way."""

    def __init__(self, point: Vector, normal: Vector) -> None:
        self.point, self.normal = point, normal

    def distance(self, at: Vector, toward: Vector) -> float:
        """From a stylus to the surface along its plunger."""
        return float((self.point - at) @ self.normal / (toward @ self.normal))


def read(
    surface: Cylinder | Face | Callable[[], Cylinder | Face], at: Vector, toward: Vector, zero: float = 0.0
) -> float:
    """What an indicator shows: + as its plunger is pushed in."""
    touched = surface() if callable(surface) else surface
    return zero - touched.distance(at, toward)
