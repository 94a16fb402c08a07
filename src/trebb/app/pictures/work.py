"""What a piece turned on the bed comes out like, cause by cause."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QButtonGroup, QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import Slider, button, column, label, row
from trebb.app.views.plane import Plane, spread_of
from trebb.app.window.session import Session
from trebb.core.condition import Estimate
from trebb.core.families.bed.subject import REACH_MM
from trebb.core.families.bed.work import WorkError
from trebb.core.units import UnitSystem, show_size, show_small, size_unit, small_unit
from trebb.logbook.cases.bed_case import BedCase

WORK_ROLES = {
    "twist": "beyond",
    "wear": "near",
    "side bend": "soft",
    "headstock": "ink",
    "tailstock": "brass",
    "shims": "within",
}


class WorkCanvas(QWidget):
    """Diameter over position, by what makes it, for a piece of any length."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=4)
        self.setLayout(box)
        line = row(spacing=8)
        self.between = Held()
        line.addWidget(self.between)
        line.addWidget(label("length", "soft"))
        self.slider = Slider()
        self.slider.setRange(4, 40)
        self.slider.setValue(12)
        self.slider.setObjectName("work_length")
        self.slider.setAccessibleName("Length of the piece")
        self.slider.setToolTip("How long the piece is (arrow keys)")
        self.slider.valueChanged.connect(self._redraw)
        line.addWidget(self.slider, 1)
        self.length = label("", "strong")
        self.length.setMinimumWidth(70)
        line.addWidget(self.length)
        box.addLayout(line)
        self.curve = _WorkCurve()
        box.addWidget(self.curve, 1)
        self.between.changed = self._redraw
        self._case: BedCase | None = None
        self._after: Estimate | None = None

    def show_case(self, case: BedCase, after: Estimate | None) -> None:
        """Show what a case says, or what a prediction would make of it."""
        self._case, self._after = case, after
        self._redraw()

    def length_mm(self) -> float:
        """Length of the piece."""
        assert self._case is not None
        most = (
            self._case.subject.centres_mm
            if self.between.is_between
            else min(500.0, self._case.subject.length_mm - self._case.subject.nose_mm)
        )
        return float(min(25.0 * self.slider.value(), most))

    def _redraw(self) -> None:
        if self._case is None:
            return
        length, between, system = self.length_mm(), self.between.is_between, self._session.system
        self.length.setText(show_size(length, system, resolution_mm=1))
        now = self._case.work_error(length, between_centres=between)
        after = (
            self._case.work_error(length, between_centres=between, after=self._after)
            if self._after is not None
            else None
        )
        limit = self._case.job.limit("taper_chuck").limit_mm * length / REACH_MM
        self.curve.show_error(now, after, limit, system)


class Held(QWidget):
    """In the chuck, or between centres."""

    def __init__(self) -> None:
        super().__init__()
        box = row(spacing=4)
        self.setLayout(box)
        group = QButtonGroup(self)
        self.changed: Callable[[], object] = lambda: None
        self.chuck = button(
            "In the chuck",
            lambda: self.changed(),
            kind="chip",
            tip="A piece held in the chuck",
            name="held_chuck",
        )
        self.centres = button(
            "Between centres",
            lambda: self.changed(),
            kind="chip",
            tip="A piece between centres, tailstock as it stands",
            name="held_centres",
        )
        for chip in (self.chuck, self.centres):
            chip.setCheckable(True)
            group.addButton(chip)
            box.addWidget(chip)
        self.chuck.setChecked(True)

    @property
    def is_between(self) -> bool:
        """Between centres."""
        return self.centres.isChecked()


