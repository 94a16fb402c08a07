"""Where the figures of an assembly come from: readings, how each is understood, what stands without them."""

from __future__ import annotations

from PySide6.QtCore import QTimer
from PySide6.QtGui import QHideEvent
from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from trebb.app.look.cover_page import CoverPage
from trebb.app.look.widgets import Banner, clear, column, exclusive, label, row, rule, scrolled, sheet
from trebb.app.window.session import Session
from trebb.core.dual_units import in_units
from trebb.logbook.cases.where_from import Rest, chain_of, without
from trebb.logbook.log.entries import Entry


class FigureCover(CoverPage):
    """The assembly's figures above, and below what is behind the one chosen. Esc closes it."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        title = f"Where from: {session.case.assembly.label}"
        super().__init__(parent, title, name="figure", tip="Back to the job", beside=(None,))
        self._session = session
        self.case = session.case
        self._waiting: list[str] = []
        self._without: dict[str, QLabel] = {}
        self._entries: list[Entry] = []
        outer = self.outer
        self.figures = {m.key: m for m in self.case.figures} if self.case.is_measured else {}
        line = row(spacing=4)
        self.choices = exclusive(
            self,
            line,
            [(m.key, m.label, f"What is behind: {m.label.lower()}") for m in self.figures.values()],
            self.choose,
            prefix="figure",
        )
        line.addStretch()
        outer.addLayout(line)
        self.banner = Banner()
        outer.addWidget(self.banner)
        inner = QWidget()
        self.body = column(spacing=6)
        inner.setLayout(self.body)
        outer.addWidget(sheet(_holding(scrolled(inner)), 16), 1)
        self._later = QTimer(self)
        self._later.setInterval(0)
        self._later.timeout.connect(self._work_one_out)
        judged = self.case.figure_now() if self.figures else None
        if judged is None:
            self.banner.say("soft", "No figure here yet.", "Take a reading, and there is one.")
        else:
            self.choose(judged.key if judged.key in self.figures else next(iter(self.figures)))

    def choose(self, key: str) -> None:
        """Show what is behind a figure."""
        for one, choice in self.choices.items():
            choice.setChecked(one == key)
        self.key = key
        system = self._session.system
        chain = chain_of(self.case, self.figures[key], system)
        self.banner.say(
            "soft", f"{chain.label}: {chain.value}", f"Limit {chain.limit}. {chain.unread}".strip()
        )
        clear(self.body)
        self._without = {}
        if not chain.rests:
            self.body.addWidget(label("Nothing read counts toward it.", wrap=True))
        for rest in chain.rests:
            self._show_rest(rest)
        self.body.addWidget(rule())
        self.body.addWidget(
            label(
                "Each reading is understood as the sum that stands behind it, ± what its instrument and its "
                "repeats leave open. All of them together say how large each part of the sums is, and the "
                "figure is put together from those. Formulas and their sources: F1, “Formulas”.",
                "soft",
                wrap=True,
            )
        )
        self.body.addStretch(1)
        self._entries = self._session.file.entries()  # read once for all that is worked out of them
        self._waiting = [rest.key for rest in chain.rests]
        self._later.start()

    def _show_rest(self, rest: Rest) -> None:
        system = self._session.system
        head = row(spacing=10)
        head.addWidget(label(f"{rest.title}, {rest.instrument}", "strong"))
        head.addStretch()
        effect = label("without it: …", "soft")
        self._without[rest.key] = effect
        head.addWidget(effect)
        self.body.addLayout(head)
        for place in rest.places:
            said = f"{place.place}: {place.values}"
            made = f" = {in_units(place.made_of, system)}" if place.made_of else ""
            self.body.addWidget(label(f"{said}{made}", wrap=True))

    def _work_one_out(self) -> None:
        """What would stand without one set-up; one at a time, so that the window goes on answering."""
        if not self._waiting:
            self._later.stop()
            return
        key = self._waiting.pop(0)
        session = self._session
        words = without(self._entries, session.cases.taught, self.case, self.key, key, session.system)
        self._without[key].setText(f"without it: {words}")

    def hideEvent(self, event: QHideEvent) -> None:
        super().hideEvent(event)
        self._later.stop()


def _holding(widget: QWidget) -> QVBoxLayout:
    box = column(spacing=0)
    box.addWidget(widget)
    return box
