"""Fit-up: putting it together in an order that works."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import Banner, button, column, label, row, rule
from trebb.app.parts.meetings_panel import MeetingsPanel
from trebb.app.parts.route_list import Line, RouteList
from trebb.app.stops.base import DriveStop
from trebb.app.window.far_cover import Far
from trebb.core.dual_units import in_units
from trebb.core.fitup import FitStep, blocked_by
from trebb.core.units import show_minutes
from trebb.core.words import small
from trebb.logbook.cases.strip_down import came_off, fixes_for_good, not_met
from trebb.logbook.log.entries import StepDone

if TYPE_CHECKING:
    from trebb.app.window.host import Host


FAR_KEYS = "up and down: another step    ·    D marks it done"


class FitUpStop(DriveStop):
    """Steps with what each waits for; a step cannot be ticked before that, and says why."""

    def __init__(self, frame: Host) -> None:
        super().__init__(frame)
        self.step_key = ""
        self._said = ""
        body = self.body_box
        body.addWidget(label("Putting it together", "title"))
        self.foot = label("", "soft", wrap=True)
        body.addWidget(self.foot)
        self.list = RouteList(with_arcs=True)
        self.list.chosen.connect(self.show_step)
        body.addWidget(self.list, 1)
        self.banner = Banner()
        self.banner.hide()
        body.addWidget(self.banner)
        self.side = QWidget()
        side = column(spacing=8)
        self.side.setLayout(side)
        self.title = label("", "head", wrap=True)
        self.why = label("", wrap=True)
        self.after = label("", "soft", wrap=True)
        self.remind_head = label("Remember", "strong")
        self.remind = label("", wrap=True)
        self.caution = Banner()
        for widget in (self.title, self.why, self.after, rule(), self.remind_head, self.remind, self.caution):
            side.addWidget(widget)
        side.addStretch(1)
        self.meetings = MeetingsPanel(self.session)
        side.addWidget(self.meetings)
        self.done_button = button(
            "Mark done",
            self.toggle_done,
            kind="primary",
            tip="Tick this step, or take the tick back",
            key="Ctrl+D",
            shortcut=True,
            name="fit_done",
        )
        self.done_button.setMinimumHeight(40)
        line = row()
        line.addWidget(self.done_button)
        side.addLayout(line)

    def has_job(self) -> bool:
        """What came off goes back on, whether it can be measured or not."""
        case = self.session.case
        came = came_off(self.session.job, case.assembly_key)
        return case.has_set_ups or bool(came) or case.boxed is not None

    def current(self) -> FitStep:
        """The step looked at: as chosen, else the first that can be done."""
        steps = self.session.case.fit_order()
        done = self.session.job.steps_done(self.session.case.fit_plan)
        for step in steps:
            if step.key == self.step_key:
                return step
        return next((s for s in steps if s.key not in done and not blocked_by(s, steps, done)), steps[-1])

    def show_step(self, key: str) -> None:
        """Another step."""
        self.step_key, self._said = key, ""
        self.refresh()

    def step(self, by: int) -> bool:
        keys = [s.key for s in self.session.case.fit_order()]
        i = keys.index(self.current().key) + by
        self.show_step(keys[max(0, min(len(keys) - 1, i))])
        return True

    def toggle_done(self) -> None:
        """Tick the step if all it needs is done; say why not otherwise. A tick others stand on is not taken
        back.
        """
        step, steps = self.current(), self.session.case.fit_order()
        done = self.session.job.steps_done(self.session.case.fit_plan)
        if step.key in done:
            standing = [s for s in steps if step.key in s.after and s.key in done]
            if standing:
                self._said = f"“{standing[0].title}” was done on top of it: take that tick back first."
                self.refresh()
                return
            self._said = ""
            self.session.record(StepDone(plan=self.session.case.fit_plan, step=step.key, done=False))
            return
        missing = blocked_by(step, steps, done)
        if missing:
            names = " and ".join(f"“{m.title}”" for m in missing)
            self._said = f"First {names}. {step.why or missing[0].why}"
            self.refresh()
            return
        boxed = self.session.case.boxed
        if stopped := boxed.stops(step.key) if boxed is not None else "":
            self._said = f"{stopped}. Once it is here, mended or new, say so at Strip-down."
            self.refresh()
            return
        apart = not_met(self.session.job, self.session.case.assembly_key)
        if apart and fixes_for_good(step.key):
            self._said = f"First see that they meet: {'; '.join(apart)}. Say so beside, Must meet again."
            self.refresh()
            return
        self.step_key, self._said = "", ""
        self.session.record(StepDone(plan=self.session.case.fit_plan, step=step.key))

    def far(self) -> Far:
        """The step now, why, what it waits for, what to remember."""
        steps = self.session.case.fit_order()
        if not steps or not self.has_job():
            return super().far()
        done, step = self.session.job.steps_done(self.session.case.fit_plan), self.current()
        waits = blocked_by(step, steps, done)
        lines = [
            in_units(step.title, self.session.system) + (": done" if step.key in done else ""),
            *([f"First {' and '.join(small(m.title) for m in waits)}"] if waits else []),
            *(
                in_units(w, self.session.system)
                for w in (self._said, step.caution, step.why, step.remind)
                if w
            ),
        ]
        head = f"Step {steps.index(step) + 1} of {len(steps)}, {len(done & {s.key for s in steps})} done"
        return Far(head, lines=tuple(lines[:4]), role="near" if waits else "ink", keys=FAR_KEYS)

    def far_key(self, key: Qt.Key) -> bool:
        if key in (Qt.Key.Key_D, Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.toggle_done()
            return True
        return False

    def show_nothing(self) -> None:
        self.side.setEnabled(False)

    def show_job(self) -> None:
        self.side.setEnabled(True)
        self.meetings.refresh()
        steps = self.session.case.fit_order()
        done = self.session.job.steps_done(self.session.case.fit_plan)
        step = self.current()
        self.list.show_lines(
            [
                Line(s.key, str(i + 1), s.title, s.key in done, not blocked_by(s, steps, done), s.after)
                for i, s in enumerate(steps)
            ],
            step.key,
        )
        left = sum(s.minutes for s in steps if s.key not in done)
        self.foot.setText(
            f"What each step waits for is drawn at the left. {len(done & {s.key for s in steps})} of "
            f"{len(steps)} done, about {show_minutes(left)} left."
        )
        self.title.setText(step.title)
        self.why.setText(step.why)
        missing = blocked_by(step, steps, done)
        self.after.setText(
            f"Waits for: {', '.join(m.title.lower() for m in missing)}."
            if missing
            else "Nothing stands before it."
        )
        marks = self.session.job.marks(self.session.assembly) if step.key in ("marks", "mark", "set") else []
        remind = "\n".join(
            [
                *([in_units(step.remind, self.session.system)] if step.remind else []),
                *(f"{m.what}: mark at {m.angle_deg:.0f}° on the nose. {m.note}".strip() for m in marks),
            ]
        )
        self.remind.setText(remind)
        self.remind.setVisible(bool(remind))
        self.remind_head.setVisible(bool(remind))
        if step.caution:
            self.caution.say("near", "", step.caution)
        else:
            self.caution.hide()
        self.done_button.setText("Take the tick back" if step.key in done else "Mark done")
        doubts = self.session.case.fit_doubts()
        if self._said:
            self.banner.say("near", self._said)
        elif doubts:
            self.banner.say("near", "As it came off and the known order disagree.", "\n".join(doubts))
        else:
            self.banner.hide()
