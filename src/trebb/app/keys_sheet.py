"""The sheet of keys, on F1."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app import painting, theme
from trebb.app.widgets import Overlay

KEYS = (
    ("At the bench", (
        ("Space", "take the reading, or the size"),
        ("figures, then Enter", "type a reading; a wedge cable does it by itself"),
        ("Up, Down", "the place before, the place after"),
        ("Backspace", "strike out the last reading here"),
        ("Left, Right", "turn the spindle; feed the drawn gib"),
        ("Alt and a set-up's letter", "choose it; Alt+1 to 3 its leaves"),
        ("Alt+Z", "zero the indicator here"),
        ("F11", "numerals for arm's length, and back"),
        ("Ctrl+I", "choose the instrument"),
        ("Ctrl+Shift+V", "readings from a spreadsheet"),
    )),
    ("Anywhere", (
        ("Ctrl+1 to Ctrl+8", "move to a stop; Ctrl+9 plan, Ctrl+0 strip-down, Ctrl+B practice"),
        ("Ctrl+Z, Ctrl+Shift+Z", "undo, redo any gesture"),
        ("Ctrl+U", "thou and tenths, or mm and µm"),
        ("Ctrl+E", "light, evening or high-contrast colours"),
        ("Tab, Shift+Tab", "go round everything on the screen"),
        ("Esc", "leave a field, a question or this sheet"),
        ("Ctrl+P", "print, after a look at the pages"),
        ("Ctrl++, Ctrl+-", "everything larger, smaller"),
        ("Ctrl+W", "close the job; nothing needs saving"),
        ("F1", "this sheet"),
    )),
)  # fmt: skip


class KeysSheet(painting.Painted, Overlay):
    """Covers the window until a key or a click."""

    def __init__(self, window: QWidget) -> None:
        super().__init__(window)
        self.setAccessibleName("Sheet of keys")
        self.setToolTip("Any key closes this sheet")

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        veil = theme.colour("rail")
        veil.setAlphaF(0.75)
        painter.fillRect(self.rect(), veil)
        sheet = QRectF(self.width() / 2 - 420, self.height() / 2 - 236, 840, 472)
        painter.setPen(theme.colour("line"))
        painter.setBrush(theme.colour("sheet"))
        painter.drawRoundedRect(sheet, 5, 5)
        for i, (head, rows) in enumerate(KEYS):
            x, y = sheet.left() + 32 + i * 404, sheet.top() + 28
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.TITLE, theme.SEMIBOLD))
            painter.drawText(QRectF(x, y, 380, 30), Qt.AlignmentFlag.AlignLeft, head)
            for k, (keys, words) in enumerate(rows):
                line = QRectF(x, y + 48 + k * 42, 380, 22)
                painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
                painter.setPen(theme.colour("blue"))
                painter.drawText(line, Qt.AlignmentFlag.AlignLeft, keys)
                painter.setFont(theme.font())
                painter.setPen(theme.colour("ink"))
                painter.drawText(line.translated(0, 18), Qt.AlignmentFlag.AlignLeft, words)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        self.close()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.close()
