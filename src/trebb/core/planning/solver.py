"""The plan solved exactly, or as near as there is time for: constraint programming, in a process of its own.

Read as JSON from standard input: `{"tasks": [...], "hours": [...], "due": day or null, "seconds": s}`, the
fields of a task those of `Task`. Written to standard output, a line of JSON each time something better is
found, and a last one with `"is_last": true`: starts of hands tasks in bench hours, days until the end, days
apart, and the bound that is proven. Run by `python -m trebb.core.planning.solver`.

The bench is one machine in quarters of an hour, evenings end to end. A chain of waits between two hands
tasks is a table from the end of the one to the earliest start of the other: waits need nobody, so that
nothing else of them has to be decided.
"""

from __future__ import annotations

import json
import math
import sys
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from msgspec import Struct
from msgspec.structs import asdict

from trebb.core.planning.evenings import DAY, TINY, Evenings
from trebb.core.planning.tasks import Task, checked

STEP = 0.25  # hours: what the solver counts in
SECONDS = 5.0
LATE, DAYS, APART = 20_000, 1_000, 6  # weights: a day past the date wanted, a day until the end, a day apart


class Links(Struct, frozen=True):
    """What hands tasks wait for, once waits are taken out: clock hours of waiting between two of them, from
    nothing, and behind each until the end. A task that stands in none waits for nothing.
    """

    between: Mapping[tuple[str, str], float]
    released: Mapping[str, float]
    behind: Mapping[str, float]
    all_waits: float


def links_of(tasks: Sequence[Task]) -> Links:
    """The longest chain of waits between hands tasks."""
    by_key = {t.key: t for t in tasks}
    known: dict[str, dict[str, float]] = {}

    def reach(key: str) -> dict[str, float]:
        """Hands tasks (or "" for the beginning) that a task's start hangs on, and the waits in between."""
        if key not in known:
            t = by_key[key]
            found: dict[str, float] = {}
            if t.not_before:
                found[""] = DAY * t.not_before
            for a in t.after:
                before = by_key[a]
                chain = {a: 0.0} if not before.waits else _longer(reach(a), before.hours)
                if before.waits and not before.after:
                    chain[""] = max(chain.get("", 0.0), DAY * before.not_before + before.hours)
                for k, w in chain.items():
                    found[k] = max(found.get(k, 0.0), w)
            known[key] = found
        return known[key]

    between: dict[tuple[str, str], float] = {}
    released: dict[str, float] = {}
    for t in tasks:
        if not t.waits:
            for k, w in reach(t.key).items():
                if k:
                    between[k, t.key] = w
                elif w > 0:
                    released[t.key] = w
    behind: dict[str, float] = {}
    alone = 0.0
    for t in tasks:
        if t.waits:
            for k, w in _longer(reach(t.key) or {"": 0.0}, t.hours).items():
                if k:
                    behind[k] = max(behind.get(k, 0.0), w)
                else:
                    alone = max(alone, w)
    return Links(between, released, behind, alone)


def _longer(chain: Mapping[str, float], hours: float) -> dict[str, float]:
    return {k: w + hours for k, w in chain.items()}


def quarters(hours: float) -> int:
    """Quarters of an hour that so many hours take, whole ones."""
    return max(0, math.ceil(hours / STEP - 1e-6))