class _WorkCurve(painting.Painted, QWidget):
    """The error's sum with its band, and each source's share."""

    def __init__(self) -> None:
        super().__init__()
        self._now: WorkError | None = None
        self._after: WorkError | None = None
        self._limit_mm = 0.0
        self._system = UnitSystem.INCH
        self.setMinimumHeight(130)
        self.setAccessibleName("Error of the work over its length")

    def show_error(
        self, now: WorkError, after: WorkError | None, limit_mm: float, system: UnitSystem
    ) -> None:
        self._now, self._after, self._limit_mm, self._system = now, after, limit_mm, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._now is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        shown = self._after or self._now
        name, unit = small_unit(self._system)
        x_name, x_mm = size_unit(self._system)
        values = [v / unit for e in (self._now, shown) for q in e.total for v in (q.low, q.high)] + [
            v / unit for part in shown.parts.values() for v in part
        ]
        area = QRectF(self.rect()).adjusted(52, 24, -150, -36)
        plane = Plane(
            area,
            (0, shown.at_mm[-1] / x_mm),
            spread_of([*values, self._limit_mm / unit, -self._limit_mm / unit], 1.0),
        )
        plane.grid(painter, f"from the headstock’s end, {x_name}", f"on diameter, {name}; + larger", ticks=5)
        x = [z / x_mm for z in shown.at_mm]
        painter.setPen(painting.dashed_pen("within", 1.6))
        for sign in (1, -1):
            painter.drawLine(plane.at(0, 0), plane.at(x[-1], sign * self._limit_mm / unit))
        ends: list[tuple[float, str, str, bool]] = []
        self._draw_parts(painter, shown, plane, x, ends, unit)
        band = [plane.at(a, q.high / unit) for a, q in zip(x, shown.total, strict=True)] + [
            plane.at(a, q.low / unit) for a, q in reversed(list(zip(x, shown.total, strict=True)))
        ]
        shade = theme.colour("blue")
        shade.setAlphaF(0.16)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        painter.drawPolygon(QPolygonF(band))
        if self._after is not None:
            self._draw_now(painter, plane, x, ends, unit, self._now)
        painter.setPen(painting.pen("blue", 2.8))
        painter.drawPolyline(
            QPolygonF([plane.at(a, q.value / unit) for a, q in zip(x, shown.total, strict=True)])
        )
        ends.append(
            (
                plane.at(x[-1], shown.total[-1].value / unit).y(),
                f"{'left' if self._after is not None else 'the work'} "
                f"{show_small(shown.total[-1].value, self._system, signed=True, unit=False)}",
                "blue",
                True,
            )
        )
        ends.append(
            (
                plane.at(x[-1], self._limit_mm / unit).y(),
                f"limit ± {show_small(self._limit_mm, self._system, unit=False)}",
                "within",
                True,
            )
        )
        _end_words(painter, area, ends)

    def _draw_now(
        self,
        painter: QPainter,
        plane: Plane,
        x: list[float],
        ends: list[tuple[float, str, str, bool]],
        unit: float,
        now: WorkError,
    ) -> None:
        pen = painting.pen("soft", 1.8)
        pen.setStyle(Qt.PenStyle.DotLine)
        painter.setPen(pen)
        painter.drawPolyline(
            QPolygonF([plane.at(a, q.value / unit) for a, q in zip(x, now.total, strict=True)])
        )
        ends.append(
            (
                plane.at(x[-1], now.total[-1].value / unit).y(),
                f"now {show_small(now.total[-1].value, self._system, signed=True, unit=False)}",
                "soft",
                False,
            )
        )

    def _draw_parts(
        self,
        painter: QPainter,
        shown: WorkError,
        plane: Plane,
        x: list[float],
        ends: list[tuple[float, str, str, bool]],
        unit: float,
    ) -> None:
        for words, part in shown.parts.items():
            role = WORK_ROLES[words]
            painter.setPen(painting.pen(role, 1.6))
            painter.drawPolyline(QPolygonF([plane.at(a, v / unit) for a, v in zip(x, part, strict=True)]))
            ends.append(
                (
                    plane.at(x[-1], part[-1] / unit).y(),
                    f"{words} {show_small(part[-1], self._system, signed=True, unit=False)}",
                    role,
                    False,
                )
            )


def _end_words(painter: QPainter, area: QRectF, ends: list[tuple[float, str, str, bool]]) -> None:
    """Words at the curves' ends, moved apart so that none covers another."""
    y = area.top() - 8
    for wanted, words, role, strong in sorted(ends):
        y = max(wanted, y + 17)
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD if strong else theme.MEDIUM))
        painter.setPen(theme.colour("ink" if role == "brass" else role))
        painter.drawText(QPointF(area.right() + 6, y + 5), words)
