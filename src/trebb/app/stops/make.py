"""Make: the route, and the thread operation in full."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QApplication,
    QGridLayout,
    QHBoxLayout,
    QProgressBar,
    QStackedWidget,
    QWidget,
)

from trebb.app import theme
from trebb.app.groove_picture import GroovePicture
from trebb.app.making import OperationView, make_operation_view
from trebb.app.part_tabs import PartTabs
from trebb.app.pass_rows import PassRow, PassRows
from trebb.app.route_list import Line, RouteList
from trebb.app.size_scale import SizeScale
from trebb.app.stops.base import DriveStop
from trebb.app.widgets import Banner, LengthEdit, button, clear, column, exclusive, label, row, rule, scrolled
from trebb.core.errors import InputError, TrebbError
from trebb.core.making.correction import (
    nut_sentence,
    pitch_dia_at_depth_mm,
    size_sentence,
    state_sentence,
    thread_state,
    warm_reading_mm,
)
from trebb.core.making.infeed import InfeedScheme, Pass, run_out_mm, spindle_rpm
from trebb.core.making.routes import Operation, SizeTarget, lathe_dial_rule, material_of, minutes_left
from trebb.core.parts.nut import WANTED_PLAY_MM, nut_pitch_dia_mm
from trebb.core.threads import Form, Hand, flank_clearance, size_over_wires_mm, thread_limits, tool_flat_mm
from trebb.core.threads.wires import pitch_dia_from_balls_mm
from trebb.core.units import UnitSystem, parse_length, show_minutes, show_size, show_sizes, show_small
from trebb.logbook.casework import DriveCase
from trebb.logbook.entries import PartSet, SizeStruck, SizeTaken, StepDone

if TYPE_CHECKING:
    from trebb.app.frame import Frame

WHY = {
    InfeedScheme.STRAIGHT: "Straight in: shallow threads and small tools; both flanks cut, the chip jams in deep ones.",
    InfeedScheme.COMPOUND: "Compound at the half angle: the chip clears, one flank cuts; the usual way for a deep thread.",
    InfeedScheme.ALTERNATE: "Alternate flanks: set over either way in turn; wears both corners alike, kind to a light machine.",
}
THREAD_SPEED_M_MIN = 6.0
WARM_C = 20.0
LOW = 590  # of the stop, in pixels
WITHOUT_SIZE = ("plain", "gears", "index", "tool")  # kinds of operation at which nothing is measured


class MakeStop(DriveStop):
    """Route at the left, operation in the middle, size and settings at the right."""

    def __init__(self, frame: Frame) -> None:
        super().__init__(frame, spacing=7)
        self.part_key = "screw"
        self.step_key = ""
        body = self.body_box
        head = row()
        self.title = label("", "title", wrap=True)
        head.addWidget(self.title, 1)
        self.done_button = button("Mark done", self.toggle_done, tip="Tick this operation, or take the tick back", key="Ctrl+D", shortcut=True, name="mark_done")
        head.addWidget(self.done_button, 0, Qt.AlignmentFlag.AlignTop)
        body.addLayout(head)
        self.detail = label("", "soft", wrap=True)
        body.addWidget(self.detail)
        self.plain = _Plain()
        body.addWidget(self.plain)
        self.size_scale = SizeScale()
        body.addWidget(self.size_scale)
        self.thread_view = QWidget()
        thread = column(spacing=5)
        self.thread_view.setLayout(thread)
        thread.addLayout(self._schemes())
        self.why = label("", "soft", wrap=True)
        thread.addWidget(self.why)
        self.groove = GroovePicture()
        thread.addWidget(self.groove, 3)
        self.scale_head = label("Over wires, down to the band, then stop", "strong")
        thread.addWidget(self.scale_head)
        self.scale = SizeScale()
        thread.addWidget(self.scale)
        self.left_head = label("What is left", "strong")
        thread.addWidget(self.left_head)
        self.passes = PassRows()
        thread.addWidget(self.passes, 2)
        body.addWidget(self.thread_view, 1)
        self.banner = Banner()
        body.addWidget(self.banner)
        self._op_views: dict[str, OperationView | None] = {}
        self.op_box = QStackedWidget()
        body.insertWidget(body.indexOf(self.banner), self.op_box, 1)
        self.stretch = QWidget()
        body.addWidget(self.stretch, 1)
        self._build_side()
        self._build_left()

    @property
    def _logged(self) -> str:
        """The part's name in the logbook."""
        return self.session.case.part_name(self.part_key)

    def _schemes(self) -> QHBoxLayout:
        line = row(spacing=6)
        self.schemes = exclusive(self, line, ((s, s.value.capitalize(), WHY[s]) for s in InfeedScheme), self._school, prefix="infeed", kind="")
        line.addStretch()
        return line

    def _school(self, scheme: InfeedScheme) -> None:
        self.session.record(PartSet(part=self.session.case.part_name("screw"), field="infeed", value=scheme.name))

    def _build_side(self) -> None:
        self.side = QWidget()
        side = column(spacing=5)
        self.side.setLayout(side)
        head = row()
        self.size_head = label("Size now", "head")
        self.size_what = label("", "soft")
        head.addWidget(self.size_head)
        head.addStretch()
        head.addWidget(self.size_what)
        side.addLayout(head)
        self.numeral = label("–", "numeral")
        self.numeral.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.numeral.setFixedHeight(60)
        side.addWidget(self.numeral)
        self.size_note = label("", "soft", wrap=True)
        self.size_note.setAlignment(Qt.AlignmentFlag.AlignCenter)
        side.addWidget(self.size_note)
        self.entry = LengthEdit("typed_size", "Type the size measured, in any unit, then Enter")
        self.entry.committed.connect(self.take_typed)
        side.addWidget(self.entry)
        self.refusal = label("", "refused", wrap=True)
        self.refusal.hide()
        side.addWidget(self.refusal)
        self.take_button = button("Take size", self.take, kind="primary", tip="Take the size typed, or the simulated micrometer's", key="Space", name="take_size")
        self.take_button.setMinimumHeight(40)
        side.addWidget(self.take_button)
        self.strike_button = button("Strike out last", self.strike, kind="link", tip="Strike out the last size", key="Backspace")
        side.addWidget(self.strike_button)
        side.addWidget(rule())
        self.settings = QGridLayout()
        self._settings_count = 0
        self.settings.setVerticalSpacing(3)
        self.settings.setColumnStretch(0, 1)
        side.addLayout(self.settings)
        side.addStretch(1)

    def _build_left(self) -> None:
        self.instead = QWidget()
        left = column(spacing=6)
        self.instead.setLayout(left)
        self.tabs = PartTabs("Route of", "route", across=2)
        self.tabs.setContentsMargins(12, 0, 12, 0)
        self.tabs.chosen.connect(self.show_part)
        left.addWidget(self.tabs)
        self.route = RouteList()
        self.route.chosen.connect(self.show_step)
        self.route_area = scrolled(self.route)
        left.addWidget(self.route_area, 1)
        note = column(spacing=3)
        note.setContentsMargins(14, 0, 12, 0)
        note.addWidget(rule())
        self.own = label("", wrap=True)
        note.addWidget(self.own)
        self.times = label("", "soft")
        note.addWidget(self.times)
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(7)
        note.addWidget(self.bar)
        left.addLayout(note)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Words give way to the groove and the passes where the window is low."""
        super().resizeEvent(event)
        self.why.setVisible(self.height() > LOW)
        self.scale_head.setVisible(self.height() > LOW and isinstance(self.session.case, DriveCase))

    # where ------------------------------------------------------------------------------------

    @property
    def scheme(self) -> InfeedScheme:
        """The infeed school in use."""
        name = self.session.job.part_facts(self.session.case.part_name("screw")).get("infeed", InfeedScheme.COMPOUND.name)
        return InfeedScheme[str(name)]

    def operation(self) -> Operation | None:
        """The operation looked at: as chosen, else the first not done."""
        route = self.session.case.route(self.part_key, self.session.system)
        done = self.session.job.steps_done(self._logged)
        for candidate in route:
            if candidate.key == self.step_key:
                return candidate
        return next((o for o in route if o.key not in done), route[-1])

    def show_part(self, key: str) -> None:
        """Another part's route."""
        self.part_key, self.step_key = key, ""
        self.refresh()

    def show_step(self, key: str) -> None:
        """Another operation."""
        self.step_key = key
        self.refresh()

    def step(self, by: int) -> bool:
        keys = [o.key for o in self.session.case.route(self.part_key)]
        now = self.operation()
        i = keys.index(now.key) + by if now else 0
        self.show_step(keys[max(0, min(len(keys) - 1, i))])
        return True

    # gestures ---------------------------------------------------------------------------------

    def toggle_done(self) -> None:
        """Tick the operation, or take the tick back; the next one follows."""
        operation = self.operation()
        if operation is None:
            return
        done = operation.key not in self.session.job.steps_done(self._logged)
        self.step_key = "" if done else operation.key
        self.session.record(StepDone(plan=self._logged, step=operation.key, done=done))

    def take(self) -> bool:
        operation = self.operation()
        if operation is None or operation.kind in WITHOUT_SIZE:
            return False
        if self.entry.text().strip():
            self.take_typed(self.entry.text())
            return True
        size = self.session.case.simulated_size(self.part_key, self.scheme, operation.key)
        if size is None:
            self._refuse("Nothing to take: type the size measured.")
            return True
        self._record(size, "simulated micrometer")
        return True

    def take_typed(self, text: str) -> None:
        """Take a size as typed; a refusal leaves it where it is."""
        operation = self.operation()
        if operation is None or operation.kind in WITHOUT_SIZE:
            return
        try:
            bare = None
            by_play = operation.kind == "nut_thread" and self._case().nut_check == "screw"
            if by_play:
                bare = 0.0254 if self.session.system is UnitSystem.INCH else 0.001
            value = parse_length(text, self.session.system, bare_mm=bare)
            if operation.kind == "thread":
                thread_state(self._case().drive, value)
            elif operation.kind == "nut_thread" and self._case().nut_check == "plug":
                nut_middle = nut_pitch_dia_mm(self._case().part_inputs("nut"))
                if abs(value - nut_middle) > 0.1 * nut_middle:
                    raise InputError(f"“{text.strip()}”", f"a plug of about {show_size(nut_middle, self.session.system)} pitch diameter is expected; is the unit right?")
            elif operation.kind == "nut_thread" and not by_play:
                pitch_dia_from_balls_mm(self._case().drive.thread, value, self._case().ball_mm)
            elif operation.target is not None:
                middle = operation.target.band.middle_mm
                if abs(value - middle) > 0.2 * middle:
                    raise InputError(f"“{text.strip()}”", f"about {show_size(middle, self.session.system)} is expected here; is the unit right?")
            elif not 0 <= value < 1.0:
                raise InputError(f"“{text.strip()}”", "the play of a new nut is from nothing to 40 thou (1 mm)")
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self.entry.clear()
        self._record(value, text.strip())

    def _record(self, value: float, typed: str) -> None:
        operation = self.operation()
        assert operation is not None
        self._refuse("")
        what = self._case().thread_size_words if operation.kind == "thread" else operation.target.what if operation.target is not None else self._case().nut_size_words
        self.step_key = operation.key
        self.session.record(SizeTaken(part=self._logged, operation=operation.key, what=what, value_mm=value, typed=typed))
        self.keys_back()
        QApplication.beep()

    def strike(self) -> bool:
        operation = self.operation()
        sizes = [s for s in self.session.job.sizes(self._logged, operation.key) if s.struck is None] if operation else []
        if not sizes:
            return False
        self.session.record(SizeStruck(size=sizes[-1].id, reason="taken wrongly"))
        return True

    def typed(self, text: str) -> bool:
        operation = self.operation()
        if operation is None or operation.kind in WITHOUT_SIZE:
            return False
        self.entry.setFocus()
        self.entry.insert(text)
        self.entry.setModified(True)
        return True

    def _refuse(self, sentence: str) -> None:
        self.refusal.setText(sentence)
        self.refusal.setVisible(bool(sentence))
        self.entry.set_refused(bool(sentence))

    # showing ----------------------------------------------------------------------------------

    def has_job(self) -> bool:
        return super().has_job() and bool(self.session.case.part_keys())

    def _enable(self, on: bool) -> None:
        self.side.setEnabled(on)
        assert self.instead is not None
        self.instead.setEnabled(on)

    def show_nothing(self) -> None:
        self._enable(False)
        if self.session.case.has_set_ups:
            self.other.text.setText("The remedy chosen makes no part. Choose another at Remedies, or go on to Fit-up.")

    def show_job(self) -> None:
        self._enable(True)
        case = self.session.case
        if self.part_key not in case.part_keys():
            self.part_key = case.part_keys()[0]
        try:
            operation = self.operation()
        except TrebbError as error:
            self.banner.say("beyond", "The part cannot be as set by hand at Parts.", f"{error}.")
            return
        assert operation is not None
        self._show_route(operation)
        done = operation.key in self.session.job.steps_done(self._logged)
        self.title.setText(f"{operation.number}   {operation.title}")
        self.done_button.setText("Take the tick back" if done else "Mark done")
        self.detail.setText(operation.detail)
        is_thread = operation.kind == "thread"
        view = self._op_view(operation.kind)
        self.thread_view.setVisible(is_thread)
        self.op_box.setVisible(view is not None)
        self.stretch.setVisible(not is_thread and view is None)
        self.plain.setVisible(not is_thread)
        self.plain.set_low(view is not None)
        self.size_scale.setVisible(operation.target is not None)
        self.banner.hide()
        if operation.caution:
            self.banner.say("near", "", operation.caution)
        for widget in (self.size_head, self.size_what, self.numeral, self.size_note, self.entry, self.take_button, self.strike_button):
            widget.setVisible(operation.kind not in WITHOUT_SIZE)
        clear(self.settings)
        self._settings_count = 0
        if is_thread:
            self._show_thread()
        else:
            self.plain.show_operation(operation)
            if view is not None:
                for words, figure, strong in view.show_operation(self.part_key, operation):
                    self._setting(words, figure, strong=strong)
            self._show_plain(operation)

    def _op_view(self, kind: str) -> OperationView | None:
        """What belongs to a kind of operation, built when first wanted, now seen."""
        if kind not in self._op_views:
            self._op_views[kind] = made = make_operation_view(kind, self.session)
            if made is not None:
                self.op_box.addWidget(made)
        view = self._op_views[kind]
        if view is not None:
            self.op_box.setCurrentWidget(view)
        return view

    def _show_route(self, operation: Operation) -> None:
        case = self.session.case
        self.tabs.show_parts(case.part_keys(), self.part_key)
        route = case.route(self.part_key, self.session.system)
        done = self.session.job.steps_done(self._logged)
        self.route.show_lines([Line(o.key, str(o.number), o.title, o.key in done) for o in route], operation.key)
        QTimer.singleShot(0, self.route, self._look_there)  # once the list has its height
        gone, left = minutes_left(route, done)
        self.times.setText(f"{show_minutes(gone)} done, {show_minutes(left)} left")
        self.bar.setRange(0, 100)
        self.bar.setValue(round(100 * gone / max(1.0, gone + left)))
        words = {"screw": "", "nut": "Measure the slide's own height for the axis before boring.", "thrust_collar": "Measure the bracket before the washers are bought."}
        if self.part_key == "screw":
            least = case.split.least_worn.station if case.is_measured else 1
            own = f"This lathe cuts its own screw: the old one stays in until the end. Lock the slide at station {least}, where it is least worn."
            if case.subject.half_nuts:
                own = f"This lathe cuts its own lead screw with the old one in: cut it where that is least worn, near station {least}; its error is copied."
            words["screw"] = own if case.kind.key == "lathe" else "On the lathe at hand: its lead screw and wheels stand at Intake."
        if case.family not in ("screw_drive", "spindle"):
            self.own.setText("")
            return
        spindle = "The machine being repaired cannot cut its own spindle's parts while it is stripped: another lathe, or before it comes apart."
        self.own.setText(words.get(self.part_key, spindle))

    def _look_there(self) -> None:
        self.route_area.ensureVisible(0, round(self.route.middle_of_current()), 0, 60)

    def _setting(self, words: str, figure: str, *, strong: bool = False) -> None:
        at = self._settings_count
        self._settings_count += 1
        self.settings.addWidget(label(words, "soft", wrap=True), at, 0)
        value = label(figure, "strong" if strong else "")
        value.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.settings.addWidget(value, at, 1)

    def _show_thread(self) -> None:
        case, system, scheme = self._case(), self.session.system, self.scheme
        drive = case.drive
        for key, choice in self.schemes.items():
            choice.setChecked(key is scheme)
        self.why.setText(WHY[scheme])
        made = case.made_screw_pitch_dia()
        square = drive.thread.form is Form.SQUARE
        sizes = case.sizes_of("screw", "thread") if made is not None or square else []
        self.groove.show_thread(drive, made, system)
        limits = thread_limits(drive.thread)
        wires = drive.thread.form is not Form.SQUARE
        self.scale.setVisible(True)
        self.scale_head.setText("Over wires, down to the band, then stop" if wires else "Depth of the groove, to the band, then stop")
        self.scale_head.setVisible(self.height() > LOW)
        if square:
            self.scale.show_sizes(sizes, thread_state(drive, drive.thread.depth_mm).band, system)
        if wires:
            band = thread_state(drive, size_over_wires_mm(drive.thread, limits.screw_pitch.middle_mm, drive.wire)).band
            self.scale.show_sizes(sizes, band, system)
        passes = case.passes(scheme)
        self.passes.show_rows([self._pass_row(p, scheme) for p in passes])
        cuts = sum(not p.is_spring for p in passes)
        self.left_head.setText(f"What is left: {cuts} pass{'es' if cuts > 1 else ''}, then spring passes" if cuts else "What is left: spring passes only")
        self.size_what.setText(f"{case.thread_size_words}, {'in' if system is UnitSystem.INCH else 'mm'}")
        self.numeral.setText(show_size(sizes[-1], system, unit=False) if sizes else "–")
        self.size_note.setText(f"±{show_small(0.005, system)}" if sizes else "not measured yet; simulated by Space" if case.practice("before") else "not measured yet")
        self._thread_verdict(sizes)
        self._thread_settings(passes, scheme)

    def _thread_verdict(self, sizes: list[float]) -> None:
        if not sizes:
            return
        case, system = self._case(), self.session.system
        state = thread_state(case.drive, sizes[-1])
        wanted = float(case.part_inputs("nut").facts.get("play", WANTED_PLAY_MM))
        sentence = state_sentence(case.drive, state, wanted, system)
        warm = show_small(warm_reading_mm(case.drive.thread.major_mm, WARM_C), system)
        if case.drive.thread.form is Form.SQUARE:
            self.banner.say({"large": "near", "within": "within", "small": "near"}[state.verdict], sentence, "")
        elif state.verdict == "small":
            self.banner.say("beyond", "Under the band.", sentence)
        elif state.verdict == "within":
            self.banner.say("within", sentence, "")
        else:
            self.banner.say("near", sentence, f"Let it cool before the last passes: {WARM_C:.0f} °C of warmth reads {warm} large.")

    def _pass_row(self, p: Pass, scheme: InfeedScheme) -> PassRow:
        system, spec = self.session.system, self._case().drive.thread
        if p.is_spring:
            return PassRow(f"pass {p.number}", "no infeed: spring pass", "", "", "")
        move = "compound in" if scheme is InfeedScheme.COMPOUND else "cross slide in"
        total = f"total {show_size(p.compound_mm if scheme is InfeedScheme.COMPOUND else p.cross_mm, system, unit=False)}"
        if scheme is InfeedScheme.ALTERNATE and p.sideways_mm:
            side = "tailstock" if p.sideways_mm > 0 else "headstock"
            total += f", {show_small(abs(p.sideways_mm), system)} to {side}"
        expect = ""
        if spec.form is not Form.SQUARE:
            limits = thread_limits(spec)
            flat = tool_flat_mm(spec, limits.allowance_mm)
            pitch_dia = pitch_dia_at_depth_mm(spec, p.cross_mm, flat)
            if pitch_dia < spec.major_mm:
                expect = f"expect {show_size(size_over_wires_mm(spec, pitch_dia, self._case().drive.wire), system, unit=False)}"
        return PassRow(f"pass {p.number}", move, show_small(p.step_mm, system), total, expect)

    def _thread_settings(self, passes: list[Pass], scheme: InfeedScheme) -> None:
        case, system = self._case(), self.session.system
        drive, shop = case.drive, case.workshop
        spec = drive.thread
        limits = thread_limits(spec)
        angle = spec.form.half_angle if scheme is InfeedScheme.COMPOUND else 0.0
        shown = math.pi / 2 - angle if shop.compound_from_bed else angle
        self._setting("Compound, on its scale" if shop.compound_from_bed else "Compound, off the cross slide", f"{math.degrees(shown):.1f}°")
        if passes and not passes[0].is_spring:
            first = passes[0]
            move = "Compound, this pass" if scheme is InfeedScheme.COMPOUND else "Cross slide, this pass"
            factor = 2 if shop.cross_reads_diameter and scheme is not InfeedScheme.COMPOUND else 1
            self._setting(move + (", dial shows" if factor == 2 else ""), f"+{show_size(first.step_mm * factor, system, unit=False)}", strong=True)
        full = case.full_depth_mm()
        self._setting("Full depth on radius", show_size(full, system, unit=False))
        rule_ = lathe_dial_rule(shop, drive)
        self._setting("Thread dial", {True: "any line", False: rule_.sentence if len(rule_.sentence) < 24 else "see below"}[rule_.any_position])
        rpm = shop.speed_at_most(spindle_rpm(spec.major_mm, THREAD_SPEED_M_MIN))
        self._setting("Spindle", f"{rpm} rpm")
        self._setting("Run-on in half a second", show_size(run_out_mm(spec.lead_mm, rpm), system, unit=False))
        clearance = flank_clearance(spec, math.radians(4))
        self._setting("Tip flat", show_size(tool_flat_mm(spec, limits.allowance_mm, axial_play_mm=limits.axial_play_mm.low_mm), system, unit=False), strong=True)
        self._setting("Included angle", f"{2 * math.degrees(spec.form.half_angle):.1f}°")
        self._setting(f"Clearance, {clearance.leading_side} side", f"{math.degrees(clearance.leading):.1f}°")
        self._setting(f"Clearance, {clearance.trailing_side} side", f"{math.degrees(clearance.trailing):.1f}°".replace("-", "−"))
        words = rule_.sentence if not rule_.any_position else "Half nuts may close anywhere: this lead goes whole into the lead screw's."
        if spec.hand is Hand.LEFT:
            words = words.rstrip(".") + ". Left hand: carriage runs away from the headstock."
        at = self._settings_count
        self.settings.addWidget(label(words[0].upper() + words[1:], "small", wrap=True), at, 0, 1, 2)

    def _case(self) -> DriveCase:
        """The screw's case: threads are cut for no other."""
        assert isinstance(self.session.case, DriveCase)
        return self.session.case

    def _show_size(self, operation: Operation, target: SizeTarget) -> None:
        """A diameter coming to its band."""
        system = self.session.system
        sizes = [s.taken.value_mm for s in self.session.job.sizes(self._logged, operation.key) if s.struck is None]
        self.size_what.setText(f"{target.what}, {'in' if system is UnitSystem.INCH else 'mm'}")
        self.numeral.setText(show_size(sizes[-1], system, unit=False) if sizes else "–")
        self.size_note.setText("mean of three places; also for taper" if sizes else "not measured yet; simulated by Space" if self.session.case.practice("before") else "not measured yet")
        self.size_scale.show_sizes(sizes, target.band, system)
        self._setting(f"{target.what.capitalize()}, to", show_sizes(target.band.low_mm, target.band.high_mm, system, unit=False), strong=True)
        if sizes:
            tone, head, text = size_sentence(target, sizes[-1], system)
            self.banner.say(tone, head, text)

    def _show_nut_size(self) -> None:
        """The nut's size between balls or by a plug, coming out to its band."""
        case, system = self._case(), self.session.system
        sizes = case.sizes_of("nut", "nut_thread")
        self.size_what.setText(f"{case.nut_size_words}, {'in' if system is UnitSystem.INCH else 'mm'}")
        self.numeral.setText(show_size(sizes[-1], system, unit=False) if sizes else "–")
        self.size_note.setText("not measured yet" if not sizes else "least reading, rocked both ways" if case.nut_check == "balls" else "its pitch diameter; goes with oil, without force")
        for line in case.part("nut").rows:
            if line.is_key and isinstance(line.value, float):
                self._setting(line.label, show_size(line.value, system, unit=False), strong=True)
        if sizes:
            self.banner.say(*nut_sentence(case.drive, sizes[-1], case.ball_mm if case.nut_check == "balls" else None, nut_pitch_dia_mm(case.part_inputs("nut")), system))

    def _show_plain(self, operation: Operation) -> None:
        case, system = self.session.case, self.session.system
        if operation.target is not None:
            self._show_size(operation, operation.target)
        if operation.kind == "nut_thread" and self._case().nut_check != "screw":
            self._show_nut_size()
        elif operation.kind == "nut_thread":
            sizes = self._case().sizes_of("nut", operation.key)
            self.size_what.setText("play on its screw")
            self.numeral.setText(show_small(sizes[-1], system, unit=False) if sizes else "–")
            self.size_note.setText(("thou" if system is UnitSystem.INCH else "µm") + ", indicator on the nut, pushed and pulled")
            for line in case.part("nut").rows:
                if line.is_key and isinstance(line.value, float):
                    self._setting(line.label, show_size(line.value, system, unit=False), strong=True)
            if sizes:
                wanted = float(case.part_inputs("nut").facts.get("play", WANTED_PLAY_MM))
                more = sizes[-1] - wanted
                if more > 0.025:
                    self.banner.say("near", f"{show_small(more, system)} more play than wanted.", "Keep it if the limit allows, or use the spare block.")
                else:
                    self.banner.say("within", "The play is as wanted.", "")
        if operation.kind in ("gears", "index", "tool"):
            return
        part = case.part(self.part_key)
        self._setting("Material", part.material)
        if part.views:
            return
        metal = material_of(part)
        self._setting("Turning speed", f"{metal.speed_m_min:g} m/min")
        rpm = case.workshop.speed_at_most(spindle_rpm(part.largest_mm, metal.speed_m_min))
        self._setting(f"Spindle at {show_size(part.largest_mm, system)}", f"{rpm} rpm")
        for section in part.sections:
            if section.kind == "plain":
                text = show_sizes(section.size.low_mm, section.size.high_mm, system, unit=False) if section.size else show_size(section.diameter_mm, system, unit=False)
                self._setting(section.label.capitalize(), text)


