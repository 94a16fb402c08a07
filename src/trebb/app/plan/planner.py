"""The plan made beside the window: however many tasks there are, whoever ticks one is not kept waiting."""

from __future__ import annotations

import threading

from PySide6.QtCore import QObject, QTimer, Signal

from trebb.app.window import mishaps
from trebb.logbook.plan.job_plan import Asked, JobPlan, plan_of

PATIENCE_S = 0.03  # so long the window waits for a plan before it goes on without: nobody sees that
LOOK_MS = 25


class _Making:
    """One plan being made in a thread of its own."""

    def __init__(self, asked: Asked) -> None:
        self.asked = asked
        self.plan: JobPlan | None = None
        self.error: Exception | None = None
        self._thread = threading.Thread(target=self._run, name="plan", daemon=True)
        self._thread.start()

    def _run(self) -> None:
        try:
            self.plan = plan_of(self.asked)
        except Exception as error:  # said by the window, which goes on
            self.error = error

    def is_done_within(self, seconds: float) -> bool:
        """Whether it is done, waiting for it so long at most."""
        self._thread.join(seconds)
        return not self._thread.is_alive()


class Planner(QObject):
    """Makes plans one after another. `planned` gives one that was not there at once; `failed` says, once,
    that one could not be made at all.
    """

    planned = Signal(object)
    failed = Signal(str)

    def __init__(self, parent: QObject) -> None:
        super().__init__(parent)
        self._making: _Making | None = None
        self._next: Asked | None = None
        self._has_failed = False
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self._looked)

    def plan(self, asked: Asked) -> JobPlan | None:
        """The plan of what is asked; None where it takes longer, and is said when it is there."""
        if self._making is not None:
            if not self._making.is_done_within(0.0):
                self._next = asked
                return None
            self._making = None
        self._next = None
        self._making = _Making(asked)
        if not self._making.is_done_within(PATIENCE_S):
            self._look.start()
            return None
        return self._made()

    def _looked(self) -> None:
        """Whether the one that was waited for is there; the newest that was asked for is made next."""
        if self._making is None or not self._making.is_done_within(0.0):
            return
        self._look.stop()
        plan = self._made()
        if self._next is not None:
            plan = self.plan(self._next)
        if plan is not None:
            self.planned.emit(plan)

    def _made(self) -> JobPlan | None:
        making, self._making = self._making, None
        assert making is not None
        if making.error is not None:
            mishaps.write_report(type(making.error), making.error, making.error.__traceback__)
            if not self._has_failed:
                self._has_failed = True
                self.failed.emit("The plan could not be made just now; what it stood on before is shown.")
        return making.plan
