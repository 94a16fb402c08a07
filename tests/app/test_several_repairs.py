"""Several repairs of one assembly ticked together at Remedies, on a new job, and all that follows them."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.app.conftest import click, press
from tests.app.hand import Hand
from tests.independent.job import TypedJob
from tests.independent.screws import Screw, facts
from trebb.app.parts.remedy_rows import HEAD
from trebb.logbook.file.store import JobFile
from trebb.logbook.plan.task_gathering import gather

SLIDE = "cross_slide"


@pytest.fixture
def bench(make_window) -> Hand:
    """A worn cross slide's screw typed whole: float of 8 in a lash of 14 to 16, little of it wear."""
    hand = Hand(make_window)
    hand.state(SLIDE, pitch_mm="8 tpi", major_mm="3/4", divisions="125", reads="radius")
    for k, lash in enumerate((14, 14.5, 15.5, 15, 14), start=1):
        hand.read(SLIDE, "lash", f"station {k}", f"{lash} div", f"{lash} div")
    for k, clear in enumerate((6, 6.5, 7.5, 7, 6), start=1):
        hand.read(SLIDE, "push_pull", f"station {k}", clear, clear)
    hand.read(SLIDE, "end_float", "collar", 8, 8.1, 7.9)
    hand.frame.go_to("remedies")
    QApplication.processEvents()
    return hand


def click_box(stop, key: str) -> None:
    """A click in the box of a remedy's row."""
    i = [one.remedy.key for one in stop.rows.rows].index(key)
    at = QPoint(12, int(HEAD + (i + 0.5) * stop.rows._row()))
    QTest.mouseClick(stop.rows, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
    QApplication.processEvents()


def row_of(stop, key: str):
    return next(one for one in stop.rows.rows if one.remedy.key == key)


def tasks_of(hand) -> str:
    """Every task of the slide's screw, in words."""
    return " ".join(w.task.title for w in gather(hand.session.cases).work if SLIDE in w.task.key)


def test_ticked_repairs_show_what_they_leave_together_and_what_each_adds(bench):
    stop, case = bench.frame.stop, bench.session.case
    alone = row_of(stop, "made_nut").left.value
    click_box(stop, "thrust")
    assert stop.ticked == ["thrust"]
    assert row_of(stop, "made_nut").left.value < alone - 0.1  # with the float out
    assert row_of(stop, "thrust").left.value == pytest.approx(case.left_of(case.foretold("thrust")[1]).value)
    click_box(stop, "made_nut")
    both = row_of(stop, "thrust+made_nut")
    assert stop.current == both.remedy.key
    assert (both.remedy.hours, both.remedy.cost, both.remedy.wait_days) == (9, 40, 4)
    assert stop.name.text() == both.remedy.title
    assert "Leaves" in stop.left.text()


def test_what_cannot_stand_together_is_crossed_out_and_says_why(bench):
    stop, refused = bench.frame.stop, []
    bench.session.refused.connect(refused.append)
    click_box(stop, "made_nut")
    assert row_of(stop, "bought_nut").apart
    click_box(stop, "bought_nut")
    assert stop.ticked == ["made_nut"]
    assert "both settle one thing, the nut clearance" in refused[-1]
    click_box(stop, "pair_thrust")
    assert stop.ticked == ["made_nut"]
    assert "does what" in refused[-1]


def test_the_keys_tick_as_the_mouse_does(bench):
    stop = bench.frame.stop
    stop.look_at("thrust")
    bench.frame.setFocus()
    press(bench.frame, Qt.Key.Key_Space)
    assert stop.ticked == ["thrust"]
    stop.look_at("leave")
    press(bench.frame, Qt.Key.Key_Space)
    assert stop.ticked == ["thrust"]
    stop.look_at("split_nut")
    press(bench.frame, Qt.Key.Key_Space)
    assert stop.current == "thrust+split_nut"


def test_a_set_is_advised_where_it_is_the_least_that_is_enough(make_window, tmp_path):
    window = make_window(None)
    job_file = JobFile.create(tmp_path / "worn.trebb")
    for body in Screw(1).type_all(facts(TypedJob())).bodies:
        job_file.append([body])
    window.open_file(job_file)
    window.frame.session.choose(SLIDE)
    stop, case = window.frame.go_to("remedies"), window.frame.session.case
    advised = case.advised()
    assert len(advised.members) == 2
    assert "thrust" in advised.members
    assert advised.hours < 14
    assert advised.title in stop.first.text()
    assert stop.current == advised.key  # looked at first


def test_parts_work_money_and_stock_follow_a_set_and_go_with_what_is_taken_out(bench):
    stop = bench.frame.stop
    click_box(stop, "thrust")
    click_box(stop, "made_nut")
    click(bench.window, "choose_remedy")
    case = bench.session.cases.of(SLIDE)
    assert case.chosen.members == ("thrust", "made_nut")
    assert case.part_keys() == ("thrust_collar", "nut")
    tasks = tasks_of(bench)
    assert "nut" in tasks.lower()
    assert "thrust ring" in tasks.lower()
    assert gather(bench.session.cases).costs[SLIDE] == 40
    assert "nut run up until play goes" in " ".join(s.title for s in case.fit_order())
    for key in ("parts", "make", "fit_up", "plan", "prove"):
        bench.frame.go_to(key)
        QApplication.processEvents()
    stop = bench.frame.go_to("remedies")
    assert stop.ticked == ["thrust", "made_nut"]
    assert stop.choose_button.text() == "Chosen"
    click_box(stop, "thrust")
    assert stop.current == "made_nut"
    click(bench.window, "choose_remedy")
    case = bench.session.cases.of(SLIDE)
    assert case.part_keys() == ("nut",)
    assert "thrust ring" not in tasks_of(bench).lower()
    press(bench.frame, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert bench.session.cases.of(SLIDE).chosen.members == ("thrust", "made_nut")


def test_the_shell_takes_a_set_and_says_why_one_excludes_itself(bench, capsys):
    from trebb.app.cli import main

    path = str(bench.session.file.path)
    bench.window.close()
    assert main(["choose", path, SLIDE, "made_nut+thrust", "--why", "least"]) == 0
    assert "Take out the end float; new nut, cut to the old screw" in capsys.readouterr().out
    assert main(["remedies", path, "--part", SLIDE]) == 0
    assert "chosen: thrust+made_nut" in capsys.readouterr().out
    assert main(["choose", path, SLIDE, "made_nut,bought_nut"]) == 1
    assert "both settle one thing, the nut clearance" in capsys.readouterr().err
    assert main(["choose", path, SLIDE, "made_nut+glue"]) == 1
    assert "“glue”" in capsys.readouterr().err
