"""A stepped shaft from the side, the ground of the shaft set-ups' figures; a wheel from its face."""

from __future__ import annotations

import math

from trebb.core.families.shaft.subject import Shaft
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Item, Label, Role, Shape, box, line

WIDTH, HEIGHT = 640.0, 160.0
LEFT, RIGHT, AXIS, HALF = 60.0, 580.0, 74.0, 15.0


def frame(items: list[Item]) -> Figure:
    """Close a figure of the usual size."""
    return Figure(WIDTH, HEIGHT, tuple(items))


def at(shaft: Shaft, z_mm: float) -> float:
    """Where a place along the shaft lies in the figure. In figure units."""
    return LEFT + (RIGHT - LEFT) * z_mm / shaft.length_mm


def seat_mm(shaft: Shaft, seat: str) -> float:
    """Where a seat lies along the shaft: the journals as stated, the wheel's seat at the longer free end."""
    if seat == "left":
        return shaft.a_mm
    if seat == "right":
        return shaft.b_mm
    return (
        shaft.length_mm - 0.06 * shaft.length_mm
        if shaft.length_mm - shaft.b_mm >= shaft.a_mm
        else 0.06 * shaft.length_mm
    )


def side(shaft: Shaft, *, washed: str = "", held: bool = True) -> list[Item]:
    """The shaft with its two journals and the wheel's seat; V-blocks or centres under it."""
    items: list[Item] = [box(LEFT, AXIS - HALF, RIGHT - LEFT, 2 * HALF)]
    for seat in ("left", "right", "seat"):
        x, blue = at(shaft, seat_mm(shaft, seat)), seat == washed
        role = Role.BLUE if blue else Role.INK
        items.append(box(max(LEFT, x - 26), AXIS - HALF + 2, 52, 2 * HALF - 4, role=role, wash=blue))
    items.append(line((LEFT - 22, AXIS), (RIGHT + 22, AXIS), role=Role.HATCH))
    if held and shaft.held == "centres":
        for x, way in ((LEFT, 1), (RIGHT, -1)):
            items.append(
                Shape(((x, AXIS), (x - 24 * way, AXIS - 12), (x - 24 * way, AXIS + 12)), True, Role.SOFT)
            )
    elif held:
        for z in (shaft.a_mm, shaft.b_mm):
            x = at(shaft, z)
            items.append(
                Shape(
                    ((x - 20, 126), (x - 10, AXIS + HALF), (x + 10, AXIS + HALF), (x + 20, 126)),
                    True,
                    Role.SOFT,
                )
            )
    return items


def wheel(*, socket: str = "", rocking: bool = True) -> list[Item]:
    """A wheel on its shaft from its face."""
    x, y = 190.0, 78.0
    items: list[Item] = [Circle((x, y), 62), Circle((x, y), 26), Circle((x, y), 15)]
    if socket == "square":
        items.append(Shape(((x, y - 14), (x + 14, y), (x, y + 14), (x - 14, y)), True, Role.BLUE))
    elif socket == "pin":
        items.append(box(x - 28, y - 3, 56, 6, role=Role.BLUE, wash=True))
    else:
        items.append(box(x - 4, y - 20, 8, 10, role=Role.BLUE, wash=True))
    if rocking:
        items += [
            Indicator((x + 62, y), (1, 0.0001)),
            Arrow(
                (x + 44 * math.cos(0.9), y - 44 * math.sin(0.9)),
                (x + 50 * math.cos(0.3), y - 50 * math.sin(0.3)),
                both_ways=True,
            ),
        ]
    return items


def words_at(x: float, y: float, text: str) -> Label:
    """Words beside what they are about. In figure units."""
    return Label((x, y), text, Role.BLUE, "left")


def indicator_above(x: float) -> list[Item]:
    """An indicator on top of the shaft. In figure units."""
    return [Indicator((x, AXIS - HALF), (0, -1))]
