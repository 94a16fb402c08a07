"""The bed rail at the bottom: a scale with the eight stops, and a carriage on the current one."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme

if TYPE_CHECKING:
    from PySide6.QtCore import QVariantAnimation

HEIGHT = 58
SLIDE_MS = 160


class BedRail(painting.Painted, QWidget):
    """Stops along a graduated rail; each says in two words how far it is."""

    is_list = said_in_columns = True

    chosen = Signal(int)

    def __init__(self, titles: Sequence[str]) -> None:
        super().__init__()
        self._titles = list(titles)
        self._words = [""] * len(titles)
        self._current = 0
        self._carriage = 0.0
        self.setFixedHeight(HEIGHT)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self._beside = False
        self.setAccessibleName("Stops")
        self.setToolTip("Move to a stop (Ctrl+1 to Ctrl+8, or left and right)")
        self._sliding: QVariantAnimation | None = None

    @property
    def _slide(self) -> QVariantAnimation:
        """The carriage's way to another stop, made when it first goes."""
        if self._sliding is None:
            from PySide6.QtCore import QEasingCurve, QVariantAnimation

            self._sliding = QVariantAnimation(self)
            self._sliding.setDuration(theme.lasts(SLIDE_MS))
            self._sliding.setEasingCurve(QEasingCurve.Type.OutCubic)
            self._sliding.valueChanged.connect(self._moved)
        return self._sliding

    def _moved(self, value: object) -> None:
        self._carriage = float(value)  # type: ignore[arg-type]
        self.update()

    def show_stop(self, index: int, words: Sequence[str], *, beside: bool = False) -> None:
        """Say how far each stop is, and slide the carriage to one; `beside` : the window shows what is none
        of them, and the carriage stands as an outline.
        """
        if list(words) == self._words and index == self._current and beside == self._beside:
            return
        self._beside = beside
        self._words = list(words)
        if self._sliding is None and not self.isVisible():  # it stands where the window opens
            self._current, self._carriage = index, float(index)
        if index != self._current:
            self._slide.stop()
            self._slide.setStartValue(self._carriage)
            self._slide.setEndValue(float(index))
            self._current = index
            self._slide.start()
        self.update()

    def settle(self) -> None:
        """Put the carriage where it is going, without the slide (for pictures and tests)."""
        if self._sliding is not None:
            self._sliding.stop()
        self._carriage = float(self._current)
        self.update()

    def words(self) -> list[str]:
        """What each stop says of itself."""
        return list(self._words)

    def _pitch(self) -> float:
        return self.width() / len(self._titles)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), theme.colour("rail"))
        pitch = self._pitch()
        painter.setPen(theme.colour("rail_soft"))
        for i in range(len(self._titles) * 10 + 1):
            x = i * pitch / 10
            painter.drawLine(QPointF(x, 0), QPointF(x, 9 if i % 10 == 5 else 4))
        self._paint_carriage(painter, pitch)
        for i, (title, words) in enumerate(zip(self._titles, self._words, strict=True)):
            area = QRectF(i * pitch, 10, pitch, 24)
            here = abs(self._carriage - i) < 0.5 and not self._beside
            painter.setPen(theme.colour("brass_text" if here else "rail_text"))
            painter.setFont(theme.font(theme.LARGE, theme.SEMIBOLD if here else theme.MEDIUM))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, title)
            painter.setPen(theme.colour("brass_text" if here else "rail_soft"))
            painter.setFont(theme.font(theme.SMALL))
            painter.drawText(area.translated(0, 20), Qt.AlignmentFlag.AlignCenter, words)

    def _paint_carriage(self, painter: QPainter, pitch: float) -> None:
        left = self._carriage * pitch + 0.5 * pitch - 60
        body = QRectF(left, 6, 120, HEIGHT - 8)
        if self._beside:
            painter.setPen(painting.pen("brass", 1.4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
        else:
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("brass"))
        painter.drawRoundedRect(body, 2, 2)
        tip = body.center().x()
        painter.drawPolygon(QPolygonF([QPointF(tip - 5, 6), QPointF(tip + 5, 6), QPointF(tip, 1)]))
        if self.hasFocus():
            painter.setPen(theme.colour("rail_text"))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(body.adjusted(3, 3, -3, -3))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self.chosen.emit(max(0, min(len(self._titles) - 1, int(event.position().x() / self._pitch()))))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()), 0)
        if step and 0 <= self._current + step < len(self._titles):
            self.chosen.emit(self._current + step)
        elif not step:
            super().keyPressEvent(event)
