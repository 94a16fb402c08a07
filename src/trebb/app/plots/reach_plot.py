"""Runout at any distance from the nose, the chuck turned to any angle, and the best clocking."""

from __future__ import annotations

import numpy as np
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import Choice, Slider, button, column, label, row
from trebb.app.views.plane import Plane
from trebb.app.window.session import Session
from trebb.core.condition import Quantity
from trebb.core.families.spindle.findings import Clocking, runout_along
from trebb.core.units import UnitSystem, show_size, show_small, size_unit, small_unit
from trebb.logbook.cases.spindle_case import SpindleCase
from trebb.logbook.log.entries import MarkScribed

STEP_DEG = 5
HOLDERS = {"chuck": "Chuck", "bar": "Test bar"}
PLACES = 13


class ReachPlot(QWidget):
    """Curves over the distance, and below them the chuck's angle with the mark to scribe."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=4)
        self.setLayout(box)
        self.curves = _Curves()
        box.addWidget(self.curves, 1)
        self._line = QWidget()
        line = row(spacing=8)
        self._line.setLayout(line)
        self.holder = Choice()
        self.holder.setObjectName("holder")
        self.holder.setToolTip("What is turned against the spindle")
        self.holder.setAccessibleName("Holder")
        for key, words in HOLDERS.items():
            self.holder.addItem(words, key)
        self.holder.activated.connect(self._redraw)
        line.addWidget(self.holder)
        line.addWidget(label("turned", "soft"))
        self.slider = Slider()
        self.slider.setRange(0, 360 // STEP_DEG - 1)
        self.slider.setObjectName("chuck_angle")
        self.slider.setAccessibleName("Chuck turned by")
        self.slider.setToolTip("Turn the chuck on its seat, in steps of 5° (arrow keys)")
        self.slider.valueChanged.connect(self._redraw)
        line.addWidget(self.slider, 1)
        self.best = button("Best", self._go_best, tip="Turn it to where the errors oppose", name="clock_best")
        line.addWidget(self.best)
        self.scribe = button(
            "Scribe this mark",
            self._scribe,
            tip="Record the index mark for putting the chuck back",
            name="scribe_mark",
        )
        line.addWidget(self.scribe)
        box.addWidget(self._line)
        self.said = label("", "strong")
        box.addWidget(self.said)

    def refresh(self) -> None:
        """Show the job as it now is."""
        self._redraw()

    def _case(self) -> SpindleCase | None:
        case = self._session.case
        return case if isinstance(case, SpindleCase) else None

    def _z(self, case: SpindleCase) -> float:
        """Where the holder's runout is told: the pin near the jaws, the bar's far plane."""
        return case.spindle.pin_near_mm if self._held() == "chuck" else case.spindle.far_mm

    def _held(self) -> str:
        return str(self.holder.currentData())

    def _clocking(self, case: SpindleCase) -> Clocking:
        return case.clocking(self._z(case), self._held())

    def _go_best(self) -> None:
        case = self._case()
        if case is not None:
            self.slider.setValue(round(self._clocking(case).turn_deg / STEP_DEG) % (360 // STEP_DEG))

    def _scribe(self) -> None:
        angle = float(self.slider.value() * STEP_DEG)
        what = HOLDERS[self._held()].lower()
        self._session.record(
            MarkScribed(
                assembly=self._session.assembly,
                what=what,
                angle_deg=angle,
                note=f"{what}'s own mark to this one",
            )
        )

    def _is_told(self, case: SpindleCase) -> bool:
        """Whether the readings tell how bearings and taper turn."""
        links = {link.key for link in case.split.links if link.is_read}
        return "bearings" in links or "work" in {m.key for m in case.figures}

    def _redraw(self) -> None:
        case = self._case()
        if case is None:
            return
        system, spindle = self._session.system, case.subject_for("before")
        held, key = HOLDERS[self._held()].lower(), "chuck_pin" if self._held() == "chuck" else "test_bar"
        has_readings = bool(case.job.standing(case.assembly_key, key))
        is_read = has_readings and key not in case.distrusted("before")
        z = [float(v) for v in np.linspace(0.0, 1.15 * max(spindle.work_mm, spindle.pin_far_mm), PLACES)]
        drawn = case.split.drawn
        angle = float(self.slider.value() * STEP_DEG)
        curve = runout_along(spindle, drawn, z, holder=self._held(), turned_deg=angle) if is_read else None
        limit_mm = case.job.limit(f"{case.kind.works_as}_work").limit_mm
        self.curves.show_curves(
            z,
            runout_along(spindle, drawn, z) if self._is_told(case) else None,
            curve,
            f"{held} at {angle:.0f}°",
            limit_mm,
            spindle.work_mm,
            system,
        )
        for widget in (self.slider, self.best, self.scribe):
            widget.setEnabled(is_read)
        if not is_read:
            self.said.setText(
                f"the {held}'s readings are set aside" if has_readings else f"the {held} is not read yet"
            )
            return
        at = self._z(case)
        here = runout_along(spindle, drawn, [at], holder=self._held(), turned_deg=angle)[0]
        best = self._clocking(case)
        sure = "" if best.is_shown else ", not shown yet"
        self.said.setText(
            f"{angle:.0f}°: {show_small(here.value, system)} at {show_size(at, system, resolution_mm=1)}; "
            f"best {best.turn_deg:.0f}°: {show_small(best.after.value, system, unit=False)}{sure}"
        )
        marks = [m for m in self._session.job.marks(self._session.assembly) if m.what == held]
        self.scribe.setText(
            f"Marked at {marks[0].angle_deg:.0f}°"
            if marks and marks[0].angle_deg == angle
            else "Scribe this mark"
        )


class _Curves(painting.Painted, QWidget):
    """Runout over distance with its band; the limit dashed."""

    def __init__(self) -> None:
        super().__init__()
        self._z: list[float] = []
        self._own: list[Quantity] | None = None
        self._chuck: list[Quantity] | None = None
        self._words = ""
        self._limit_mm, self._work_mm = 0.0, 0.0
        self._system = UnitSystem.INCH
        self.setMinimumHeight(130)
        self.setAccessibleName("Runout over the distance from the nose")

    def show_curves(
        self,
        z: list[float],
        own: list[Quantity] | None,
        chuck: list[Quantity] | None,
        words: str,
        limit_mm: float,
        work_mm: float,
        system: UnitSystem,
    ) -> None:
        self._z, self._own, self._chuck, self._words, self._limit_mm, self._work_mm, self._system = (
            z,
            own,
            chuck,
            words,
            limit_mm,
            work_mm,
            system,
        )
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if not self._z:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        name, unit_mm = small_unit(self._system)
        x_name, x_mm = size_unit(self._system)
        curves = [curve for curve in (self._own, self._chuck) if curve]
        top = max([self._limit_mm * 1.4] + [q.value * 1.25 for c in curves for q in c]) / unit_mm
        area = QRectF(self.rect()).adjusted(50, 22, -136, -36)
        plane = Plane(area, (0, self._z[-1] / x_mm), (0, top))
        plane.grid(painter, f"from the nose, {x_name}", f"runout, {name}", ticks=4)
        painter.setClipRect(area.adjusted(0, 0, 140, 0))
        for curve, role, words in (
            (self._own, "blue", "bearings and taper"),
            (self._chuck, "ink", self._words),
        ):
            if curve is None:
                continue
            band = [
                plane.at(z / x_mm, min(top, q.high / unit_mm)) for z, q in zip(self._z, curve, strict=True)
            ]
            band += [
                plane.at(z / x_mm, q.low / unit_mm)
                for z, q in reversed(list(zip(self._z, curve, strict=True)))
            ]
            shade = theme.colour(role)
            shade.setAlphaF(0.14)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(shade)
            painter.drawPolygon(QPolygonF(band))
            painter.setPen(painting.pen(role, 2))
            painter.drawPolyline(
                QPolygonF(
                    [plane.at(z / x_mm, q.value / unit_mm) for z, q in zip(self._z, curve, strict=True)]
                )
            )
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
            painter.setPen(theme.colour(role))
            painter.drawText(plane.at(self._z[-1] / x_mm, curve[-1].value / unit_mm) + QPointF(6, 5), words)
        if self._own is None:
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
            painter.setPen(theme.colour("soft"))
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "bearings and taper: not read")
        self._draw_limit(painter, top, plane, unit_mm, x_mm)

    def _draw_limit(self, painter: QPainter, top: float, plane: Plane, unit_mm: float, x_mm: float) -> None:
        painter.setPen(painting.dashed_pen("within", 1.6))
        painter.drawLine(
            plane.at(0, self._limit_mm / unit_mm), plane.at(self._z[-1] / x_mm, self._limit_mm / unit_mm)
        )
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.drawText(
            plane.at(0, self._limit_mm / unit_mm) + QPointF(4, 13),
            f"limit {show_small(self._limit_mm, self._system)}",
        )
        painter.setPen(painting.pen("soft", 1))
        painter.drawLine(plane.at(self._work_mm / x_mm, 0), plane.at(self._work_mm / x_mm, top))
        painter.setPen(theme.colour("soft"))
        painter.setFont(theme.font(theme.SMALL))
        spot = plane.at(self._work_mm / x_mm, top)
        painter.drawText(
            QRectF(spot.x() - 60, spot.y() - 20, 120, 18), Qt.AlignmentFlag.AlignCenter, "where it counts"
        )
