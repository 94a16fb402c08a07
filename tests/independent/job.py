"""A job as a shop types it: raw readings at places named by their keys, nothing from the model."""

from __future__ import annotations

from tests.independent.instruments import BENCH
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import Body, Entry, FactStated, JobStarted, ReadingTaken
from trebb.logbook.log.fold import Job


class TypedJob:
    """A job in memory."""

    def __init__(self, kind: str = "lathe") -> None:
        self.job = Job([])
        self.cases = Cases(self.job)
        self.bodies: list[Body] = []
        self._next = 0
        self.record(JobStarted(shop="Shed", machine="Number nine", machine_kind=kind))

    def record(self, *bodies: Body) -> None:
        """Append entries of one gesture."""
        gesture = self._next + 1
        for body in bodies:
            self._next += 1
            self.bodies.append(body)
            self.job.apply(Entry(self._next, "2026-01-01T00:00:00+00:00", gesture, body))

    def state(self, assembly: str, **facts: str | float) -> TypedJob:
        """State facts as stored."""
        self.record(*[FactStated(assembly=assembly, field=k, value=v) for k, v in facts.items()])
        return self

    def read(
        self, assembly: str, set_up: str, place: str, *values: float, unit: str = "mm", phase: str = "before"
    ) -> TypedJob:
        """Raw readings at one place, as the bench they are read at writes them down."""
        values = tuple(BENCH.read(self, set_up, place, list(values), unit))
        self.record(
            *[ReadingTaken(assembly, set_up, place, phase, float(v), unit, "", "typed", 0.0) for v in values]
        )
        return self

    def of(self, assembly: str):
        """What Trebb says of an assembly."""
        return self.cases.of(assembly)

    def limit(self, key: str) -> float:
        """A rated limit, mm."""
        return self.job.limit(key).limit_mm
