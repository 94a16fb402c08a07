"""The threading tool in its groove, and from its front with its clearances."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import column, label
from trebb.app.making.base import OperationView, Setting
from trebb.app.window.session import Session
from trebb.core.families.screw_drive.screw import WORKING_CLEARANCE
from trebb.core.making.operations import Operation
from trebb.core.threads import ThreadSpec, flank_clearance, thread_limits
from trebb.core.threads.groove import groove_of
from trebb.core.threads.section import screw_outline
from trebb.core.threads.tooling import pick_up_words, roughing_flat_mm
from trebb.core.units import UnitSystem, show_size

FEELER_MM = 0.05


class ToolView(OperationView):
    """The roughing tool in the finished groove, and the tool from its front with its clearances."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column(spacing=6)
        self.setLayout(box)
        self.picture = ToolPicture()
        box.addWidget(self.picture, 1)
        self.pick_up = label("", wrap=True)
        box.addWidget(self.pick_up)

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        case, system = self.case, self.session.system
        spec = case.made_drive.thread
        flat = groove_of(spec).flat_mm
        rough = roughing_flat_mm(spec, case.rough_narrower_mm)
        self.picture.show_tool(spec, flat, rough, system)
        self.pick_up.setText("Picking it up with the finisher: " + pick_up_words(spec, FEELER_MM, system))
        clear_ = flank_clearance(spec, WORKING_CLEARANCE)
        degrees = [f"{math.degrees(a):.1f}°".replace("-", "−") for a in (clear_.leading, clear_.trailing)]
        return (
            ("Rougher’s flat", show_size(rough, system), True),
            ("Finisher’s flat", show_size(flat, system), True),
            ("Included angle", f"{2 * math.degrees(spec.form.half_angle):.1f}°", False),
            (f"Clearance, {clear_.leading_side} side", degrees[0], False),
            (f"Clearance, {clear_.trailing_side} side", degrees[1], False),
            ("Rough to", show_size(case.rough_depth_mm, system), True),
        )


