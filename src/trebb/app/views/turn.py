"""A turn under the indicator: the polar picture, drawn live; earlier seatings behind; the axis in space."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import row
from trebb.app.views.base import ReadingView, Shown
from trebb.app.views.polar import Group, Polar, groups_of, seat_of, two_figures
from trebb.core.units import show_small

ROW = 25.0


class TurnView(ReadingView):
    """Turns as a list, the one being read as a polar picture."""

    def __init__(self) -> None:
        super().__init__()
        box = row(spacing=10)
        self.setLayout(box)
        self.list = _TurnList()
        self.list.chosen.connect(self.chosen)
        self.list.setFixedWidth(126)
        box.addWidget(self.list)
        self.polar = Polar()
        self.polar.chosen.connect(self.chosen)
        self.polar.figure_chosen.connect(self.figure_chosen)
        self.polar.turned.connect(self.turned)
        box.addWidget(self.polar, 1)

    def show_readings(self, shown: Shown) -> None:
        subject = shown.session.case.subject
        standing = shown.session.job.standing(shown.session.assembly, shown.set_up.key, shown.phase)
        groups = groups_of(shown.set_up, subject, standing)
        current = (
            shown.place.group
            if shown.place
            else next((g.key for g in reversed(groups) if g.points), groups[0].key)
        )
        self.list.show_groups(groups, current, shown)
        self.polar.show_turn(groups, current, shown)

    def turn_by(self, step: int) -> bool:
        return self.polar.turn_by(step)


class _TurnList(painting.Painted, QWidget):
    """The turns: how far each is read, and its runout."""

    is_list = True

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._groups: list[Group] = []
        self._current = ""
        self._shown: Shown | None = None
        self.setAccessibleName("Turns")
        self.setToolTip("Choose a turn (up and down); its runout is by the fitted eccentricity")

    def show_groups(self, groups: list[Group], current: str, shown: Shown) -> None:
        self._groups, self._current, self._shown = groups, current, shown
        self.setMinimumHeight(int(18 * len(groups)))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(150, int(theme.target(1.8 * ROW) * max(1, len(self._groups))))

    def _height(self) -> float:
        return min(theme.target(1.8 * ROW), self.height() / max(1, len(self._groups)))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._shown is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        height = self._height()
        for i, group in enumerate(self._groups):
            self._paint(painter, QRectF(0.5, i * height + 1.5, self.width() - 1, height - 3), group)

    def _paint(self, painter: QPainter, area: QRectF, group: Group) -> None:
        assert self._shown is not None
        current = group.key == self._current
        painter.setPen(painting.pen("blue", 1.6) if current else Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("blue_wash" if current else "ground"))
        painter.drawRoundedRect(area, 3, 3)
        aside = bool(self._shown.aside)
        face = theme.font(
            theme.BODY if area.height() > 22 else theme.SMALL, theme.SEMIBOLD if current else theme.REGULAR
        )
        face.setStrikeOut(aside and bool(group.points))
        painter.setFont(face)
        painter.setPen(theme.colour("blue" if aside and group.points else "ink"))
        left = area.adjusted(8, 0, -36, 0)
        middle = Qt.AlignmentFlag.AlignVCenter
        words = group.key.replace("seat ", "").replace("°, ", "° ")
        painting.write_in(painter, left, middle | Qt.AlignmentFlag.AlignLeft, words)
        face = theme.font(theme.SMALL, theme.MEDIUM)
        face.setStrikeOut(aside and bool(group.points))
        painter.setFont(face)
        painter.setPen(theme.colour("blue" if aside and group.points else "soft"))
        if group.turn is not None and len(group.points) >= group.wanted:
            text = show_small(group.turn.tir_of_eccentricity, self._shown.session.system, unit=False)
        elif group.figure_mm is not None and not group.points:
            text = f"{show_small(group.figure_mm, self._shown.session.system, unit=False)} TIR"
        else:
            text = f"{len(group.points)}/{group.wanted}"
        painter.drawText(area.adjusted(0, 0, -8, 0), middle | Qt.AlignmentFlag.AlignRight, text)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int(event.position().y() / self._height())
        if self._shown is not None and 0 <= i < len(self._groups):
            key = self._groups[i].key
            read = {f"{key}, {a:g}°" for a, _ in self._groups[i].points}
            places = [
                p.key for p in self._shown.set_up.places(self._shown.session.case.subject) if p.group == key
            ]
            self.chosen.emit(next((p for p in places if p not in read), places[0]))


class AxisView(painting.Painted, QWidget):
    """The spindle's axis in space through the planes read, leaning, drawn larger; it can be turned."""

    def __init__(self) -> None:
        super().__init__()
        self._axes: list[tuple[list[tuple[float, complex]], bool]] = []
        self._shown: Shown | None = None
        self._yaw, self._pitch = -62.0, 40.0
        self._last: QPointF | None = None
        self.setMinimumSize(150, 130)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName("The axis in space")
        self.setToolTip("Drag to turn it, or the arrow keys")

    def show_axes(self, shown: Shown) -> None:
        """Take the planes of each seating from the readings."""
        case = shown.session.case
        groups = groups_of(
            shown.set_up,
            case.subject,
            shown.session.job.standing(shown.session.assembly, shown.set_up.key, shown.phase),
        )
        seats: dict[str, list[tuple[float, complex]]] = {}
        for g in groups:
            if g.turn is not None and g.plane_mm is not None:
                seats.setdefault(seat_of(g.key), []).append((g.plane_mm, g.turn.vectors[0]))
        current = seat_of(shown.place.group) if shown.place else next(reversed(seats), "")
        self._axes = [
            (sorted(planes, key=lambda p: p[0]), seat == current or len(seats) == 1)
            for seat, planes in seats.items()
        ]
        self._shown = shown
        self.update()

    def _project(self, x: float, y: float, z: float) -> QPointF:
        """Orthographic, z along the axis; unit of the caller."""
        yaw, pitch = math.radians(self._yaw), math.radians(self._pitch)
        across, depth = z * math.cos(yaw) + x * math.sin(yaw), -z * math.sin(yaw) + x * math.cos(yaw)
        return QPointF(across, -y * math.cos(pitch) - depth * math.sin(pitch))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(theme.font(theme.SMALL))
        planes = [p for axis, _ in self._axes for p in axis]
        if self._shown is None or not planes:
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                QRectF(self.rect()).adjusted(8, 8, -8, -8),
                Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignCenter,
                "The axis stands here once a turn is read.",
            )
            return
        z_low, z_high = min(0.0, min(z for z, _ in planes)), max(1.0, max(z for z, _ in planes))
        most = max(max(abs(v) for _, v in planes), 0.001)
        # Along the axis the whole reach is one; across it the largest vector is 0.34.
        larger = 0.34 * (z_high - z_low) / most

        def raw(z: float, v: complex) -> QPointF:
            # Dial angle 0 is up, rising clockwise as seen from the far end.
            return self._project(v.imag * larger, v.real * larger, z)

        rings = [
            raw(z, abs(v) * complex(math.cos(t), math.sin(t)))
            for z, v in planes
            for t in np.linspace(0, 2 * np.pi, 13)
        ]
        bounds = QPolygonF([*rings, raw(z_low, 0j), raw(z_high * 1.06, 0j)]).boundingRect()
        area = QRectF(self.rect()).adjusted(16, 14, -30, -52)
        scale = min(area.width() / max(bounds.width(), 1e-9), area.height() / max(bounds.height(), 1e-9))

        def at(z: float, v: complex) -> QPointF:
            return area.center() + (raw(z, v) - bounds.center()) * scale

        painter.setPen(painting.pen("soft", 1))
        painter.drawLine(at(z_low, 0j), at(z_high * 1.06, 0j))
        for axis, is_current in sorted(self._axes, key=lambda a: a[1]):
            self._paint_axis(painter, axis, is_current, at)
        painter.setPen(theme.colour("soft"))
        painter.drawText(at(0, 0j) + QPointF(-12, 20), "nose")
        unit = show_small(most, self._shown.session.system)
        foot = f"across × {two_figures(larger):g} against along; largest {unit} off"
        painter.drawText(
            QRectF(0, self.height() - 38, self.width(), 36),
            Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignCenter,
            foot,
        )

    def _paint_axis(
        self,
        painter: QPainter,
        axis: list[tuple[float, complex]],
        is_current: bool,
        at: Callable[[float, complex], QPointF],
    ) -> None:
        assert self._shown is not None
        role = "blue" if is_current else "soft"
        for z, v in axis:
            ring = QPolygonF(
                [at(z, abs(v) * complex(math.cos(t), math.sin(t))) for t in np.linspace(0, 2 * np.pi, 41)]
            )
            painter.setPen(painting.pen(role if is_current else "line", 1.2))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawPolyline(ring)
            painter.drawLine(at(z, 0j), at(z, v))
            painter.setBrush(theme.colour(role))
            painter.drawEllipse(at(z, v), 3.4, 3.4)
            if is_current:
                painter.setPen(theme.colour("ink"))
                painter.drawText(
                    at(z, v) + QPointF(7, -5), show_small(2 * abs(v), self._shown.session.system, unit=False)
                )
        if len(axis) > 1:
            (z0, v0), (z1, v1) = axis[0], axis[-1]
            lean = (v1 - v0) / (z1 - z0)
            pen = painting.pen(role, 2.4 if is_current else 1.2)
            if self._shown.aside:
                pen.setStyle(Qt.PenStyle.DashLine)
            painter.setPen(pen)
            painter.drawLine(
                at(min(0.0, z0), v0 + lean * (min(0.0, z0) - z0)), at(z1 * 1.06, v1 + lean * 0.06 * z1)
            )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._last = event.position()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._last is not None:
            move = event.position() - self._last
            self._turn(move.x() * 0.6, move.y() * 0.5)
            self._last = event.position()

    def _turn(self, yaw: float, pitch: float) -> None:
        self._yaw = (self._yaw + yaw) % 360
        self._pitch = max(-80.0, min(80.0, self._pitch + pitch))
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        turn = {
            Qt.Key.Key_Left: (-8, 0),
            Qt.Key.Key_Right: (8, 0),
            Qt.Key.Key_Up: (0, -6),
            Qt.Key.Key_Down: (0, 6),
        }.get(Qt.Key(event.key()))
        if turn is not None:
            self._turn(*turn)
        else:
            super().keyPressEvent(event)
