"""Remedies: what each repair would leave, and the one chosen."""

from __future__ import annotations

import math
from functools import partial
from typing import TYPE_CHECKING

from msgspec.structs import replace
from PySide6.QtCore import Qt
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QButtonGroup, QGridLayout, QPushButton, QVBoxLayout, QWidget

from trebb.app.look.typed import Notes, WordsEdit
from trebb.app.look.widgets import Banner, button, clear, column, label, row, rule, scrolled
from trebb.app.parts.remedy_rows import RemedyRow, RemedyRows
from trebb.app.pictures import picture_stack
from trebb.app.stops.base import DriveStop
from trebb.app.window.far_cover import Far
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError
from trebb.core.facts import Choice as ChoiceFact
from trebb.core.findings.base import Measure, unread_words
from trebb.core.machine import State
from trebb.core.remedies import JOINED, Remedy, is_idle
from trebb.core.remedies import remedy as remedy_of
from trebb.core.units import show_uncertain
from trebb.core.words import large, small
from trebb.logbook.cases.quotes import quote_of, quote_typed
from trebb.logbook.log.entries import FactStated, RemedyChosen

if TYPE_CHECKING:
    from trebb.app.window.host import Host


MOST_CHIPS = 5  # figures in one row
LOW = 640  # of the stop, in pixels: below it the rows are low