class ToolPicture(painting.Painted, QWidget):
    """Two drawings: in the groove, and seen from the front."""

    def __init__(self) -> None:
        super().__init__()
        self._spec: ThreadSpec | None = None
        self._flat = self._rough = 0.0
        self._system = UnitSystem.METRIC
        self.setMinimumHeight(140)
        self.setToolTip("At the left the tools in the groove, at the right the tool from its front")

    def show_tool(self, spec: ThreadSpec, flat_mm: float, rough_mm: float, system: UnitSystem) -> None:
        """Show another tool."""
        self._spec, self._flat, self._rough, self._system = spec, flat_mm, rough_mm, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._spec is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        half = self.width() * 0.56
        self._in_groove(painter, self._spec, QRectF(0, 0, half, self.height()))
        self._from_front(painter, self._spec, QRectF(half, 0, self.width() - half, self.height()))

    def _in_groove(self, painter: QPainter, spec: ThreadSpec, area: QRectF) -> None:
        limits = thread_limits(spec)
        above = 0.7 * spec.depth_mm
        scale = min(
            (area.width() - 20) / (2 * spec.pitch_mm),
            (area.height() - 34) / (spec.depth_mm + above + 0.4 * spec.pitch_mm),
        )
        left, top = area.center().x() - scale * spec.pitch_mm, area.top() + 18 + scale * above
        points = [
            QPointF(left + scale * (x - 0.5 * spec.pitch_mm), top + scale * d)
            for x, d in screw_outline(spec, limits.screw_pitch.middle_mm, 0.0, 0.0, 3)
        ]
        floor = top + scale * (spec.depth_mm + 0.35 * spec.pitch_mm)
        clip = QRectF(left, area.top() + 16, scale * 2 * spec.pitch_mm, floor - area.top() - 16)
        painter.save()
        painter.setClipRect(clip)
        painting.fill_profile(painter, points, floor, theme.colour("metal"))
        painter.setPen(painting.pen("within", 1.8))
        painter.drawPolyline(QPolygonF(points))
        slope = math.tan(spec.form.half_angle)
        middle = left + scale * spec.pitch_mm
        for flat, pen, fill in (
            (self._flat, painting.dashed_pen("soft", 1.4), None),
            (self._rough, painting.pen("blue", 1.8), "blue_wash"),
        ):
            wide = flat / 2 + (spec.depth_mm + above) * slope
            tool = QPolygonF(
                [
                    QPointF(middle - scale * flat / 2, top + scale * spec.depth_mm),
                    QPointF(middle + scale * flat / 2, top + scale * spec.depth_mm),
                    QPointF(middle + scale * wide, top - scale * above),
                    QPointF(middle - scale * wide, top - scale * above),
                ]
            )
            painter.setPen(pen)
            painter.setBrush(theme.colour(fill) if fill else Qt.BrushStyle.NoBrush)
            painter.drawPolygon(tool)
        painter.restore()
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("blue"))
        painter.drawText(
            QRectF(area.left() + 8, area.top(), area.width(), 16),
            Qt.AlignmentFlag.AlignLeft,
            f"rougher, flat {show_size(self._rough, self._system)}",
        )
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QRectF(area.left(), area.bottom() - 16, area.width(), 16),
            Qt.AlignmentFlag.AlignHCenter,
            f"dashed: finisher, flat {show_size(self._flat, self._system)}",
        )

    def _from_front(self, painter: QPainter, spec: ThreadSpec, area: QRectF) -> None:
        """The tool's section looking along its shank: its sides lean with the helix."""
        found = flank_clearance(spec, WORKING_CLEARANCE)
        left_angle, right_angle = (
            (found.leading, found.trailing)
            if found.leading_side == "headstock"
            else (found.trailing, found.leading)
        )
        tall = area.height() - 66
        top = QPointF(area.center().x(), area.top() + 30)
        wide = min(44.0, area.width() / 5)
        corner = [
            QPointF(top.x() - wide, top.y()),
            QPointF(top.x() + wide, top.y()),
            QPointF(top.x() + wide - tall * math.tan(right_angle), top.y() + tall),
            QPointF(top.x() - wide + tall * math.tan(left_angle), top.y() + tall),
        ]
        painter.setPen(painting.dashed_pen("soft", 1.2))
        for x in (-wide, wide):
            painter.drawLine(QPointF(top.x() + x, top.y() - 8), QPointF(top.x() + x, top.y() + tall + 6))
        painter.setPen(painting.pen("ink", 1.6))
        painter.setBrush(theme.colour("blue_wash"))
        painter.drawPolygon(QPolygonF(corner))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        lean = math.tan(spec.lead_angle(spec.pitch_dia_mm)) * (1 if spec.hand.value == "right" else -1)
        painter.setPen(painting.pen("within", 1.6))
        painter.drawLine(
            QPointF(top.x() + lean * -26, top.y() - 18),
            QPointF(top.x() + lean * (tall + 10), top.y() + tall + 10),
        )
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        for angle, x, align in (
            (left_angle, top.x() - wide - 62, Qt.AlignmentFlag.AlignRight),
            (right_angle, top.x() + wide + 4, Qt.AlignmentFlag.AlignLeft),
        ):
            painter.drawText(
                QRectF(x, top.y() + tall / 2 - 9, 58, 18),
                align,
                f"{math.degrees(angle):.1f}°".replace("-", "−"),
            )
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QRectF(area.left(), area.top(), area.width(), 16),
            Qt.AlignmentFlag.AlignHCenter,
            "headstock side      tailstock side",
        )
        painter.drawText(
            QRectF(area.left(), area.bottom() - 16, area.width(), 16),
            Qt.AlignmentFlag.AlignHCenter,
            "from the front; green: the thread’s lead",
        )
