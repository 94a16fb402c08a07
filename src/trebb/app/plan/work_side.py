"""Beside the plan: tonight, what to order today, and the task looked at."""

from __future__ import annotations

import datetime
from collections.abc import Callable
from functools import partial

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QPushButton, QVBoxLayout, QWidget

from trebb.app.look.typed import DraftEdit
from trebb.app.look.widgets import button, clear, column, label, row, rule, scrolled
from trebb.app.plan.benches import takes_words
from trebb.app.plan.matter_fields import matter_fields
from trebb.app.plan.returned import Returned
from trebb.app.window.session import Session
from trebb.core import clock
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError, TrebbError
from trebb.core.words import large
from trebb.logbook.log.entries import Body, MatterStated
from trebb.logbook.plan.job_plan import JobPlan, Line
from trebb.logbook.plan.job_tasks import checked_after, own_key
from trebb.logbook.plan.plan_words import day_of
from trebb.logbook.plan.ticking import tick_entry

MOST_STEPS_SHOWN = 6


class WorkSide(QWidget):
    """Lines of tonight open their stop; the task looked at has its estimate, dates, timer and tick."""

    opened = Signal(str)
    looked = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._plan: JobPlan | None = None
        self._line: Line | None = None
        box = column(spacing=6)
        self.setLayout(box)
        lists = QWidget()
        self._lists = column(spacing=2)
        lists.setLayout(self._lists)
        box.addWidget(scrolled(lists), 2)
        box.addWidget(rule())
        inner = QWidget()
        about = column(spacing=4)
        inner.setLayout(about)
        self.title = label("", "strong", wrap=True)
        self.when = label("", "soft", wrap=True)
        about.addWidget(self.title)
        about.addWidget(self.when)
        self._work = self._fields("hours", "pinned", "part", "helper", "missing", "spent", "cost", "paid")
        self._wait = self._fields("days", "comes", "missing", "cost", "paid")
        self._build_outside(about)
        about.addWidget(self._work)
        about.addWidget(self._wait)
        self.refusal = label("", "refused", wrap=True)
        about.addWidget(self.refusal)
        about.addStretch(1)
        box.addWidget(scrolled(inner), 3)
        line = row(spacing=6)
        self.timer = button(
            "Start timer",
            self.toggle_timer,
            tip="Time this task; again to stop",
            key="Ctrl+G",
            shortcut=True,
            name="task_timer",
        )
        self.opens = button(
            "Open its stop", self._open, tip="Go where this task is done", key="Enter", name="task_open"
        )
        line.addWidget(self.timer)
        line.addWidget(self.opens)
        box.addLayout(line)
        self.done = button(
            "Mark done",
            self.toggle,
            kind="primary",
            tip="Tick this task, or take the tick back",
            key="Ctrl+D",
            shortcut=True,
            name="task_done",
        )
        box.addWidget(self.done)
        self._build_adding(box)

    def _build_outside(self, about: QVBoxLayout) -> None:
        """What came back from a firm is measured, taken or sent back here."""
        self._outside = Returned(self._session, self._assembly)
        about.addWidget(self._outside)

    def _assembly(self) -> str:
        return self._line.work.assembly if self._line is not None else ""

    def _build_adding(self, box: QVBoxLayout) -> None:
        box.addWidget(rule())
        adding = row(spacing=6)
        self.new_title = DraftEdit("new_task", "A task of your own", lambda: self._session.drafts)
        self.new_title.setPlaceholderText("a task of your own, 1.5 h")
        self.new_title.setToolTip("Words, then hours or days: “paint the covers, 2 h”, “paint dries, 3 d”")
        self.new_title.returnPressed.connect(self.add_own)
        adding.addWidget(self.new_title, 1)
        adding.addWidget(button("Add", self.add_own, tip="Add it to the plan", key="Enter", name="add_task"))
        box.addLayout(adding)

    def _fields(self, *keys: str) -> QWidget:
        return matter_fields(self._session, "task", self._key, keys, usual=self._usual, prefix="task")

    def _key(self) -> str:
        return self._line.task.key if self._line is not None else ""

    def _usual(self, key: str) -> str:
        line = self._line
        if line is None:
            return ""
        if key == "hours":
            return f"{line.work.planned if line.is_done else line.task.hours:.2g} h"
        if key == "days":
            return f"{line.task.hours / 24:.2g} d"
        return ""

    def take_up(self, plan: JobPlan, key: str) -> None:
        """What is done next is done to this task; nothing is shown yet."""
        self._plan = plan
        self._line = next((x for x in plan.lines if x.task.key == key), None)

    def show_plan(self, plan: JobPlan, key: str) -> None:
        """Show another plan, or another task."""
        self.take_up(plan, key)
        self._show_lists(plan)
        self._show_task(plan)

    def _show_lists(self, plan: JobPlan) -> None:
        system = self._session.system
        clear(self._lists)
        self._lists.addWidget(label("Tonight", "head"))
        tonight = plan.tonight
        hours = plan.evenings.hours[0]
        if not tonight:
            words = "Nothing that needs hands." if hours else "No evening today."
            self._lists.addWidget(label(words, "soft"))
        for x, part in tonight:
            self._lists.addWidget(self._link(f"{in_units(x.task.title, system)}, {_hours(part)}", x.task.key))
            left = part
            for title, takes in x.work.steps[:MOST_STEPS_SHOWN]:
                if left <= 0.02:
                    break
                left -= takes
                step = label(f"   {in_units(title, system)}", "soft")
                step.setToolTip(in_units(title, system))
                self._lists.addWidget(step)
        self._lists.addWidget(label("Order or send today", "head"))
        if not plan.to_order:
            self._lists.addWidget(label("Nothing.", "soft"))
        for x in plan.to_order:
            self._lists.addWidget(self._link(in_units(x.task.title, system), x.task.key))
            for ask in self._asks(x)[:3]:
                said = label(f"   {in_units(ask, system)}", "soft", wrap=True)
                self._lists.addWidget(said)
        self._lists.addStretch(1)

    def _asks(self, x: Line) -> tuple[str, ...]:
        """What to ask for, a part's sizes in the shop's units."""
        if not x.work.part:
            return x.work.ask
        try:
            return tuple(self._session.cases.of(x.work.assembly).asked_for(x.work.part, self._session.system))
        except TrebbError:
            return x.work.ask

    def _link(self, words: str, key: str) -> QPushButton:
        made = button(words, partial(self.opened.emit, key), kind="link", tip=f"{words}: open its stop")
        made.setStyleSheet("text-align: left")
        metrics = made.fontMetrics()
        made.setText(metrics.elidedText(words, Qt.TextElideMode.ElideRight, max(120, self.width() - 26)))
        return made

    def _show_task(self, plan: JobPlan) -> None:
        line = self._line
        for widget in (self.timer, self.done):
            widget.setEnabled(line is not None)
        self._work.setVisible(line is not None and not line.task.waits)
        self._wait.setVisible(line is not None and line.task.waits)
        self._outside.show_return(line.work if line is not None else None)
        if line is None:
            self.title.setText("No task" if plan.lines else "Nothing to plan yet")
            self.when.setText("" if plan.lines else "Choose a remedy at Remedies: its tasks stand here.")
            self.opens.setEnabled(False)
            return
        self.title.setText(in_units(line.task.title, self._session.system))
        self.when.setText(self._when(plan, line))
        (self._wait if line.task.waits else self._work).refresh()  # type: ignore[attr-defined]
        self.opens.setEnabled(bool(line.work.stop))
        running = bool(self._session.job.matter("task", line.task.key).get("timer"))
        self.timer.setText("Stop timer" if running else "Start timer")
        self.timer.setVisible(not line.task.waits)
        self.done.setText(
            "Take the tick back" if line.is_done else "It is here" if line.task.waits else "Mark done"
        )

    def _when(self, plan: JobPlan, line: Line) -> str:
        if line.is_done:
            return "Done."
        by_key = {x.task.key: x for x in plan.lines}
        after = [in_units(by_key[a].task.title, self._session.system) for a in line.task.after if a in by_key]
        waits = f" After: {'; '.join(after)}." if after else ""
        if line.work.missing:
            return f"Waits until it is here: {line.work.missing}.{waits}"
        if line.task.key not in plan.starts:
            return f"Not planned.{waits}"
        days = day_of(plan, line.first)
        if line.last > line.first:
            days = f"{days} to {day_of(plan, line.last)}"
        decides = " Any delay of it delays the end." if line.is_deciding else ""
        told = self._session.job.matter("task", line.task.key)
        own = line.work.from_shop if not {"hours", "days"} & set(told) else ""
        from_shop = f" As long as such work takes here: {own}." if own else ""
        return f"{large(days)}, {takes_words(line)}.{from_shop}{decides}{waits}"

    def _open(self) -> None:
        if self._line is not None:
            self.opened.emit(self._line.task.key)

    def toggle(self) -> None:
        """Tick the task, or take its tick back; a timer that runs stops with it."""
        line = self._line
        if line is None:
            return
        try:
            entry = tick_entry(self._session.cases, self._plan.lines if self._plan else (), line.task.key)
        except TrebbError as error:
            self.refusal.setText(f"{large(str(error))}.")
            return
        self.refusal.setText("")
        bodies: list[Body] = [entry]
        if entry.done and self._session.job.matter("task", entry.step).get("timer"):
            bodies += self._stopped(entry.step)
        self._session.record(*bodies)

    def toggle_timer(self) -> None:
        """Start the timer of this task, or stop it: one task is timed at a time."""
        key = self._key()
        if not key:
            return
        said = self._session.job.matters("task")
        running = [k for k, told in said.items() if told.get("timer")]
        bodies: list[Body] = [body for k in running for body in self._stopped(k)]
        if key not in running:
            now = clock.now().isoformat(timespec="seconds")
            bodies.append(MatterStated("task", key, "timer", now))
        self._session.record(*bodies)

    def _stopped(self, key: str) -> list[Body]:
        """What stops a task's timer: its hours are added to those spent."""
        told = self._session.job.matter("task", key)
        begun = datetime.datetime.fromisoformat(str(told["timer"]))
        before = told.get("spent", 0.0)
        hours = max(0.0, (clock.now() - begun).total_seconds() / 3600)
        spent = min(1000.0, (float(before) if isinstance(before, int | float) else 0.0) + hours)
        return [MatterStated("task", key, "spent", round(spent, 4)), MatterStated("task", key, "timer", "")]

    def add_own(self) -> None:
        """Add the task that was typed: words, then hours, days, or nothing."""
        text = self.new_title.text().strip()
        if not text:
            return
        title, _, takes = text.rpartition(",")
        try:
            bodies = self._own(title or text, takes if title else "")
            if not self._session.record(*bodies):
                return
        except TrebbError as error:
            self.refusal.setText(f"{error}.")
            return
        self.refusal.setText("")
        self.new_title.entered()
        self.looked.emit(bodies[0].of)

    def _own(self, title: str, takes: str) -> list[MatterStated]:
        key = own_key(self._session.cases)
        made: Callable[[str, str | float], MatterStated] = partial(MatterStated, "task", key)
        bodies = [made("own", "yes"), made("title", title.strip())]
        plain = takes.strip().lower()
        if plain:
            number = plain.rstrip("abcdefghijklmnopqrstuvwxyz .")
            unit = plain[len(number) :].strip().rstrip(".")
            try:
                value = float(number.replace(",", "."))
            except ValueError:
                raise InputError(f"“{takes.strip()}”", "hours or days behind the comma: 1.5 h, 3 d") from None
            if unit in ("d", "day", "days"):
                bodies += [made("kind", "wait"), made("days", value)]
            elif unit in ("", "h", "hour", "hours"):
                bodies.append(made("hours", value))
            elif unit in ("min", "minutes", "m"):
                bodies.append(made("hours", value / 60))
            else:
                raise InputError(f"“{takes.strip()}”", "hours or days behind the comma: 1.5 h, 3 d")
        if self._session.assembly:
            bodies.append(made("assembly", self._session.assembly))
        return bodies

    def make_wait_for(self, key: str, other: str) -> None:
        """Make a task of one's own wait for another. Raises InputError where they would wait for each
        other.
        """
        assert self._plan is not None
        told = str(self._session.job.matter("task", key).get("after", "")).split()
        after = [*dict.fromkeys([*told, other])]
        checked_after([x.work for x in self._plan.lines], key, after)
        self._session.record(MatterStated("task", key, "after", " ".join(after)))


def _hours(hours: float) -> str:
    return f"{hours:.1f} h" if hours >= 1 else f"{60 * hours:.0f} min"
