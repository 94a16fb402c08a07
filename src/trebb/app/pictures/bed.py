"""A lathe bent and twisted as measured, its ways as a relief, and the work it would turn."""

from __future__ import annotations

import math
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt, QVariantAnimation
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import Slider, column, label, row
from trebb.app.pictures.base import CasePicture, Leaves, OutcomePlot
from trebb.app.pictures.relief import ReliefCanvas
from trebb.app.pictures.work import WorkCanvas
from trebb.app.window.session import Session
from trebb.core.alignment import ScrapingPlan
from trebb.core.condition import Estimate
from trebb.core.dual_units import in_units
from trebb.core.families.bed.subject import FEET, REACH_MM, Bed
from trebb.core.families.bed.work import BedShape
from trebb.core.units import UnitSystem, show_shim, show_small
from trebb.logbook.cases.bed_case import BedCase

LEAST_FACTOR, MOST_FACTOR = 50, 2000
MORPH_MS = 700
SHOWN_PX = 46.0  # the largest displacement at the factor taken by itself


class BedPicture(CasePicture):
    """Machine, ways, work; and the measures when a remedy is looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.machine = MachineCanvas()
        self.ways = ReliefCanvas()
        self.work = WorkCanvas(session)
        self.outcome = OutcomePlot()
        machine = QWidget()
        inside = column(spacing=4)
        machine.setLayout(inside)
        inside.addWidget(self.machine, 1)
        line = row(spacing=8)
        line.addWidget(label("Drawn larger by", "soft"))
        self.slider = Slider()
        self.slider.setRange(0, 100)
        self.slider.setObjectName("exaggeration")
        self.slider.setAccessibleName("How much the errors are drawn larger")
        self.slider.setToolTip("Draw the errors larger or smaller (arrow keys)")
        self.slider.valueChanged.connect(self._scaled)
        line.addWidget(self.slider, 1)
        self.factor = label("", "strong")
        self.factor.setMinimumWidth(60)
        line.addWidget(self.factor)
        inside.addLayout(line)
        self.leaves = Leaves((
            ("machine", "Machine", "The machine bent and twisted as measured", machine),
            ("ways", "Ways", "Both ways as a relief, and what is to be scraped", self.ways),
            ("work", "Work", "What a piece of any length comes out like, and why", self.work),
            ("outcome", "Figures", "Each figure now and then, against its limit", self.outcome),
        ))  # fmt: skip
        box.addWidget(self.leaves)
        self._is_scaled = False
        self._shown: BedShape | None = None
        self._morph = QVariantAnimation(self)
        self._morph.setDuration(theme.lasts(MORPH_MS))
        self._morph.setStartValue(0.0)
        self._morph.setEndValue(1.0)
        self._morph.valueChanged.connect(self._step)
        self._from: BedShape | None = None
        self._to: BedShape | None = None

    def _case(self) -> BedCase:
        case = self.session.case
        assert isinstance(case, BedCase)
        return case

    # scale ------------------------------------------------------------------------------------

    def _factor(self) -> float:
        return float(LEAST_FACTOR * (MOST_FACTOR / LEAST_FACTOR) ** (self.slider.value() / 100))

    def _scaled(self) -> None:
        factor = self._factor()
        self.factor.setText(f"× {factor:.0f}")
        self.machine.show_factor(factor)

    def _scale_to(self, shape: BedShape, bed: Bed) -> None:
        """The factor that shows the largest error well; once, then it is the user's."""
        if self._is_scaled:
            return
        self._is_scaled = True
        wanted = SHOWN_PX / max(shape.most_mm * self.machine.px_a_mm(bed), 1e-6)
        clamped = min(max(wanted, LEAST_FACTOR), MOST_FACTOR)
        self.slider.setValue(
            round(100 * math.log(clamped / LEAST_FACTOR) / math.log(MOST_FACTOR / LEAST_FACTOR))
        )
        self._scaled()

    # showing ----------------------------------------------------------------------------------

    def show_found(self, *, known: bool) -> None:
        case = self._case()
        self.leaves.offer("outcome", on=False)
        self._show(case.shape(), None)
        self.ways.show_ways(
            case.subject_for("before"),
            case.shape(),
            None if not case.whole.is_measured else self._plan(),
            self.session.system,
        )
        self.work.show_case(case, None)

    def show_then(self, prediction: Any) -> None:
        case = self._case()
        self.leaves.offer("outcome", on=True)
        after: Estimate = prediction.after
        self._show(case.shape(after), case.shape())
        self.ways.show_ways(case.subject_for("before"), case.shape(after), None, self.session.system)
        self.work.show_case(case, after)
        self.outcome.show_outcome(case, prediction, self.session)

    def _plan(self) -> ScrapingPlan:
        plan: ScrapingPlan = self._case().whole.plan()  # type: ignore[attr-defined]
        return plan

    def _show(self, shape: BedShape, ghost: BedShape | None) -> None:
        """Morph from what is shown to another shape; at once where nothing is seen."""
        case = self._case()
        bed = case.subject_for("before")
        self._scale_to(case.shape(), bed)
        lying = {foot: bed.pack_mm(foot) for foot in FEET}
        self.machine.show_job(bed, ghost, lying, self.session.system)
        twist = next((m for m in case.whole.figures if m.key == "twist"), None)
        self.machine.is_twist_read = twist is not None and not twist.is_expected
        if self._shown is None or not self.isVisible() or self._shown == shape:
            self._morph.stop()
            self._set(shape)
            return
        if self._to == shape and self._morph.state() == QVariantAnimation.State.Running:
            return
        self._from, self._to = self._shown, shape
        self._morph.stop()
        self._morph.start()

    def _step(self, share: float) -> None:
        if self._from is not None and self._to is not None:
            self._set(self._from.toward(self._to, share) if share < 1 else self._to)

    def _set(self, shape: BedShape) -> None:
        self._shown = shape
        self.machine.show_shape(shape)


