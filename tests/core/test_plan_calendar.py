"""The calendar, the solver, the outlook and what decides the end: against rows, worked figures and rules."""

from __future__ import annotations

import datetime
import itertools

import numpy as np
import pytest
from msgspec.structs import replace

from tests.core.test_planning_numbers import EXPECTED, job
from tests.reference import rows
from trebb.core.dates import date_typed, dates_typed, later
from trebb.core.errors import InputError
from trebb.core.planning import outlook as outlooks
from trebb.core.planning.evenings import alike, by_week
from trebb.core.planning.outlook import Pace, deciding_chain, outlook, pace_of
from trebb.core.planning.schedule import fewest_apart, fewest_evenings, in_order
from trebb.core.planning.solver import solved
from trebb.core.planning.tasks import Task

THURSDAY = datetime.date(2026, 11, 26)
WEEK = (2.0, 0.0, 2.5, 2.0, 0.0, 5.0, 3.0)


def test_bench_hours_fall_on_the_days_that_have_some():
    # From Thursday: 2 h, Friday off, Saturday 5 h, Sunday 3 h, Monday 2 h, Tuesday off, Wednesday 2.5 h.
    there = by_week(WEEK, THURSDAY)
    assert there.hours[:7] == (2.0, 0.0, 5.0, 3.0, 2.0, 0.0, 2.5)
    assert there.day_of(0.0) == 0
    assert there.day_of(2.0) == 2  # the evening is over: the next begins on Saturday
    assert there.day_of(2.0, ending=True) == 0
    assert there.clock_of(2.0) == 48.0
    assert there.clock_of(2.0, ending=True) == 2.0
    assert there.clock_of(4.5) == 50.5
    assert there.bench_at(30.0) == 2.0  # Friday at six in the morning of its clock: Saturday's first hour
    assert there.bench_at(50.5) == 4.5
    assert there.fitting(1.0, 4.0) == 2.0  # four hours in one evening: Saturday's
    with pytest.raises(InputError, match="one evening"):
        there.fitting(0.0, 6.0)
    off = by_week(WEEK, THURSDAY, [datetime.date(2026, 11, 28)])
    assert off.hours[2] == 0.0
    for week in ((0.0,) * 7, (30.0, *WEEK[1:]), (0.1, *WEEK[1:])):
        with pytest.raises(InputError):
            by_week(week, THURSDAY)


def test_a_plan_worked_by_hand():
    # Order tonight (half an hour), three days of waiting, two hours' work: Sunday, on a week as above.
    tasks = (Task("order", 0.5), Task("comes", 72.0, ("order",), waits=True), Task("fit", 2.0, ("comes",)))
    plan = fewest_evenings(tasks, by_week(WEEK, THURSDAY))
    assert plan.ends["comes"] == 72.5
    assert plan.starts["fit"] == 2 + 5 + 0.5  # half an hour into Sunday's evening
    assert plan.evenings == 4
    assert deciding_chain({t.key: t for t in tasks}, plan) == ("order", "comes", "fit")
    help_on = replace(tasks[2], only=(6, 13))
    assert fewest_evenings((*tasks[:2], help_on), by_week(WEEK, THURSDAY)).evenings == 7
    told = solved((*tasks[:2], help_on), by_week(WEEK, THURSDAY), seconds=600, work=5)
    assert told["days"] == 7
    held = (*tasks[:2], replace(tasks[2], not_before=6))
    assert fewest_evenings(held, by_week(WEEK, THURSDAY)).evenings == 7


PROJECTS = [r for r in rows(EXPECTED) if r["quantity"] == "evenings"]


@pytest.mark.parametrize("row", PROJECTS, ids=[r["project"] for r in PROJECTS])
def test_the_solver_finds_the_certified_optimum(row):
    tasks, hours = job(row)
    exact = fewest_apart(tasks, hours)
    told = solved(tasks, alike(hours), seconds=600, work=20)
    assert told["is_least"]
    assert (told["days"], told["apart"]) == (fewest_evenings(tasks, hours).evenings, exact.apart)


def random_job(rng, count=40):
    """Hands and waits, some on the whole machine, groups that are taken apart and put together."""
    tasks = []
    for k in range(count):
        before = [tasks[i].key for i in range(max(0, k - 6), k) if rng.random() < 0.25]
        waits = rng.random() < 0.2
        hours = float(rng.integers(20, 150)) if waits else float(rng.integers(1, 12)) / 4
        tasks.append(
            Task(f"t{k}", hours, tuple(before), waits, in_one_evening=not waits and rng.random() < 0.1)
        )
    for g in range(2):
        i = int(rng.integers(0, count - 10))
        inside = {t.key for t in tasks[i : i + 8] if not t.waits and not t.strips and not t.refits}
        tasks = [replace(t, after=(*t.after, f"s{g}")) if t.key in inside else t for t in tasks]
        tasks.insert(i, Task(f"s{g}", 1.0, strips=f"g{g}"))
        last = max(n for n, t in enumerate(tasks) if t.key in inside)
        tasks.insert(last + 1, Task(f"r{g}", 1.0, (f"s{g}", *sorted(inside)), refits=f"g{g}"))
    first = {t.key for t in tasks if t.waits and not t.after}
    for n in rng.choice(count, 3, replace=False):
        t = tasks[int(n)]
        if not (t.waits or t.strips or t.refits or any(a.startswith("s") for a in t.after)):
            tasks[int(n)] = replace(t, needs_whole=True, after=tuple(a for a in t.after if a in first))
    return tasks


