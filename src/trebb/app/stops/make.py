"""Make: the route, each operation with its picture, and the size now."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QGridLayout, QProgressBar, QStackedWidget, QWidget

from trebb.app.look import sounds
from trebb.app.look.typed import LengthEdit
from trebb.app.look.widgets import Banner, button, clear, column, label, row, rule, scrolled
from trebb.app.making import OperationView, make_operation_view
from trebb.app.making.cut_view import CutView, cut_said
from trebb.app.making.far_words import far_words
from trebb.app.making.in_words import InWords
from trebb.app.making.taken_with import TakenWith
from trebb.app.parts.drawing_view import DrawingView
from trebb.app.parts.part_tabs import PartTabs
from trebb.app.parts.route_list import Line, RouteList
from trebb.app.stops.base import DriveStop
from trebb.app.window.far_cover import Far
from trebb.core.dual_units import show_cutting_speed
from trebb.core.errors import TrebbError, UnreadError
from trebb.core.making.cutting import cut_by
from trebb.core.making.infeed import spindle_rpm
from trebb.core.making.operations import Operation, material_of, minutes_left
from trebb.core.metals import Material
from trebb.core.parts.drawing import SCREEN_BARE, SCREEN_SHAPE
from trebb.core.units import show_minutes, show_size, show_sizes
from trebb.core.words import large
from trebb.logbook.cases.strip_down import fixes_for_good, not_met
from trebb.logbook.log.entries import SizeStruck, SizeTaken, StepDone

if TYPE_CHECKING:
    from trebb.app.window.host import Host

LOW = 590  # of the stop, in pixels
SIZE_SCALE_HIGH = 96


class MakeStop(DriveStop):
    """Route at the left, operation in the middle, size and settings at the right."""

    paper = "route"
    waits_for = "Its route and its cuts follow from what is read and chosen."

    def __init__(self, frame: Host) -> None:
        super().__init__(frame, spacing=7)
        self.part_key = "screw"
        self.step_key = ""
        body = self.body_box
        head = row()
        self.title = label("", "title", wrap=True)
        head.addWidget(self.title, 1)
        self.done_button = button(
            "Mark done",
            self.toggle_done,
            tip="Tick this operation, or take the tick back",
            key="Ctrl+D",
            shortcut=True,
            name="mark_done",
        )
        head.addWidget(self.done_button, 0, Qt.AlignmentFlag.AlignTop)
        body.addLayout(head)
        self.detail = label("", "soft", wrap=True)
        body.addWidget(self.detail)
        self.plain = InWords()
        body.addWidget(self.plain)
        self.views: dict[str, OperationView | None] = {}
        self.op_box = QStackedWidget()
        body.addWidget(self.op_box, 1)
        self.banner = Banner()
        body.addWidget(self.banner)
        # Where an operation has no picture of its own: what is cut, washed.
        self.stretch, self.flat = CutView(), DrawingView()
        for picture in (self.stretch, self.flat):
            picture.setMinimumHeight(120)
            body.addWidget(picture, 1)
        body.addStretch(0)
        self._build_side()
        self._build_left()

    @property
    def _logged(self) -> str:
        """The part's name in the logbook."""
        return self.session.case.part_name(self.part_key)

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
        self.by = TakenWith()
        side.addWidget(self.by)
        self.refusal = label("", "refused", wrap=True)
        self.refusal.hide()
        side.addWidget(self.refusal)
        self.take_button = button(
            "Take size",
            self.take,
            kind="primary",
            tip="Take the size typed, or the simulated micrometer's",
            key="Space",
            name="take_size",
        )
        self.take_button.setMinimumHeight(40)
        side.addWidget(self.take_button)
        self.strike_button = button(
            "Strike out last", self.strike, kind="link", tip="Strike out the last size", key="Backspace"
        )
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
        self.tabs = PartTabs("Route of", "route")
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
        """Words give way to the picture where the window is low."""
        super().resizeEvent(event)
        for view in self.views.values():
            if view is not None:
                view.set_low(self.height() <= LOW)

    # where ------------------------------------------------------------------------------------

    def operation(self) -> Operation | None:
        """The operation looked at; None where no part is made, or it cannot be as set by hand."""
        try:
            return self._operation()
        except TrebbError:
            return None

    def _operation(self) -> Operation | None:
        """As chosen, else the first not done. Raises InputError where the part cannot be as set by hand."""
        keys = self.session.case.part_keys()
        if not keys:
            return None
        if self.part_key not in keys:
            self.part_key = keys[0]
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
        now = self.operation()
        if now is None:
            return False
        keys = [o.key for o in self.session.case.route(self.part_key)]
        i = keys.index(now.key) + by
        self.show_step(keys[max(0, min(len(keys) - 1, i))])
        return True

    def view(self) -> OperationView | None:
        """The picture of the operation looked at; None where words are enough."""
        operation = self.operation()
        return self._op_view(operation.kind) if operation is not None else None

    # gestures ---------------------------------------------------------------------------------

    def toggle_done(self) -> None:
        """Tick the operation, or take the tick back; the next one follows."""
        operation = self.operation()
        if operation is None:
            return
        done = operation.key not in self.session.job.steps_done(self._logged)
        case = self.session.case
        apart = not_met(self.session.job, case.assembly_key) if fixes_for_good(operation.key) else []
        if done and apart:
            self._refuse(f"First see that they meet: {'; '.join(apart)}. Say so at Fit-up, Must meet again.")
            return
        self.step_key = "" if done else operation.key
        self.session.record(StepDone(plan=self._logged, step=operation.key, done=done))

    def take(self) -> bool:
        operation, view = self.operation(), self.view()
        if operation is None or view is None or not view.what(operation):
            return False
        if self.entry.text().strip():
            self.take_typed(self.entry.text())
            return True
        size = self.session.case.simulated_size(self.part_key, self.session.case.scheme, operation.key)
        if size is None:
            self._refuse("Nothing to take: type the size measured.")
            return True
        self._record(size, "simulated micrometer", "simulated micrometer")
        return True

    def take_typed(self, text: str) -> None:
        """Take a size as typed; a refusal leaves it where it is."""
        operation, view = self.operation(), self.view()
        if operation is None or view is None or not view.what(operation):
            return
        try:
            value = view.read(self.frame.link.bare(text), operation)
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self.entry.clear()
        self._record(value, text.strip(), self.by.key)

    def _record(self, value: float, typed: str, by: str) -> None:
        operation, view = self.operation(), self.view()
        assert operation is not None
        assert view is not None
        self._refuse("")
        self.step_key = operation.key
        self.session.record(
            SizeTaken(
                part=self._logged,
                operation=operation.key,
                what=view.what(operation),
                value_mm=value,
                typed=typed,
                instrument=by,
            )
        )
        self.keys_back()
        sounds.taken()

    def strike(self) -> bool:
        operation = self.operation()
        sizes = (
            [s for s in self.session.job.sizes(self._logged, operation.key) if s.struck is None]
            if operation
            else []
        )
        if not sizes:
            return False
        self.session.record(SizeStruck(size=sizes[-1].id, reason="taken wrongly"))
        return True

    def typed(self, text: str) -> bool:
        operation, view = self.operation(), self.view()
        if operation is None or view is None or not view.what(operation):
            return False
        self.entry.setFocus()
        self.entry.insert(text)
        self.entry.setModified(True)
        return True

    def _refuse(self, sentence: str) -> None:
        self.refusal.setText(sentence)
        self.refusal.setVisible(bool(sentence))
        self.entry.set_refused(bool(sentence))

    def far(self) -> Far:
        """The size now, what it is to be, what is left and what the dial is set to next."""
        operation = self.operation()
        if operation is None:
            return Far(self.session.case.assembly.label, lines=("Nothing to make yet",))
        return far_words(operation, self.view(), self.part_key)

    def far_key(self, key: Qt.Key) -> bool:
        if key == Qt.Key.Key_D:
            self.toggle_done()
        return key == Qt.Key.Key_D

    # showing ----------------------------------------------------------------------------------

    def has_job(self) -> bool:
        return self.session.case.has_parts and bool(self.session.case.part_keys())

    def _enable(self, on: bool) -> None:
        self.done_button.setEnabled(on)
        self.side.setEnabled(on)
        assert self.instead is not None
        self.instead.setEnabled(on)

    def show_nothing(self) -> None:
        self._show_no_size()
        if self.session.case.has_set_ups:
            self.other.text.setText(
                "The remedy chosen makes no part. Choose another at Remedies, or go on to Fit-up."
            )

    def _show_no_size(self) -> None:
        self._enable(False)
        for words in (self.size_what, self.size_note, self.refusal):
            words.setText("")
        self.numeral.setText("–")
        clear(self.settings)

    def show_job(self) -> None:
        self._enable(True)
        case = self.session.case
        if self.part_key not in case.part_keys():
            self.part_key = case.part_keys()[0]
        try:
            operation = self._operation()
        except UnreadError as error:
            self._say_none("soft", f"{error.what}.", f"{large(error.would_do)}.")
            return
        except TrebbError as error:
            self._say_none("beyond", "The part cannot be as set by hand at Parts.", f"{error}.")
            return
        assert operation is not None
        self._show_route(operation)
        done = operation.key in self.session.job.steps_done(self._logged)
        self.title.setText(f"{operation.number}   {operation.title}")
        self.done_button.setText("Take the tick back" if done else "Mark done")
        self.detail.setText(operation.detail)
        self.plain.show_operation(operation)
        self._show_view(operation)

    def _say_none(self, state: str, head: str, words: str) -> None:
        """No operation to show, and why; nothing of one looked at before stands there still."""
        self.title.setText("Nothing to make yet")
        for line in (self.detail, self.times, self.own):
            line.setText("")
        for picture in (self.op_box, self.stretch, self.flat, self.plain):
            picture.hide()
        self.tabs.show_parts(self.session.case.part_keys(), self.part_key)
        self.route.show_lines([], "")
        self._show_no_size()
        assert self.instead is not None
        self.instead.setEnabled(True)  # another part may be made
        self.banner.say(state, head, words)

    def _show_view(self, operation: Operation) -> None:
        """The operation's picture, its size and settings, and what the size means."""
        view = self._op_view(operation.kind)
        self.op_box.setVisible(view is not None)
        leaves_room = view is None or view.leaves_room
        self.op_box.setMaximumHeight(SIZE_SCALE_HIGH if leaves_room else 16_777_215)
        self._show_part_cut(operation, shown=leaves_room)
        self.plain.setVisible(view is None or view.with_words)
        self.plain.set_low(view is not None and operation.target is None)
        clear(self.settings)
        self._settings_count = 0
        for words, figure, strong in (
            view.show_operation(self.part_key, operation) if view is not None else ()
        ):
            self._setting(words, figure, strong=strong)
        if view is None or view.with_material:
            self._show_material()
        if view is not None and view.remark():
            self.settings.addWidget(label(view.remark(), "small", wrap=True), self._settings_count, 0, 1, 2)
        size = view.taken(operation) if view is not None else None
        for widget in (
            self.size_head,
            self.size_what,
            self.numeral,
            self.size_note,
            self.entry,
            self.by,
            self.take_button,
            self.strike_button,
        ):
            widget.setVisible(size is not None)
        if size is not None:
            self.by.show_for(operation, size.what, self.session.job)
            self.size_what.setText(size.what)
            self.numeral.setText(size.numeral)
            self.size_note.setText(size.note)
        self.banner.hide()
        verdict = view.verdict(operation) if view is not None else None
        if verdict is not None:
            self.banner.say(*verdict)
        elif operation.caution:
            self.banner.say("near", "", operation.caution)

    def _show_part_cut(self, operation: Operation, *, shown: bool) -> None:
        """The part with what this operation cuts, where it has no picture of its own."""
        case, system = self.session.case, self.session.system
        part = case.part(self.part_key, system) if shown else None
        is_round = part is not None and not part.views and part.block_mm is None
        self.stretch.setVisible(shown and is_round)
        self.flat.setVisible(shown and not is_round)
        if part is None:
            return
        cut = cut_by(part, operation)
        if is_round:
            self.stretch.show_part(part, system, None, SCREEN_SHAPE, cut)
            self.stretch.say(cut_said(operation, self._now(operation), system))
        else:
            self.flat.show_part(part, system, None, SCREEN_BARE, cut)

    def _now(self, operation: Operation) -> float | None:
        """The size taken last at an operation, mm."""
        sizes = [s for s in self.session.job.sizes(self._logged, operation.key) if s.struck is None]
        return sizes[-1].taken.value_mm if sizes else None

    def _op_view(self, kind: str) -> OperationView | None:
        """What belongs to a kind of operation, built when first wanted, now seen."""
        if kind not in self.views:
            self.views[kind] = made = make_operation_view(kind, self.session)
            if made is not None:
                self.op_box.addWidget(made)
                made.set_low(self.height() <= LOW)
        view = self.views[kind]
        if view is not None:
            self.op_box.setCurrentWidget(view)
        return view

    def _show_route(self, operation: Operation) -> None:
        case = self.session.case
        self.tabs.show_parts(case.part_keys(), self.part_key)
        route = case.route(self.part_key, self.session.system)
        done = self.session.job.steps_done(self._logged)
        self.route.show_lines(
            [Line(o.key, str(o.number), o.title, o.key in done) for o in route], operation.key
        )
        QTimer.singleShot(0, self.route, self._look_there)  # once the list has its height
        gone, left = minutes_left(route, done)
        self.times.setText(f"{show_minutes(gone)} done, {show_minutes(left)} left")
        self.bar.setRange(0, 100)
        self.bar.setValue(round(100 * gone / max(1.0, gone + left)))
        self.own.setText(case.reminder(self.part_key))

    def _look_there(self) -> None:
        self.route_area.ensureVisible(0, round(self.route.middle_of_current()), 0, 60)

    def _setting(self, words: str, figure: str, *, strong: bool = False) -> None:
        at = self._settings_count
        self._settings_count += 1
        self.settings.addWidget(label(words, "soft", wrap=True), at, 0)
        value = label(figure, "strong" if strong else "")
        value.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.settings.addWidget(value, at, 1)

    def _show_material(self) -> None:
        """The part's material with its speed, and the diameters of a turned one."""
        case, system = self.session.case, self.session.system
        part = case.part(self.part_key)
        self._setting("Material", part.material)
        if part.views or not isinstance(part.metal, Material):
            return
        metal = material_of(part)
        self._setting("Turning speed", show_cutting_speed(metal.speed_m_min, system))
        rpm = case.workshop.speed_at_most(spindle_rpm(part.largest_mm, metal.speed_m_min))
        self._setting(f"Spindle at {show_size(part.largest_mm, system)}", f"{rpm} rpm")
        for section in part.sections:
            if section.kind == "plain":
                text = (
                    show_sizes(section.size.low_mm, section.size.high_mm, system, unit=False)
                    if section.size
                    else show_size(section.diameter_mm, system, unit=False)
                )
                self._setting(section.label.capitalize(), text)
