"""What a fitter finds and does where Trebb has no model: in own words, with cost, hours and steps."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QCheckBox, QWidget

from trebb.app.look.fields import Fields
from trebb.app.look.widgets import clear, column, label, with_ampersands
from trebb.app.window.session import Session
from trebb.core.errors import InputError
from trebb.core.machine import State
from trebb.logbook.log.entries import NoteWritten, StepDone
from trebb.logbook.log.own import STATES, own_plan, own_steps, own_topic

MOST_LETTERS, MOST_NUMBER = 400, 1e6


class OwnWords(QWidget):
    """A finding, a remedy and its steps, written by hand; the steps are ticked here."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=6)
        self.setLayout(box)
        box.addWidget(label("In your own words", "strong"))
        self.fields = Fields()
        self._words("finding", "What is wrong", "What is wrong with it, as one would say it")
        self.fields.add_choice(
            "own_state", "How bad", STATES, lambda: self._note("state"), self._write("state"), "How bad it is"
        )
        self._words("remedy", "What is done", "The remedy, in a few words")
        self._number("cost", "Money", "What it costs")
        self._number("hours", "Hours", "Bench time, hours")
        self._number("wait", "Days to wait", "Days until parts or others have come")
        self._words("steps", "Steps", "One after another, with ; between")
        box.addWidget(self.fields)
        self._ticks = column(spacing=2)
        box.addLayout(self._ticks)

    def _note(self, what: str) -> str:
        return self._session.job.note(own_topic(self._session.assembly, what))

    def _write(self, what: str) -> Callable[[str], object]:
        def commit(text: str) -> None:
            self._session.record(
                NoteWritten(topic=own_topic(self._session.assembly, what), text=text.strip())
            )

        return commit

    def _words(self, what: str, words: str, tip: str) -> None:
        def commit(text: str) -> None:
            if len(text) > MOST_LETTERS:
                raise InputError(f"{len(text)} letters", f"no more than {MOST_LETTERS}")
            self._write(what)(text)

        self.fields.add(f"own_{what}", words, lambda: self._note(what), commit, tip, is_words=True)

    def _number(self, what: str, words: str, tip: str) -> None:
        def commit(text: str) -> None:
            plain = text.strip().replace(",", ".")
            try:
                value = float(plain) if plain else 0.0
            except ValueError:
                raise InputError(f"“{text.strip()}”", "a number, such as 2.5") from None
            if not 0 <= value <= MOST_NUMBER:
                raise InputError(f"“{text.strip()}”", f"a number from 0 to {MOST_NUMBER:g}")
            self._write(what)(f"{value:g}")

        self.fields.add(f"own_{what}", words, lambda: self._note(what), commit, tip)

    def refresh(self) -> None:
        """Show the chosen assembly's."""
        self.fields.refresh()
        job, assembly = self._session.job, self._session.assembly
        clear(self._ticks)
        done = job.steps_done(own_plan(assembly))
        for step in own_steps(job, assembly):
            tick = QCheckBox(with_ampersands(step))
            tick.setToolTip("Tick it when it is done, or take the tick back")
            tick.setFocusPolicy(Qt.FocusPolicy.TabFocus)
            tick.setChecked(step in done)
            tick.toggled.connect(lambda on, step=step: self._tick(step, on=on))
            self._ticks.addWidget(tick)

    def _tick(self, step: str, *, on: bool) -> None:
        self._session.record(StepDone(plan=own_plan(self._session.assembly), step=step, done=on))


def own_state(session: Session, assembly: str) -> State | None:
    """How bad an assembly is by one's own words; None where nothing is said."""
    if not session.job.note(own_topic(assembly, "finding")):
        return None
    said = session.job.note(own_topic(assembly, "state"))
    return {"within": State.WITHIN, "near": State.NEAR, "beyond": State.BEYOND}.get(said, State.UNKNOWN)
