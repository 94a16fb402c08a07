"""The bed's ways as what a level read, step by step."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.alignment import ScrapingPlan
from trebb.core.families.bed.subject import Bed
from trebb.core.families.bed.work import BedShape
from trebb.core.units import UnitSystem, show_small, small_unit

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
