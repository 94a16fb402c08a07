"""Change gears: the train in use drawn to scale, every other one that cuts the lead, finer feeds."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from fractions import Fraction

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.painted_rows import PaintedRows
from trebb.app.look.widgets import column, label, scrolled
from trebb.app.making.base import OperationView, Setting
from trebb.app.window.session import Session
from trebb.core.dual_units import in_units
from trebb.core.gears.trains import Banjo, Train, exact_lead, finer_feeds, transposing
from trebb.core.machine import State
from trebb.core.machine.workshop import banjo_of
from trebb.core.making.operations import Operation
from trebb.core.threads import Form, ThreadSpec
from trebb.core.units import UnitSystem, show_size, show_small
from trebb.logbook.log.entries import PartSet

ERROR_OVER_MM, ERROR_OVER_INCH_MM = 300.0, 304.8
USUAL_FEED_MM = 0.10  # of an old lathe's finest, where none is stated
FEED_TRAIN = Fraction(1, 2)  # that it is counted with
ROW = 26.0


class GearsView(OperationView):
    """The train in use, drawn; every other train that cuts the lead, with its error."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column(spacing=6)
        self.setLayout(box)
        self.picture = TrainPicture()
        box.addWidget(self.picture, 3)
        self.rule = label("", wrap=True)
        box.addWidget(self.rule)
        self.rows = TrainRows()
        self.rows.chosen.connect(self._choose)
        box.addWidget(scrolled(self.rows), 2)
        self.feeds = label("", "soft", wrap=True)
        box.addWidget(self.feeds)

    def _choose(self, words: str) -> None:
        self.session.record(PartSet(part=self.case.part_name("screw"), field="train", value=words))

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        case, system = self.case, self.session.system
        shop, spec = case.workshop, case.made_drive.thread
        trains, ppm = case.trains()
        train = case.train()
        banjo = banjo_of(shop)
        self.picture.show_train(train, banjo, spec)
        self.rows.show_trains(trains, train, spec, system)
        inch_lead = exact_lead(spec.lead_mm) % 1 != 0 and spec.pitch_words.endswith("tpi")
        other = inch_lead != shop.lead_screw_inch
        words = (
            transposing(shop.wheels, inch_screw=shop.lead_screw_inch, found_exact=ppm == 0) if other else ""
        )
        if train is None:
            self.rule.setText(
                f"No train of these wheels cuts {show_size(spec.lead_mm, system)}. {words} List more wheels "
                "at Intake."
            )
            return ()
        found = "Exact." if ppm == 0 else f"None is exact: the nearest are within {ppm:.0f} ppm."
        if train.trouble:
            found += f" It does not go on: {train.trouble}."
        hand = (
            "Left hand: one idler more, or the tumbler over."
            if spec.hand.value == "left"
            else "Idlers do not count; they only turn the hand."
        )
        self.rule.setText(" ".join(w for w in (found, words, hand) if w))
        over = ERROR_OVER_INCH_MM if system is UnitSystem.INCH else ERROR_OVER_MM
        settings: list[Setting] = [
            ("Gearbox at", str(shop.gear_ratio), False),
            ("Train", train.words, True),
            ("Lead cut", show_size(train.pitch_mm, system), False),
            (
                "Error",
                "none" if abs(train.error_ppm) < 0.01 else f"{train.error_ppm:+.0f} ppm".replace("-", "−"),
                False,
            ),
            (f"In {over_words(system)}", show_small(train.error_mm(over), system, signed=True), False),
        ]
        fine = [
            f"{t.words} for {show_small(feed, system)}"
            for feed, t in finer_feeds(USUAL_FEED_MM, FEED_TRAIN, shop.wheels, banjo)[:3]
        ]
        self.feeds.setText(
            f"Finer feeds by a compound pair, where a train of {FEED_TRAIN.numerator} : "
            f"{FEED_TRAIN.denominator} gives {show_small(USUAL_FEED_MM, system)} a turn: {'; '.join(fine)}."
            if fine
            else ""
        )
        return settings


def over_words(system: UnitSystem) -> str:
    """The length a train's error is told over."""
    return "12 in" if system is UnitSystem.INCH else "300 mm"


