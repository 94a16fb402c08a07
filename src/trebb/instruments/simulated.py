"""A simulated indicator: a thread behind a real pseudo-terminal, read by the same serial code as any
other.
"""

from __future__ import annotations

import contextlib
import os
import random
import tempfile
import threading
import tty
from pathlib import Path

from msgspec import Struct

from trebb.instruments.protocol import format_line

LINES_PER_SECOND = 40
ANOTHER_SET_UP = 3.0  # mm; no needle travels that far from one place to the next


class Faults(Struct):
    """What a real indicator does wrong.

    `noise` standard deviation of a line, `hysteresis` lag behind the plunger's
    travel, `drift_per_s` of its zero, all in the unit being sent;
    `lost_line_share` lines that never arrive.
    """

    noise: float = 0.0006
    hysteresis: float = 0.0005
    drift_per_s: float = 0.0
    lost_line_share: float = 0.01


class SimulatedIndicator:
    """Sends readings on a pseudo-terminal named by `port`, a link that stays the same across unplugging.

    Lines carry their unit, so any format reads them. Commands on the line:
    `Z` sets zero here, `A` goes back to absolute. It sends by itself, or
    `by_hand`: then time passes for it only by `beat`. Raises OSError where
    the machine has no pseudo-terminals.
    """

    def __init__(self, faults: Faults | None = None, seed: int = 1, *, by_hand: bool = False) -> None:
        self.faults = faults or Faults()
        self._random = random.Random(seed)
        self._folder = tempfile.TemporaryDirectory(prefix="trebb-indicator-")
        self.port = str(Path(self._folder.name) / "port")
        self._target, self._unit, self._step, self._decimals = 0.0, "mm", 0.00254, 4
        self._shown = 0.0
        self._zero = 0.0
        self.sent = 0  # lines on this connection
        self._seconds = 0.0
        self._lock = threading.Lock()
        self._stop = threading.Event()
        self._master: int | None = None
        self._slave: int | None = None
        try:
            self.plug()
        except OSError:  # a machine without pseudo-terminals
            self._folder.cleanup()
            raise
        self._thread: threading.Thread | None = None
        if not by_hand:
            self._thread = threading.Thread(target=self._run, name="simulated-indicator", daemon=True)
            self._thread.start()

    def plug(self) -> None:
        """Connect the cable: a new pseudo-terminal under the same name."""
        with self._lock:
            if self._master is not None:
                return
            self._master, self._slave = os.openpty()
            tty.setraw(self._slave)
            os.set_blocking(self._master, False)
            with contextlib.suppress(FileNotFoundError):
                os.unlink(self.port)
            os.symlink(os.ttyname(self._slave), self.port)
            self.sent = 0

    def unplug(self) -> None:
        """Pull the cable out."""
        with self._lock:
            if self._master is None or self._slave is None:
                return
            os.close(self._slave)
            os.close(self._master)
            self._master = self._slave = None
            with contextlib.suppress(FileNotFoundError):
                os.unlink(self.port)

    @property
    def is_plugged(self) -> bool:
        """Whether the cable is in."""
        return self._master is not None

    def stand_at(self, value: float, unit: str, step: float) -> int:
        """Move the plunger: the value to show, in its unit, and the instrument's step.

        Returns how many lines were sent on this connection before it moved.
        """
        with self._lock:
            if unit != self._unit or abs(value - self._shown) > ANOTHER_SET_UP:
                self._shown = value  # another instrument was picked up: nothing eases across
            self._target, self._unit, self._step = value, unit, step
            self._decimals = {"mm": 5, "mm/m": 4}.get(unit, 1)
            return self.sent

    def _run(self) -> None:
        while not self._stop.wait(1 / LINES_PER_SECOND):
            self.beat()

    def beat(self, beats: int = 1) -> None:
        """Let so many fortieths of a second pass for the instrument: a line each, but for lost ones."""
        for _ in range(beats):
            self._seconds += 1 / LINES_PER_SECOND
            with self._lock:
                self._move()
                self._listen()
                if self._master is None or self._random.random() < self.faults.lost_line_share:
                    continue
                line = format_line(self._rounded(), self._unit, self._decimals)
                with contextlib.suppress(BlockingIOError, OSError):
                    os.write(self._master, line.encode("ascii"))
                    self.sent += 1

    def _move(self) -> None:
        """Ease toward the target and stop short of it by the hysteresis."""
        lag = self.faults.hysteresis if self._unit == "mm" else 0.0
        gap = self._target - self._shown
        if abs(gap) > 50 * self._step:
            self._shown += 0.35 * gap
        elif abs(gap) > lag:
            self._shown += gap - (lag if gap > 0 else -lag)

    def _rounded(self) -> float:
        noise = self.faults.noise * self._random.gauss(0, 1) if self._unit == "mm" else 0.0
        value = self._shown + noise + self.faults.drift_per_s * self._seconds - self._zero
        return round(value / self._step) * self._step + 0.0

    def _listen(self) -> None:
        if self._master is None:
            return
        with contextlib.suppress(BlockingIOError, OSError):
            for letter in os.read(self._master, 64).decode("ascii", errors="ignore").split():
                if letter == "Z":
                    self._zero = self._shown + self.faults.drift_per_s * self._seconds
                elif letter == "A":
                    self._zero = 0.0

    def close(self) -> None:
        """Stop sending and remove the port."""
        self._stop.set()
        if self._thread is not None:
            self._thread.join(timeout=2)
        self.unplug()
        self._folder.cleanup()
