"""The plan of the whole job: every assembly's work on one calendar, when it will be ready, what decides it,
what to do tonight, what to order today, and what it costs.
"""

from __future__ import annotations

import datetime
import hashlib
from collections.abc import Callable, Mapping, Sequence
from functools import lru_cache
from typing import TypeVar

from msgspec import Struct, field
from msgspec.structs import replace

from trebb.core.errors import TrebbError
from trebb.core.planning.evenings import HORIZON, Evenings, by_week
from trebb.core.planning.outlook import Outlook, Pace, deciding_chain, is_held, outlook, pace_of
from trebb.core.planning.plannable import planned
from trebb.core.planning.schedule import Plan, fewest_evenings, in_order
from trebb.core.planning.tasks import Task
from trebb.core.stating.matters import DAYS
from trebb.logbook.cases.casework import Cases
from trebb.logbook.plan.job_tasks import told_of
from trebb.logbook.plan.task_gathering import gather
from trebb.logbook.plan.work import Work

T = TypeVar("T")
NO_WAYS: tuple[str, ...] = ()
USUAL_WEEK = (2.5, 2.5, 2.5, 2.5, 0.0, 5.0, 0.0)
LEAST_DATES = 3  # ways out that are told when a date cannot be kept


class Found(Struct, frozen=True):
    """What the solver found of a plan: an order, whether none is better, and else by how much one may be."""

    of: str
    order: tuple[str, ...]
    is_least: bool
    gap: float = 1.0


class Line(Struct, frozen=True):
    """A task as planned: the days it begins and ends on (0 is today), and whether it decides the end."""

    work: Work
    first: int
    last: int
    is_deciding: bool

    @property
    def task(self) -> Task:
        """Its task."""
        return self.work.task

    @property
    def is_done(self) -> bool:
        """Whether it is done."""
        return self.work.is_done

    @property
    def day(self) -> int:
        """The day it is named on: it begins, or, of a wait, it is there."""
        return self.last if self.task.waits else self.first


class Sum(Struct, frozen=True):
    """Hours and money of an assembly: planned, spent; `label` names it."""

    label: str
    hours: float
    hours_spent: float
    cost: float
    paid: float


class JobPlan(Struct, frozen=True):
    """All of it as things stand.

    Parameters
    ----------
    apart : days on which something stands apart.
    why_not : of each task that cannot be planned why; of those `waiting` only that they wait for another.
    held : tasks that begin when they do because of the day that they may not begin before.
    trouble : why there is no plan at all.
    """

    today: datetime.date
    evenings: Evenings
    lines: tuple[Line, ...]
    days: int = 0
    apart: int = 0
    bound: int = 0
    is_least: bool = False
    ready_by: datetime.date | None = None
    chain: tuple[str, ...] = ()
    outlook: Outlook | None = None
    lost_tonight: int = 0
    ways_out: tuple[str, ...] = ()
    sums: tuple[Sum, ...] = ()
    undecided: tuple[str, ...] = ()
    why_not: Mapping[str, str] = field(default_factory=dict)
    waiting: frozenset[str] = frozenset()
    trouble: str = ""
    of: str = ""
    starts: Mapping[str, float] = field(default_factory=dict)
    apart_days: frozenset[int] = frozenset()
    held: frozenset[str] = frozenset()
    currency: str = ""
    is_one_machine: bool = True

    @property
    def ready(self) -> datetime.date | None:
        """The day the plan ends; None where there is none."""
        return self.day(self.days - 1) if self.days and not self.trouble else None

    def day(self, number: int) -> datetime.date:
        """The date of a day of the plan."""
        return self.today + datetime.timedelta(days=number)

    @property
    def tonight(self) -> tuple[tuple[Line, float], ...]:
        """What the hours of tonight hold, in order, with how much of it."""
        left, found = self.evenings.hours[0] if self.evenings.hours else 0.0, []
        for x in self.lines:
            if x.first == 0 and not x.task.waits and not x.is_done and x.task.key in self.starts:
                hours = min(left, x.task.hours)
                if hours > 1e-6 or not x.task.hours:
                    found.append((x, hours))
                    left -= hours
        return tuple(found)

    @property
    def to_order(self) -> tuple[Line, ...]:
        """Orders and what is sent away, not done yet: what decides the end first, then the longest wait."""
        waits = {a: x.task.hours for x in self.lines if x.task.waits for a in x.task.after}
        open_ones = [x for x in self.lines if x.work.kind in ("order", "send") and not x.is_done]
        return tuple(sorted(open_ones, key=lambda x: (not x.is_deciding, -waits.get(x.task.key, 0.0))))

    @property
    def hours_left(self) -> float:
        """Bench hours left."""
        return sum(x.task.hours for x in self.lines if not x.task.waits)

    @property
    def costs(self) -> tuple[float, float]:
        """Money planned and paid, of everything."""
        return sum(s.cost for s in self.sums), sum(s.paid for s in self.sums)


