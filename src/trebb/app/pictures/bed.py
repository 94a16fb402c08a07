"""A lathe bent and twisted as measured, its ways as a relief, and the work it would turn."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt, QVariantAnimation
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QButtonGroup, QSlider, QWidget

from trebb.app import painting, theme
from trebb.app.pictures.base import CasePicture, Leaves, OutcomePlot
from trebb.app.session import Session
from trebb.app.views.plane import Plane, spread_of
from trebb.app.widgets import button, column, label, row
from trebb.core.alignment import ScrapingPlan
from trebb.core.condition import Estimate
from trebb.core.findings.bed_work import BedShape, WorkError
from trebb.core.machine import Bed
from trebb.core.machine.bed import FEET, REACH_MM
from trebb.core.units import UnitSystem, show_shim, show_size, show_small, size_unit, small_unit
from trebb.logbook.bed_case import BedCase

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
        self.slider = QSlider(Qt.Orientation.Horizontal)
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
        self._morph.setDuration(MORPH_MS)
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
        painter.drawText(
            QPointF(4, self.height() - 6),
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
            f"Twist {show_small(abs(roll) * 1000 / bed.along_mm, self._system)} in 1000 "
            f"mm{', ' + lean if lean else ''}",
        )


# the ways -------------------------------------------------------------------------------------

STEPS = 5


class ReliefCanvas(painting.Painted, QWidget):
    """Both ways from above: how far they lie below their unworn ends, in steps of colour and hatching;
    below, passes of the scraper.
    """

    def __init__(self) -> None:
        super().__init__()
        self._bed: Bed | None = None
        self._shape: BedShape | None = None
        self._plan: ScrapingPlan | None = None
        self._system = UnitSystem.INCH
        self.setMinimumHeight(170)
        self.setAccessibleName("Relief of the ways")

    def show_ways(self, bed: Bed, shape: BedShape, plan: ScrapingPlan | None, system: UnitSystem) -> None:
        """Show wear of both ways, and the scraping plan where there is one."""
        self._bed, self._shape, self._plan, self._system = bed, shape, plan, system
        self.update()

    def step_mm(self) -> float:
        """Depth of one step: a round one that shows the deepest in no more than `STEPS`."""
        deepest = (
            max((*self._shape.below_front, *self._shape.below_rear, 0.005))
            if self._shape is not None
            else 0.01
        )
        _, unit = small_unit(self._system)
        sizes = (0.2, 0.5, 1, 2, 5, 10) if self._system is UnitSystem.INCH else (5, 10, 20, 50, 100, 200)
        return next((s * unit for s in sizes if deepest <= STEPS * s * unit), sizes[-1] * unit)

    def _band(self, way: int) -> QRectF:
        high = min(58.0, (self.height() - 120) / 2)
        return QRectF(64, 26 + (1 - way) * (high + 12), self.width() - 84, high)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._bed is None or self._shape is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        painter.drawText(
            QPointF(0, 14), f"Below the unworn ends, one step {show_small(self.step_mm(), self._system)}"
        )
        for way, (name, worn) in enumerate(
            (("front", self._shape.below_front), ("rear", self._shape.below_rear))
        ):
            self._paint_way(painter, way, name, worn)
        self._marks(painter)
        if self._plan is not None:
            self._paint_plan(painter)

    def _paint_way(self, painter: QPainter, way: int, name: str, worn: tuple[float, ...]) -> None:
        area, step = self._band(way), self.step_mm()
        painter.setFont(theme.font(theme.BODY, theme.MEDIUM))
        painter.setPen(theme.colour("ink"))
        painter.drawText(
            QRectF(0, area.top(), 58, area.height()),
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft,
            name,
        )
        columns = max(40, int(area.width() / 6))
        wide = area.width() / columns
        painter.setPen(Qt.PenStyle.NoPen)
        for i in range(columns):
            at = (i + 0.5) / columns * (len(worn) - 1)
            low = min(int(at), len(worn) - 2)
            depth = worn[low] + (at - low) * (worn[low + 1] - worn[low])
            spot = QRectF(area.left() + i * wide, area.top(), wide + 0.6, area.height())
            paint_step(painter, spot, min(STEPS, max(0, int(depth / step + 0.5))))
        painter.setPen(painting.pen("soft", 1))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(area)
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        for k, depth in enumerate(worn):
            x = area.left() + area.width() * k / (len(worn) - 1)
            text = show_small(depth, self._system, unit=False)
            wide_text = painter.fontMetrics().horizontalAdvance(text) + 8
            spot = QRectF(
                min(max(x - wide_text / 2, area.left() + 1), area.right() - wide_text - 1),
                area.center().y() - 9,
                wide_text,
                18,
            )
            painter.fillRect(spot, theme.colour("sheet"))
            painter.setPen(theme.colour("ink"))
            painter.drawText(spot, Qt.AlignmentFlag.AlignCenter, text)

    def _marks(self, painter: QPainter) -> None:
        assert self._bed is not None
        area = self._band(0)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        for k in range(self._bed.steps + 1):
            x = area.left() + area.width() * k / self._bed.steps
            painter.drawLine(QPointF(x, area.bottom()), QPointF(x, area.bottom() + 5))
            painter.drawText(QRectF(x - 14, area.bottom() + 5, 28, 16), Qt.AlignmentFlag.AlignCenter, str(k))
        painter.drawText(QPointF(0, area.bottom() + 17), "station")

    def _paint_plan(self, painter: QPainter) -> None:
        assert self._plan is not None
        assert self._bed is not None
        area = self._band(0)
        y = area.bottom() + 44
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        painter.drawText(
            QPointF(0, y - 4),
            f"To scrape, passes of {show_small(self._plan.pass_mm, self._system)}: "
            f"{show_small(self._plan.deepest_mm, self._system)} at the most; the saddle comes down "
            f"{show_small(self._plan.lowers_mm, self._system)}",
        )
        painter.setFont(theme.font(theme.SMALL))
        for line, (name, passes) in enumerate(
            (("rear", self._plan.passes[1]), ("front", self._plan.passes[0]))
        ):
            painter.setPen(theme.colour("soft"))
            painter.drawText(QPointF(0, y + 15 + 17 * line), name)
            painter.setPen(theme.colour("ink"))
            for k, count in enumerate(passes):
                x = area.left() + area.width() * k / self._bed.steps
                painter.drawText(
                    QRectF(x - 16, y + 2 + 17 * line, 32, 17), Qt.AlignmentFlag.AlignCenter, str(int(count))
                )


def paint_step(painter: QPainter, spot: QRectF, step: int) -> None:
    """A step of the relief: deeper is bluer, and carries closer hatching, so that shape goes with colour."""
    shade = theme.colour("blue")
    shade.setAlphaF(0.08 + 0.14 * step)
    painter.save()
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.colour("metal"))
    painter.drawRect(spot)
    painter.setBrush(shade)
    painter.drawRect(spot)
    if step:
        painter.setClipRect(spot)
        painter.setPen(painting.pen("blue", 1.1))
        gap = {1: 16.0, 2: 11.0, 3: 8.0, 4: 6.0}.get(step, 4.5)
        first = math.floor((spot.left() - spot.height()) / gap) * gap
        x = first
        while x < spot.right():
            painter.drawLine(QPointF(x, spot.bottom()), QPointF(x + spot.height(), spot.top()))
            x += gap
    painter.restore()


# the work -------------------------------------------------------------------------------------

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
        self.slider = QSlider(Qt.Orientation.Horizontal)
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
        band = [plane.at(a, q.high / unit) for a, q in zip(x, shown.total, strict=True)] + [
            plane.at(a, q.low / unit) for a, q in reversed(list(zip(x, shown.total, strict=True)))
        ]
        shade = theme.colour("blue")
        shade.setAlphaF(0.16)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        painter.drawPolygon(QPolygonF(band))
        if self._after is not None:
            pen = painting.pen("soft", 1.8)
            pen.setStyle(Qt.PenStyle.DotLine)
            painter.setPen(pen)
            painter.drawPolyline(
                QPolygonF([plane.at(a, q.value / unit) for a, q in zip(x, self._now.total, strict=True)])
            )
            ends.append(
                (
                    plane.at(x[-1], self._now.total[-1].value / unit).y(),
                    f"now {show_small(self._now.total[-1].value, self._system, signed=True, unit=False)}",
                    "soft",
                    False,
                )
            )
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


def _end_words(painter: QPainter, area: QRectF, ends: list[tuple[float, str, str, bool]]) -> None:
    """Words at the curves' ends, moved apart so that none covers another."""
    y = area.top() - 8
    for wanted, words, role, strong in sorted(ends):
        y = max(wanted, y + 17)
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD if strong else theme.MEDIUM))
        painter.setPen(theme.colour("ink" if role == "brass" else role))
        painter.drawText(QPointF(area.right() + 6, y + 5), words)
