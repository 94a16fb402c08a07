"""Things that came off, or should be there, as rows."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QPainter

from trebb.app.look import painting, theme
from trebb.app.look.painted_rows import PaintedRows
from trebb.core.machine import State

ROW = 27.0


class ThingRow(Struct, frozen=True):
    """A row: what, the rest in soft ink, whether there is a picture; a mark of its state, else its number."""

    key: str
    what: str
    rest: str
    has_photo: bool
    mark: State | None = None
    said: str = ""

    @property
    def spoken(self) -> str:
        """The row for who hears it."""
        return " ".join(filter(None, (self.what, self.said, self.rest)))


class CameRows(painting.Painted, PaintedRows):
    """A row a thing: number or mark, what, the rest, picture; Alt with up and down moves it."""

    is_list = True

    chosen = Signal(str)
    moved = Signal(str, int)

    def __init__(self) -> None:
        super().__init__(ROW)
        self._rows: list[ThingRow] = []
        self._at = ""
        self.setAccessibleName("What came off, in order")
        self.setToolTip("What came off, in order; Alt+Up and Alt+Down move a part")

    def show_rows(self, rows: list[ThingRow], at: str) -> None:
        """Show these, one of them looked at."""
        self._rows, self._at = rows, at
        self.setMinimumHeight(int(self._row_px * max(1, len(rows))) + 2)
        self.setAccessibleDescription("; ".join(one.spoken for one in rows))
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        centre = Qt.AlignmentFlag.AlignVCenter
        for i, one in enumerate(self._rows):
            area = self._row_area(i)
            if one.key == self._at:
                self._paint_here(painter, area)
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.colour("soft"))
            if one.mark is not None:
                painting.paint_mark(painter, QPointF(17, area.center().y()), one.mark)
            else:
                painter.drawText(QRectF(8, area.top(), 26, area.height()), centre, str(i + 1))
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY))
            half = 0.44 * area.width()
            painting.write_in(painter, QRectF(36, area.top(), half - 40, area.height()), centre, one.what)
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.colour("soft"))
            room = area.width() - half - 40
            painting.write_in(painter, QRectF(half, area.top(), room, area.height()), centre, one.rest)
            if one.has_photo:  # a picture: a frame with a hill in it
                x, y = area.right() - 26, area.center().y()
                painter.setPen(painting.pen("blue", 1.4))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawRect(QRectF(x, y - 7, 18, 14))
                painter.drawPolyline([QPointF(x + 2, y + 4), QPointF(x + 7, y - 2), QPointF(x + 15, y + 5)])

    def _here(self) -> int:
        keys = [one.key for one in self._rows]
        return keys.index(self._at) if self._at in keys else 0

    def _look_at(self, i: int) -> None:
        if 0 <= i < len(self._rows):
            self.chosen.emit(self._rows[i].key)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if by is not None and event.modifiers() & Qt.KeyboardModifier.AltModifier and self._at:
            self.moved.emit(self._at, by)
        else:
            super().keyPressEvent(event)
