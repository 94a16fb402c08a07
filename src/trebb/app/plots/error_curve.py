"""What the slide does less what its screw's turns say, along the travel and within one turn."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.views.plane import Plane, spread_of
from trebb.core.condition import Estimate, Quantity
from trebb.core.families.screw_drive.screw_lash import error_of, lead_is_read
from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive
from trebb.core.units import UnitSystem, show_small, size_unit, small_unit

POINTS = 60
TURN_POINTS = 24
TURN_SHARE = 0.30  # of the width, for the one turn


class ErrorCurve(painting.Painted, QWidget):
    """The curve with its 95 % band, what was read as points, today's as a ghost behind a prediction."""

    def __init__(self) -> None:
        super().__init__()
        self._drive = ScrewDrive()
        self._now: Estimate | None = None
        self._ghost: Estimate | None = None
        self._read: Sequence[tuple[float, float]] = ()
        self._turn: Sequence[tuple[float, float]] = ()
        self._system = UnitSystem.METRIC
        self.setMinimumSize(260, 110)
        self.setAccessibleName("Dial against slide")
        self.setToolTip("Above the line the slide goes further than its screw’s turns say")

    def show_error(
        self,
        drive: ScrewDrive,
        now: Estimate,
        system: UnitSystem,
        *,
        read: Sequence[tuple[float, float]] = (),
        turn: Sequence[tuple[float, float]] = (),
        ghost: Estimate | None = None,
    ) -> None:
        """Show a condition; `read` and `turn` are readings as (mm or share of a turn, mm)."""
        self._drive, self._now, self._system, self._read, self._turn, self._ghost = (
            drive,
            now,
            system,
            read,
            turn,
            ghost,
        )
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._now is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not lead_is_read(self._drive, self._now) and not self._read:
            painter.setPen(theme.colour("soft"))
            painter.setFont(theme.font())
            painter.drawText(
                QRectF(self.rect()),
                Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
                "Not read: the dial against a readout or gauge blocks, at Survey.",
            )
            return
        (x_name, x_mm), (y_name, y_mm) = size_unit(self._system), small_unit(self._system)
        drive = self._drive
        ways = [drive.travel_mm * i / POINTS for i in range(POINTS + 1)]
        start = drive.station_mm(STATIONS // 2 + 1)
        lead = drive.thread.lead_mm
        here = self._errors(self._now, ways)
        turn = self._errors(self._now, [start + lead * i / TURN_POINTS for i in range(TURN_POINTS + 1)])
        zero = turn[0].value
        sizes = (
            [q.low / y_mm for q in here]
            + [q.high / y_mm for q in here]
            + [v / y_mm for _, v in self._read]
            + [0.0]
        )
        split = self.width() * (1 - TURN_SHARE)
        plane = Plane(
            QRectF(54, 24, split - 76, self.height() - 64),
            (0, drive.travel_mm / x_mm),
            spread_of(sizes, 0.03 / y_mm),
        )
        plane.grid(painter, f"along the travel, {x_name}", f"slide less turns, {y_name}", ticks=4)
        self._zero(painter, plane)
        if self._ghost is not None:
            painter.setPen(painting.dashed_pen("soft", 1.4))
            painter.drawPolyline(
                QPolygonF(
                    [
                        plane.at(x / x_mm, q.value / y_mm)
                        for x, q in zip(ways, self._errors(self._ghost, ways), strict=True)
                    ]
                )
            )
        self._band(painter, plane, [x / x_mm for x in ways], here, y_mm)
        self._points(painter, plane, [(x / x_mm, v / y_mm) for x, v in self._read])
        self._name_worst(painter, ways, here, plane, x_mm, y_mm)
        self._draw_turn(painter, drive, lead, here, turn, zero, split, y_name, y_mm)

    def _draw_turn(
        self,
        painter: QPainter,
        drive: ScrewDrive,
        lead: float,
        here: list[Quantity],
        turn: list[Quantity],
        zero: float,
        split: float,
        y_name: str,
        y_mm: float,
    ) -> None:
        once = [
            (q.value - zero - (here[-1].value - here[0].value) * i / TURN_POINTS * lead / drive.travel_mm)
            / y_mm
            for i, q in enumerate(turn)
        ]
        area = QRectF(split + 34, 24, self.width() - split - 44, self.height() - 64)
        small = Plane(
            area, (0, 360), spread_of([*once, *(v / y_mm for _, v in self._turn), 0.0], 0.03 / y_mm)
        )
        small.grid(painter, "one turn, °", y_name, ticks=3)
        self._zero(painter, small)
        painter.setPen(painting.pen("blue", 2))
        painter.drawPolyline(QPolygonF([small.at(360 * i / TURN_POINTS, v) for i, v in enumerate(once)]))
        self._points(painter, small, [(360 * a, v / y_mm) for a, v in self._turn])

    def _name_worst(
        self,
        painter: QPainter,
        ways: list[float],
        here: list[Quantity],
        plane: Plane,
        x_mm: float,
        y_mm: float,
    ) -> None:
        worst = max(range(len(here)), key=lambda i: abs(here[i].value))
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("blue"))
        spot = plane.at(ways[worst] / x_mm, here[worst].value / y_mm)
        painting.words_on(
            painter,
            QPointF(
                min(spot.x() + 6, plane.area.right() - 70), spot.y() + (-8 if here[worst].value > 0 else 18)
            ),
            f"{show_small(here[worst].value, self._system, signed=True)} ± "
            f"{show_small(here[worst].half_width, self._system, unit=False)}",
        )

    def _errors(self, now: Estimate, ways: Sequence[float]) -> list[Quantity]:
        return [error_of(self._drive, now, way) for way in ways]

    def _zero(self, painter: QPainter, plane: Plane) -> None:
        if plane.y[0] < 0 < plane.y[1]:
            painter.setPen(painting.pen("ink", 1))
            painter.drawLine(plane.at(plane.x[0], 0), plane.at(plane.x[1], 0))

    def _band(
        self, painter: QPainter, plane: Plane, x: Sequence[float], curve: Sequence[Quantity], y_mm: float
    ) -> None:
        edge = [plane.at(a, q.high / y_mm) for a, q in zip(x, curve, strict=True)] + [
            plane.at(a, q.low / y_mm) for a, q in reversed(list(zip(x, curve, strict=True)))
        ]
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(painting.wash("blue"))
        painter.drawPolygon(QPolygonF(edge))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(painting.pen("blue", 2))
        painter.drawPolyline(QPolygonF([plane.at(a, q.value / y_mm) for a, q in zip(x, curve, strict=True)]))

    def _points(self, painter: QPainter, plane: Plane, points: Sequence[tuple[float, float]]) -> None:
        painter.setPen(painting.pen("ink", 1.4))
        painter.setBrush(theme.colour("sheet"))
        for x, y in points:
            painter.drawEllipse(plane.at(x, y), 3.2, 3.2)
        painter.setBrush(Qt.BrushStyle.NoBrush)
