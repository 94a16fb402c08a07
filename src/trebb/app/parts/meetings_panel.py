"""Fit-up: marks that must meet again, seen to meet before anything fixes them, and read again at the end."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QWidget

from trebb.app.look.typed import LengthEdit
from trebb.app.look.widgets import button, clear, column, label, row
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.core.fitup.marks import refuse_unread
from trebb.core.machine import State
from trebb.logbook.cases.strip_down import Meeting, meetings
from trebb.logbook.log.entries import MatterStated


class MeetingsPanel(QWidget):
    """A line a pair of marks; not there where there are none."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._shown: list[Meeting] = []
        self.refusal = ""
        self._box = column(spacing=4)
        self.setLayout(self._box)

    def refresh(self) -> None:
        """Show the marks of the assembly on show."""
        found = meetings(self._session.job, self._session.case.assembly_key)
        self.setVisible(bool(found))
        if found == self._shown:
            return
        self._shown = found
        clear(self._box)
        self._box.addWidget(label("Must meet again", "strong"))
        for m in found:
            self._add(m)
        if self.refusal:
            self._box.addWidget(label(self.refusal, "refused", wrap=True))

    def _add(self, m: Meeting) -> None:
        read = m.before or (f"not read, {m.waived}" if m.waived else "not read yet")
        self._box.addWidget(label(f"{m.what}. Before: {read}.", "soft", wrap=True))
        line = row(spacing=6)
        name = m.of.rpartition(".")[2]
        chip = button(
            "It meets",
            partial(self._state, m.of, "meets", "" if m.meets else "yes"),
            kind="chip",
            tip="Seen to meet, before anything fixes it for good; again to take it back",
            name=f"meets_{name}",
        )
        chip.setCheckable(True)
        chip.setChecked(m.meets)
        line.addWidget(chip)
        again = LengthEdit(f"again_{name}", f"{m.what}: read again")
        again.setPlaceholderText("read again")
        again.setToolTip("What it read once all was together again (Enter keeps it)")
        again.show_value(m.again)
        again.committed.connect(partial(self._state, m.of, "again"))
        line.addWidget(again, 1)
        allowed = LengthEdit(f"allowed_{name}", f"{m.what}: may be off by")
        allowed.setPlaceholderText("may be off by")
        allowed.setToolTip("What may be left between them: 0.5 div, 2°, 5 thou (Enter keeps it)")
        allowed.show_value(m.allowed)
        allowed.committed.connect(partial(self._allow, m.of))
        line.addWidget(allowed, 1)
        self._box.addLayout(line)
        if m.state is not State.UNKNOWN:
            said = "They meet, by what may be left." if m.state is State.WITHIN else "They do not meet yet."
            self._box.addWidget(label(said, "soft" if m.state is State.WITHIN else "refused"))

    def _allow(self, of: str, text: str) -> None:
        try:
            refuse_unread(text)
        except TrebbError as error:
            self.refusal = f"{error}."
            self._shown = []
            self.refresh()
            return
        self.refusal = ""
        self._state(of, "allowed", text)

    def _state(self, of: str, field: str, value: str | bool) -> None:
        self._session.record(MatterStated("strip", of, field, str(value).strip()))
