"""The indicator pod: needle, numerals, take reading, and the typed way in."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QHideEvent, QShowEvent
from PySide6.QtWidgets import QHBoxLayout, QWidget

from trebb.app.look import sounds
from trebb.app.look.widgets import button, column, label, row
from trebb.app.survey.dial_face import DialFace, turn_of
from trebb.app.survey.instrument_link import InstrumentLink, PortError, raw_of
from trebb.app.survey.reads_to import step_choices, step_said
from trebb.app.survey.several import LandingLine
from trebb.app.survey.typed_entry import TypedEntry
from trebb.app.window.session import Session
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError
from trebb.core.survey import AnySetUp, InstrumentKind, Place, admit_reading, doubt_of, readings_typed
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.survey.several import Landing, several_typed
from trebb.core.survey.shown import reading_text, reading_unit
from trebb.core.units import UnitSystem
from trebb.core.words import large, small
from trebb.instruments.reader import BAUD
from trebb.logbook.cases.asking import asked_first
from trebb.logbook.log.entries import phase_of

if TYPE_CHECKING:
    from trebb.app.survey.instrument_choice import InstrumentChoice

FRAME_MS = 30  # a little over 30 pictures a second
STILL_LINES = 3  # lines from the instrument over which a needle at rest stays where it is …
STILL_STEPS = 2.5  # … within so many of its steps
# An instrument that does not stream has said all it has to say when it is silent for so long.
SAID_SECONDS = 0.25
PATIENCE_LINES = 60  # how long a reading waits for the needle to come to rest
PATIENCE_SECONDS = 3.0  # how long for any line at all
NOTHING_NEW = (
    "Nothing new has come since the last reading: press the indicator's send button, or type the reading."
)
ALL_READ = "Every place of this set-up is read: choose a place to read it again."


class Pod(QWidget):
    """Reads the link thirty times a second while it is on the screen.

    `taken` carries (raw value in the set-up's unit, as typed, instrument).
    """

    taken = Signal(float, str, str)
    turn_taken = Signal(object, str)  # (place, raw value) of each angle, as typed
    several_taken = Signal(list)
    changed_instrument = Signal()
    strike = Signal()
    far = Signal()
    many = Signal()

    def __init__(self, session: Session, link: InstrumentLink, phase: str = "before") -> None:
        super().__init__()
        self._session, self._link, self._phase = session, link, phase
        self._set_up: AnySetUp | None = None
        self._place: Place | None = None
        self._raw: float | None = None
        self._recent: list[float] = []
        self._waits_from = 0
        self.is_sure = False  # what was just taken was asked about, and is so
        self._asked_about: tuple[str, ...] | None = None  # a reading that is taken when it is taken again
        self.is_waiting = False
        box = column(spacing=5)
        self.setLayout(box)
        box.addLayout(self._head())
        self._box = box
        self._sources: InstrumentChoice | None = None
        self.face = DialFace()
        box.addWidget(self.face, 1)
        self.blank = QWidget()
        self.blank.hide()
        box.addWidget(self.blank, 1)
        self.numeral = label("–", "numeral")
        self.numeral.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.numeral.setFixedHeight(58)
        box.addWidget(self.numeral)
        self.where = label("", "soft")
        self.where.setAlignment(Qt.AlignmentFlag.AlignCenter)
        box.addWidget(self.where)
        self.take_button = button(
            "Take reading",
            self.take,
            kind="primary",
            tip="Take what the instrument shows",
            key="Space",
            name="take_reading",
        )
        self.take_button.setMinimumHeight(40)
        box.addWidget(self.take_button)
        self.entry = TypedEntry(self.take, self.take_typed)
        box.addWidget(self.entry)
        self.lands = LandingLine(session, self.entry, self._several)
        self.refusal = label("", "refused", wrap=True)
        self.refusal.hide()
        box.addWidget(self.refusal)
        box.addLayout(self._keys())
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME_MS)
        self._timer.timeout.connect(self.poll)

    @property
    def _subject(self) -> Any:
        """What the readings taken here are understood by."""
        return self._session.case.read_as(self._phase)

    @property
    def sources(self) -> InstrumentChoice:
        """The choice of instruments, built when first wanted; it opens below the head."""
        if self._sources is None:
            from trebb.app.survey.instrument_choice import InstrumentChoice

            self._sources = InstrumentChoice(self._link, self.use, self._read_to)
            self._sources.hide()
            self._box.insertWidget(1, self._sources)
        return self._sources

    def _head(self) -> QHBoxLayout:
        head = row()
        self.title = label("Indicator", "head")
        self.source = button(
            "",
            self._toggle_sources,
            kind="link",
            tip="Choose the instrument",
            key="Ctrl+I",
            shortcut=True,
            name="instrument_source",
        )
        head.addWidget(self.title)
        head.addStretch()
        head.addWidget(self.source)
        return head

    def _keys(self) -> QHBoxLayout:
        keys = row(spacing=0)
        keys.addWidget(
            button(
                "Zero",
                self._zero,
                kind="link",
                tip="Set the indicator to zero here",
                key="Alt+Z",
                shortcut=True,
            )
        )
        keys.addStretch()
        keys.addWidget(
            button(
                "Strike out last",
                self.strike.emit,
                kind="link",
                tip="Strike out the last reading here, with a reason",
                key="Backspace",
            )
        )
        keys.addStretch()
        self.table = button(
            "Table",
            self.many.emit,
            kind="link",
            tip="Many readings at once: a table of its places, typed or pasted",
            key="Ctrl+K",
            shortcut=True,
            name="readings_table",
        )
        keys.addWidget(self.table)
        keys.addStretch()
        keys.addWidget(
            button("From afar", self.far.emit, kind="link", tip="Numerals for arm's length", key="F11")
        )
        return keys

    def showEvent(self, event: QShowEvent) -> None:
        self._timer.start()
        self.poll()

    def hideEvent(self, event: QHideEvent) -> None:
        self._timer.stop()

    def aim(self, s: AnySetUp | None, place: Place | None) -> None:
        """Point at a place of a set-up; the next reading goes there."""
        if s is not self._set_up or place != self._place:
            self.refuse("")
            self._forget_needle()
        if s is not self._set_up and self.entry.text():
            self.entry.clear()  # half a reading typed for another set-up is none of this one's
        self._set_up, self._place = s, place
        self.title.setText(
            "Dial"
            if s and s.unit == "div"
            else s.instrument.value.split(" or ")[0].split(" and ")[0].capitalize()
            if s
            else "Indicator"
        )
        self.entry.setPlaceholderText(self._hint())
        self.entry.say_whole()
        by_eye = s is not None and s.instrument is InstrumentKind.EYE
        for widget in (self.face, self.numeral, self.take_button, self.entry, self.source):
            widget.setVisible(not by_eye)
        self.blank.setVisible(by_eye)
        self.poll()

    def _hint(self) -> str:
        if self._set_up is None:
            return ""
        if self._set_up.unit in RAW_UNITS:
            return RAW_UNITS[self._set_up.unit].hint(self._session.system)
        if self._set_up.view == "turn":
            return (
                "or type it: 4 tenths, 6 thou TIR at 90"
                if self._session.system is UnitSystem.INCH
                else "or type it: 12 µm, 150 µm TIR at 90"
            )
        if self._set_up.is_signed:
            return (
                "or type it: -.0003, 4 tenths"
                if self._session.system is UnitSystem.INCH
                else "or type it: -0.008, or 12 µm"
            )
        if self._set_up.is_size:
            return "or type it: 0.7617" if self._session.system is UnitSystem.INCH else "or type it: 19.347"
        return (
            "or type it: 2.1, .0021, 6 tenths"
            if self._session.system is UnitSystem.INCH
            else "or type it: 50, 0.05, 0.05 mm"
        )

    @property
    def set_up(self) -> AnySetUp | None:
        """The set-up that is being read."""
        return self._set_up

    def show_raw(self, raw: float, *, unit: bool = True) -> str:
        """A raw reading of the set-up as text, to the instrument's resolution; "–" where there is none."""
        s = self._set_up
        if s is None:
            return "–"
        return reading_text(raw, s, self._session.system, unit=unit)

    def poll(self) -> None:
        """Follow the instrument."""
        key, sentence = self._link.state()
        words = {
            "live": "live",
            "quiet": "quiet",
            "gone": "unplugged",
            "ended": "stopped",
            "noise": "not understood",
            "keys": "typed",
        }[key]
        if key == "keys" and self._set_up is not None:
            words += step_said(self._session, self._set_up)
        self.source.setText(f"{'simulated, ' if self._link.kind == 'simulated' else ''}{words}")
        if self._sources is not None and self._sources.isVisible():
            self._sources.show_lines()
        self.source.setToolTip(f"{sentence}. Choose the instrument (Ctrl+I)")
        s, place = self._set_up, self._place
        if s is not None and s.family != self._session.case.family:
            s = None  # another part was chosen at another stop: this one is brought to it when it is shown
        if s is None or place is None:
            self._raw = None
            self.numeral.setText("–")
            by_eye = s is not None and s.instrument is InstrumentKind.EYE
            self.where.setText(
                "paint where the blue rubbed"
                if by_eye
                else "every place of this set-up is read"
                if s
                else "no set-up for this part yet"
            )
            self.take_button.setEnabled(False)
            self.entry.setEnabled(s is not None and not by_eye)
            self.face.spoken_value = "nothing to read"
            self.face.show_turn(0.0, False, "")
            return
        self._watch_needle()
        if self._set_up is not s or self._place is not place:
            return  # a reading that waited was taken just now: the pod stands elsewhere
        self.entry.setEnabled(True)
        self.take_button.setEnabled(self._raw is not None)
        self.numeral.setText(self.show_raw(self._raw, unit=False) if self._raw is not None else "–")
        self.face.spoken_value = self.show_raw(self._raw) if self._raw is not None else "no instrument"
        grouped = (
            s.view in ("rows", "profile", "gib", "ladder", "bore", "gear", "gear_names")
            and place.group
            and place.group not in place.label.lower()
        )
        words = f"{place.group}, {small(place.label)}" if grouped else place.label
        self.where.setText(
            in_units(f"{reading_unit(s, self._session.system)}  ·  {words}", self._session.system)
        )
        self.face.show_turn(*turn_of(s, self._raw, self._subject, self._session.system))

    def take(self) -> None:
        """Take what the instrument shows, or wait for it to come to rest."""
        if self._place is None:
            self.refuse(ALL_READ)
            return
        if self._raw is None and not self._link.is_live:
            self.refuse(f"Nothing to take: {self._link.state()[1]}. Type the reading instead.")
            return
        self.refuse("")
        self._waits_from = self._link.lines
        self.is_waiting = True
        self._try_take()

    def _try_take(self) -> None:
        """Take the reading that waits, if the needle rests; give up with a sentence where it cannot."""
        if self._is_still():
            self._take_now(self._recent[-1])
        elif self._link.lines - self._waits_from > PATIENCE_LINES:
            self.is_waiting = False
            self.refuse(
                "The needle does not come to rest: hold everything still, then take it again, or type the "
                "reading."
                if self._recent
                else NOTHING_NEW
            )
        elif self._link.silent_s > PATIENCE_SECONDS:
            self.is_waiting = False
            self.refuse(NOTHING_NEW)

    def _take_now(self, raw: float) -> None:
        assert self._set_up is not None
        assert self._place is not None
        self._forget_needle()
        where = (self._set_up.key, self._place.key)
        subject = self._subject
        try:
            admit_reading(self._set_up, subject, self._place.key, raw)
        except InputError as error:
            self.refuse(str(error))
            return
        doubt = doubt_of(self._set_up, subject, self._place.key, raw, self._session.system)
        doubt = doubt or self._question(self._place.key, raw, "")
        if self._asks(where, f"{self.show_raw(raw)}: {doubt} Take it again if that is what it shows.", doubt):
            return
        self.taken.emit(raw, "", self._link.name)
        sounds.taken()

    def _question(self, place: str, raw: float, typed: str) -> str:
        """What to ask of a reading before it counts; "" for nothing."""
        s, session = self._set_up, self._session
        assert s is not None
        return asked_first(session.case, s, phase_of(self._phase), place, raw, typed, session.system)

    def _asks(self, about: tuple[str, ...], sentence: str, doubt: str) -> bool:
        """Ask, unless the same was asked about just before: it is sure then."""
        self.is_sure = bool(doubt) and self._asked_about == about
        if not doubt or self.is_sure:
            self._asked_about = None
            return False
        self._asked_about = about
        self.refuse(sentence)
        return True

    def _is_still(self) -> bool:
        """Whether the lines that came since something changed agree: the last few, or the one line of an
        instrument that sends one a press.
        """
        if self._set_up is None or not self._recent:
            return False
        said = not self._link.is_streaming and self._link.silent_s >= SAID_SECONDS
        step = self._set_up.step(self._subject)
        enough = len(self._recent) >= STILL_LINES or said
        return enough and max(self._recent) - min(self._recent) <= STILL_STEPS * step

    def _forget_needle(self) -> None:
        """The needle is on its way to another place: what it sent so far is of before."""
        self._recent = []
        self.is_waiting = False
        self._link.changed()

    def _watch_needle(self) -> None:
        """What the newest lines since the change say, in the set-up's unit; a waiting reading is taken."""
        s = self._set_up
        assert s is not None
        found = [raw_of(one, s, self._subject) for one in self._link.fresh()[-STILL_LINES:]]
        self._recent = [raw for raw in found if raw is not None]
        self._raw = self._recent[-1] if self._recent else None
        if self.is_waiting:
            self._try_take()

    def take_typed(self, text: str) -> None:
        """Take a reading as typed; a refusal leaves the text where it is."""
        if self._set_up is None:
            return
        if self._place is None:
            self.refuse(ALL_READ)
            return
        text = self._link.bare(text)
        try:
            if landed := self._several(text):
                self._take_several(landed)
                return
            found = self._read(text)
        except InputError as error:
            self.refuse(str(error))
            return
        place, raw = max(found, key=lambda one: abs(one[1]))
        doubt = self._question(place, raw, text)
        sentence = f"“{text.strip()}”: {doubt} Enter again takes it as it is."
        if self._asks((self._set_up.key, self._place.key, text), sentence, doubt):
            return
        self.refuse("")
        self.entry.clear()
        if len(found) == 1 and place == self._place.key:
            self.taken.emit(found[0][1], text.strip(), "typed")
        else:
            self.turn_taken.emit(found, text.strip())
        sounds.taken()

    def _several(self, text: str) -> list[Landing]:
        """Where several readings typed at once land; empty where it is one."""
        s, place, bare = self._set_up, self._place, self._link.bare(text)
        if s is None or place is None:
            return []
        onward = self._session.case.places_onward(s, phase_of(self._phase), place)
        return several_typed(s, self._subject, onward, bare, self._session.system)

    def _take_several(self, landed: list[Landing]) -> None:
        doubt = next((d for x in landed if (d := self._question(x.place, x.raw, x.typed))), "")
        if self._asks(tuple(x.typed for x in landed), f"{doubt} Enter again takes them as they are.", doubt):
            return
        self.refuse("")
        self.entry.clear()
        self.several_taken.emit(landed)
        sounds.taken()

    def _read(self, text: str) -> list[tuple[str, float]]:
        s, place = self._set_up, self._place
        assert s is not None
        assert place is not None
        return readings_typed(s, self._subject, place.key, text, self._session.system)

    def refuse(self, sentence: str) -> None:
        """Say why something was not taken, or nothing."""
        self.refusal.setText(sentence)
        self.refusal.setVisible(bool(sentence))
        self.entry.mark(bool(sentence))

    def _zero(self) -> None:
        self._link.zero()
        self._forget_needle()

    @property
    def has_practice(self) -> bool:
        """Whether a simulated machine stands behind the chosen part."""
        case = self._session.case
        return case.has_set_ups and case.practice("before") is not None

    def _toggle_sources(self) -> None:
        self.sources.setVisible(not self.sources.isVisible())
        if self.sources.isVisible():
            self.sources.fill(has_practice=self.has_practice)
            self._fill_steps()

    def _fill_steps(self) -> None:
        s, session = self._set_up, self._session
        offers = step_choices(session, s, self._phase) if s is not None else []
        self.sources.fill_steps(offers, session.step_mm(s) if s is not None else 0.0)

    def _read_to(self, step_mm: float) -> None:
        """Readings typed from now on are read to this; 0 as their figures fall."""
        if self._set_up is not None:
            self._session.steps[self._set_up.instrument.value] = step_mm
        self.poll()

    def use(self, kind: str, port: str = "", line_format: str = "mm", baud: int = BAUD) -> None:
        """Read from another instrument; says so here if it will not open."""
        try:
            if kind == "simulated":
                self._link.use_simulated()
            elif kind == "serial":
                self._link.use_serial(port, line_format, baud)
            else:
                self._link.use_keys()
        except PortError as error:
            self.refuse(f"{large(str(error))}.")
            return
        self.refuse("")
        self._forget_needle()
        if kind == "serial" or self._sources is not None:
            self.sources.setVisible(kind == "serial")  # until its lines are seen to be understood
        self.changed_instrument.emit()
        self.poll()
