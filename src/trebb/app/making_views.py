"""What an operation shows beside its words: the train drawn, the starts indexed, the tool in its groove, the nut's thread."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from fractions import Fraction
from functools import partial

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPolygonF
from PySide6.QtWidgets import QButtonGroup, QWidget

from trebb.app import painting, theme
from trebb.app.pass_rows import PassRow, PassRows
from trebb.app.session import Session
from trebb.app.size_scale import SizeScale
from trebb.app.widgets import Mark, button, clear, column, label, row, scrolled
from trebb.core.machine import State
from trebb.core.making.correction import nut_band_mm
from trebb.core.making.gearing import Banjo, Train, banjo_of, exact_lead, finer_feeds, transposing
from trebb.core.making.indexing import indexings
from trebb.core.making.infeed import InfeedScheme
from trebb.core.making.routes import Operation, dial_of
from trebb.core.parts.screw import WORKING_CLEARANCE
from trebb.core.threads import Form, ThreadSpec, flank_clearance, thread_limits, tool_flat_mm
from trebb.core.threads.section import nut_outline, screw_outline
from trebb.core.threads.tooling import largest_shank_mm, pick_up_words, roughing_flat_mm, tap_or_cut, threading_bar
from trebb.core.units import UnitSystem, show_size, show_small
from trebb.logbook.casework import DriveCase
from trebb.logbook.entries import PartSet

Setting = tuple[str, str, bool]  # words, figure, strong
FEELER_MM = 0.05
ERROR_OVER_MM, ERROR_OVER_INCH_MM = 300.0, 304.8
USUAL_FEED_MM = 0.10  # of an old lathe's finest, where none is stated
FEED_TRAIN = Fraction(1, 2)  # that it is counted with
ROW = 26.0


class OperationView(QWidget):
    """A picture that belongs to a kind of operation. It holds no state of the job."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        """Show it; returns what belongs among the settings at the right."""
        raise NotImplementedError

    @property
    def case(self) -> DriveCase:
        """The screw's case: threads are cut for no other."""
        case = self.session.case
        assert isinstance(case, DriveCase)
        return case


# change gears ---------------------------------------------------------------------------------


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
        shop, spec = case.workshop, case.drive.thread
        trains, ppm = case.trains()
        train = case.train()
        banjo = banjo_of(shop)
        self.picture.show_train(train, banjo, spec)
        self.rows.show_trains(trains, train, spec, system)
        inch_lead = exact_lead(spec.lead_mm) % 1 != 0 and spec.pitch_words.endswith("tpi")
        other = inch_lead != shop.lead_screw_inch
        words = transposing(shop.wheels, inch_screw=shop.lead_screw_inch, found_exact=ppm == 0) if other else ""
        if train is None:
            self.rule.setText(f"No train of these wheels cuts {show_size(spec.lead_mm, system)}. {words} List more wheels at Intake.")
            return ()
        found = "Exact." if ppm == 0 else f"None is exact: the nearest are within {ppm:.0f} ppm."
        if train.trouble:
            found += f" It does not go on: {train.trouble}."
        hand = "Left hand: one idler more, or the tumbler over." if spec.hand.value == "left" else "Idlers do not count; they only turn the hand."
        self.rule.setText(" ".join(w for w in (found, words, hand) if w))
        over = ERROR_OVER_INCH_MM if system is UnitSystem.INCH else ERROR_OVER_MM
        settings: list[Setting] = [
            ("Train", train.words, True), ("Lead cut", show_size(train.pitch_mm, system), False), ("Error", "none" if abs(train.error_ppm) < 0.01 else f"{train.error_ppm:+.0f} ppm".replace("-", "−"), False),
            (f"In {over_words(system)}", show_small(train.error_mm(over), system, signed=True), False),
        ]  # fmt: skip
        fine = [f"{t.words} for {show_small(feed, system)}" for feed, t in finer_feeds(USUAL_FEED_MM, FEED_TRAIN, shop.wheels, banjo)[:3]]
        self.feeds.setText(f"Finer feeds by a compound pair, where a train of {FEED_TRAIN.numerator} : {FEED_TRAIN.denominator} gives {show_small(USUAL_FEED_MM, system)} a turn: {'; '.join(fine)}." if fine else "")
        return settings


