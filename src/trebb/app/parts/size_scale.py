"""Sizes over wires on a line, coming down to the band."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.threads import Band
from trebb.core.units import UnitSystem, show_size, show_sizes


class SizeScale(painting.Painted, QWidget):
    """Larger at the left; the band is green; the newest size is hollow and bold."""

    def __init__(self) -> None:
        super().__init__()
        self._sizes: Sequence[float] = ()
        self._band = Band(0, 1)
        self._system = UnitSystem.INCH
        self.setFixedHeight(66)
        self.setToolTip("Sizes taken, larger at the left; the band is where to stop")

    def show_sizes(self, sizes: Sequence[float], band: Band, system: UnitSystem) -> None:
        """Show sizes in the order taken."""
        self._sizes, self._band, self._system = list(sizes), band, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        band = self._band
        low = min([band.low_mm, *self._sizes]) - 0.5 * band.width_mm
        high = max([band.high_mm + band.width_mm, *self._sizes]) + 0.4 * band.width_mm
        y = 34.0

        def at(size: float) -> float:
            return 20 + (high - size) / (high - low) * (self.width() - 40)

        painter.setPen(painting.pen("soft", 1.4))
        painter.drawLine(QPointF(8, y), QPointF(self.width() - 8, y))
        box = QRectF(at(band.high_mm), y - 15, max(60.0, at(band.low_mm) - at(band.high_mm)), 30)
        painter.setPen(painting.pen("within", 1.5))
        painter.setBrush(theme.colour("within_wash"))
        painter.drawRoundedRect(box, 3, 3)
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("within"))
        words = show_sizes(band.low_mm, band.high_mm, self._system, unit=False)
        painter.drawText(
            box.adjusted(-30, 32, 30, 22), Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop, words
        )
        for i in range(len(self._sizes)):
            self._spot(painter, QPointF(at(self._sizes[i]), y), i)

    def _spot(self, painter: QPainter, spot: QPointF, i: int) -> None:
        newest = i == len(self._sizes) - 1
        painter.setPen(painting.pen("blue", 2))
        painter.setBrush(theme.colour("sheet" if newest else "blue"))
        painter.drawEllipse(spot, 6, 6)
        if newest or i >= len(self._sizes) - 4:
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD if newest else theme.REGULAR))
            painter.setPen(theme.colour("ink" if newest else "soft"))
            text = show_size(self._sizes[i], self._system, unit=False)
            level = 2 if (len(self._sizes) - 1 - i) % 2 == 0 else 48
            painter.drawText(QRectF(spot.x() - 40, level, 80, 18), Qt.AlignmentFlag.AlignCenter, text)
