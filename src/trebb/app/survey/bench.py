"""The survey bench: set-ups, figure, places and notes; used before the repair and again after it."""

from __future__ import annotations

import math
from collections.abc import Sequence
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QButtonGroup, QGridLayout, QLineEdit, QPushButton, QStackedWidget, QWidget

from trebb.app.look.widgets import (
    TONES,
    Banner,
    Choice,
    FigureView,
    ProgressChip,
    button,
    clear,
    column,
    label,
    row,
)
from trebb.app.survey.bench_aside import BenchAside
from trebb.app.survey.pod import Pod
from trebb.app.views import ReadingView, make_view
from trebb.app.views.base import Shown
from trebb.app.window.session import Session
from trebb.core.figure import said_in
from trebb.core.survey import AnySetUp, Outlier, Place, set_up, set_ups_of
from trebb.core.survey.angles import split_place
from trebb.core.survey.several import Landing
from trebb.core.survey.shown import reading_text, reading_unit
from trebb.core.units import show_minutes
from trebb.logbook.cases.case import Question
from trebb.logbook.log.entries import ReadingKept, ReadingStruck

MOST_CHIPS = 6  # in one row
COUNTED_CHIPS = 5  # so many have room for their counts, more show a bar
WIDE_VIEWS = ("turn", "push", "ladder", "gib", "profile", "lead", "naming", "bore", "gear", "gear_names")
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
        self.with_notes = with_notes
        self.assembly = ""
        self.set_ups: tuple[AnySetUp, ...] = ()
        # A machine of which nothing can be read yet still has a bench, with nothing on it.
        first = session.cases.first().set_ups or set_ups_of("screw_drive")
        self.current: AnySetUp = first[0]
        self.place_key: str | None = None
        self.angle_deg: float | None = None
        self._striking: int | None = None
        self._asked: tuple[object, ...] = ()
        box = column(spacing=8)
        self.setLayout(box)
        head = row(spacing=14)
        self.title = label("", "title")
        self.purpose = label("", "soft")
        self.purpose.setMinimumWidth(10)
        self.purpose.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
        head.addWidget(self.title)
        head.addWidget(self.purpose, 1)
        box.addLayout(head)
        self.chips: dict[str, QPushButton] = {}
        self._chip_grid = QGridLayout()
        self._chip_grid.setSpacing(4)
        box.addLayout(self._chip_grid)
        self._group = QButtonGroup(self)
        self.figure = FigureView()
        self.figure.setFixedHeight(142 if with_notes else 128)
        box.addWidget(self.figure)
        middle = row(spacing=14)
        self._views: dict[str, ReadingView] = {}
        self._stack = QStackedWidget()
        middle.addWidget(self._stack, 6)
        self.aside = BenchAside(session)
        middle.addWidget(self.aside, 5)
        box.addLayout(middle, 1)
        self.aside.setVisible(with_notes)  # not before it has its place: it would be a window of its own
        self.banner = Banner()
        self.banner.hide()
        box.addWidget(self.banner)
        self._middle = middle
        self._take_over()

    def _take_over(self) -> None:
        """Another part was chosen: its set-ups."""
        case = self.session.case
        if not case.has_set_ups:
            return
        offered = case.set_ups_in(self.phase)
        if case.assembly_key == self.assembly and offered == self.set_ups:
            return
        stays = case.assembly_key == self.assembly and self.current in offered
        self.assembly, self.set_ups = case.assembly_key, offered
        if not stays:
            self.current, self.place_key, self._striking, self.angle_deg = offered[0], None, None, None
        clear(self._chip_grid)
        self.chips = {}
        columns = len(self.set_ups) if len(self.set_ups) <= MOST_CHIPS else math.ceil(len(self.set_ups) / 2)
        for i, s in enumerate(self.set_ups):
            chip = button(
                f"{s.letter} {s.short}",
                partial(self.choose_set_up, s.key),
                tip=f"{s.title}: settles {s.settles}",
                key=f"Alt+{s.letter}",
                shortcut=True,
                kind="chip" if len(self.set_ups) <= COUNTED_CHIPS else "progress",
                name=f"set_up_{s.key}",
            )
            chip.setCheckable(True)
            self._group.addButton(chip)
            self._chip_grid.addWidget(chip, i // columns, i % columns)
            self.chips[s.key] = chip

    def view(self) -> ReadingView:
        """The picture of this set-up's readings, built when first wanted."""
        key = self.current.view
        if key not in self._views:
            view = make_view(key)
            view.chosen.connect(self.choose_place)
            view.figure_chosen.connect(self.ask_strike)
            view.turned.connect(self.turn_to)
            self._views[key] = view
            self._stack.addWidget(view)
        return self._views[key]

    # where ------------------------------------------------------------------------------------

    def choose_set_up(self, key: str) -> None:
        """Move to a set-up, or to a lot of it ("test_bar/seat 2 at 180°"); the place with fewest readings
        comes next.
        """
        name, _, lot_key = key.partition("/")
        found = {s.key: s for s in self.set_ups}
        if name not in found:
            owner = next(
                (c for c in self.session.cases.measurable() if any(s.key == name for s in c.set_ups)), None
            )
            if owner is None or owner.assembly_key == self.session.assembly:
                return
            self.session.choose(
                owner.assembly_key
            )  # the level decides about the headstock: another part's set-up
            self._take_over()
            found = {s.key: s for s in self.set_ups}
            if name not in found:
                return
        self.current = found[name]
        self.place_key = None
        if lot_key:
            lot = next(
                (lot for lot in self.current.all_lots(self.session.case.subject) if lot.key == lot_key), None
            )
            left = {p.key for p in self.session.case.places_left(self.current, self.phase)}
            self.place_key = next((p for p in lot.places if p in left), None) if lot is not None else None
        self._striking = None
        self._stand_still()
        self.refresh()

    def choose_place(self, key: str) -> None:
        """Move to a place; it may be read again however often."""
        self.place_key = key
        self._striking = None
        self._stand_still()
        self.refresh()

    def turn_to(self, degrees: float) -> None:
        """The simulated spindle was turned by hand: the needle follows; near a marked angle that place is
        chosen.
        """
        place = self.place()
        if place is None:
            return
        self.angle_deg = degrees
        angles = {
            p.key: split_place(p.key)[1]
            for p in self.current.places(self.session.case.subject)
            if p.group == place.group
        }
        near = min(angles, key=lambda k: abs((angles[k] - degrees + 180) % 360 - 180))
        self.place_key = near
        self.refresh()

    def _stand_still(self) -> None:
        """The spindle stands at the place to be read."""
        self.angle_deg = None

    def step(self, by: int) -> None:
        """The next or the previous place; of a turn the next turn."""
        keys = [p.key for p in self.current.places(self.session.case.subject)]
        if not keys:
            return
        place = self.place()
        if self.current.view == "turn" and place is not None:
            groups = list(dict.fromkeys(p.group for p in self.current.places(self.session.case.subject)))
            group = groups[max(0, min(len(groups) - 1, groups.index(place.group) + by))]
            self.choose_place(self._first_left(group))
            return
        i = keys.index(place.key) + by if place else 0
        self.choose_place(keys[max(0, min(len(keys) - 1, i))])

    def _first_left(self, group: str) -> str:
        left = {p.key for p in self.session.case.places_left(self.current, self.phase)}
        places = [p.key for p in self.current.places(self.session.case.subject) if p.group == group]
        return next((k for k in places if k in left), places[0])

    def turn_by(self, step: int) -> bool:
        """Left and right: the neighbouring angle of a turn."""
        return self.view().turn_by(step)

    def place(self) -> Place | None:
        """Where the next reading goes: as chosen by hand, else where readings are wanted."""
        case = self.session.case
        if case.family != self.current.family:  # another part was chosen while another stop was on show
            return None
        subject = case.subject
        if self.place_key in {p.key for p in self.current.places(subject)}:
            return self.current.place(subject, self.place_key or "")
        return self.session.case.next_place(self.current, self.phase)

    # gestures ---------------------------------------------------------------------------------

    def take(self, raw: float, typed: str, instrument: str) -> None:
        """Record a reading at the place; the next place is then chosen."""
        if (place := self.place()) is None:
            return
        self.place_key = self.session.case.place_after(self.current, self.phase, place)
        self._striking = None
        self._stand_still()
        said = {"typed": typed, "instrument": instrument}
        self.session.take(self.current, place.key, self.phase, raw, **said, is_sure=self.pod.is_sure)

    def take_turn(self, found: Sequence[tuple[str, float]], typed: str) -> None:
        """Record a turn typed as one figure; the next place wanted is then chosen."""
        self.place_key = None
        self._striking = None
        self._stand_still()
        self.session.take_turn(self.current, self.phase, found, typed)

    def take_several(self, landed: Sequence[Landing]) -> None:
        """Record readings typed at once, in one gesture; the next place wanted is then chosen."""
        self.place_key = self._striking = None
        self._stand_still()
        session = self.session
        session.record(
            *(session.reading(self.current, x.place, self.phase, x.raw, x.typed, "typed") for x in landed)
        )

    def strike_last(self) -> bool:
        """Ask for a reason to strike out the last reading of this set-up."""
        standing = [
            r
            for r in self.session.job.readings(self.session.assembly, self.current.key, self.phase)
            if r.struck is None
        ]
        if not standing:
            return False
        self.ask_strike(max(standing, key=lambda r: r.id).id)
        return True

    def ask_strike(self, reading: int) -> None:
        """Ask for the reason before striking a reading out."""
        known = [
            r
            for r in self.session.job.readings(self.session.assembly, self.current.key, self.phase)
            if r.id == reading
        ]
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
        self._take_over()
        session, s = self.session, self.current
        case = session.case
        self.title.setText(s.title)
        each = f", {s.minutes:g} min a place" if s.places(case.subject) else ""
        self.purpose.setText(f"{show_minutes(s.setting_minutes)} to set up{each}")
        self.purpose.setToolTip(f"Settles {s.settles}")
        for key, chip in self.chips.items():
            this = set_up(key)
            total = len(this.places(case.subject))
            read = min(len(session.job.standing(session.assembly, key, self.phase)), total)
            if isinstance(chip, ProgressChip):
                chip.setText(f"{this.letter} {this.short}")
                painted = bool(session.job.contact(session.assembly, self.phase)) and this.view == "contact"
                chip.show_share(read / total if total else float(painted))
                chip.setToolTip(
                    f"{this.title}: "
                    f"{f'{read} of {total} places' if total else 'painted' if painted else 'not painted'}; "
                    f"settles {this.settles} (Alt+{this.letter})"
                )
            else:
                chip.setText(f"{this.letter} {this.short} {read}/{total}")
            chip.setChecked(key == s.key)
        place = self.place()
        keys = s.places(case.subject)
        self.figure.setVisible(s.view != "naming")  # seven rows and their candidates want the height
        figure = s.figure(case.subject, place.key if place else keys[0].key if keys else "")
        self.figure.show_figure(said_in(figure, self.session.system))
        view = self.view()
        self._stack.setCurrentWidget(view)
        shown = self.shown(place)
        view.show_readings(shown)
        self.aside.setVisible(self.with_notes and s.view not in ("naming", "gear_names"))
        self.aside.show_set_up(s, shown)
        self._middle.setStretch(0, 9 if s.view in WIDE_VIEWS else 6)
        self.figure.setFixedHeight((110 if s.family == "spindle" else 142) if self.with_notes else 128)
        self.pod.aim(s, place)
        self.aimed.emit()
        self._show_question()

    def shown(self, place: Place | None) -> Shown:
        """What the views are asked to show."""
        angle = self.angle_deg
        turned = place if self.current.view == "turn" and angle is None else None
        if turned is not None and self.session.case.practice(self.phase) is not None:
            angle = split_place(turned.key)[1]
        aside = self.session.case.distrusted(self.phase).get(self.current.key, "")
        return Shown(self.session, self.current, self.phase, place, aside, angle)

    def _show_question(self) -> None:
        """The one thing to ask or to say; left alone while it is the same, because building it costs more
        than a reading.
        """
        if self.session.figures_wait:
            return
        odd = asked = None
        if self._striking is not None:
            question: tuple[object, ...] = ("strike", self._striking)
        else:
            asked = self.session.case.question(self.current, self.phase, self.session.system)
            if asked is None or asked.key == "odd":  # the one just taken first
                odd = self.session.odd_reading(self.current, self.phase)
            if odd is not None:
                asked, question = None, ("odd", *odd)
            elif asked is not None:
                question = ("ask", asked)
            else:
                question = ("verdict", *(self._verdict() or ()))
        question = (*question, self.session.system, self.current.key, self.assembly)
        if question == self._asked:
            return
        self._asked = question
        clear(self.banner.buttons)
        if question[0] == "strike":
            self._show_strike()
        elif asked is not None:
            self._ask(asked)
        elif odd is not None:
            self._show_odd(*odd)
        elif (verdict := self._verdict()) is not None:
            self.banner.say(*verdict[:3])
            for i, (words, key) in enumerate(verdict[3]):
                self.banner.buttons.addWidget(
                    button(
                        words,
                        partial(self.choose_set_up, key),
                        kind="dark" if i == 0 else "link",
                        tip=f"Go to: {set_up(key).title.lower()}",
                        name=f"way_{key}",
                    )
                )
            self.banner.buttons.addStretch()
        else:
            self.banner.hide()

    def _show_strike(self) -> None:
        readings = self.session.job.readings(self.session.assembly, self.current.key, self.phase)
        reading = next(r for r in readings if r.id == self._striking)
        text = reading_text(reading.taken.value, self.current, self.session.system)
        unit = reading_unit(self.current, self.session.system)
        self.banner.say(
            "soft",
            f"Strike out {text} {unit} at {reading.taken.place}?",
            "It stays readable, with the reason, and no longer counts.",
        )
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
        self.banner.buttons.addWidget(
            button(
                "Strike out",
                lambda: self._strike(reason.currentText()),
                kind="dark",
                tip="Strike the reading out",
                key="Enter",
                name="strike_out",
            )
        )
        self.banner.buttons.addWidget(
            button("Keep it", self._cancel, kind="link", tip="Keep the reading", key="Esc")
        )
        self.banner.buttons.addStretch()
        reason.setFocus(Qt.FocusReason.OtherFocusReason)

    def _ask(self, asked: Question) -> None:
        self.banner.say("soft", asked.head, asked.text)
        for answer in asked.answers:
            self.banner.buttons.addWidget(
                button(
                    answer.words,
                    partial(self.session.record, *answer.bodies),
                    kind="dark",
                    tip=answer.tip,
                    name=answer.key,
                )
            )
        self.banner.buttons.addStretch()

    def _show_odd(self, reading: int, place: str, found: Outlier) -> None:
        here, others = (
            reading_text(v, self.current, self.session.system) for v in (found.value, found.typical)
        )
        unit = reading_unit(self.current, self.session.system)
        self.banner.say(
            "near",
            f"{here} {unit} at {place}, about {others} at the others: keep, or strike out?",
            "It is recorded either way.",
        )
        self.banner.buttons.addWidget(
            button(
                "Keep it",
                lambda: self.session.record(ReadingKept(reading=reading)),
                kind="dark",
                tip="It is what was read",
                name="keep_reading",
            )
        )
        self.banner.buttons.addWidget(
            button(
                "Strike out",
                lambda: self.ask_strike(reading),
                tip="Strike the reading out, with a reason",
                key="Backspace",
                name="strike_odd",
            )
        )
        self.banner.buttons.addStretch()

    def _verdict(self) -> tuple[str, str, str, tuple[tuple[str, str], ...]] | None:
        """What the readings say so far: tone, head, text, and set-ups that lead on."""
        case = self.session.case
        if not self.session.is_told("expert"):
            return None
        if (warning := case.warning(self.current, self.phase)) is not None:
            return "near", *warning
        if (
            self.phase != "before"
            or not case.is_measured
            or self.current.view in ("ladder", "naming", "gear_names")
        ):  # they say themselves what is next
            return None
        found = case.findings(self.session.system)
        if not found:
            return None
        first = found[0]
        tangled = next((f for f in found if f.key.startswith("tangle")), None)
        text = f"{tangled.sentence} {tangled.next_move}" if tangled else first.next_move
        ways = tuple((words, key) for words, key in first.set_ups if key != self.current.key)
        return TONES.get(first.state, "soft"), first.sentence, text, ways
