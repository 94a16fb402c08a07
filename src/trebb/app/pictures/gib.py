"""A gib as a long wedge in its slot, gaps drawn larger; dragged in to see how far it tightens and which end
stays loose.
"""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import button, column, label, row
from trebb.app.pictures.base import CasePicture, Leaves, OutcomePlot
from trebb.app.window.session import Session
from trebb.core.condition import Estimate
from trebb.core.families.gib.findings import gaps_of, plays, read_plays
from trebb.core.families.gib.subject import ENDS, SPOTS, Slide
from trebb.core.gibs import Gaps
from trebb.core.machine import State, state_of
from trebb.core.units import UnitSystem, show_size, show_small
from trebb.logbook.cases.gib_case import GibCase

FEED_STEP_MM = 0.25
GAP_PX = 260.0  # of a millimetre of gap
IRON_PX = 4.6  # of a millimetre of iron, where there is height for it


class GibPicture(CasePicture):
    """The wedge, what is said of it, and the measures where a remedy is looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        wedge = QWidget()
        inside = column(spacing=4)
        wedge.setLayout(inside)
        self.wedge = WedgeCanvas()
        self.wedge.fed.connect(self._say)
        inside.addWidget(self.wedge, 1)
        line = row(spacing=8)
        self.said = label("", "strong", wrap=True)
        line.addWidget(self.said, 1)
        self.run = button(
            "Feed until it runs",
            self._feed_until,
            tip="Push the drawn gib in until its tighter end runs",
            name="feed_until",
        )
        line.addWidget(self.run)
        line.addWidget(
            button(
                "Back",
                lambda: self.wedge.feed_to(0.0),
                kind="link",
                tip="Draw it back to where it stands",
                name="feed_back",
            )
        )
        inside.addLayout(line)
        self.outcome = OutcomePlot()
        self.leaves = Leaves(
            (
                ("wedge", "Gib", "The gib in its slot; drag it in", wedge),
                ("outcome", "Figures", "Each figure now and then, against its limit", self.outcome),
            )
        )
        box.addWidget(self.leaves)

    def _case(self) -> GibCase:
        case = self.session.case
        assert isinstance(case, GibCase)
        return case

    def _show(self, now: Estimate) -> None:
        case = self._case()
        self.wedge.show_gib(
            case.subject,
            gaps_of(case.subject, now),
            {at: q.value for at, q in plays(case.subject, now).items() if at in read_plays(case.alone)},
            case.job.limit("gib_play").limit_mm,
            self.session.system,
        )
        self._say()

    def show_found(self, *, known: bool) -> None:
        self.leaves.offer("outcome", on=False)
        self._show(self._case().estimate)

    def show_then(self, prediction: Any) -> None:
        self.leaves.offer("outcome", on=True)
        self._show(prediction.after)
        self.outcome.show_outcome(self._case(), prediction, self.session)

    def _feed_until(self) -> None:
        slide, gaps = self.wedge.gib()
        self.wedge.feed_to(max(0.0, gaps.advance_mm(slide.gib)))

    def _say(self) -> None:
        slide, gaps = self.wedge.gib()
        fed, system = self.wedge.fed_mm, self.session.system
        then = gaps.after_advance(slide.gib, fed)
        if fed == 0:
            self.said.setText(
                f"Thin end {show_small(gaps.thin_mm, system)}, thick end {show_small(gaps.thick_mm, system)} "
                "where it runs closest. Drag the gib in."
            )
            return
        where = (
            f"{'In' if fed > 0 else 'Out'} by {show_size(abs(fed), system)}, "
            f"{abs(fed) / slide.screw_pitch_mm:.1f} turns: thin end {show_small(then.thin_mm, system)}, "
            f"thick end {show_small(then.thick_mm, system)}."
        )
        end = (
            " It binds."
            if then.least < 0
            else " More than its screw has left."
            if fed > slide.travel_mm
            else ""
        )
        self.said.setText(where + end)


class WedgeCanvas(painting.Painted, QWidget):
    """The wedge seen on its edge, thin end left. Gaps are drawn much larger than the iron; the factor is
    stated.
    """

    fed = Signal()

    def __init__(self) -> None:
        super().__init__()
        self._slide = Slide()
        self._gaps = Gaps(0.0, 0.0, 0.015)
        self._plays: dict[tuple[str, str], float] = {}
        self._limit_mm = 0.04
        self._system = UnitSystem.INCH
        self._grip: float | None = None
        self.fed_mm = 0.0
        self.setMinimumHeight(124)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.SizeHorCursor)
        self.setAccessibleName("The gib in its slot")
        self.setToolTip("Drag the gib in or out (left and right; Home draws it back)")

    def gib(self) -> tuple[Slide, Gaps]:
        """The slide and its gaps as they stand."""
        return self._slide, self._gaps

    def show_gib(
        self,
        slide: Slide,
        gaps: Gaps,
        plays: dict[tuple[str, str], float],
        limit_mm: float,
        system: UnitSystem,
    ) -> None:
        """Show another state; the gib stands where it stands."""
        if (slide, gaps) != (self._slide, self._gaps):
            self.fed_mm = 0.0
        self._slide, self._gaps, self._plays, self._limit_mm, self._system = (
            slide,
            gaps,
            plays,
            limit_mm,
            system,
        )
        self.update()

    def feed_to(self, mm: float) -> None:
        """Push the drawn gib in (+) or out."""
        self.fed_mm = max(-20.0, min(30.0, mm))
        self.update()
        self.fed.emit()

    # geometry ---------------------------------------------------------------------------------

    def _area(self) -> QRectF:
        return QRectF(66, 8, self.width() - (214 if self._plays else 136), self.height() - 34)

    def _px(self) -> float:
        return self._area().width() / self._slide.length_mm

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        area = self._area()
        then = self._gaps.after_advance(self._slide.gib, self.fed_mm)
        floor = area.bottom() - 26
        iron_px = min(IRON_PX, 0.34 * area.height() / self._slide.gib.thick_mm)
        iron = {"thin": self._slide.thin_mm * iron_px, "thick": self._slide.gib.thick_mm * iron_px}
        room = floor - area.top() - 20 - iron["thick"]
        gap_px = min(GAP_PX, room / max(then.most, 0.02))
        left, right = area.left(), area.right()
        tops = {"thin": floor - iron["thin"], "thick": floor - iron["thick"]}
        face = {"thin": tops["thin"] - gap_px * then.thin_mm, "thick": tops["thick"] - gap_px * then.thick_mm}
        self._dovetail(painter, left, right, floor)
        self._slide_body(painter, left, right, face, area.top())
        self._gap(painter, left, right, tops, face, then)
        shift = -self.fed_mm * self._px()
        stand = self._slide.stand_out_mm * self._px()
        painter.setPen(painting.pen("blue", 1.8))
        painter.setBrush(theme.colour("blue_wash"))
        slope = (tops["thick"] - tops["thin"]) / (right - left)
        ends = (left + shift, right + stand + shift)
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(ends[0], floor),
                    QPointF(ends[1], floor),
                    QPointF(ends[1], tops["thick"] + slope * stand),
                    QPointF(ends[0], tops["thin"]),
                ]
            )
        )
        self._screws(painter, ends, floor)
        self._figures(painter, left, right, tops, face, then)
        self._travel(painter, area)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        times = gap_px / self._px()
        foot = QRectF(4, self.height() - 20, self.width() - 8, 18)
        painting.write_in(
            painter,
            foot,
            Qt.AlignmentFlag.AlignLeft,
            f"gaps drawn × {times:.0f} of its length, at the closest place of the travel; iron × "
            f"{iron_px / self._px():.1f}",
        )

    def _dovetail(self, painter: QPainter, left: float, right: float, floor: float) -> None:
        painter.setPen(painting.pen("ink"))
        painter.setBrush(theme.colour("metal"))
        painter.drawRect(QRectF(left - 40, floor, right - left + 80, 22))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(QRectF(left, floor + 2, right - left, 18), Qt.AlignmentFlag.AlignCenter, "dovetail")

    def _slide_body(
        self, painter: QPainter, left: float, right: float, face: dict[str, float], top: float
    ) -> None:
        painter.setPen(painting.pen("ink"))
        painter.setBrush(theme.colour("metal"))
        high = max(min(top, face["thick"] - 14), face["thick"] - 46)
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(left, high),
                    QPointF(right, high),
                    QPointF(right, face["thick"]),
                    QPointF(left, face["thin"]),
                ]
            )
        )
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(QPointF(left + 8, high + 15), "slide")

    def _gap(
        self,
        painter: QPainter,
        left: float,
        right: float,
        tops: dict[str, float],
        face: dict[str, float],
        then: Gaps,
    ) -> None:
        binds = then.least < 0
        role = "beyond" if binds or then.most > self._limit_mm else "within"
        shade = theme.colour(role)
        shade.setAlphaF(0.30)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(shade)
        painter.drawPolygon(
            QPolygonF(
                [
                    QPointF(left, face["thin"]),
                    QPointF(right, face["thick"]),
                    QPointF(right, tops["thick"]),
                    QPointF(left, tops["thin"]),
                ]
            )
        )

    def _screws(self, painter: QPainter, ends: tuple[float, float], floor: float) -> None:
        painter.setPen(painting.pen("ink"))
        painter.setBrush(theme.colour("sheet"))
        for x, wide in ((ends[0] - 24, 20.0), (ends[1] + 4, 20.0)):
            painter.drawRect(QRectF(x, floor - 26, wide, 16))
            for k in range(1, 4):
                painter.drawLine(QPointF(x + wide * k / 4, floor - 26), QPointF(x + wide * k / 4, floor - 10))

    def _figures(
        self,
        painter: QPainter,
        left: float,
        right: float,
        tops: dict[str, float],
        face: dict[str, float],
        then: Gaps,
    ) -> None:
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        sides = {
            "thin": (QRectF(left - 62, 0, 58, 20), Qt.AlignmentFlag.AlignRight),
            "thick": (QRectF(right + 6, 0, 70, 20), Qt.AlignmentFlag.AlignLeft),
        }
        for end, gap in (("thin", then.thin_mm), ("thick", then.thick_mm)):
            spot, side = sides[end]
            spot.moveTop(
                (tops[end] + face[end]) / 2 - 10
                if abs(tops[end] - face[end]) > 26
                else min(tops[end], face[end]) - 21
            )
            painter.drawText(
                spot, side | Qt.AlignmentFlag.AlignVCenter, show_small(gap, self._system, unit=False)
            )

    def _travel(self, painter: QPainter, area: QRectF) -> None:
        """Play along the travel at both ends, as three short bars with the limit."""
        if not self._plays:
            return
        x0, top, wide = area.right() + 74, area.top() + 22, 28.0
        floor = area.bottom() - 26
        most = max([*self._plays.values(), self._limit_mm]) * 1.1
        scale = (floor - top) / most
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QPointF(x0 - 16, area.top() + 12), f"play, {'thou' if self._system is UnitSystem.INCH else 'µm'}"
        )
        for i, spot in enumerate(SPOTS):
            closed = self.fed_mm / self._slide.ratio
            for j, end in enumerate(ENDS):
                if (end, spot) not in self._plays:  # not read there: no bar
                    continue
                value = self._plays[(end, spot)] - closed
                state = state_of(abs(value), self._limit_mm) if value >= 0 else State.BEYOND
                bar = QRectF(
                    x0 - 16 + i * wide + j * 13, floor - scale * max(value, 0.0), 11, scale * max(value, 0.0)
                )
                painter.setPen(painting.pen("ink", 1))
                shade = theme.colour(theme.state_role(state))
                shade.setAlphaF(0.55 if end == "thin" else 0.9)
                painter.setBrush(shade)
                painter.drawRect(bar)
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                QRectF(x0 - 20 + i * wide, floor + 2, wide, 18), Qt.AlignmentFlag.AlignCenter, spot
            )
        painter.setPen(painting.dashed_pen("within", 1.6))
        y = floor - scale * self._limit_mm
        painter.drawLine(QPointF(x0 - 20, y), QPointF(x0 + 3 * wide - 16, y))

    # hands ------------------------------------------------------------------------------------

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._grip = event.position().x() + self.fed_mm * self._px()
        self.setFocus(Qt.FocusReason.MouseFocusReason)

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        if self._grip is not None:
            self.feed_to((self._grip - event.position().x()) / self._px())

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        self._grip = None

    def keyPressEvent(self, event: QKeyEvent) -> None:
        move = {
            Qt.Key.Key_Left: FEED_STEP_MM,
            Qt.Key.Key_Right: -FEED_STEP_MM,
            Qt.Key.Key_Home: -self.fed_mm,
        }.get(Qt.Key(event.key()))
        if move is None:
            super().keyPressEvent(event)
        else:
            self.feed_to(self.fed_mm + move)
