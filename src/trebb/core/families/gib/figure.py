"""A slide on its dovetail with the gib in its slot, from above, the ground of the gib's figures."""

from __future__ import annotations

from trebb.core.figure import Arrow, Figure, Item, Label, Role, Shape, box, line

WIDTH, HEIGHT = 640.0, 168.0
THIN, THICK = 130.0, 510.0


def frame(items: list[Item]) -> Figure:
    """Close a figure of the usual size."""
    return Figure(WIDTH, HEIGHT, tuple(items))


def slot(*, wash: bool = False, slide: str = "mid", stand: float = 10.0) -> list[Item]:
    """Slide above, dovetail below, the wedge between; screws at both ends, thin end at the left. In figure
    units.
    """
    shift = {"left": -40.0, "mid": 0.0, "right": 40.0}[slide]
    return [
        box(60, 116, 520, 26),
        Label((320, 134), "dovetail", Role.SOFT),
        Shape(((THIN + shift, 40), (THICK + shift, 40), (THICK + shift, 74), (THIN + shift, 92)), True),
        Label((320 + shift, 60), "slide", Role.SOFT),
        Shape(
            (
                (THIN + shift - 4, 96),
                (THICK + stand + shift, 78),
                (THICK + stand + shift, 112),
                (THIN + shift - 4, 112),
            ),
            True,
            Role.BLUE if wash else Role.INK,
            wash=wash,
        ),
        Label((320 + shift, 104), "gib", Role.BLUE if wash else Role.INK),
        box(THICK + stand + shift + 2, 84, 22, 20),
        Label((THICK + stand + shift + 30, 98), "pushes it in", Role.SOFT, "left"),
        box(THIN + shift - 28, 92, 22, 20),
        Label((THIN + shift - 34, 106), "can stop it", Role.SOFT, "right"),
        Label((THIN + shift + 34, 56), "thin end", Role.SOFT),
        Label((THICK + shift - 34, 56), "thick end", Role.SOFT),
    ]


def blade(end: str) -> list[Item]:
    """A feeler blade between gib and dovetail at an end."""
    x = THIN + 8 if end == "thin" else THICK - 8
    out = -60 if end == "thin" else 60
    return [
        line((x + out, 132), (x, 114), role=Role.BLUE),
        Label((x + out + (-6 if out < 0 else 6), 136), "feeler", Role.BLUE, "right" if out < 0 else "left"),
    ]


def push(x: float) -> list[Item]:
    """Push and pull across the slide. In figure units."""
    return [Arrow((x, 20), (x, 44), both_ways=True)]
