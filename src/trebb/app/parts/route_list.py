"""A route of operations or an order of steps, as a list with ticks and what waits for what."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter, QPainterPath
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme

ROW = 38.0


class Line(Struct, frozen=True):
    """One line: `waits_for` are keys of lines above that must be done first."""

    key: str
    number: str
    title: str
    is_done: bool
    is_open: bool = True
    waits_for: tuple[str, ...] = ()


class RouteList(painting.Painted, QWidget):
    """Lines top to bottom; `with_arcs` draws at the left what each waits for."""

    is_list = True

    chosen = Signal(str)

    def __init__(self, *, with_arcs: bool = False) -> None:
        super().__init__()
        self._lines: Sequence[Line] = ()
        self._current = ""
        self._arcs = with_arcs
        self.setAccessibleName("Steps")
        self.setToolTip("Choose a step (up and down)")

    def show_lines(self, lines: Sequence[Line], current: str) -> None:
        """Show a route; `current` is the line looked at."""
        if list(lines) != list(self._lines) or current != self._current:
            self._lines, self._current = lines, current
            self.setMinimumHeight(round(theme.target(24) * len(lines)))
            self.update()

    def sizeHint(self) -> QSize:
        return QSize(280, int(ROW * max(1, len(self._lines))))

    def middle_of_current(self) -> float:
        """Where the line looked at stands, from the top."""
        at = next((i for i, line in enumerate(self._lines) if line.key == self._current), 0)
        return (at + 0.5) * self._height()

    def _height(self) -> float:
        return min(theme.target(ROW), self.height() / max(1, len(self._lines)))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        height = self._height()
        left = 86.0 if self._arcs else 0.0
        for i, line in enumerate(self._lines):
            area = QRectF(left, i * height, self.width() - left, height)
            self._paint_line(painter, area, line)
        if self._arcs:
            self._paint_arcs(painter, height, left)

    def _paint_line(self, painter: QPainter, area: QRectF, line: Line) -> None:
        current = line.key == self._current
        if current:
            painting.mark_here(painter, area)
            painter.fillRect(area, theme.colour("blue_wash"))
            painter.fillRect(QRectF(area.left(), area.top(), 4, area.height()), theme.colour("blue"))
        middle = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        painter.setPen(theme.colour("soft"))
        painter.setFont(theme.font(theme.SMALL))
        painter.drawText(area.adjusted(14, 0, 0, 0), middle, line.number)
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if current else theme.REGULAR))
        painter.setPen(theme.colour("soft" if line.is_done or not line.is_open else "ink"))
        words = area.adjusted(46, 0, -34, 0)
        painting.write_in(painter, words, middle, line.title)
        x, y = area.right() - 20, area.center().y()
        if line.is_done:
            painter.setPen(painting.pen("within", 2.2))
            painter.drawPolyline([QPointF(x - 6, y), QPointF(x - 2, y + 5), QPointF(x + 6, y - 6)])
        elif not line.is_open:
            painter.setPen(painting.pen("soft", 1.4))
            painter.drawLine(QPointF(x - 5, y), QPointF(x + 5, y))

    def _paint_arcs(self, painter: QPainter, height: float, left: float) -> None:
        row_of = {line.key: i for i, line in enumerate(self._lines)}
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for i, line in enumerate(self._lines):
            for needed in line.waits_for:
                start, end = (row_of[needed] + 0.5) * height, (i + 0.5) * height
                on_path = self._current in (line.key, needed)
                painter.setPen(painting.pen("blue" if on_path else "line", 1.8 if on_path else 1.2))
                reach = min(70.0, 10 + 8.0 * (i - row_of[needed]))
                path = QPainterPath(QPointF(left - 6, start))
                path.cubicTo(
                    QPointF(left - 6 - reach, start), QPointF(left - 6 - reach, end), QPointF(left - 6, end)
                )
                painter.drawPath(path)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("within" if line.is_done else "blue" if line.is_open else "soft"))
            painter.drawEllipse(QPointF(left - 6, (i + 0.5) * height), 3.4, 3.4)
            painter.setBrush(Qt.BrushStyle.NoBrush)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int(event.position().y() / self._height())
        if 0 <= i < len(self._lines):
            self.chosen.emit(self._lines[i].key)
