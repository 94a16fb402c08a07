"""The passes left: what to wind in, and what to expect over wires."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme

ROW = 30.0


class PassRow(Struct, frozen=True):
    """One pass as text: name, what to move, how much, where that stands, what to expect."""

    name: str
    move: str
    step: str
    total: str
    expect: str


class PassRows(painting.Painted, QWidget):
    """As many passes as there is room for; the next is blue."""

    is_list = True

    def __init__(self) -> None:
        super().__init__()
        self._rows: Sequence[PassRow] = ()
        self.setMinimumHeight(int(2 * ROW))
        self.setToolTip("The next pass is blue")

    def show_rows(self, rows: Sequence[PassRow]) -> None:
        """Show the passes left."""
        self._rows = list(rows)
        self.update()

    def rows(self) -> list[PassRow]:
        """What is left."""
        return list(self._rows)

    def sizeHint(self) -> QSize:
        return QSize(600, int(5 * ROW))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        room = max(1, int(self.height() // ROW))
        shown = list(self._rows) if len(self._rows) <= room else [*self._rows[: room - 1]]
        left = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        right = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        width = self.width()
        for i, line in enumerate(shown):
            area = QRectF(0, i * ROW, width, ROW - 2)
            if i == 0:
                painting.mark_here(painter, area)
                painter.fillRect(area, theme.colour("blue_wash"))
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if i == 0 else theme.REGULAR))
            painter.drawText(area.adjusted(10, 0, 0, 0), left, line.name)
            painter.drawText(QRectF(0, area.top(), width * 0.46, area.height()), right, line.step)
            painter.drawText(QRectF(0, area.top(), width - 10, area.height()), right, line.expect)
            painter.setFont(theme.font())
            painter.setPen(theme.colour("soft"))
            painter.drawText(area.adjusted(88, 0, 0, 0), left, line.move)
            painter.drawText(QRectF(width * 0.48, area.top(), width * 0.3, area.height()), left, line.total)
        if len(shown) < len(self._rows):
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                QRectF(10, len(shown) * ROW, width - 20, ROW - 2),
                left,
                f"and {len(self._rows) - len(shown)} more, spring passes last",
            )
