"""What was planted, drawn beside what was believed at each reading."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.logbook.practice.opened import Opened

LEFT, RIGHT, TOP, FOOT, GAP = 230.0, 90.0, 4.0, 20.0, 8.0
MOST_LIMITS = 6.0


class BeliefPicture(painting.Painted, QWidget):
    """A band a cause, readings from left to right: what was believed with its 95 %, dashed what it is; a
    mark where it went wrong.
    """

    def __init__(self) -> None:
        super().__init__()
        self._opened: Opened | None = None
        self.setMinimumHeight(190)
        self.setAccessibleName("What was believed at each reading")
        self.setToolTip(
            "Band: what was believed, in limits. Dashed: what it really is. Bar: where it went wrong"
        )

    def sizeHint(self) -> QSize:
        return QSize(640, 260)

    def show_opened(self, opened: Opened | None) -> None:
        """Show a practice that is opened."""
        self._opened = opened
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        opened = self._opened
        if opened is None or not opened.believed:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        causes = opened.piece.ground.causes
        height = (self.height() - TOP - FOOT - GAP * (len(causes) - 1)) / len(causes)
        for i, cause in enumerate(causes):
            area = QRectF(LEFT, TOP + i * (height + GAP), self.width() - LEFT - RIGHT, height)
            self._band(painter, opened, cause.key, cause.label, area)
        self._foot(painter, opened)

    def _x(self, opened: Opened, area: QRectF, i: int) -> float:
        return area.left() + area.width() * (i + 0.5) / len(opened.believed)

    def _band(self, painter: QPainter, opened: Opened, key: str, words: str, area: QRectF) -> None:
        truth = opened.truth.shares[key]
        most = max(1.5, 1.15 * truth, min(MOST_LIMITS, 1.1 * opened.believed[-1].each[key][2]))

        def y(value: float) -> float:
            return area.bottom() - area.height() * min(max(value, 0.0), most) / most

        painter.fillRect(area, theme.colour("ground"))
        limit = y(1.0)
        painter.setPen(painting.pen("within", 1))
        painter.drawLine(QPointF(area.left(), limit), QPointF(area.right(), limit))
        upper = [QPointF(self._x(opened, area, i), y(b.each[key][2])) for i, b in enumerate(opened.believed)]
        lower = [QPointF(self._x(opened, area, i), y(b.each[key][0])) for i, b in enumerate(opened.believed)]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("blue_wash"))
        painter.drawPolygon(QPolygonF([*upper, *reversed(lower)]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(painting.pen("blue", 2))
        middle = [QPointF(self._x(opened, area, i), y(b.each[key][1])) for i, b in enumerate(opened.believed)]
        painter.drawPolyline(QPolygonF(middle))
        dashed = painting.pen("ink", 2)
        dashed.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(dashed)
        painter.drawLine(QPointF(area.left(), y(truth)), QPointF(area.right(), y(truth)))
        painter.setPen(theme.colour("ink"))
        painter.setFont(
            theme.font(theme.BODY, theme.SEMIBOLD if key == opened.truth.chief else theme.REGULAR)
        )
        said = QRectF(0, area.top(), LEFT - 12, area.height())
        painter.drawText(said, Qt.AlignmentFlag.AlignVCenter | Qt.TextFlag.TextWordWrap, words)
        painter.setFont(theme.font())
        right = QRectF(area.right() + 8, y(truth) - 10, RIGHT - 8, 20)
        painter.drawText(right, Qt.AlignmentFlag.AlignVCenter, f"{truth:.1f} limits")
        if opened.wrong_at:
            at = next(i for i, b in enumerate(opened.believed) if b.reading >= opened.wrong_at)
            painter.setPen(painting.pen("beyond", 2))
            x = self._x(opened, area, at)
            painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()))

    def _foot(self, painter: QPainter, opened: Opened) -> None:
        painter.setPen(theme.colour("soft"))
        painter.setFont(theme.font(theme.SMALL))
        area = QRectF(LEFT, self.height() - FOOT + 2, self.width() - LEFT - RIGHT, FOOT)
        first, last = opened.believed[0].reading, opened.believed[-1].reading
        painter.drawText(area, Qt.AlignmentFlag.AlignLeft, f"reading {first}")
        painter.drawText(area, Qt.AlignmentFlag.AlignRight, f"reading {last}")
        painter.drawText(area, Qt.AlignmentFlag.AlignHCenter, "dashed: as planted; line: the limit")
