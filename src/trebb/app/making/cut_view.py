"""What an operation cuts of a turned part, large: washed, the tool at it, how it is held, the size now."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter, QPolygonF

from trebb.app.look import painting, theme
from trebb.app.parts.drawing_view import DrawingView
from trebb.core.making.correction import size_sentence
from trebb.core.making.cutting import HELD, tool_of
from trebb.core.making.operations import Operation
from trebb.core.units import UnitSystem, show_size, show_sizes
from trebb.core.words import small

ROUND_IT = 0.5  # of the larger of what is cut and the part's thickness: seen beside it
MOST_OF_IT = 0.55  # of the part's length: where more is cut the whole part is seen
TOOL, SHANK = 15.0, 46.0  # px
EDGE = 10.0  # px
BESIDE = 48  # px kept beside the part: centres, jaws, the tool
SHARE_HIGH = 0.5  # of the height that the part takes at most
MOST_THICKER = 2.5  # times that a slender part is drawn as thick
CENTRE, JAW = 26.0, 22.0  # px


class CutSaid(Struct, frozen=True):
    """The words at the cut: its limits, and the size now with what it means; "" for none."""

    limits: str = ""
    now: str = ""
    state: str = "soft"  # role of the size now


def _box(lines: Sequence[Sequence[tuple[float, float]]]) -> QRectF:
    found = QRectF()
    for points in lines:
        found = found.united(QPolygonF([QPointF(*p) for p in points]).boundingRect())
    return found


def cut_said(operation: Operation, now_mm: float | None, system: UnitSystem) -> CutSaid:
    """The words at an operation's cut; `now_mm` the size taken last."""
    target = operation.target
    if target is None:
        return CutSaid()
    sign = "Ø" if target.is_diameter else ""
    limits = sign + show_sizes(target.band.low_mm, target.band.high_mm, system)
    if now_mm is None:
        return CutSaid(limits)
    state, head, _ = size_sentence(target, now_mm, system)
    return CutSaid(limits, f"now {show_size(now_mm, system)}: {small(head)}", state)


