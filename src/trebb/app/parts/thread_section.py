"""Screw and nut engaged, in section and true to size, dragged along the travel."""

from __future__ import annotations

import math

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.condition import Estimate, Quantity
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.threads import thread_limits
from trebb.core.threads.section import Outline, nut_outline, screw_outline
from trebb.core.units import UnitSystem, show_size, show_small

PITCHES = 3
BAR = 46.0  # of the travel below the section, in pixels
KEY_STEPS = 20


def wear_at(drive: ScrewDrive, now: Estimate, mm: float) -> Quantity:
    """The screw's wear at a way along the travel, between stations in a straight line, mm of play."""
    return now.combination(drive.wear_shares(mm))


class SectionCanvas(painting.Painted, QWidget):
    """Three pitches of the screw with the nut on it; the bar below says where along the travel. `moved`
    after each drag.
    """

    moved = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._drive = ScrewDrive()
        self._now: Estimate | None = None
        self._system = UnitSystem.METRIC
        self.at_mm = self._drive.travel_mm / 2
        self.setMinimumSize(300, 128)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Screw and nut in section")
        self.setToolTip("Drag along the travel, or left and right arrow")

    def show_thread(self, drive: ScrewDrive, now: Estimate, system: UnitSystem) -> None:
        """Show a condition; the place along the travel stays."""
        if drive.travel_mm != self._drive.travel_mm:
            self.at_mm = drive.travel_mm / 2
        self._drive, self._now, self._system = drive, now, system
        self.update()

    # what is shown ----------------------------------------------------------------------------

    def wear(self) -> Quantity:
        """Wear of the screw here."""
        assert self._now is not None
        return wear_at(self._drive, self._now, self.at_mm)

    def gap(self) -> Quantity:
        """Play of the nut on the screw here, both flanks together."""
        assert self._now is not None
        return self._now.combination({"nut": 1.0, **self._drive.wear_shares(self.at_mm)})

    def words(self) -> str:
        """What is seen, in a sentence."""
        gap, system = self.gap(), self._system
        nut = "half nuts have" if self._drive.half_nuts else "nut has"
        where = f"At {show_size(self.at_mm, system)}"
        if gap.value < 0:
            return f"{where}: it binds, {show_small(-gap.value, system)} too tight."
        assert self._now is not None
        return (
            f"{where}: the {nut} {show_small(self._now.source('nut').value, system)}, the screw has lost "
            f"{show_small(self.wear().value, system)}; the gap is {show_small(gap.value, system)} ± "
            f"{show_small(gap.half_width, system, unit=False)}."
        )

    # painting ---------------------------------------------------------------------------------

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._now is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        drive, spec = self._drive, self._drive.thread
        limits = thread_limits(spec)
        wear, gap = max(self.wear().value, 0.0), self.gap().value
        crest_loss = min(self._now.source("crest").value, 0.4 * spec.basic_height_mm) if wear > 0.01 else 0.0
        worn = screw_outline(spec, limits.screw_pitch.middle_mm, wear, crest_loss, PITCHES)
        new = screw_outline(spec, limits.screw_pitch.middle_mm, 0.0, 0.0, PITCHES)
        nut = nut_outline(spec, limits.screw_pitch.middle_mm, max(gap - wear, -0.2), PITCHES)
        tall = spec.depth_mm + 0.9 * spec.pitch_mm
        area = QRectF(self.rect()).adjusted(10, 24, -10, -BAR - 6)
        scale = min(area.width() / (PITCHES * spec.pitch_mm), area.height() / tall)
        left = area.center().x() - scale * PITCHES * spec.pitch_mm / 2
        top = area.top() + scale * 0.45 * spec.pitch_mm

        def place(outline: Outline, shift_mm: float) -> list[QPointF]:
            return [QPointF(left + scale * (x + shift_mm), top + scale * depth) for x, depth in outline]

        bottom, roof = area.bottom(), area.top()
        clip = QRectF(left, roof, scale * PITCHES * spec.pitch_mm, bottom - roof)
        painter.save()
        painter.setClipRect(clip)
        body = place(worn, 0.0)
        painting.fill_profile(painter, body, bottom, theme.colour("metal"))
        shift = max(gap, 0.0) / 2  # pushed against one flank: the whole gap shows at the other
        teeth = place(nut, shift)
        painting.fill_profile(painter, teeth, roof, theme.colour("ground"))
        painter.setPen(painting.dashed_pen("within", 1.5))
        painter.drawPolyline(QPolygonF(place(new, 0.0)))
        painter.setPen(painting.pen("ink", 1.6))
        painter.drawPolyline(QPolygonF(body))
        painter.setPen(painting.pen("soft", 1.8))
        painter.drawPolyline(QPolygonF(teeth))
        painter.restore()
        self._gap(painter, left, top, scale, gap, wear)
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        painter.drawText(
            QPointF(left + 4, roof - 8),
            f"{'half nuts' if drive.half_nuts else 'nut'} above, screw below, to scale",
        )
        painter.setPen(theme.colour("within"))
        painter.drawText(
            QRectF(left, roof - 22, clip.width() - 4, 18), Qt.AlignmentFlag.AlignRight, "dashed: unworn"
        )
        self._travel(painter)

    def _gap(self, painter: QPainter, left: float, top: float, scale: float, gap: float, wear: float) -> None:
        """The gap at the middle ridge of the screw, with its size."""
        spec = self._drive.thread
        depth = spec.major_mm / 2 - spec.pitch_dia_mm / 2
        x = left + scale * (
            1.5 * spec.pitch_mm - spec.pitch_mm / 4 - wear / 2
        )  # the left flank of the middle groove
        y = top + scale * depth
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(painting.pen("beyond" if gap > 0 else "near", 2))
        painter.drawLine(QPointF(x, y), QPointF(x + max(2.0, scale * gap), y))
        painter.setPen(theme.colour("beyond" if gap > 0 else "near"))
        painting.words_on(
            painter,
            QPointF(x - 62 - painter.fontMetrics().height() / 2, y - 8),
            f"{show_small(gap, self._system)}" if gap >= 0 else "binds",
        )

    def _travel(self, painter: QPainter) -> None:
        """Where along the travel, with the gap drawn as height over it."""
        bar = self._bar()
        painter.setPen(painting.pen("line", 1))
        painter.drawLine(QPointF(bar.left(), bar.bottom()), QPointF(bar.right(), bar.bottom()))
        assert self._now is not None
        now, drive = self._now, self._drive
        steps = [drive.travel_mm * i / 40 for i in range(41)]
        nut = now.source("nut").value
        sizes = [max(0.0, nut + wear_at(drive, now, x).value) for x in steps]
        most = max(*sizes, 1e-3)
        points = [
            QPointF(
                bar.left() + bar.width() * x / drive.travel_mm, bar.bottom() - (bar.height() - 6) * s / most
            )
            for x, s in zip(steps, sizes, strict=True)
        ]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(painting.wash("blue"))
        painter.drawPolygon(
            QPolygonF([QPointF(bar.left(), bar.bottom()), *points, QPointF(bar.right(), bar.bottom())])
        )
        x = bar.left() + bar.width() * self.at_mm / drive.travel_mm
        painter.setPen(painting.pen("blue", 2))
        painter.drawLine(QPointF(x, bar.top()), QPointF(x, bar.bottom()))
        painter.setBrush(theme.colour("blue"))
        painter.drawEllipse(QPointF(x, bar.bottom()), 5, 5)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if self.hasFocus():
            painter.setPen(painting.pen("blue", 1.4))
            painter.drawRect(bar.adjusted(-6, -2, 6, 7))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        near, far = drive.end_names
        painter.drawText(QRectF(bar.left(), bar.bottom() + 3, 200, 16), Qt.AlignmentFlag.AlignLeft, near)
        painter.drawText(
            QRectF(bar.right() - 200, bar.bottom() + 3, 200, 16), Qt.AlignmentFlag.AlignRight, far
        )

    def _bar(self) -> QRectF:
        return QRectF(24, self.height() - BAR + 2, self.width() - 48, BAR - 22)

    # gestures ---------------------------------------------------------------------------------

    def move_to(self, mm: float) -> None:
        """Another place along the travel."""
        self.at_mm = min(max(mm, 0.0), self._drive.travel_mm)
        self.update()
        self.moved.emit()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        bar = self._bar()
        self.move_to((event.position().x() - bar.left()) / bar.width() * self._drive.travel_mm)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        self.mousePressEvent(event)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
            return
        self.move_to(self.at_mm + by * self._drive.travel_mm / KEY_STEPS)


def crest_words(drive: ScrewDrive, wear_mm: float, system: UnitSystem) -> str:
    """How the crest stands: its flat now against new; worn through it is sharp."""
    flat = drive.thread.crest_flat_mm
    left = flat - wear_mm
    if math.isclose(wear_mm, 0.0, abs_tol=1e-4):
        return ""
    return (
        f"Its crest is {show_size(max(left, 0.0), system)} wide, {show_size(flat, system)} new."
        if left > 0
        else "Its crest has gone sharp."
    )
