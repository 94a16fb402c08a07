"""A demo job, in memory where the file does not matter."""

from __future__ import annotations

import pytest

from trebb.app.walk import choose_least_work, cut_parts, fit_together, take_what_is_left
from trebb.logbook.casework import drive_case
from trebb.logbook.demo import make_demo
from trebb.logbook.fold import Job


class Bench:
    """A job file with its fold and case; `record` appends and folds."""

    def __init__(self, path):
        self.file = make_demo(path)
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
