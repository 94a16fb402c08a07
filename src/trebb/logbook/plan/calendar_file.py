"""The calendar file (iCalendar, RFC 5545): evenings of work, what comes, and what to look at again."""

from __future__ import annotations

import datetime
import hashlib
from collections.abc import Callable
from typing import Any

from trebb.logbook.plan.afterwards import Again
from trebb.logbook.plan.job_plan import JobPlan

BEGIN_HOUR = 18  # of an evening, floating: the calendar's own time
FIRST = datetime.datetime(2026, 1, 1, tzinfo=datetime.UTC)  # what the numbers of events are counted from
LOOKED_PAST = 60  # days behind the last evening of work, for evenings that an earlier plan had
PRODUCT = "-//Trebb//Trebb//EN"


def calendar_bytes(
    plan: JobPlan, again: list[Again], name: str, now: datetime.datetime, *, identity: str = ""
) -> bytes:
    """The file: an event an evening with its tasks, a day for what comes, a day to look again with a
    reminder. `name` is the machine's, `identity` the job's: events of two machines of one name stay apart.

    Brought in again it replaces what it brought before: each event has a higher number, and evenings that
    have fallen away since are cancelled.
    """
    from icalendar import Alarm, Calendar, Event

    name = " ".join(name.split())  # no line of the file ends in it
    calendar = Calendar()
    calendar.add("prodid", PRODUCT)
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", f"Trebb: {name}")
    number = max(0, int((now - FIRST).total_seconds() // 60))

    def event(of: str, title: str, text: str) -> Event:
        made = Event()
        digest = hashlib.sha256(f"{identity or name} {of}".encode()).hexdigest()[:24]
        made.add("uid", f"{digest}@trebb")
        made.add("dtstamp", now)
        made.add("sequence", number)
        made.add("summary", " ".join(title.split()))
        if text:
            made.add("description", text)
        return made

    _add_evenings(calendar, event, plan, name)
    for x in plan.lines:
        if x.task.waits and not x.is_done and x.task.key in plan.starts:
            made = event(f"wait {x.task.key}", f"{name}: {x.task.title}", "\n".join(x.work.ask))
            made.add("dtstart", plan.day(x.last))
            made.add("dtend", plan.day(x.last + 1))
            calendar.add_component(made)
    for one in again:
        if one.due is None or one.done is not None:
            continue
        where = f" ({one.label})" if one.label else ""
        made = event(f"again {one.key}", f"{name}: {one.what}{where}", one.why)
        made.add("dtstart", one.due)
        made.add("dtend", one.due + datetime.timedelta(days=1))
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", one.what)
        alarm.add("trigger", datetime.timedelta(0))
        made.add_component(alarm)
        calendar.add_component(made)
    found: bytes = calendar.to_ical()
    return found


def _add_evenings(calendar: Any, event: Callable[[str, str, str], Any], plan: JobPlan, name: str) -> None:
    """An event an evening of work; of days that have none a cancelled one."""
    days = sorted({d for x in plan.lines for d in _work_days(plan, x.task.key)})
    for day in days:
        lines = [x for x in plan.lines if day in _work_days(plan, x.task.key)]
        date, hours = plan.day(day), plan.evenings.hours[day]
        made = event(f"work {date}", f"{name}: {lines[0].task.title}", "\n".join(x.task.title for x in lines))
        begin, end = evening(date, hours)
        made.add("dtstart", begin)
        made.add("dtend", end)
        calendar.add_component(made)
    for day in set(range(max(days, default=0) + LOOKED_PAST)) - set(days):
        gone = event(f"work {plan.day(day)}", f"{name}: no evening", "")
        gone.add("dtstart", datetime.datetime.combine(plan.day(day), datetime.time(BEGIN_HOUR)))
        gone.add("status", "CANCELLED")
        calendar.add_component(gone)


def evening(date: datetime.date, hours: float) -> tuple[datetime.datetime, datetime.datetime]:
    """When an evening of so many hours begins and ends: at six, or so much earlier that it ends by
    midnight.
    """
    first = min(float(BEGIN_HOUR), 24.0 - hours)
    begin = datetime.datetime.combine(date, datetime.time()) + datetime.timedelta(hours=first)
    return begin, min(begin + datetime.timedelta(hours=hours), begin.replace(hour=23, minute=59))


def _work_days(plan: JobPlan, key: str) -> list[int]:
    """Days on which a task is worked at."""
    x = next(line for line in plan.lines if line.task.key == key)
    if x.task.waits or x.is_done or key not in plan.starts:
        return []
    return [d for d in range(x.first, x.last + 1) if plan.evenings.hours[d]]