class Model:
    """The job as a constraint model; `days` are enough for it, by any plan known."""

    def __init__(self, tasks: Sequence[Task], evenings: Evenings, due: int | None, days: int) -> None:
        from ortools.sat.python import cp_model

        checked(tasks, evenings)
        self.cp = cp_model
        self.model = m = cp_model.CpModel()
        self.evenings, self.days_there = evenings, days
        self.hands = [t for t in tasks if not t.waits]
        self.top = top = quarters(evenings.ends[days - 1])
        links = links_of(tasks)
        self.start: dict[str, Any] = {}
        self.end: dict[str, Any] = {}
        self.clocks: dict[tuple[str, bool], tuple[Any, Any]] = {}
        intervals = []
        for t in self.hands:
            long = quarters(t.hours)
            low = quarters(evenings.bench_at(links.released[t.key])) if t.key in links.released else 0
            self.start[t.key] = s = self._start(t, min(low, top), top, long)
            self.end[t.key] = e = m.new_int_var(0, top, f"e{t.key}")
            m.add(e == s + long)
            if long:
                intervals.append(m.new_interval_var(s, long, e, f"i{t.key}"))
        m.add_no_overlap(intervals)
        for (a, b), wait in links.between.items():
            if wait > 0:
                m.add(self._clock(b, ending=False)[1] >= self._clock(a, ending=True)[1] + quarters(wait))
            m.add(self.start[b] >= self.end[a])
        self.days = m.new_int_var(0, days, "days")
        alone = evenings.bench_at(links.all_waits)
        m.add(self.days >= (int(links.all_waits / DAY + TINY) + 1 if links.all_waits else 1))
        self.finish = m.new_int_var(quarters(alone), top, "finish")
        m.add(self.days >= self._day_of(self.finish, ending=True)[0] + 1)
        # A wait that ends in the day is over when the next evening begins, at the end of the one before.
        last_clock = self._day_of(self.finish, ending=False)[1] if links.behind else None
        for e in self.end.values():
            m.add(self.finish >= e)
        for key, wait in links.behind.items():
            there = self._clock(key, ending=True)[1] + quarters(wait)
            m.add(last_clock >= there)
            m.add(self.days * quarters(DAY) >= there + 1)  # it is there on the day its clock says
        self.apart = self._apart(top)
        late: Any = 0
        if due is not None:
            late = m.new_int_var(0, days, "late")
            m.add(late >= self.days - due)
        self.objective = LATE * late + DAYS * self.days + APART * self.apart
        # What is ordered or sent away goes first: nobody knows how long it will really take.
        ordered = {a for t in tasks if t.waits for a in t.after if a in self.start}
        self.ordered = sum(self.start[k] for k in sorted(ordered)) if ordered else 0

    def _start(self, t: Task, low: int, top: int, long: int) -> Any:
        if not t.in_one_evening and not t.only:
            return self.model.new_int_var(low, top, f"s{t.key}")
        spans = []
        for day, hours in enumerate(self.evenings.hours[: self.days_there]):
            a = quarters(self.evenings.start_of(day))
            b = int(self.evenings.ends[day] / STEP + TINY) - long
            if hours and b >= max(a, low) and a <= top and (not t.only or day in t.only):
                spans.append([max(a, low), min(b, top)])
        return self.model.new_int_var_from_domain(self.cp.Domain.from_intervals(spans), f"s{t.key}")

    def _clock(self, key: str, *, ending: bool) -> tuple[Any, Any]:
        """Day and clock quarter of a task's start or end."""
        found = self.clocks.get((key, ending))
        if found is None:
            found = self._day_of(self.end[key] if ending else self.start[key], ending=ending)
            self.clocks[key, ending] = found
        return found

    def _day_of(self, at: Any, *, ending: bool) -> tuple[Any, Any]:
        """Day and clock quarter of a bench quarter: one literal a day that has an evening."""
        day: Any = 0
        clock: Any = at
        one: list[Any] = []
        for d, hours in enumerate(self.evenings.hours[: self.days_there]):
            if not hours:
                continue
            x = self.model.new_bool_var("")
            one.append(x)
            a, b = quarters(self.evenings.start_of(d)), quarters(self.evenings.ends[d])
            low, high = (a + 1, b) if ending else (a, b - 1)
            self.model.add(at >= (low if d or not ending else 0)).only_enforce_if(x)
            self.model.add(at <= high).only_enforce_if(x)
            day = day + d * x
            clock = clock + (quarters(DAY * d) - a) * x
        if ending:
            # What takes no time may end at the very beginning.
            self.model.add_exactly_one(one)
        else:
            last = self.model.new_bool_var("")  # at the very end of the days there are
            self.model.add(at >= self.top).only_enforce_if(last)
            day = day + self.days_there * last
            clock = clock + (quarters(DAY * self.days_there) - self.top) * last
            self.model.add_exactly_one([*one, last])
        return day, clock

    def _apart(self, top: int) -> Any:
        """Days that what is stripped stands apart; what needs the machine whole falls outside of it."""
        strips = {t.strips: t for t in self.hands if t.strips}
        total = []
        for t in self.hands:
            if not t.refits:
                continue
            first = strips.get(t.refits)
            begin: Any = self.start[first.key] if first else self.model.new_constant(0)
            long = self.model.new_int_var(0, top, f"l{t.refits}")
            apart = self.model.new_interval_var(begin, long, self.end[t.key], f"a{t.refits}")
            for w in self.hands:
                if w.needs_whole and w.hours > 0:
                    whole = self.model.new_interval_var(
                        self.start[w.key], quarters(w.hours), self.end[w.key], ""
                    )
                    self.model.add_no_overlap([apart, whole])
            days = self.model.new_int_var(0, self.days_there, f"d{t.refits}")
            first_day = self._clock(first.key, ending=False)[0] if first else 0
            self.model.add(days >= self._clock(t.key, ending=True)[0] - first_day + 1)
            total.append(days)
        return sum(total) if total else self.model.new_constant(0)

    def begin_from(self, starts: Mapping[str, float]) -> None:
        """Begin from a plan known: everything that follows from it is worked out first, so that the search
        has it whole.
        """
        for key, start in starts.items():
            if key in self.start:
                self.model.add_hint(self.start[key], quarters(start))
        solver = self.cp.CpSolver()
        solver.parameters.fix_variables_to_their_hinted_value = True
        solver.parameters.num_workers = 1
        status = solver.solve(self.model)
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        if status in (self.cp.OPTIMAL, self.cp.FEASIBLE):
            for i, value in enumerate(solver.response_proto.solution):
                self.model.add_hint(self.model.get_int_var_from_proto_index(i), value)


