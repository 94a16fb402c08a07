"""Remedies: what each repair would leave, and the one chosen."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QPlainTextEdit, QWidget

from trebb.app.plots import TravelPlot, show_prediction
from trebb.app.remedy_rows import RemedyRows
from trebb.app.stops.base import DriveStop
from trebb.app.widgets import button, column, label, rule
from trebb.core.machine import state_of
from trebb.core.remedies import Prediction, Remedy
from trebb.core.units import show_uncertain
from trebb.logbook.entries import RemedyChosen

if TYPE_CHECKING:
    from trebb.app.frame import Frame


class RemediesStop(DriveStop):
    """Rows against the limit, the plot of the one looked at, and why it is chosen."""

    def __init__(self, frame: Frame) -> None:
        super().__init__(frame)
        self.current = ""
        body = self.body_box
        self.title = label("What each repair would leave", "title")
        body.addWidget(self.title)
        self.foot = label("", "soft", wrap=True)
        body.addWidget(self.foot)
        self.rows = RemedyRows()
        self.rows.chosen.connect(self.look_at)
        body.addWidget(self.rows)
        self.plot = TravelPlot()
        body.addWidget(self.plot, 1)
        self.side = QWidget()
        side = column(spacing=7)
        self.side.setLayout(side)
        self.name = label("", "head", wrap=True)
        self.left = label("", "strong", wrap=True)
        self.summary = label("", wrap=True)
        self.risk = label("", wrap=True)
        self.needs = label("", wrap=True)
        side.addWidget(self.name)
        side.addWidget(self.left)
        side.addWidget(self.summary)
        for head, words in (("Risk", self.risk), ("Needs", self.needs)):
            side.addWidget(label(head, "strong"))
            side.addWidget(words)
        side.addStretch(1)
        side.addWidget(rule())
        side.addWidget(label("Why this one", "strong"))
        self.reason = QPlainTextEdit()
        self.reason.setObjectName("remedy_reason")
        self.reason.setFixedHeight(82)
        self.reason.setTabChangesFocus(True)
        self.reason.setToolTip("Why this remedy; it goes into the logbook")
        self.reason.setPlaceholderText("a line for whoever opens this job next")
        side.addWidget(self.reason)
        self.choose_button = button("Choose this remedy", self.choose, kind="primary", tip="Record the choice with its reason", key="Ctrl+Return", shortcut=True, name="choose_remedy")
        self.choose_button.setMinimumHeight(40)
        side.addWidget(self.choose_button)
        self.said = label("", "small", wrap=True)
        side.addWidget(self.said)

    def look_at(self, key: str) -> None:
        """Look at a remedy without choosing it."""
        self.current = key
        self.refresh()

    def step(self, by: int) -> bool:
        keys = [r.key for r, _ in self.session.case.predictions()]
        i = keys.index(self.current) + by
        self.look_at(keys[max(0, min(len(keys) - 1, i))])
        return True

    def choose(self) -> None:
        """Record the choice; an entry like any other."""
        self.session.record(RemedyChosen(assembly=self.session.assembly, remedy=self.current, reason=self.reason.toPlainText().strip()))

    def show_nothing(self) -> None:
        self.choose_button.setEnabled(False)

    def show_job(self) -> None:
        self.choose_button.setEnabled(True)
        case, system = self.session.case, self.session.system
        predictions = case.predictions()
        taken = self.session.job.chosen(case.assembly_key)
        if not self.current:
            self.current = taken.remedy if taken else _advised(predictions, case.limit.limit_mm)
        worth = self.session.job.card_number("worth", 0.0)
        money = self.session.job.card("currency", "")
        measured = "" if case.is_measured else "Nothing is read yet: these rest on what such machines are usually like.  "
        self.foot.setText(measured + "Bars with their ± at the worst station; the dashed line is the limit." + (f"  The machine is worth about {money}{worth:g}." if worth else ""))
        self.rows.show_rows(predictions, case.limit.limit_mm, case.split.worst.total.value, system, money, self.current, taken.remedy if taken else "")
        remedy, prediction = next((r, p) for r, p in predictions if r.key == self.current)
        show_prediction(self.plot, case.split, prediction.lash, case.limit.limit_mm, system)
        state = state_of(prediction.worst.value, case.limit.limit_mm)
        self.name.setText(remedy.title)
        self.left.setText(f"Leaves {show_uncertain(prediction.worst.value, prediction.worst.half_width, system)} at the worst: {state.value} limit.")
        self.summary.setText(remedy.summary)
        self.risk.setText(remedy.risk(case.drive, case.split, prediction, system))
        self.needs.setText(remedy.needs)
        chosen_here = taken is not None and taken.remedy == remedy.key
        self.choose_button.setText("Chosen" if chosen_here else "Choose this remedy")
        if taken is None:
            self.said.setText("Not chosen yet. Costs and hours are usual ones for a small shop.")
        else:
            title = next(r.title for r, _ in predictions if r.key == taken.remedy)
            self.said.setText(f"Chosen: {title}." + (f" “{taken.reason}”" if taken.reason else ""))


def _advised(predictions: list[tuple[Remedy, Prediction]], limit_mm: float) -> str:
    """The one with fewest hours that stays inside the limit, else the one that leaves least."""
    inside = [(r, p) for r, p in predictions if p.worst.value <= limit_mm]
    if inside:
        return min(inside, key=lambda rp: rp[0].hours)[0].key
    return min(predictions, key=lambda rp: rp[1].worst.value)[0].key