def over_words(system: UnitSystem) -> str:
    """The length a train's error is told over."""
    return "12 in" if system is UnitSystem.INCH else "300 mm"


class TrainPicture(QWidget):
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
            (QPointF(0, 0), m * t.drivers[0], f"{t.drivers[0]}", "driver"), (stud, m * t.driven[0], f"{t.driven[0]}", "driven"),
            (stud, m * t.drivers[1], f"{t.drivers[1]}", "driver"), (screw, m * t.driven[1], f"{t.driven[1]}", "driven"),
        ]  # fmt: skip

    def paintEvent(self, event: QPaintEvent) -> None:
        wheels = self.wheels()
        if not wheels:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        low_x, high_x = min(c.x() - r for c, r, _, _ in wheels), max(c.x() + r for c, r, _, _ in wheels)
        low_y, high_y = min(c.y() - r for c, r, _, _ in wheels), max(c.y() + r for c, r, _, _ in wheels)
        scale = min((self.width() - 250) / (high_x - low_x), (self.height() - 12) / (high_y - low_y))
        left = self.width() / 2 - scale * (low_x + high_x) / 2
        top = self.height() / 2 - scale * (low_y + high_y) / 2

        def at(p: QPointF) -> QPointF:
            return QPointF(left + scale * p.x(), top + scale * p.y())

        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        seen: dict[tuple[float, float], int] = {}
        for centre, radius, words, kind in sorted(wheels, key=lambda w: -w[1]):
            spot, r = at(centre), scale * radius
            painter.setBrush(theme.colour("blue_wash") if kind == "driver" else theme.colour("ground") if kind == "driven" else Qt.BrushStyle.NoBrush)
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
            key = (round(spot.x()), round(spot.y()))
            place = seen.get(key, 0)
            seen[key] = place + 1
            painter.setPen(theme.colour("soft" if kind == "idler" else "ink"))
            # The larger of two on one stud is named at its rim, the smaller at its middle.
            spot_words = spot + (QPointF(0, -r + 16 if r > 34 else -r - 11) if place == 0 and len(wheels) == 4 and kind != "idler" and sum(abs(w[0].x() - centre.x()) < 1e-6 for w in wheels) > 1 else QPointF(0, 20 if r > 26 else r + 14))
            painter.drawText(QRectF(spot_words.x() - 30, spot_words.y() - 9, 60, 18), Qt.AlignmentFlag.AlignCenter, words)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        for wheel, words, side in ((wheels[0], "spindle’s stud", -1), (max(wheels, key=lambda w: w[0].x() if w[3] != "idler" else -1), "lead screw", 1)):
            spot, rim = at(wheel[0]), scale * wheel[1]
            x = spot.x() - rim - 104 if side < 0 else spot.x() + rim + 8
            painter.drawText(QRectF(x, spot.y() - 9, 96, 18), Qt.AlignmentFlag.AlignRight if side < 0 else Qt.AlignmentFlag.AlignLeft, words)


