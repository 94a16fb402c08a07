"""Tasks of a job and their clock. Hours; evenings begin every 24 hours.

*Hands* tasks take bench hours of the one fitter, one at a time, and go over to the next evening; *waits*
run by the clock, day and night, and need nobody. Bench hours count evenings only, end to end.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.planning.evenings import DAY, TINY, Evenings, evenings_of


def part_of(machine: str, name: str) -> str:
    """The name of what stands apart of one machine among several; "" for nothing."""
    return f"{machine}/{name}" if name else ""


def of_machine(name: str) -> str:
    """The machine of such a name."""
    return name.partition("/")[0]


class Task(Struct, frozen=True):
    """One task.

    Parameters
    ----------
    key, title : its name here, and in words.
    hours : of the bench, or of the clock where it `waits`.
    after : keys of the tasks it cannot begin before the end of.
    needs_whole : the machine must stand together while it runs: its own lathe cuts its part.
    strips, refits : names of what it takes apart, and puts together again; "" for neither.
    in_one_evening : may not go over the night.
    not_before : day it may begin at the earliest.
    only : days it may be done on, where not on any: a helper is there, or daylight.
    group : whose it is: an assembly.
    machine : which one it is done on, where several are planned together: what is taken apart of another does
        not keep it from being whole.
    """

    key: str
    hours: float
    after: tuple[str, ...] = ()
    waits: bool = False
    needs_whole: bool = False
    strips: str = ""
    refits: str = ""
    in_one_evening: bool = False
    not_before: int = 0
    only: tuple[int, ...] = ()
    title: str = ""
    group: str = ""
    machine: str = ""

    def is_held_up(self, apart: Iterable[str]) -> bool:
        """Whether it cannot begin with these things apart."""
        return self.needs_whole and any(not self.machine or of_machine(x) == self.machine for x in apart)


def checked(tasks: Sequence[Task], evening: float | Evenings) -> dict[str, Task]:
    """Tasks by key. Raises InputError where they name what is not there, go in a circle, or do not fit.
    `evening` in hours.
    """
    longest = evenings_of(evening).longest
    by_key = {t.key: t for t in tasks}
    for t in tasks:
        if t.hours < 0:
            raise InputError(
                f"{t.title or t.key}: {t.hours:g} hours", "nothing or more: a lead time in the past is none"
            )
        for key in t.after:
            if key not in by_key:
                raise InputError(f"{t.title or t.key}", f"it waits for “{key}”, which is no task here")
        if t.in_one_evening and t.hours > longest + TINY:
            raise InputError(
                f"{t.title or t.key}: {t.hours:g} hours in one evening",
                f"an evening has {longest:g}: longer, or in parts",
            )
    done: set[str] = set()
    left = list(tasks)
    while left:
        ready = [t for t in left if set(t.after) <= done]
        if not ready:
            raise InputError(
                " → ".join(t.title or t.key for t in left[:4]),
                "these wait for each other: none of them can begin",
            )
        done |= {t.key for t in ready}
        left = [t for t in left if t.key not in done]
    return by_key


def begun(bench: float, task: Task, evenings: Evenings) -> float:
    """When a task that may begin from a bench hour on really does: what must not go over the night waits
    for an evening with room.
    """
    if task.only:
        return evenings.fitting(bench, min(task.hours, evenings.longest), task.only)
    return evenings.fitting(bench, task.hours) if task.in_one_evening else bench


class Precedence(Struct, frozen=True):
    """Earliest starts and slack by what waits for what alone, hours added end to end, nights left out."""

    earliest: Mapping[str, float]
    slack: Mapping[str, float]
    length: float

    @property
    def critical(self) -> tuple[str, ...]:
        """Tasks without slack, in the order written: these matter."""
        return tuple(key for key, s in self.slack.items() if s < 1e-6)


def precedence(tasks: Sequence[Task]) -> Precedence:
    """The critical path: which tasks matter, not when it ends."""
    by_key = {t.key: t for t in tasks}
    order = _sorted(tasks)
    earliest: dict[str, float] = {}
    for key in order:
        t = by_key[key]
        earliest[key] = max((earliest[a] + by_key[a].hours for a in t.after), default=0.0)
    length = max((earliest[k] + by_key[k].hours for k in order), default=0.0)
    latest: dict[str, float] = {}
    for key in reversed(order):
        ends = [latest[t.key] for t in tasks if key in t.after]
        latest[key] = min(ends, default=length) - by_key[key].hours
    return Precedence(
        {t.key: earliest[t.key] for t in tasks},
        {t.key: latest[t.key] - earliest[t.key] for t in tasks},
        length,
    )


def _sorted(tasks: Sequence[Task]) -> list[str]:
    done: list[str] = []
    left = list(tasks)
    while left:
        ready = [t for t in left if all(a in done for a in t.after)]
        done += [t.key for t in ready]
        left = [t for t in left if t.key not in done]
    return done


def evenings_by_precedence(tasks: Sequence[Task], evening: float | Evenings) -> int:
    """Days until the end with as many fitters as wanted: a lower bound. `evening` in hours."""
    by_key, evenings = {t.key: t for t in tasks}, evenings_of(evening)
    ends: dict[str, float] = {}  # clock
    last, waited = 0.0, 0
    for key in _sorted(tasks):
        t = by_key[key]
        after = max((ends[a] for a in t.after), default=0.0)
        after = max(after, DAY * t.not_before)
        if t.waits:
            ends[key] = after + t.hours
            waited = max(waited, int(ends[key] / DAY + TINY) + 1)
            continue
        start = begun(evenings.bench_at(after), t, evenings)
        ends[key] = evenings.clock_of(start + t.hours, ending=True)
        last = max(last, start + t.hours)
    return max(evenings.day_of(last, ending=True) + 1, waited)


def hands_hours(tasks: Sequence[Task]) -> float:
    """Bench hours of the fitter."""
    return sum(t.hours for t in tasks if not t.waits)
