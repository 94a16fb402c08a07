"""Evenings, waits and bars against certified rows; and what cannot be planned."""

from __future__ import annotations

import itertools
from collections import defaultdict

import numpy as np
import pytest

from tests.reference import misses, number, rows
from trebb.core.errors import InputError
from trebb.core.planning import bars
from trebb.core.planning.schedule import as_listed, fewest_apart, fewest_evenings
from trebb.core.planning.tasks import Task, checked, evenings_by_precedence, hands_hours, precedence

TASKS, EXPECTED, BARS = "17_schedule_tasks.csv", "17_schedule_expected.csv", "17_bar_cutting.csv"


def projects():
    found = defaultdict(list)
    for r in rows(TASKS):
        found[r["project"]].append(
            Task(
                r["task"],
                number(r, "expected"),
                tuple(a for a in r["after"].split(";") if a),
                r["kind"] == "wait",
                r["needs_whole"] == "true",
                r["strips"],
                r["refits"],
                r["in_one_evening"] == "true",
            )
        )
    return dict(found)


PROJECTS = projects()


def job(r):
    return PROJECTS[r["project"]], number(r, "hours_per_evening")


def listed(r):
    plan = as_listed(*job(r))
    return str(plan.evenings) if plan is not None else "not allowed"


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("hands_hours", lambda r: hands_hours(job(r)[0])),
        ("critical_path_hours", lambda r: precedence(job(r)[0]).length),
        ("earliest_start", lambda r: precedence(job(r)[0]).earliest[r["task"]]),
        ("slack", lambda r: precedence(job(r)[0]).slack[r["task"]]),
        ("critical_tasks", lambda r: ";".join(precedence(job(r)[0]).critical)),
        ("evenings_by_precedence", lambda r: evenings_by_precedence(*job(r))),
        ("evenings_by_work", lambda r: int(np.ceil(hands_hours(job(r)[0]) / job(r)[1] - 1e-9))),
        ("finish_bench_hours", lambda r: fewest_evenings(*job(r)).finish),
        ("evenings", lambda r: fewest_evenings(*job(r)).evenings),
        ("fitter_idle", lambda r: fewest_evenings(*job(r)).finish - hands_hours(job(r)[0])),
        ("evenings_if_machine_state_ignored", lambda r: fewest_evenings(*job(r), whole=False).evenings),
        ("evenings_apart", lambda r: fewest_apart(*job(r)).apart),
        ("evenings_apart_one_more_allowed", lambda r: fewest_apart(*job(r), more=1).apart),
        ("evenings_as_listed", listed),
    ],
)
def test_schedule_rows(quantity, value):
    assert not misses(EXPECTED, quantity, value)


def pieces(r):
    found = []
    for part in r["pieces_mm"].split(";"):
        length, _, many = part.partition("x")
        found += [float(length)] * int(many or 1)
    return found


def cut(r):
    return pieces(r), number(r, "bar_length_mm"), number(r, "kerf_mm"), number(r, "end_waste_mm")


def rack(r):
    return (
        pieces(r),
        [float(v) for v in r["rack_mm"].split(";")],
        number(r, "kerf_mm"),
        number(r, "end_waste_mm"),
    )


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("fewest_bars", lambda r: len(bars.fewest_bars(*cut(r)).bars)),
        ("bars_by_length", lambda r: bars.bars_by_length(*cut(r))),
        ("longest_offcut", lambda r: bars.fewest_bars(*cut(r)).longest_offcut),
        ("bars_first_fit_decreasing", lambda r: len(bars.first_fit_decreasing(*cut(r)).bars)),
        ("waste_share", lambda r: bars.waste_share(pieces(r), bars.fewest_bars(*cut(r)))),
        ("least_stock_used", lambda r: sum(bars.from_rack(*rack(r)).lengths)),
        ("rack_is_enough", lambda r: bars.from_rack(*rack(r)) is not None),
        ("rack_length_enough", lambda r: bars.rack_by_length(*rack(r))),
    ],
)
def test_bar_rows(quantity, value):
    assert not misses(BARS, quantity, value)


def test_what_cannot_be_planned_is_said():
    circle = (Task("a", 1, ("b",)), Task("b", 1, ("a",)))
    for tasks, evening, said in (
        (circle, 3, "wait for each other"),
        ((Task("a", 1),), 30, "an evening of 30 hours"),
        ((Task("a", -5, waits=True),), 3, "in the past"),
        ((Task("a", 1, ("gone",)),), 3, "no task here"),
        ((Task("a", 4, in_one_evening=True),), 3, "in one evening"),
        (
            (
                Task("s", 1, strips="x"),
                Task("w", 1, ("s",), needs_whole=True),
                Task("r", 1, ("w",), refits="x"),
            ),
            3,
            "apart",
        ),
    ):
        with pytest.raises(InputError, match=said):
            fewest_evenings(tasks, evening)
    for call in (lambda: bars.fewest_bars([900], 800, 3, 20), lambda: bars.fewest_bars([], 800, 3, 20)):
        with pytest.raises(InputError):
            call()


def random_job(rng, count):
    """A job of hands and waits, some stripping and refitting."""
    tasks = []
    for k in range(count):
        before = [tasks[i].key for i in range(max(0, k - 6), k) if rng.random() < 0.25]
        waits = rng.random() < 0.2
        hours = float(rng.integers(20, 100)) if waits else float(rng.integers(1, 4))
        tasks.append(Task(f"t{k}", hours, tuple(before), waits))
    return tasks


def test_large_jobs_are_feasible_and_near_their_bound():
    rng = np.random.default_rng(3)
    worst = 0.0
    for _ in range(40):
        tasks = random_job(rng, 60)
        plan = fewest_evenings(tasks, 3.0)
        by_key = checked(tasks, 3.0)
        hands = sorted((plan.starts[t.key], plan.ends[t.key]) for t in tasks if not t.waits)
        assert all(a[1] <= b[0] + 1e-6 for a, b in itertools.pairwise(hands))  # one pair of hands
        assert set(plan.order) == {k for k, t in by_key.items() if not t.waits}
        for t in tasks:
            for a in t.after:
                assert (
                    plan.order.index(a) < plan.order.index(t.key)
                    if not (t.waits or by_key[a].waits)
                    else True
                )
        worst = max(worst, plan.evenings / plan.bound)
    assert worst <= 1.15
