"""One turn as one looks at the nose."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct
from PySide6.QtCore import QEvent, QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QFontMetricsF, QMouseEvent, QPainter, QPolygonF, QWheelEvent
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.views.base import Shown
from trebb.core.runout import Turn, degrees_of, whole_degrees
from trebb.core.survey import AnySetUp
from trebb.core.survey.angles import split_place
from trebb.core.survey.shown import reading_text
from trebb.core.survey.turns import by_group, figure_quantities, turn_of
from trebb.core.units import UnitSystem, show_small

BASE, ROOM = 0.56, 0.30  # of the radius: the mean's circle, and what the largest deviation takes of it
THETA = np.linspace(0, 2 * np.pi, 121)


COS, SIN = np.cos(THETA), np.sin(THETA)


class Group(Struct, frozen=True):
    """One turn: its angles and mean readings, the fit, and its plane's distance from the nose."""

    key: str
    points: tuple[tuple[float, float], ...]
    turn: Turn | None
    plane_mm: float | None
    wanted: int
    figure_mm: float | None = None  # its total reading, where it was read as one figure


def groups_of(s: AnySetUp, subject: object, standing: Sequence[object]) -> list[Group]:
    """Every turn of a set-up, in order, read or not."""
    read = by_group(standing)  # type: ignore[arg-type]
    figures = figure_quantities(standing)  # type: ignore[arg-type]
    counts: dict[str, int] = {}
    for p in s.places(subject):
        counts[p.group] = counts.get(p.group, 0) + 1
    return [
        Group(
            g,
            tuple(read.get(g, ())),
            turn_of(read.get(g, ())),
            s.plane_mm(subject, g),
            n,
            figures[g].value if g in figures else None,
        )
        for g, n in counts.items()
    ]


def plane_of(group: str) -> str:
    """The plane's name: what turns of several seatings share."""
    return group.rsplit(", ", 1)[-1]


def seat_of(group: str) -> str:
    """The seating's name, "" where nothing is seated."""
    return group.rsplit(", ", 1)[0] if ", " in group else ""


