"""Intake: what came through the door."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QHBoxLayout, QStackedWidget, QWidget

from trebb.app.look import painting, theme
from trebb.app.look.fields import Fields
from trebb.app.look.typed import Notes
from trebb.app.look.widgets import (
    Banner,
    button,
    clear,
    column,
    exclusive,
    label,
    plain_tip,
    row,
    rule,
    scrolled,
)
from trebb.app.stops.base import Stop
from trebb.app.stops.picture_line import NO_PICTURE, chosen_picture, copied_picture
from trebb.app.survey.symptoms import SuspectsSide, SymptomsPage
from trebb.app.survey.trials_page import TrialsPage
from trebb.app.window.session import Session
from trebb.core.dual_units import in_units
from trebb.core.errors import TrebbError
from trebb.core.facts import Choice, Fact, Words
from trebb.core.machine import State
from trebb.core.stating import card_schema, limit_fact
from trebb.core.units import show_small
from trebb.core.words import small
from trebb.logbook.file.photographs import read_photograph
from trebb.logbook.log.entries import (
    CardChanged,
    Entry,
    Grade,
    Graded,
    LimitSet,
    NoteWritten,
    NumberOneNamed,
    PhotoAdded,
)

if TYPE_CHECKING:
    from trebb.app.window.host import Host

GRADES: dict[Grade, str] = {
    "good": "good",
    "looks": "looks only",
    "works": "works as it is",
    "accuracy": "spoils accuracy",
    "stops": "stops work",
}
GRADE_STATE: dict[Grade, State] = {
    "good": State.WITHIN,
    "looks": State.WITHIN,
    "works": State.NEAR,
    "accuracy": State.BEYOND,
    "stops": State.BEYOND,
}
LATHES_OWN = ("dial_gear", "dial_marks", "stud_to_screw_mm", "compound_from")
# On another machine's card these are of the lathe that makes its parts.
EMPTY = ("lead_screw", "wheels", "spindle_bore_mm", "press_kn")
OF_THE_LATHE = ("lead_screw", "spindle_bore_mm", "wheels", "gear_ratio")
OWN_CARD = "from this machine's own card"
PHOTO_HEIGHT = 84
PAGES = (
    ("machine", "The machine", "Its card, the walk-round, its limits"),
    ("symptoms", "What it does", "What the owner hears, feels and sees; suspects"),
    ("trials", "Trials", "What was tried, how it came, what that clears and leaves"),
)


class IntakeStop(Stop):
    """The machine's card, the walk-round of the chosen part, and the rated limits."""

    paper = "card"

    def __init__(self, frame: Host) -> None:
        super().__init__(frame)
        inner = QWidget()
        box = column(spacing=5)
        inner.setLayout(box)
        outer = column(spacing=6)
        self.setLayout(outer)
        top = row(spacing=4)
        self.title = label("", "title")
        top.addWidget(self.title)
        top.addStretch(1)
        self.page = "machine"
        self.chips = exclusive(self, top, PAGES, self.show_page, prefix="intake")
        outer.addLayout(top)
        self.pages = QStackedWidget()
        self.pages.addWidget(scrolled(inner))
        self.symptoms = SymptomsPage(self.session)
        self.symptoms.pitch_wanted.connect(self._open_pitch)
        self.pages.addWidget(scrolled(self.symptoms))
        self.trials: TrialsPage | None = None  # made when it is first looked at
        outer.addWidget(self.pages, 1)
        box.addWidget(self._card())
        box.addWidget(label("In the owner's words", "strong"))
        self._notes()
        box.addWidget(self.words)
        box.addWidget(rule())
        self.part = label("", "head")
        box.addWidget(self.part)
        box.addLayout(self._grades())
        box.addWidget(self.note)
        box.addLayout(self._photographs())
        box.addWidget(rule())
        box.addWidget(label("Rated limits", "head"))
        self.limits = self._limits()
        box.addWidget(self.limits)
        box.addStretch(1)
        self.side = self.sides = QStackedWidget()
        walk = QWidget()
        side = column(spacing=8)
        walk.setLayout(side)
        self.sides.addWidget(walk)
        self.suspects = SuspectsSide(self.session)
        self.suspects.chosen.connect(self._go_to)
        self.sides.addWidget(self.suspects)
        side.addWidget(label("Walk-round", "head"))
        self.walk = _Walk(self.session)
        self.walk.chosen.connect(self.session.choose)
        side.addWidget(self.walk)
        side.addStretch(1)
        caution = Banner()
        caution.say(
            "near",
            "",
            "Photographs and match marks before anything comes apart. Wiring undone is an electrician's.",
        )
        side.addWidget(caution)

    def show_page(self, key: str) -> None:
        """The machine's card and walk-round, or what it does and who is suspected."""
        self.page = key
        self.refresh()

    def _open_pitch(self, assembly: str) -> None:
        self.session.choose(assembly)
        self.open_fact("pitch_mm")

    def _go_to(self, key: str) -> None:
        """An assembly that is suspected; behind a space the set-up that reads it."""
        assembly, _, set_up = key.partition(" ")
        self.session.choose(assembly)
        if set_up:
            stop = self.frame.go_to("survey")
            if any(s.key == set_up for s in self.session.case.set_ups):
                stop.bench.choose_set_up(set_up)

    # building ---------------------------------------------------------------------------------

    def _card(self) -> Fields:
        self.card = fields = Fields(columns=2)
        schema, is_lathe = card_schema(), self.session.case.kind.key == "lathe"
        unit = "an inch" if self.session.job.card("lead_screw_unit", "inch") == "inch" else "mm"
        for fact in schema.asked("intake"):
            if fact.key in LATHES_OWN and not is_lathe:
                continue
            words = fact.words
            if fact.key == "lead_screw":
                words = f"{words}, turns {unit}" if unit == "an inch" else f"{words}, {unit}"
            if fact.key in OF_THE_LATHE and not is_lathe:
                words = f"Lathe at hand: {small(words)}"
            self._add_line(fields, fact, words)
        return fields

    def _add_line(self, fields: Fields, fact: Fact, words: str) -> None:
        """A line of the card as a field."""

        def read() -> str:
            value = self._on_card(fact)
            sign = self.session.job.card("currency") if fact.key == "worth" else ""
            return "" if value is None else sign + fact.shown(value, self.session.system)

        def commit(text: str) -> None:
            bodies = [CardChanged(field=fact.key, value=fact.typed(text, self.session.system))]
            sign = text.strip()[:1]
            if fact.key == "worth" and sign and sign in "£$€":
                bodies.append(CardChanged(field="currency", value=sign))
            self.session.record(*bodies)

        tip = fact.tip or words
        if isinstance(fact, Choice):
            fields.add_choice(
                fact.key, words, fact.choices, lambda: str(self._on_card(fact) or ""), commit, tip
            )
        else:
            plain = isinstance(fact, Words) and fact.is_plain
            fields.add(fact.key, words, read, commit, tip, is_words=plain)

    def _on_card(self, fact: Fact) -> object:
        """A line of the card as stated; else what the workshop counts with; None where nothing is known."""
        job, shop = self.session.job, self.session.case.workshop
        usual: dict[str, object] = {
            "lead_screw": float(1 / shop.lead_screw_pitch if shop.lead_screw_inch else shop.lead_screw_pitch),
            "dial_gear": shop.dial_gear_teeth,
            "dial_marks": shop.dial_marks,
            "spindle_bore_mm": shop.spindle_bore_mm,
            "wheels": " ".join(map(str, shop.wheels)),
            "gear_ratio": str(shop.gear_ratio),
            "stud_to_screw_mm": shop.stud_to_screw_mm,
            "compound_from": "bed axis" if shop.compound_from_bed else "cross slide",
            "press_kn": shop.press_n / 1000,
        }
        if fact.key in EMPTY and not job.card(fact.key):
            # A usual one here would be taken for this lathe's own; a lead screw that survey named is.
            named = fact.key == "lead_screw" and "pitch_mm" in job.facts_of("lead_screw")
            return usual[fact.key] if named else None
        if fact.key in usual:
            return usual[fact.key]
        if fact.key == "worth":
            worth = job.card_number("worth", 0.0)
            return worth or None
        return job.card(fact.key)

    def _notes(self) -> None:
        """Words of the owner, and of what was seen on the part looked at."""
        self.words = Notes(
            "owners_words",
            "What is wrong, in the owner's words",
            lambda: self.session.job.card("words"),
            lambda text: self._card_line("words", text),
        )
        self.note = Notes(
            "grade_note",
            "What was seen on this part",
            self._grade_note,
            self._set_note,
            about=lambda: self.session.assembly,
        )

    def _grades(self) -> QHBoxLayout:
        line = row(spacing=4)
        self.grades = exclusive(
            self,
            line,
            ((key, words, f"Grade this part: {words}") for key, words in GRADES.items()),
            self._grade,
            prefix="grade",
        )
        line.addStretch()
        self.number_one = button(
            "Number one",
            self._name_number_one,
            tip="Name this part as the one that stops the machine",
            kind="chip",
            name="number_one",
        )
        self.number_one.setCheckable(True)
        line.addWidget(self.number_one)
        return line

    def _photographs(self) -> QHBoxLayout:
        line = row()
        self.add_photo_button = button(
            "Add a photograph", self._choose_photo, tip="Copy a picture file into the job", name="add_photo"
        )
        line.addWidget(self.add_photo_button)
        line.addWidget(
            button(
                "Paste one",
                self.paste_photo,
                kind="link",
                tip="The picture that was copied",
                key="Ctrl+V",
                name="paste_photo",
                shortcut=True,
            )
        )
        self.photos = row(spacing=6)
        line.addLayout(self.photos)
        self.photo_refusal = label("", "refused", wrap=True)
        line.addWidget(self.photo_refusal, 1)
        return line

    def _limits(self) -> Fields:
        fields = Fields(columns=2)
        self._limit_key = ""
        job = self.session.job
        self.limit_choice = fields.add_choice(
            "limit_of", "Limit", {}, self._limit_now, self._look_at_limit, "Which limit of this part"
        )
        fields.add(
            "limit",
            "At most",
            lambda: show_small(job.limit(self._limit_now()).limit_mm, self.session.system),
            self._set_limit,
            "Most allowed",
        )
        fields.add(
            "limit_source",
            "Source",
            lambda: job.limit(self._limit_now()).source,
            self._set_source,
            "Where the limit comes from",
        )
        return fields

    def _limit_now(self) -> str:
        """The limit looked at: as chosen, else the part's first."""
        keys = self.session.case.limit_keys()
        return self._limit_key if self._limit_key in keys else keys[0]

    def _look_at_limit(self, key: str) -> None:
        self._limit_key = key

    def _show_limits(self) -> None:
        keys = self.session.case.limit_keys()
        self.limits.setVisible(bool(keys))
        if not keys:
            return
        if [self.limit_choice.itemData(i) for i in range(self.limit_choice.count())] != list(keys):
            self.limit_choice.clear()
            for key in keys:
                self.limit_choice.addItem("", key)
        for i, key in enumerate(keys):
            label_ = in_units(self.session.job.limit(key).label, self.session.system)
            self.limit_choice.setItemText(i, label_)
        self.limits.refresh()

    # gestures ---------------------------------------------------------------------------------

    def _card_line(self, key: str, text: str) -> list[Entry]:
        return self.session.record(CardChanged(field=key, value=text.strip()))

    def _grade(self, grade: Grade) -> None:
        note = self._grade_note()
        self.session.record(Graded(assembly=self.session.assembly, grade=grade, note=note))

    def _grade_note(self) -> str:
        graded = self.session.job.grade(self.session.assembly)
        return graded.note if graded else self.session.job.note(f"seen.{self.session.assembly}")

    def _set_note(self, text: str) -> list[Entry]:
        """What was seen on a part; one that is not graded yet is not graded by a note."""
        about = self.session.assembly
        graded = self.session.job.grade(about)
        if graded is None:
            return self.session.record(NoteWritten(topic=f"seen.{about}", text=text))
        return self.session.record(Graded(assembly=about, grade=graded.grade, note=text))

    def _name_number_one(self) -> None:
        self.session.record(NumberOneNamed(assembly=self.session.assembly))

    def _choose_photo(self) -> None:
        if path := chosen_picture(self, "Add a photograph"):
            self.add_photo(path)

    def add_photo(self, path: Path) -> None:
        """Copy a picture into the job; says here why it is not one."""
        try:
            sha, media_type, data = read_photograph(path)
        except TrebbError as error:
            self.photo_refusal.setText(f"{error}.")
            return
        self._keep_photo(sha, media_type, data, path.name)

    def paste_photo(self) -> None:
        """Keep the picture that was copied; says here that none was."""
        copied = copied_picture()
        if copied is None:
            self.photo_refusal.setText(NO_PICTURE)
        else:
            self._keep_photo(*copied)

    def _keep_photo(self, sha: str, media_type: str, data: bytes, name: str) -> None:
        self.photo_refusal.setText("")
        self.session.record(
            PhotoAdded(assembly=self.session.assembly, sha256=sha, media_type=media_type, file_name=name),
            photographs={sha: (media_type, data)},
        )

    def _set_limit(self, text: str) -> None:
        key = self._limit_now()
        value = float(limit_fact(self.session.job.limit(key).label).typed(text, self.session.system))
        self.session.record(LimitSet(key=key, limit_mm=value, source=OWN_CARD))

    def _set_source(self, text: str) -> None:
        self.session.record(
            LimitSet(
                key=self._limit_now(),
                limit_mm=self.session.job.limit(self._limit_now()).limit_mm,
                source=text.strip() or OWN_CARD,
            )
        )

    # showing ----------------------------------------------------------------------------------

    def refresh(self) -> None:
        at = [key for key, *_ in PAGES].index(self.page)
        if self.page == "trials" and self.trials is None:
            self.trials = TrialsPage(self.session)
            self.pages.addWidget(scrolled(self.trials))
        self.pages.setCurrentIndex(at)
        self.sides.setCurrentIndex(min(at, 1))
        for key, chip in self.chips.items():
            chip.setChecked(key == self.page)
        if at:
            page = self.symptoms if self.trials is None or self.page == "symptoms" else self.trials
            page.refresh()
            self.suspects.refresh()
        session = self.session
        job = session.job
        started = job.started
        self.title.setText(started.machine if started else "Machine")
        self.card.refresh()
        self.words.show_value()
        assembly = session.case.kind.assembly(session.assembly)
        self.part.setText(f"Walk-round: {assembly.label}")
        graded = job.grade(assembly.key)
        for key, choice in self.grades.items():
            choice.setChecked(graded is not None and graded.grade == key)
        self.number_one.setChecked(job.number_one == assembly.key)
        self.note.show_value()
        self._show_limits()
        self.walk.refresh()
        self._show_photos(assembly.key)

    def _show_photos(self, assembly: str) -> None:
        clear(self.photos)
        for photo in self.session.job.photos(assembly)[-4:]:
            picture, why = self.session.thumbnails.of(self.session.file, photo.sha256)
            frame = label(f"{photo.file_name}: {why}" if why else "", "small" if why else "", wrap=bool(why))
            if not why:
                frame.setPixmap(
                    picture.scaledToHeight(PHOTO_HEIGHT, Qt.TransformationMode.SmoothTransformation)
                )
            frame.setToolTip(plain_tip(photo.file_name))
            self.photos.addWidget(frame)