def assert_kept(tasks, plan):
    """No rule is broken, looked at without the planner's own arithmetic."""
    there = plan.evenings_there
    by_key = {t.key: t for t in tasks}
    hands = sorted((plan.starts[t.key], plan.ends[t.key]) for t in tasks if not t.waits)
    assert all(a[1] <= b[0] + 1e-6 for a, b in itertools.pairwise(hands))

    def clock(key, value, *, ending):
        return value if by_key[key].waits else there.clock_of(value, ending=ending)

    for t in tasks:
        for a in t.after:
            assert (
                clock(a, plan.ends[a], ending=True) <= clock(t.key, plan.starts[t.key], ending=False) + 1e-6
            )
        if t.in_one_evening:
            assert there.day_of(plan.starts[t.key]) == there.day_of(plan.ends[t.key], ending=True)
        if t.refits:
            begin = next(plan.starts[s.key] for s in tasks if s.strips == t.refits)
            for w in tasks:
                if w.needs_whole:
                    assert plan.ends[w.key] <= begin + 1e-6 or plan.starts[w.key] >= plan.ends[t.key] - 1e-6


def test_random_jobs_break_no_rule_and_the_solver_is_no_worse_than_the_rule():
    rng = np.random.default_rng(11)
    there = by_week(WEEK, THURSDAY)
    for _ in range(5):
        tasks = random_job(rng)
        plan = fewest_evenings(tasks, there)
        assert_kept(tasks, plan)
        hands = {t.key: plan.starts[t.key] for t in tasks if not t.waits}
        told = solved(tasks, there, known=hands, known_days=plan.evenings, seconds=600, work=3)
        assert told["days"] <= plan.evenings
        order = sorted(told["starts"], key=lambda k: (told["starts"][k], k))
        held = {t.key: told["starts"][t.key] for t in tasks if t.strips}
        again = in_order(tasks, there, order, held)
        assert again is not None
        assert_kept(tasks, again)
        assert again.evenings == told["days"]


def test_the_outlook_is_the_plan_where_nothing_scatters(monkeypatch):
    for name, value in (("WORK_SPREAD", 0.0), ("WAIT_SPREAD", 0.0), ("WAIT_MIDDLE", 1.0)):
        monkeypatch.setattr(outlooks, name, value)
    rng = np.random.default_rng(4)
    for _ in range(4):
        tasks = random_job(rng)
        plan = fewest_evenings(tasks, by_week(WEEK, THURSDAY))
        found = outlook(tasks, plan, Pace(1.0, 0.0), draws=3)
        assert set(found.days) == {plan.evenings}


def test_work_is_late_more_often_than_early_and_the_pace_is_learned():
    tasks = [Task(f"t{i}", 2.0) for i in range(10)]
    plan = fewest_evenings(tasks, alike(3.0))
    usual = outlook(tasks, plan)
    assert usual.within(0.5) >= plan.evenings
    assert usual.within(0.9) > usual.within(0.5)
    assert usual.chance_by(usual.within(0.9)) >= 0.9
    slow = pace_of([2.0, 3.0, 1.0, 2.0], [4.0, 6.0, 2.0, 4.0])  # everything took twice as long
    assert 1.6 < slow.middle < 2.0
    assert slow.spread < Pace().spread
    assert outlook(tasks, plan, slow).within(0.5) > usual.within(0.5)
    assert pace_of([0.3], [3.0]) == Pace()  # a quarter of an hour teaches nothing


def test_a_word_of_another_language_is_no_name_of_a_day_because_it_begins_like_one():
    from trebb.core.dates import also_named

    days = [("Mo", "Montag"), ("Di", "Dienstag"), ("Mi", "Mittwoch"), ("Do", "Donnerstag"), ("Fr", "Freitag"),
            ("Sa", "Samstag"), ("So", "Sonntag")]  # fmt: skip
    also_named([], days)
    try:
        assert date_typed("so", THURSDAY) == date_typed("Sonntag", THURSDAY) == date_typed("sonn", THURSDAY)
        for text in ("soon", "doing", "from"):
            with pytest.raises(InputError):
                date_typed(text, THURSDAY)
    finally:
        also_named((), ())


def test_dates_as_they_are_typed():
    for text, day in (
        ("2026-12-05", (2026, 12, 5)),
        ("5 Dec", (2026, 12, 5)),
        ("5.12.", (2026, 12, 5)),
        ("5.1.", (2027, 1, 5)),
        ("Tue 26 Jan 2027", (2027, 1, 26)),
        ("in 3 days", (2026, 11, 29)),
        ("+2w", (2026, 12, 10)),
        ("in 3 months", (2027, 2, 26)),
        ("sat", (2026, 11, 28)),
        ("tonight", (2026, 11, 26)),
    ):
        assert date_typed(text, THURSDAY) == datetime.date(*day), text
    assert later(datetime.date(2027, 1, 31), 1, "m") == datetime.date(2027, 2, 28)
    assert len(dates_typed("24 Dec to 2 Jan, 6 Jan", THURSDAY)) == 11
    for text in ("", "soon", "31.11.", "in 2 moons", "1.1.1700", "5 Dec 20260"):
        with pytest.raises(InputError):
            date_typed(text, THURSDAY)
