"""The survey bench: set-ups, figure, places and notes; used before the repair and again after it."""

from __future__ import annotations

import statistics
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QLineEdit, QPushButton, QWidget

from trebb.app.places_view import Figure, PlaceRow, PlacesView
from trebb.app.pod import Pod, reading_text, reading_unit
from trebb.app.session import Session
from trebb.app.widgets import Banner, Choice, FigureView, button, clear, column, label, row, scrolled
from trebb.core.machine import State
from trebb.core.survey import SET_UPS, Outlier, Place, SetUp, set_up, spread
from trebb.core.units import show_minutes
from trebb.logbook.casework import SCREW
from trebb.logbook.entries import DriveStated, ReadingKept, ReadingStruck

REASONS = ("bumped", "misread", "set-up moved", "lash not taken up", "tried only")


class Bench(QWidget):
    """Chooses a set-up and a place; takes and strikes readings there.

    `phase` is "before" or "after"; after the repair only the proving set-ups
    are offered. `aimed` says that the place to be read may be another now,
    `done` that a question was answered.
    """

    aimed = Signal()
    done = Signal()

    def __init__(self, session: Session, pod: Pod, phase: str, *, with_notes: bool) -> None:
        super().__init__()
        self.session, self.pod, self.phase = session, pod, phase
        self.set_ups = [s for s in SET_UPS if phase == "before" or s.is_proof]
        self.current = self.set_ups[0]
        self.place_key: str | None = None
        self._striking: int | None = None
        self._asked: tuple[object, ...] = ()
        box = column(spacing=8)
        self.setLayout(box)
        self.title = label("", "title")
        self.purpose = label("", "soft", wrap=True)
        box.addWidget(self.title)
        box.addWidget(self.purpose)
        self.chips: dict[str, QPushButton] = {}
        box.addLayout(self._chip_row())
        self.figure = FigureView()
        self.figure.setFixedHeight(142 if with_notes else 128)
        box.addWidget(self.figure)
        middle = row(spacing=14)
        self.places = PlacesView()
        self.places.chosen.connect(self.choose_place)
        self.places.figure_chosen.connect(self.ask_strike)
        left = column(spacing=10)
        left.addWidget(self.places, 1)
        self.banner = Banner()
        self.banner.hide()
        left.addWidget(self.banner)
        middle.addLayout(left, 6)
        self.notes = _Notes()
        if with_notes:
            middle.addWidget(self.notes, 5)
        box.addLayout(middle, 1)

    def _chip_row(self) -> QHBoxLayout:
        chips = row(spacing=4)
        group = QButtonGroup(self)
        for s in self.set_ups:
            chip = button(s.title, partial(self.choose_set_up, s.key), tip=f"{s.title}: settles {s.settles}", key=f"Alt+{s.letter}", shortcut=True, kind="chip", name=f"set_up_{s.key}")
            chip.setCheckable(True)
            group.addButton(chip)
            chips.addWidget(chip)
            self.chips[s.key] = chip
        chips.addStretch()
        return chips

    # where ------------------------------------------------------------------------------------

    def choose_set_up(self, key: str) -> None:
        """Move to a set-up; the place with fewest readings comes next."""
        self.current = set_up(key)
        self.place_key = None
        self._striking = None
        self.refresh()

    def choose_place(self, key: str) -> None:
        """Move to a place; it may be read again however often."""
        self.place_key = key
        self._striking = None
        self.refresh()

    def step(self, by: int) -> None:
        """The next or the previous place."""
        keys = [p.key for p in self.current.places(self.session.case.drive)]
        place = self.place()
        i = keys.index(place.key) + by if place else 0
        self.choose_place(keys[max(0, min(len(keys) - 1, i))])

    def place(self) -> Place | None:
        """Where the next reading goes: as chosen by hand, else where readings are wanted."""
        drive = self.session.case.drive
        if self.place_key in {p.key for p in self.current.places(drive)}:
            return self.current.place(drive, self.place_key or "")
        return self.session.case.next_place(self.current, self.phase)

    # gestures ---------------------------------------------------------------------------------

    def take(self, raw: float, typed: str, instrument: str) -> None:
        """Record a reading at the place; the next place is then chosen."""
        place = self.place()
        if place is None:
            return
        self.place_key = None
        self._striking = None
        self.session.take(self.current, place.key, self.phase, raw, typed=typed, instrument=instrument)

    def strike_last(self) -> bool:
        """Ask for a reason to strike out the last reading of this set-up."""
        standing = [r for r in self.session.job.readings(SCREW, self.current.key, self.phase) if r.struck is None]
        if not standing:
            return False
        self.ask_strike(max(standing, key=lambda r: r.id).id)
        return True

    def ask_strike(self, reading: int) -> None:
        """Ask for the reason before striking a reading out."""
        known = [r for r in self.session.job.readings(SCREW, self.current.key, self.phase) if r.id == reading]
        if known and known[0].struck is None:
            self._striking = reading
            self.refresh()

    def _strike(self, reason: str) -> None:
        if self._striking is None:
            return
        reading, self._striking = self._striking, None
        self.session.record(ReadingStruck(reading=reading, reason=reason.strip() or "no reason given"))
        self.done.emit()

    def _cancel(self) -> None:
        self._striking = None
        self.refresh()
        self.done.emit()

    # showing ----------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show set-up, places and what there is to ask."""
        session, s = self.session, self.current
        drive = session.case.drive
        self.title.setText(s.title)
        self.purpose.setText(f"Settles {s.settles}.  {show_minutes(s.setting_minutes)} to set up, {s.minutes:g} min a place.")
        for key, chip in self.chips.items():
            this = set_up(key)
            total = len(this.places(drive))
            read = len(session.job.standing(SCREW, key, self.phase))
            short = {"lash": "Lash", "push_pull": "Push, pull", "end_float": "End float", "turns_travel": "Turns", "thread_size": "Thread size"}[key]
            chip.setText(f"{this.letter} {short} {min(read, total)}/{total}")
            chip.setChecked(key == s.key)
        place = self.place()
        keys = s.places(drive)
        self.figure.show_figure(s.figure(drive, (place or keys[0]).key))
        self.places.show_rows(tuple(self._row(s, p) for p in keys), place.key if place else "")
        self.notes.show_set_up(s)
        self.pod.aim(s, place)
        self.aimed.emit()
        self._show_question()

    def _row(self, s: SetUp, p: Place) -> PlaceRow:
        system = self.session.system
        readings = self.session.job.readings(SCREW, s.key, self.phase, p.key)
        values = [r.taken.value for r in readings if r.struck is None]
        mean = statistics.fmean(values) if values else None
        longest = self._longest(s)
        return PlaceRow(
            p.key, p.label, p.note, tuple(Figure(r.id, reading_text(r.taken.value, s, system), r.struck) for r in readings),
            reading_text(mean, s, system) if mean is not None else "",
            mean / longest if mean is not None and longest > 0 and not s.is_size else 0.0,
            f"± {reading_text(spread(values) / 2, s, system)}" if len(values) > 1 and not s.is_size else "",
            len(values) >= s.wanted,
        )  # fmt: skip

    def _longest(self, s: SetUp) -> float:
        means = [statistics.fmean(p.values) for p in self.session.job.standing(SCREW, s.key, self.phase)]
        return max(means, default=0.0)

    def _show_question(self) -> None:
        """The one thing to ask or to say; left alone while it is the same, because building it costs more than a reading."""
        odd = None
        if self._striking is not None:
            question: tuple[object, ...] = ("strike", self._striking)
        elif self.phase == "before" and not self.session.case.dial_is_stated and self.current.key == "lash":
            question = ("dial",)
        elif (odd := self.session.odd_reading(self.current, self.phase)) is not None:
            question = ("odd", *odd)
        else:
            question = ("verdict", *(self._verdict() or ()))
        question = (*question, self.session.system, self.current.key)
        if question == self._asked:
            return
        self._asked = question
        clear(self.banner.buttons)
        if question[0] == "strike":
            self._show_strike()
        elif question[0] == "dial":
            self._ask_dial()
        elif odd is not None:
            self._show_odd(*odd)
        elif (verdict := self._verdict()) is not None:
            self.banner.say(*verdict)
        else:
            self.banner.hide()

    def _show_strike(self) -> None:
        readings = self.session.job.readings(SCREW, self.current.key, self.phase)
        reading = next(r for r in readings if r.id == self._striking)
        text = reading_text(reading.taken.value, self.current, self.session.system)
        unit = reading_unit(self.current, self.session.system)
        self.banner.say("soft", f"Strike out {text} {unit} at {reading.taken.place}?", "It stays readable, with the reason, and no longer counts.")
        reason = Choice()
        reason.setEditable(True)
        reason.addItems(REASONS)
        reason.setObjectName("strike_reason")
        reason.setToolTip("Why it is struck out")
        reason.setMinimumWidth(200)
        field = reason.lineEdit()
        if isinstance(field, QLineEdit):
            field.returnPressed.connect(lambda: self._strike(reason.currentText()))
            field.selectAll()
        self.banner.buttons.addWidget(reason)
        self.banner.buttons.addWidget(button("Strike out", lambda: self._strike(reason.currentText()), kind="dark", tip="Strike the reading out", key="Enter", name="strike_out"))
        self.banner.buttons.addWidget(button("Keep it", self._cancel, kind="link", tip="Keep the reading", key="Esc"))
        self.banner.buttons.addStretch()
        reason.setFocus(Qt.FocusReason.OtherFocusReason)

    def _ask_dial(self) -> None:
        self.banner.say("soft", "How is this dial numbered?", "Turn the handwheel once and measure: does the dial count the slide's travel, or twice that (the work's diameter)?")
        for key, words in (("radius", "Counts the slide's travel"), ("diameter", "Counts the diameter")):
            self.banner.buttons.addWidget(
                button(words, partial(self.session.record, DriveStated(assembly=SCREW, field="reads", value=key)), kind="dark", tip=f"{words}; asked once", name=f"dial_{key}")
            )
        self.banner.buttons.addStretch()

    def _show_odd(self, reading: int, place: str, found: Outlier) -> None:
        here, others = (reading_text(v, self.current, self.session.system) for v in (found.value, found.typical))
        unit = reading_unit(self.current, self.session.system)
        self.banner.say("near", f"{here} {unit} at {place}, about {others} at the others: keep, or strike out?", "It is recorded either way.")
        self.banner.buttons.addWidget(button("Keep it", lambda: self.session.record(ReadingKept(reading=reading)), kind="dark", tip="It is what was read", name="keep_reading"))
        self.banner.buttons.addWidget(button("Strike out", lambda: self.ask_strike(reading), tip="Strike the reading out, with a reason", key="Backspace", name="strike_odd"))
        self.banner.buttons.addStretch()


    def _verdict(self) -> tuple[str, str, str] | None:
        """What the readings say so far: tone, head, text."""
        case = self.session.case
        if self.phase != "before" or not case.is_measured:
            return None
        found = case.findings(self.session.system)
        first = found[0]
        tangled = next((f for f in found if f.key.startswith("tangle")), None)
        text = f"{tangled.sentence} {tangled.next_move}" if tangled else first.next_move
        return {State.BEYOND: "beyond", State.NEAR: "near"}.get(first.state, "within"), first.sentence, text


class _Notes(QWidget):
    """Steps, cautions, what it can and cannot tell."""

    def __init__(self) -> None:
        super().__init__()
        box = column(spacing=6)
        self.setLayout(box)
        self._inner = QWidget()
        self._box = column(spacing=3)
        self._inner.setLayout(self._box)
        box.addWidget(scrolled(self._inner))
        self._shown = ""

    def show_set_up(self, s: SetUp) -> None:
        """Show another set-up's notes."""
        if s.key == self._shown:
            return
        self._shown = s.key
        clear(self._box)
        self._box.addWidget(label("How", "strong"))
        for i, step in enumerate(s.steps, start=1):
            self._box.addWidget(label(f"{i}  {step}", wrap=True))
        for caution in s.cautions:
            banner = Banner()
            banner.say("near", "", caution)
            self._box.addWidget(banner)
        self._box.addWidget(label("Tells", "strong"))
        self._box.addWidget(label(s.tells, wrap=True))
        self._box.addWidget(label("Cannot tell", "strong"))
        self._box.addWidget(label(s.cannot_tell, wrap=True))
        self._box.addStretch()



