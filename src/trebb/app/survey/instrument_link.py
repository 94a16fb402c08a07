"""Which instrument the pod reads: the simulated one, a serial one, or none (keys and wedge cable)."""

from __future__ import annotations

from typing import Any

from trebb.core.survey import AnySetUp
from trebb.instruments import FORMATS, IndicatorReader, PortError, Sample, SimulatedIndicator
from trebb.instruments.reader import BAUD


class InstrumentLink:
    """Holds at most one reader, and the simulated indicator behind it if it is that."""

    def __init__(self) -> None:
        self.kind = "keys"
        self._reader: IndicatorReader | None = None
        self.simulated: SimulatedIndicator | None = None
        self.wedge_prefix = ""  # what a wedge cable types before each figure
        self._zeroed = self._is_hidden = False
        self._stood: tuple[str, float] | None = None
        self._unit = ""  # of what the simulated instrument was last moved to
        self._mark = 0  # lines up to this one were sent before something changed …
        self._connection = 0  # … on this connection

    def use_keys(self) -> None:
        """Readings are typed, by hand or by a wedge cable."""
        self.close()
        self.kind = "keys"

    def use_simulated(self) -> None:
        """Read the simulated indicator over its pseudo-terminal; where the machine has none, readings are
        typed.
        """
        if self.kind == "simulated":
            return
        self.use_keys()
        try:
            self.simulated = SimulatedIndicator()
        except OSError:
            return
        self._reader = IndicatorReader(self.simulated.port, FORMATS["mm"])
        self.kind = "simulated"

    def use_serial(self, port: str, format_key: str, baud: int = BAUD) -> None:
        """Read a real indicator. Raises PortError and keeps what was used before, unless it was this port."""
        if self.serial is not None and self.serial.port == port:  # one reader has it at a time
            self.use_keys()
        reader = IndicatorReader(port, FORMATS[format_key], baud)
        self.close()
        self._reader = reader
        self.kind = "serial"

    def bare(self, text: str) -> str:
        """What a wedge cable typed, without what it types before each figure."""
        return text.strip().removeprefix(self.wedge_prefix) if self.wedge_prefix else text

    @property
    def serial(self) -> IndicatorReader | None:
        """The reader of a real indicator; None while there is none."""
        return self._reader if self.kind == "serial" else None

    @property
    def name(self) -> str:
        """What is recorded with a reading."""
        return {
            "keys": "typed",
            "simulated": "simulated",
            "serial": self._reader.port if self._reader else "serial",
        }[self.kind]

    def changed(self) -> None:
        """Instrument, place or set-up changed: only lines that come after this count."""
        if self._reader is not None:
            self._mark = max(self._mark, self._reader.number)

    def fresh(self) -> list[Sample]:
        """The newest few samples that came since something changed, oldest first."""
        if self._is_hidden or self._reader is None or self._reader.latest() is None:
            return []
        if self._reader.connection != self._connection:  # the cable was out: lines are counted anew
            self._connection, self._mark = self._reader.connection, 0
        return [s for s in self._reader.since(self._mark) if not self._unit or s.unit == self._unit]

    def sample(self) -> Sample | None:
        """The newest of them; None where none came."""
        found = self.fresh()
        return found[-1] if found else None

    @property
    def is_live(self) -> bool:
        """Whether a line came within the last second, of before or after the change."""
        return self._reader is not None and self._reader.latest() is not None

    @property
    def is_streaming(self) -> bool:
        """Whether lines keep coming by themselves."""
        return self._reader is not None and self._reader.is_streaming

    @property
    def silent_s(self) -> float:
        """Seconds since the last line."""
        return self._reader.silent_s if self._reader is not None else 0.0

    @property
    def lines(self) -> int:
        """Lines that came on this connection."""
        return self._reader.number if self._reader is not None else 0

    def state(self) -> tuple[str, str]:
        """How the link stands: a key and a sentence."""
        if self._reader is None:
            return "keys", "typed or wedge cable"
        state = self._reader.state()
        return state.key, state.sentence

    def hide(self, *, is_hidden: bool) -> None:
        """Whether what the instrument shows is not seen: nothing is set up yet."""
        self._is_hidden = is_hidden

    def stand_at(self, s: AnySetUp, raw: float) -> None:
        """Let the simulated instrument show a raw reading of a set-up."""
        if self.simulated is not None and self._reader is not None:
            if self._zeroed and (s.key, raw) != self._stood:
                self._reader.command("A")
                self._zeroed = False
            moved = (s.key, raw) != self._stood
            self._stood, self._unit = (s.key, raw), s.unit
            sent = self.simulated.stand_at(raw, s.unit, 0.5 if s.unit == "div" else s.resolution_mm)
            if moved:  # lines still on their way are of the place before
                self._mark = max(self._mark, sent)

    def zero(self) -> None:
        """Set the instrument to zero where it stands; a new place of the simulated one counts from nothing
        again.
        """
        if self._reader is not None:
            self._reader.command("Z")
            self._zeroed = True

    def close(self) -> None:
        """Let everything go."""
        if self._reader is not None:
            self._reader.close()
        if self.simulated is not None:
            self.simulated.close()
        self._reader = self.simulated = None
        self._mark, self._connection, self._unit, self._stood = 0, 0, "", None


def raw_of(sample: Sample, s: AnySetUp, subject: Any) -> float | None:
    """A sample in the set-up's unit: an indicator in mm is turned into divisions where those are read, and
    back.

    None where the instrument measures something else: a length where a temperature or a slope is read.
    """
    if s.unit == sample.unit:
        return sample.value
    if not s.is_length or sample.unit not in ("mm", "div"):
        return None
    division = s.division_mm(subject)
    return sample.value / division if s.unit == "div" else sample.value * division


__all__ = ["InstrumentLink", "PortError", "raw_of"]
