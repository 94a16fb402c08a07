"""A demo job, in memory where the file does not matter."""

from __future__ import annotations

import pytest

from tests.demo import demo_at
from trebb.app.shell.walk import choose_least_work, cut_parts, fit_together, take_what_is_left
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.drive_case import drive_case
from trebb.logbook.log.entries import FactStated, ReadingTaken
from trebb.logbook.log.fold import Job


class Bench:
    """A job file with its fold and case; `record` appends and folds."""

    def __init__(self, path):
        self.file = demo_at(path)
        self.job = Job(self.file.entries())
        self.case = drive_case(self.job)

    def record(self, *bodies):
        entries = self.file.append(bodies)
        for entry in entries:
            self.job.apply(entry)
        return entries

    def survey(self):
        take_what_is_left(self.case, "before", self.record)
        return self

    def through(self):
        """From survey to proof."""
        self.survey()
        choose_least_work(self.case, self.record, "test")
        cut_parts(self.case, self.record)
        fit_together(self.case, self.record)
        take_what_is_left(self.case, "after", self.record)
        return self


@pytest.fixture
def demo(tmp_path):
    bench = Bench(tmp_path / "demo.trebb")
    yield bench
    bench.file.close()


class Machine:
    """One of the depot's machines, in a file."""

    def __init__(self, path, kind):
        self.file = demo_at(path, kind)
        self.job = Job(self.file.entries())
        self.cases = Cases(self.job)

    def record(self, *bodies):
        entries = self.file.append(bodies)
        for entry in entries:
            self.job.apply(entry)
        return entries

    def of(self, assembly):
        return self.cases.of(assembly)

    def take(self, *assemblies, phase="before"):
        for assembly in assemblies:
            take_what_is_left(self.of(assembly), phase, self.record)
        return self

    def read(self, assembly, set_up, place, *values, phase="before"):
        unit = next(s.unit for s in self.of(assembly).set_ups if s.key == set_up)
        for value in values:
            self.record(
                ReadingTaken(
                    assembly=assembly,
                    set_up=set_up,
                    place=place,
                    phase=phase,
                    value=value,
                    unit=unit,
                    instrument="by hand",
                )
            )

    def shim(self, number, foot, mm):
        return self.record(FactStated(assembly="ways", field=f"shim.{number}", value=f"{foot} {mm}"))


@pytest.fixture
def machine(tmp_path):
    made = []

    def make(kind="lathe"):
        made.append(Machine(tmp_path / f"{kind}.trebb", kind))
        return made[-1]

    yield make
    for m in made:
        m.file.close()