class _Plain(QWidget):
    """An operation in words: hold, tool, time."""

    def __init__(self) -> None:
        super().__init__()
        self._grid = grid = QGridLayout(self)
        grid.setContentsMargins(0, 8, 0, 8)
        grid.setColumnStretch(1, 1)
        grid.setVerticalSpacing(10)
        self._figures = {}
        for i, words in enumerate(("Hold", "Tool", "Time")):
            grid.addWidget(label(words, "soft"), i, 0)
            figure = label("", "head", wrap=True)
            grid.addWidget(figure, i, 1)
            self._figures[words] = figure

    def set_low(self, low: bool) -> None:
        """One line's height each, where a picture stands below."""
        for figure in self._figures.values():
            kind = "" if low else "head"
            if figure.property("kind") != kind:
                figure.setProperty("kind", kind)
                theme.restyle(figure)
        self._grid.setVerticalSpacing(1 if low else 10)
        self._grid.setContentsMargins(0, 0 if low else 8, 0, 0 if low else 8)

    def show_operation(self, operation: Operation) -> None:
        """Show another operation."""
        self._figures["Hold"].setText(operation.hold or "–")
        self._figures["Tool"].setText(operation.tool or "–")
        self._figures["Time"].setText(f"about {show_minutes(operation.minutes)}")