# the machine ----------------------------------------------------------------------------------


class MachineCanvas(painting.Painted, QWidget):
    """The machine seen slightly from above, displaced by what was measured, times a stated factor."""

    DEPTH, RISE = 0.55, 0.40  # of a millimetre to the rear: to the right, and up
    WIDER = 2.0  # front and rear way drawn further apart than they are

    def __init__(self) -> None:
        super().__init__()
        self._bed: Bed | None = None
        self._shape: BedShape | None = None
        self._ghost: BedShape | None = None
        self._lying: dict[str, float] = {}
        self._factor = 200.0
        self._system = UnitSystem.INCH
        self.is_twist_read = False
        self.setMinimumHeight(170)
        self.setAccessibleName("The machine, bent and twisted as measured")

    def px_a_mm(self, bed: Bed) -> float:
        """Pixels of a millimetre of the machine."""
        return max(200.0, self.width() - 30.0) / (
            bed.length_mm + 330 + self.DEPTH * self.WIDER * bed.gauge_mm
        )

    def show_factor(self, factor: float) -> None:
        """Draw errors so many times larger than the machine."""
        self._factor = factor
        self.update()

    def show_job(self, bed: Bed, ghost: BedShape | None, lying: dict[str, float], system: UnitSystem) -> None:
        """The machine, what lies under its feet, and how it stands now where a remedy is looked at."""
        self._bed, self._ghost, self._lying, self._system = bed, ghost, lying, system
        self.update()

    def show_shape(self, shape: BedShape) -> None:
        """Another shape."""
        self._shape = shape
        self.update()

    def shape(self) -> BedShape | None:
        """What is drawn."""
        return self._shape

    def _at(self, x: float, y: float, z: float) -> QPointF:
        """Along, to the rear from the front way (drawn wider), up from the ways; mm on the screen's scale."""
        assert self._bed is not None
        s, y = self.px_a_mm(self._bed), y * self.WIDER
        left = 15 + 170 * s
        floor = self.height() - 30 - 150 * s
        return QPointF(left + s * (x + self.DEPTH * y), floor - s * (self.RISE * y + z))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._bed is None or self._shape is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        bed, shape, k = self._bed, self._shape, self._factor
        front = [self._at(x, 0, k * z) for x, z in zip(bed.stations, shape.front, strict=True)]
        rear = [self._at(x, bed.gauge_mm, k * z) for x, z in zip(bed.stations, shape.rear, strict=True)]
        self._feet(painter, bed)
        self._slab(painter, bed, front, rear)
        self._straight(painter, bed)
        if self._ghost is not None:
            self._ghost_ways(painter, bed, self._ghost)
        self._headstock(painter, bed)
        self._tailstock(painter, bed, shape)
        self._work(painter, bed, shape)
        self._words(painter, bed, shape, front, rear)

    def _feet(self, painter: QPainter, bed: Bed) -> None:
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        for foot in ("head_rear", "tail_rear", "head_front", "tail_front"):
            x = -60.0 if foot.startswith("head") else bed.length_mm - 60
            y = bed.gauge_mm if foot.endswith("rear") else 0.0
            top, low = self._at(x, y, -80), self._at(x, y, -150)
            painter.setPen(painting.pen("soft"))
            painter.setBrush(theme.colour("ground"))
            painter.drawRect(QRectF(QPointF(top.x() - 14, top.y()), QPointF(low.x() + 14, low.y())))
            if self._lying.get(foot):
                painter.setPen(painting.pen("blue", 1))
                painter.setBrush(theme.colour("blue"))
                painter.drawRect(QRectF(low.x() - 20, low.y(), 40, 4))
                painter.setPen(theme.colour("blue"))
                painter.drawText(
                    QPointF(low.x() - 12, low.y() + 18), show_shim(self._lying[foot], self._system)
                )

    def _slab(self, painter: QPainter, bed: Bed, front: list[QPointF], rear: list[QPointF]) -> None:
        under = [self._at(x, 0, -80) for x in bed.stations]
        painter.setPen(painting.pen("ink"))
        painter.setBrush(theme.colour("metal"))
        painter.drawPolygon(QPolygonF([*front, *reversed(under)]))
        painter.setBrush(theme.colour("sheet"))
        painter.drawPolygon(QPolygonF([*front, *reversed(rear)]))
        painter.setPen(painting.pen("line", 1))
        for a, b in zip(front, rear, strict=True):
            painter.drawLine(a, b)
        painter.setPen(painting.pen("ink", 2.4))
        painter.drawPolyline(QPolygonF(front))
        painter.drawPolyline(QPolygonF(rear))

    def _straight(self, painter: QPainter, bed: Bed) -> None:
        painter.setPen(painting.dashed_pen("soft", 1.2))
        for y in (0.0, bed.gauge_mm):
            painter.drawLine(self._at(0, y, 0), self._at(bed.length_mm, y, 0))

    def _ghost_ways(self, painter: QPainter, bed: Bed, ghost: BedShape) -> None:
        pen = painting.pen("soft", 1.6)
        pen.setStyle(Qt.PenStyle.DotLine)
        painter.setPen(pen)
        for y, profile in ((0.0, ghost.front), (bed.gauge_mm, ghost.rear)):
            painter.drawPolyline(
                QPolygonF(
                    [self._at(x, y, self._factor * z) for x, z in zip(bed.stations, profile, strict=True)]
                )
            )

    def _box(
        self,
        painter: QPainter,
        bed: Bed,
        x0: float,
        x1: float,
        high: float,
        *,
        aside: float = 0.0,
        up: float = 0.0,
        role: str = "ink",
    ) -> None:
        """A block on the ways: its front and its top."""
        near, far = 20.0 + aside, bed.gauge_mm - 20 + aside
        corners = [
            self._at(x, y, z + up)
            for x, y, z in (
                (x0, near, 0),
                (x1, near, 0),
                (x1, near, high),
                (x0, near, high),
                (x0, far, high),
                (x1, far, high),
                (x1, far, 0),
            )
        ]
        painter.setPen(painting.pen(role))
        painter.setBrush(theme.colour("sheet"))
        painter.drawPolygon(QPolygonF([corners[0], corners[1], corners[2], corners[3]]))
        painter.drawPolygon(QPolygonF([corners[3], corners[2], corners[5], corners[4]]))
        painter.drawPolygon(QPolygonF([corners[1], corners[6], corners[5], corners[2]]))

    def _headstock(self, painter: QPainter, bed: Bed) -> None:
        self._box(painter, bed, -150, bed.nose_mm - 40, bed.centre_mm + 60)

    def _tailstock(self, painter: QPainter, bed: Bed, shape: BedShape) -> None:
        side, up = shape.tail
        k = self._factor
        self._box(
            painter,
            bed,
            bed.length_mm - 240,
            bed.length_mm - 90,
            bed.centre_mm + 40,
            aside=k * side / self.WIDER,
            up=k * up,
        )
        tip = self._at(bed.length_mm - 290, bed.gauge_mm / 2 + k * side / self.WIDER, bed.centre_mm + k * up)
        back = self._at(bed.length_mm - 240, bed.gauge_mm / 2 + k * side / self.WIDER, bed.centre_mm + k * up)
        painter.setPen(painting.pen("ink", 3))
        painter.drawLine(tip, back)
        true = self._at(bed.length_mm - 290, bed.gauge_mm / 2, bed.centre_mm)
        painter.setPen(painting.pen("soft", 1.4))
        for dx, dy in ((7, 0), (0, 7)):
            painter.drawLine(true - QPointF(dx, dy), true + QPointF(dx, dy))

    def _work(self, painter: QPainter, bed: Bed, shape: BedShape) -> None:
        """The part it would turn in the chuck, the spindle's axis, and the tool's path before it."""
        k, mid, radius = self._factor, bed.gauge_mm / 2, 34.0
        n = len(shape.work) - 1
        places = [REACH_MM * i / n for i in range(n + 1)]

        def axis(z: float) -> tuple[float, float, float]:
            share = z / REACH_MM
            return (
                bed.nose_mm + z,
                mid + k * share * shape.axis[0] / self.WIDER,
                bed.centre_mm + k * share * shape.axis[1],
            )

        edge = [(axis(z), max(6.0, radius + k * d / 2)) for z, d in zip(places, shape.work, strict=True)]
        upper = [self._at(x, y, z + r) for (x, y, z), r in edge]
        lower = [self._at(x, y, z - r) for (x, y, z), r in edge]
        painter.setPen(painting.pen("ink", 1.6))
        painter.setBrush(theme.colour("blue_wash"))
        painter.drawPolygon(QPolygonF([*upper, *reversed(lower)]))
        painter.setPen(painting.pen("ink"))
        painter.setBrush(theme.colour("sheet"))
        chuck = self._at(bed.nose_mm - 20, mid, bed.centre_mm)
        s = self.px_a_mm(bed)
        painter.drawRect(QRectF(chuck.x() - 18 * s, chuck.y() - 80 * s, 36 * s, 160 * s))
        painter.setPen(painting.dashed_pen("ink", 1.2))
        painter.drawLine(self._at(*axis(0)), self._at(*axis(REACH_MM)))
        path = [
            self._at(x, mid - radius - 70 - k * out / self.WIDER, bed.centre_mm)
            for x, out in zip(bed.stations, shape.path, strict=True)
            if bed.nose_mm <= x <= bed.length_mm - 240
        ]
        painter.setPen(painting.pen("blue", 2.6))
        painter.drawPolyline(QPolygonF(path))
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("blue"))
        painting.words_on(painter, path[len(path) // 2] + QPointF(0, 19), "tool’s path")
        painter.setPen(theme.colour("ink"))
        large = "far" if shape.work[-1] > 0 else "near"
        words = (
            f"{show_small(abs(shape.work[-1]), self._system)} larger at the {large} end"
            if abs(shape.work[-1]) > 0.001
            else "parallel"
        )
        painting.words_on(painter, upper[-1] + QPointF(8, 2), words)

    def _words(
        self, painter: QPainter, bed: Bed, shape: BedShape, front: list[QPointF], rear: list[QPointF]
    ) -> None:
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        for k in range(0, bed.steps + 1, 2):
            painter.drawText(
                QRectF(front[k].x() - 12, self._at(bed.stations[k], 0, -80).y() + 1, 24, 18),
                Qt.AlignmentFlag.AlignCenter,
                str(k),
            )
        painter.drawText(
            QRectF(front[-3].x(), self._at(0, 0, -80).y() - 19, front[-1].x() - front[-3].x(), 18),
            Qt.AlignmentFlag.AlignCenter,
            "front way",
        )
        painter.drawText(rear[-1] + QPointF(8, 6), "rear way")
        foot = QRectF(4, self.height() - 20, self.width() - 8, 18)
        painting.write_in(
            painter,
            foot,
            Qt.AlignmentFlag.AlignLeft,
            "dashed: straight and level"
            + ("; dotted: as it stands now" if self._ghost is not None else "")
            + ". Thick: the ways. + : where the tailstock should stand",
        )
        roll = shape.twist_mrad
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        lean = (
            f"leans to the {'front' if roll > 0 else 'rear'} at the tailstock's end"
            if abs(roll) > 1e-4
            else ""
        )
        painter.drawText(
            QPointF(4, 16),
            "Twist: not read"
            if not self.is_twist_read
            else f"Twist {show_small(abs(roll) * 1000 / bed.along_mm, self._system)} "
            f"{in_units('in 1000 mm', self._system)}{', ' + lean if lean else ''}",
        )


# the ways -------------------------------------------------------------------------------------


# the work -------------------------------------------------------------------------------------
