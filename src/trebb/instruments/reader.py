"""Reading an indicator over a serial port, in a thread of its own."""

from __future__ import annotations

import contextlib
import errno
import threading
import time
from collections.abc import Callable
from pathlib import Path

import serial
from msgspec import Struct

from trebb.core.errors import InputError
from trebb.instruments.protocol import LineFormat, ProtocolError, Sample, parse_line

QUIET_SECONDS = 1.0
# An instrument whose lines follow each other so often streams; another sends one line a press of its button.
STREAM_LINES = 3
KEPT_LINES = 8
BAUD = 9600
KEPT_RAW, RAW_LETTERS = 12, 40
RETRY_SECONDS = 0.3
# So many bad lines in a row, and the trouble is the setting, not the cable.
NOISE_LINES = 3


class PortError(InputError):
    """A serial port that cannot be opened."""


class LinkState(Struct, frozen=True):
    """How the link stands: "live", "quiet", "noise", "gone" or "ended", and a sentence."""

    key: str
    sentence: str


def named_ports() -> list[tuple[str, str]]:
    """Serial ports of this computer, each with what it calls itself; those of Bluetooth too."""
    from serial.tools import list_ports

    found = {port.device: port.description for port in list_ports.comports()}
    for path in sorted(Path("/dev").glob("rfcomm*")):
        found.setdefault(str(path), "Bluetooth")
    return [(device, "" if words in ("n/a", device) else words) for device, words in found.items()]


def available_ports() -> list[str]:
    """Names of the serial ports of this computer."""
    return [device for device, _ in named_ports()]


def shown_line(raw: bytes) -> str:
    """A line as it came, for eyes: what is no letter of ASCII is a dot, and nothing of it can do anything."""
    text = "".join(chr(b) if 32 <= b < 127 else "·" for b in raw[: RAW_LETTERS + 1])
    return text if len(raw) <= RAW_LETTERS else f"{text[:RAW_LETTERS]}…"


class Received(Struct, frozen=True):
    """A sample with the number of its line on this connection, and when it came."""

    sample: Sample
    number: int
    at: float


