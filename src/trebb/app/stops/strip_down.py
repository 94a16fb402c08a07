"""Strip-down: what comes off, in the order it does, so that it can go back."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QHBoxLayout, QVBoxLayout, QWidget

from trebb.app.look.typed import DraftEdit, LengthEdit
from trebb.app.look.widgets import (
    Banner,
    Choice,
    button,
    clear,
    column,
    label,
    row,
    rule,
    scrolled,
)
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.stops.base import Stop
from trebb.app.stops.boxes_panel import BoxesPanel
from trebb.app.stops.came_rows import CameRows, ThingRow
from trebb.app.stops.picture_line import PictureLine
from trebb.app.window.far_cover import Far
from trebb.core.dual_units import in_units
from trebb.core.errors import TrebbError
from trebb.core.fitup import FitStep, assembly_order
from trebb.core.fitup.stripped import CAUTIONS, MARKS, Came, Rule, checked_rule, usual_next
from trebb.core.units import UnitSystem
from trebb.core.words import large
from trebb.logbook.cases.boxes import arrived_as, lists_for, looked_at
from trebb.logbook.cases.strip_down import (
    came_off,
    meet_key,
    not_settled,
    rule_key,
    stated,
    strip_key,
    to_take,
)
from trebb.logbook.log.entries import Body, MatterStated, PhotoAdded

if TYPE_CHECKING:
    from trebb.app.window.host import Host


MOST_USUAL = 3
FIELDS = ("what", "held", "hidden", "way", "mark", "shim", "shim_at", "stuck", "tray")
NONE_YET = "Note what comes off; how it was held, which way round, its shim and bag then stand here."
PHOTO_HEIGHT = 110
FAR_KEYS = "up and down: another    ·    P keeps the newest picture"


class StripDownStop(Stop):
    """What must be taken first, what is marked, then part after part as it comes off."""

    def __init__(self, frame: Host) -> None:
        super().__init__(frame)
        self.current = ""
        self._fields_of = ""
        self.pictures = PictureLine(self.session, self._keep_photo)
        self.setLayout(self._middle())
        self.side = self._side()

    def _middle(self) -> QVBoxLayout:
        box = column(spacing=6)
        head = row(spacing=8)
        self.title = label("", "title")
        head.addWidget(self.title, 1)
        head.addWidget(label("It came", "soft"))
        self.arrived = Choice()
        self.arrived.setMinimumContentsLength(26)
        self.arrived.setObjectName("strip_arrived")
        self.arrived.setAccessibleName("How it came")
        self.arrived.setToolTip("Whole, or in boxes: then it is checked by a list of what there should be")
        self.arrived.activated.connect(self._choose_list)
        head.addWidget(self.arrived)
        box.addLayout(head)
        self.refusal = label("", "refused", wrap=True)
        self.refusal.hide()
        box.addWidget(self.refusal)
        self.boxes = BoxesPanel(self.session)
        self.boxes.looked.connect(self.refresh)
        box.addWidget(self.boxes, 1)
        self.apart = QWidget()
        self.apart.setLayout(self._coming_off())
        box.addWidget(self.apart, 1)
        self.doubt = label("", "soft", wrap=True)
        box.addWidget(self.doubt)
        return box

    def _coming_off(self) -> QVBoxLayout:
        box = column(spacing=6)
        self.banner = Banner()
        box.addWidget(self.banner)
        self.first_box = column(spacing=3)
        box.addLayout(self.first_box)
        meeting = row(spacing=6)
        self.meets = DraftEdit("must_meet", "What must meet again", lambda: self.session.drafts)
        self.meets.setPlaceholderText("marks that must meet again: dial’s nought at its index, half nut in")
        self.meets.setToolTip("Two marks that must meet when it is together again (Enter adds it)")
        self.meets.returnPressed.connect(self.add_meeting)
        meeting.addWidget(self.meets, 1)
        meeting.addWidget(
            button("Must meet", self.add_meeting, tip="It is read before, and again", name="add_must_meet")
        )
        box.addLayout(meeting)
        self.marks = label("", "soft", wrap=True)
        box.addWidget(self.marks)
        box.addWidget(rule())
        adding = row(spacing=6)
        self.what = DraftEdit("came_off", "What comes off", lambda: self.session.drafts)
        self.what.setPlaceholderText("what comes off, then how it was held: gib, 2 screws M6")
        self.what.setToolTip("What comes off; behind a comma how it was held (Enter notes it)")
        self.what.returnPressed.connect(self.note_down)
        adding.addWidget(self.what, 1)
        adding.addWidget(
            button(
                "Note it",
                self.note_down,
                tip="Note what came off",
                key="Enter",
                name="note_came_off",
                kind="dark",
            )
        )
        box.addLayout(adding)
        self.usual = row(spacing=4)
        box.addLayout(self.usual)
        self.rows = CameRows()
        self.rows.chosen.connect(self.look_at)
        self.rows.moved.connect(self.reorder)
        box.addWidget(scrolled(self.rows), 1)
        return box

    def _side(self) -> QWidget:
        side = QWidget()
        box = column(spacing=6)
        side.setLayout(box)
        self.here = label("", "head", wrap=True)
        box.addWidget(self.here)
        inner = QWidget()
        about = column(spacing=5)
        inner.setLayout(about)
        about.addWidget(self.pictures.shown)
        about.addWidget(self.boxes.side)
        self.none_yet = label(NONE_YET, "soft", wrap=True)
        about.addWidget(self.none_yet)
        self.back_at = label("Goes back at", "small")
        about.addWidget(self.back_at)
        self.step_choice = Choice()
        self.step_choice.setObjectName("strip_step")
        self.step_choice.setAccessibleName("Step of fit-up that puts it back")
        self.step_choice.setToolTip("Step of fit-up that puts it back")
        self.step_choice.activated.connect(self._choose_step)
        about.addWidget(self.step_choice)
        self.fields = matter_fields(self.session, "strip", lambda: self.current, FIELDS)
        about.addWidget(self.fields)
        about.addStretch(1)
        box.addWidget(scrolled(inner), 1)
        box.addWidget(self.pictures)
        self.gone = button(
            "It did not come off",
            self.take_back,
            kind="link",
            tip="Take it off this list again",
            name="strip_gone",
        )
        box.addWidget(self.gone)
        self._build_rule(box)
        return side

    def _build_rule(self, box: QVBoxLayout) -> None:
        box.addWidget(rule())
        box.addWidget(label("Learned by doing it twice", "strong"))
        rule_line = row(spacing=4)
        self.before, self.then = Choice(), Choice()
        for choice, name, words in (
            (self.before, "rule_before", "Goes first"),
            (self.then, "rule_then", "Only then"),
        ):
            choice.setObjectName(name)
            choice.setAccessibleName(words)
            choice.setToolTip(words)
            rule_line.addWidget(choice, 1)
        box.addLayout(rule_line)
        box.addWidget(
            button(
                "First this, then that", self.learn, tip="Keep this order for the machine", name="learn_rule"
            )
        )

    # gestures ---------------------------------------------------------------------------------

    @property
    def assembly(self) -> str:
        """The assembly that comes apart."""
        return self.session.assembly

    def look_at(self, key: str) -> None:
        """Look at another part."""
        self.current = key
        self.refresh()

    def _choose_list(self) -> None:
        """It came whole, or in boxes."""
        try:
            self.session.record(
                arrived_as(self.session.job, self.assembly, str(self.arrived.currentData() or ""))
            )
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self._refuse("")

    def step(self, by: int) -> bool:
        if self.boxes.boxed is not None:
            self.boxes.step(by)
            return True
        came = came_off(self.session.job, self.assembly)
        keys = [one.key for one in came]
        if keys:
            i = keys.index(self.current) if self.current in keys else 0
            self.look_at(keys[max(0, min(len(keys) - 1, i + by))])
        return True

    def note_down(self) -> None:
        """Note what was typed: words, behind the first comma how it was held."""
        what, _, held = self.what.text().partition(",")
        if not what.strip():
            return
        if self._add(what.strip(), held.strip(), ""):
            self.what.entered()

    def _add(self, what: str, held: str, step: str) -> bool:
        """Note that it came off; False where it could not be, and why is said."""
        missing = not_settled(self.session.job, self.assembly, self.session.case.family)
        if missing:
            self._refuse(f"First take, or waive with a reason: {'; '.join(missing)}.")
            return False
        key = strip_key(self.session.job)
        fields = {"assembly": self.assembly, "what": what, "held": held, "step": step}
        try:
            if not self.session.record(*[MatterStated("strip", key, k, v) for k, v in fields.items() if v]):
                return False
        except TrebbError as error:
            self._refuse(f"{error}.")
            return False
        self._refuse("")
        self.look_at(key)
        return True

    def _refuse(self, sentence: str) -> None:
        self.refusal.setText(sentence)
        self.refusal.setVisible(bool(sentence))

    def take_first(self, of: str, text: str, *, waive: bool) -> None:
        """What must be taken before was, or is waived and why."""
        field = "waived" if waive else "taken"
        try:
            self.session.record(MatterStated("strip", of, field, text.strip()))
        except TrebbError as error:
            self._refuse(f"{error}.")

    def add_meeting(self) -> None:
        """Marks that must meet again on the assembly on show."""
        what = self.meets.text().strip().rstrip(".")
        if not what:
            return
        of = meet_key(self.session.job)
        try:
            said = stated(of, assembly=self.assembly, first=what)
            if not self.session.record(*said):
                return
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self.meets.entered()

    def reorder(self, key: str, by: int) -> None:
        """Earlier or later in the order."""
        keys = [one.key for one in came_off(self.session.job, self.assembly)]
        i = keys.index(key)
        k = max(0, min(len(keys) - 1, i + by))
        if k == i:
            return
        keys.insert(k, keys.pop(i))
        self.session.record(*[MatterStated("strip", one, "at", float(n)) for n, one in enumerate(keys)])

    def take_back(self) -> None:
        """It did not come off."""
        if self.current:
            self.session.record(MatterStated("strip", self.current, "gone", "yes"))

    def _choose_step(self) -> None:
        if self.current:
            step = str(self.step_choice.currentData() or "")
            self.session.record(MatterStated("strip", self.current, "step", step))

    def learn(self) -> None:
        """Keep an order that was learned."""
        made = Rule(str(self.before.currentData()), str(self.then.currentData()))
        case = self.session.case
        try:
            checked_rule(case.fit_order(), made)
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self._refuse("")
        key = rule_key(self.session.job)
        fields = {"assembly": self.assembly, "before": made.before, "then": made.then}
        self.session.record(*[MatterStated("rule", key, k, v) for k, v in fields.items()])

    def _keep_photo(self, sha: str, media: str, data: bytes, name: str) -> bool:
        here, thing = self._here(), self.boxes.thing()
        words = thing.what if thing is not None else here.what if here is not None else ""
        bodies: list[Body] = [PhotoAdded(self.assembly, sha, media, name, words)]
        if thing is not None:
            bodies += looked_at(self.assembly, thing.key, photo=sha)
        elif here is not None:
            bodies.append(MatterStated("strip", here.key, "photo", sha))
        return bool(self.session.record(*bodies, photographs={sha: (media, data)}))

    def far(self) -> Far:
        """The thing looked at, how it was held, whether it has its picture."""
        here = self._here()
        head = f"Taking {self.session.case.assembly.label} down"
        if here is None:
            return Far(head, lines=("Nothing is down yet",))
        rest = _row(here, self.session.system).rest
        photo = "photographed" if here.photo else "no picture yet"
        return Far(head, lines=tuple(w for w in (here.what, rest, photo) if w), keys=FAR_KEYS)

    def far_key(self, key: Qt.Key) -> bool:
        if key == Qt.Key.Key_P:
            self.pictures.take_newest()
        return key == Qt.Key.Key_P

    # showing ----------------------------------------------------------------------------------

    def _here(self) -> Came | None:
        return next((o for o in came_off(self.session.job, self.assembly) if o.key == self.current), None)

    def refresh(self) -> None:
        session, case = self.session, self.session.case
        came = came_off(session.job, self.assembly)
        if self.current not in [o.key for o in came]:
            self.current = came[-1].key if came else ""
        in_boxes = self._show_arrived()
        steps = assembly_order(case.known_steps())
        if in_boxes:
            self.title.setText(f"{case.assembly.label}, in boxes")
            self.boxes.refresh()
        else:
            self.title.setText(f"Taking {case.assembly.label} down")
            self._show_first()
            marks = MARKS.get(case.family, "what goes two ways round, and what was a pair.")
            self.marks.setText(in_units(f"Mark before: {marks}\n{CAUTIONS}", session.system))
            self._show_usual(steps, came)
            self.rows.show_rows([_row(one, session.system) for one in came], self.current)
        doubts = case.fit_doubts()
        self.doubt.setText("\n".join(doubts))
        self.doubt.setVisible(bool(doubts))
        self._show_here(steps)
        for choice in (self.before, self.then):
            self._fill(choice, [(s.title, s.key) for s in case.fit_order()])

    def _show_arrived(self) -> bool:
        """How it came; whether in boxes."""
        boxed, fitting = self.boxes.boxed, lists_for(self.session.job, self.assembly)
        rows = [("whole", ""), *((f"in boxes: {one.title}", key) for key, one in fitting.items())]
        at = 0
        if boxed is not None:
            at = next((i for i, (_, key) in enumerate(rows) if key and fitting[key] == boxed.of), len(rows))
            if at == len(rows):  # a list that has changed since, or lies on another machine
                rows.append((f"in boxes: {boxed.of.title}", ""))
        self._fill(self.arrived, rows)
        self.arrived.setCurrentIndex(at)
        self.arrived.setEnabled(len(rows) > 1)
        self.boxes.setVisible(boxed is not None)
        self.apart.setVisible(boxed is None)
        return boxed is not None

    def _show_first(self) -> None:
        job, case = self.session.job, self.session.case
        wanted = to_take(job, self.assembly, case.family)
        missing = not_settled(job, self.assembly, case.family)
        if missing:
            self.banner.say(
                "near",
                "Before anything comes out.",
                "Photograph it as it stands; take these, or say why not.",
            )
        else:
            words = (
                "Photograph it as it stands, before each part." if not came_off(job, self.assembly) else ""
            )
            self.banner.say("soft", "It may come apart: power locked, what is heavy slung or blocked.", words)
        state = repr([(of, taken, waived) for of, _, _, taken, waived in wanted])
        if state == self._fields_of:
            return
        self._fields_of = state
        clear(self.first_box)
        for of, words, why, taken, waived in wanted:
            self.first_box.addLayout(self._first_line(of, words, why, taken, waived))

    def _first_line(self, of: str, words: str, why: str, taken: str, waived: str) -> QHBoxLayout:
        line = row(spacing=6)
        said = label(in_units(words, self.session.system), wrap=True)
        said.setToolTip(why)
        line.addWidget(said, 1)
        edit = LengthEdit(f"take_{of.rpartition('.')[2]}", words)
        edit.at_buttons = False  # Waive takes it as the reason
        edit.setToolTip(f"{why} What it read (Enter keeps it)")
        edit.show_value(taken or waived)
        edit.setPlaceholderText("what it read, or why not")
        edit.committed.connect(lambda text: self.take_first(of, text, waive=False))
        line.addWidget(edit, 1)
        waive = button(
            "Waived" if waived else "Waive",
            lambda: self.take_first(of, edit.text() or "not wanted", waive=True),
            kind="chip",
            tip="It is not taken: write why in the field first",
            name=f"waive_{of.rpartition('.')[2]}",
        )
        waive.setCheckable(True)
        waive.setChecked(bool(waived and not taken))
        line.addWidget(waive)
        return line

    def _show_usual(self, steps: Sequence[FitStep], came: list[Came]) -> None:
        clear(self.usual)
        usual = usual_next(steps, came)[:MOST_USUAL]
        if usual:
            self.usual.addWidget(label("Usually next:", "soft"))
        for s in usual:
            title = in_units(s.title, self.session.system)
            words = title if len(title) <= 30 else f"{title[:28].rstrip()} …"
            self.usual.addWidget(
                button(words, partial(self._add, title, "", s.key), kind="link", tip=f"It came off: {title}")
            )
        self.usual.addStretch(1)

    def _show_here(self, steps: Sequence[FitStep]) -> None:
        here, thing = self._here(), self.boxes.thing()
        self.boxes.side.setVisible(thing is not None)
        for widget in (self.fields, self.step_choice, self.back_at, self.gone):
            widget.setVisible(thing is None and here is not None)
        self.none_yet.setVisible(thing is None and here is None)
        if thing is not None:
            self.here.setText(large(thing.words))
            self.pictures.show_photo(
                thing.what, self.boxes.boxed.at(thing.key).photo if self.boxes.boxed else ""
            )
            return
        self.here.setText(here.what if here is not None else "Nothing has come off yet")
        if here is not None:
            self.fields.refresh()
        self._fill(self.step_choice, [("a step of its own", ""), *((s.title, s.key) for s in steps)])
        if here is not None:
            self.step_choice.setCurrentIndex(max(0, self.step_choice.findData(here.step)))
        self.pictures.show_photo(here.what if here else "", here.photo if here else "")

    def _fill(self, choice: Choice, rows: list[tuple[str, str]]) -> None:
        if [(choice.itemText(i), choice.itemData(i)) for i in range(choice.count())] == rows:
            return
        at = choice.currentData()
        choice.clear()
        for words, key in rows:
            choice.addItem(words, key)
        choice.setCurrentIndex(max(0, choice.findData(at)))


def _row(one: Came, system: UnitSystem) -> ThingRow:
    bag = f"bag {one.tray}" if one.tray else ""
    rest = ", ".join(filter(None, (one.held, one.way, one.shim, bag)))
    return ThingRow(one.key, one.what, in_units(rest, system), bool(one.photo))
