"""Line figures as plain data: what a set-up looks like, what a machine looks like.

A figure is geometry in its own units, y downwards, drawn by whoever holds a
pen. Shapes carry a role, never a colour, and may belong to a part of the
machine, so that choosing the part washes its shapes.
"""

from __future__ import annotations

from enum import Enum

from msgspec import Struct, field
from msgspec.structs import replace

from trebb.core.dual_units import in_units
from trebb.core.units import UnitSystem

Point = tuple[float, float]


class Role(Enum):
    """What a shape says; the theme decides what that looks like."""

    INK = "ink"
    SOFT = "soft"
    BLUE = "blue"
    WITHIN = "within"
    BEYOND = "beyond"
    HATCH = "hatch"


class Shape(Struct, frozen=True):
    """A polyline, closed or open.

    Parameters
    ----------
    points : corner points in figure units.
    closed : the last point joins the first, and the inside is filled.
    part : id of the machine's assembly that it belongs to, or "".
    """

    points: tuple[Point, ...]
    closed: bool = False
    role: Role = Role.INK
    part: str = ""
    wash: bool = False


class Circle(Struct, frozen=True):
    """A circle; `wash` fills it."""

    centre: Point
    radius: float
    role: Role = Role.INK
    part: str = ""
    wash: bool = False


class Arrow(Struct, frozen=True):
    """A movement or a direction of reading, from tail to head."""

    tail: Point
    head: Point
    role: Role = Role.BLUE
    both_ways: bool = False


class Label(Struct, frozen=True):
    """Words at a point; `anchor` is one of "left", "middle", "right"."""

    at: Point
    text: str
    role: Role = Role.SOFT
    anchor: str = "middle"
    strong: bool = False


class Indicator(Struct, frozen=True):
    """A dial indicator: its plunger touches `touch`, its body stands off along `away`."""

    touch: Point
    away: Point


Item = Shape | Circle | Arrow | Label | Indicator


class Figure(Struct, frozen=True):
    """Items within a frame of `width` by `height` figure units."""

    width: float
    height: float
    items: tuple[Item, ...] = field(default_factory=tuple)


def said_in(figure: Figure, system: UnitSystem) -> Figure:
    """The figure with its words in one system's units."""
    items = tuple(
        replace(item, text=in_units(item.text, system)) if isinstance(item, Label) else item
        for item in figure.items
    )
    return replace(figure, items=items)


def box(
    x: float,
    y: float,
    width: float,
    height: float,
    *,
    role: Role = Role.INK,
    part: str = "",
    wash: bool = False,
) -> Shape:
    """A closed rectangle with its corner at (x, y). In figure units."""
    return Shape(((x, y), (x + width, y), (x + width, y + height), (x, y + height)), True, role, part, wash)


def line(*points: Point, role: Role = Role.INK, part: str = "") -> Shape:
    """An open polyline through the points."""
    return Shape(points, False, role, part)