class TrainPicture(painting.Painted, QWidget):
    """Wheels as circles to scale, pitch circles meeting where they mesh."""

    def __init__(self) -> None:
        super().__init__()
        self._train: Train | None = None
        self._banjo, self._spec = Banjo(), ThreadSpec(Form.ACME, 19.05, 3.175)
        self.setMinimumHeight(130)
        self.setToolTip("The train to scale: spindle's stud at the left, lead screw at the right")
        self.setAccessibleName("Change gears")

    def show_train(self, train: Train | None, banjo: Banjo, spec: ThreadSpec) -> None:
        """Show another train."""
        self._train, self._banjo, self._spec = train, banjo, spec
        self.update()

    def wheels(self) -> list[tuple[QPointF, float, str, str]]:
        """Centre and radius in mm, words, and "driver", "driven" or "idler"."""
        t, b = self._train, self._banjo
        if t is None:
            return []
        m = b.module_mm / 2
        screw = QPointF(b.span_mm, 0)
        if t.is_simple:
            a, c = m * t.drivers[0], m * t.driven[0]
            gap = (b.span_mm - a - c) / 2
            found = [(QPointF(0, 0), a, f"{t.drivers[0]}", "driver"), (screw, c, f"{t.driven[0]}", "driven")]
            idler = max(gap, m * 20)  # an idler that fills the gap, or stands above where there is none
            x = ((a + idler) ** 2 - (c + idler) ** 2 + b.span_mm**2) / (2 * b.span_mm)
            high = max((a + idler) ** 2 - x**2, 0.0)
            return [*found, (QPointF(x, -math.sqrt(high)), idler, "idler", "idler")]
        first, second = m * (t.drivers[0] + t.driven[0]), m * (t.drivers[1] + t.driven[1])
        x = (first**2 - second**2 + b.span_mm**2) / (2 * b.span_mm)
        stud = QPointF(x, -math.sqrt(max(first**2 - x**2, 0.0)))
        return [
            (QPointF(0, 0), m * t.drivers[0], f"{t.drivers[0]}", "driver"),
            (stud, m * t.driven[0], f"{t.driven[0]}", "driven"),
            (stud, m * t.drivers[1], f"{t.drivers[1]}", "driver"),
            (screw, m * t.driven[1], f"{t.driven[1]}", "driven"),
        ]

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        wheels = self.wheels()
        if not wheels:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        low_x, high_x = min(c.x() - r for c, r, _, _ in wheels), max(c.x() + r for c, r, _, _ in wheels)
        low_y, high_y = min(c.y() - r for c, r, _, _ in wheels), max(c.y() + r for c, r, _, _ in wheels)
        scale = min((self.width() - 250) / (high_x - low_x), (self.height() - 44) / (high_y - low_y))
        left = self.width() / 2 - scale * (low_x + high_x) / 2
        top = self.height() / 2 + 9 - scale * (low_y + high_y) / 2

        def at(p: QPointF) -> QPointF:
            return QPointF(left + scale * p.x(), top + scale * p.y())

        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        for centre, radius, words, kind in sorted(wheels, key=lambda w: -w[1]):
            spot, r = at(centre), scale * radius
            painter.setBrush(
                theme.colour("blue_wash")
                if kind == "driver"
                else theme.colour("ground")
                if kind == "driven"
                else Qt.BrushStyle.NoBrush
            )
            painter.setPen(painting.dashed_pen("soft", 1.4) if kind == "idler" else painting.pen("ink", 1.6))
            painter.drawEllipse(spot, r, r)
            teeth = int(words) if words.isdigit() else 0
            painter.setPen(painting.pen("soft", 1))
            for k in range(teeth):
                angle = 2 * math.pi * k / teeth
                edge = QPointF(math.cos(angle), math.sin(angle))
                painter.drawLine(spot + edge * (r - 2.5), spot + edge * (r + 1.5))
            painter.setPen(painting.pen("ink", 1.4))
            painter.setBrush(theme.colour("sheet"))
            painter.drawEllipse(spot, 4, 4)
        on_one_stud = len(wheels) == 4
        self._name_wheels(painter, at, wheels, scale, on_one_stud)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        for wheel, words, side in (
            (wheels[0], "spindle’s stud", -1),
            (max(wheels, key=lambda w: w[0].x() if w[3] != "idler" else -1), "lead screw", 1),
        ):
            spot, rim = at(wheel[0]), scale * wheel[1]
            x = spot.x() - rim - 104 if side < 0 else spot.x() + rim + 8
            painter.drawText(
                QRectF(x, spot.y() - 9, 96, 18),
                Qt.AlignmentFlag.AlignRight if side < 0 else Qt.AlignmentFlag.AlignLeft,
                words,
            )

    def _name_wheels(
        self,
        painter: QPainter,
        at: Callable[[QPointF], QPointF],
        wheels: list[tuple[QPointF, float, str, str]],
        scale: float,
        on_one_stud: bool,
    ) -> None:
        for k, (centre, radius, words, kind) in enumerate(wheels):
            spot, r = at(centre), scale * radius
            down = 20 if r > 26 else r + 14
            if on_one_stud and k in (
                1,
                2,
            ):  # two wheels on one stud: the larger is named above both, the smaller at its middle
                larger = radius >= max(wheels[1][1], wheels[2][1])
                down = -r - 11 if larger else 16 if r > 24 else 0
            if down == 0:  # the number stands where the stud is drawn
                painter.setPen(Qt.PenStyle.NoPen)
                painter.setBrush(theme.colour("blue_wash" if kind == "driver" else "ground"))
                painter.drawEllipse(spot, min(r - 4, 12), min(r - 4, 9))
            painter.setPen(theme.colour("soft" if kind == "idler" else "ink"))
            painter.drawText(
                QRectF(spot.x() - 30, spot.y() + down - 9, 60, 18), Qt.AlignmentFlag.AlignCenter, words
            )


