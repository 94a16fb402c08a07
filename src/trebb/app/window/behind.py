"""What is made beside the window, however long it takes: whoever does something is not kept waiting."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from PySide6.QtCore import QObject, QTimer, Signal

from trebb.app.window import mishaps

PATIENCE_S = 0.03  # so long the window waits for it before it goes on without: nobody sees that
LOOK_MS = 25


class _Making:
    """One thing being made in a thread of its own."""

    def __init__(self, make: Callable[[Any], Any], asked: Any) -> None:
        self.made: Any = None
        self.error: Exception | None = None
        self._make, self._asked = make, asked
        self._thread = threading.Thread(target=self._run, name="behind", daemon=True)
        self._thread.start()

    def _run(self) -> None:
        try:
            self.made = self._make(self._asked)
        except Exception as error:  # said by the window, which goes on
            self.error = error

    def is_done_within(self, seconds: float) -> bool:
        """Whether it is done, waiting for it so long at most."""
        self._thread.join(seconds)
        return not self._thread.is_alive()


class Behind(QObject):
    """Makes one thing after another of what is asked. `made` gives one that was not there at once; `failed`
    says, once, that one could not be made at all.
    """

    made = Signal(object)
    failed = Signal(str)

    def __init__(self, parent: QObject, make: Callable[[Any], Any], failing: str) -> None:
        super().__init__(parent)
        self._make, self._failing = make, failing
        self._making: _Making | None = None
        self._next: list[Any] = []
        self._has_failed = False
        self._look = QTimer(self)
        self._look.setInterval(LOOK_MS)
        self._look.timeout.connect(self._looked)

    def ask(self, asked: Any) -> Any:
        """What is made of it; None where it takes longer, and is said when it is there."""
        if self._making is not None:
            if not self._making.is_done_within(0.0):
                self._next = [asked]
                return None
            self._making = None
        self._next = []
        self._making = _Making(self._make, asked)
        if not self._making.is_done_within(PATIENCE_S):
            self._look.start()
            return None
        return self._take()

    def _looked(self) -> None:
        """Whether the one that was waited for is there; the newest that was asked for is made next."""
        if self._making is None or not self._making.is_done_within(0.0):
            return
        self._look.stop()
        made = self._take()
        if self._next:
            made = self.ask(self._next.pop())
        if made is not None:
            self.made.emit(made)

    def _take(self) -> Any:
        making, self._making = self._making, None
        assert making is not None
        if making.error is not None:
            mishaps.write_report(type(making.error), making.error, making.error.__traceback__)
            if not self._has_failed:
                self._has_failed = True
                self.failed.emit(self._failing)
        return making.made
