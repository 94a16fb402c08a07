"""A small painted x–y plane with thin grid and units on its axes, for pictures that are not zoomed."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.views.base import Shown

STEPS = tuple(m * 10.0**e for e in range(-4, 5) for m in (1, 2, 5))


class Curve(QWidget):
    """A painted curve of a set-up's readings; `chosen_by` is called with the place clicked.

    `_plane` is the plane last painted: a click is read off it.
    """

    def __init__(self, name: str, tip: str) -> None:
        super().__init__()
        self._shown: Shown | None = None
        self._plane: Plane | None = None
        self.chosen_by: Callable[[str], object] = str
        self.setMinimumSize(200, 150)
        self.setAccessibleName(name)
        self.setToolTip(tip)

    def show_readings(self, shown: Shown) -> None:
        """Show other readings."""
        self._shown = shown
        self.update()

    def places_along(self) -> list[tuple[float, str]]:
        """Where each place to read lies on the x axis, and its key."""
        raise NotImplementedError

    def mousePressEvent(self, event: QMouseEvent) -> None:
        if self._plane is not None:
            x = self._plane.x_of(event.position().x())
            self.chosen_by(min(self.places_along(), key=lambda place: abs(place[0] - x))[1])


class Plane:
    """Maps values to a rectangle and draws the grid. Units are in the captions."""

    def __init__(self, area: QRectF, x: tuple[float, float], y: tuple[float, float]) -> None:
        self.area, self.x, self.y = area, x, y

    def at(self, x: float, y: float) -> QPointF:
        """A point on the screen."""
        return QPointF(
            self.area.left() + (x - self.x[0]) / (self.x[1] - self.x[0]) * self.area.width(),
            self.area.bottom() - (y - self.y[0]) / (self.y[1] - self.y[0]) * self.area.height(),
        )

    def x_of(self, left: float) -> float:
        """The x value at a distance from the widget's left edge."""
        return self.x[0] + (left - self.area.left()) / max(1.0, self.area.width()) * (self.x[1] - self.x[0])

    def grid(self, painter: QPainter, x_caption: str, y_caption: str, *, ticks: int = 5) -> None:
        """Grid lines at round values with their figures."""
        painter.setFont(theme.font(theme.SMALL))
        for value in _ticks(self.x, ticks):
            spot = self.at(value, self.y[0])
            painter.setPen(painting.pen("line", 1))
            painter.drawLine(spot, self.at(value, self.y[1]))
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                QRectF(spot.x() - 30, spot.y() + 1, 60, 18), Qt.AlignmentFlag.AlignCenter, _text(value)
            )
        for value in _ticks(self.y, ticks):
            spot = self.at(self.x[0], value)
            painter.setPen(painting.pen("line", 1))
            painter.drawLine(spot, self.at(self.x[1], value))
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                QRectF(spot.x() - 48, spot.y() - 9, 44, 18),
                Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
                _text(value),
            )
        painter.drawText(
            QRectF(self.area.left() - 44, self.area.top() - 22, 200, 18),
            Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter,
            y_caption,
        )
        painter.drawText(
            QRectF(self.area.right() - 200, self.area.bottom() + 17, 200, 18),
            Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter,
            x_caption,
        )


def _ticks(span: tuple[float, float], most: int) -> list[float]:
    step = next((s for s in STEPS if (span[1] - span[0]) / s <= most), STEPS[-1])
    first = int(span[0] / step) - 1
    return [
        k * step for k in range(first, first + 3 * most + 4) if span[0] - 1e-9 <= k * step <= span[1] + 1e-9
    ]


def _text(value: float) -> str:
    return f"{value + 0.0:g}".replace("-", "−")


def spread_of(values: Sequence[float], least: float, room: float = 0.12) -> tuple[float, float]:
    """A span round values, at least so wide, with room at both ends."""
    low, high = min(values), max(values)
    more = max(0.0, least - (high - low)) / 2
    edge = room * max(high - low, least)
    return low - more - edge, high + more + edge
