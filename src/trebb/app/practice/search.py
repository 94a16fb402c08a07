"""The best order is looked for beside the window: it takes seconds on a lathe's bed."""

from __future__ import annotations

import threading
from collections.abc import Sequence

from PySide6.QtCore import QObject, Signal

from trebb.app.window import mishaps
from trebb.core.errors import TrebbError
from trebb.logbook.log.entries import Entry


class BestSearch(QObject):
    """Looks for the best order of a practice job; what comes back after its owner went is dropped."""

    found = Signal(object)
    failed = Signal(str)

    def __init__(self, owner: QObject) -> None:
        super().__init__(owner)
        self._thread: threading.Thread | None = None

    @property
    def is_running(self) -> bool:
        """Whether one is being looked for."""
        return self._thread is not None and self._thread.is_alive()

    def begin(self, entries: Sequence[Entry]) -> None:
        """Begin, unless one is under way."""
        if self.is_running:
            return
        self._thread = threading.Thread(target=self._run, args=(list(entries),), daemon=True)
        self._thread.start()

    def _run(self, entries: Sequence[Entry]) -> None:
        from trebb.logbook.practice.opened import look_for_best

        try:
            best = look_for_best(entries)
        except TrebbError as error:
            self._say(self.failed, str(error))
            return
        except Exception as error:  # nobody is kept waiting for what will not come
            mishaps.write_report(type(error), error, error.__traceback__)
            self._say(self.failed, "the best order could not be looked for")
            return
        self._say(self.found, best)

    def _say(self, signal: object, told: object) -> None:
        try:
            signal.emit(told)  # type: ignore[attr-defined]
        except RuntimeError:  # the window was closed meanwhile
            return
