"""The frame of an open job: top strip, machine, stop, side panel, bed rail."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent, QKeySequence, QResizeEvent, QShortcut
from PySide6.QtWidgets import (
    QApplication,
    QFrame,
    QLineEdit,
    QMenu,
    QPlainTextEdit,
    QPushButton,
    QScrollArea,
    QStackedWidget,
    QVBoxLayout,
    QWidget,
)

from trebb.app.look.reading_order import in_reading_order
from trebb.app.look.typed import AtRest, LengthEdit
from trebb.app.look.widgets import Banner, Cover, Settles, button, column, row, scrolled
from trebb.app.stops.base import Stop
from trebb.app.stops.register import ALL_STOPS, PLAN, PRACTICE, STOPS, STRIP_DOWN, WORK
from trebb.app.survey.instrument_link import InstrumentLink
from trebb.app.window.bed_rail import BedRail
from trebb.app.window.far_cover import FarCover
from trebb.app.window.host import Host
from trebb.app.window.machine_panel import MachinePanel
from trebb.app.window.session import Session
from trebb.app.window.top_strip import TopStrip
from trebb.core.survey import AnySetUp
from trebb.core.units import UnitSystem
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.log.entries import PowerLocked

if TYPE_CHECKING:
    from trebb.app.window.first_steps import FirstSteps

WATCH_MS = 1000  # how often the job's file is looked after
PANEL_WIDTH, NARROW_PANEL_WIDTH, ROOMY = 292, 250, 1240


class _Least(QWidget):
    """Asks for no more height than what it holds cannot do without, so that it scrolls only when it must."""

    def __init__(self, inner: QWidget) -> None:
        super().__init__()
        box = column(spacing=0)
        box.addWidget(inner)
        self.setLayout(box)

    def heightForWidth(self, width: int) -> int:
        layout = self.layout()
        assert layout is not None
        return layout.minimumHeightForWidth(width)


class Frame(Host):
    """Everything around the stops. Owns the instrument link while the job is open."""

    def __init__(self, session: Session, link: InstrumentLink | None = None) -> None:
        super().__init__()
        self.session = session
        self.link = link or InstrumentLink()
        self._stops: dict[int, Stop] = {}
        self.index = -1
        self._was_shown = False
        self.setObjectName("window")
        box = column(spacing=0)
        self.setLayout(box)
        self.strip = TopStrip(session)
        self.strip.lock.toggled.connect(self._lock)
        box.addWidget(self.strip)
        self.trouble = Banner()
        self.trouble.buttons.addWidget(button("Understood", self.trouble.hide, tip="Close this line"))
        self.trouble.buttons.addStretch()
        self.save_anew = button(
            "Save the job anew", self._save_anew, kind="dark", tip="Write the whole job under its name again"
        )
        self.save_anew.setObjectName("save_anew")
        self.save_anew.hide()
        self.trouble.buttons.insertWidget(0, self.save_anew)
        self._said_of_file = ""
        self._watch = QTimer(self)
        self._watch.setInterval(WATCH_MS)
        self._watch.timeout.connect(self.look_at_file)
        self._watch.start()
        self.trouble.hide()
        box.addWidget(self.trouble)
        if session.file.is_looked_at:
            looked = Banner()
            looked.setObjectName("looked_at")
            box.addWidget(looked)
            looked.say("near", "", f"Looking only: {session.file.why}. Nothing can be added here.")
        self._box = box
        self.first_steps: FirstSteps | None = None
        middle = row(spacing=10)
        middle.setContentsMargins(10, 10, 10, 10)
        self.machine = MachinePanel(session)
        middle.addWidget(self.machine)
        self.centre, self._stack = self._sheet()
        middle.addWidget(self.centre, 1)
        self.side, self._sides = self._sheet()
        middle.addWidget(self.side)
        box.addLayout(middle, 1)
        self.rail = BedRail([stop.title for stop in STOPS])
        self.rail.chosen.connect(self.go)
        self._on_rail = 0
        self.strip.plan.clicked.connect(lambda: self.go_to(PLAN.key))
        self.strip.strip_down.clicked.connect(lambda: self.go_to(STRIP_DOWN.key))
        self.strip.work.clicked.connect(lambda: self.go_to(WORK.key))
        self.strip.practice.clicked.connect(lambda: self.go_to(PRACTICE.key))
        self.strip.menu.clicked.connect(self._open_menu)
        box.addWidget(self.rail)
        session.changed.connect(self.refresh)
        session.refused.connect(self._refused)
        session.guards[:] = [self.is_settled]
        self._shortcuts()

    def _sheet(self) -> tuple[QFrame, QStackedWidget]:
        frame = QFrame()
        frame.setProperty("sheet", "true")
        inside = QVBoxLayout(frame)
        inside.setContentsMargins(18, 12, 18, 12)
        stack = QStackedWidget()
        inside.addWidget(stack)
        return frame, stack

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The panels at the sides give way before the stop does."""
        super().resizeEvent(event)
        wide = PANEL_WIDTH if self.width() >= ROOMY else NARROW_PANEL_WIDTH
        self.machine.setFixedWidth(wide)
        self.side.setFixedWidth(wide)

    def _shortcuts(self) -> None:
        for i, stop in enumerate(STOPS):
            self._on(f"Ctrl+{i + 1}", lambda index=i: self.go(index), f"go to {stop.title}")
        self._on("Ctrl+9", lambda: self.go_to(PLAN.key), "the plan of the whole job")
        self._on("Ctrl+0", lambda: self.go_to(STRIP_DOWN.key), "what came off, and how")
        self._on(
            "Ctrl+Shift+W", lambda: self.go_to(WORK.key), "what it is to make, and which repairs buy most"
        )
        self._on("Ctrl+B", lambda: self.go_to(PRACTICE.key), "the practice bench")
        self._on("Ctrl+Z", self.session.undo, "take the last gesture back")
        self._on("Ctrl+Shift+Z", self.session.redo, "do it again")
        self._on("Ctrl+U", self.switch_units, "thou and tenths, or mm and µm")
        self._on("F11", self.show_from_afar, "numerals for arm’s length, and back")
        self._on("Ctrl+Shift+V", self.bring_in, "readings from a spreadsheet")
        self._on("Ctrl+P", self.show_print, "print, after a look at the pages")
        self._on("Shift+F1", self.show_where_from, "where the figures of this part come from")
        self._on("Ctrl+Y", self.session.redo, "do it again")
        self._on("Ctrl+S", self._say_saved, "nothing needs saving: says where it stands")
        self._on("Ctrl+O", lambda: self.opener().open_another(), "open another job")
        self._on("Ctrl+M", lambda: self.opener().show_shop(), "the shop's memory")
        self._on("Ctrl+J", self._say_week, "all machines: from the start page")
        self._on("Esc", self._escape, "leave a field, a question, or a page that covers the job")

    def _on(self, keys: str, does: object, words: str) -> None:
        made = QShortcut(QKeySequence(keys), self, activated=does)  # type: ignore[call-overload]
        made.setWhatsThis(words)

    # moving about -----------------------------------------------------------------------------

    @property
    def stop(self) -> Stop:
        """The stop on the screen."""
        return self._stops[self.index]

    def go(self, index: int) -> None:
        """Move to a stop; every stop is open at any time."""
        if index not in self._stops:
            stop = ALL_STOPS[index].make(self)
            self._stops[index] = stop
            self._stack.addWidget(scrolled(_Least(stop)))
            self._sides.addWidget(scrolled(_Least(stop.side)))
        self.index = index
        stop = self._stops[index]
        at = list(self._stops).index(index)  # each scrolls where the window leaves it too little room
        self._stack.setCurrentIndex(at)
        self._sides.setCurrentIndex(at)
        self.machine.put_instead(stop.instead)
        self.refresh()
        self.setFocus(Qt.FocusReason.OtherFocusReason)

    def go_to(self, key: str) -> Stop:
        """Move to a stop by its key."""
        self.go(next(i for i, stop in enumerate(ALL_STOPS) if stop.key == key))
        return self.stop

    def refresh(self) -> None:
        """Show the job as it now is: the stop on the screen and what stands around it."""
        if self.index < 0:
            return
        if self._was_shown:
            self.session.figures_wait = False
        self._was_shown = True
        self.strip.refresh()
        self.machine.refresh()
        self.stop.refresh()
        if self.index < len(STOPS):
            self._on_rail = self.index
        self.rail.show_stop(
            self._on_rail, [stop.words(self.session) for stop in STOPS], beside=self.index >= len(STOPS)
        )
        if self.first_steps is not None:
            self.first_steps.refresh()
        beside = ALL_STOPS[self.index].key
        self.strip.plan.setChecked(beside == PLAN.key)
        self.strip.strip_down.setChecked(beside == STRIP_DOWN.key)
        self.strip.work.setChecked(beside == WORK.key)
        self.strip.practice.setChecked(beside == PRACTICE.key)

    def show_first_steps(self, over: Callable[[], object], *, is_own: bool = False) -> None:
        """Ask for the five gestures to begin with, of the demo or of one's own job; `over` is called once
        they are done or not wanted.
        """
        from trebb.app.window.first_steps import OWN_STEPS, STEPS, FirstSteps

        self.first_steps = FirstSteps(self, over, OWN_STEPS if is_own else STEPS)
        self._box.insertWidget(2, self.first_steps)

    def add_piece(self, family: str) -> None:
        """Add a piece of that family to the chosen assembly, and choose it."""
        self.machine.add.add_one(family)

    def switch_units(self) -> None:
        """Thou and tenths, or mm and µm; stored numbers stay."""
        self.session.show_in(UnitSystem.METRIC if self.session.system is UnitSystem.INCH else UnitSystem.INCH)

    def _lock(self, locked: bool) -> None:
        if locked != self.session.job.is_power_locked:
            self.session.record(PowerLocked(locked=locked))

    def look_at_file(self) -> None:
        """Say at once what happened to the job's file from outside; each thing once. A job that is only
        looked at is followed.
        """
        self.session.follow()
        trouble = self.session.file.trouble()
        if trouble != self._said_of_file:
            self._said_of_file = trouble
            self.trouble.setVisible(bool(trouble))
            if trouble:
                self._refused(
                    f"{self.session.path.name}: {trouble}. Nothing more is recorded until it is back."
                )

    def _save_anew(self) -> None:
        try:
            self.session.file.save_anew()
        except JobFileError as error:
            self._refused(str(error))
            return
        self._said_of_file = ""
        self.trouble.hide()

    def _refused(self, sentence: str) -> None:
        self.save_anew.setVisible(bool(self.session.file.trouble()) and not self.session.path.exists())
        self.trouble.say("beyond", sentence, "What was shown as taken before is safe.")

    def opener(self) -> Any:
        """The window that this frame stands in."""
        return self.window()

    def _open_menu(self) -> None:
        from trebb.app.window.menu import fill

        menu = QMenu(self)
        menu.setAttribute(Qt.WidgetAttribute.WA_DeleteOnClose)
        fill(menu, self.opener())
        menu.popup(self.strip.menu.mapToGlobal(self.strip.menu.rect().bottomLeft()))

    def _say_saved(self) -> None:
        self.trouble.say(
            "soft",
            "Nothing needs saving.",
            f"All that was said is written already, in {self.session.path}; Menu writes it out in open "
            "formats.",
        )

    def _say_week(self) -> None:
        self.trouble.say(
            "soft",
            "All machines stand on the start page.",
            "Ctrl+W closes this job; Ctrl+J opens them there.",
        )

    def show_from_afar(self) -> None:
        """Numerals for arm's length, and back."""
        from trebb.app.window.from_afar import FromAfar

        pod, plan = getattr(self.stop, "pod", None), getattr(self.stop, "plan", None)
        if plan is not None:
            from trebb.app.plan.from_afar import PlanFromAfar

            view: QWidget = PlanFromAfar(self, plan)
        elif pod is None or not self.session.case.has_set_ups:
            from trebb.app.window.far_cover import StopFromAfar

            view = StopFromAfar(self)
        else:
            view = FromAfar(self, pod)
        self._cover(view, view)

    def bring_in(self, path: Path | None = None) -> None:
        """Readings from a spreadsheet, pasted or from a file."""
        from trebb.app.window.bring_in import BringIn

        if not self.is_settled():
            return
        page = BringIn(self, self.session)
        self._cover(page, page.text)
        if path is not None:
            page.read(path)

    def show_table(self, s: AnySetUp, phase: str) -> None:
        """Many readings of a set-up at once, of the chosen part."""
        from trebb.app.survey.readings_table import ReadingsTable

        if self.is_settled():
            page = ReadingsTable(self, self.session, s, phase)
            self._cover(page, page.grid)

    @property
    def stop_key(self) -> str:
        """Key of the stop on the screen."""
        return ALL_STOPS[self.index].key

    def show_where_from(self) -> None:
        """What the figures of the chosen assembly rest on; silent while those are for the user to say."""
        from trebb.app.help.figure_cover import FigureCover

        if not self.session.is_told("expert") or not self.is_settled():
            return
        cover = FigureCover(self, self.session)
        self._cover(cover, cover)

    def _cover(self, cover: QWidget, first: QWidget) -> None:
        """Show a page over the job, with the keys at one of its widgets."""
        cover.setGeometry(self.rect())
        cover.show()
        cover.raise_()
        first.setFocus()

    def show_print(self) -> None:
        """The papers of what is on the screen, as they would be printed."""
        from trebb.app.papers.cover import PrintCover

        if not self.is_settled():
            return
        part = str(getattr(self.stop, "part_key", "") or getattr(self.stop, "key", ""))
        case = self.session.case
        known = (*case.part_keys(), *case.extra_parts(), *case.default_parts)
        kind = self.stop.paper or ("readings" if case.is_measured else "part")
        cover = PrintCover(self, self.session, part if part in known else "", kind)
        self._cover(cover, cover.kinds[kind])

    def is_settled(self) -> bool:
        """What was typed belongs to what was on show: it is taken there, or refused there, before anything
        else is shown.
        """
        waiting = (w for w in self.findChildren(QWidget) if isinstance(w, Settles))
        return all(w.settle() for w in waiting if w.isVisible())

    def take_typed(self) -> None:
        """The window ends, or may: what was typed is taken, or kept as a draft; what is refused is not asked
        about.
        """
        for waiting in self.findChildren(QWidget):
            if isinstance(waiting, AtRest) or (isinstance(waiting, Settles) and waiting.isVisible()):
                waiting.settle()

    def _escape(self) -> None:
        for cover in self.findChildren(FarCover):
            if cover.isVisible():
                cover.back()
                return
        field = QApplication.focusWidget()
        if isinstance(field, LengthEdit):
            field.drop()
        self.setFocus(Qt.FocusReason.OtherFocusReason)
        self.refresh()

    # keys -------------------------------------------------------------------------------------

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab goes as the eye does, through what stands there now: panel by panel, row by row."""
        order = in_reading_order(self)
        if not order:
            return False
        at = QApplication.focusWidget()
        here = order.index(at) if at in order else -1 if forward else 0
        to = order[(here + (1 if forward else -1)) % len(order)]
        to.setFocus(Qt.FocusReason.TabFocusReason if forward else Qt.FocusReason.BacktabFocusReason)
        for area in self.findChildren(QScrollArea):
            if area.isAncestorOf(to):
                area.ensureWidgetVisible(to)
        return True

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Bench keys; anything else is left, and goes no further up than this."""
        event.setAccepted(not self._is_typing() and self._bench_key(event))

    def _is_typing(self) -> bool:
        return isinstance(QApplication.focusWidget(), QLineEdit | QPlainTextEdit)

    def _bench_key(self, event: QKeyEvent) -> bool:
        """Keys that work with oily hands: space, backspace, up, down, and figures from a wedge cable."""
        if (
            not self.session.case.has_set_ups
            or event.modifiers() & ~Qt.KeyboardModifier.KeypadModifier & ~Qt.KeyboardModifier.ShiftModifier
        ):
            return False
        key = event.key()
        if key == Qt.Key.Key_Space and not isinstance(QApplication.focusWidget(), QPushButton):
            return self.stop.take()
        if key == Qt.Key.Key_Backspace:
            return self.stop.strike()
        if key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            return self.stop.step(-1 if key == Qt.Key.Key_Up else 1)
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            return self.stop.turn_by(-1 if key == Qt.Key.Key_Left else 1)
        text = event.text()
        if text and (text in "0123456789.,-+" or text == self.link.wedge_prefix[:1]):
            return self.stop.typed(text)
        return False

    def close_job(self) -> None:
        """Let instrument and file go."""
        self._watch.stop()
        self.take_typed()
        for cover in self.findChildren(Cover):
            cover.close()
        self.link.close()
        self.session.close()
        # What is connected to a session is held by it, out of the collector's sight: frame and all.
        for told in (self.session.changed, self.session.refused):
            told.disconnect()
        self.session.guards.clear()
