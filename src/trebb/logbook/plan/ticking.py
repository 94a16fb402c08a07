"""A task of the plan ticked, or its tick taken back; why not."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from trebb.core import clock
from trebb.core.errors import InputError
from trebb.logbook.cases.admitting import admit_together
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.strip_down import not_settled
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import StepDone
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.job_plan import Line, job_plan
from trebb.logbook.plan.work import PLAN


def tick_entry(cases: Cases, lines: Sequence[Line], key: str) -> StepDone:
    """The entry that ticks a task, or takes its tick back. Raises InputError for a task that there is none
    of, one that is done at its own stop, and one that must not begin yet.
    """
    line = next((x for x in lines if x.task.key == key), None)
    if line is None:
        known = ", ".join(x.task.key for x in lines)
        raise InputError(f"task “{key}”", f"tasks are {known or 'none yet'}")
    ticked = key in cases.job.steps_done(PLAN)
    if line.is_done and not ticked:
        raise InputError("it is done at its own stop", "take the ticks back there")
    if line.work.kind == "strip" and not ticked:
        # All that comes off with it, too.
        of = dict.fromkeys((line.work.assembly, *(x.work.assembly for x in lines if key in x.task.after)))
        missing = [w for a in of if a for w in not_settled(cases.job, a, cases.of(a).family)]
        if missing:
            raise InputError("first take, or waive at Strip-down", "; ".join(dict.fromkeys(missing)))
    return StepDone(PLAN, key, not ticked)


def tick_in(path: Path, key: str) -> None:
    """Tick a task of a job that is not open here. Raises InputError, JobFileError."""
    with JobFile.open(path) as job_file:
        cases = Cases(Job(job_file.entries()))
        entry = tick_entry(cases, job_plan(cases, clock.now()).lines, key)
        admit_together(cases, [entry])
        job_file.append([entry])
