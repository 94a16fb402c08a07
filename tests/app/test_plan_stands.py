"""A plan always stands, whatever is ticked, missing, pinned or asked for, and whatever the solver does."""

from __future__ import annotations

import datetime
import random
import sys

import pytest

from tests.app.conftest import until
from tests.app.test_whole_job import CHOSEN, NOW
from trebb.app.plan import solving
from trebb.app.shell.walk import take_what_is_left
from trebb.app.window import behind
from trebb.core.planning.evenings import alike
from trebb.core.planning.plannable import planned
from trebb.core.planning.tasks import Task
from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.log.entries import MatterStated, RemedyChosen, StepDone
from trebb.logbook.plan import job_plan
from trebb.logbook.plan.work import PLAN


def choose_everything(frame) -> None:
    """Whatever can be chosen of the machine: of each assembly the remedy with the most parts."""
    session = frame.session
    for case in session.cases.measurable():
        able = [r for r, _ in case.predictions() if not r.hinder(case.subject)]
        most = max(able, key=lambda r: len(r.parts))
        session.record(RemedyChosen(assembly=case.assembly_key, remedy=most.key, reason=""))


@pytest.mark.parametrize("machine", DEMOS)
def test_every_strip_down_can_be_ticked_first_and_a_plan_stands(make_window, set_clock, machine):
    set_clock(NOW)
    frame = make_window(machine).frame
    choose_everything(frame)
    stop = frame.go_to("plan")
    strips = [x.task.key for x in stop.plan.lines if x.task.strips]
    assert strips
    for key in strips[:4]:
        frame.session.record(StepDone(PLAN, key, True))
        assert stop.plan.trouble == ""
        planned_keys = set(stop.plan.starts)
        left = {x.task.key for x in stop.plan.lines if not x.is_done}
        assert planned_keys | set(stop.plan.why_not) == left  # each is planned, or said why not
        assert not frame.trouble.isVisible()
        frame.session.record(StepDone(PLAN, key, False))
    frame.session.record(*[StepDone(PLAN, key, True) for key in strips])
    assert stop.plan.starts or stop.plan.why_not
    assert not frame.trouble.isVisible()


def test_what_the_first_strip_down_makes_impossible_is_named_with_why(make_window, set_clock):
    set_clock(NOW)
    frame = make_window("lathe").frame
    frame.session.record(*[RemedyChosen(assembly=a, remedy=r, reason="") for a, r in CHOSEN.items()])
    stop = frame.go_to("plan")
    frame.session.record(StepDone(PLAN, "strip.apron", True))
    assert stop.plan.ready is not None
    assert "tasks wait; without them ready" in stop.banner.head.text()
    assert "needs the machine whole, which stands apart" in stop.banner.text.text()
    assert "stepped shaft" in stop.banner.text.text()


def test_a_solver_under_way_when_the_first_strip_down_is_ticked_does_no_harm(make_window, set_clock):
    set_clock(NOW)
    frame = make_window("mill").frame
    for case in frame.session.cases.measurable()[:3]:
        take_what_is_left(case, "before", frame.session.record)
    choose_everything(frame)
    stop = frame.go_to("plan")
    assert until(lambda: not stop.solver.is_running, 120_000)
    strip = next(x.task.key for x in stop.plan.lines if x.task.strips)
    frame.session.record(StepDone(PLAN, strip, True))
    assert until(lambda: not stop.solver.is_running, 120_000)
    assert not frame.trouble.isVisible()
    assert "Looking for" not in stop.solver_words.text()


def test_a_missing_order_is_not_all_of_it_done(make_window, set_clock):
    set_clock(NOW)
    frame = make_window("lathe").frame
    frame.session.record(RemedyChosen(assembly="dial_shaft", remedy="new", reason=""))
    stop = frame.go_to("plan")
    keys = [x.task.key for x in stop.plan.lines]
    for x in stop.plan.lines:
        if not x.task.after:
            frame.session.record(MatterStated("task", x.task.key, "missing", "no saw"))
    assert "Nothing of it can be planned yet" in stop.banner.head.text()
    assert "no saw" in stop.banner.text.text()
    assert [x.task.key for x in stop.plan.lines if not x.is_done]
    assert keys