class TrainRows(QWidget):
    """Trains as rows: words, error in 300 mm, whether it goes on."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._trains: Sequence[Train] = ()
        self._current = ""
        self._system = UnitSystem.METRIC
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName("Trains that cut this lead")
        self.setToolTip("Trains that cut this lead, the most exact first; click, or up and down")

    def show_trains(self, trains: Sequence[Train], current: Train | None, spec: ThreadSpec, system: UnitSystem) -> None:
        """Show what was found."""
        self._trains, self._current, self._system = trains[:40], current.words if current else "", system
        self.setMinimumHeight(int(ROW * len(self._trains)) + 2)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle = Qt.AlignmentFlag.AlignVCenter
        for i, t in enumerate(self._trains):
            area = QRectF(0, i * ROW, self.width(), ROW - 2)
            here = t.words == self._current
            if here:
                painter.fillRect(area, theme.colour("blue_wash"))
                if self.hasFocus():
                    painter.setPen(painting.pen("blue", 2))
                    painter.drawRect(area.adjusted(1, 1, -1, -1))
            painting.paint_mark(painter, QPointF(12, area.center().y()), State.BEYOND if t.trouble else State.WITHIN, 5)
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if here else theme.REGULAR))
            painter.drawText(area.adjusted(28, 0, 0, 0), middle, t.words)
            painter.setFont(theme.font(theme.SMALL))
            error = "exact" if abs(t.error_ppm) < 0.01 else f"{t.error_ppm:+.0f} ppm, {show_small(t.error_mm(ERROR_OVER_INCH_MM if self._system is UnitSystem.INCH else ERROR_OVER_MM), self._system, signed=True)} in {over_words(self._system)}".replace("-", "−")
            painter.drawText(area.adjusted(190, 0, 0, 0), middle, error)
            painter.setPen(theme.colour("beyond" if t.trouble else "soft"))
            room = area.adjusted(area.width() * 0.52, 0, -6, 0)
            painter.drawText(room, middle | Qt.AlignmentFlag.AlignRight, painter.fontMetrics().elidedText(t.trouble or "meshes and clears", Qt.TextElideMode.ElideRight, int(room.width())))

    def _look_at(self, i: int) -> None:
        if 0 <= i < len(self._trains) and self._trains[i].words != self._current:
            self.chosen.emit(self._trains[i].words)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._look_at(int(event.position().y() // ROW))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        by = {Qt.Key.Key_Up: -1, Qt.Key.Key_Down: 1}.get(Qt.Key(event.key()))
        if by is None:
            super().keyPressEvent(event)
            return
        at = next((i for i, t in enumerate(self._trains) if t.words == self._current), 0)
        self._look_at(at + by)


# starts ---------------------------------------------------------------------------------------


class StartsView(OperationView):
    """The screw's end with its starts, and every way to come from one to the next."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = row(spacing=16)
        self.setLayout(box)
        self.picture = _StartsPicture()
        box.addWidget(self.picture, 2)
        inner = QWidget()
        self._rows = column(spacing=8)
        inner.setLayout(self._rows)
        box.addWidget(scrolled(inner), 5)

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        case, system = self.case, self.session.system
        spec = case.drive.thread
        self.picture.show_starts(spec.starts)
        clear(self._rows)
        for way in indexings(exact_lead(spec.lead_mm), spec.starts, dial_of(case.workshop), case.train(), system):
            line = row(spacing=10)
            line.addWidget(Mark(State.WITHIN if way.is_possible else State.BEYOND))
            words = column(spacing=0)
            words.addWidget(label(way.title, "strong"))
            words.addWidget(label(way.how, "" if way.is_possible else "soft", wrap=True))
            line.addLayout(words, 1)
            self._rows.addLayout(line)
        self._rows.addStretch(1)
        return (("Starts", str(spec.starts), True), ("Start to start", show_size(spec.pitch_mm, system), True), ("Lead", show_size(spec.lead_mm, system), False), ("Spindle turns to index", f"{360 / spec.starts:g}°", False))


class _StartsPicture(QWidget):
    """The end of the screw with a mark for each start."""

    def __init__(self) -> None:
        super().__init__()
        self._starts = 2
        self.setMinimumSize(120, 120)
        self.setToolTip("The starts at the screw's end")

    def show_starts(self, starts: int) -> None:
        """Show another number."""
        self._starts = starts
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle, r = QPointF(self.width() / 2, min(self.height(), 240) / 2), min(self.width(), self.height(), 230) / 2 - 18
        painter.setPen(painting.pen("ink", 1.6))
        painter.setBrush(theme.colour("metal"))
        painter.drawEllipse(middle, r, r)
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        for k in range(self._starts):
            angle = 2 * math.pi * k / self._starts - math.pi / 2
            out = QPointF(math.cos(angle), math.sin(angle))
            across = QPointF(-out.y(), out.x())
            painter.setBrush(theme.colour("sheet"))
            painter.drawPolygon(QPolygonF([middle + out * (r + 1) + across * 9, middle + out * (r * 0.78) + across * 5, middle + out * (r * 0.78) - across * 5, middle + out * (r + 1) - across * 9]))
            spot = middle + out * (r * 0.5)
            painter.drawText(QRectF(spot.x() - 12, spot.y() - 10, 24, 20), Qt.AlignmentFlag.AlignCenter, str(k + 1))


