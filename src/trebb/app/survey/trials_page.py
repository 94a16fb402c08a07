"""Trials that cost minutes: how each came, what all of them clear and leave, which one more would tell."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from trebb.app.look import theme
from trebb.app.look.flow import Flow
from trebb.app.look.typed import DraftEdit
from trebb.app.look.widgets import button, clear, column, label, row
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.core.suspects.trials import Trial
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.trials import (
    came_of,
    hangs_on,
    own_trial,
    own_trials,
    parts_about,
    told_of_trials,
    told_words,
    trials_of,
    trials_table,
)


class TrialsPage(QWidget):
    """A row a trial, by complaint: once on how it came, again to take that back."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._at = ""
        self.said: dict[str, QLabel] = {}
        self.chips: dict[tuple[str, str], QPushButton] = {}
        self._words: dict[tuple[str, str], str] = {}
        box = column(spacing=6)
        self.setLayout(box)
        box.addWidget(
            label(
                "One trial explains another: what comes good clears what it hangs on. Mark how each came.",
                "soft",
                wrap=True,
            )
        )
        self.here = label("", "strong", wrap=True)
        box.addWidget(self.here)
        self.note = matter_fields(session, "trial", lambda: self._at, ("note",), prefix="trial")
        box.addWidget(self.note)
        self.hangs = Flow(spacing=4)
        box.addLayout(self.hangs)
        self.refusal = label("", "refused", wrap=True)
        self.refusal.hide()
        box.addWidget(self.refusal)
        self._rows: dict[str, QVBoxLayout] = {}
        self._own_rows: dict[str, QHBoxLayout] = {}
        self._shown: list[Trial] = []
        self.own: dict[str, DraftEdit] = {}
        complaints = trials_table().complaints
        for about, trials in trials_of(session.cases).items():
            box.addWidget(label(complaints[about], "head"))
            said = self.said[about] = label("", wrap=True)
            box.addWidget(said)
            self._rows[about] = column(spacing=6)
            box.addLayout(self._rows[about])
            for trial in (t for t in trials if t in trials_table().trials):
                self._add(self._rows[about], trial)
            own = self.own[about] = DraftEdit(f"own_trial_{about}", "Tried", lambda: session.drafts)
            own.setPlaceholderText("anything else that was tried, in a line")
            own.setToolTip(
                "What was tried and with what (Enter adds it); then say what it hangs on, how it came"
            )
            own.returnPressed.connect(partial(self.add_own, about))
            box.addWidget(own)
        box.addStretch(1)

    def _show_own(self) -> None:
        """Rows of one's own trials, as they now are."""
        found = own_trials(self._session.job)
        if found == self._shown:
            return
        for key, line in self._own_rows.items():
            clear(line)
            for way in ("good", "bad"):
                self.chips.pop((key, way), None)
        self._own_rows.clear()
        self._shown = found
        for about, trials in trials_of(self._session.cases).items():
            for trial in (t for t in trials if t in found):
                self._own_rows[trial.key] = self._add(self._rows[about], trial)

    def _add(self, box: QVBoxLayout, trial: Trial) -> QHBoxLayout:
        line = row(spacing=6)
        words = label(trial.words, wrap=True)
        line.addWidget(words, 1)
        line.addWidget(label(f"{trial.minutes:.0f} min", "soft"))
        for came, said in (("good", trial.good), ("bad", trial.bad)):
            chip = button(
                said,
                partial(self.mark, trial.key, came),
                kind="mark",
                tip=f"{trial.words}: {said}; again to take it back",
                name=f"trial_{trial.key}_{came}",
            )
            chip.setMinimumHeight(24)
            chip.setMinimumWidth(96)
            self.chips[trial.key, came], self._words[trial.key, came] = chip, said
            line.addWidget(chip)
        box.addLayout(line)
        return line

    def add_own(self, about: str) -> None:
        """A trial that stands in no table."""
        try:
            added = own_trial(self._session.cases, self.own[about].text(), about)
        except TrebbError as error:
            self._refuse(f"{error}.")
            return
        self._refuse("")
        self._at = added[0].of
        if self._session.record(*added):
            self.own[about].entered()

    def hang(self, part: str) -> None:
        """The trial looked at hangs on a part, or no longer does."""
        trial = self._here()
        if trial is not None:
            self._session.record(hangs_on(self._session.cases, trial, part))

    def take_back(self) -> None:
        """A trial of one's own is taken off."""
        self._session.record(MatterStated("trial", self._at, "gone", "yes"))

    def _refuse(self, sentence: str) -> None:
        self.refusal.setText(sentence)
        self.refusal.setVisible(bool(sentence))

    def _here(self) -> Trial | None:
        every = (t for each in trials_of(self._session.cases).values() for t in each)
        return next((t for t in every if t.key == self._at), None)

    def mark(self, key: str, came: str) -> None:
        """How a trial came; the same again takes it back."""
        self._at = key
        now = str(self._session.job.matter("trial", key).get("came", ""))
        self._session.record(MatterStated("trial", key, "came", "" if now == came else came))

    def refresh(self) -> None:
        """Show what is marked, and what it says."""
        self._show_own()
        came = came_of(self._session.cases)
        for (key, which), chip in self.chips.items():
            state = "yes" if key in came and came[key] is (which == "good") else ""
            said = self._words[key, which]
            chip.setText(f"✓ {said}" if state else said)
            if chip.property("mark") != state:
                chip.setProperty("mark", state)
                theme.restyle(chip)
        told = told_of_trials(self._session.cases)
        for about, summary in self.said.items():
            summary.setVisible(about in told)
            summary.setText(told_words(told[about]) if about in told else "")
        trial = self._here()
        is_own = trial is not None and trial in own_trials(self._session.job)
        is_said = trial is not None and (is_own or trial.key in came)
        self.here.setVisible(is_said)
        self.note.setVisible(is_said)
        if trial is not None and is_said:
            self.here.setText(trial.words)
            self.note.refresh()
        self._show_hangs(trial if is_own else None)

    def _show_hangs(self, trial: Trial | None) -> None:
        """Of a trial of one's own, what it hangs on: what it clears where it came good."""
        clear(self.hangs)
        if trial is None:
            return
        self.hangs.addWidget(label("It hangs on", "soft"))
        for part, words in parts_about(self._session.cases, trial.about).items():
            chip = button(
                words.removeprefix("the "),
                partial(self.hang, part),
                kind="chip",
                tip=f"{trial.words}: it hangs on {words}, or no longer does",
                name=f"hangs_{part}",
            )
            chip.setCheckable(True)
            chip.setChecked(part in trial.hangs_on)
            self.hangs.addWidget(chip)
        self.hangs.addWidget(
            button("Not tried", self.take_back, kind="link", tip="Take it off", name="trial_gone")
        )
