"""When each task is done by the one fitter: the fewest evenings, and the machine apart for as few of
them as can be. Exact for small jobs; for large ones by a list rule, with the bound it is judged by.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from trebb.core.errors import InputError
from trebb.core.planning.tasks import (
    TINY,
    Task,
    begun,
    bench_at,
    checked,
    clock_of,
    evenings_by_precedence,
    hands_hours,
    precedence,
)

EXACT_HANDS = 14  # hands tasks up to which every order is tried
MOST_STATES = 60_000


@dataclass(frozen=True)
class Plan:
    """Start of each task: bench hours of hands tasks, clock hours of waits; and the same of its end.

    `apart` counts the evenings that what is stripped stands apart, strip to refit, both counted, added up.
    `is_least` where no order can end earlier.
    """

    evening: float
    starts: Mapping[str, float]
    ends: Mapping[str, float]
    order: tuple[str, ...]
    finish: float
    apart: int
    is_least: bool
    bound: int

    @property
    def evenings(self) -> int:
        """How many until the last task ends."""
        return max(1, math.ceil(self.finish / self.evening - 1e-6))

    def evening_of(self, key: str, tasks: Mapping[str, Task]) -> int:
        """The evening a task begins in, the first is 0; of a wait by the clock."""
        if tasks[key].waits:
            return int(self.starts[key] // 24 + TINY)
        return int(self.starts[key] / self.evening + TINY)


@dataclass(frozen=True)
class _State:
    """A partial order: bench time, clock ends of what is done, what stands apart since which evening."""

    now: float
    ends: Mapping[str, float]
    starts: Mapping[str, float]
    order: tuple[str, ...]
    open: Mapping[str, int] = field(default_factory=dict)
    apart: int = 0


class _Job:
    """The tasks with what waits for what, and one step of a plan."""

    def __init__(self, tasks: Sequence[Task], evening: float) -> None:
        self.by_key = checked(tasks, evening)
        self.tasks, self.evening = list(tasks), evening
        self.hands = [t for t in tasks if not t.waits]
        self.begin_waits = [t for t in tasks if t.waits]

    def waited(self, ends: dict[str, float], starts: dict[str, float]) -> None:
        """Waits that can begin do so by themselves when the last they wait for ends."""
        changed = True
        while changed:
            changed = False
            for t in self.begin_waits:
                if t.key not in ends and all(a in ends for a in t.after):
                    starts[t.key] = max((ends[a] for a in t.after), default=0.0)
                    ends[t.key] = starts[t.key] + t.hours
                    changed = True

    def first(self) -> _State:
        """Nothing done yet; waits that wait for nothing run."""
        ends: dict[str, float] = {}
        starts: dict[str, float] = {}
        self.waited(ends, starts)
        return _State(0.0, ends, starts, ())

    def ready(self, s: _State, *, whole: bool = True) -> list[Task]:
        """Hands tasks that can be next."""
        return [
            t
            for t in self.hands
            if t.key not in s.starts
            and all(a in s.ends for a in t.after)
            and not (whole and t.needs_whole and s.open)
        ]

    def step(self, s: _State, t: Task, not_before: float = 0.0) -> _State:
        """The state once a task is done next, as soon as it can or from a bench hour on."""
        free = max((bench_at(s.ends[a], self.evening) for a in t.after), default=0.0)
        start = begun(max(s.now, free, not_before), t, self.evening)
        end = start + t.hours
        ends, starts = dict(s.ends), dict(s.starts)
        starts[t.key] = start
        ends[t.key] = clock_of(end, self.evening, ending=True)
        self.waited(ends, starts)
        opened, apart = dict(s.open), s.apart
        if t.strips:
            opened[t.strips] = int(start / self.evening + TINY)
        if t.refits and t.refits in opened:
            last = max(opened[t.refits], math.ceil(end / self.evening - 1e-6) - 1)
            apart += last - opened.pop(t.refits) + 1
        return _State(end, ends, starts, (*s.order, t.key), opened, apart)

    def finish(self, s: _State) -> float:
        """Bench hour at which the last ends, a wait too."""
        return max(
            [s.now, *(bench_at(s.ends[t.key], self.evening) for t in self.begin_waits if t.key in s.ends)]
        )

    def plan(self, s: _State, *, is_least: bool) -> Plan:
        """A state in which all is done, as a plan."""
        ends = {k: (s.starts[k] + self.by_key[k].hours) for k in s.starts}
        bound = max(
            evenings_by_precedence(self.tasks, self.evening),
            math.ceil(hands_hours(self.tasks) / self.evening - 1e-6),
            1,
        )
        return Plan(self.evening, s.starts, ends, s.order, self.finish(s), s.apart, is_least, bound)


def as_listed(tasks: Sequence[Task], evening: float) -> Plan | None:
    """Tasks in the order written, each as soon as it can; None where one needs the machine whole while it is
    apart.
    """
    job = _Job(tasks, evening)
    state = job.first()
    for t in job.hands:
        if t.needs_whole and state.open:
            return None
        if not all(a in state.ends for a in t.after):
            return None
        state = job.step(state, t)
    return job.plan(state, is_least=False)


def fewest_evenings(tasks: Sequence[Task], evening: float, *, whole: bool = True) -> Plan:
    """The plan that ends earliest. Raises InputError where tasks cannot be, or none can be next with the
    machine as it stands.

    Every order of the hands tasks, a partial order dropped that another with the same tasks done beats
    in time
    and in every wait that is still to end; for more than 14 hands tasks the best of a few list rules.
    """
    job = _Job(tasks, evening)
    if len(job.hands) > EXACT_HANDS:
        return _by_rules(job, whole=whole)
    layers: dict[frozenset[str], list[_State]] = {frozenset(): [job.first()]}
    for _ in job.hands:
        following: dict[frozenset[str], list[_State]] = {}
        for done, states in layers.items():
            for s in states:
                for t in job.ready(s, whole=whole):
                    _keep(job, following.setdefault(done | {t.key}, []), job.step(s, t))
        layers = following
        if not layers:
            raise _stuck(job)
    best = min((s for states in layers.values() for s in states), key=job.finish, default=None)
    if best is None:
        raise _stuck(job)
    return job.plan(best, is_least=True)


def _stuck(job: _Job) -> InputError:
    names = [t.title or t.key for t in job.hands if t.needs_whole]
    return InputError(
        f"{', '.join(names[:3])}",
        "the machine stands apart whenever they could be done: refit it in between, or make them elsewhere",
    )


def _beats(job: _Job, one: _State, other: _State) -> bool:
    """Whether a partial order is as good as another in time and in every wait still running."""
    if one.now > other.now + TINY or one.open.keys() != other.open.keys():
        return False
    return all(
        max(one.ends[t.key], 0.0) <= max(other.ends[t.key], clock_of(other.now, job.evening)) + TINY
        for t in job.begin_waits
        if t.key in one.ends and t.key in other.ends
    )


def _keep(job: _Job, kept: list[_State], new: _State) -> None:
    if any(_beats(job, s, new) for s in kept):
        return
    kept[:] = [s for s in kept if not _beats(job, new, s)]
    kept.append(new)


def fewest_apart(tasks: Sequence[Task], evening: float, *, more: int = 0) -> Plan:
    """Of the plans with the fewest evenings, or so many more, the one in which the machine stands apart
    for the
    fewest. To lessen it a strip may have to wait: each may begin at the start of any later evening too.
    """
    job = _Job(tasks, evening)
    least = fewest_evenings(tasks, evening)
    limit = (least.evenings + more) * evening
    if len(job.hands) > EXACT_HANDS:
        return least
    layers: dict[frozenset[str], list[_State]] = {frozenset(): [job.first()]}
    count = 0
    for _ in job.hands:
        following: dict[frozenset[str], list[_State]] = {}
        for done, states in layers.items():
            for s in states:
                for t in job.ready(s):
                    for held in _held(job, s, t, limit):
                        new = job.step(s, t, held)
                        if new.now <= limit + TINY and job.finish(new) <= limit + TINY:
                            _keep_apart(job, following.setdefault(done | {t.key}, []), new)
                            count += 1
        layers = following
        if count > MOST_STATES * 10:
            return least
    best = min(
        (s for states in layers.values() for s in states),
        key=lambda s: (s.apart, job.finish(s)),
        default=None,
    )
    if best is None:
        return least
    return job.plan(best, is_least=True)


def _held(job: _Job, s: _State, t: Task, limit: float) -> list[float]:
    """From when a task may be begun: at once, or, of a strip, at any later hour that an evening has left."""
    if not t.strips:
        return [0.0]
    step = 1.0
    found = [0.0]
    at = math.floor(s.now / step) * step + step
    while at + t.hours <= limit + TINY:
        found.append(at)
        at += step
    return found


def _apart_now(job: _Job, s: _State) -> int:
    """Evenings apart counted so far, those still open up to now."""
    now = max(0, math.ceil(s.now / job.evening - 1e-6) - 1)
    return s.apart + sum(max(0, now - since) + 1 for since in s.open.values())


def _keep_apart(job: _Job, kept: list[_State], new: _State) -> None:
    def beats(one: _State, other: _State) -> bool:
        return (
            _beats(job, one, other)
            and one.apart <= other.apart
            and all(one.open[k] >= other.open[k] for k in one.open)
        )

    if any(beats(s, new) for s in kept):
        return
    kept[:] = [s for s in kept if not beats(new, s)]
    kept.append(new)


def _by_rule(job: _Job, tails: Mapping[str, float], late: float, *, whole: bool) -> _State | None:
    """One order by one rule; None where it runs into the machine being apart."""
    s = job.first()
    while len(s.order) < len(job.hands):
        able = job.ready(s, whole=whole)
        if not able:
            return None
        # What needs the machine whole goes before what takes it apart, or it never can.
        waiting = any(t.needs_whole and t.key not in s.starts for t in job.hands)
        steps = {t.key: job.step(s, t) for t in able}
        idle = {key: step.starts[key] - s.now for key, step in steps.items()}
        first = min(
            able,
            key=lambda t: (
                idle[t.key] > job.evening,
                bool(t.strips) and waiting and late > 0,
                -tails[t.key] - (late if t.refits else 0.0),
            ),
        )
        s = steps[first.key]
    return s


def _by_rules(job: _Job, *, whole: bool) -> Plan:
    """The best of some orders by priority: what has most clock hours behind it first, with a little
    weight for what strips late and refits soon.
    """
    tails = _tails(job)
    best: _State | None = None
    for late in (0.0, 2.0, 6.0, 12.0, 24.0):
        s = _by_rule(job, tails, late, whole=whole)
        if s is not None and (best is None or job.finish(s) < job.finish(best)):
            best = s
    if best is None:
        raise _stuck(job)
    return job.plan(best, is_least=False)


def _tails(job: _Job) -> dict[str, float]:
    """Clock hours from each task's start to the end of the job, by what waits for what."""
    found = precedence(job.tasks)
    return {key: found.length - found.earliest[key] - found.slack[key] for key in found.earliest}
