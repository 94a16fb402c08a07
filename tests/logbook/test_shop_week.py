"""Several machines and one fitter: evenings shared, what is due first, orders before all."""

from __future__ import annotations

import datetime
import itertools
from collections import defaultdict

import pytest

from tests.demo import demo_at
from trebb.core.errors import InputError
from trebb.core.planning.schedule import from_order, in_order
from trebb.core.planning.tasks import Task, part_of
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import MatterStated, RemedyChosen
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.job_plan import job_plan
from trebb.logbook.plan.shop_week import shop_week

NOW = datetime.datetime(2026, 12, 3, 17).astimezone()
CHOSEN = {
    "lathe": {"cross_slide": "pair_thrust", "dial_shaft": "new"},
    "mill": {"spindle": "bearings", "table_screw": "made_nut"},
    "drill": {"spindle": "coupler"},
}


@pytest.fixture
def jobs(tmp_path):
    found = []
    for machine, remedies in CHOSEN.items():
        with demo_at(tmp_path / f"{machine}.trebb", machine) as file:
            file.append([RemedyChosen(assembly=a, remedy=r, reason="") for a, r in remedies.items()])
            if machine == "drill":
                file.append([MatterStated("plan", "", "ready_by", "2026-12-08")])
                file.append([MatterStated("plan", "", "mon", 3.0)])
            found.append((tmp_path / f"{machine}.trebb", Cases(Job(file.entries()))))
    return found


def test_three_machines_share_the_evenings_and_what_is_due_goes_first(jobs):
    week = shop_week(jobs, NOW)
    plan = week.plan
    assert plan.evenings.hours[4] == 3.0  # the only job that says its evenings: Monday
    hands = sorted(
        (plan.starts[x.task.key], x)
        for x in plan.lines
        if x.task.key in plan.starts and not x.task.waits and x.task.hours
    )
    for (a, one), (b, _) in itertools.pairwise(hands):
        assert a + one.task.hours <= b + 1e-6
    drill = next(m for m in week.machines if m.path.stem == "drill")
    assert drill is week.machines[0]
    assert not drill.is_late
    assert all(m.ready and m.ready >= drill.ready for m in week.machines)
    # Orders of all are written before anything else is begun.
    first_work = min(plan.starts[x.task.key] for _, x in hands if x.work.kind != "order")
    orders = [x for _, x in hands if x.work.kind == "order"]
    assert len(orders) == 4
    assert all(plan.starts[x.task.key] < first_work for x in orders)
    assert {x.task.key for x in plan.to_order} == {x.task.key for x in orders}
    # Each machine's own work is all there, under its name.
    count = defaultdict(int)
    for x in plan.lines:
        count[week.machine_of(x.task.key).path.stem] += 1
        assert x.task.title.startswith(week.machine_of(x.task.key).name)
    assert count == {path.stem: len(job_plan(cases, NOW).lines) for path, cases in jobs}


def test_one_machine_in_pieces_does_not_keep_another_from_cutting():
    def tasks(machine):
        return [
            Task("strip", 1.0, strips=part_of("a", "slide"), machine="a"),
            Task("cut", 1.0, needs_whole=True, machine=machine),
            Task("fit", 1.0, ("strip",), refits=part_of("a", "slide"), machine="a"),
        ]

    order = ("strip", "cut", "fit")
    assert in_order(tasks("b"), 3.0, order) is not None
    assert in_order(tasks("a"), 3.0, order) is None


def test_rather_than_wait_the_next_machine_has_the_bench():
    tasks = [
        Task("order", 0.25, machine="a"),
        Task("comes", 48.0, ("order",), waits=True, machine="a"),
        Task("fit", 1.0, ("comes",), machine="a"),
        Task("paint", 2.0, machine="b"),
    ]
    order = ("order", "fit", "paint")
    waiting = from_order(tasks, 2.5, order)
    filled = from_order(tasks, 2.5, order, idle=0.5)
    assert waiting.starts["paint"] > waiting.starts["fit"]
    assert filled.starts["paint"] == 0.25
    assert filled.starts["fit"] == waiting.starts["fit"]


def test_none_and_too_many_are_refused(jobs):
    with pytest.raises(InputError, match="name the files"):
        shop_week([], NOW)
    with pytest.raises(InputError, match="no more than 12"):
        shop_week(jobs * 5, NOW)
