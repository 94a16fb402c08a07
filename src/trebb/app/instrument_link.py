"""Which instrument the pod reads: the simulated one, a serial one, or none (keys and wedge cable)."""

from __future__ import annotations

from typing import Any

from trebb.core.survey import AnySetUp
from trebb.instruments import FORMATS, IndicatorReader, PortError, Sample, SimulatedIndicator


class InstrumentLink:
    """Holds at most one reader, and the simulated indicator behind it if it is that."""

    def __init__(self) -> None:
        self.kind = "keys"
        self._reader: IndicatorReader | None = None
        self.simulated: SimulatedIndicator | None = None
        self._zeroed = False
        self._stood: tuple[str, float] | None = None
        self.is_moving = False  # the simulated instrument has not sent from where it was moved to
        self._unit = ""  # of what the simulated instrument was last moved to
        self._before: Sample | None = None  # what it had sent when it was moved

    def use_keys(self) -> None:
        """Readings are typed, by hand or by a wedge cable."""
        self.close()
        self.kind = "keys"

    def use_simulated(self) -> None:
        """Read the simulated indicator over its pseudo-terminal."""
        if self.kind == "simulated":
            return
        self.close()
        self.simulated = SimulatedIndicator()
        self._reader = IndicatorReader(self.simulated.port, FORMATS["mm"])
        self.kind = "simulated"

    def use_serial(self, port: str, format_key: str, baud: int = 9600) -> None:
        """Read a real indicator. Raises PortError and keeps what was used before."""
        reader = IndicatorReader(port, FORMATS[format_key], baud)
        self.close()
        self._reader = reader
        self.kind = "serial"

    @property
    def name(self) -> str:
        """What is recorded with a reading."""
        return {"keys": "typed", "simulated": "simulated", "serial": self._reader.port if self._reader else "serial"}[self.kind]

    def sample(self) -> Sample | None:
        """The newest fresh sample; of the simulated instrument not one that it sent before it was moved."""
        newest = self._reader.latest() if self._reader else None
        self.is_moving = newest is not None and self.simulated is not None and (newest is self._before or (bool(self._unit) and newest.unit != self._unit))
        return None if self.is_moving else newest

    def state(self) -> tuple[str, str]:
        """How the link stands: a key and a sentence."""
        if self._reader is None:
            return "keys", "typed or wedge cable"
        state = self._reader.state()
        return state.key, state.sentence

    def stand_at(self, s: AnySetUp, raw: float) -> None:
        """Let the simulated instrument show a raw reading of a set-up."""
        if self.simulated is not None and self._reader is not None:
            if self._zeroed and (s.key, raw) != self._stood:
                self._reader.command("A")
                self._zeroed = False
            if (s.key, raw) != self._stood:
                self._before = self._reader.latest()
            self._stood, self._unit = (s.key, raw), s.unit
            self.simulated.stand_at(raw, s.unit, 0.5 if s.unit == "div" else s.resolution_mm)

    def zero(self) -> None:
        """Set the instrument to zero where it stands; a new place of the simulated one counts from nothing again."""
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


def raw_of(sample: Sample, s: AnySetUp, subject: Any) -> float | None:
    """A sample in the set-up's unit: an indicator in mm is turned into divisions where those are read, and back.

    None where the instrument measures something else: a length where a temperature or a slope is read.
    """
    if s.unit == sample.unit:
        return sample.value
    if not s.is_length or sample.unit not in ("mm", "div"):
        return None
    division = s.division_mm(subject)
    return sample.value / division if s.unit == "div" else sample.value * division


__all__ = ["InstrumentLink", "PortError", "raw_of"]
