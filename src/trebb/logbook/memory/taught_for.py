"""What the shop's memory teaches a job: read where there is one, and never in a job's way."""

from __future__ import annotations

from pathlib import Path

from trebb.core.memory.taught import USUAL, Taught
from trebb.logbook.cases.casework import Cases
from trebb.logbook.file.looking import JobLookedAt
from trebb.logbook.log.fold import Job
from trebb.logbook.memory.shop_place import has_memory


def taught_for(job: Job) -> tuple[Taught, str]:
    """What the shop's other jobs taught, and why it cannot be read ("" where it can); a simulated machine is
    as usual.
    """
    if not has_memory() or any(job.planted(a.key) is not None for a in job.machine.assemblies):
        return USUAL, ""
    from trebb.logbook.memory.asked import memory_of
    from trebb.logbook.memory.shop import read_shop

    entries, trouble = read_shop()
    return (memory_of(entries).taught() if entries else USUAL), trouble


def cases_at(path: Path) -> Cases:
    """The job of a file as it is now: looked at, whoever has it, and closed again. Raises JobFileError."""
    with JobLookedAt.look(path) as job_file:
        job = Job(job_file.entries())
    return Cases(job, taught_for(job)[0])
