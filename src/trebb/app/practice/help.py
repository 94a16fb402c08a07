"""What may be done before a reading, and what may be asked, while a hidden machine is played."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import button, clear, column, label, row, rule, scrolled
from trebb.app.window.session import Session
from trebb.core.survey import AnySetUp
from trebb.core.units import show_minutes
from trebb.core.words import small
from trebb.logbook.practice.state import asking

PREPARATION_HEIGHT = 24
TOLD_HEIGHT = 44  # the pod above keeps its numerals; what is longer is scrolled

HINTS = (
    ("trust", "Trust it?", "Whether what stands at this set-up is to be trusted"),
    ("next", "Next?", "Which set-up would tell most a minute"),
    ("expert", "Expert?", "What an expert would say now"),
)


class PracticeHelp(QWidget):
    """Preparations of the set-up on show, and three kinds of hint; nothing for a job that is no practice."""

    def __init__(self, session: Session, begin: Callable[[], object]) -> None:
        super().__init__()
        self._session = session
        self._at: AnySetUp | None = None
        self._shown: tuple[object, ...] = ()
        box = column(spacing=4)
        self.setLayout(box)
        box.addWidget(rule())
        self.begin = button(
            "", begin, kind="primary", tip="Its minutes count from now on", key="Space", name="begin_set_up"
        )
        box.addWidget(self.begin)
        self.preparations = column(spacing=3)
        box.addLayout(self.preparations)
        self.hints = row(spacing=4)
        box.addLayout(self.hints)
        self.words = label("", "soft", wrap=True)
        self.words.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.told = scrolled(self.words)
        self.told.setFixedHeight(TOLD_HEIGHT)
        box.addWidget(self.told)
        self.hide()

    def show_at(self, s: AnySetUp | None, *, waits: bool = False) -> None:
        """Show what belongs to a set-up; `waits` : it is not set up yet."""
        self._at = s
        on = s is not None and self._session.is_silent
        self.setVisible(on)
        if not on or s is None:
            return
        from trebb.core.practice.lies import preparations_of
        from trebb.core.practice.scoring import HINTS as COST

        self.begin.setVisible(waits)
        self.begin.setText(f"Set it up: {show_minutes(s.setting_minutes)}, {s.minutes:g} min a place")

        done = {m.of for m in self._session.job.practice_marks("did")}
        found = preparations_of(s.key)
        state = (s.key, tuple(p.key in done for p in found))
        if state != self._shown:
            self._shown = state
            clear(self.preparations)
            clear(self.hints)
            for p in found:
                made = button(
                    f"{'done: ' if p.key in done else 'First: '}{small(p.words)}",
                    partial(self._do, p.key),
                    kind="link",
                    tip=f"Takes {p.minutes:g} min; done once, it holds",
                    name=f"prepare_{p.key}",
                )
                made.setEnabled(p.key not in done)
                made.setStyleSheet("text-align: left; padding: 0px 5px;")
                made.setFixedHeight(PREPARATION_HEIGHT)
                self.preparations.addWidget(made)
            for key, words, tip in HINTS:
                self.hints.addWidget(
                    button(
                        words,
                        partial(self._ask, key),
                        kind="chip",
                        tip=f"{tip}; costs {COST[key]:g} points",
                        name=f"hint_{key}",
                    )
                )
            self.hints.addStretch()
        self.words.setText(self._told(s))
        self.told.setVisible(bool(self.words.text()))

    def _told(self, s: AnySetUp) -> str:
        from trebb.logbook.cases.practice_piece import piece_of
        from trebb.logbook.practice.told import expert_words, trust_words

        case, piece = self._session.case, piece_of(self._session.job)
        if piece is None:
            return "This piece is of a newer Trebb: it can be read, not scored."
        told = []
        if self._session.is_told("trust"):
            told.append(trust_words(case, piece, s))
        if self._session.is_told("expert"):
            told.append(expert_words(case, self._session.system))
        return " ".join(told)

    def _do(self, preparation: str) -> None:
        from trebb.logbook.cases.practice_piece import piece_of
        from trebb.logbook.practice.begun import doing

        piece = piece_of(self._session.job)
        if piece is not None:
            self._session.record(*doing(self._session.case, piece, preparation))

    def _ask(self, hint: str) -> None:
        if not self._session.is_told(hint):
            self._session.record(asking(self._session.job, hint))
