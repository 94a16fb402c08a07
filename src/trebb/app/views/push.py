"""The push test: readings against force, the step (slack) and the slope (flex)."""

from __future__ import annotations

import statistics

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

from trebb.app.look import painting, theme
from trebb.app.views.base import Shown
from trebb.app.views.plane import Curve, Plane, spread_of
from trebb.app.views.rows import WithRows
from trebb.core.families.spindle.push_test import force_n, push_fits
from trebb.core.runout import PushFit
from trebb.core.units import LBF_N, UnitSystem, show_small, small_unit


class PushView(WithRows):
    """Pulls as rows, and the curve beside them."""

    def __init__(self) -> None:
        super().__init__()
        self.curve = _Curve()
        self.curve.chosen_by = self.chosen.emit
        self.rows.setFixedWidth(186)
        self.beside(self.curve)

    def show_readings(self, shown: Shown) -> None:
        self.rows.show_readings(shown)
        self.curve.show_readings(shown)


class _Curve(painting.Painted, Curve):
    """Force against reading at the spot being read."""

    def __init__(self) -> None:
        super().__init__(
            "Reading against force", "The step is slack, the slope is flex. Choose a pull to read"
        )

    def _spot(self) -> str:
        assert self._shown is not None
        places = self._shown.set_up.places(self._shown.session.case.subject)
        return (self._shown.place or places[-1]).group

    def _newton(self) -> float:
        """Newtons in the unit of force shown."""
        assert self._shown is not None
        return LBF_N if self._shown.session.system is UnitSystem.INCH else 1.0

    def places_along(self) -> list[tuple[float, str]]:
        assert self._shown is not None
        spindle = self._shown.session.case.subject
        return [
            (force_n(spindle, p.key) / self._newton(), p.key)
            for p in self._shown.set_up.places(spindle)
            if p.group == self._spot()
        ]

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._shown is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        session = self._shown.session
        spindle, system = session.case.subject, session.system
        standing = session.job.standing(session.assembly, self._shown.set_up.key, self._shown.phase)
        spot = self._spot()
        name, unit_mm = small_unit(system)
        force_unit, newton = "lbf" if system is UnitSystem.INCH else "N", self._newton()
        points = [
            (force_n(spindle, p.place) / newton, statistics.fmean(p.values))
            for p in standing
            if p.place.startswith(f"{spot}, ")
        ]
        fit = push_fits(spindle, standing).get(spot)
        zero = fit.zero_mm if fit else statistics.fmean([y for _, y in points]) if points else 0.0
        values = [(y - zero) / unit_mm for _, y in points] or [0.0]
        full = spindle.pull_n / newton
        area = QRectF(self.rect()).adjusted(54, 46, -12, -40)
        plane = self._plane = Plane(
            area,
            (-1.25 * full, 1.25 * full),
            spread_of([*values, -max(map(abs, values)), max(map(abs, values))], 0.008 / unit_mm),
        )
        plane.grid(painter, f"pulled away · {force_unit} · pushed toward", name)
        painter.setPen(painting.pen("soft", 1.2))
        painter.drawLine(plane.at(0, plane.y[0]), plane.at(0, plane.y[1]))
        if fit is not None:
            self._paint_fit(painter, plane, fit, full, newton, unit_mm, system)
        for (force, _), value in zip(points, values, strict=True) if points else ():
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(theme.colour("ink"))
            painter.drawEllipse(plane.at(force, value), 4, 4)

    def _paint_fit(
        self,
        painter: QPainter,
        plane: Plane,
        fit: PushFit,
        full: float,
        newton: float,
        unit_mm: float,
        system: UnitSystem,
    ) -> None:
        """Both sides' lines; the step between them at no force."""
        painter.setPen(painting.pen("blue", 2))
        half = fit.slack_mm / 2 / unit_mm
        slope = fit.flex_mm_n * newton / unit_mm
        for side in (-1, 1):
            painter.drawLine(
                plane.at(0, side * half),
                plane.at(side * full * 1.15, side * half + side * slope * full * 1.15),
            )
        low, high = plane.at(0, -half), plane.at(0, half)
        painter.setPen(painting.pen("beyond" if half > 0 else "soft", 2.6))
        painter.drawLine(low, high)
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        words = f"slack {show_small(max(0.0, fit.slack_mm), system)}"
        right = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter
        painter.drawText(QRectF(0, 0, plane.area.right(), 20), right, words)
        painter.setFont(theme.font(theme.SMALL))
        stiff = (
            f"flex {show_small(fit.flex_mm_n * 1000, system)} for 1000 N"
            if system is UnitSystem.METRIC
            else f"flex {show_small(fit.flex_mm_n * 100 * LBF_N, system)} for 100 lbf"
        )
        painter.setPen(theme.colour("soft"))
        painter.drawText(QRectF(0, 19, plane.area.right(), 18), right, stiff)