def solved(
    tasks: Sequence[Task],
    evenings: Evenings,
    *,
    due: int | None = None,
    seconds: float = SECONDS,
    known: Mapping[str, float] | None = None,
    known_days: int = 0,
    said: Callable[[dict[str, Any]], None] | None = None,
    workers: int = 2,
    work: float | None = None,
) -> dict[str, Any]:
    """The best plan found in so many seconds, or in so much `work` as the solver counts it whatever the
    machine's pace, as written out. Raises InputError for tasks that cannot be,
    and where nothing is found at all.
    """
    from ortools.sat.python import cp_model

    from trebb.core.errors import InputError

    known = {t.key: known[t.key] for t in tasks if not t.waits and t.key in known} if known else {}
    model = Model(tasks, evenings, due, _days_enough(tasks, evenings, known, known_days))
    model.model.minimize(2000 * model.objective + 10 * model.finish + model.ordered)
    if known:
        model.begin_from(known)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = workers
    solver.parameters.random_seed = 1
    if work is not None:
        solver.parameters.max_deterministic_time = work
    solver.parameters.cp_model_probing_level = 0

    class Watch(cp_model.CpSolverSolutionCallback):
        """Says each plan that is better than the last."""

        def on_solution_callback(self) -> None:
            if said is not None:
                said(_told(model, self.value, is_last=False))

    status = solver.solve(model.model, Watch())
    if status == cp_model.UNKNOWN:
        raise InputError(f"{seconds:g} seconds", "too few to find a plan: let it look longer")
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        raise InputError(
            "these tasks", "no plan keeps every rule: refit in between, or make what needs it whole elsewhere"
        )
    told = _told(model, solver.value, is_last=True)
    told["is_least"] = status == cp_model.OPTIMAL
    told["gap"] = 1 - solver.best_objective_bound / solver.objective_value if solver.objective_value else 0.0
    return told


def _days_enough(
    tasks: Sequence[Task], evenings: Evenings, known: Mapping[str, float], known_days: int
) -> int:
    """Days that surely hold a best plan: one day more than a plan known, or everything end to end."""
    if known and known_days:
        return min(known_days + 1, len(evenings.hours))
    hands = sum(t.hours + STEP for t in tasks if not t.waits)
    waits = sum(t.hours for t in tasks if t.waits)
    days = evenings.day_of(min(hands, evenings.ends[-1] - 1), ending=True) + math.ceil(waits / DAY) + 9
    return min(days + max([t.not_before for t in tasks], default=0), len(evenings.hours))


def _told(model: Model, value: Callable[[Any], int], *, is_last: bool) -> dict[str, Any]:
    return {
        "is_last": is_last,
        "starts": {key: value(var) * STEP for key, var in model.start.items()},
        "finish": value(model.finish) * STEP,
        "days": value(model.days),
        "apart": value(model.apart) if not isinstance(model.apart, int) else model.apart,
    }


def as_asked(
    tasks: Sequence[Task],
    evenings: Evenings,
    due: int | None,
    known: Mapping[str, float],
    known_days: int,
    seconds: float = SECONDS,
) -> str:
    """What is asked of the process, as JSON. `known` in bench hours."""
    return json.dumps(
        {
            "tasks": [asdict(t) for t in tasks],
            "hours": list(evenings.hours),
            "due": due,
            "known": dict(known),
            "known_days": known_days,
            "seconds": seconds,
        }
    )


def main() -> int:
    """Solve what is read, say it line by line."""
    from trebb.core.errors import InputError

    asked = json.load(sys.stdin)
    tasks = [Task(**{**t, "after": tuple(t["after"]), "only": tuple(t["only"])}) for t in asked["tasks"]]

    def say(told: Mapping[str, Any]) -> None:
        sys.stdout.write(json.dumps(told) + "\n")
        sys.stdout.flush()

    try:
        say(
            solved(
                tasks,
                Evenings(tuple(asked["hours"])),
                due=asked["due"],
                seconds=asked["seconds"],
                known=asked["known"] or None,
                known_days=asked["known_days"],
                said=say,
            )
        )
    except InputError as error:
        say({"is_last": True, "refused": str(error)})
    return 0


if __name__ == "__main__":
    sys.exit(main())