def test_a_pin_beyond_what_is_looked_ahead_is_said_and_the_rest_is_planned(make_window, set_clock):
    set_clock(NOW)
    window = make_window("lathe")
    frame = window.frame
    frame.session.record(*[RemedyChosen(assembly=a, remedy=r, reason="") for a, r in CHOSEN.items()])
    stop = frame.go_to("plan")
    key = "make.dial_shaft.stepped_shaft"
    far = (NOW.date() + datetime.timedelta(days=3000)).isoformat()
    frame.session.record(MatterStated("task", key, "pinned", far))
    assert "800 days are looked ahead" in stop.plan.why_not[key]
    assert stop.plan.ready is not None
    path = frame.session.path
    window.leave_job()
    assert window.open_path(path)
    assert window.frame.go_to("plan").plan.ready is not None


def test_a_date_that_cannot_be_kept_keeps_nobody_waiting(make_window, set_clock, monkeypatch):
    """Eighty tasks, and every way out is tried: the window takes gestures all the while."""
    import threading

    set_clock(NOW)
    frame = make_window("lathe").frame
    rng = random.Random(7)
    bodies = []
    for i in range(80):
        bodies += [
            MatterStated("task", f"own{i}", "own", "yes"),
            MatterStated("task", f"own{i}", "title", f"task {i}"),
            MatterStated("task", f"own{i}", "hours", round(rng.uniform(0.5, 4), 1)),
        ]
    frame.session.record(*bodies)
    tomorrow = (NOW.date() + datetime.timedelta(days=1)).isoformat()
    frame.session.record(MatterStated("plan", "", "ready_by", tomorrow))
    begun, goes_on = threading.Event(), threading.Event()
    real = job_plan.plan_of

    def slowly(asked):
        begun.set()
        assert goes_on.wait(600)
        assert threading.current_thread() is not threading.main_thread()
        return real(asked)

    monkeypatch.setattr(job_plan, "plan_of", slowly)
    monkeypatch.setattr(behind, "PATIENCE_S", 0.0)
    stop = frame.go_to("plan")
    assert begun.wait(600)
    assert "Planning" in stop.banner.head.text()
    assert not stop.plan.starts
    frame.go_to("survey")  # the window goes on
    frame.go_to("plan")
    goes_on.set()
    assert until(lambda: bool(stop.plan.starts), 600_000)
    assert until(lambda: "not by" in stop.banner.head.text(), 600_000)


def test_another_error_than_ours_is_said_once_and_the_plan_stays(make_window, set_clock, monkeypatch):
    set_clock(NOW)
    frame = make_window("lathe").frame
    frame.session.record(*[RemedyChosen(assembly=a, remedy=r, reason="") for a, r in CHOSEN.items()])
    stop = frame.go_to("plan")
    ready = stop.plan.ready

    def broken(asked, found=None):
        raise ZeroDivisionError

    monkeypatch.setattr(job_plan, "plan_of", broken)
    said = []
    stop.planner.failed.connect(said.append)
    for _ in range(3):
        stop.refresh()
    assert len(said) == 1
    assert stop.plan.ready == ready
    assert not frame.trouble.isVisible()


# the solver's process ---------------------------------------------------------------------------


