"""What came off, in its order, as rows."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter

from trebb.app.look import painting, theme
from trebb.app.look.painted_rows import PaintedRows
from trebb.core.dual_units import in_units
from trebb.core.fitup.stripped import Came
from trebb.core.units import UnitSystem

if TYPE_CHECKING:
    pass

ROW = 27.0


class CameRows(painting.Painted, PaintedRows):
    """A row a part: number, what, how it was held, bag, picture; Alt with up and down moves it."""

    is_list = True

    chosen = Signal(str)
    moved = Signal(str, int)

    def __init__(self) -> None:
        super().__init__(ROW)
        self._came: list[Came] = []
        self._at = ""
        self._system = UnitSystem.INCH
        self.setAccessibleName("What came off, in order")
        self.setToolTip("What came off, in order; Alt+Up and Alt+Down move a part")

    def show_came(self, came: list[Came], at: str, system: UnitSystem) -> None:
        """Show what came off."""
        self._came, self._at, self._system = came, at, system
        self.setMinimumHeight(int(self._row_px * max(1, len(came))) + 2)
        self.setAccessibleDescription("; ".join(one.what for one in came))
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        centre = Qt.AlignmentFlag.AlignVCenter
        for i, one in enumerate(self._came):
            area = self._row_area(i)
            if one.key == self._at:
                self._paint_here(painter, area)
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.colour("soft"))
            painter.drawText(QRectF(8, area.top(), 26, area.height()), centre, str(i + 1))
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY))
            half = 0.44 * area.width()
            painting.write_in(painter, QRectF(36, area.top(), half - 40, area.height()), centre, one.what)
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.colour("soft"))
            rest = ", ".join(
                filter(None, (one.held, one.way, one.shim, f"bag {one.tray}" if one.tray else ""))
            )
            room = area.width() - half - 40
            rest = in_units(rest, self._system)
            painting.write_in(painter, QRectF(half, area.top(), room, area.height()), centre, rest)
            if one.photo:  # a picture: a frame with a hill in it
                x, y = area.right() - 26, area.center().y()
                painter.setPen(painting.pen("blue", 1.4))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(QRectF(x, y - 7, 18, 14))
                painter.drawPolyline([QPointF(x + 2, y + 4), QPointF(x + 7, y - 2), QPointF(x + 15, y + 5)])

    def _here(self) -> int:
        keys = [one.key for one in self._came]
        return keys.index(self._at) if self._at in keys else 0

    def _look_at(self, i: int) -> None:
        if 0 <= i < len(self._came):
            self.chosen.emit(self._came[i].key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if by is not None and event.modifiers() & Qt.KeyboardModifier.AltModifier and self._at:
            self.moved.emit(self._at, by)
        else:
            super().keyPressEvent(event)
