"""What was said of the tasks of a job: estimates, dates, splits, ticks, tasks of one’s own."""

from __future__ import annotations

import datetime
from collections.abc import Collection, Mapping, Sequence

from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.facts import Stored
from trebb.core.memory.taught import Taught
from trebb.core.planning.evenings import DAY, HORIZON
from trebb.core.planning.tasks import Task
from trebb.core.stating.matters import DAYS
from trebb.logbook.cases.casework import Cases
from trebb.logbook.plan.work import PLAN, Gathered, Work

MOST_AFTER = 40


def told_of(cases: Cases, gathered: Gathered, now: datetime.datetime) -> list[Work]:
    """Work with what was said of it: estimates, dates, splits, ticks, tasks of one's own."""
    gathered = replace(gathered, work=[_as_taught(w, cases.taught) for w in gathered.work])
    said = cases.job.matters("task")
    known = {w.task.key for w in gathered.work}
    own = [w for w in _own_tasks(said) if w.task.key not in known]  # a task there is is nobody's own
    work = [*gathered.work, *own]
    work = [one for w in work for one in _split(w, said.get(w.task.key, {}))]
    ticked = {w.task.key: at for w in work if (at := cases.job.done_at(PLAN, w.task.key)) is not None}
    days = _help_days(cases, now)
    found = []
    for w in _taken_off(work, {key for key, told in said.items() if told.get("gone") == "yes"}):
        told = said.get(w.task.key, {})
        one = _as_said(w, told, ticked, now)
        if told.get("helper") == "yes" and days and not one.task.waits:
            one = replace(one, task=replace(one.task, only=days))
        found.append(one)
    return _without_done(found, ticked, now)


def _as_taught(w: Work, taught: Taught) -> Work:
    """A task with the hours or days that such work took in this shop's other jobs."""
    table, key = (taught.waits, w.task.key.split(".")[0]) if w.task.waits else (taught.hours, w.kind)
    times = table.get(key, 1.0)
    if times == 1.0:
        return w
    steps = w.steps if w.task.waits else tuple((name, times * hours) for name, hours in w.steps)
    return replace(
        w,
        task=replace(w.task, hours=times * w.task.hours),
        planned=times * w.planned,
        steps=steps,
        from_shop=taught.sources.get(f"{'wait' if w.task.waits else 'hours'}/{key}", "yours"),
    )


def _help_days(cases: Cases, now: datetime.datetime) -> tuple[int, ...]:
    """Days of the plan on which there is help; none where that is not stated: then any day will do."""
    words = str(cases.job.matter("plan").get("helper_days", "")).split()
    first = now.astimezone().date().weekday()
    wanted = {DAYS.index(w) for w in words if w in DAYS}
    return tuple(d for d in range(HORIZON) if (first + d) % 7 in wanted)


def _own_tasks(said: Mapping[str, Mapping[str, Stored]]) -> list[Work]:
    found = []
    for key, told in said.items():
        if told.get("own") != "yes":
            continue
        kind = str(told.get("kind", ""))
        waits = kind == "wait"
        hours = DAY * _number(told, "days", 1.0) if waits else _number(told, "hours", 1.0)
        title = str(told.get("title", "")) or "A task of one's own"
        after = tuple(str(told.get("after", "")).split())[:MOST_AFTER]
        task = Task(
            key,
            hours,
            after,
            waits,
            needs_whole=kind == "whole",
            title=title,
            group=str(told.get("assembly", "")),
        )
        found.append(Work(task, "own", "", str(told.get("assembly", "")), planned=hours, is_own=True))
    return found


def _number(told: Mapping[str, Stored], key: str, usual: float) -> float:
    value = told.get(key)
    return float(value) if isinstance(value, int | float) else usual


def _split(w: Work, told: Mapping[str, Stored]) -> list[Work]:
    """A task in two, where one wanted a first part of so many hours."""
    first = _number(told, "part", 0.0)
    hours = w.task.hours
    if w.task.waits or not 0 < first < hours:
        return [w]
    rest = replace(
        w,
        task=replace(
            w.task,
            key=f"{w.task.key}.rest",
            hours=hours - first,
            after=(w.task.key,),
            title=f"{w.task.title}, the rest",
        ),
        planned=hours - first,
        steps=(),
    )
    # What took it apart or puts it together stays with the half that does.
    one = replace(
        w,
        task=replace(w.task, hours=first, refits="", title=f"{w.task.title}, first part"),
        planned=first,
    )
    return [one, replace(rest, task=replace(rest.task, strips=""))]


