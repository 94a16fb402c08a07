"""What arrived in boxes: the list it is checked by, a row a thing, found or missing."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import button, column, label, row, scrolled
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.stops.came_rows import CameRows, ThingRow
from trebb.app.window.session import Session
from trebb.core.fitup.boxed import FOUND_WORDS, Boxed, Found, Thing
from trebb.core.machine import State
from trebb.core.words import small
from trebb.logbook.cases.boxes import looked_at, state_words, thing_key

MARKS: dict[Found, State] = {"yes": State.WITHIN, "no": State.BEYOND, "hurt": State.NEAR, "": State.UNKNOWN}


class BoxRows(CameRows):
    """Rows of things: Space says that it is here, Delete that it is missing."""

    def __init__(self, said: Callable[[Found], None]) -> None:
        super().__init__()
        self._said = said
        self.setAccessibleName("What there should be")
        self.setToolTip("What there should be; Space: it is here, Delete: it is missing")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space:
            self._said("yes")
        elif event.key() == Qt.Key.Key_Delete:
            self._said("no")
        else:
            super().keyPressEvent(event)


class BoxesPanel(QWidget):
    """Things of a list in the order they go in, and what that says; `side` tells of the one looked at."""

    looked = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self.at = ""
        box = column(spacing=6)
        self.setLayout(box)
        self.about = label("", "soft", wrap=True)
        box.addWidget(self.about)
        self.rows = BoxRows(self.say)
        self.rows.chosen.connect(self.look_at)
        box.addWidget(scrolled(self.rows), 1)
        line = row(spacing=6)
        ways: tuple[tuple[Found, str, str], ...] = (
            ("yes", "It is here", "Space"),
            ("no", "Missing", "Del"),
            ("hurt", "Hurt", ""),
        )
        for found, words, key in ways:
            line.addWidget(
                button(
                    words,
                    partial(self.say, found),
                    kind="chip",
                    tip="The thing looked at; the same again takes it back",
                    key=key,
                    name=f"box_{found}",
                )
            )
        line.addStretch(1)
        box.addLayout(line)
        self.state = label("", wrap=True)
        box.addWidget(self.state)
        self.side = QWidget()
        about = column(spacing=5)
        self.side.setLayout(about)
        self.told = label("", wrap=True)
        about.addWidget(self.told)
        self.fields = matter_fields(
            session, "box", lambda: thing_key(session.assembly, self.at), ("found", "measured", "note")
        )
        about.addWidget(self.fields)

    @property
    def boxed(self) -> Boxed | None:
        """What is shown."""
        return self._session.case.boxed

    def thing(self) -> Thing | None:
        """The thing looked at."""
        boxed = self.boxed
        if boxed is None:
            return None
        found = next((t for t in boxed.of.things if t.key == self.at), boxed.of.things[0])
        self.at = found.key
        return found

    def look_at(self, key: str) -> None:
        """Look at another thing."""
        self.at = key
        self.looked.emit()

    def step(self, by: int) -> None:
        """The next thing, or the one before."""
        boxed, here = self.boxed, self.thing()
        if boxed is not None and here is not None:
            things = boxed.of.things
            self.look_at(things[max(0, min(len(things) - 1, things.index(here) + by))].key)

    def say(self, found: Found) -> None:
        """What became of the thing looked at, and on to the next; the same again takes it back."""
        boxed, here = self.boxed, self.thing()
        if boxed is None or here is None:
            return
        again = boxed.at(here.key).found == found
        self._session.record(*looked_at(self._session.assembly, here.key, found="" if again else found))
        if not again:
            self.step(1)

    def refresh(self) -> None:
        """Show what there should be, and what was found."""
        boxed, here = self.boxed, self.thing()
        if boxed is None or here is None:
            return
        self.about.setText(f"{boxed.of.about} {boxed.of.lift}".strip())
        self.rows.show_rows([_row(t, boxed) for t in boxed.of.things], self.at)
        self.state.setText(state_words(boxed))
        self.told.setText(_told(here))
        self.fields.refresh()


def _row(t: Thing, boxed: Boxed) -> ThingRow:
    looked = boxed.at(t.key)
    lacks = FOUND_WORDS[looked.found] if looked.found in ("no", "hurt") else ""
    rest = ", ".join(filter(None, (lacks, looked.measured, looked.note)))
    rest = rest or (f"measure: {small(t.take)}" if t.take else "")
    return ThingRow(t.key, t.words, rest, bool(looked.photo), MARKS[looked.found], FOUND_WORDS[looked.found])


def _told(t: Thing) -> str:
    weighs = f"About {t.kg:.0f} kg." if t.kg else ""
    told = (
        ("Goes in: ", t.do),
        ("Which way: ", t.way),
        ("Before the next: ", t.free),
        ("Mind: ", t.why),
        ("Measure: ", t.take),
        ("", weighs),
    )
    return "\n".join(f"{head}{words}" for head, words in told if words)
