"""The rows of the work: a figure of each piece, its mark, what, how much of what it may be."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QPainter

from trebb.app.look import painting, theme
from trebb.app.look.painted_rows import PaintedRows
from trebb.core.machine import State

ROW = 25.0


class WorkRows(painting.Painted, PaintedRows):
    """A row a figure of each piece: its mark, what, how much of what it may be."""

    is_list = True
    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__(ROW)
        self._rows: list[tuple[str, str, str, State]] = []
        self._at = ""
        self.setAccessibleName("Work and what it comes out as")
        self.setToolTip("Work and what it comes out as")

    def show_rows(self, rows: list[tuple[str, str, str, State]], at: str) -> None:
        """Key of the piece, what, how, and how it stands."""
        self._rows, self._at = rows, at
        self.setMinimumHeight(int(self._row_px * max(1, len(rows))) + 2)
        self.setAccessibleDescription("; ".join(f"{what}: {how}" for _, what, how, _ in rows))
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        centre = Qt.AlignmentFlag.AlignVCenter
        for i, (key, what, how, state) in enumerate(self._rows):
            area = self._row_area(i)
            if key == self._at:
                self._paint_here(painter, area)
            painting.paint_mark(painter, QRectF(8, area.top(), 18, area.height()).center(), state)
            painter.setFont(theme.font(theme.BODY))
            painter.setPen(theme.colour("ink"))
            half = 0.46 * area.width()
            painting.write_in(painter, QRectF(34, area.top(), half - 38, area.height()), centre, what)
            painter.setFont(theme.font(theme.SMALL))
            room = QRectF(half, area.top(), area.width() - half - 6, area.height())
            painting.write_in(painter, room, centre, how)

    def _here(self) -> int:
        return next((i for i, one in enumerate(self._rows) if one[0] == self._at), 0)

    def here_area(self) -> QRectF:
        """Where the first row of the piece that is looked at stands."""
        return self._row_area(self._here())

    def _look_at(self, i: int) -> None:
        if 0 <= i < len(self._rows):
            self.chosen.emit(self._rows[i][0])
