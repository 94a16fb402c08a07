"""The dial of the pod."""

from __future__ import annotations

import math
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.survey import AnySetUp
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.units import THOU_MM, UnitSystem

FIGURES = 23  # px from the rim to the middle of the figures


class DialFace(painting.Painted, QWidget):
    """A dial indicator's face; one turn is ten of the small unit's tens."""

    def __init__(self) -> None:
        super().__init__()
        self._turn = 0.0
        self._live = False
        self._unit = ""
        self.setMinimumSize(120, 120)
        self.setAccessibleName("Dial of the instrument")

    def show_turn(self, turn: float, live: bool, unit: str) -> None:
        """Needle at a fraction of a turn."""
        if abs(turn - self._turn) > 1e-4 or live != self._live or unit != self._unit:
            self._turn, self._live, self._unit = turn, live, unit
            self.setAccessibleDescription(f"one turn is {unit}" if unit else "")
            self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        radius = min(self.width(), self.height()) / 2 - 4
        centre = QPointF(self.width() / 2, self.height() / 2)
        painter.setPen(painting.pen("ink", 2))
        painter.setBrush(theme.colour("ground"))
        painter.drawEllipse(centre, radius, radius)
        painter.setFont(theme.font(theme.SMALL))
        for i in range(50):
            angle = 2 * math.pi * i / 50 - math.pi / 2
            long = i % 5 == 0
            inner = radius - (11 if long else 6)
            painter.setPen(painting.pen("ink", 1.8 if long else 1))
            painter.drawLine(_on(centre, angle, inner), _on(centre, angle, radius - 1))
            if long:
                spot = _on(centre, angle, radius - FIGURES)
                painter.drawText(
                    QRectF(spot.x() - 14, spot.y() - 10, 28, 20),
                    Qt.AlignmentFlag.AlignCenter,
                    str(min(i // 5, 10 - i // 5)),
                )
        needle = 2 * math.pi * self._turn - math.pi / 2
        self._draw_unit(painter, centre, radius - FIGURES, math.sin(needle) > 0)
        painter.setPen(painting.pen("ink" if self._live else "line", 2.6))
        painter.drawLine(_on(centre, needle + math.pi, 16), _on(centre, needle, radius - 14))
        painter.setBrush(theme.colour("ink"))
        painter.drawEllipse(centre, 4, 4)

    def _draw_unit(self, painter: QPainter, centre: QPointF, radius: float, needle_is_low: bool) -> None:
        """The unit in the half that the needle leaves free, where there is room inside the figures."""
        wide = painter.fontMetrics().horizontalAdvance(self._unit)
        away = 0.42 * radius
        if not self._unit or math.hypot(wide / 2, away + 9) > radius - 8:
            return
        y = centre.y() + (-away if needle_is_low else away)
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QRectF(centre.x() - wide / 2 - 2, y - 9, wide + 4, 18), Qt.AlignmentFlag.AlignCenter, self._unit
        )


def _on(centre: QPointF, angle: float, radius: float) -> QPointF:
    return QPointF(centre.x() + radius * math.cos(angle), centre.y() + radius * math.sin(angle))


def turn_of(s: AnySetUp, raw: float | None, subject: Any, system: UnitSystem) -> tuple[float, bool, str]:
    """How far the needle is round for a raw reading, whether it lives, and what its figures are."""
    if raw is None:
        return 0.0, False, ""
    if s.unit in RAW_UNITS:
        turn, caption = RAW_UNITS[s.unit].turn(raw, subject, system)
        return turn % 1.0, True, caption
    inch = system is UnitSystem.INCH
    if s.is_fine:
        return (raw / (10 * THOU_MM) % 1.0, True, "thou") if inch else (raw / 0.2 % 1.0, True, "× 20 µm")
    return (raw / (100 * THOU_MM) % 1.0, True, "× 10 thou") if inch else (raw % 1.0, True, "× 0.1 mm")
