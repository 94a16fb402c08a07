"""Pictures of the work: a piece as the machine would make it, errors enlarged; the edge between what a set of
repairs costs and how near the work comes.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.machine import State
from trebb.core.stating.work import SELL
from trebb.core.work import Option

LEFT, RIGHT, TOP, FOOT = 64.0, 24.0, 18.0, 50.0
NEAREST = 0.02  # of the tolerance: what is nearer stands at the foot
BELOW = 0.6  # of the nearest: so far below it the foot is
APART = 30.0  # px: costs that stand nearer to the one before are not written
MARK = 6.0


def state_of(ratio: float, chance: float, sure: float) -> State:
    """How work stands to its tolerance."""
    if chance >= sure:
        return State.WITHIN
    return State.BEYOND if ratio > 1 else State.NEAR


class EdgePlot(painting.Painted, QWidget):
    """Cost across, the worst figure against its tolerance up, on a scale by tens: left and right walk along
    the edge. `chosen` says which point is looked at.
    """

    chosen = Signal(int)

    def __init__(self, sure: float) -> None:
        super().__init__()
        self._sure = sure
        self._options: Sequence[Option] = ()
        self._costs: list[float] = []
        self._words = ""
        self._at = 0
        self.setMinimumHeight(124)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName("What repairs cost against how near the work comes")
        self.setToolTip("Each mark is a set of repairs; left and right walk along them")

    def show_edge(self, options: Sequence[Option], costs: list[float], words: str, at: int) -> None:
        """Show other sets; `words` says what is across."""
        self._options, self._costs, self._words, self._at = options, costs, words, at
        self.update()

    def _room(self) -> QRectF:
        return QRectF(self.rect()).adjusted(LEFT, TOP, -RIGHT, -FOOT)

    def _up(self, ratio: float) -> float:
        """Where a figure of so much of its tolerance stands."""
        room = self._room()
        high = max(math.log10(max(self._options[0].worst, 2.0)), 0.3)
        low = math.log10(max(NEAREST, BELOW * min(1.0, *(one.worst for one in self._options))))
        y = min(max(math.log10(max(ratio, NEAREST)), low), high)
        return room.bottom() - room.height() * (y - low) / (high - low)

    def _point(self, i: int) -> QPointF:
        room = self._room()
        most = max([*self._costs, 1e-9])
        return QPointF(room.left() + room.width() * self._costs[i] / most, self._up(self._options[i].worst))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        if not self._options:
            return
        room = self._room()
        painter.setPen(painting.pen("line", 1))
        painter.drawLine(room.bottomLeft(), room.bottomRight())
        limit = self._up(1.0)
        painter.setPen(painting.dashed_pen("beyond", 1.4))
        painter.drawLine(QPointF(room.left(), limit), QPointF(room.right(), limit))
        painter.setPen(theme.colour("soft"))
        end = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(0, limit - 10, LEFT - 6, 20), end, "tolerance")
        painter.drawText(
            QRectF(room.left(), room.bottom() + 31, room.width(), 18),
            Qt.AlignmentFlag.AlignRight,
            self._words,
        )
        points = [self._point(i) for i in range(len(self._options))]
        painter.setPen(painting.pen("soft", 1.2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        mended = [p for p, one in zip(points, self._options, strict=True) if not one.how]
        painter.drawPolyline(QPolygonF(mended))
        written = {self._at: points[self._at].x()}
        for i, (one, point) in enumerate(zip(self._options, points, strict=True)):
            state = State.UNKNOWN if one.how == SELL else state_of(one.worst, one.chance, self._sure)
            painting.paint_mark(painter, point, state, MARK)
            if i == self._at:
                painter.setPen(painting.pen("blue", 2.4 if self.hasFocus() else 1.6))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawEllipse(point, 2 * MARK, 2 * MARK)
            if i != self._at and any(abs(point.x() - x) < APART for x in written.values()):
                continue
            written[i] = point.x()
            painter.setPen(theme.colour("ink"))
            words = f"{self._costs[i]:.0f}"
            painter.drawText(
                QRectF(point.x() - 30, room.bottom() + 14, 60, 16), Qt.AlignmentFlag.AlignHCenter, words
            )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._options:
            apart = [(self._point(i) - event.position()).manhattanLength() for i in range(len(self._options))]
            self.chosen.emit(apart.index(min(apart)))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if by is None or not self._options:
            super().keyPressEvent(event)
        else:
            self.chosen.emit(max(0, min(len(self._options) - 1, self._at + by)))


class PieceDrawn(painting.Painted, QWidget):
    """A turned piece from its side, errors of its diameter enlarged, what it may be off by dashed, and pale
    behind it as it would be after the repairs looked at.
    """

    def __init__(self) -> None:
        super().__init__()
        self._now: Sequence[float] = ()
        self._after: Sequence[float] = ()
        self._tolerance_mm = 0.0
        self._words = ""
        self._between = False
        self.setFixedHeight(96)
        self.setAccessibleName("The piece as the machine would make it")
        self.setToolTip(
            "Errors of its diameter, enlarged; dashed: what it may be off by; pale: after the repairs"
        )

    def show_piece(
        self,
        now: Sequence[float],
        after: Sequence[float],
        tolerance_mm: float,
        words: str,
        *,
        between: bool = False,
    ) -> None:
        """Show diameter errors along it, mm, now and after; empty where it is not turned, or not told."""
        self._now, self._after, self._tolerance_mm, self._words = now, after, tolerance_mm, words
        self._between = between
        self.setVisible(bool(now))
        self.setAccessibleDescription(words)
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if not self._now:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = QRectF(self.rect()).adjusted(40, 10, -40, -10)
        most = max(self._tolerance_mm, *(abs(e) for e in (*self._now, *self._after)))
        half = 0.32 * area.height()
        gain = 0.18 * area.height() / most

        def outline(errors: Sequence[float]) -> QPolygonF:
            step = area.width() / (len(errors) - 1)
            tops = [
                QPointF(area.left() + i * step, area.center().y() - half - e * gain)
                for i, e in enumerate(errors)
            ]
            feet = [QPointF(p.x(), 2 * area.center().y() - p.y()) for p in reversed(tops)]
            return QPolygonF([*tops, *feet])

        if self._after:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(painting.wash("within"))
            painter.drawPolygon(outline(self._after))
        painter.setPen(painting.dashed_pen("soft", 1.0))
        for off in (-self._tolerance_mm, self._tolerance_mm):
            for way in (-1, 1):
                y = area.center().y() + way * (half + off * gain)
                painter.drawLine(QPointF(area.left(), y), QPointF(area.right(), y))
        painter.setPen(painting.pen("ink", 1.8))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(outline(self._now))
        middle, high = area.center().y(), 0.4 * area.height()
        if self._between:
            for tip, back in ((area.left(), -22.0), (area.right(), 22.0)):
                cone = [
                    QPointF(tip, middle),
                    QPointF(tip + back, middle - 13),
                    QPointF(tip + back, middle + 13),
                ]
                painter.drawPolygon(QPolygonF(cone))
        else:
            painter.drawRect(QRectF(area.left() - 24, middle - high, 24, 2 * high))
        painter.setPen(painting.pen("soft", 1.0))
        painter.drawLine(
            QPointF(area.left() - 30, area.center().y()), QPointF(area.right() + 20, area.center().y())
        )