class IndicatorReader:
    """Reads lines from a port and keeps the latest sample.

    Raises PortError on construction when the port is not there. A cable pulled
    later is waited for: the reader opens the port again when it comes back.
    """

    def __init__(
        self,
        port: str,
        line_format: LineFormat,
        baud: int = BAUD,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self.port, self.format, self.baud = port, line_format, baud
        self._clock = clock
        self._opened_at = self._last_at = clock()
        self.raw_lines: tuple[str, ...] = ()  # as they came, newest last, whatever they hold
        self._held: tuple[Received, ...] = ()  # replaced as a whole: read from another thread
        self.number = 0  # lines that came since the port was opened …
        self.connection = 0  # … for the so manieth time
        self.passed_over = -1  # the connection whose first line was, once it came
        self._quick = 0
        self._bad = 0
        self._bad_sentence = ""
        self._gone = False
        self._stop = threading.Event()
        self._serial = self._open()
        self._thread = threading.Thread(target=self._run, name="indicator-reader", daemon=True)
        self._thread.start()

    def _open(self) -> serial.Serial:
        try:
            return serial.Serial(self.port, self.baud, timeout=0.1, exclusive=True)
        except (serial.SerialException, OSError, ValueError) as error:
            if getattr(error, "errno", None) in (errno.EBUSY, errno.EAGAIN, errno.EWOULDBLOCK):
                raise PortError(
                    f"port {self.port}", "another program reads from it; close that first"
                ) from error
            ports = ", ".join(available_ports()) or "none at present"
            raise PortError(
                f"port {self.port}", f"it cannot be opened; ports on this computer: {ports}"
            ) from error

    def _run(self) -> None:
        """Lines as they come. What stands before the first line end after an opening may be the rest of a
        line that was on its way then ("345" of +12.345): it never counts.
        """
        held, is_whole = b"", False
        while not self._stop.is_set():
            try:
                data = self._serial.read(256 if self._serial.in_waiting else 1)
            except (serial.SerialException, OSError, TypeError):
                self._reopen()
                held, is_whole = b"", False
                continue
            if not data:
                continue
            *lines, held = (held + data).replace(b"\r", b"\n").split(b"\n")
            if lines and not is_whole:
                self._pass_over(lines.pop(0))
                is_whole = True
            if len(held) > 256:  # noise without line ends must not grow for ever
                lines, held = [held], b""
            for raw in lines:
                if raw.strip():
                    self._take(raw)

    def _pass_over(self, raw: bytes) -> None:
        """The first line of an opening: seen, and not read."""
        if raw.strip():
            self.number += 1
            self.passed_over = self.connection

    def _take(self, raw: bytes) -> None:
        """One line: no line, whatever it holds, may end the reader."""
        number, now = self.number + 1, self._clock()
        self.raw_lines = (*self.raw_lines[1 - KEPT_RAW :], shown_line(raw))
        try:
            sample = parse_line(raw.decode("ascii", errors="replace"), self.format)
        except Exception as error:
            self._bad += 1
            self._bad_sentence = str(error) if isinstance(error, ProtocolError) else "a line cannot be read"
            self.number = number
            return
        self._bad = 0
        self._quick = self._quick + 1 if now - self._last_at < QUIET_SECONDS else 0
        self._last_at = now
        self._held = (*self._held[1 - KEPT_LINES :], Received(sample, number, now))
        self.number = number

    def _reopen(self) -> None:
        self._gone = True
        with contextlib.suppress(Exception):
            self._serial.close()
        while not self._stop.wait(RETRY_SECONDS):
            try:
                self._serial = self._open()
            except PortError:
                continue
            self.number, self._held, self._gone = 0, (), False
            self.connection += 1
            return

    def since(self, mark: int) -> list[Sample]:
        """The newest few samples that came after line number `mark`, oldest first."""
        return [one.sample for one in self._held if one.number > mark]

    @property
    def is_streaming(self) -> bool:
        """Whether lines keep coming by themselves."""
        return self._quick >= STREAM_LINES

    @property
    def silent_s(self) -> float:
        """Seconds since the last line, or since the port was opened."""
        return self._clock() - self._last_at

    def latest(self) -> Sample | None:
        """The newest sample if it is fresh, else None: a stale figure is never shown as live."""
        held = self._held
        if not held or self._clock() - held[-1].at > QUIET_SECONDS or self._gone or self.is_ended:
            return None
        return held[-1].sample

    @property
    def is_ended(self) -> bool:
        """Whether the thread that reads has stopped, which nothing but closing should make it do."""
        return not self._thread.is_alive()

    def state(self) -> LinkState:
        """How the link stands now."""
        if self.is_ended:
            return LinkState("ended", "the instrument is no longer read; choose it again (Ctrl+I)")
        if self._gone:
            return LinkState(
                "gone", f"{self.port} is gone; plug the cable in again, readings go on by themselves"
            )
        if self._bad >= NOISE_LINES:
            return LinkState("noise", self._bad_sentence)
        if self.latest() is None and self.passed_over == self.connection and not self._held:
            return LinkState(
                "quiet", "the first line may be the rest of one and is passed over: send it again"
            )
        if self.latest() is None:
            return LinkState("quiet", "nothing comes; is the indicator on, and set to send?")
        return LinkState("live", "live")

    def close(self) -> None:
        """Stop the thread and let the port go."""
        self._stop.set()
        self._thread.join(timeout=2)
        with contextlib.suppress(Exception):
            self._serial.close()

    def command(self, line: str) -> None:
        """Send a line to the instrument; silently nothing while the cable is out."""
        with contextlib.suppress(serial.SerialException, OSError):
            self._serial.write(f"{line}\n".encode("ascii"))
