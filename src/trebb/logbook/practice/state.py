"""Whether a hidden machine is being played, and what was asked for: quick to import, for the window asks it
of every job.
"""

from __future__ import annotations

from trebb.logbook.log.entries import PracticeMarked
from trebb.logbook.log.fold import Job


def is_silent(job: Job) -> bool:
    """Whether a machine is being played, so that nothing is told unless it is asked for."""
    return bool(job.practice_marks("piece")) and not job.practice_marks("opened")


def is_asked(job: Job, hint: str) -> bool:
    """Whether a hint was asked for and nothing was read since."""
    marks = [m for m in job.practice_marks("hint") if m.of == hint]
    return bool(marks) and marks[-1].text == str(len(job.all_readings()))


def asking(job: Job, hint: str) -> PracticeMarked:
    """The entry of a hint asked for now."""
    return PracticeMarked(what="hint", of=hint, text=str(len(job.all_readings())))
