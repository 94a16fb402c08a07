"""What covers the window to be read from two metres: what it says, and the keys that go on meanwhile."""

from __future__ import annotations

from typing import TYPE_CHECKING

from msgspec import Struct
from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QKeyEvent, QMouseEvent, QPainter

from trebb.app.look import painting, theme
from trebb.app.look.widgets import Overlay

if TYPE_CHECKING:
    from trebb.app.window.host import Host

BACK = "Esc goes back"
LEAST = 24  # px: the smallest words that are read from two metres


class Far(Struct, frozen=True):
    """What a stop says from afar: a head, a numeral, lines below it, the keys that answer; `role` is the
    numeral's, and the first line's where there is none.
    """

    head: str
    numeral: str = ""
    lines: tuple[str, ...] = ()
    role: str = "ink"
    keys: str = ""


class FarCover(painting.Painted, Overlay):
    """Covers the frame; any escape goes back, other keys go where they would have gone."""

    def __init__(self, frame: Host, name: str, tip: str) -> None:
        super().__init__(frame)
        self._frame = frame
        self.setAccessibleName(name)
        self.setToolTip(f"{tip}Esc or F11 goes back")

    def pressed(self, event: QKeyEvent) -> None:
        """A key that does not go back."""
        self._frame.keyPressEvent(event)
        self.setFocus()

    def draw_keys(self, painter: QPainter, words: str) -> None:
        """The keys that answer, at the foot."""
        painter.setFont(theme.font(theme.TITLE))
        painter.setPen(theme.colour("soft"))
        room = QRectF(0, 0.93 * self.height(), self.width(), 0.06 * self.height())
        painter.drawText(room, Qt.AlignmentFlag.AlignCenter, words)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_F11):
            self.back()
        else:
            self.pressed(event)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.back()

    def back(self) -> None:
        """To the window as it was."""
        self._frame.removeEventFilter(self)
        self.hide()
        self._frame.setFocus()
        self.close()


class StopFromAfar(FarCover):
    """What any stop says, large; it follows the job."""

    def __init__(self, frame: Host) -> None:
        super().__init__(frame, "This stop from afar", "")
        frame.session.changed.connect(self.update)

    def pressed(self, event: QKeyEvent) -> None:
        if not self._frame.stop.far_key(Qt.Key(event.key())):
            super().pressed(event)
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        far: Far = self._frame.stop.far()
        painter.fillRect(self.rect(), theme.colour("sheet"))
        wide, high = self.width() - 80.0, float(self.height())
        centre = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
        painter.setPen(theme.colour("blue"))
        painter.setFont(theme.font(max(30, int(0.06 * high)), theme.SEMIBOLD))
        painter.drawText(QRectF(40, 0.03 * high, wide, 0.17 * high), centre, far.head)
        top = 0.22 * high
        if far.numeral:
            size = int(0.34 * high)
            painter.setFont(theme.font(size, theme.MEDIUM))
            needed = QFontMetricsF(painter.font()).horizontalAdvance(far.numeral)
            if needed > wide:
                painter.setFont(theme.font(int(size * wide / needed), theme.MEDIUM))
            painter.setPen(theme.colour(far.role))
            painter.drawText(QRectF(40, top, wide, 0.36 * high), Qt.AlignmentFlag.AlignCenter, far.numeral)
            top += 0.38 * high
        room = 0.92 * high - top
        each = room / max(1, len(far.lines))
        flags = int(Qt.TextFlag.TextWordWrap)
        for size in range(max(LEAST, int(0.07 * high)), LEAST - 1, -2):  # the largest at which nothing is cut
            painter.setFont(theme.font(size))
            spots = [painter.boundingRect(QRectF(0, 0, wide, 9999), flags, line) for line in far.lines]
            if all(spot.height() <= each for spot in spots):
                break
        for i, line in enumerate(far.lines):
            painter.setPen(theme.colour(far.role if i == 0 and not far.numeral else "ink"))
            painter.drawText(QRectF(40, top + i * each, wide, each), centre, line)
        self.draw_keys(painter, "    ·    ".join(k for k in (far.keys, BACK) if k))