class CutView(DrawingView):
    """The drawing's shape without its sizes, as near as what is cut allows; the wheel still zooms."""

    def __init__(self) -> None:
        super().__init__()
        self._said = CutSaid()
        self._thicker = 1.0
        self.setAccessibleName("What this operation cuts")
        self.viewport().setAccessibleName("What this operation cuts")
        self.setToolTip("What this operation cuts is washed; wheel zooms, double click shows the whole sheet")

    def say(self, said: CutSaid) -> None:
        """The words at the cut."""
        if said != self._said:
            self._said = said
            self.viewport().update()

    def _cut(self) -> frozenset[str]:
        return self._key[5] - HELD if self._key is not None else frozenset()

    def _box_of(self, *, washed: bool) -> QRectF:
        """Where the part stands in the scene, or what of it is washed; empty where nothing is."""
        return _box(self.washes if washed else self.outlines)

    def fit(self) -> None:
        """What is cut and what is beside it; the whole part where most of it is cut."""
        super().fit()
        whole, cut = self._box_of(washed=False), self._box_of(washed=True)
        if self._whole or whole.isEmpty():
            return
        near = whole
        if not cut.isEmpty() and cut.width() < MOST_OF_IT * whole.width():
            beside = ROUND_IT * max(cut.width(), whole.height())
            near = cut.adjusted(-beside, 0, beside, 0)
        wide, high = max(1, self.viewport().width() - 2 * BESIDE), max(1, self.viewport().height())
        each = min(wide / near.width(), SHARE_HIGH * high / whole.height())
        self._thicker = max(1.0, min(MOST_THICKER, SHARE_HIGH * high / (3 * whole.height() * each)))
        self.resetTransform()
        self.scale(each, -each * self._thicker)
        room = QRectF(0, 0, self.viewport().width() / each, high / (each * self._thicker))
        room.moveCenter(QPointF(near.center().x(), whole.center().y()))
        self.setSceneRect(room)
        self.centerOn(room.center())

    # over the drawing ---------------------------------------------------------------------------

    def drawForeground(self, painter: QPainter, rect: QRectF | QRect) -> None:
        """The tool, the words at the cut and where it is held, in pixels."""
        cut = self._box_of(washed=True)
        if self._whole or not self.outlines:
            return
        painter.save()
        painter.resetTransform()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        seen = QRectF(self.viewport().rect()).adjusted(EDGE, EDGE, -EDGE, -EDGE)
        spots = [self._on_view(_box([points])).intersected(seen) for points in self.washes]
        last = max((s for s in spots if not s.isEmpty()), key=lambda s: s.right(), default=QRectF())
        self._draw_held(painter, self._on_view(self._box_of(washed=False)))
        self._draw_sizes(painter, seen)
        self._draw_tool(painter, last)
        self._draw_words(painter, self._on_view(cut).intersected(seen), seen)
        if self._thicker > 1.05:
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                seen, Qt.AlignmentFlag.AlignBottom | Qt.AlignmentFlag.AlignRight,
                f"drawn {self._thicker:.1f} × as thick as it is",
            )  # fmt: skip
        painter.restore()

    def _on_view(self, box: QRectF) -> QRectF:
        """A box of the scene in pixels."""
        corners = self.mapFromScene(box.topLeft()), self.mapFromScene(box.bottomRight())
        return QRectF(QPointF(corners[0]), QPointF(corners[1])).normalized()

    def _draw_held(self, painter: QPainter, part: QRectF) -> None:
        """Centres at both ends, jaws at the left one, or vees below it."""
        assert self._key is not None
        cut, middle = self._key[5], part.center().y()
        painter.setPen(painting.pen("soft"))
        painter.setBrush(theme.colour("ground"))
        if "on centres" in cut:
            for x, way in ((part.left(), -1), (part.right(), 1)):
                corners = [(x, middle), (x + way * CENTRE, middle - 12), (x + way * CENTRE, middle + 12)]
                painter.drawPolygon(QPolygonF([QPointF(*p) for p in corners]))
        if "in jaws" in cut:
            first = self._key[0].sections[0].diameter_mm / self._key[0].largest_mm
            high = part.height() * first / 2
            for top in (middle - high - JAW, middle + high):
                painter.drawRect(QRectF(part.left() - 8, top, 1.4 * JAW, JAW))
        if "on a vee" in cut:
            for share in (0.25, 0.75):
                x, y = part.left() + share * part.width(), part.bottom()
                corners = [(x, y - 4), (x + JAW, y + JAW), (x - JAW, y + JAW)]
                painter.drawPolygon(QPolygonF([QPointF(*p) for p in corners]))

    def _draw_sizes(self, painter: QPainter, seen: QRectF) -> None:
        """Each section's diameter below it, of one that is cut above it, where there is room."""
        assert self._key is not None
        part, system = self._key[0], self._key[1]
        whole = self._box_of(washed=False)
        each, left = whole.width() / part.length_mm, whole.left()
        painter.setFont(theme.font(theme.SMALL, theme.MEDIUM))
        metrics = QFontMetricsF(painter.font())
        cut = self._cut()
        for i, section in enumerate(part.sections):
            right = left + section.length_mm * each
            high = section.diameter_mm * each / 2
            spot = self._on_view(QRectF(left, whole.center().y() - high, right - left, 2 * high))
            spot = QRectF(max(spot.left(), seen.left()), spot.top(), 0, spot.height()).united(
                QRectF(min(spot.right(), seen.right()), spot.top(), 0, spot.height())
            )
            words = "Ø" + show_size(section.diameter_mm, system, unit=False)
            wide = metrics.horizontalAdvance(words)
            if spot.right() - spot.left() > wide + 6 and spot.left() < seen.right():
                is_cut = f"section {i}" in cut  # the tool comes from below
                foot = spot.top() - 6 if is_cut else spot.bottom() + metrics.ascent() + 5
                painter.setPen(theme.colour("blue" if is_cut else "soft"))
                painter.drawText(QPointF(spot.center().x() - wide / 2, foot), words)
            left = right

    def _draw_tool(self, painter: QPainter, spot: QRectF) -> None:
        """A tool at what is cut, with the way it goes: from below, into the bore, at the face, from above."""
        tool = tool_of(self._cut())
        if tool == "" or spot.isEmpty():
            return
        painter.setPen(painting.pen("ink"))
        painter.setBrush(theme.colour("ground"))
        if tool == "turning":
            tip = QPointF(spot.right(), spot.bottom())
            points: list[tuple[float, float]] = [(0, 0), (TOOL, 5), (TOOL, SHANK), (-4, SHANK), (-4, 12)]
            way: list[tuple[float, float]] = [(-10, SHANK - 10), (-44, SHANK - 10)]
        elif tool == "parting":
            tip, half = QPointF(spot.center().x(), spot.bottom()), min(TOOL, spot.width() / 2)
            points = [(-half, 0), (half, 0), (half, SHANK), (-half, SHANK)]
            way = [(half + 12, SHANK), (half + 12, SHANK - 34)]
        elif tool == "boring":
            tip = QPointF(spot.right(), spot.center().y())
            points = [(6, 0), (12, 8), (12, 11), (SHANK + 20, 11), (SHANK + 20, 22), (6, 22)]
            way = [(SHANK + 20, 34), (SHANK - 14, 34)]
        elif tool == "facing":
            tip = QPointF(spot.right() + 1, spot.center().y())
            points = [(0, 0), (10, 6), (10, SHANK), (24, SHANK), (24, 0), (14, -6)]
            way = [(34, SHANK), (34, SHANK - 34)]
        else:
            tip = QPointF(spot.center().x(), spot.top())
            points = [(-6, 0), (6, 0), (6, -SHANK + 12), (10, -SHANK + 12), (10, -SHANK), (-10, -SHANK),
                      (-10, -SHANK + 12), (-6, -SHANK + 12)]  # fmt: skip
            way = [(22, -SHANK), (22, -SHANK + 30)]
        painter.drawPolygon(QPolygonF([tip + QPointF(*p) for p in points]))
        painting.paint_arrow(painter, tip + QPointF(*way[0]), tip + QPointF(*way[1]), "blue")

    def _draw_words(self, painter: QPainter, spot: QRectF, seen: QRectF) -> None:
        """Its limits with a leader to what is cut, below them the size now."""
        said = self._said
        lines: list[tuple[str, int, str]] = [
            (said.limits, theme.LARGE, "ink"),
            (said.now, theme.BODY, said.state),
        ]
        lines = [line for line in lines if line[0]]
        if not lines:
            return
        top, right = seen.top(), spot.center().x() > seen.center().x()
        foot = top
        for words, size, role in lines:
            painter.setFont(theme.font(size, theme.SEMIBOLD))
            metrics = QFontMetricsF(painter.font())
            painter.setPen(theme.colour(role))
            wide = metrics.horizontalAdvance(words)
            left = seen.right() - wide if right else seen.left()
            painter.drawText(QPointF(left, foot + metrics.ascent()), words)
            foot += metrics.height()
        start = QPointF(seen.right() if right else seen.left(), foot + 3)
        elbow = QPointF(spot.center().x(), foot + 3)
        painter.setPen(painting.pen("blue"))
        painter.drawPolyline(QPolygonF([start, elbow, QPointF(elbow.x(), max(foot + 3, spot.top()))]))
