"""From the shell: suspects, plan, stock, what is stated of the job, its card and calendar."""

from __future__ import annotations

import json

import pytest

from tests.logbook.test_whole_job import parsed
from trebb.app.cli import main
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.log.entries import RemedyChosen


@pytest.fixture
def shell(tmp_path, capsys):
    """Runs a command on the depot's lathe with a remedy chosen; returns exit code, output and errors."""
    path = tmp_path / "lathe.trebb"
    with make_demo(path) as job_file:
        job_file.append([RemedyChosen(assembly="cross_slide", remedy="pair_thrust", reason="")])

    def run(command, *words):
        code = main([command, str(path), *words])
        out, err = capsys.readouterr()
        return code, json.loads(out) if "--json" in words and code == 0 else out, err

    return run


def test_symptoms_are_marked_and_suspects_ranked(shell):
    assert "Nothing is marked yet" in shell("suspects")[1]
    assert shell("matter", "symptom", "feed_stops", "there=yes", "grew=suddenly")[0] == 0
    _, told, _ = shell("suspects", "--json")
    assert told["suspects"][0]["cause"] == "shear_pin"
    look = told["looks"][0]["look"]
    assert shell("matter", "look", look, "found=no")[0] == 0
    _, after, _ = shell("suspects", "--json")
    assert after["suspects"][0]["chance"] != told["suspects"][0]["chance"]


def test_the_plan_is_printed_ticked_and_stated(shell):
    code, told, _ = shell("plan", "--json")
    assert code == 0
    assert told["ready"] <= told["ready_90"]
    assert "order.cross_slide" in told["order_today"]
    assert {t["key"] for t in told["tasks"]} >= {"make.cross_slide.screw", "prove.cross_slide"}
    assert shell("tick", "order.cross_slide")[1].startswith("Done")
    assert "order.cross_slide" not in shell("plan", "--json")[1]["order_today"]
    assert shell("tick", "order.cross_slide")[1].startswith("Taken back")
    assert shell("matter", "plan", "-", "ready_by=in 2 days", "mon=4")[0] == 0
    out = shell("plan")[1]
    assert "would do" in out
    assert "decides the end" in out


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("tick", "nothing"), "tasks are"),
        (("matter", "plan", "-", "mon=30"), "quarter of an hour"),
        (("matter", "task", "x", "comes=2020-01-01"), "that day has been"),
        (("matter", "nothing", "-", "a=b"), "known here are"),
        (("matter", "plan", "-", "soon"), "write a field"),
        (("matter", "plan", "-", "helper_days=caturday"), "weekdays"),
    ],
)
def test_what_will_not_do_is_one_sentence(shell, words, said):
    code, _, err = shell(words[0], *words[1:])
    assert code != 0
    assert said in err
    assert err.count("\n") == 1


def test_stock_card_and_calendar(shell, tmp_path):
    _, told, _ = shell("stock", "--json")
    assert {b["part"] for c in told["cuts"] for b in c["blanks"]} >= {"cross_slide.screw", "cross_slide.nut"}
    assert all(c["to_buy"] for c in told["cuts"])
    _, card, _ = shell("card", "--json")
    assert card["format"] == "trebb machine card"
    assert any(a["key"] == "cross_slide" and a["figures"] for a in card["assemblies"])
    out = tmp_path / "plan.ics"
    assert shell("calendar", str(out))[0] == 0
    assert len(parsed(out.read_bytes().decode())) > 3


def test_a_year_on_the_same_set_ups_are_read_again(shell):
    for phase, thou in (("--after", 1.5), ("--later", 3.5)):
        place = "station 1"
        values = [f"{thou} thou", f"{thou + 0.1} thou"]
        assert shell("read", "cross_slide", "push_pull", place, *values, phase)[0] == 0


def test_a_shear_pin_goes_from_what_is_stated_to_its_route(shell):
    assert shell("add", "shaft", "lead screw coupling", "--under", "lead_screw")[0] == 0
    said = ("drive=shear_pin", "hub_mm=44.45 mm", "torque_nm=25 N·m", "guards_nm=40 Nm")
    assert shell("state", "lead_screw_coupling", *said)[0] == 0
    assert "cannot be said yet" in shell("findings", "--part", "lead_screw_coupling")[1]
    assert "Shaft under the hub" in shell("part", "lead_screw_coupling", "shear_pin")[1]  # a usual one
    assert shell("state", "lead_screw_coupling", "dia_mm=22.225 mm")[0] == 0
    assert "No pin holds 18.4 ft·lb" in shell("findings", "--part", "lead_screw_coupling")[1]
    assert shell("state", "lead_screw_coupling", "guards_nm=66.4 ft-lb")[0] == 0
    assert shell("choose", "lead_screw_coupling", "shear_pin")[0] == 0
    code, told, _ = shell("part", "lead_screw_coupling", "shear_pin", "dia=3.2 mm")
    assert code == 0
    assert "too near the 66.4 ft·lb" in told
    _, told, _ = shell("part", "lead_screw_coupling", "shear_pin", "neck=2.7 mm")
    assert "NO" not in told
    code, _, error = shell("part", "lead_screw_coupling", "shear_pin", "neck=3.5 mm")
    assert code == 1
    assert "smaller than the pin" in error
    assert "Drive the pin" in shell("route", "lead_screw_coupling", "shear_pin")[1]


def test_a_square_thread_s_clearance_is_stated_and_its_depth_follows(shell):
    shell("state", "cross_slide", "form=square", "major_mm=1 in", "pitch_mm=4 tpi")

    def depth():
        told = shell("part", "cross_slide", "screw", "--json")[1]
        return next(row for row in told["rows"] if row["label"].startswith("Depth cut"))

    before = depth()
    assert shell("state", "cross_slide", "square_clearance_mm=20 thou")[0] == 0
    assert depth() != before
    code, _, error = shell("state", "cross_slide", "square_clearance_mm=2 in")
    assert code == 1
    assert "2 in" in error