# the tool -------------------------------------------------------------------------------------


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
        spec, limits = case.drive.thread, thread_limits(case.drive.thread)
        flat = tool_flat_mm(spec, limits.allowance_mm, axial_play_mm=limits.axial_play_mm.low_mm)
        narrower = float(case.job.part_facts(case.part_name("screw")).get("rough_narrower", 0.0))
        rough = roughing_flat_mm(spec, narrower)
        self.picture.show_tool(spec, flat, rough, system)
        self.pick_up.setText("Picking it up with the finisher: " + pick_up_words(spec, FEELER_MM, system))
        clear_ = flank_clearance(spec, WORKING_CLEARANCE)
        degrees = [f"{math.degrees(a):.1f}°".replace("-", "−") for a in (clear_.leading, clear_.trailing)]
        return (
            ("Rougher’s flat", show_size(rough, system), True), ("Finisher’s flat", show_size(flat, system), True), ("Included angle", f"{2 * math.degrees(spec.form.half_angle):.1f}°", False),
            (f"Clearance, {clear_.leading_side} side", degrees[0], False), (f"Clearance, {clear_.trailing_side} side", degrees[1], False),
            ("Rough to", show_size(spec.depth_mm - 0.1, system), False),
        )  # fmt: skip


class ToolPicture(QWidget):
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

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._spec is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        half = self.width() * 0.56
        self._in_groove(painter, self._spec, QRectF(0, 0, half, self.height()))
        self._from_front(painter, self._spec, QRectF(half, 0, self.width() - half, self.height()))

    def _in_groove(self, painter: QPainter, spec: ThreadSpec, area: QRectF) -> None:
        limits = thread_limits(spec)
        above = 0.7 * spec.depth_mm
        scale = min((area.width() - 20) / (2 * spec.pitch_mm), (area.height() - 34) / (spec.depth_mm + above + 0.4 * spec.pitch_mm))
        left, top = area.center().x() - scale * spec.pitch_mm, area.top() + 18 + scale * above
        points = [QPointF(left + scale * (x - 0.5 * spec.pitch_mm), top + scale * d) for x, d in screw_outline(spec, limits.screw_pitch.middle_mm, 0.0, 0.0, 3)]
        floor = top + scale * (spec.depth_mm + 0.35 * spec.pitch_mm)
        clip = QRectF(left, area.top() + 16, scale * 2 * spec.pitch_mm, floor - area.top() - 16)
        painter.save()
        painter.setClipRect(clip)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("metal"))
        painter.drawPolygon(QPolygonF([QPointF(points[0].x(), floor), *points, QPointF(points[-1].x(), floor)]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(painting.pen("within", 1.8))
        painter.drawPolyline(QPolygonF(points))
        slope = math.tan(spec.form.half_angle)
        middle = left + scale * spec.pitch_mm
        for flat, pen, fill in ((self._flat, painting.dashed_pen("soft", 1.4), None), (self._rough, painting.pen("blue", 1.8), "blue_wash")):
            wide = flat / 2 + (spec.depth_mm + above) * slope
            tool = QPolygonF([QPointF(middle - scale * flat / 2, top + scale * spec.depth_mm), QPointF(middle + scale * flat / 2, top + scale * spec.depth_mm), QPointF(middle + scale * wide, top - scale * above), QPointF(middle - scale * wide, top - scale * above)])
            painter.setPen(pen)
            painter.setBrush(theme.colour(fill) if fill else Qt.BrushStyle.NoBrush)
            painter.drawPolygon(tool)
        painter.restore()
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("blue"))
        painter.drawText(QRectF(area.left() + 8, area.top(), area.width(), 16), Qt.AlignmentFlag.AlignLeft, f"rougher, flat {show_size(self._rough, self._system)}")
        painter.setPen(theme.colour("soft"))
        painter.drawText(QRectF(area.left(), area.bottom() - 16, area.width(), 16), Qt.AlignmentFlag.AlignHCenter, f"dashed: finisher, flat {show_size(self._flat, self._system)}")

    def _from_front(self, painter: QPainter, spec: ThreadSpec, area: QRectF) -> None:
        """The tool's section looking along its shank: its sides lean with the helix."""
        found = flank_clearance(spec, WORKING_CLEARANCE)
        left_angle, right_angle = (found.leading, found.trailing) if found.leading_side == "headstock" else (found.trailing, found.leading)
        tall = area.height() - 66
        top = QPointF(area.center().x(), area.top() + 30)
        wide = min(44.0, area.width() / 5)
        corner = [QPointF(top.x() - wide, top.y()), QPointF(top.x() + wide, top.y()), QPointF(top.x() + wide - tall * math.tan(right_angle), top.y() + tall), QPointF(top.x() - wide + tall * math.tan(left_angle), top.y() + tall)]
        painter.setPen(painting.dashed_pen("soft", 1.2))
        for x in (-wide, wide):
            painter.drawLine(QPointF(top.x() + x, top.y() - 8), QPointF(top.x() + x, top.y() + tall + 6))
        painter.setPen(painting.pen("ink", 1.6))
        painter.setBrush(theme.colour("blue_wash"))
        painter.drawPolygon(QPolygonF(corner))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        lean = math.tan(spec.lead_angle(spec.pitch_dia_mm)) * (1 if spec.hand.value == "right" else -1)
        painter.setPen(painting.pen("within", 1.6))
        painter.drawLine(QPointF(top.x() + lean * -26, top.y() - 18), QPointF(top.x() + lean * (tall + 10), top.y() + tall + 10))
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        for angle, x, align in ((left_angle, top.x() - wide - 62, Qt.AlignmentFlag.AlignRight), (right_angle, top.x() + wide + 4, Qt.AlignmentFlag.AlignLeft)):
            painter.drawText(QRectF(x, top.y() + tall / 2 - 9, 58, 18), align, f"{math.degrees(angle):.1f}°".replace("-", "−"))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(QRectF(area.left(), area.top(), area.width(), 16), Qt.AlignmentFlag.AlignHCenter, "headstock side      tailstock side")
        painter.drawText(QRectF(area.left(), area.bottom() - 16, area.width(), 16), Qt.AlignmentFlag.AlignHCenter, "from the front; green: the thread’s lead")


# the nut --------------------------------------------------------------------------------------


CHECKS = {"plug": ("By a plug", "The largest of stepped plugs, cut to known pitch diameters, that goes"), "screw": ("By its screw", "Play on the screw it is for: the mating part is the gauge"), "balls": ("Between balls", "Two balls in opposite grooves, a bore gauge between them")}


class NutThreadView(OperationView):
    """The nut's thread in section with its bar; by what it is checked; the passes left."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column(spacing=6)
        self.setLayout(box)
        line = row(spacing=6)
        line.addWidget(label("Checked", "strong"))
        group = QButtonGroup(self)
        self.checks = {}
        for key, (words, tip) in CHECKS.items():
            chip = button(words, partial(self._check, key), tip=tip, kind="chip", name=f"check_{key}")
            chip.setCheckable(True)
            group.addButton(chip)
            line.addWidget(chip)
            self.checks[key] = chip
        line.addStretch()
        box.addLayout(line)
        self.picture = NutPicture()
        box.addWidget(self.picture, 3)
        self.bar = label("", "soft", wrap=True)
        box.addWidget(self.bar)
        self.scale = SizeScale()
        box.addWidget(self.scale)
        self.passes = PassRows()
        box.addWidget(self.passes, 2)

    def _check(self, key: str) -> None:
        self.session.record(PartSet(part=self.case.part_name("nut"), field="check", value=key))

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        case, system = self.case, self.session.system
        spec = case.drive.thread
        by_balls = case.nut_check == "balls"
        for key in ("balls", "plug"):
            self.checks[key].setEnabled(spec.form is not Form.SQUARE)
        self.checks[case.nut_check].setChecked(True)
        inputs = case.part_inputs("nut")
        from trebb.core.parts.nut import nut_pitch_dia_mm

        target = nut_pitch_dia_mm(inputs)
        self.picture.show_nut(spec, target, case.nut_pitch_dia(), system)
        length = case.part("nut").length_mm
        stiff = threading_bar(spec, length, "bronze") if largest_shank_mm(spec) >= 3 else None
        self.bar.setText(f"{tap_or_cut(stiff, spec, length, system)} The cut goes outward, toward you.")
        self.scale.setVisible(case.nut_check != "screw")
        if case.nut_check != "screw":
            self.scale.show_sizes(case.sizes_of("nut", "nut_thread"), nut_band_mm(case.drive, target, case.ball_mm if by_balls else None), system)
        scheme = InfeedScheme[str(self.session.job.part_facts(case.part_name("screw")).get("infeed", InfeedScheme.COMPOUND.name))]
        passes = case.passes(scheme, nut=True)
        self.passes.show_rows([
            PassRow(f"pass {p.number}", "no infeed: spring pass" if p.is_spring else "outward", "" if p.is_spring else show_small(p.step_mm, system), "" if p.is_spring else f"depth {show_size(p.cross_mm, system, unit=False)}", "")
            for p in passes
        ])  # fmt: skip
        settings: list[Setting] = []
        if by_balls:
            settings.append(("Balls", show_size(case.ball_mm, system), True))
        if stiff is not None:
            settings += [("Bar, at most", show_size(stiff.shank_mm, system), False), ("Reach", show_size(stiff.overhang_mm, system), False), ("Swing of bar and tip", show_size(stiff.swing_mm, system), False)]
        return settings


class NutPicture(QWidget):
    """Three grooves of the nut in section: finished, and as it now is."""

    def __init__(self) -> None:
        super().__init__()
        self._spec: ThreadSpec | None = None
        self._target = 0.0
        self._now: float | None = None
        self._system = UnitSystem.METRIC
        self.setMinimumHeight(96)
        self.setToolTip("The nut's thread in section, bore side down, to scale")

    def show_nut(self, spec: ThreadSpec, target_mm: float, now_mm: float | None, system: UnitSystem) -> None:
        """Show the nut to be cut to a pitch diameter, and as it stands."""
        self._spec, self._target, self._now, self._system = spec, target_mm, now_mm, system
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        if self._spec is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        spec = self._spec
        deep = (spec.nut_major_min_mm - spec.nut_minor_mm) / 2
        scale = min((self.width() - 20) / (3 * spec.pitch_mm), (self.height() - 30) / (deep + 0.4 * spec.pitch_mm))
        left = self.width() / 2 - scale * 1.5 * spec.pitch_mm
        top = 8 + scale * (0.3 * spec.pitch_mm + spec.clearance_dia_mm / 2)
        roof = top - scale * (0.3 * spec.pitch_mm + spec.clearance_dia_mm / 2)
        clip = QRectF(left, roof, scale * 3 * spec.pitch_mm, self.height() - roof - 18)
        slope = math.tan(spec.form.half_angle)

        def points(pitch_dia: float) -> list[QPointF]:
            play = (pitch_dia - spec.pitch_dia_mm) * slope
            return [QPointF(left + scale * x, top + scale * d) for x, d in nut_outline(spec, spec.pitch_dia_mm, play, 3)]

        painter.save()
        painter.setClipRect(clip)
        shape = points(self._target)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("metal"))
        painter.drawPolygon(QPolygonF([QPointF(shape[0].x(), roof - 4), *shape, QPointF(shape[-1].x(), roof - 4)]))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(painting.pen("within", 1.8))
        painter.drawPolyline(QPolygonF(shape))
        if self._now is not None:
            painter.setPen(painting.dashed_pen("blue", 1.6))
            painter.drawPolyline(QPolygonF(points(self._now)))
        painter.restore()
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("within"))
        painter.drawText(QPointF(left + 4, self.height() - 4), f"finished: pitch diameter {show_size(self._target, self._system)}")
        if self._now is not None:
            painter.setPen(theme.colour("blue"))
            left_to_go = (self._target - self._now) / 2
            painter.drawText(QRectF(left, self.height() - 18, scale * 3 * spec.pitch_mm - 4, 18), Qt.AlignmentFlag.AlignRight, f"now: {show_small(left_to_go, self._system)} to go on radius" if left_to_go > 0.002 else "now: there")


def make_operation_view(kind: str, session: Session) -> OperationView | None:
    """The view of an operation's kind; None where words are enough."""
    views: dict[str, Callable[[Session], OperationView]] = {"gears": GearsView, "index": StartsView, "tool": ToolView, "nut_thread": NutThreadView}
    return views[kind](session) if kind in views else None