def week_of(cases: Cases) -> tuple[float, ...]:
    """Hours of the evenings of a week, Monday first, as stated or as usual."""
    return tuple(cases.job.plan_number(key, usual) for key, usual in zip(DAYS, USUAL_WEEK, strict=True))


def days_off(cases: Cases) -> tuple[datetime.date, ...]:
    """Days off as stated."""
    text = str(cases.job.matter("plan").get("off", ""))
    return tuple(datetime.date.fromisoformat(part) for part in text.split())


@lru_cache(maxsize=32)
def _evenings(
    week: tuple[float, ...], today: datetime.date, off: tuple[datetime.date, ...], extra: float
) -> Evenings:
    return by_week(week, today, off, extra=extra)


def ready_by(cases: Cases) -> datetime.date | None:
    """The date it must be ready; None where there is none."""
    text = str(cases.job.matter("plan").get("ready_by", ""))
    return datetime.date.fromisoformat(text) if text else None


class Asked(Struct, frozen=True):
    """What a plan is made of: everything of the job that it hangs on, so that it can be made anywhere.

    Parameters
    ----------
    week, off : hours of the evenings by weekday, days off.
    kept : the order that was taken for this job, of tasks as they were then.
    idle : as `planned` has it: several machines in the order that is given.
    pace : how this shop's hours go against its estimates.
    """

    today: datetime.date
    week: tuple[float, ...]
    off: tuple[datetime.date, ...]
    ready_by: datetime.date | None
    work: tuple[Work, ...]
    sums: tuple[Sum, ...]
    undecided: tuple[str, ...]
    pace: Pace
    kept: tuple[str, ...] = ()
    currency: str = ""
    idle: float | None = None


def plan_asked(cases: Cases, now: datetime.datetime) -> Asked:
    """What the plan of a job hangs on, as things stand."""
    gathered = gather(cases)
    work = told_of(cases, gathered, now)
    # What remedies cost in this shop's other jobs, against what was planned.
    costs = {key: cases.taught.prices * cost for key, cost in gathered.costs.items()}
    done = [w for w in work if w.is_done and not w.task.waits and w.spent]
    # Hours that the shop's own jobs taught hold its pace already.
    taught = cases.taught.hours_spread
    prior = Pace() if taught is None else Pace(1.0, taught)
    return Asked(
        now.astimezone().date(),
        week_of(cases),
        days_off(cases),
        ready_by(cases),
        tuple(work),
        _sums(cases, work, costs),
        tuple(gathered.undecided),
        pace_of([w.planned for w in done], [w.spent for w in done], prior),
        tuple(str(cases.job.matter("plan").get("order", "")).split()),
        cases.job.card("currency", ""),
    )


def job_plan(cases: Cases, now: datetime.datetime) -> JobPlan:
    """The plan as things stand: in the order that was taken for the job, else by list rule."""
    return plan_of(plan_asked(cases, now))


def unplanned(asked: Asked) -> JobPlan:
    """What is asked, before any of it is planned."""
    return JobPlan(
        asked.today,
        Evenings((0.0,) * HORIZON),
        tuple(Line(w, 0, 0, False) for w in asked.work),
        ready_by=asked.ready_by,
        sums=asked.sums,
        undecided=asked.undecided,
        currency=asked.currency,
    )


def plan_of(asked: Asked) -> JobPlan:
    """The plan of what is asked: of what can be planned, and why the rest cannot be."""
    base = unplanned(asked)
    try:
        evenings = _evenings(asked.week, asked.today, asked.off, 0.0)
    except TrebbError as error:
        return replace(base, trouble=f"{error}.")
    open_work = [w for w in asked.work if not w.is_done]
    missing = {w.task.key: w.missing for w in open_work if w.missing}
    can = planned([w.task for w in open_work], evenings, missing=missing, kept=asked.kept, idle=asked.idle)
    base = replace(base, evenings=evenings, why_not=can.why_not, waiting=can.waiting)
    if can.plan is None:
        return base
    of = digest(can.tasks, evenings, asked.ready_by)
    return _filled(base, can.plan, can.tasks, asked, of)


def as_found(asked: Asked, found: Found) -> JobPlan:
    """The plan in the order that the solver found, to be set beside the one that stands."""
    return plan_of(replace(asked, kept=found.order))


def is_better(one: JobPlan, other: JobPlan) -> bool:
    """Whether a plan of the same tasks ends on an earlier day, or stands apart on fewer."""
    return one.of == other.of and (one.days, one.apart) < (other.days, other.apart)


def digest(tasks: Sequence[Task], evenings: Evenings, due: datetime.date | None) -> str:
    """What tells one thing to be planned from another."""
    text = repr((list(tasks), evenings.hours[:120], due))
    return hashlib.sha256(text.encode()).hexdigest()