class RemediesStop(DriveStop):
    """Rows against the limit, the plot of the one looked at, and why it is chosen."""

    waits_for = "What repairs leave is said once it is: what they cost and take stands below."

    def __init__(self, frame: Host) -> None:
        super().__init__(frame)
        self.current = ""
        self.figure_key = ""
        self.ticked: list[str] = []  # what is done together, as it is put together here
        self._assembly = ""
        body = self.body_box
        self.title = label("What each repair would leave", "title")
        body.addWidget(self.title)
        first = row()
        self.first = label("", "strong", wrap=True)
        self.read_it = button(
            "Read it", self._read_first, tip="Go to the set-up that decides", name="read_first"
        )
        first.addWidget(self.first, 1)
        first.addWidget(self.read_it)
        body.addLayout(first)
        self.foot = label("", "soft", wrap=True)
        body.addWidget(self.foot)
        self.figures = QWidget()
        self._figure_box = QGridLayout()
        self._figure_box.setContentsMargins(0, 0, 0, 0)
        self._figure_box.setSpacing(4)
        self.figures.setLayout(self._figure_box)
        self._figure_group = QButtonGroup(self)
        self._chips: dict[str, QPushButton] = {}
        body.addWidget(self.figures)
        self.rows = RemedyRows()
        self.rows.chosen.connect(self.look_at)
        self.rows.ticked.connect(self.tick)
        body.addWidget(self.rows)
        self.pictures = picture_stack(self.session)
        body.addWidget(self.pictures, 1)
        body.addStretch(0)
        self.side = QWidget()
        side = column(spacing=7)
        self.side.setLayout(side)
        side.addWidget(scrolled(self._about()), 1)
        side.addWidget(rule())
        self._quoted(side)
        self._why(side)

    def _about(self) -> QWidget:
        """What the remedy that is looked at leaves, risks, needs and warns of."""
        self.name = label("", "head", wrap=True)
        self.left = label("", "strong", wrap=True)
        self.summary = label("", wrap=True)
        self.risk = label("", wrap=True)
        self.needs = label("", wrap=True)
        said = QWidget()
        about = column(spacing=7)
        said.setLayout(about)
        about.addWidget(self.name)
        about.addWidget(self.left)
        about.addWidget(self.summary)
        for head, words in (("Risk", self.risk), ("Needs", self.needs)):
            about.addWidget(label(head, "strong"))
            about.addWidget(words)
        self.caution = Banner()
        about.addWidget(self.caution)
        self.caution.hide()
        self.hinder = Banner()
        about.addWidget(self.hinder)
        self.hinder.hide()
        about.addStretch(1)
        self._answers: tuple[str, str] = ("", "")
        return said

    def _quoted(self, side: QVBoxLayout) -> None:
        """What a firm asks for the same."""
        line = row(spacing=6)
        line.addWidget(label("Quoted outside", "strong"))
        self.quote: dict[str, WordsEdit] = {}
        for key, tip in (
            ("price", "What a firm asks for it; empty with the days: it is made here (kept as it is typed)"),
            ("days", "How many days it takes there (kept as it is typed)"),
            ("firm", "Whose quote it is (kept as it is typed)"),
        ):
            edit = WordsEdit(f"quote_{key}", f"Quote: {key}")
            edit.setPlaceholderText(key)
            edit.setToolTip(tip)
            edit.committed.connect(lambda _: self.keep_quote())
            if key != "firm":
                line.addWidget(edit, 1)
            self.quote[key] = edit
        side.addLayout(line)
        side.addWidget(self.quote["firm"])
        self.quote_said = label("", "small", wrap=True)
        side.addWidget(self.quote_said)

    def _why(self, side: QVBoxLayout) -> None:
        """The choice, with its reason."""
        side.addWidget(label("Why this one", "strong"))
        self.reason = Notes(
            "remedy_reason",
            "Why this remedy; it goes into the logbook with the choice",
            self._reason,
            self._keep_reason,
            about=lambda: (self.session.assembly, self.current),
            placeholder="a line for whoever opens this job next",
            height=58,
        )
        side.addWidget(self.reason)
        self.choose_button = button(
            "Choose this remedy",
            self.choose,
            kind="primary",
            tip="Record the choice with its reason",
            key="Ctrl+Return",
            shortcut=True,
            name="choose_remedy",
        )
        self.choose_button.setMinimumHeight(40)
        side.addWidget(self.choose_button)
        self.said = label("", "small", wrap=True)
        side.addWidget(self.said)

    def _show_answers(self, remedy: Remedy) -> None:
        """What takes the hindrance away or makes it final, to be stated here: a button an answer."""
        case = self.session.case
        if self._answers == (case.family, remedy.answered_by):
            return
        self._answers = case.family, remedy.answered_by
        clear(self.hinder.buttons)
        if not remedy.answered_by or case.schema is None:
            return
        fact = case.schema.fact(remedy.answered_by)
        assert isinstance(fact, ChoiceFact)
        for key, words in fact.choices.items():
            if key:
                body = FactStated(assembly=case.holder, field=fact.key, value=key)
                made = button(
                    large(words),
                    partial(self.session.record, body),
                    tip=f"State it: {small(fact.words)}",
                    name=f"{fact.key}_{key}",
                )
                self.hinder.buttons.addWidget(made)
        self.hinder.buttons.addStretch()

    def far(self) -> Far:
        """The remedy looked at and what it would leave."""
        if not self.has_job() or not self.current:
            return super().far()
        return Far(self.name.text(), lines=tuple(w.text() for w in (self.left, self.summary) if w.text()))

    def show_figure(self, key: str) -> None:
        """Compare by another figure: error at the work, seat, slack."""
        self.figure_key = key
        self.refresh()

    def look_at(self, key: str) -> None:
        """Look at a remedy without choosing it."""
        if key != self.current and not self._is_settled():
            return
        self.current = key
        self.refresh()

    def tick(self, key: str) -> None:
        """Add a remedy to what is done together, or take it out; what results is looked at."""
        if not self._is_settled():
            return
        case = self.session.case
        apart = self._apart(key)
        if apart:
            self.session.refused.emit(apart)
            return
        ticked = [k for k in self.ticked if k != key] if key in self.ticked else [*self.ticked, key]
        self.ticked = list(remedy_of(JOINED.join(ticked), case.family).members) if ticked else []
        self.current = JOINED.join(self.ticked) or key
        self.refresh()

    def take(self) -> bool:
        """Space: what is looked at is ticked, or no longer."""
        if JOINED in self.current:
            return False
        self.tick(self.current)
        return True

    def _apart(self, key: str) -> str:
        """Why a remedy cannot stand with what is ticked; "" where it can, or is ticked itself."""
        if key in self.ticked:
            return ""
        case = self.session.case
        if is_idle(remedy_of(key, case.family)):
            return case.why_apart(key, key)
        return next((why for one in self.ticked if (why := case.why_apart(key, one))), "")

    def step(self, by: int) -> bool:
        keys = [one.remedy.key for one in self.rows.rows]
        i = keys.index(self.current) + by
        self.look_at(keys[max(0, min(len(keys) - 1, i))])
        return True

    def choose(self) -> None:
        """Record the choice; an entry like any other. What is hindered is not chosen."""
        if not self.choose_button.isEnabled() or not self._is_settled():
            return
        self._record(self.reason.toPlainText().strip())
        self.session.drafts.keep(self._draft_field(), "")

    def _record(self, reason: str) -> None:
        self.session.record(RemedyChosen(assembly=self.session.assembly, remedy=self.current, reason=reason))

    def _is_settled(self) -> bool:
        """What was typed is of the remedy looked at: taken, or refused where it stands."""
        return all(edit.settle() for edit in self.quote.values()) and self.reason.settle()

    def _chosen_here(self) -> RemedyChosen | None:
        taken = self.session.job.chosen(self.session.assembly)
        return taken if taken is not None and taken.remedy == self.current else None

    def _draft_field(self) -> str:
        return f"reason.{self.session.assembly}.{self.current}"

    def _reason(self) -> str:
        """The reason of the choice; before it is made, what was typed for it so far."""
        taken = self._chosen_here()
        return taken.reason if taken is not None else self.session.drafts.of(self._draft_field())

    def _keep_reason(self, text: str) -> None:
        if self._chosen_here() is not None:
            self._record(text)
        else:
            self.session.drafts.keep(self._draft_field(), text)

    def keep_quote(self) -> None:
        """Record what a firm asks for the remedy looked at."""
        typed = {key: edit.text() for key, edit in self.quote.items()}
        if typed["days"].strip() and not typed["price"].strip():
            self.quote_said.setText("No price yet; without price and days it is made here.")
            return
        try:
            body = quote_typed(
                self.session.assembly, self.current, typed["price"], typed["days"], typed["firm"]
            )
        except InputError as error:
            self.quote_said.setText(f"{error}.")
            for key, edit in self.quote.items():
                edit.set_refused(str(error).startswith(key))
            return
        if body.text != self.session.job.note(body.topic):
            self.session.record(body)

    def _show_quote(self, remedy: Remedy) -> None:
        case = self.session.case
        found = quote_of(self.session.job, case.assembly_key, remedy.key)
        for key, text in zip(
            ("price", "days", "firm"),
            (f"{found.price:.12g}", f"{found.days:g}", found.firm) if found else ("", "", ""),
            strict=True,
        ):
            self.quote[key].show_value(text)
        usual = remedy_of(remedy.key, case.family)
        self.quote_said.setText(
            f"Made here it is usually {usual.cost:g}, {usual.hours:g} h, {usual.wait_days:g} d."
            if found
            else ""
        )

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self.rows.set_low(event.size().height() < LOW)

    def show_nothing(self) -> None:
        self.choose_button.setEnabled(False)
        for words in (self.name, self.left, self.summary, self.risk, self.needs, self.said):
            words.setText("")
        self.caution.hide()
        self.hinder.hide()

    def show_job(self) -> None:
        case, system = self.session.case, self.session.system
        if case.assembly_key != self._assembly:
            self._assembly, self.current, self.figure_key = case.assembly_key, "", ""
            chosen = case.chosen
            self.ticked = list(chosen.members) if chosen is not None and len(chosen.members) > 1 else []
        figures = {m.key: m for m in case.figures}
        judged = figures.get(self.figure_key) or case.judged
        self._show_chips(judged.key)
        taken = self.session.job.chosen(case.assembly_key)
        rows = self._rows(judged.key)
        if self.current not in [one.remedy.key for one in rows]:
            self.current = self._first(taken.remedy if taken else "")
        self._say_first()
        self._say_foot(judged)
        self.rows.show_rows(
            rows,
            judged.limit.limit_mm,
            judged.value.value,
            system,
            self.session.job.card("currency", ""),
            self.current,
            taken.remedy if taken else "",
            "with what is ticked" if self.ticked else "",
        )
        self.pictures.setVisible(case.is_measured)
        self._show_about(judged)
        self._say_choice(taken, case.foretold(self.current)[0])

    def _say_foot(self, judged: Measure) -> None:
        """What the rows show, what of it hangs on what is not read, and what the machine is worth."""
        case, system = self.session.case, self.session.system
        worth = self.session.job.card_number("worth", 0.0)
        money = self.session.job.card("currency", "")
        self.foot.setVisible(case.is_measured)
        self.foot.setText(
            f"{in_units(judged.label, system)} with its ±; the dashed line is the limit."
            + (f"  {unread_words(judged.unread)}" if case.is_measured else "")
            + self._along_with()
            + f"  {case.taught.wider_words(case.family)}".rstrip()
            + (f"  The machine is worth about {money}{worth:g}." if worth else "")
        )

    def _show_about(self, judged: Measure) -> None:
        """The remedy looked at: what it leaves, drawn and in words, its risk and needs."""
        case, system = self.session.case, self.session.system
        worth = self.session.job.card_number("worth", 0.0)
        remedy, prediction = case.foretold(self.current)
        left = case.left_of(prediction, judged.key)
        self.pictures.picture().show_then(prediction)
        state = case.left_state(remedy.key, judged.key)
        self.name.setText(remedy.title)
        size = show_uncertain(left.value, left.half_width, system)
        self.left.setText(
            f"Leaves {size}: {state.value} limit."
            if state is not State.UNKNOWN
            else "What it leaves cannot be said yet: it hangs on what is not read."
        )
        share = (
            f" It costs {remedy.cost / worth:.0%} of what the machine is worth."
            if worth and remedy.cost > 0.1 * worth
            else ""
        )
        self.summary.setText(remedy.summary + share)
        risk = remedy.risk(case.subject_for("before"), case.split, prediction, system)
        self.risk.setText(risk if state is not State.UNKNOWN else "Said once it is read.")
        self.needs.setText(remedy.needs)
        self._show_quote(remedy)
        self.reason.show_value()
        self._show_hinder(remedy)

    def _rows(self, figure: str) -> list[RemedyRow]:
        """What is done together, as ticked, chosen or advised; then each remedy, with what is ticked where it
        can stand with it.
        """
        case = self.session.case
        advice = case.offered() if self.session.is_told("expert") else []
        several = [r.key for r, _ in advice if len(r.members) > 1]
        shown = dict.fromkeys((*([JOINED.join(self.ticked)] if len(self.ticked) > 1 else []), *several))
        rows = [self._row(key, key, figure) for key in shown]
        for r, _ in case.predictions():
            apart = self._apart(r.key) if self.ticked else ""
            is_added = self.ticked and not apart and r.key not in self.ticked
            done = case.set_with([*self.ticked, r.key]) if is_added else r.key
            row = self._row(r.key, done, figure)
            box = None if is_idle(r) else r.key in self.ticked
            rows.append(replace(row, is_ticked=box, apart=apart))
        return rows

    def _row(self, key: str, done: str, figure: str) -> RemedyRow:
        """A remedy's row with what it leaves once `done` is."""
        case = self.session.case
        remedy, prediction = case.foretold(key)[0], case.foretold(done)[1]
        left, state = case.left_of(prediction, figure), case.left_state(done, figure)
        return RemedyRow(remedy, left, state, remedy.hinder(case.subject))

    def _say_first(self) -> None:
        """What is to be read before a repair is advised, or the least that is enough and the next better."""
        case = self.session.case
        waits = case.least_words() if self.session.is_told("expert") else ""
        self.first.setText(waits)
        self.first.setVisible(bool(waits))
        self.read_it.setVisible(bool(waits) and bool(case.advice_now().lot))

    def _read_first(self) -> None:
        """To the set-up that decides which repair is enough."""
        lot = self.session.case.advice_now().lot
        if lot:
            self.open_set_up(lot.split("/")[0])

    def _say_choice(self, taken: RemedyChosen | None, remedy: Remedy) -> None:
        chosen_here = taken is not None and taken.remedy == remedy.key
        self.choose_button.setText("Chosen" if chosen_here else "Choose this remedy")
        if taken is None:
            is_own = self.session.case.taught.is_own_cost
            whose = "as this shop's jobs took" if is_own else "usual ones for a small shop"
            self.said.setText(f"Not chosen yet. Costs and hours are {whose}.")
        else:
            chosen = self.session.case.chosen
            title = chosen.title if chosen is not None else taken.remedy
            self.said.setText(f"Chosen: {title}." + (f" “{taken.reason}”" if taken.reason else ""))

    def _first(self, taken: str) -> str:
        """The remedy looked at first: the one taken, the one advised, else the first of the list."""
        case = self.session.case
        if taken and case.chosen is not None:
            return taken
        best = case.advised() if self.session.is_told("expert") else None
        return best.key if best is not None else case.predictions()[0][0].key

    def _along_with(self) -> str:
        others = [small(name) for name in self.session.case.along_with()]
        return f"  With what is chosen at {' and '.join(others)}." if others else ""

    def _show_chips(self, current: str) -> None:
        """One chip a figure the part is judged by; none where there is one only."""
        figures = list(self.session.case.figures)
        self.figures.setVisible(len(figures) > 1)
        if [m.key for m in figures] != list(self._chips):
            clear(self._figure_box)
            self._chips = {}
            across = len(figures) if len(figures) <= MOST_CHIPS else math.ceil(len(figures) / 2)
            for i, m in enumerate(figures):
                chip = button(
                    "",
                    partial(self.show_figure, m.key),
                    kind="chip",
                    tip="Compare the repairs by this figure",
                    name=f"figure_{m.key}",
                )
                chip.setCheckable(True)
                self._figure_group.addButton(chip)
                self._figure_box.addWidget(chip, i // across, i % across, Qt.AlignmentFlag.AlignLeft)
                self._chips[m.key] = chip
            self._figure_box.setColumnStretch(across, 1)
        names = {m.key: in_units(m.label, self.session.system) for m in figures}
        for key, chip in self._chips.items():
            chip.setChecked(key == current)
            if chip.text() != names[key]:
                chip.setText(names[key])

    def _show_hinder(self, remedy: Remedy) -> None:
        if remedy.caution:
            self.caution.say("near", "", remedy.caution)
        else:
            self.caution.hide()
        why = remedy.hinder(self.session.case.subject)
        if why:
            self.hinder.say("soft", "", why)
            self._show_answers(remedy)
        else:
            self.hinder.hide()
        self.choose_button.setEnabled(not why)
