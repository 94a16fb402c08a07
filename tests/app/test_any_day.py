"""Nothing hangs on the day, the hour or the zone in which it is done."""

from __future__ import annotations

import ast
import datetime
import time
from pathlib import Path

import pytest

import trebb
from trebb.app.cli import main
from trebb.core import clock
from trebb.core.dates import date_typed
from trebb.core.errors import InputError
from trebb.core.stating.matters import matter_schema
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.file.glance import glance
from trebb.logbook.log.entries import MatterStated, RemedyChosen
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.job_plan import job_plan

DAYS = (
    "2027-02-28T12:00",
    "2028-02-29T12:00",
    "2027-03-31T00:05",
    "2026-11-30T18:00",
    "2026-12-31T23:50",
)
ZONES = ("UTC", "Pacific/Kiritimati", "Pacific/Honolulu")
ASKS = {"now", "today", "utcnow", "time", "localtime", "gmtime", "time_ns", "fromtimestamp"}


@pytest.fixture(params=ZONES)
def zone(request, monkeypatch):
    monkeypatch.setenv("TZ", request.param)
    time.tzset()
    yield request.param
    monkeypatch.undo()
    time.tzset()


def asked_of_the_system(text: str) -> list[int]:
    """Lines that ask `datetime`, `date` or `time` what time it is."""
    return [
        node.lineno
        for node in ast.walk(ast.parse(text))
        if isinstance(node, ast.Call)
        and isinstance(node.func, ast.Attribute)
        and node.func.attr in ASKS
        and (owner := ast.unparse(node.func.value).rpartition(".")[2]) in ("datetime", "date", "time")
        and not (owner == "datetime" and node.func.attr == "time")  # a time of day, as it was given
    ]


def test_only_the_application_asks_the_system_what_time_it_is():
    assert asked_of_the_system("import datetime\nx = datetime.date.today()") == [2]
    root = Path(trebb.__file__).parent
    asking = {
        str(path.relative_to(root))
        for path in root.rglob("*.py")
        if asked_of_the_system(path.read_text(encoding="utf-8"))
    }
    assert asking == {"app/__init__.py"}


@pytest.mark.parametrize("day", DAYS)
def test_dates_plan_calendar_and_start_page_on_any_day(tmp_path, set_clock, zone, day, capsys):
    moment = datetime.datetime.fromisoformat(day).astimezone()
    set_clock(moment)
    today = clock.today()
    assert today == moment.date()
    with pytest.raises(InputError):
        matter_schema("task").fact("comes").typed("2020-01-01", UnitSystem.INCH)
    stated = {"ready_by": "in 3 weeks", "off": "tomorrow to in 2 days"}
    bodies = [
        MatterStated("plan", "", key, matter_schema("plan").fact(key).typed(text, UnitSystem.INCH))
        for key, text in stated.items()
    ]
    path = tmp_path / "job.trebb"
    with make_demo(path) as job_file:
        job_file.append([*bodies, RemedyChosen("cross_slide", "pair_thrust", "")])
        plan = job_plan(Cases(Job(job_file.entries())), clock.now())
    assert plan.ready is not None
    assert plan.ready > today
    assert plan.ready_by == today + datetime.timedelta(days=21)
    assert all(plan.day(x.first) >= today for x in plan.lines if x.task.key in plan.starts)
    off = {today + datetime.timedelta(days=i) for i in (1, 2)}
    begun = {plan.day(x.first) for x in plan.lines if x.task.key in plan.starts and not x.task.waits}
    assert not begun & off
    assert "ready by" in glance(path).due
    assert "past" not in glance(path).due
    assert main(["calendar", str(path), str(tmp_path / "plan.ics")]) == 0
    assert main(["plan", str(path), "--json"]) == 0
    assert plan.ready.isoformat() in capsys.readouterr().out


@pytest.mark.parametrize("day", DAYS)
def test_a_day_typed_without_its_year_is_the_next_such_day(day):
    today = datetime.datetime.fromisoformat(day).date()
    for ahead in range(0, 364, 7):
        meant = today + datetime.timedelta(days=ahead)
        assert date_typed(f"{meant.day}.{meant.month}.", today) == meant