class TrainRows(painting.Painted, PaintedRows):
    """Trains as rows: words, error in 300 mm, whether it goes on."""

    is_list = True

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__(ROW)
        self._trains: Sequence[Train] = ()
        self._current = ""
        self._system = UnitSystem.METRIC
        self.setAccessibleName("Trains that cut this lead")
        self.setToolTip("Trains that cut this lead, the most exact first; click, or up and down")

    def show_trains(
        self, trains: Sequence[Train], current: Train | None, spec: ThreadSpec, system: UnitSystem
    ) -> None:
        """Show what was found."""
        self._trains, self._current, self._system = trains[:40], current.words if current else "", system
        self.setMinimumHeight(int(self._row_px * len(self._trains)) + 2)
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = Qt.AlignmentFlag.AlignVCenter
        for i, t in enumerate(self._trains):
            area = self._row_area(i)
            here = t.words == self._current
            if here:
                self._paint_here(painter, area)
            painting.paint_mark(
                painter, QPointF(12, area.center().y()), State.BEYOND if t.trouble else State.WITHIN, 5
            )
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if here else theme.REGULAR))
            painter.drawText(area.adjusted(28, 0, 0, 0), middle, t.words)
            painter.setFont(theme.font(theme.SMALL))
            over = ERROR_OVER_INCH_MM if self._system is UnitSystem.INCH else ERROR_OVER_MM
            off = show_small(t.error_mm(over), self._system, signed=True)
            error = "exact"
            if abs(t.error_ppm) >= 0.01:
                error = f"{t.error_ppm:+.0f} ppm, {off} in {over_words(self._system)}".replace("-", "−")
            painter.drawText(area.adjusted(190, 0, 0, 0), middle, error)
            painter.setPen(theme.colour("beyond" if t.trouble else "soft"))
            room = area.adjusted(area.width() * 0.52, 0, -6, 0)
            words = in_units(t.trouble, self._system) or "meshes and clears"
            painting.write_in(painter, room, middle | Qt.AlignmentFlag.AlignRight, words)

    def _look_at(self, i: int) -> None:
        if 0 <= i < len(self._trains) and self._trains[i].words != self._current:
            self.chosen.emit(self._trains[i].words)

    def _here(self) -> int:
        return next((i for i, t in enumerate(self._trains) if t.words == self._current), 0)
