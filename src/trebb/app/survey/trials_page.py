"""Trials that cost minutes: how each came, what all of them clear and leave, which one more would tell."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QLabel, QPushButton, QVBoxLayout, QWidget

from trebb.app.look import theme
from trebb.app.look.widgets import button, column, label, row
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.window.session import Session
from trebb.core.suspects.trials import Trial
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.trials import came_of, told_of_trials, told_words, trials_of, trials_table


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
        complaints = trials_table().complaints
        for about, trials in trials_of(session.cases).items():
            box.addWidget(label(complaints[about], "head"))
            said = self.said[about] = label("", wrap=True)
            box.addWidget(said)
            for trial in trials:
                self._add(box, trial)
        box.addStretch(1)

    def _add(self, box: QVBoxLayout, trial: Trial) -> None:
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

    def mark(self, key: str, came: str) -> None:
        """How a trial came; the same again takes it back."""
        self._at = key
        now = str(self._session.job.matter("trial", key).get("came", ""))
        self._session.record(MatterStated("trial", key, "came", "" if now == came else came))

    def refresh(self) -> None:
        """Show what is marked, and what it says."""
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
        trial = next((t for t in trials_table().trials if t.key == self._at), None)
        is_done = trial is not None and trial.key in came
        self.here.setVisible(is_done)
        self.note.setVisible(is_done)
        if trial is not None and is_done:
            self.here.setText(trial.words)
            self.note.refresh()
