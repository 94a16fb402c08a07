"""The solver at work beside the window, in a process of its own. What it finds is offered: the plan on the
screen moves only when it is taken.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Mapping

from PySide6.QtCore import QObject, QProcess, QTimer, Signal

from trebb.app.window import mishaps
from trebb.app.window.own_command import SOLVE, is_bundle, own_command
from trebb.core.planning.evenings import TINY
from trebb.core.planning.solver import SECONDS, as_asked
from trebb.logbook.plan.job_plan import Found, JobPlan

WAIT_MS = 400  # after the last change, before it begins
MOST_FAILURES = 2  # of as many plans one after another: it is not tried again in this window
BY_RULE = "The plan stands by rule: the solver could not be started."
SOLVER = "trebb.core.planning.solver"


class PlanSolver(QObject):
    """Improves a plan that stands already. `found` carries what it has so far; `said` a few words."""

    found = Signal(object)
    said = Signal(str)

    def __init__(self, parent: QObject | None = None) -> None:
        super().__init__(parent)
        self._process: QProcess | None = None
        self._plan: JobPlan | None = None
        self._read = b""
        self._done_of = ""
        self._failures = 0
        self._wait = QTimer(self)
        self._wait.setSingleShot(True)
        self._wait.setInterval(WAIT_MS)
        self._wait.timeout.connect(self._begin)

    @property
    def is_running(self) -> bool:
        """Whether it is at work, or about to be."""
        waits = self._process is not None or self._wait.isActive()
        return waits and (self._plan is None or self._plan.of != self._done_of)

    def improve(self, plan: JobPlan) -> None:
        """Look for a better plan of these tasks, unless that was done or is being done."""
        if (
            self._failures >= MOST_FAILURES
            or plan.of == self._done_of
            or (self._plan is not None and plan.of == self._plan.of and self.is_running)
        ):
            return
        self.stop()
        self._plan = plan
        if plan.of and not plan.trouble:
            self._wait.start()

    def stop(self) -> None:
        """Stop looking: what was found stays."""
        self._wait.stop()
        if self._process is not None:
            process, self._process = self._process, None
            for signal in (process.readyReadStandardOutput, process.finished, process.errorOccurred):
                signal.disconnect()
            process.kill()
            process.waitForFinished(2000)
            process.deleteLater()

    def _begin(self) -> None:
        plan = self._plan
        if plan is None:
            return
        tasks = [x.task for x in plan.lines if x.task.key in plan.starts]
        due = (plan.ready_by - plan.today).days + 1 if plan.ready_by is not None else None
        hands = {t.key: plan.starts[t.key] for t in tasks if not t.waits}
        self._process = process = QProcess(self)
        self._read = b""
        process.readyReadStandardOutput.connect(self._heard)
        process.finished.connect(self._finished)
        process.errorOccurred.connect(self._not_started)
        process.setStandardErrorFile(QProcess.nullDevice())
        program, *arguments = [*own_command(), SOLVE] if is_bundle() else [sys.executable, "-m", SOLVER]
        process.start(program, arguments)
        process.write(as_asked(tasks, plan.evenings, due, hands, plan.days, SECONDS).encode())
        process.closeWriteChannel()
        self.said.emit("Looking for a better plan …")

    def _heard(self) -> None:
        if self._process is None:
            return
        self._read += bytes(self._process.readAllStandardOutput().data())
        *lines, self._read = self._read.split(b"\n")
        for line in lines:
            try:
                self._take(json.loads(line))
            except (ValueError, KeyError, TypeError) as error:  # it speaks otherwise than was agreed
                mishaps.write_report(type(error), error, error.__traceback__)
                self._failed()
                return

    def _take(self, told: Mapping[str, object]) -> None:
        plan = self._plan
        if plan is None:
            return
        if "refused" in told:
            self._done_of = plan.of
            self.said.emit(str(told["refused"]))
            return
        starts = told["starts"]
        assert isinstance(starts, dict)
        hours = {x.task.key: x.task.hours for x in plan.lines}
        order = sorted(starts, key=lambda k: (starts[k], hours[k] > TINY, k))
        is_last = bool(told["is_last"])
        is_least = bool(told.get("is_least", False))
        gap = float(str(told.get("gap", 1.0)))
        self.found.emit(Found(plan.of, tuple(order), is_least, gap))
        if is_last:
            self._done_of = plan.of
            best = "No order is better" if is_least else f"Within {gap:.0%} of the best there can be"
            self.said.emit(f"{best}.")

    def _finished(self, code: int, status: QProcess.ExitStatus) -> None:
        """It ended: having said all it had to, or before that."""
        if self._process is None:
            return
        is_well = code == 0 and status is QProcess.ExitStatus.NormalExit
        if is_well and self._plan is not None and self._done_of == self._plan.of:
            self._failures = 0
            process, self._process = self._process, None
            process.deleteLater()
        else:
            self._failed()

    def _not_started(self, error: QProcess.ProcessError) -> None:
        if error is QProcess.ProcessError.FailedToStart:
            self._failed()

    def _failed(self) -> None:
        """Say it, and go on without: of this plan it is not asked again."""
        self._failures += 1
        self.stop()
        if self._plan is not None:
            self._done_of = self._plan.of
        self.said.emit(BY_RULE)