class Polar(painting.Painted, QWidget):
    """The turn as one looks at the nose: dial angles clockwise from the top, deviations drawn larger."""

    chosen = Signal(str)
    figure_chosen = Signal(int)
    turned = Signal(float)

    def __init__(self) -> None:
        super().__init__()
        self._groups: list[Group] = []
        self._group: Group | None = None
        self._shown: Shown | None = None
        self._places: list[tuple[str, float]] = []
        self._limit_mm = 0.0
        self._scale = 1.0
        self._frame: tuple[float, ...] = ()
        self._lines: dict[tuple[int, bool], tuple[Turn, QPolygonF]] = {}
        self._dragging = self._was_clicked = False
        self.setMinimumSize(180, 170)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Polar picture of the turn")
        self.setToolTip(
            "Choose an angle, or turn the simulated spindle: drag, wheel, or left and right. Click a dot to "
            "strike it out"
        )

    def show_turn(self, groups: list[Group], current: str, shown: Shown) -> None:
        """Show a turn with the others of its plane behind it."""
        self._shown = shown
        self._group = next(g for g in groups if g.key == current)
        self._groups = [
            g
            for g in groups
            if g.key != current and plane_of(g.key) == plane_of(current) and g.turn is not None
        ]
        subject = shown.session.case.subject
        self._places = [
            (p.key, split_place(p.key)[1]) for p in shown.set_up.places(subject) if p.group == current
        ]
        self._limit_mm = shown.session.case.turn_limit(shown.set_up).limit_mm
        self.update()

    # geometry ---------------------------------------------------------------------------------

    def _radius(self) -> float:
        return min(self.width() - 84, self.height() - 80) / 2

    def _centre(self) -> QPointF:
        return QPointF(self.width() / 2, (self.height() - 38) / 2 + 2)

    def _at(self, degrees: float, radius: float) -> QPointF:
        a = math.radians(degrees)
        c = self._centre()
        return QPointF(c.x() + radius * math.sin(a), c.y() - radius * math.cos(a))

    def _px_per_mm(self) -> float:
        """Deviations' scale: the largest takes its room; never finer than the limit."""
        turns = [g.turn for g in (*self._groups, self._group) if g is not None and g.turn is not None]
        most = max([abs(t.vectors[0]) * 1.15 + 2 * t.residual_sd for t in turns] + [0.4 * self._limit_mm])
        group = self._group
        if group is not None and group.turn is None and len(group.points) > 1:
            values = [v for _, v in group.points]
            most = max(most, (max(values) - min(values)) / 2)
        return ROOM * self._radius() / most

    # painting ---------------------------------------------------------------------------------

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._shown is None or self._group is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        radius = self._radius()
        self._scale = self._px_per_mm()
        self._paint_dial(painter, radius)
        for group in self._groups:
            assert group.turn is not None
            self._curve(
                painter,
                group.turn,
                "line" if not self._shown.aside else "blue",
                1.2,
                dashed=bool(self._shown.aside),
            )
        turn = self._group.turn
        if turn is not None:
            self._paint_fit(painter, turn)
        self._paint_points(painter)
        self._paint_foot(painter)

    def _paint_dial(self, painter: QPainter, radius: float) -> None:
        centre = self._centre()
        painter.setBrush(theme.colour("ground"))
        painter.setPen(painting.pen("line", 1.2))
        painter.drawEllipse(centre, radius, radius)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(painting.pen("line", 1))
        painter.drawEllipse(centre, BASE * radius, BASE * radius)
        for key, angle in self._places:
            painter.setPen(painting.pen("line", 1))
            painter.drawLine(self._at(angle, 0.12 * radius), self._at(angle, radius))
            here = self._shown is not None and self._shown.place is not None and self._shown.place.key == key
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD if here else theme.REGULAR))
            painter.setPen(theme.colour("blue" if here else "soft"))
            self._beside(painter, angle, radius + 6, f"{angle:g}°")
        painter.setPen(painting.dashed_pen("within", 1.4))
        half = self._scale * self._limit_mm / 2
        for r in (BASE * radius + half, BASE * radius - half):
            if 4 < r < radius:
                painter.drawEllipse(centre, r, r)
        if self._shown is not None and self._shown.angle_deg is not None:
            self._paint_touch(painter, radius, self._shown.angle_deg)

    def _beside(
        self, painter: QPainter, angle: float, radius: float, words: str, *, second: bool = False
    ) -> None:
        """Words outside the circle, the angle and below it the reading; above and below the circle side by
        side.
        """
        spot = self._at(angle, radius)
        side, up = math.sin(math.radians(angle)), math.cos(math.radians(angle))
        wide = QFontMetricsF(painter.font()).horizontalAdvance(words)
        if abs(side) <= 0.3:
            x = spot.x() + (4 if second else -wide - 4)
            y = spot.y() - 2 if up > 0 else spot.y() + 12
        else:
            x = spot.x() if side > 0 else spot.x() - wide
            y = spot.y() + (14 if second else 0) - 7 * up
        painter.drawText(QPointF(x, y), words)

    def _paint_touch(self, painter: QPainter, radius: float, angle: float) -> None:
        """Where the simulated indicator touches."""
        tip, a, b = (
            self._at(angle, radius - 17),
            self._at(angle - 5, radius - 1),
            self._at(angle + 5, radius - 1),
        )
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("brass"))
        painter.drawPolygon(QPolygonF([tip, a, b]))

    def _curve(
        self,
        painter: QPainter,
        turn: Turn,
        role: str,
        width: float,
        *,
        first_only: bool = False,
        dashed: bool = False,
    ) -> None:
        pen = painting.pen(role, width)
        if dashed:
            pen.setStyle(Qt.PenStyle.DotLine)
        painter.setPen(pen)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolyline(self._line_of(turn, first_only))

    def _line_of(self, turn: Turn, first_only: bool) -> QPolygonF:
        """A turn as it stands in the picture; worked out again only when the turn or the picture's scale is
        another.
        """
        centre, radius = self._centre(), BASE * self._radius()
        frame = (centre.x(), centre.y(), radius, self._scale)
        if frame != self._frame:
            self._frame, self._lines = frame, {}
        kept = self._lines.get((id(turn), first_only))
        if kept is not None and kept[0] is turn:
            return kept[1]
        v = turn.vectors[0]
        away = v.real * COS + v.imag * SIN if first_only else turn.at(THETA) - turn.mean
        out = radius + self._scale * away
        xs, ys = (centre.x() + out * SIN).tolist(), (centre.y() - out * COS).tolist()
        line = QPolygonF([QPointF(x, y) for x, y in zip(xs, ys, strict=True)])
        self._lines[id(turn), first_only] = (turn, line)
        return line

    def _paint_fit(self, painter: QPainter, turn: Turn) -> None:
        aside = self._shown is not None and bool(self._shown.aside)
        if len(turn.vectors) > 1:
            self._curve(painter, turn, "blue" if aside else "ink", 1.4)
        self._curve(painter, turn, "blue", 2.0, first_only=True, dashed=aside)
        v = turn.vectors[0]
        if abs(v) * self._scale > 6:
            painting.paint_arrow(
                painter, self._centre(), self._at(degrees_of(v), abs(v) * self._scale), "blue"
            )

    def _paint_points(self, painter: QPainter) -> None:
        assert self._shown is not None
        assert self._group is not None
        shown, points = self._shown, dict(self._group.points)
        radius, aside = self._radius(), bool(self._shown.aside)
        mean = (
            self._group.turn.mean
            if self._group.turn is not None
            else sum(points.values()) / len(points)
            if points
            else 0.0
        )
        for key, angle in self._places:
            here = shown.place is not None and shown.place.key == key
            if angle in points:
                away = max(-BASE * radius, min((1 - BASE) * radius, self._scale * (points[angle] - mean)))
                spot = self._at(angle, BASE * radius + away)
                painter.setPen(painting.pen("blue" if here or aside else "ink", 1.4))
                painter.setBrush(theme.colour("sheet" if aside else "ink"))
                painter.drawEllipse(spot, 4, 4)
                if aside:
                    painter.drawLine(QPointF(spot.x() - 6, spot.y() + 3), QPointF(spot.x() + 6, spot.y() - 3))
                face = theme.font(theme.SMALL)
                face.setStrikeOut(aside)
                painter.setFont(face)
                painter.setPen(theme.colour("blue" if aside else "ink"))
                self._beside(
                    painter,
                    angle,
                    radius + 6,
                    reading_text(points[angle], shown.set_up, shown.session.system),
                    second=True,
                )
            if here:
                painter.setPen(painting.pen("blue", 2))
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.drawEllipse(self._at(angle, BASE * radius), 7, 7)

    def _paint_foot(self, painter: QPainter) -> None:
        assert self._shown is not None
        assert self._group is not None
        system = self._shown.session.system
        turn = self._group.turn
        larger = self._scale / (self.logicalDpiX() / 25.4)
        if turn is not None:
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
            painter.setPen(theme.colour("ink"))
            noise = self._shown.set_up.row(self._shown.session.case.subject, self._places[0][0]).noise_sd
            words = f"runout {show_small(turn.tir_of_eccentricity, system)}"
            if abs(turn.vectors[0]) > 2 * noise * math.sqrt(2 / len(self._group.points)):
                words += f", high at {whole_degrees(turn.vectors[0])}°"
            lobes = _lobes(turn, noise, len(self._group.points), system)
            if painter.fontMetrics().horizontalAdvance(words + lobes) < self.width():
                words += lobes
            painter.drawText(
                QRectF(0, self.height() - 38, self.width(), 20), Qt.AlignmentFlag.AlignCenter, words
            )
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        words = f"drawn × {two_figures(larger):g}; dashed: limit {show_small(self._limit_mm, system)}"
        painter.drawText(QRectF(0, self.height() - 18, self.width(), 18), Qt.AlignmentFlag.AlignCenter, words)

    # turning and choosing ---------------------------------------------------------------------

    def turn_by(self, step: int) -> bool:
        """The next angle of the turn, either way."""
        if not self._places or self._shown is None:
            return False
        keys = [k for k, _ in self._places]
        now = self._shown.place.key if self._shown.place is not None else keys[0]
        i = keys.index(now) if now in keys else 0
        self.chosen.emit(keys[(i + step) % len(keys)])
        return True

    def wheelEvent(self, event: QWheelEvent) -> None:
        """Turns it, once it was clicked into: in passing, the next reading keeps its place."""
        if not self._was_clicked:
            event.ignore()
        elif self._shown is not None and self._shown.angle_deg is not None:
            self.turned.emit((self._shown.angle_deg + event.angleDelta().y() / 24) % 360)
        else:
            self.turn_by(1 if event.angleDelta().y() > 0 else -1)

    def _angle_at(self, point: QPointF) -> float:
        c = self._centre()
        return math.degrees(math.atan2(point.x() - c.x(), c.y() - point.y())) % 360

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self._was_clicked = False

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._was_clicked = True
        found = self._reading_at(event.position())
        if found is not None:
            self.figure_chosen.emit(found)
            return
        self._dragging = self._shown is not None and self._shown.angle_deg is not None
        self._go_toward(event.position())

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self.turned.emit(self._angle_at(event.position()))

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._dragging:
            self._dragging = False
            self._go_toward(event.position())

    def _go_toward(self, point: QPointF) -> None:
        """Choose the marked angle nearest to a point."""
        angle = self._angle_at(point)
        if self._places:
            self.chosen.emit(min(self._places, key=lambda p: abs((p[1] - angle + 180) % 360 - 180))[0])

    def _reading_at(self, point: QPointF) -> int | None:
        if self._shown is None or self._group is None or self._group.turn is None:
            return None
        points = dict(self._group.points)
        radius = self._radius()
        for key, angle in self._places:
            if angle in points:
                spot = self._at(angle, BASE * radius + self._scale * (points[angle] - self._group.turn.mean))
                if math.hypot(spot.x() - point.x(), spot.y() - point.y()) < 7:
                    standing = [
                        r for r in self._shown.readings() if r.taken.place == key and r.struck is None
                    ]
                    return standing[-1].id if standing else None
        return None


def two_figures(value: float) -> float:
    """Two figures."""
    return float(f"{value:.2g}")


def _lobes(turn: Turn, noise_mm: float, count: int, system: UnitSystem) -> str:
    """Two or three lobes where they stand three times out of what so many readings' noise makes."""
    best = max(((abs(v), k) for k, v in enumerate(turn.vectors[1:], start=2)), default=(0.0, 0))
    if best[0] < 3 * noise_mm * math.sqrt(2 / count):
        return ""
    return f", {'two' if best[1] == 2 else 'three'} lobes {show_small(2 * best[0], system, unit=False)}"
