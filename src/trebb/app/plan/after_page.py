"""After the job: the machine's card, the calendar file, what to look at again."""

from __future__ import annotations

from functools import partial
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QHBoxLayout, QWidget

from trebb.app.look.fields import Fields
from trebb.app.look.typed import DraftEdit
from trebb.app.look.widgets import Banner, button, clear, column, label, row, rule, scrolled
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.shop.giving import Giving
from trebb.app.survey.recordings import Recordings
from trebb.app.window.session import Session
from trebb.core import clock
from trebb.core.dates import date_typed, full_words
from trebb.core.errors import TrebbError
from trebb.logbook.log.entries import MatterStated
from trebb.logbook.plan.afterwards import Again, again_key, again_list, proposed
from trebb.logbook.plan.job_plan import JobPlan
from trebb.logbook.plan.machine_card import card_of
from trebb.logbook.plan.suspicion import causes_table

STILL = {"": "not said", "no": "gone", "yes": "still there"}


class AfterPage(QWidget):
    """What leaves with the machine, and what comes back to it."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._plan: JobPlan | None = None
        self.current = ""
        outer = column(spacing=6)
        self.setLayout(outer)
        self.banner = Banner()
        outer.addWidget(self.banner)
        outer.addLayout(self._papers())
        self.said = label("", "small", wrap=True)
        self.said.hide()
        outer.addWidget(self.said)
        inner = QWidget()
        box = column(spacing=5)
        inner.setLayout(box)
        outer.addWidget(scrolled(inner), 1)
        self.still_head = label("What the owner said, and now", "strong")
        box.addWidget(self.still_head)
        self.still_box = column(spacing=2)
        box.addLayout(self.still_box)
        self.recordings = Recordings(session, "after")
        box.addWidget(self.recordings)
        box.addWidget(rule())
        box.addWidget(label("Look again", "strong"))
        self.list = column(spacing=2)
        box.addLayout(self.list)
        box.addLayout(self._new_line())
        self.here = label("", "soft")
        box.addWidget(self.here)
        self.fields = matter_fields(
            session, "again", lambda: self.current, ("what", "due", "why", "done"), columns=2
        )
        box.addWidget(self.fields)
        box.addWidget(rule())
        self.giving = Giving(session)
        box.addWidget(self.giving)
        box.addStretch(1)
        self._still: Fields | None = None
        self._still_of = ""

    def _papers(self) -> QHBoxLayout:
        """What can be written of the whole job."""
        line = row(spacing=6)
        for words, tip, name, suffix, kind in (
            ("The machine's card", "All of it as PDF", "machine_card", "card.pdf", "PDF (*.pdf)"),
            (
                "The same as JSON",
                "Every figure, for other programs",
                "card_json",
                "card.json",
                "JSON (*.json)",
            ),
            ("Week sheet", "The coming days as PDF", "week_sheet", "week.pdf", "PDF (*.pdf)"),
            (
                "Calendar file",
                "Work, deliveries and what to look at again",
                "calendar",
                "plan.ics",
                "iCalendar (*.ics)",
            ),
        ):
            line.addWidget(button(words, partial(self._choose, words, suffix, kind), tip=tip, name=name))
        line.addStretch(1)
        return line

    def _new_line(self) -> QHBoxLayout:
        """Where something to look at again is added."""
        line = row(spacing=6)
        self.new = DraftEdit("new_again", "What to look at again", lambda: self._session.drafts)
        self.new.setPlaceholderText("what, then when: belt tension, in 2 months")
        self.new.setToolTip(
            "What to look at, behind a comma when: 2026-12-24, 24 Dec, in 3 months (Enter adds it)"
        )
        self.new.returnPressed.connect(self.add)
        line.addWidget(self.new, 1)
        line.addWidget(button("Add", self.add, tip="Add it to the list", key="Enter", name="add_again"))
        line.addWidget(
            button(
                "The usual",
                self.add_usual,
                tip="What usually wants another look of what is mended",
                name="usual_again",
            )
        )
        return line

    # gestures ---------------------------------------------------------------------------------

    def add(self) -> None:
        """Add what was typed."""
        what, _, when = self.new.text().strip().rpartition(",")
        if not (what or when).strip():
            return
        today = clock.today()
        try:
            due = date_typed(when, today) if what else date_typed("in 1 month", today)
            key = again_key(self._session.cases)
            fields = {
                "what": (what or when).strip(),
                "due": due.isoformat(),
                "assembly": self._session.assembly,
            }
            if not self._session.record(*[MatterStated("again", key, k, v) for k, v in fields.items()]):
                return
        except TrebbError as error:
            self._say(f"{error}.")
            return
        self._say("")
        self.current = key
        self.new.entered()
        self._show()

    def add_usual(self) -> None:
        """Add what usually wants another look."""
        bodies = proposed(self._session.cases, clock.today())
        if bodies:
            self._session.record(*bodies)
        else:
            self._say("Nothing more: choose remedies first, or write your own.")

    def looked(self, key: str) -> None:
        """It was looked at today."""
        today = clock.today().isoformat()
        self._session.record(MatterStated("again", key, "done", today))

    def _choose(self, words: str, suffix: str, kind: str) -> None:
        start = self._session.path.with_name(f"{self._session.path.stem}-{suffix}")
        name, _ = QFileDialog.getSaveFileName(self, words, str(start), kind)
        if name:
            self.write_to(Path(name), suffix)

    def write_to(self, path: Path, suffix: str) -> None:
        """Write one of the papers; says here where it is, or why not."""
        from trebb.app.plan import papers

        session, plan = self._session, self._plan
        if plan is None:
            return
        try:
            if suffix == "card.pdf":
                pages = papers.write_machine_card(session, path)
            elif suffix == "card.json":
                papers.write_card_json(card_of(session.cases, clock.now()), path)
                pages = 0
            elif suffix == "week.pdf":
                pages = papers.write_week_sheet(session, plan, path)
            else:
                papers.write_calendar(session, plan, path)
                pages = 0
        except TrebbError as error:
            self._say(f"{error}.")
            return
        count = f", {pages} page{'s' if pages > 1 else ''}" if pages else ""
        self._say(f"Written{count}: {path}")

    def _say(self, sentence: str) -> None:
        self.said.setText(sentence)
        self.said.setVisible(bool(sentence))

    # showing ----------------------------------------------------------------------------------

    def show_plan(self, plan: JobPlan) -> None:
        """Show what there is."""
        self._plan = plan
        self._show()

    def _show(self) -> None:
        self.recordings.refresh()
        found = again_list(self._session.cases)
        keys = [a.key for a in found]
        if self.current not in keys:
            self.current = keys[0] if keys else ""
        today = clock.today()
        due = [a for a in found if a.is_due(today)]
        if due:
            self.banner.say("near", f"Due: {'; '.join(a.what for a in due)}.", "")
        else:
            self.banner.say("soft", "What leaves with the machine, and when to look again.", "")
        clear(self.list)
        for a in found:
            self._line(a, is_due=a in due)
        self.here.setText("" if found else "Nothing to look at again yet.")
        self.fields.setVisible(bool(found))
        self.fields.refresh()
        self._show_still()

    def _line(self, a: Again, *, is_due: bool) -> None:
        line = row(spacing=6)
        when = f"looked at {full_words(a.done)}" if a.done else full_words(a.due) if a.due else "no day"
        where = f" ({a.label})" if a.label else ""
        words = f"{'! ' if is_due else ''}{when}: {a.what}{where}"
        choose = button(words, partial(self._look, a.key), kind="link", tip=a.why or a.what)
        line.addWidget(choose, 1)
        if a.done is None:
            line.addWidget(
                button(
                    "Looked at it", partial(self.looked, a.key), kind="chip", tip="Done today", name="looked"
                )
            )
        self.list.addLayout(line)

    def _look(self, key: str) -> None:
        self.current = key
        self._show()

    def _show_still(self) -> None:
        told = self._session.job.matters("symptom")
        table, _ = causes_table()
        there = [s for s in table.symptoms if told.get(s.key, {}).get("there") == "yes"]
        of = " ".join(s.key for s in there)
        self.still_head.setVisible(bool(there))
        if of != self._still_of:
            clear(self.still_box)
            self._still_of = of
            self._still = Fields(2)
            for s in there:
                self._still.add_choice(
                    f"still_{s.key}",
                    s.words,
                    STILL,
                    partial(self._after, s.key),
                    partial(self._set_after, s.key),
                    f"{s.words}: now",
                )
            self.still_box.addWidget(self._still)
        if self._still is not None:
            self._still.refresh()

    def _after(self, key: str) -> str:
        return str(self._session.job.matter("symptom", key).get("after", ""))

    def _set_after(self, key: str, value: str) -> None:
        self._session.record(MatterStated("symptom", key, "after", value))
