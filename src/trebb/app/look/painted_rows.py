"""Rows painted in one widget, one of them looked at: gone through by a click or by the up and down keys."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme


class PaintedRows(QWidget):
    """Base of such rows, each `row_px` high; the subclass says which is looked at and what looking at
    another does.
    """

    def __init__(self, row_px: float) -> None:
        super().__init__()
        self._row_px = theme.target(row_px)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)

    def _here(self) -> int:
        """Index of the row looked at."""
        raise NotImplementedError

    def _look_at(self, i: int) -> None:
        """Look at another row; an index that is none does nothing."""
        raise NotImplementedError

    def _row_area(self, i: int) -> QRectF:
        return QRectF(0, i * self._row_px, self.width(), self._row_px - 2)

    def _paint_here(self, painter: QPainter, area: QRectF) -> None:
        """Ground of the row looked at, outlined while the keys go to it."""
        painting.mark_here(painter, area)
        painter.fillRect(area, theme.colour("blue_wash"))
        if self.hasFocus():
            painter.setPen(painting.pen("blue", 2))
            painter.drawRect(area.adjusted(1, 1, -1, -1))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._look_at(int(event.position().y() // self._row_px))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
        else:
            self._look_at(self._here() + by)
