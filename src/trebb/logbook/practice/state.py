"""Whether a hidden machine is being played, what was asked for, where the indicator stood: quick to import,
as the window asks it of every job.
"""

from __future__ import annotations

from collections.abc import Collection

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


def standing_at(assembly: str, set_up: str, place: str) -> PracticeMarked:
    """The entry that the indicator stood at a place and was seen: its minutes are spent, taken or not."""
    return PracticeMarked(what="stood", of=f"{assembly}.{set_up}", text=place)


def stood(job: Job) -> set[tuple[str, str, str]]:
    """Assembly, set-up and place of all that the indicator was seen at."""
    found = set()
    for mark in job.practice_marks("stood"):
        assembly, _, set_up = mark.of.rpartition(".")
        found.add((assembly, set_up, mark.text))
    return found


def is_begun(job: Job, assembly: str, set_up: str, places: Collection[str]) -> bool:
    """Whether a lot of a set-up was set up: something of it was seen or read."""
    read = {p.place for p in job.standing(assembly, set_up)}
    seen = {place for a, s, place in stood(job) if (a, s) == (assembly, set_up)}
    return not (read | seen).isdisjoint(places)
