"""All open jobs of a shop and the one fitter: the evenings they share, what is due first, what to order.

Each job stays its own file and is only read; what is due first goes first, and where that waits the next
machine takes the bench.
"""

from __future__ import annotations

import datetime
from collections.abc import Sequence
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.planning.tasks import part_of
from trebb.core.stating.matters import DAYS
from trebb.logbook.cases.casework import Cases
from trebb.logbook.plan.job_plan import Asked, JobPlan, plan_asked, plan_of
from trebb.logbook.plan.work import Work

IDLE_HOURS = 0.5  # of waiting for one machine before another takes the bench (practice)
MOST_JOBS = 12


class Machine(Struct, frozen=True):
    """A job among several: its file, its name, when it is ready and due; its tasks' keys begin with `key`."""

    key: str
    path: Path
    name: str
    ready: datetime.date | None
    due: datetime.date | None
    hours: float
    undecided: tuple[str, ...]

    @property
    def is_late(self) -> bool:
        """Whether it is ready only after it is due."""
        return self.due is not None and self.ready is not None and self.ready > self.due


class ShopWeek(Struct, frozen=True):
    """One plan of all machines, and each of them; `hours_of` names the job whose evenings are shared."""

    plan: JobPlan
    machines: tuple[Machine, ...]
    hours_of: str

    def machine_of(self, task: str) -> Machine:
        """The machine of a task's key."""
        return next(m for m in self.machines if task.startswith(f"{m.key}."))


def shop_week(jobs: Sequence[tuple[Path, Cases]], now: datetime.datetime) -> ShopWeek:
    """The plan of several jobs. Raises InputError for none, or too many."""
    if not jobs:
        raise InputError("a week without a job", "name the files of the jobs that are open")
    if len(jobs) > MOST_JOBS:
        raise InputError(f"{len(jobs)} jobs", f"no more than {MOST_JOBS} at a time")
    asked = [(path, cases, plan_asked(cases, now)) for path, cases in jobs]
    asked.sort(key=lambda one: (one[2].ready_by or datetime.date.max, one[1].job.identity))
    hours_of = next((i for i, (_, cases, _) in enumerate(asked) if _says_evenings(cases)), 0)
    shared = asked[hours_of][2]
    work: list[Work] = []
    kept: list[str] = []
    orders: list[str] = []  # written for all machines before anything else: they cost minutes and wait days
    for i, (path, cases, one) in enumerate(asked):
        key = _key(i)
        work += [_named(w, key, _name(path, cases)) for w in one.work]
        own = plan_of(one)
        order = sorted((t for t in own.starts if t in _hands(own)), key=lambda t: own.starts[t])
        first = {w.task.key for w in one.work if w.kind == "order"}
        orders += [f"{key}.{t}" for t in order if t in first]
        kept += [f"{key}.{t}" for t in order if t not in first]
    together = replace(
        shared,
        ready_by=None,
        work=tuple(work),
        sums=tuple(s for *_, one in asked for s in one.sums),
        undecided=tuple(
            f"{_name(path, cases)}: {words}" for path, cases, one in asked for words in one.undecided
        ),
        kept=(*orders, *kept),
        idle=IDLE_HOURS,
    )
    plan = replace(plan_of(together), is_one_machine=False)
    machines = tuple(_machine(i, path, cases, one, plan) for i, (path, cases, one) in enumerate(asked))
    return ShopWeek(plan, machines, machines[hours_of].name)


def _key(i: int) -> str:
    return f"m{i + 1}"


def _name(path: Path, cases: Cases) -> str:
    started = cases.job.started
    return started.machine if started and started.machine else path.stem


def _says_evenings(cases: Cases) -> bool:
    """Whether a job states evenings of its own."""
    return bool({*DAYS, "off"} & set(cases.job.matter("plan")))


def _hands(plan: JobPlan) -> set[str]:
    return {x.task.key for x in plan.lines if not x.task.waits}


def _named(w: Work, key: str, name: str) -> Work:
    """A task among those of other machines."""
    t = w.task
    task = replace(
        t,
        key=f"{key}.{t.key}",
        after=tuple(f"{key}.{a}" for a in t.after),
        strips=part_of(key, t.strips),
        refits=part_of(key, t.refits),
        machine=key,
        title=f"{name}: {t.title}",
    )
    return replace(w, task=task, assembly="")


def _machine(i: int, path: Path, cases: Cases, asked: Asked, plan: JobPlan) -> Machine:
    key = _key(i)
    own = [x for x in plan.lines if x.task.key.startswith(f"{key}.") and not x.is_done]
    planned = [x for x in own if x.task.key in plan.starts]
    ready = plan.day(max(x.last for x in planned)) if planned else None
    hours = sum(x.task.hours for x in own if not x.task.waits)
    return Machine(key, path, _name(path, cases), ready, asked.ready_by, hours, asked.undecided)
