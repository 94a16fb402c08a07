"""A shaft as it runs: its line drawn larger than it is, on its blocks, and which side is high."""

from __future__ import annotations

import cmath
import math
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import column
from trebb.app.pictures.base import CasePicture, Leaves, OutcomePlot
from trebb.app.window.session import Session
from trebb.core.condition.draws import draw
from trebb.core.families.shaft.bend import Bend, bend_vectors
from trebb.core.families.shaft.subject import Shaft
from trebb.core.units import UnitSystem, show_size, show_small, show_uncertain
from trebb.logbook.cases.shaft_case import ShaftCase

BODY = 15.0  # half thickness of the drawn shaft, px


class ShaftPicture(CasePicture):
    """The bent shaft; the measures where a remedy is looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.line = ShaftCanvas()
        self.outcome = OutcomePlot()
        self.leaves = Leaves(
            (
                ("line", "Shaft", "How the shaft runs, drawn larger", self.line),
                ("outcome", "Figures", "Each figure now and then, against its limit", self.outcome),
            )
        )
        box.addWidget(self.leaves)

    def show_found(self, *, known: bool) -> None:
        self.leaves.offer("outcome", on=False)
        case = self.session.case
        assert isinstance(case, ShaftCase)
        self.line.show_shaft(case.subject, case.bend("before"), self._limit(), self.session.system)

    def show_then(self, prediction: Any) -> None:
        self.leaves.offer("outcome", on=True)
        case = self.session.case
        assert isinstance(case, ShaftCase)
        now = case.bend("before")
        then = None
        if now is not None:
            drawn = draw(prediction.after)
            at = {
                z: complex(bend_vectors(case.subject, drawn, z).mean())
                for z, _ in now.stations
                if z in case.subject.free
            }
            z = max(at, key=lambda one: abs(at[one]))
            stations = tuple((s, at.get(s, 0j)) for s, _ in now.stations)
            then = Bend(stations, z, at[z], None, None)
        left = prediction.measures["bend"]
        size = show_uncertain(left.value, left.half_width, self.session.system)
        words = f"leaves {size} total at the worst"
        self.line.show_shaft(case.subject, then, self._limit(), self.session.system, words)
        self.outcome.show_outcome(case, prediction, self.session)

    def _limit(self) -> float:
        return self.session.job.limit("shaft_bend").limit_mm


class ShaftCanvas(painting.Painted, QWidget):
    """The shaft's middle line in the plane of its worst station, and the same from its end."""

    def __init__(self) -> None:
        super().__init__()
        self._shaft = Shaft()
        self._bend: Bend | None = None
        self._limit_mm = 0.05
        self._system = UnitSystem.INCH
        self._words = ""
        self.setMinimumHeight(170)
        self.setAccessibleName("The shaft as it runs")

    def show_shaft(
        self, shaft: Shaft, bend: Bend | None, limit_mm: float, system: UnitSystem, words: str = ""
    ) -> None:
        """Show another bend; None where nothing is read of it. `words` stand for its size where it is
        foretold.
        """
        self._words = words
        self._shaft, self._bend, self._limit_mm, self._system = shaft, bend, limit_mm, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        end = min(190.0, 0.3 * self.width())
        side = QRectF(12, 8, self.width() - end - 24, self.height() - 16)
        self._side(painter, side)
        if self._bend is not None and 2 * self._bend.bow_mm > 0.2 * self._limit_mm:
            self._end(painter, QRectF(side.right() + 12, 8, end - 12, self.height() - 16))

    def _x(self, area: QRectF, z: float) -> float:
        return area.left() + 20 + (area.width() - 40) * z / self._shaft.length_mm

    def _larger(self, area: QRectF) -> float:
        """Pixels to a millimetre across: the worst takes a quarter of the height, never finer than the
        limit.
        """
        assert self._bend is not None
        return 0.24 * area.height() / max(self._bend.bow_mm, self._limit_mm / 2)

    def _side(self, painter: QPainter, area: QRectF) -> None:
        s, bend, middle = self._shaft, self._bend, area.center().y()
        px = self._larger(area) if bend is not None else 0.0
        turn = cmath.exp(-1j * cmath.phase(bend.worst)) if bend is not None and bend.worst else 1.0
        stations = bend.stations if bend is not None else ((s.a_mm, 0j), (s.b_mm, 0j))
        line = [QPointF(self._x(area, z), middle - px * (v * turn).real) for z, v in stations]
        line = _to_ends(line, self._x(area, 0), self._x(area, s.length_mm))
        top = [p - QPointF(0, BODY) for p in line]
        foot = [p + QPointF(0, BODY) for p in reversed(line)]
        painter.setPen(painting.pen("ink", 1.6))
        painter.setBrush(theme.colour("metal"))
        painter.drawPolygon(QPolygonF([*top, *foot]))
        painter.setPen(painting.dashed_pen("soft", 1.2))
        painter.drawLine(QPointF(area.left(), middle), QPointF(area.right(), middle))
        painter.setPen(painting.pen("blue", 1.8))
        if bend is not None:
            painter.drawPolyline(QPolygonF(line))
        painter.setPen(painting.pen("soft", 1.4))
        painter.setBrush(theme.colour("ground"))
        for z in (s.a_mm, s.b_mm):
            x, y = self._x(area, z), middle + BODY
            painter.drawPolygon(QPolygonF([QPointF(x, y), QPointF(x - 14, y + 24), QPointF(x + 14, y + 24)]))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        if bend is None:
            painter.drawText(
                area,
                Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignHCenter,
                "Turn it under an indicator: its line stands here.",
            )
            return
        for z, v in stations:
            x = self._x(area, z)
            y = middle - px * (v * turn).real
            painter.setBrush(theme.colour("blue"))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawEllipse(QPointF(x, y), 3.6, 3.6)
        worst = QPointF(self._x(area, bend.worst_mm), middle - px * bend.bow_mm)
        place = show_size(bend.worst_mm, self._system, resolution_mm=1)
        words = self._words or f"{show_small(2 * bend.bow_mm, self._system)} total, at {place}"
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        wide = painter.fontMetrics().horizontalAdvance(words)
        left = min(max(area.left(), worst.x() - wide / 2), area.right() - wide)
        peak = (
            min(p.y() for p in line) - BODY - 8
        )  # over the whole of it: the shaft goes on past its stations
        painter.drawText(QPointF(left, max(area.top() + 14, peak)), words)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        ratio = px / max(1e-9, (area.width() - 40) / s.length_mm)
        painter.drawText(
            QRectF(area.left(), area.bottom() - 18, area.width(), 18),
            Qt.AlignmentFlag.AlignLeft,
            f"across × {_round(ratio):g} against along; in the plane of its worst station",
        )

    def _end(self, painter: QPainter, area: QRectF) -> None:
        bend = self._bend
        assert bend is not None
        r = 0.30 * min(area.width(), area.height())
        c = QPointF(area.center().x(), area.center().y() - 4)
        painter.setPen(painting.pen("ink", 1.4))
        painter.setBrush(theme.colour("sheet"))
        painter.drawEllipse(c, r, r)
        painter.setPen(painting.pen("ink", 2))
        painter.drawLine(c + QPointF(0, -r), c + QPointF(0, -r - 7))
        a = math.radians(bend.high_deg)
        tip = c + QPointF(0.82 * r * math.sin(a), -0.82 * r * math.cos(a))
        if bend.bow_mm > 0:
            painting.paint_arrow(painter, c, tip, "blue")
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QRectF(area.left(), c.y() - r - 26, area.width(), 16), Qt.AlignmentFlag.AlignHCenter, "mark, 0°"
        )
        painter.setPen(theme.colour("ink"))
        painter.drawText(
            QRectF(area.left(), c.y() + r + 6, area.width(), 16),
            Qt.AlignmentFlag.AlignHCenter,
            f"high at {bend.high_deg:.0f}°",
        )
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QRectF(area.left(), c.y() + r + 22, area.width(), 32),
            Qt.AlignmentFlag.AlignHCenter | Qt.TextFlag.TextWordWrap,
            "up in the press",
        )


def _to_ends(line: list[QPointF], left: float, right: float) -> list[QPointF]:
    """The line carried straight on to both ends of the shaft."""
    if len(line) < 2:
        return line
    (p, q), (r, s) = line[:2], line[-2:]
    first = QPointF(left, p.y() + (left - p.x()) * (q.y() - p.y()) / (q.x() - p.x()))
    last = QPointF(right, s.y() + (right - s.x()) * (s.y() - r.y()) / (s.x() - r.x()))
    return [first, *line, last]


def _round(ratio: float) -> float:
    """Two figures of a ratio."""
    return float(f"{ratio:.2g}")
