"""When it will be ready: 2,000 draws of how long tasks really take, done in the planned order.

Work takes longer than planned more often than shorter, and a fitter who is slow at one thing is slow at the
next: half of the spread is shared. What is promised by others comes late rather than early.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache
from typing import TYPE_CHECKING, TypeAlias

import numpy as np
from msgspec import Struct

from trebb.core.planning.evenings import DAY, TINY, Evenings
from trebb.core.planning.schedule import Plan
from trebb.core.planning.tasks import Task

if TYPE_CHECKING:
    from numpy.typing import NDArray

DRAWS = 2000
# Logarithmic spread and middle of (what it took / what was planned), by practice: a job told afterwards took
# from nine tenths to three times what was planned, a delivery from its day to half as long again.
WORK_SPREAD, WORK_MIDDLE = 0.45, 1.15
WAIT_SPREAD, WAIT_MIDDLE = 0.25, 1.05
SHARED = 0.5  # of the variance of work
LEAST_SPENT = 1.0  # hours done below which nothing is learned of the fitter's pace

Floats: TypeAlias = "NDArray[np.float64]"


class Pace(Struct, frozen=True):
    """How long work takes against its plan, by what was spent so far: middle and the spread it has."""

    middle: float = WORK_MIDDLE
    spread: float = WORK_SPREAD * SHARED**0.5


USUAL_PACE = Pace()


def pace_of(planned: Sequence[float], spent: Sequence[float], prior: Pace = USUAL_PACE) -> Pace:
    """The fitter's pace from tasks that are done, in hours; as expected before where too little was.

    A normal prior of the logarithm with what was seen: Σ weights of its own spread.
    """
    pairs = [(p, s) for p, s in zip(planned, spent, strict=True) if p > 0.2 and s > 0.05]
    if sum(p for p, _ in pairs) < LEAST_SPENT:
        return prior
    own = WORK_SPREAD * (1 - SHARED) ** 0.5
    weight = 1 / prior.spread**2
    total = weight * np.log(prior.middle)
    for p, s in pairs:
        weight += 1 / own**2
        total += np.log(s / p) / own**2
    return Pace(float(np.exp(total / weight)), float(weight**-0.5))


@lru_cache(maxsize=4)
def _arrays(evenings: Evenings) -> tuple[Floats, Floats]:
    """Ends and hours of the evenings."""
    return np.array(evenings.ends), np.array(evenings.hours)


def _clock_of(bench: Floats, evenings: Evenings) -> Floats:
    ends, _ = _arrays(evenings)
    day = np.searchsorted(ends, np.maximum(bench - TINY, 0.0), side="left")
    day = np.where(bench <= TINY, np.searchsorted(ends, TINY, side="left"), day)
    day = np.minimum(day, len(ends) - 1)
    start = np.where(day > 0, ends[np.maximum(day - 1, 0)], 0.0)
    found: Floats = np.asarray(DAY * day + np.maximum(0.0, bench - start), dtype=np.float64)
    return found


def _bench_at(clock: Floats, evenings: Evenings) -> Floats:
    ends, hours = _arrays(evenings)
    day = np.minimum((clock / DAY + TINY).astype(int), len(ends) - 1)
    into = clock - DAY * day
    start = np.where(day > 0, ends[np.maximum(day - 1, 0)], 0.0)
    inside = into <= hours[day] - TINY
    found: Floats = np.where(inside, start + np.maximum(0.0, into), ends[day])
    return found


class Outlook(Struct, frozen=True):
    """Days until the end, the first counted: one a draw, sorted."""

    days: NDArray[np.int64]

    def within(self, share: float) -> int:
        """Days that a share of the draws needs at most."""
        i = min(len(self.days) - 1, int(np.ceil(share * len(self.days))) - 1)
        return int(self.days[max(0, i)])

    def chance_by(self, days: int) -> float:
        """Share of the draws that are done in so many days."""
        return float(np.mean(self.days <= days))


def outlook(
    tasks: Sequence[Task], plan: Plan, pace: Pace | None = None, *, draws: int = DRAWS, seed: int = 1
) -> Outlook:
    """Draws of the whole job in the plan's order, each task as soon as it can.

    A task that must not go over the night waits for the next evening, where it fits into none it takes what
    it takes.
    """
    evenings, found = plan.evenings_there, pace or Pace()
    rng = np.random.default_rng(seed)
    shared = found.spread * rng.standard_normal(draws)
    own = WORK_SPREAD * (1 - SHARED) ** 0.5
    hours: dict[str, Floats] = {}
    for t in tasks:
        z = rng.standard_normal(draws)
        factor = WAIT_MIDDLE * np.exp(WAIT_SPREAD * z) if t.waits else found.middle * np.exp(shared + own * z)
        hours[t.key] = t.hours * (np.maximum(0.9, factor) if t.waits else factor)
    by_key = {t.key: t for t in tasks}
    ends: dict[str, Floats] = {}

    def ended(key: str) -> Floats:
        if key not in ends:  # a wait: it begins by itself
            t = by_key[key]
            begin = np.full(draws, DAY * t.not_before)
            for a in t.after:
                begin = np.maximum(begin, ended(a))
            ends[key] = begin + hours[key]
        return ends[key]

    now = np.zeros(draws)
    for key in plan.order:
        t = by_key[key]
        start = now
        if t.not_before:
            start = np.maximum(start, evenings.start_of(t.not_before))
        for a in t.after:
            start = np.maximum(start, _bench_at(ended(a), evenings))
        if t.only:
            start = _on_days(start, t, evenings)
        elif t.in_one_evening:
            start = _in_one(start, hours[key], evenings)
        now = start + hours[key]
        ends[key] = _clock_of(now, evenings)
    last = now
    for t in tasks:
        if t.waits:
            last = np.maximum(last, _bench_at(ended(t.key), evenings))
    last = np.minimum(last, evenings.ends[-1])
    days = np.searchsorted(_arrays(evenings)[0], last - 1e-6, side="left") + 1
    return Outlook(np.sort(days))


def _on_days(start: Floats, t: Task, evenings: Evenings) -> Floats:
    """Where it may begin on some days only: at once on one of them with so many hours left, else the next
    that has them.
    """
    wanted = min(t.hours, evenings.longest)
    days = [d for d in t.only if d < len(evenings.hours) and evenings.hours[d] >= wanted - TINY]
    if not days:
        return start
    begins = np.asarray([evenings.start_of(d) for d in days])
    last = np.asarray([evenings.ends[d] - wanted for d in days])  # the latest it may begin on that day
    nearest = np.minimum(np.searchsorted(last, start - TINY), len(days) - 1)
    found: Floats = np.maximum(start, begins[nearest])
    return found


def _in_one(start: Floats, hours: Floats, evenings: Evenings) -> Floats:
    ends, _ = _arrays(evenings)
    day = np.minimum(np.searchsorted(ends, start + TINY, side="right"), len(ends) - 1)
    fits = start + hours <= ends[day] + TINY
    begins = np.where(day > 0, ends[np.maximum(day - 1, 0)], 0.0)
    found: Floats = np.where(fits | (start <= begins + TINY), start, ends[day])
    return found


def is_held(t: Task, plan: Plan) -> bool:
    """Whether a task begins when it does because of the day that it may not begin before."""
    if not t.not_before or t.key not in plan.starts:
        return False
    day = DAY * t.not_before if t.waits else plan.evenings_there.start_of(t.not_before)
    return plan.starts[t.key] <= day + 1e-6


def deciding_chain(tasks: Mapping[str, Task], plan: Plan) -> tuple[str, ...]:
    """What decides the end, last first told backwards to the beginning: each begins when the one before it
    ends, because it waits for it or because the same hands do.
    """
    if not plan.starts:
        return ()
    evenings = plan.evenings_there

    def bench_end(key: str) -> float:
        return evenings.bench_at(plan.ends[key]) if tasks[key].waits else plan.ends[key]

    key = max(plan.starts, key=lambda k: (bench_end(k), not tasks[k].waits))
    chain = [key]
    position = {k: i for i, k in enumerate(plan.order)}
    while True:
        t = tasks[key]
        start = plan.starts[key]
        before: str | None = None
        if is_held(t, plan):  # by the day it may not begin before: what came earlier does not matter
            break
        if t.waits:
            before = max(
                (a for a in t.after if a in plan.ends), key=lambda a: _clock_end(tasks, plan, a), default=None
            )
        else:
            held = [a for a in t.after if a in plan.ends and bench_end(a) >= start - 1e-6]
            i = position[key]
            if held:
                # A wait before work: what is taken down just in time ends then too, and decides nothing.
                before = max(held, key=lambda a: (tasks[a].waits, tasks[a].hours))
            elif i and plan.ends[plan.order[i - 1]] >= start - 1e-6:
                before = plan.order[i - 1]
            else:
                before = max(
                    (a for a in t.after if a in plan.ends),
                    key=lambda a: _clock_end(tasks, plan, a),
                    default=None,
                )
        if before is None or before in chain:
            break
        chain.append(before)
        key = before
    return tuple(reversed(chain))


def _clock_end(tasks: Mapping[str, Task], plan: Plan, key: str) -> float:
    if tasks[key].waits:
        return plan.ends[key]
    return plan.evenings_there.clock_of(plan.ends[key], ending=True)