def _as_said(w: Work, told: Mapping[str, Stored], ticked: Mapping[str, str], now: datetime.datetime) -> Work:
    """A task with its estimate as corrected, the day it is held until, its tick."""
    task, spent = w.task, _number(told, "spent", 0.0) + _running(told, now)
    if not w.is_own:
        if task.waits and "days" in told:
            task = replace(task, hours=DAY * _number(told, "days", 0.0))
        elif not task.waits and "hours" in told:
            task = replace(task, hours=_number(told, "hours", 0.0))
        title = str(told.get("title", ""))
        task = replace(task, title=title or task.title)
    day = _days_from(str(told.get("pinned", "")), now)
    if day is not None and day > 0:
        task = replace(task, not_before=day)
    comes = _days_from(str(told.get("comes", "")), now)
    planned = task.hours if task.hours != w.task.hours else w.planned
    if task.waits and comes is not None:  # there on that day, and not before what it waits for is done
        task = replace(task, hours=0.0, not_before=max(0, comes))
    done = w.is_done or task.key in ticked
    return replace(
        w,
        task=task,
        planned=planned,
        is_done=done,
        missing=", ".join(filter(None, (w.missing, str(told.get("missing", ""))))),
        spent=spent,
        paid=_number(told, "paid", 0.0),
        cost=_number(told, "cost", 0.0),
    )


def _running(told: Mapping[str, Stored], now: datetime.datetime) -> float:
    """Hours of a timer that runs."""
    since = str(told.get("timer", ""))
    if not since:
        return 0.0
    try:
        begun = datetime.datetime.fromisoformat(since)
    except ValueError:
        return 0.0
    return max(0.0, (now - begun).total_seconds() / 3600) if begun.tzinfo else 0.0


def _days_from(date: str, now: datetime.datetime) -> int | None:
    try:
        return (datetime.date.fromisoformat(date) - now.astimezone().date()).days if date else None
    except ValueError:
        return None


def _without_done(work: Sequence[Work], ticked: Mapping[str, str], now: datetime.datetime) -> list[Work]:
    """Tasks wait no longer for what is done; a wait runs since the day that what it waits for was ticked.
    What waits for a task split in two waits for both; for one that is not there, for none.
    """
    by_key = {w.task.key: w for w in work}
    found = []
    for w in work:
        after, latest = [], ""
        for one in _halves(w.task, by_key):
            before = by_key.get(one)
            if before is not None and not before.is_done:
                after.append(one)
            elif one in ticked:
                latest = max(latest, ticked[one])
        task = replace(w.task, after=tuple(after), hours=0.0 if w.is_done else w.task.hours)
        if task.waits and task.hours and not after and latest:
            # Days are counted from date to date: ordered on the first, seven days on it is the eighth.
            since = datetime.datetime.fromisoformat(latest).astimezone(now.tzinfo).date()
            gone = (now.astimezone().date() - since).days
            task = replace(task, hours=max(0.0, task.hours - DAY * max(0, gone)))
        found.append(replace(w, task=task))
    return found


def _halves(task: Task, by_key: Mapping[str, Work]) -> list[str]:
    """What a task waits for, both parts of what was split."""
    found = []
    for key in task.after:
        rest = f"{key}.rest"
        found += [key, rest] if rest in by_key and not task.key.startswith(rest) else [key]
    return found


def _taken_off(work: Sequence[Work], gone: Collection[str]) -> list[Work]:
    """Work without what was taken off the list: what waited for that waits for what it waited for."""
    by_key = {w.task.key: w for w in work}

    def through(keys: Sequence[str], seen: frozenset[str] = frozenset()) -> list[str]:
        found: list[str] = []
        for key in keys:
            if key not in gone:
                found.append(key)
            elif key in by_key and key not in seen:
                found += through(by_key[key].task.after, seen | {key})
        return list(dict.fromkeys(found))

    kept = [w for w in work if w.task.key not in gone]
    return [replace(w, task=replace(w.task, after=tuple(through(w.task.after)))) for w in kept]


def own_key(cases: Cases) -> str:
    """A key for another task of one's own."""
    taken = cases.job.matters("task")
    return next(f"own{i}" for i in range(1, 10_000) if f"own{i}" not in taken)


def checked_after(work: Sequence[Work], key: str, after: Sequence[str]) -> None:
    """Refuse what would make a task wait for itself. Raises InputError."""
    by_key = {w.task.key: w for w in work}
    seen, left = set(), list(after)
    while left:
        one = left.pop()
        if one == key:
            raise InputError(
                " → ".join(by_key[k].task.title for k in (*after[:3], key) if k in by_key),
                "these would wait for each other: none of them could begin",
            )
        if one not in seen and one in by_key:
            seen.add(one)
            left += by_key[one].task.after
