"""A figure as usual and as the shop has it, on one line."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.memory.blending import Z95
from trebb.logbook.memory.asked import Known


class FigureBar(painting.Painted, QWidget):
    """Grey: where shops usually are, 95 %. Blue: this shop with its 95 %, a dot at the middle."""

    def __init__(self, known: Known) -> None:
        super().__init__()
        self._known = known
        self.setMinimumWidth(220)
        self.setToolTip("Grey: where shops usually are. Blue: yours, with its 95 %")
        self.setAccessibleName(f"{known.words}: {known.now_words}, usual {known.usual_words}")

    def sizeHint(self) -> QSize:
        return QSize(320, 20)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        now, usual = self._known.now, self._known.now.usual

        def at(mean: float) -> float:
            return math.exp(mean) if usual.is_ratio else mean

        low, high = at(usual.mean - Z95 * usual.shops), at(usual.mean + Z95 * usual.shops)
        if usual.mean >= 0 and not usual.is_ratio:
            low = max(low, 0.0)
        least, most = min(low, now.low), max(high, now.high)
        room = (most - least) * 0.06 or 1.0
        least, most = least - room, most + room

        def x(value: float) -> float:
            return (value - least) / (most - least) * self.width()

        middle = self.height() / 2
        painter.fillRect(
            QRectF(QPointF(x(low), middle - 5), QPointF(x(high), middle + 5)), theme.colour("line")
        )
        painter.setPen(painting.pen("soft", 2))
        painter.drawLine(QPointF(x(at(usual.mean)), middle - 5), QPointF(x(at(usual.mean)), middle + 5))
        painter.setPen(painting.pen("blue", 3))
        painter.drawLine(QPointF(x(now.low), middle), QPointF(x(now.high), middle))
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("blue"))
        painter.drawEllipse(QPointF(x(now.value), middle), 5, 5)
