"""When each task is done by the one fitter: the fewest evenings, and the machine apart for as few of
them as can be. Exact for small jobs; for large ones by a list rule, with the bound it is judged by.
"""

from __future__ import annotations

import math
from collections.abc import Collection, Mapping, Sequence

from msgspec import Struct, field
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.planning.evenings import DAY, TINY, Evenings, evenings_of
from trebb.core.planning.tasks import (
    Task,
    begun,
    checked,
    evenings_by_precedence,
    hands_hours,
    precedence,
)

EXACT_HANDS = 14  # hands tasks up to which every order is tried
# Comparisons of partial orders after which a rule has to do: a second or two. Waits that run side by side
# keep many orders apart.
MOST_COMPARED = 300_000
MOST_HOURS_HELD = 100.0  # of a job within which a strip is tried at every hour


class Plan(Struct, frozen=True):
    """Start of each task: bench hours of hands tasks, clock hours of waits; and the same of its end.

    `apart` counts the evenings that what is stripped stands apart, strip to refit, both counted, added up.
    `is_least` where no order can end earlier; `waited` days until the last wait ends, the first counted.
    """

    evenings_there: Evenings
    starts: Mapping[str, float]
    ends: Mapping[str, float]
    order: tuple[str, ...]
    finish: float
    apart: int
    is_least: bool
    bound: int
    waited: int = 0

    @property
    def evenings(self) -> int:
        """Days until the last task ends, the first counted; a wait ends on the day that its clock says."""
        return max(self.evenings_there.day_of(self.finish, ending=True) + 1, self.waited)

    def evening_of(self, key: str, tasks: Mapping[str, Task]) -> int:
        """The day a task begins in, the first is 0; of a wait by the clock."""
        if tasks[key].waits:
            return int(self.starts[key] // DAY + TINY)
        return self.evenings_there.day_of(self.starts[key], ending=not tasks[key].hours)

    def last_of(self, key: str, tasks: Mapping[str, Task]) -> int:
        """The day a task ends in."""
        if tasks[key].waits:
            return int(self.ends[key] // DAY + TINY)
        return self.evenings_there.day_of(self.ends[key], ending=True)


def _days_of(clock: float) -> int:
    """Days until a clock hour, the first counted."""
    return int(clock / DAY + TINY) + 1


class _State(Struct, frozen=True):
    """A partial order: bench time, clock ends of what is done, what stands apart since which evening."""

    now: float
    ends: Mapping[str, float]
    starts: Mapping[str, float]
    order: tuple[str, ...]
    open: Mapping[str, int] = field(default_factory=dict)
    apart: int = 0


class _Job:
    """The tasks with what waits for what, and one step of a plan."""

    def __init__(self, tasks: Sequence[Task], evening: float | Evenings) -> None:
        self.evenings = evenings_of(evening)
        self.by_key = checked(tasks, self.evenings)
        self.tasks = list(tasks)
        self.hands = [t for t in tasks if not t.waits]
        self.begin_waits = [t for t in tasks if t.waits]

    def waited(self, ends: dict[str, float], starts: dict[str, float]) -> None:
        """Waits that can begin do so by themselves when the last they wait for ends."""
        changed = True
        while changed:
            changed = False
            for t in self.begin_waits:
                if t.key not in ends and all(a in ends for a in t.after):
                    starts[t.key] = max([DAY * t.not_before, *(ends[a] for a in t.after)])
                    ends[t.key] = starts[t.key] + t.hours
                    changed = True

    def first(self) -> _State:
        """Nothing done yet; waits that wait for nothing run."""
        ends: dict[str, float] = {}
        starts: dict[str, float] = {}
        self.waited(ends, starts)
        # What is put together again and was taken apart by nothing here stands apart already.
        apart = {t.refits for t in self.hands if t.refits} - {t.strips for t in self.hands}
        return _State(0.0, ends, starts, (), dict.fromkeys(sorted(apart), 0))

    def ready(self, s: _State, *, whole: bool = True) -> list[Task]:
        """Hands tasks that can be next."""
        return [
            t
            for t in self.hands
            if t.key not in s.starts
            and all(a in s.ends for a in t.after)
            and not (whole and t.is_held_up(s.open))
        ]

    def start(self, s: _State, t: Task, not_before: float = 0.0) -> float:
        """Bench hour at which a task would begin if it were next."""
        free = [self.evenings.bench_at(s.ends[a]) for a in t.after]
        if t.not_before:
            free.append(self.evenings.start_of(t.not_before))
        return begun(max([s.now, not_before, *free]), t, self.evenings)

    def step(self, s: _State, t: Task, not_before: float = 0.0) -> _State:
        """The state once a task is done next, as soon as it can or from a bench hour on."""
        start = self.start(s, t, not_before)
        end = start + t.hours
        ends, starts = dict(s.ends), dict(s.starts)
        starts[t.key] = start
        ends[t.key] = self.evenings.clock_of(end, ending=True)
        self.waited(ends, starts)
        opened, apart = dict(s.open), s.apart
        if t.strips:
            opened[t.strips] = self.evenings.day_of(start)
        if t.refits and t.refits in opened:
            last = max(opened[t.refits], self.evenings.day_of(end, ending=True))
            apart += last - opened.pop(t.refits) + 1
        return _State(end, ends, starts, (*s.order, t.key), opened, apart)

    def finish(self, s: _State) -> float:
        """Bench hour at which the last ends, a wait too."""
        return max(
            [s.now, *(self.evenings.bench_at(s.ends[t.key]) for t in self.begin_waits if t.key in s.ends)]
        )

    def plan(self, s: _State, *, is_least: bool) -> Plan:
        """A state in which all is done, as a plan."""
        ends = {k: (s.starts[k] + self.by_key[k].hours) for k in s.starts}
        bound = max(
            evenings_by_precedence(self.tasks, self.evenings),
            self.evenings.day_of(hands_hours(self.tasks), ending=True) + 1,
        )
        waited = max([_days_of(s.ends[t.key]) for t in self.begin_waits if t.key in s.ends], default=0)
        finish = self.finish(s)
        return Plan(self.evenings, s.starts, ends, s.order, finish, s.apart, is_least, bound, waited)


def as_listed(tasks: Sequence[Task], evening: float | Evenings) -> Plan | None:
    """Tasks in the order written, each as soon as it can; None where one needs the machine whole while it is
    apart. `evening` in hours.
    """
    job = _Job(tasks, evening)
    state = job.first()
    for t in job.hands:
        if t.is_held_up(state.open):
            return None
        if not all(a in state.ends for a in t.after):
            return None
        state = job.step(state, t)
    return job.plan(state, is_least=False)


def in_order(
    tasks: Sequence[Task],
    evening: float | Evenings,
    order: Sequence[str],
    held: Mapping[str, float] | None = None,
    *,
    bound: int = 0,
) -> Plan | None:
    """Hands tasks in an order, each as soon as it can, or from a bench hour on where it is `held`; None
    where that order breaks a rule. `bound` : days that no plan can do with fewer of, where known.
    """
    job = _Job(tasks, evening)
    if sorted(order) != sorted(t.key for t in job.hands):
        return None
    state = job.first()
    for key in order:
        t = job.by_key[key]
        if t.is_held_up(state.open) or not all(a in state.ends for a in t.after):
            return None
        state = job.step(state, t, (held or {}).get(key, 0.0))
    plan = job.plan(state, is_least=False)
    return replace(plan, bound=max(plan.bound, bound), is_least=max(plan.bound, bound) >= plan.evenings)


def from_order(
    tasks: Sequence[Task],
    evening: float | Evenings,
    order: Sequence[str],
    *,
    bound: int = 0,
    idle: float = math.inf,
) -> Plan | None:
    """A plan that keeps to an order as far as tasks can: new ones stand behind the last they wait for, those
    that are gone are passed over. Rather than be idle for more than so many hours it takes what comes later.
    None where that runs into the machine being apart.
    """
    job = _Job(tasks, evening)
    place = _places(job, order)
    state = job.first()
    while len(state.order) < len(job.hands):
        able = job.ready(state)
        if not able:
            return None
        waits = {t.key: job.start(state, t) - state.now > idle for t in able}
        state = job.step(state, min(able, key=lambda t: (waits[t.key], place[t.key])))
    plan = job.plan(state, is_least=False)
    return replace(plan, bound=max(plan.bound, bound))


def _places(job: _Job, order: Sequence[str]) -> dict[str, tuple[float, int]]:
    """Of each hands task its place in an order; of one that is not in it, behind all it waits for."""
    known = {key: float(i) for i, key in enumerate(order)}
    found: dict[str, float] = {}

    def place(key: str) -> float:
        if key not in found:
            found[key] = -1.0
            t = job.by_key[key]
            found[key] = known.get(key, max((place(a) for a in t.after), default=-1.0))
        return found[key]

    return {t.key: (place(t.key), i) for i, t in enumerate(job.hands)}


def fewest_evenings(tasks: Sequence[Task], evening: float | Evenings, *, whole: bool = True) -> Plan:
    """The plan that ends earliest. Raises InputError where tasks cannot be, or none can be next with the
    machine as it stands. `evening` in hours.

    Every order of the hands tasks, a partial order dropped that another with the same tasks done beats
    in time
    and in every wait that is still to end; for more than 14 hands tasks the best of a few list rules.
    """
    job = _Job(tasks, evening)
    if len(job.hands) > EXACT_HANDS:
        return _by_rules(job, whole=whole)
    layers: dict[frozenset[str], list[_State]] = {frozenset(): [job.first()]}
    count = 0
    for _ in job.hands:
        following: dict[frozenset[str], list[_State]] = {}
        for done, states in layers.items():
            for s in states:
                for t in job.ready(s, whole=whole):
                    kept = following.setdefault(done | {t.key}, [])
                    count += 1 + len(kept)
                    _keep(job, kept, job.step(s, t))
                if count > MOST_COMPARED:
                    return _by_rules(job, whole=whole)
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
    clock = job.evenings.clock_of(other.now)
    return all(
        max(one.ends[t.key], 0.0) <= max(other.ends[t.key], clock) + TINY
        for t in job.begin_waits
        if t.key in one.ends and t.key in other.ends
    )


def _keep(job: _Job, kept: list[_State], new: _State) -> None:
    if any(_beats(job, s, new) for s in kept):
        return
    kept[:] = [s for s in kept if not _beats(job, new, s)]
    kept.append(new)


def fewest_apart(tasks: Sequence[Task], evening: float | Evenings, *, more: int = 0) -> Plan:
    """Of the plans with the fewest evenings, or so many more, the one in which the machine stands apart for
    the fewest. To lessen it a strip may have to wait: each may begin at the start of any later evening
    too. `evening` in hours.
    """
    job = _Job(tasks, evening)
    least = fewest_evenings(tasks, evening)
    limit = job.evenings.ends[least.evenings - 1 + more]
    if len(job.hands) > EXACT_HANDS or limit > MOST_HOURS_HELD:
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
                            kept = following.setdefault(done | {t.key}, [])
                            count += len(kept)
                            _keep_apart(job, kept, new)
                        count += 1
                if count > MOST_COMPARED:
                    return least
        layers = following
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


class _Rule(Struct, frozen=True):
    """A rule for what is next: `holds` back what takes the machine apart while something needs it whole:
    "all" of that undone, what is "ready" for it, or nothing; `closes` prefers what puts together again what
    stands apart, by so many hours; `idle` : evenings of waiting that are rather spent on something else.
    """

    holds: str
    closes: float
    idle: float = 1.0


# Those that cover each other's failures best on random jobs of sixty tasks.
_RULES = (
    _Rule("", 0.0, 0.0),
    _Rule("ready", 6.0, 0.0),
    _Rule("ready", 6.0, 0.3),
    _Rule("", 1000.0, 0.3),
    _Rule("ready", 0.0, 0.0),
    _Rule("all", 0.0, 0.0),
    _Rule("all", 24.0, 1.0),
)


def _by_rule(job: _Job, rule: _Rule, tails: Mapping[str, float], whole: bool) -> _State | None:
    """One order by one rule; None where it runs into the machine being apart."""
    s = job.first()
    inside = _inside(job)
    while len(s.order) < len(job.hands):
        able = job.ready(s, whole=whole)
        if not able:
            return None
        starts = {t.key: job.start(s, t) for t in able}
        undone = [t for t in job.hands if t.needs_whole and t.key not in s.starts]
        if rule.holds == "ready":
            undone = [t for t in undone if all(a in s.ends for a in t.after)]
        holds = bool(undone) and rule.holds != ""
        closing = set().union(*(inside.get(name, set()) for name in s.open)) if s.open else set()
        late = rule.idle * job.evenings.longest

        def rank(
            t: Task,
            starts: Mapping[str, float] = starts,
            holds: bool = holds,
            closing: Collection[str] = closing,
            late: float = late,
            now: float = s.now,
        ) -> tuple[bool, bool, float]:
            near = tails[t.key] + (rule.closes if t.key in closing else 0.0)
            return (bool(t.strips) and holds, starts[t.key] - now > late, -near)

        s = job.step(s, min(able, key=rank))
    return s


def _inside(job: _Job) -> dict[str, set[str]]:
    """What must be done before each thing stands together again."""
    found: dict[str, set[str]] = {}
    for t in job.hands:
        if t.refits:
            keys, left = {t.key}, [*t.after]
            while left:
                key = left.pop()
                if key not in keys:
                    keys.add(key)
                    left += job.by_key[key].after
            found[t.refits] = keys
    return found


def _by_rules(job: _Job, *, whole: bool) -> Plan:
    """The best of some orders by rule, what has most clock hours behind it first: the fewest days, and of
    those with as many the one with the fewest apart.
    """
    tails = _tails(job)
    rules: tuple[_Rule, ...] = _RULES
    if not any(t.needs_whole for t in job.hands):  # then nothing is held back, and such rules are all alike
        rules = tuple({(r.closes, r.idle): r for r in _RULES}.values())
    found = [_by_rule(job, rule, tails, whole) for rule in rules]
    able = [s for s in found if s is not None]
    if not able:
        raise _stuck(job)
    if whole:
        able += [s for s in (_tightened(job, one) for one in able) if s is not None]

    def worth(s: _State) -> tuple[int, int, float]:
        return (job.evenings.day_of(job.finish(s), ending=True), s.apart, job.finish(s))

    return job.plan(min(able, key=worth), is_least=False)


def _tightened(job: _Job, s: _State) -> _State | None:
    """The same order with what takes apart just before the first that needs it, and what puts together
    again right behind the last it waits for; None where that breaks a rule.
    """
    order = list(s.order)
    for t in job.hands:
        if t.strips:
            needs = [i for i, k in enumerate(order) if t.key in job.by_key[k].after]
            if needs:
                first = order[min(needs)]
                order.remove(t.key)
                order.insert(order.index(first), t.key)
    for t in job.hands:
        if t.refits:
            order.remove(t.key)
            last = max((order.index(a) for a in t.after if a in order), default=-1)
            order.insert(last + 1, t.key)
    state = job.first()
    for key in order:
        t = job.by_key[key]
        if t.is_held_up(state.open) or not all(a in state.ends for a in t.after):
            return None
        state = job.step(state, t)
    return state


def _tails(job: _Job) -> dict[str, float]:
    """Clock hours from each task's start to the end of the job, by what waits for what."""
    found = precedence(job.tasks)
    return {key: found.length - found.earliest[key] - found.slack[key] for key in found.earliest}
