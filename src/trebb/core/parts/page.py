"""A page of a drawing before it is a document: lines, circles, texts and dimensions in millimetres of paper,
and where there is still room for words.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Iterable, Sequence
from functools import lru_cache

from msgspec import Struct, field

Point = tuple[float, float]
# A4 across, mm; everything stands within the frame, above the title block.
WIDTH, HEIGHT, MARGIN, TITLE_HIGH = 297.0, 210.0, 8.0, 21.0
TEXT, SMALL, GAP = 3.5, 2.8, 1.2
ARROW = 2.4

# Advance over capital height of the shipped face, by letter; what is not listed counts as `_OTHER`.
_NARROW = {
    " ": 0.32,
    ".": 0.36,
    ",": 0.36,
    "'": 0.3,
    "’": 0.3,
    "i": 0.36,
    "l": 0.36,
    "j": 0.38,
    "1": 0.48,
    ":": 0.36,
}
_WIDE = {"m": 1.08, "M": 0.92, "W": 1.12, "w": 1.0, "Ø": 0.88, "½": 1.0, "¼": 1.0}
_OTHER = 0.8


@lru_cache(maxsize=2000)
def text_width(text: str, high: float = TEXT) -> float:
    """Width of a text of that capital height, mm; never less than it is."""
    return high * sum(_NARROW.get(c, _WIDE.get(c, _OTHER)) for c in text)


class Box(Struct, frozen=True):
    """An upright rectangle on the page, mm."""

    left: float
    low: float
    right: float
    high: float

    def meets(self, other: Box) -> bool:
        """Whether two boxes have room in common."""
        return (
            self.left < other.right
            and other.left < self.right
            and self.low < other.high
            and other.low < self.high
        )

    def grown(self, by: float) -> Box:
        """The box with room round it. In mm on the paper."""
        return Box(self.left - by, self.low - by, self.right + by, self.high + by)

    def crossed_by(self, a: Point, b: Point) -> bool:
        """Whether a straight line goes through it (Liang and Barsky's clipping)."""
        # Most lines lie wholly to one side: asked hundreds of thousands of times for a sheet.
        if (
            (a[0] < self.left and b[0] < self.left)
            or (a[0] > self.right and b[0] > self.right)
            or (a[1] < self.low and b[1] < self.low)
            or (a[1] > self.high and b[1] > self.high)
        ):
            return False
        t0, t1 = 0.0, 1.0
        dx, dy = b[0] - a[0], b[1] - a[1]
        for p, q in (
            (-dx, a[0] - self.left),
            (dx, self.right - a[0]),
            (-dy, a[1] - self.low),
            (dy, self.high - a[1]),
        ):
            if p == 0:
                if q < 0:
                    return False
                continue
            t = q / p
            if p < 0:
                t0 = max(t0, t)
            else:
                t1 = min(t1, t)
            if t0 > t1:
                return False
        return True


class Line(Struct, frozen=True):
    """A polyline on a layer."""

    layer: str
    points: tuple[Point, ...]


class Round(Struct, frozen=True):
    """A circle on a layer."""

    layer: str
    centre: Point
    radius: float


class Text(Struct, frozen=True):
    """A text at its left lower corner, or about its middle."""

    words: str
    at: Point
    high: float
    is_middle: bool = False
    layer: str = "TEXT"


class Dim(Struct, frozen=True):
    """A dimension between two points of the part: upright or along, its line at `base`, its text's middle at
    `text_at`. `words` is what it says, "<>" for what it measures.
    """

    start: Point
    end: Point
    base: float
    upright: bool
    text_at: Point
    words: str


class Hatch(Struct, frozen=True):
    """A cut face; `is_wash` is what an operation cuts, in plain colour."""

    points: tuple[Point, ...]
    is_wash: bool = False


class Spot(Struct, frozen=True):
    """Where something with limits is drawn: the row's key, or its limits."""

    what: object
    box: Box


class Page(Struct):
    """What stands on the page so far. `area` is what the part may have of it."""

    area: Box
    lines: list[Line] = field(default_factory=list)
    rounds: list[Round] = field(default_factory=list)
    texts: list[Text] = field(default_factory=list)
    dims: list[Dim] = field(default_factory=list)
    hatches: list[Hatch] = field(default_factory=list)
    boxes: list[Box] = field(default_factory=list)
    edges: list[tuple[Point, Point]] = field(default_factory=list)
    cut: list[Box] = field(default_factory=list)  # hatched: no words in it
    overflows: bool = False
    is_tried: bool = False  # one scale of several: once it overflows nothing more is looked for
    sheet: tuple[float, float] = (WIDTH, HEIGHT)
    spots: list[Spot] = field(default_factory=list)  # where what a row limits is drawn

    # what is drawn ----------------------------------------------------------------------------

    def line(self, layer: str, *points: Point, solid: bool = True) -> None:
        """A polyline; words keep off it where it is `solid`."""
        self.lines.append(Line(layer, points))
        if solid:
            self.edges += list(itertools.pairwise(points))

    def circle(self, layer: str, centre: Point, radius: float) -> None:
        """A circle; words keep off its ring. In mm on the paper."""
        self.rounds.append(Round(layer, centre, radius))
        ring = [
            (centre[0] + radius * math.cos(t), centre[1] + radius * math.sin(t))
            for t in (math.pi * i / 12 for i in range(25))
        ]
        self.edges += list(itertools.pairwise(ring))

    def hatch(self, points: Iterable[Point]) -> None:
        """A cut face."""
        face = tuple(points)
        self.hatches.append(Hatch(face))
        xs, ys = [x for x, _ in face], [y for _, y in face]
        self.cut.append(Box(min(xs), min(ys), max(xs), max(ys)))

    def wash(self, points: Iterable[Point]) -> None:
        """What an operation cuts; words may stand on it."""
        self.hatches.append(Hatch(tuple(points), True))

    def mark(self, what: object, one: Point, other: Point) -> None:
        """Note where something that has limits is drawn, by two of its corners; nothing for no limits."""
        if what:
            (left, right), (low, high) = sorted((one[0], other[0])), sorted((one[1], other[1]))
            self.spots.append(Spot(what, Box(left, low, right, high)))

    # words ------------------------------------------------------------------------------------

    def box_at(self, words: str, middle: Point, high: float = TEXT) -> Box:
        """The room that words take round their middle. In mm on the paper."""
        half = text_width(words, high) / 2
        return Box(middle[0] - half, middle[1] - 0.65 * high, middle[0] + half, middle[1] + 0.65 * high)

    def is_free(self, box: Box, leader: Sequence[Point] = (), *, off_edges: bool = True) -> bool:
        """Whether words may stand there: inside the area, off every other text, off lines; and whether their
        leader keeps off the other texts.
        """
        a = self.area
        if box.left < a.left or box.right > a.right or box.low < a.low or box.high > a.high:
            return False
        room = box.grown(GAP / 2)
        for taken in (self.boxes, self.cut):
            for b in taken:
                if room.meets(b):
                    return False
        if off_edges:
            for p, q in self.edges:
                if box.crossed_by(p, q):
                    return False
        parts = list(itertools.pairwise(leader))
        return not parts or not any(b.grown(GAP / 4).crossed_by(p, q) for b in self.boxes for p, q in parts)

    def room(self, wide: float, high: float, step: tuple[int, int], *, off_views: bool = False) -> Box | None:
        """Free room of a size, low and right before high and left, looked for in steps up and to the left;
        `off_views` keeps it out of what is drawn too. None where there is none. In mm on the paper.
        """
        area, drawn = self.area, []
        for line in self.lines if off_views else ():
            if line.layer == "OUTLINE":
                xs, ys = zip(*line.points, strict=True)
                drawn.append(Box(min(xs), min(ys), max(xs), max(ys)))
        for y in range(int(area.low) + int(off_views), int(area.high - high), step[0]):
            for x in range(int(area.right - wide), int(area.left), -step[1]):
                box = Box(float(x), float(y), x + wide, y + high)
                if self.is_free(box.grown(1.0)) and not any(box.meets(one) for one in drawn):
                    return box
        return None

    def write(self, words: str, middle: Point, high: float = TEXT, layer: str = "TEXT") -> None:
        """Words about a middle, whatever stands there. In mm on the paper."""
        box = self.box_at(words, middle, high)
        self.texts.append(Text(words, middle, high, True, layer))
        self.boxes.append(box)

    def write_left(self, words: str, at: Point, high: float = TEXT) -> None:
        """Words from a left lower corner on. In mm on the paper."""
        self.texts.append(Text(words, at, high))
        self.boxes.append(
            Box(at[0], at[1] - 0.2 * high, at[0] + text_width(words, high), at[1] + 1.15 * high)
        )

    def label(
        self,
        words: str,
        target: Point,
        *,
        across: tuple[Point, Point] | None = None,
        lean: int = 0,
        over: float | None = None,
        rows: int = 14,
        high: float = TEXT,
    ) -> bool:
        """Words with a leader from a point of the part, in the nearest free room over it. False, and
        `overflows`, where there is none. `across` makes them a dimension between two points, upright;
        `over` is the height its first row stands above (the target's own if None); `lean` -1 or 1 puts
        them to the left or right of their leader first, so that the next one's passes. In mm on the
        paper.
        """
        if self.is_tried and self.overflows:
            return False
        half = text_width(words, high) / 2
        step, first = high + 2.6, (target[1] if over is None else over) + 5.0
        others = [0.0, *(way * 6.0 * i for i in range(1, 16) for way in (1, -1))]
        tries = [[lean * (half - 0.8)], others] if lean else [others]
        for shifts in tries:
            for row in range(rows):
                for shift in shifts:
                    middle = (target[0] + shift, first + row * step)
                    if self._labelled(words, target, middle, across, high):
                        return True
        self.overflows = True
        return False

    def _labelled(
        self, words: str, target: Point, middle: Point, across: tuple[Point, Point] | None, high: float
    ) -> bool:
        """Write a label about a middle if it has room there."""
        (x, y), half = middle, text_width(words, high) / 2
        box, foot = self.box_at(words, middle, high), y - 0.75 * high
        near = min(max(target[0], x - half), x + half)
        elbow = ((target[0], foot),) if near != target[0] else ()
        leader = (target, *elbow, (near, foot))
        line = ((x - half, foot), (x + half, foot))
        if not self.is_free(box, (*leader, *line)) or self._hits_texts(leader):
            return False
        self.line("DIMENSION", *leader)
        self.line("DIMENSION", *line)
        self.boxes.append(Box(x - half, foot - 0.3, x + half, foot + 0.3))
        if across is None:
            self.write(words, middle, high, "DIMENSION")
        else:
            self.dims.append(Dim(*across, across[0][0], True, middle, words))
            self.boxes.append(box)
        return True

    def _hits_texts(self, leader: Sequence[Point]) -> bool:
        """Whether a leader would run along a dimension's own line of words."""
        return any(b.crossed_by(p, q) for b in self.boxes for p, q in itertools.pairwise(leader))

    def along(self, start: Point, end: Point, base: float, words: str) -> None:
        """A dimension along x: its words over its line where they fit between the arrows, else beside it. In
        mm on the paper.
        """
        left, right = sorted((start[0], end[0]))
        wide = text_width(words)
        y = base + 0.75 * TEXT
        middle = (left + right) / 2
        spots = [middle] if right - left >= wide + 2 * ARROW else []
        spots += [left - wide / 2 - ARROW - 1.5, right + wide / 2 + ARROW + 1.5]
        self._dim(start, end, base, False, [(x, y) for x in spots], words)

    def upright(self, start: Point, end: Point, base: float, words: str, *, left: bool = False) -> None:
        """A dimension along y: its words beside its line, on the right first or on the `left` only. In mm on
        the paper.
        """
        low, high = sorted((start[1], end[1]))
        wide = text_width(words)
        y = (low + high) / 2
        spots = []
        for dy in (0.0, 6.0, -6.0, 12.0, -12.0, 18.0, -18.0):
            spots += [] if left else [(base + wide / 2 + 1.5, y + dy)]
            spots.append((base - wide / 2 - 1.5, y + dy))
        self._dim(start, end, base, True, spots, words)

    def _dim(
        self, start: Point, end: Point, base: float, upright: bool, spots: list[Point], words: str
    ) -> None:
        if upright:
            rails = [
                ((start[0], start[1]), (base, start[1])),
                ((end[0], end[1]), (base, end[1])),
                ((base, start[1]), (base, end[1])),
            ]
        else:
            rails = [
                ((start[0], start[1]), (start[0], base)),
                ((end[0], end[1]), (end[0], base)),
                ((start[0], base), (end[0], base)),
            ]
        spot = next((s for s in spots if self.is_free(self.box_at(words, s))), None)
        if spot is None or any(b.crossed_by(p, q) for b in self.boxes for p, q in rails):
            self.overflows = True
            spot = spot or spots[0]
        self.edges += rails
        self.dims.append(Dim(start, end, base, upright, spot, words))
        self.boxes.append(self.box_at(words, spot))
        if not (
            self.area.low <= base <= self.area.high
            if not upright
            else self.area.left <= base <= self.area.right
        ):
            self.overflows = True
