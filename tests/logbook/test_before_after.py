"""One picture an assembly: what was found, then what is foretold of it, then what was proven."""

from __future__ import annotations

import pytest

from tests.demo import demo_at
from trebb.app.shell.walk import cut_parts, fit_together, take_what_is_left
from trebb.logbook.cases.before_after import before_and_after
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import RemedyChosen
from trebb.logbook.log.fold import Job

SCREW = "cross_slide"


def test_it_grows_from_what_was_found_to_what_was_proven(tmp_path):
    with demo_at(tmp_path / "job.trebb") as job_file:
        job = Job(job_file.entries())
        case = Cases(job).of(SCREW)

        def record(*bodies):
            for entry in job_file.append(list(bodies)):
                job.apply(entry)

        take_what_is_left(case, "before", record)
        (found, *_) = before_and_after(case)
        assert found.found.value == pytest.approx(case.figures[0].value.value)
        assert found.foretold is None
        assert found.proven is None
        assert not found.is_shown
        record(RemedyChosen(assembly=SCREW, remedy="pair_thrust", reason=""))
        (foretold, *_) = before_and_after(case)
        assert foretold.found == found.found
        assert foretold.foretold.value < foretold.limit_mm
        cut_parts(case, record)
        fit_together(case, record)
        take_what_is_left(case, "after", record)
        (proven, *_) = before_and_after(case)
        assert proven.found == found.found
        assert proven.proven.value == pytest.approx(case.figure_now().value.value)
        assert proven.is_shown


def test_of_what_nobody_read_there_is_no_picture(tmp_path):
    with demo_at(tmp_path / "job.trebb") as job_file:
        assert before_and_after(Cases(Job(job_file.entries())).of("compound")) == []
