"""The bed from the front and from its end, the ground of the alignment set-ups' figures."""

from __future__ import annotations

from trebb.core.families.bed.subject import Bed
from trebb.core.figure import Arrow, Circle, Item, Label, Role, Shape, box, line
from trebb.core.survey.ground import HEIGHT, WIDTH, frame, indicator_on, words_at

LEFT, RIGHT, WAY = 70.0, 590.0, 112.0
AXIS = 64.0


def at(bed: Bed, x_mm: float) -> float:
    """Where a place along the bed lies in the figure. In figure units."""
    return LEFT + 40 + (RIGHT - LEFT - 60) * x_mm / bed.length_mm


def bed_front(bed: Bed, *, wash: str = "", station: int | None = None) -> list[Item]:
    """Bed on its feet, headstock at the left, tailstock at the right; station marks on request."""
    items: list[Item] = [
        box(LEFT, WAY, RIGHT - LEFT, 16, wash=wash == "ways"),
        line((LEFT, WAY + 5), (RIGHT, WAY + 5), role=Role.SOFT),
        box(LEFT - 8, 42, 68, WAY - 42, wash=wash == "head"),
        box(LEFT + 60, 52, 12, 24, wash=wash == "nose"),
        Shape(
            ((LEFT + 4, 128), (LEFT + 52, 128), (LEFT + 58, 156), (LEFT - 2, 156)), True, wash=wash == "feet"
        ),
        Shape(
            ((RIGHT - 56, 128), (RIGHT - 8, 128), (RIGHT - 2, 156), (RIGHT - 62, 156)),
            True,
            wash=wash == "feet",
        ),
        Label((LEFT + 26, 166), "headstock end", Role.SOFT),
        Label((RIGHT - 32, 166), "tailstock end", Role.SOFT),
    ]
    if station is not None:
        for k, x in enumerate(bed.stations):
            here = k == station
            items.append(
                line((at(bed, x), WAY + 16), (at(bed, x), WAY + 22), role=Role.BLUE if here else Role.SOFT)
            )
            items.append(Label((at(bed, x), WAY + 34), str(k), Role.BLUE if here else Role.SOFT, strong=here))
    return items


def tailstock(x: float, *, wash: bool = False, quill: float = 20.0) -> list[Item]:
    """A tailstock with its point toward the headstock. In figure units."""
    return [
        Shape(((x, WAY), (x + 4, 48), (x + 48, 48), (x + 54, WAY)), True, wash=wash),
        box(x + 4 - quill, AXIS - 6, quill, 12, wash=wash),
        Shape(((x + 4 - quill, AXIS - 5), (x - 6 - quill, AXIS), (x + 4 - quill, AXIS + 5)), True),
    ]


def carriage(x: float, *, tool: bool = False) -> list[Item]:
    """The carriage at a place along the bed. In figure units."""
    items: list[Item] = [
        Shape(((x - 36, WAY), (x - 32, WAY - 10), (x + 32, WAY - 10), (x + 36, WAY)), True),
        box(x - 14, WAY - 22, 28, 12),
    ]
    if tool:
        items.append(box(x - 4, AXIS + 12, 8, WAY - 22 - AXIS - 12, role=Role.BLUE, wash=True))
    return items


def level(x: float, *, across: bool = False, turned: bool = False) -> list[Item]:
    """A level on the ways: along, or across seen from its end. In figure units."""
    half = 22 if not across else 9
    return [
        box(x - half, WAY - 16, 2 * half, 10, role=Role.BLUE, wash=True),
        line((x - half + 3, WAY - 6), (x - half + 3, WAY), role=Role.BLUE),
        line((x + half - 3, WAY - 6), (x + half - 3, WAY), role=Role.BLUE),
        Circle((x - 3 if not turned else x + 3, WAY - 11), 3, Role.BLUE),
    ]


def bed_end(x0: float, *, roll: float = 0.0, words: str = "") -> list[Item]:
    """The bed from its tailstock end: front way left, rear way right, a level across them.
    In figure units.
    """
    y, lift = 92.0, 10 * roll
    return [
        Shape(((x0, y), (x0 + 12, y - 12), (x0 + 24, y), (x0 + 24, y + 40), (x0, y + 40)), True),
        Shape(((x0 + 96, y - lift), (x0 + 120, y - lift), (x0 + 120, y + 40), (x0 + 96, y + 40)), True),
        line((x0 + 24, y + 24), (x0 + 96, y + 24), role=Role.SOFT),
        Label((x0 + 12, y + 56), "front", Role.SOFT), Label((x0 + 108, y + 56), "rear", Role.SOFT),
        Label((x0 + 60, y - 34), words, Role.BLUE),
    ]  # fmt: skip


__all__ = [
    "AXIS",
    "HEIGHT",
    "LEFT",
    "RIGHT",
    "WAY",
    "WIDTH",
    "Arrow",
    "at",
    "bed_end",
    "bed_front",
    "carriage",
    "frame",
    "indicator_on",
    "level",
    "tailstock",
    "words_at",
]
