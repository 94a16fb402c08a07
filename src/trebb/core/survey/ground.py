"""The ground that set-ups' figures stand on: their size, words and needles in them."""

from __future__ import annotations

from trebb.core.figure import Figure, Indicator, Item, Label, Role


def framed(items: list[Item], *words: str) -> Figure:
    labels: list[Item] = [Label((370, 54 + 24 * i), w, Role.BLUE, "left") for i, w in enumerate(words)]
    return Figure(WIDTH, HEIGHT, (*items, *labels))


WIDTH, HEIGHT = 640.0, 168.0


def frame(items: list[Item]) -> Figure:
    """Close a figure of the usual size."""
    return Figure(WIDTH, HEIGHT, tuple(items))


def indicator_on(x: float, y: float, *, top: bool) -> list[Item]:
    """An indicator touching the work from above, or from the front (drawn below it). In figure units."""
    return [Indicator((x, y), (0, -1) if top else (0, 1))]


def words_at(x: float, y: float, text: str, *, anchor: str = "left", role: Role = Role.BLUE) -> Label:
    """Words beside what they are about. In figure units."""
    return Label((x, y), text, role, anchor)
