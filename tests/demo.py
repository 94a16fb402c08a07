"""The demo machines' jobs, simulated once for all tests that open one."""

from __future__ import annotations

import tempfile
from functools import cache
from pathlib import Path

from trebb.logbook.cases.admitting import admit
from trebb.logbook.cases.casework import Cases
from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.file.store import JobFile, utc_now
from trebb.logbook.log.entries import Body, Entry
from trebb.logbook.log.fold import Job


class JobAtHand:
    """A job file and its fold, written to as a window would."""

    def __init__(self, file: JobFile) -> None:
        self.file = file
        self.job = Job(file.entries())
        self.cases = Cases(self.job)

    def record(self, *bodies: Body) -> None:
        """Take one gesture's bodies, in their order."""
        for body in bodies:
            admit(self.job, self.cases, body)
        for entry in self.file.append(bodies):
            self.job.apply(entry)


def demo_at(path: Path, machine: str = "lathe") -> JobFile:
    """A new file with a demo's job, open."""
    return JobFile.restored(path, _entries(machine, utc_now()[:13]))


@cache
def _entries(machine: str, hour: str) -> tuple[Entry, ...]:
    """As it is made in that hour: a test that sets the clock has one of its own time."""
    with tempfile.TemporaryDirectory() as place, DEMOS[machine](Path(place) / "demo.trebb") as made:
        return tuple(made.entries())
