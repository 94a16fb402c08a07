"""A gear from its face: each tooth read painted round it by size, the odd ones and the marked ones named."""

from __future__ import annotations

import math
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import column
from trebb.app.pictures.base import CasePicture, Leaves, OutcomePlot
from trebb.app.window.session import Session
from trebb.core.families.gear.reading import set_up_readings, teeth_split, tooth_number
from trebb.core.families.gear.subject import Gear
from trebb.core.units import UnitSystem, show_small
from trebb.logbook.cases.casework import Case

LEGEND = 40.0


class GearPicture(CasePicture):
    """The gear's teeth round it; the measures where a remedy is looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.ring = ToothRing()
        self.outcome = OutcomePlot()
        self.leaves = Leaves(
            (
                ("ring", "Teeth", "Every tooth read, round the gear", self.ring),
                ("outcome", "Figures", "Each figure now and then, against its limit", self.outcome),
            )
        )
        box.addWidget(self.leaves)

    def show_found(self, *, known: bool) -> None:
        self.leaves.offer("outcome", on=False)
        self.ring.show_case(self.session.case, "before", self.session.system)

    def show_then(self, prediction: Any) -> None:
        self.leaves.offer("outcome", on=True)
        self.ring.show_case(self.session.case, "before", self.session.system)
        self.outcome.show_outcome(self.session.case, prediction, self.session)


class ToothRing(painting.Painted, QWidget):
    """A bar for every tooth read, outward as long as its lash, against the mean; broken and worn teeth marked
    on the rim. The dashed ring is the mean.
    """

    def __init__(self) -> None:
        super().__init__()
        self._gear = Gear()
        self._values: dict[int, float] = {}
        self._odd: frozenset[int] = frozenset()
        self._system = UnitSystem.INCH
        self._here = 0
        self.setMinimumHeight(170)
        self.setAccessibleName("Teeth round the gear")

    def show_case(self, case: Case, phase: str, system: UnitSystem, here: int = 0) -> None:
        """Show what was read of a gear: every tooth where that was read, else the quarters."""
        gear = case.subject
        assert isinstance(gear, Gear)
        teeth = case.known_at("gear_teeth", phase)
        split = teeth_split(gear, teeth)
        key = "gear_teeth" if teeth else "gear_rock"
        values = {}
        for p in teeth or case.known_at("gear_rock", phase):
            values[tooth_number(p.place)] = set_up_readings(key, gear, p)
        self._gear, self._values, self._system, self._here = gear, values, system, here
        self._odd = frozenset(n + 1 for n in split.odd) if split is not None else frozenset()
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        gear = self._gear
        middle = QPointF(self.width() / 2, (self.height() - LEGEND) / 2)
        reach = max(40.0, min(self.width(), self.height() - LEGEND) / 2 - 22)
        rim = 0.5 * reach
        painter.setPen(painting.pen("line", 1.4))
        painter.setBrush(theme.colour("metal"))
        painter.drawEllipse(middle, rim, rim)
        painter.setBrush(theme.colour("ground"))
        painter.drawEllipse(middle, 0.2 * reach, 0.2 * reach)
        values = self._values
        mean = sum(values.values()) / len(values) if values else 0.0
        most = max([abs(v) for v in values.values()] + [1e-6])
        scale = (reach - rim - 4) / most
        step = 2 * math.pi / gear.teeth
        for n, value in values.items():
            odd = n in self._odd
            painter.setPen(painting.pen("beyond" if odd else "blue", 1.0))
            painter.setBrush(painting.wash("beyond" if odd else "blue"))
            painter.drawPolygon(self._bar(middle, rim, rim + scale * abs(value), step * (n - 1), 0.36 * step))
            if odd:
                self._name(painter, middle, rim + scale * abs(value) + 10, step * (n - 1), str(n))
        self._marked(painter, middle, rim, step)
        if values:
            painter.setPen(painting.dashed_pen("ink", 1.1))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(middle, rim + scale * abs(mean), rim + scale * abs(mean))
        if self._here:
            a = step * (self._here - 1) - math.pi / 2
            painter.setPen(painting.pen("blue", 2.4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(middle + QPointF((rim - 9) * math.cos(a), (rim - 9) * math.sin(a)), 6, 6)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        words = f"{gear.teeth} teeth, 1 at the top\n" + (
            f"dashed: mean, {show_small(mean, self._system)}" if values else "none read yet"
        )
        painter.drawText(
            QRectF(0, self.height() - LEGEND, self.width(), LEGEND), Qt.AlignmentFlag.AlignCenter, words
        )

    def _bar(self, middle: QPointF, low: float, high: float, at: float, half: float) -> QPolygonF:
        points = []
        for radius, angle in ((low, at - half), (high, at - half), (high, at + half), (low, at + half)):
            a = angle - math.pi / 2
            points.append(middle + QPointF(radius * math.cos(a), radius * math.sin(a)))
        return QPolygonF(points)

    def _name(self, painter: QPainter, middle: QPointF, radius: float, at: float, words: str) -> None:
        a = at - math.pi / 2
        spot = middle + QPointF(radius * math.cos(a), radius * math.sin(a))
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        painter.drawText(QRectF(spot.x() - 16, spot.y() - 9, 32, 18), Qt.AlignmentFlag.AlignCenter, words)

    def _marked(self, painter: QPainter, middle: QPointF, rim: float, step: float) -> None:
        """A cross for a tooth that is gone, a stroke for one that is chipped, stepped or sharp."""
        painter.setPen(painting.pen("beyond", 2.2))
        for mark, numbers in self._gear.marks.items():
            for n in numbers:
                a = step * (n - 1) - math.pi / 2
                spot = middle + QPointF((rim - 8) * math.cos(a), (rim - 8) * math.sin(a))
                painter.drawLine(spot + QPointF(-5, -5), spot + QPointF(5, 5))
                if mark == "missing":
                    painter.drawLine(spot + QPointF(-5, 5), spot + QPointF(5, -5))
                    self._name(painter, middle, rim - 22, step * (n - 1), str(n))
