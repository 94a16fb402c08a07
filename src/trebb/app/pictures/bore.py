"""A bore unrolled: each depth's diameter round the turn against its unworn ridge, drawn larger."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import column
from trebb.app.pictures.base import CasePicture, Leaves, OutcomePlot
from trebb.app.window.session import Session
from trebb.core.condition import Estimate, ReadingsOnly
from trebb.core.condition.fixing import is_read
from trebb.core.families.bore.subject import DEPTHS
from trebb.core.units import UnitSystem, show_small
from trebb.logbook.cases.bore_case import BoreCase

Curve = tuple[float, float, float]  # wear, and the oval's two parts, mm
LEFT, RIGHT, FOOT = 76.0, 70.0, 40.0
NARROW = 340  # no room beside the strips: words stand in them


def curves_of(case: BoreCase, now: Estimate, known_by: ReadingsOnly) -> dict[str, Curve]:
    """What is known of each depth: by the readings, where they tell of it."""
    limit = case.job.limit("bore_wear").limit_mm
    found = {}
    for d in DEPTHS:
        keys = (f"wear.{d}", f"oval.{d}.x", f"oval.{d}.y")
        if all(is_read(known_by, {key: 1.0}, limit) for key in keys):
            wear, x, y = (now.source(key).value for key in keys)
            found[d] = (wear, x, y)
    return found


class BorePicture(CasePicture):
    """The bore unrolled; the measures where a remedy is looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.unrolled = UnrolledCanvas()
        self.outcome = OutcomePlot()
        self.leaves = Leaves(
            (
                ("unrolled", "Bore unrolled", "Every depth round the turn, drawn larger", self.unrolled),
                ("outcome", "Figures", "Each figure now and then, against its limit", self.outcome),
            )
        )
        box.addWidget(self.leaves)

    def _show(self, now: Estimate, known_by: ReadingsOnly) -> None:
        case = self.session.case
        assert isinstance(case, BoreCase)
        self.unrolled.show_bore(
            curves_of(case, now, known_by), case.job.limit("bore_wear").limit_mm, self.session.system
        )

    def show_found(self, *, known: bool) -> None:
        self.leaves.offer("outcome", on=False)
        self._show(self.session.case.alone, self.session.case.alone)

    def show_then(self, prediction: Any) -> None:
        self.leaves.offer("outcome", on=True)
        self._show(prediction.after, self.session.case.alone)
        self.outcome.show_outcome(self.session.case, prediction, self.session)


class UnrolledCanvas(painting.Painted, QWidget):
    """Each depth a strip from 0° to 360°: the line is what stands over the ridge, the dashed one the
    limit.
    """

    def __init__(self) -> None:
        super().__init__()
        self._curves: Mapping[str, Curve] = {}
        self._limit_mm = 0.03
        self._narrow = False
        self._system = UnitSystem.INCH
        self.setMinimumHeight(170)
        self.setAccessibleName("The bore unrolled")

    def show_bore(self, curves: Mapping[str, Curve], limit_mm: float, system: UnitSystem) -> None:
        """Show other depths."""
        self._curves, self._limit_mm, self._system = curves, limit_mm, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._narrow = self.width() < NARROW
        left, right = (6.0, 6.0) if self._narrow else (LEFT, RIGHT)
        area = QRectF(left, 6, self.width() - left - right, self.height() - FOOT - 6)
        high = area.height() / len(DEPTHS)
        most = max([w + math.hypot(x, y) for w, x, y in self._curves.values()] + [1.15 * self._limit_mm])
        for i, depth in enumerate(DEPTHS):
            self._strip(
                painter, QRectF(area.left(), area.top() + i * high, area.width(), high - 8), depth, most
            )
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        for degrees in range(0, 361, 180 if self._narrow else 90):
            inset = 14 if self._narrow and degrees == 0 else -14 if self._narrow and degrees == 360 else 0
            x = area.left() + area.width() * degrees / 360
            painter.drawText(
                QRectF(x - 24 + inset, area.bottom(), 48, 16), Qt.AlignmentFlag.AlignHCenter, f"{degrees}°"
            )
        painter.drawText(
            QRectF(0, self.height() - 20, self.width(), 18),
            Qt.AlignmentFlag.AlignHCenter,
            f"over the ridge; dashed: {show_small(self._limit_mm, self._system)}"
            if self._narrow
            else f"diameter over the unworn ridge; dashed: limit, {show_small(self._limit_mm, self._system)}",
        )

    def _strip(self, painter: QPainter, area: QRectF, depth: str, most: float) -> None:
        painter.fillRect(area, theme.colour("ground"))
        scale = (area.height() - (22 if self._narrow else 4)) / most
        limit_y = area.bottom() - scale * self._limit_mm
        painter.setPen(painting.dashed_pen("near", 1.2))
        painter.drawLine(QPointF(area.left(), limit_y), QPointF(area.right(), limit_y))
        curve = self._curves.get(depth)
        name = area.adjusted(4, 2, 0, 0) if self._narrow else QRectF(0, area.top(), LEFT - 8, area.height())
        top, middle = Qt.AlignmentFlag.AlignTop, Qt.AlignmentFlag.AlignVCenter
        left, right = Qt.AlignmentFlag.AlignLeft, Qt.AlignmentFlag.AlignRight
        if curve is None:
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.colour("ink"))
            painter.drawText(name, top | left if self._narrow else middle | right, depth)
            painter.setPen(theme.colour("soft"))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "not read")
            return
        wear, x, y = curve
        points = []
        for k in range(73):
            t = math.radians(5.0 * k)
            value = max(0.0, wear + x * math.cos(2 * t) + y * math.sin(2 * t))
            points.append(QPointF(area.left() + area.width() * k / 72, area.bottom() - scale * value))
        painting.fill_profile(painter, points, area.bottom(), painting.wash("blue"))
        painter.setPen(painting.pen("blue", 2))
        painter.drawPolyline(QPolygonF(points))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("ink"))
        painter.drawText(name, top | left if self._narrow else middle | right, depth)
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        spot = (
            area.adjusted(0, 2, -4, 0)
            if self._narrow
            else QRectF(area.right() + 6, area.top(), RIGHT - 8, area.height())
        )
        painter.drawText(
            spot,
            top | right if self._narrow else middle | left,
            show_small(wear + math.hypot(x, y), self._system),
        )
