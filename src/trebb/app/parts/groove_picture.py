"""The groove being cut: finished form, groove now, wires and anvil, from the real geometry."""

from __future__ import annotations

import math
from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.threads import thread_limits
from trebb.core.threads.groove import groove_of
from trebb.core.units import UnitSystem, show_size, show_small

PITCHES = 3
At = Callable[[float, float], QPointF]


class GroovePicture(painting.Painted, QWidget):
    """Three grooves of the thread in section."""

    def __init__(self) -> None:
        super().__init__()
        self._drive: ScrewDrive | None = None
        self._pitch_dia: float | None = None
        self._system = UnitSystem.INCH
        self.setMinimumHeight(104)
        self.setToolTip("The groove in section, to scale")

    def show_thread(self, drive: ScrewDrive, pitch_dia_mm: float | None, system: UnitSystem) -> None:
        """Show a thread as measured, or before its first size."""
        self._drive, self._pitch_dia, self._system = drive, pitch_dia_mm, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._drive is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        drive = self._drive
        spec = drive.thread
        limits = thread_limits(spec)
        over = 0.62 * drive.wire if drive.wire else 0.1 * spec.pitch_mm
        below = 0.5 * spec.pitch_mm
        tall = over + spec.depth_mm + below
        scale = min((self.width() - 20) / (PITCHES * spec.pitch_mm), (self.height() - 34) / tall)
        left = (self.width() - scale * PITCHES * spec.pitch_mm) / 2
        crest = 24 + scale * over

        def at(x_mm: float, depth_mm: float) -> QPointF:
            return QPointF(left + scale * x_mm, crest + scale * depth_mm)

        self._metal(painter, at, limits.screw_pitch.middle_mm, spec.depth_mm + below)
        now = self._pitch_dia
        if now is not None and now > limits.screw_pitch.middle_mm + 1e-4:
            self._groove(painter, at, now)
        if drive.measures_wires:
            self._wires(painter, at, scale, now if now is not None else limits.screw_pitch.middle_mm, left)
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        base = self.height() - 8
        painter.setPen(theme.colour("within"))
        painter.drawText(QPointF(left + 8, base - 6), "finished form")
        if now is not None:
            flank = (now - limits.screw_pitch.middle_mm) / 2 * math.tan(spec.form.half_angle)
            words = (
                f"groove now: {show_small(flank, self._system)} to go each flank"
                if flank > 0
                else "groove now: nothing to go"
            )
            painter.setPen(theme.colour("blue"))
            painter.drawText(QPointF(left + 118, base - 6), words)

    def _outline(self, pitch_dia: float) -> list[tuple[float, float]]:
        """Half groove widths at the crest and at the root: [(half width, depth)]."""
        assert self._drive is not None
        spec = self._drive.thread
        slope = math.tan(spec.form.half_angle)
        flat = groove_of(spec).flat_mm
        if slope == 0:
            return [(flat / 2, 0.0), (flat / 2, spec.depth_mm)]
        at_crest = spec.pitch_mm / 4 + (spec.major_mm - pitch_dia) / 2 * slope
        depth = (at_crest - flat / 2) / slope
        return [(at_crest, 0.0), (flat / 2, depth)]

    def _metal(self, painter: QPainter, at: At, pitch_dia: float, bottom: float) -> None:
        assert self._drive is not None
        spec = self._drive.thread
        (top, _), (root, depth) = self._outline(pitch_dia)
        points = [at(0, bottom), at(0, 0)]
        for k in range(PITCHES):
            c = (k + 0.5) * spec.pitch_mm
            points += [at(c - top, 0), at(c - root, depth), at(c + root, depth), at(c + top, 0)]
        points += [at(PITCHES * spec.pitch_mm, 0), at(PITCHES * spec.pitch_mm, bottom)]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("metal"))
        painter.drawPolygon(QPolygonF(points))
        painter.setPen(painting.pen("within", 2))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(QPolygonF(points[1:-1]))

    def _groove(self, painter: QPainter, at: At, pitch_dia: float) -> None:
        assert self._drive is not None
        spec = self._drive.thread
        (top, _), (root, depth) = self._outline(pitch_dia)
        painter.setPen(painting.dashed_pen("blue", 1.6))
        for k in range(PITCHES):
            c = (k + 0.5) * spec.pitch_mm
            painter.drawPolyline(
                QPolygonF([at(c - top, 0), at(c - root, depth), at(c + root, depth), at(c + top, 0)])
            )

    def _wires(self, painter: QPainter, at: At, scale: float, pitch_dia: float, left: float) -> None:
        assert self._drive is not None
        spec, wire = self._drive.thread, self._drive.wire
        sin_a, tan_a = math.sin(spec.form.half_angle), math.tan(spec.form.half_angle)
        # Centre of the wire above the axis, without lead: E/2 + W/(2 sin α) − P/(4 tan α).
        centre = pitch_dia / 2 + wire / (2 * sin_a) - spec.pitch_mm / (4 * tan_a)
        depth = spec.major_mm / 2 - centre
        painter.setPen(painting.pen("ink", 1.4))
        painter.setBrush(theme.colour("sheet"))
        for k in range(PITCHES):
            spot = at((k + 0.5) * spec.pitch_mm, depth)
            painter.drawEllipse(spot, scale * wire / 2, scale * wire / 2)
        y = at(0, depth - wire / 2).y()
        painter.setPen(painting.pen("ink", 2))
        painter.drawLine(QPointF(left - 4, y), QPointF(left + scale * PITCHES * spec.pitch_mm + 4, y))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        words = f"micrometer anvil over {show_size(wire, self._system)} wires"
        painter.drawText(
            QRectF(left, y - 22, scale * PITCHES * spec.pitch_mm, 18), Qt.AlignmentFlag.AlignRight, words
        )