class _Walk(painting.Painted, QWidget):
    """Every part with its grade; the number one problem is marked."""

    is_list = True

    chosen = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._row = theme.target(30.0)
        self._session = session
        self.setAccessibleName("Walk-round")
        self.setToolTip("Choose a part to grade")

    def refresh(self) -> None:
        """Show the grades as they now are, and pieces that came or went."""
        self.setFixedHeight(round(self._row * len(self._session.case.kind.assemblies)))
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for i, assembly in enumerate(self._session.case.kind.assemblies):
            area = QRectF(0, i * self._row, self.width(), self._row)
            if assembly.key == self._session.assembly:
                painting.mark_here(painter, area)
                painter.fillRect(area, theme.colour("blue_wash"))
            graded = self._session.job.grade(assembly.key)
            state = GRADE_STATE[graded.grade] if graded else State.UNKNOWN
            inset = 14 if assembly.under else 0
            painting.paint_mark(painter, QPointF(12 + inset, area.center().y()), state, 5.2)
            first = self._session.job.number_one == assembly.key
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if first else theme.REGULAR))
            middle = Qt.AlignmentFlag.AlignVCenter
            painting.write_in(
                painter,
                area.adjusted(26 + inset, 0, -96 - inset, 0),
                middle | Qt.AlignmentFlag.AlignLeft,
                assembly.label,
            )
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.colour(theme.state_role(state)))
            words = "number one" if first else GRADES[graded.grade] if graded else "not graded"
            painter.drawText(area.adjusted(0, 0, -4, 0), middle | Qt.AlignmentFlag.AlignRight, words)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int(event.position().y() // self._row)
        assemblies = self._session.case.kind.assemblies
        if 0 <= i < len(assemblies):
            self.chosen.emit(assemblies[i].key)
