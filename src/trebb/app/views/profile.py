"""Readings that chain along the bed: rows, and the profile they make so far."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF

from trebb.app.look import painting, theme
from trebb.app.views.base import Shown
from trebb.app.views.plane import Curve, Plane, spread_of
from trebb.app.views.rows import WithRows
from trebb.core.families.bed.levels import profiles
from trebb.core.units import size_unit, slope_unit, small_unit

ROLES = ("blue", "ink", "soft")


class ProfileView(WithRows):
    """Rows above, the profiles below them."""

    def __init__(self) -> None:
        super().__init__()
        self.curve = _Profiles()
        self.curve.chosen_by = self.chosen.emit
        self.curve.setMinimumHeight(112)
        self.beside(self.curve, rows=5, picture_share=4, below=True)

    def show_readings(self, shown: Shown) -> None:
        self.rows.show_readings(shown)
        self.curve.show_readings(shown)


class _Profiles(painting.Painted, Curve):
    """Height (or roll) along the bed as read, one curve a way, ends on nothing."""

    def __init__(self) -> None:
        super().__init__("Profile along the bed", "The profile so far; click to read there")

    def places_along(self) -> list[tuple[float, str]]:
        assert self._shown is not None
        bed, (_, x_mm) = self._shown.session.case.subject, size_unit(self._shown.session.system)
        group = self._shown.place.group if self._shown.place is not None else ""
        places = [
            p for p in self._shown.set_up.places(bed) if p.group == group and "turned" not in p.key
        ] or list(self._shown.set_up.places(bed))
        return [(bed.length_mm * (i + 0.5) / len(places) / x_mm, p.key) for i, p in enumerate(places)]

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._shown is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        session = self._shown.session
        bed, system = session.case.subject, session.system
        found, is_roll = profiles(
            self._shown.set_up.key,
            bed,
            session.job.standing(session.assembly, self._shown.set_up.key, self._shown.phase),
        )
        x_name, x_mm = size_unit(system)
        name, unit = slope_unit(system) if is_roll else small_unit(system)
        values = [v / unit for _, points in found for _, v in points] or [0.0]
        area = QRectF(self.rect()).adjusted(52, 22, -62, -38)
        plane = self._plane = Plane(
            area, (0, bed.length_mm / x_mm), spread_of([*values, 0.0], 0.02 / unit if not is_roll else 0.05)
        )
        plane.grid(painter, f"along the bed, {x_name}", f"{'roll' if is_roll else 'height'}, {name}", ticks=4)
        for (words, points), role in zip(found, ROLES, strict=False):
            line = [plane.at(x / x_mm, v / unit) for x, v in points]
            painter.setPen(painting.pen(role, 2))
            painter.drawPolyline(QPolygonF(line))
            painter.setBrush(theme.colour("sheet"))
            for point in line:
                painter.drawEllipse(point, 3, 3)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
            painter.setPen(theme.colour(role))
            far = max(range(len(points)), key=lambda i: abs(points[i][1]))
            painting.words_on(painter, line[far] + QPointF(8, -4 if points[far][1] > 0 else 14), words)
        if not found:
            painter.setPen(theme.colour("soft"))
            painter.setFont(theme.font())
            painter.drawText(area, Qt.AlignmentFlag.AlignCenter, "two steps side by side make a profile")