def _filled(base: JobPlan, plan: Plan, live: Sequence[Task], asked: Asked, of: str) -> JobPlan:
    by_key = {t.key: t for t in live}
    chain, apart_days = deciding_chain(by_key, plan), _apart_days(live, plan)
    lines = []
    for w in asked.work:
        key = w.task.key
        if key in plan.starts:
            first, last = plan.evening_of(key, by_key), plan.last_of(key, by_key)
            lines.append(Line(w, first, max(first, last), key in chain))
        else:
            lines.append(Line(w, 0, 0, False))
    order = {key: i for i, key in enumerate(plan.order)}
    lines.sort(
        key=lambda x: (
            x.is_done,
            x.task.key not in plan.starts,
            x.day,
            order.get(x.task.key, -1),
            x.task.key,
        )
    )
    return replace(
        base,
        lines=tuple(lines),
        days=plan.evenings,
        apart=len(apart_days),
        bound=plan.bound,
        is_least=plan.is_least,
        chain=chain,
        outlook=_or(None, lambda: outlook(live, plan, asked.pace)),
        lost_tonight=_or(0, lambda: _lost(live, base.evenings, plan)),
        ways_out=_or(NO_WAYS, lambda: ways_out(asked, base.evenings, live, plan)),
        of=of,
        starts=plan.starts,
        apart_days=apart_days,
        held=frozenset(t.key for t in live if is_held(t, plan)),
    )


def _or(default: T, work: Callable[[], T]) -> T:
    """What is worked out of a plan; the default where that goes beyond the days looked ahead."""
    try:
        return work()
    except TrebbError:
        return default


def _apart_days(live: Sequence[Task], plan: Plan) -> frozenset[int]:
    """Days on which something stands apart."""
    by_key = {t.key: t for t in live}
    begins = {t.strips: plan.evening_of(t.key, by_key) for t in live if t.strips}
    found: set[int] = set()
    for t in live:
        if t.refits:
            found |= set(range(begins.get(t.refits, 0), plan.last_of(t.key, by_key) + 1))
    return frozenset(found)


def _lost(live: Sequence[Task], evenings: Evenings, plan: Plan) -> int:
    """Days later that it is ready if nothing is done tonight, in the same order."""
    if not evenings.hours[0]:
        return 0
    without = Evenings((0.0, *evenings.hours[1:]))
    later = in_order(live, without, plan.order)
    return max(0, later.evenings - plan.evenings) if later is not None else 0


def ways_out(asked: Asked, evenings: Evenings, live: Sequence[Task], plan: Plan) -> tuple[str, ...]:
    """The least that would keep the date wanted, where the plan does not: each is tried."""
    if asked.ready_by is None or plan.evenings - 1 <= (asked.ready_by - asked.today).days:
        return ()
    due = (asked.ready_by - asked.today).days
    if due < 0:
        return ()
    found: list[str] = []

    def does(tasks: Sequence[Task], evenings: Evenings) -> bool:
        try:
            return fewest_evenings(tasks, evenings).evenings - 1 <= due
        except TrebbError:
            return False

    for extra in (0.5, 1.0, 2.0, 3.0):
        if does(live, _evenings(asked.week, asked.today, asked.off, extra)):
            found.append(f"{extra:g} h more on each evening")
            break
    week = asked.week
    longest = max(week)
    for i, hours in enumerate(week):
        if not hours and does(live, by_week([*week[:i], longest, *week[i + 1 :]], asked.today, asked.off)):
            name = ("Mondays", "Tuesdays", "Wednesdays", "Thursdays", "Fridays", "Saturdays", "Sundays")[i]
            found.append(f"{name} too, {longest:g} h each")
            break
    for t in sorted((t for t in live if t.waits), key=lambda t: -t.hours):
        if does([replace(x, hours=0.5 * x.hours) if x is t else x for x in live], evenings):
            found.append(f"{t.title}: in {t.hours / 48:.1f} days instead of {t.hours / 24:.1f}")
            break
    for t in sorted((t for t in live if t.needs_whole), key=lambda t: -t.hours):
        if does([replace(x, hours=0.0) if x is t else x for x in live], evenings):
            found.append(f"{t.title}: bought or given out instead, if it is here in time")
            break
    whole = [replace(t, needs_whole=False) for t in live]
    if len(found) < LEAST_DATES and does(whole, evenings):
        found.append("its parts cut on another lathe")
    return tuple(found[:LEAST_DATES]) or (
        "nothing tried here alone would do: not three hours more each evening, nor one more evening a week, "
        "nor half the longest wait",
    )


def _sums(cases: Cases, work: Sequence[Work], costs: Mapping[str, float]) -> tuple[Sum, ...]:
    """Hours and money by assembly, in the machine's order; what belongs to none last."""
    rate = cases.job.plan_number("hour_worth", 0.0)
    found = []
    keys = [a.key for a in cases.kind.assemblies]
    for key in [*keys, ""]:
        own = [w for w in work if (w.assembly if w.assembly in keys else "") == key]
        if not own and key not in costs:
            continue
        hours = sum(w.planned for w in own if not w.task.waits)
        spent = sum(w.spent for w in own)
        label = cases.kind.assembly(key).label if key else "Of no assembly"
        found.append(
            Sum(
                label,
                hours,
                spent,
                costs.get(key, 0.0) + rate * hours + sum(w.cost for w in own),
                sum(w.paid for w in own) + rate * spent,
            )
        )
    return tuple(found)
