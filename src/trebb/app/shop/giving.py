"""What a job teaches, line by line, given with consent."""

from __future__ import annotations

from PySide6.QtWidgets import QCheckBox, QWidget

from trebb.app.look.widgets import button, clear, column, label, row, with_ampersands
from trebb.app.window.session import Session
from trebb.core import clock
from trebb.core.errors import TrebbError


class Giving(QWidget):
    """Lines that may be ticked away, and one button that keeps the rest."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        box = column(spacing=4)
        self.setLayout(box)
        box.addWidget(label("What this job teaches the shop", "strong"))
        self.words = label("", "soft", wrap=True)
        box.addWidget(self.words)
        self.lines = column(spacing=2)
        box.addLayout(self.lines)
        actions = row(spacing=8)
        self.show_button = button(
            "Show it, line by line",
            self.show_lines,
            tip="Nothing is kept until you say so, and nothing leaves this computer",
            name="teach_show",
        )
        self.give_button = button(
            "Give what is ticked to the shop's memory",
            self.give,
            kind="dark",
            tip="Kept in one file of yours; a job given again replaces what it gave before",
            name="teach_give",
        )
        actions.addWidget(self.show_button)
        actions.addWidget(self.give_button)
        actions.addStretch()
        box.addLayout(actions)
        self._found: list[tuple[QCheckBox, object]] = []
        self.give_button.hide()

    def show_lines(self) -> None:
        """Work out what it teaches, and show it."""
        from trebb.logbook.memory.lessons import job_name, lessons

        clear(self.lines)
        self._found = []
        found = lessons(job_name(self._session.file), self._session.job, clock.now())
        for line in found:
            tick = QCheckBox(with_ampersands(line.words))
            tick.setChecked(True)
            tick.setToolTip("Kept in the shop's memory where it is ticked")
            self.lines.addWidget(tick)
            self._found.append((tick, line))
        self.give_button.setVisible(bool(found))
        self.words.setText(
            f"{len(found)} lines. Untick what was not as usual."
            if found
            else "Nothing yet: repeats of a reading, hours spent, sizes foretold and read again teach. A "
            "simulated machine teaches nothing."
        )

    def give(self) -> None:
        """Keep what is ticked; says here why it could not be."""
        from trebb.logbook.memory.lessons import Line, given
        from trebb.logbook.memory.shop import remember

        kept = [line for tick, line in self._found if tick.isChecked() and isinstance(line, Line)]
        bodies = [
            given(self._session.file, self._session.job),
            *(line.lesson or line.thing for line in kept if line.lesson or line.thing),
        ]
        try:
            remember([b for b in bodies if b is not None])
        except (TrebbError, OSError) as error:
            self.words.setText(f"Not kept: {error}.")
            return
        self.words.setText(f"{len(kept)} lines are in the shop's memory. The next job opened goes by them.")
        clear(self.lines)
        self._found = []
        self.give_button.hide()
