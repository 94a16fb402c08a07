"""A head leaning over its table, from the front and from the side, drawn larger than it is."""

from __future__ import annotations

import math
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import column
from trebb.app.pictures.base import CasePicture, Leaves, OutcomePlot
from trebb.app.window.session import Session
from trebb.core.condition import Estimate
from trebb.core.families.tram.findings import in_reach
from trebb.core.families.tram.subject import REACH_MM, Tram
from trebb.core.units import UnitSystem, show_small

LARGER = 400.0


class TramPicture(CasePicture):
    """The leaning head; the measures where a remedy is looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.head = HeadCanvas()
        self.outcome = OutcomePlot()
        self.leaves = Leaves(
            (
                ("head", "Head and table", "How the head leans, from two sides", self.head),
                ("outcome", "Figures", "Each figure now and then, against its limit", self.outcome),
            )
        )
        box.addWidget(self.leaves)

    def _show(self, now: Estimate) -> None:
        self.head.read = {m.key for m in self.session.case.figures}
        self.head.show_head(
            self.session.case.subject,
            {
                key: now.source(key).value
                for key in (
                    "tilt_x",
                    "tilt_y",
                    "travel_x",
                    "travel_y",
                    *(["droop"] if "droop" in now.model else []),
                )
            },
            self.session.system,
        )

    def show_found(self, *, known: bool) -> None:
        self.leaves.offer("outcome", on=False)
        self._show(self.session.case.estimate)

    def show_then(self, prediction: Any) -> None:
        self.leaves.offer("outcome", on=True)
        self._show(prediction.after)
        self.outcome.show_outcome(self.session.case, prediction, self.session)


class HeadCanvas(painting.Painted, QWidget):
    """Two views side by side: spindle's axis against square, travel against square, the table as it
    droops.
    """

    def __init__(self) -> None:
        super().__init__()
        self._tram = Tram()
        self._lean: dict[str, float] = {}
        self.read: set[str] = set()  # measures that readings tell of
        self._system = UnitSystem.INCH
        self.setMinimumHeight(170)
        self.setAccessibleName("Head over its table")

    def show_head(self, tram: Tram, lean: dict[str, float], system: UnitSystem) -> None:
        """Show other leans, mrad."""
        self._tram, self._lean, self._system = tram, lean, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if not self._lean:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        half = self.width() / 2
        self._view(
            painter,
            QRectF(8, 4, half - 16, self.height() - 28),
            "from the front",
            "x",
            ("left", "right"),
            0.0,
        )
        self._view(
            painter,
            QRectF(half + 8, 4, half - 16, self.height() - 28),
            "from the right",
            "y",
            ("front", "back"),
            self._lean.get("droop", 0.0),
        )
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QPointF(4, self.height() - 6),
            f"leans drawn × {LARGER:.0f}; dashed: square to the table; thin blue: the travel",
        )

    def _view(
        self, painter: QPainter, area: QRectF, words: str, axis: str, sides: tuple[str, str], droop: float
    ) -> None:
        table_y, middle = area.bottom() - 34, area.center().x()
        lean = math.atan(LARGER * self._lean[f"tilt_{axis}"] / 1000)
        travel = math.atan(LARGER * self._lean[f"travel_{axis}"] / 1000)
        drop = LARGER * droop / 1000 * area.width() * 0.42
        painter.setPen(painting.pen("ink", 1.6))
        painter.setBrush(theme.colour("metal"))
        painter.save()
        painter.translate(middle, table_y)
        painter.drawPolygon(
            [
                QPointF(-0.42 * area.width(), drop),
                QPointF(0.42 * area.width(), 0),
                QPointF(0.42 * area.width(), 16),
                QPointF(-0.42 * area.width(), drop + 16),
            ]
        )
        painter.setPen(painting.dashed_pen("soft", 1.3))
        high = area.height() - 60
        painter.drawLine(QPointF(0, 0), QPointF(0, -high))
        painter.setPen(painting.pen("blue", 1.2))
        painter.drawLine(
            QPointF(-60, 0), QPointF(-60 + 0.8 * high * math.sin(travel), -0.8 * high * math.cos(travel))
        )
        painter.rotate(math.degrees(lean))
        painter.setPen(painting.pen("ink", 1.6))
        painter.setBrush(theme.colour("sheet"))
        painter.drawRect(QRectF(-26, -high, 52, 0.45 * high))
        painter.drawRect(QRectF(-13, -0.55 * high, 26, 0.2 * high))
        painter.setPen(painting.pen("blue", 2.6))
        painter.drawLine(QPointF(0, -high - 6), QPointF(0, 0))
        painter.drawLine(QPointF(-0.26 * area.width(), -6), QPointF(0.26 * area.width(), -6))
        painter.restore()
        self._figures(painter, area, words, axis, sides, table_y)

    def _figures(
        self, painter: QPainter, area: QRectF, words: str, axis: str, sides: tuple[str, str], table_y: float
    ) -> None:
        value = self._lean[f"tilt_{axis}"] * REACH_MM / 1000
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(QPointF(area.left(), area.top() + 14), words)
        painter.drawText(QRectF(area.left(), table_y + 18, 80, 16), Qt.AlignmentFlag.AlignLeft, sides[0])
        painter.drawText(
            QRectF(area.right() - 80, table_y + 18, 80, 16), Qt.AlignmentFlag.AlignRight, sides[1]
        )
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        lean = (
            "not read"
            if f"tram_{axis}" not in self.read
            else "square"
            if abs(value) < 0.002
            else f"leans {sides[1] if value > 0 else sides[0]} {show_small(abs(value), self._system)} "
            f"{in_reach(self._system)}"
        )
        painter.drawText(QRectF(area.left(), area.top(), area.width(), 18), Qt.AlignmentFlag.AlignRight, lean)