@pytest.mark.parametrize(
    "command",
    [
        ["/no/such/program"],
        [sys.executable, "-c", "import sys; sys.exit(3)"],
        [sys.executable, "-c", "print('no json')"],
        [sys.executable, "-c", "print('{\"starts\": 3}')"],
        [sys.executable, "-c", "import os, signal; os.kill(os.getpid(), signal.SIGKILL)"],
        [sys.executable, "-c", "pass"],
    ],
)
def test_a_solver_that_fails_is_said_once_and_gone_on_without(make_window, set_clock, monkeypatch, command):
    set_clock(NOW)
    monkeypatch.setattr(solving, "WAIT_MS", 0)
    begun = []
    real = solving.PlanSolver._begin

    def counted(self):
        begun.append(1)
        real(self)

    monkeypatch.setattr(solving.PlanSolver, "_begin", counted)
    monkeypatch.setattr(solving, "is_bundle", lambda: True)
    monkeypatch.setattr(solving, "own_command", lambda: command)
    frame = make_window("lathe").frame
    frame.session.record(*[RemedyChosen(assembly=a, remedy=r, reason="") for a, r in CHOSEN.items()])
    stop = frame.go_to("plan")
    said = []
    stop.solver.said.connect(lambda words: said.append(words) if words == solving.BY_RULE else None)
    assert until(lambda: said and not stop.solver.is_running, 120_000)
    for _ in range(10):
        stop.refresh()
        until(lambda: False, 40)
    assert len(begun) == 1
    assert len(said) == 1
    assert stop.plan.ready is not None
    frame.session.record(MatterStated("plan", "", "ready_by", "2027-03-01"))  # another plan: once more
    assert until(lambda: len(begun) == 2 and not stop.solver.is_running, 120_000)
    frame.session.record(MatterStated("plan", "", "ready_by", "2027-03-02"))
    until(lambda: False, 100)
    assert len(begun) == 2
    assert not stop.solver.is_running


def test_another_error_in_the_search_for_the_best_order_leaves_the_form_usable(qapp, monkeypatch):
    from PySide6.QtCore import QObject

    from trebb.app.practice.search import BestSearch

    def broken(entries):
        raise KeyError("x")

    monkeypatch.setattr("trebb.logbook.practice.opened.look_for_best", broken)
    owner = QObject()
    search = BestSearch(owner)
    said = []
    search.failed.connect(said.append)
    search.begin([])
    assert until(lambda: bool(said), 60_000)
    assert "could not be looked for" in said[0]
    assert until(lambda: not search.is_running, 60_000)


# the core ---------------------------------------------------------------------------------------


def task(key: str, hours: float = 1.0, *after: str, **more) -> Task:
    return Task(key, hours, after, title=key, **more)


def test_circles_and_what_no_evening_holds_are_left_out_with_what_waits_for_them():
    tasks = [
        task("a", 1, "b"), task("b", 1, "a"), task("c", 1, "b"), task("d"),
        task("e", 9, in_one_evening=True), task("f", 1, "e"), task("g", 1, "d"),
    ]  # fmt: skip
    can = planned(tasks, alike(3))
    assert [t.key for t in can.tasks] == ["d", "g"]
    assert "none of them can begin" in can.why_not["a"]
    assert "none of them can begin" in can.why_not["b"]
    assert can.why_not["c"] == "it waits for b"
    assert "an evening has 3" in can.why_not["e"]
    assert can.why_not["f"] == "it waits for e"
    assert can.waiting == {"c", "f"}
    assert can.plan is not None


def test_a_plan_stands_of_any_tasks_whatever():
    rng = random.Random(3)
    for _ in range(60):
        tasks = []
        for i in range(rng.randrange(1, 22)):
            after = tuple({f"t{rng.randrange(22)}" for _ in range(rng.randrange(3))} - {f"t{i}"})
            tasks.append(
                task(
                    f"t{i}", rng.choice([0, 0.5, 3, 40, 4000]), *after,
                    waits=rng.random() < 0.2, needs_whole=rng.random() < 0.2,
                    strips=rng.choice(["", "", "x", "y"]), refits=rng.choice(["", "", "x", "y"]),
                    in_one_evening=rng.random() < 0.2, not_before=rng.choice([0, 0, 5, 5000]),
                )
            )  # fmt: skip
        there = {t.key for t in tasks}
        tasks = [Task(**{**_as(t), "after": tuple(a for a in t.after if a in there)}) for t in tasks]
        can = planned(tasks, alike(3))
        assert {t.key for t in can.tasks} | set(can.why_not) == there
        assert (can.plan is None) == (not can.tasks)


def _as(t: Task) -> dict:
    from msgspec.structs import asdict

    return asdict(t)
