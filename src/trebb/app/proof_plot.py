"""Before and after side by side, each place a line: where it was, where it is, what was predicted, the limit."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from trebb.app import painting, theme
from trebb.core.machine import State, state_of
from trebb.core.proof import Comparison
from trebb.core.units import UnitSystem, show_small, small_unit

LEAST_ROW, MOST_ROW = 17.0, 27.0
HEAD = 24.0
FOOT = 22.0


class ProofPlot(QWidget):
    """One line a place. Grey ring before, filled shape after, blue band what was predicted, dashed green the limit."""

    def __init__(self) -> None:
        super().__init__()
        self._rows: Sequence[Comparison] = ()
        self._limit_mm = 0.1
        self._system = UnitSystem.INCH
        self.setToolTip("Ring: before. Filled: after. Band: predicted. Dashed: the limit")

    def show_rows(self, rows: Sequence[Comparison], limit_mm: float, system: UnitSystem) -> None:
        """Show comparisons."""
        self._rows, self._limit_mm, self._system = list(rows), limit_mm, system
        self.setMinimumHeight(int(HEAD + FOOT + LEAST_ROW * max(3, len(self._rows))))
        self.update()

    def _height(self) -> float:
        return min(MOST_ROW, (self.height() - HEAD - FOOT) / max(1, len(self._rows)))

    def sizeHint(self) -> QSize:
        return QSize(600, int(HEAD + FOOT + 22 * max(3, len(self._rows))))

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        left, right = 150.0, self.width() - 190.0
        if not self._rows:
            painter.setFont(theme.font())
            painter.setPen(theme.colour("soft"))
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, "No place is read both before and after yet.\nTake the same set-ups again: the pod stands at the next place.")
            return
        top = max(max(r.before_mm + r.before_half_mm, r.after_mm, self._limit_mm) for r in self._rows) * 1.06
        scale = (right - left) / top
        self._axis(painter, left, scale, top)
        height = self._height()
        for i, row in enumerate(self._rows):
            self._paint_row(painter, QRectF(0, HEAD + i * height, self.width(), height), row, left, scale)
        limit = painting.pen("within", 1.8)
        limit.setStyle(Qt.PenStyle.DashLine)
        painter.setPen(limit)
        x = left + scale * self._limit_mm
        painter.drawLine(QPointF(x, HEAD - 4), QPointF(x, HEAD + height * len(self._rows)))
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("within"))
        painter.drawText(QRectF(x - 80, 0, 160, 20), Qt.AlignmentFlag.AlignCenter, f"limit {show_small(self._limit_mm, self._system)}")

    def _axis(self, painter: QPainter, left: float, scale: float, top: float) -> None:
        name, unit_mm = small_unit(self._system)
        steps = (1, 2, 5, 10, 20, 50, 100, 200, 500)
        step = next((s for s in steps if top / unit_mm / s <= 7), 1000)
        y = HEAD + self._height() * len(self._rows)
        painter.setFont(theme.font(theme.SMALL))
        k = 0
        while k * step * unit_mm <= top:
            x = left + scale * k * step * unit_mm
            painter.setPen(painting.pen("line", 1))
            painter.drawLine(QPointF(x, HEAD), QPointF(x, y))
            painter.setPen(theme.colour("soft"))
            painter.drawText(QRectF(x - 40, y + 1, 80, 20), Qt.AlignmentFlag.AlignCenter, f"{k * step}" + (f" {name}" if k == 0 else ""))
            k += 1
        for x, words in ((self.width() - 182.0, "was"), (self.width() - 124.0, "is"), (self.width() - 66.0, "shown")):
            painter.drawText(QRectF(x, 0, 60, 20), Qt.AlignmentFlag.AlignLeft, words)

    def _paint_row(self, painter: QPainter, area: QRectF, row: Comparison, left: float, scale: float) -> None:
        y = area.center().y()
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        names = {"lash": "lash", "push_pull": "push, pull", "end_float": "end float"}
        place = row.place if row.place.startswith("station") else ""
        painter.setFont(theme.font())
        painter.setPen(theme.colour("ink"))
        painter.drawText(area.adjusted(2, 0, 0, 0), flags, f"{names.get(row.set_up, row.set_up)} {place.replace('station ', '')}".strip())
        if row.predicted_mm is not None and row.predicted_half_mm is not None:
            low = max(0.0, row.predicted_mm - row.predicted_half_mm)
            band = theme.colour("blue")
            band.setAlphaF(0.25)
            painter.fillRect(QRectF(left + scale * low, y - 8, scale * (row.predicted_mm + row.predicted_half_mm - low), 16), band)
        painter.setPen(painting.pen("soft", 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        before, after = left + scale * row.before_mm, left + scale * row.after_mm
        painter.drawLine(QPointF(after + 7, y), QPointF(before - 5, y))
        painter.drawEllipse(QPointF(before, y), 5, 5)
        state = state_of(row.after_mm, self._limit_mm)
        painting.paint_mark(painter, QPointF(after, y), state, 5.6)
        painter.setFont(theme.font(theme.BODY, theme.MEDIUM))
        painter.setPen(theme.colour("soft"))
        painter.drawText(QRectF(self.width() - 182, area.top(), 60, area.height()), flags, show_small(row.before_mm, self._system, unit=False))
        painter.setPen(theme.colour("ink" if state is State.WITHIN else theme.state_role(state)))
        painter.drawText(QRectF(self.width() - 124, area.top(), 60, area.height()), flags, show_small(row.after_mm, self._system, unit=False))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(QRectF(self.width() - 66, area.top(), 66, area.height()), flags, "yes" if row.is_shown else "not shown")
