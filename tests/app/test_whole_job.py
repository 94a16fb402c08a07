"""The depot's lathe from “it growls and cuts tapered” to its card on the door, in the window."""

from __future__ import annotations

import datetime
import itertools
import json
import os

import pytest
from pypdf import PdfReader
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLabel, QLineEdit, QPushButton

from tests.app.conftest import keys, press, until
from tests.app.test_units_shown import wrong_units
from tests.demo import demo_at
from tests.logbook.test_own_trials import sound
from tests.logbook.test_whole_job import parsed
from trebb.app.cli import main
from trebb.app.look import painting
from trebb.app.papers.of_job import paper_of
from trebb.app.papers.paper import write_pdf
from trebb.app.parts.report import sheet_facts
from trebb.app.plan import benches
from trebb.app.plan.week_page import WeekPage
from trebb.app.shell.walk import cut_parts, fit_together, take_what_is_left
from trebb.app.window.join_page import JoinPage
from trebb.core import clock
from trebb.logbook.cases.quotes import quote_typed
from trebb.logbook.cases.strip_down import fixes_for_good, not_settled
from trebb.logbook.cases.verdict import proof_verdict
from trebb.logbook.file.photographs import PhotographError, read_photograph
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import FactStated, MatterStated, PartSet, RemedyChosen, StepDone
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.rack import read_rack
from trebb.logbook.plan.work import PLAN

NOW = datetime.datetime(2026, 11, 26, 18).astimezone()  # an evening, wherever it is run
CHOSEN = {"cross_slide": "pair_thrust", "dial_shaft": "new", "quill_bore": "bush", "brake_cone": "reline"}


@pytest.fixture
def frame(make_window, set_clock):
    painting.TROUBLES.clear()
    set_clock(NOW)
    made = make_window("lathe").frame
    yield made
    assert painting.TROUBLES == []


def choose_all(frame):
    frame.session.record(*[RemedyChosen(assembly=a, remedy=r, reason="") for a, r in CHOSEN.items()])


def named(frame, name, kind=QPushButton):
    """The one shown of a name; what was just made is shown once its layout settled."""
    for _ in range(50):
        QApplication.processEvents()
        found = [w for w in frame.findChildren(kind) if w.objectName() == name and w.isVisible()]
        if found:
            return found[0]
    raise AssertionError(f"nothing shown is called {name}")


def type_into(frame, name, text):
    edit = named(frame, name, QLineEdit)
    edit.setFocus()
    edit.selectAll()
    keys(edit, text)
    QTest.keyClick(edit, Qt.Key.Key_Return)
    QApplication.processEvents()
    return edit


def refusals(frame):
    return [
        w.text()
        for w in frame.findChildren(QLabel)
        if w.property("kind") == "refused" and w.isVisible() and w.text()
    ]


def day(stop):
    return stop.plan.ready


def test_from_what_the_owner_hears_to_suspects_and_the_look_that_tells_most(frame):
    stop = frame.go_to("intake")
    named(frame, "intake_symptoms").click()
    for key in ("growl", "taper"):
        named(frame, f"symptom_{key}").click()
    first = stop.suspects.found.ranking.suspects[0]
    assert first.assembly == "spindle"
    assert "Growls" in named(frame, "symptom_growl").text()
    named(frame, "symptom_growl").click()  # there, then not there, then not said
    assert stop.suspects.found.marks["growl"].there is False
    named(frame, "symptom_growl").click()
    named(frame, "symptom_growl").click()
    box = named(frame, "symptom_grew", QComboBox)
    box.setCurrentIndex(box.findData("slowly"))
    box.activated.emit(box.currentIndex())
    assert "fitter grades it" in stop.symptoms.slow.text()
    was = stop.suspects.found.ranking.advice[0].key
    named(frame, "look_yes").click()
    assert stop.suspects.found.looked[was] is True
    assert "By the last look" in stop.suspects.moved.text()
    assert stop.suspects.found.ranking.advice[0].key != was
    named(frame, "no_others").click()
    assert sum(not m.there for m in stop.suspects.found.marks.values()) > 20
    box = named(frame, "asked_wiring", QComboBox)
    box.setCurrentIndex(box.findData("yes"))
    box.activated.emit(box.currentIndex())
    assert "electrician" in stop.symptoms.caution.text.text()
    head = next(s for s in stop.suspects.found.ranking.suspects if s.key == "headstock@headstock")
    stop.suspects.look_at(head.key)
    assert "Proven on Headstock on bed by: two-collar cut" in stop.suspects.why.text()
    named(frame, "suspect_follow").click()
    assert (frame.session.assembly, frame.stop.bench.current.key) == ("headstock", "two_collar")
    frame.go_to("intake")
    stop.show_page("machine")
    assert named(frame, "grade_good").isVisible()


def test_a_feed_that_comes_and_goes_leads_to_a_pin_that_is_added_read_and_made(
    make_window, set_clock, capsys
):
    set_clock(NOW)
    frame = make_window("new").frame
    stop = frame.go_to("intake")
    stop.show_page("symptoms")
    named(frame, "symptom_feed_stops").click()
    named(frame, "suspect_follow").click()
    session = frame.session
    assert session.assembly == "shear_pin_lead_screw"
    assert frame.stop.bench.current.key == "shaft_push"
    assert session.case.subject.drive == "shear_pin"
    assert session.case.assembly.under == "lead_screw"
    press(frame, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)  # piece and fact are one gesture
    assert not session.job.machine.has("shear_pin_lead_screw")
    assert main(["follow", str(session.path), "shear_pin", "--json"]) == 1  # the window has the job
    frame.go_to("intake")
    stop.suspects.bars.setFocus()
    QTest.keyClick(stop.suspects.bars, Qt.Key.Key_Return)
    session.record(RemedyChosen(assembly="shear_pin_lead_screw", remedy="shear_pin", reason=""))
    plan = frame.go_to("plan").plan
    keys_there = {x.task.key for x in plan.lines}
    assert {"make.shear_pin_lead_screw.shear_pin", "do.shear_pin_lead_screw"} <= keys_there
    assert not any(k.startswith("strip.") for k in keys_there)  # in place: nothing is taken down for it


def test_what_came_back_wrong_is_sent_back_from_the_plan_and_the_firm_has_its_page(
    make_window, set_clock, tmp_path
):
    set_clock(NOW)
    frame = make_window("mill").frame
    session = frame.session
    take_what_is_left(session.cases.of("spindle"), "before", session.record)
    session.record(RemedyChosen(assembly="spindle", remedy="grind", reason=""))
    session.record(quote_typed("spindle", "grind", "480", "21", "Grinder"))
    session.choose("spindle")
    paper = paper_of(session.cases, session.case, "outside", "", session.system)
    assert write_pdf(paper, tmp_path / "firm.pdf") == 1
    words = " ".join(PdfReader(tmp_path / "firm.pdf").pages[0].extract_text().split())
    assert "Work wanted" in words
    assert "goes back" in words or "sends it back" in words
    stop = frame.go_to("plan")
    stop.look_at("back.spindle")
    type_into(frame, "outside_why", "taper ground first")
    named(frame, "outside_back").click()
    assert "taper ground first" in next(
        x.task.title for x in stop.plan.lines if x.task.key == "send.spindle.2"
    )
    stop.look_at("fit.spindle")
    assert not stop.work_side._outside.isVisible()
    for fact in ("front_bore_mm", "rear_bore_mm"):
        session.record(FactStated("spindle", fact, 35.0))
    stop.look_at("back.spindle.2")
    assert "Type what it measures" in stop.work_side._outside.said.text()
    type_into(frame, "returned_front_journal", "35.006 mm")
    assert "1 more to measure" in stop.work_side._outside.said.text()
    type_into(frame, "returned_rear_journal", "34.990 mm")  # outside: it goes back by itself
    assert any(x.task.key == "send.spindle.3" for x in stop.plan.lines)
    stop.look_at("back.spindle.3")
    assert "Sent back 2 times" in stop.work_side._outside.said.text()
    for key in ("front", "rear"):
        type_into(frame, f"returned_{key}_journal", "35.006 mm")
    assert next(x for x in stop.plan.lines if x.task.key == "check.spindle").is_done


def test_trials_are_marked_and_say_what_they_clear_and_leave(make_window, capsys):
    frame = make_window("new").frame
    stop = frame.go_to("intake")
    named(frame, "intake_trials").click()
    named(frame, "trial_bar_swept_bad").click()
    type_into(frame, "trial_note", "bar A")
    named(frame, "trial_two_lands_good").click()
    said = stop.trials.said["line"].text()
    assert "Left: the test bar" in said
    assert "headstock’s line" in said.split("Left:")[0]
    assert named(frame, "trial_two_lands_good").text().startswith("✓")
    assert not stop.trials.said["size"].isVisible()
    named(frame, "trial_two_lands_good").click()  # taken back
    assert "Cleared" not in stop.trials.said["line"].text()
    assert main(["trials", str(frame.session.path), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)["trials"][0]
    assert told["came"] == {"bar_swept": "bad"}
    assert frame.session.job.matter("trial", "bar_swept")["note"] == "bar A"


def test_anything_else_that_was_tried_is_a_line_and_a_sound_is_kept(make_window, tmp_path, capsys):
    frame = make_window("new").frame
    stop = frame.go_to("intake")
    named(frame, "intake_trials").click()
    type_into(frame, "own_trial_line", "in the collet, no centre, two lands")
    for part in ("collet", "bed"):
        named(frame, f"hangs_{part}").click()
    named(frame, "trial_own1_good").click()
    assert "the bed, the collet" in stop.trials.said["line"].text()
    assert stop.trials.here.text() == "in the collet, no centre, two lands"
    told = ["trials", str(frame.session.path), "--tried", "dry", "--about", "line", "--came", "bad"]
    assert main([*told, "--hangs-on", "bar"]) == 1  # the window has the job
    assert "open" in capsys.readouterr().err
    named(frame, "trial_gone").click()
    assert "own1" not in {key for key, _ in stop.trials.chips}
    stop.show_page("symptoms")
    sounds = stop.symptoms.recordings
    sounds.add(sound(tmp_path / "growl.wav"))
    assert [r.caption for r in frame.session.job.recordings()] == ["before"]
    (kept,) = frame.session.job.recordings()
    sounds.write(kept, tmp_path / "out.wav")
    assert (tmp_path / "out.wav").read_bytes() == (tmp_path / "growl.wav").read_bytes()
    sounds.add(tmp_path / "none.wav")
    assert "none.wav" in sounds.said.text()


def test_marks_that_must_meet_stand_in_the_way_of_the_pin_and_are_read_again(frame):
    session = frame.session
    session.record(RemedyChosen(assembly="dial_shaft", remedy="bond", reason=""))
    session.choose("dial_shaft")
    strip = frame.go_to("strip_down")
    type_into(frame, "must_meet", "nought of the dial at its index, half nut in")
    assert any("must meet again" in w.lower() for w in not_settled(session.job, "dial_shaft", "shaft"))
    type_into(frame, "take_1", "half a line late")
    assert strip.first_box.count() > 0
    make = frame.go_to("make")
    pin = next(o.key for o in session.case.route("straight_pin") if fixes_for_good(o.key))
    make.show_part("straight_pin")
    make.show_step(pin)
    make.toggle_done()
    name = session.case.part_name("straight_pin")
    assert pin not in session.job.steps_done(name)
    assert "First see that they meet" in make.refusal.text()
    fit = frame.go_to("fit_up")
    assert fit.meetings.isVisible()
    named(frame, "meets_1").click()
    make = frame.go_to("make")
    make.show_step(pin)
    make.toggle_done()
    assert pin in session.job.steps_done(name)
    frame.go_to("fit_up")
    type_into(frame, "again_1", "meets")
    assert "half a line late, again meets" in sheet_facts(session.case, session.system)["meet"][0]
    type_into(frame, "allowed_1", "some")
    assert "a figure with its unit" in fit.meetings.refusal
    type_into(frame, "allowed_1", "0.5 div")
    assert sheet_facts(session.case, session.system)["meet"][0].endswith("within it")
    type_into(frame, "again_1", "2 div late")
    assert proof_verdict(session.case, session.system)[:2] == ("beyond", "The marks do not meet.")
    type_into(frame, "again_1", "half a division")
    assert "All marks meet" in proof_verdict(session.case, session.system)[2]


def test_all_machines_stand_in_one_list_of_evenings_and_open_from_it(
    make_window, set_clock, tmp_path, capsys
):
    set_clock(NOW)
    window = make_window(None)
    window.start.show_week()
    page = window.start.findChild(WeekPage)
    assert page.banner.head.text() == "No job is open."
    page.close()
    for machine, (assembly, remedy) in {
        "lathe": ("dial_shaft", "new"),
        "mill": ("spindle", "bearings"),
    }.items():
        path = tmp_path / f"{machine}.trebb"
        with demo_at(path, machine) as file:
            file.append([RemedyChosen(assembly=assembly, remedy=remedy, reason="")])
        window.open_path(path)
        window.leave_job()
    QApplication.processEvents()
    press(window.start, Qt.Key.Key_J, Qt.KeyboardModifier.ControlModifier)
    page = next(p for p in window.start.findChildren(WeekPage) if p.isVisible())
    assert {m.path.stem for m in page.week.machines} == {"lathe", "mill"}
    left = sum(len(m.undecided) for m in page.week.machines)
    assert f"{left} not decided" in page.banner.head.text()
    assert "without them ready" in page.banner.head.text()
    mill = next(x for x in page.rows.lines if page.week.machine_of(x.task.key).path.stem == "mill")
    strip = next(x for x in page.rows.lines if x.work.kind == "strip")
    page._look_at(strip.task.key)
    QTest.keyClick(page.rows, Qt.Key.Key_Space)
    assert "not ticked" in page.banner.head.text()  # what must be taken before it comes apart is not
    order = next(
        x for x in page.rows.lines if x.work.kind == "order" and x.task.key.startswith(mill.task.key[:3])
    )
    page._look_at(order.task.key)
    QTest.keyClick(page.rows, Qt.Key.Key_Space)
    assert next(x for x in page.rows.lines if x.task.key == order.task.key).is_done
    with JobFile.open(tmp_path / "mill.trebb") as file:
        assert order.task.key[3:] in Job(file.entries()).steps_done(PLAN)
        page.tick(order.task.key)  # another has it: said, and nothing is ticked
        assert "open in another" in page.banner.text.text()
    page._look_at(mill.task.key)
    QTest.keyClick(page.rows, Qt.Key.Key_Return)
    assert window.frame.session.path.stem == "mill"
    window.leave_job()
    assert main(["week", str(tmp_path / "lathe.trebb"), str(tmp_path / "mill.trebb"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert len(told["machines"]) == 2
    assert main(["week", str(tmp_path / "gone.trebb")]) == 1
    assert "gone.trebb" in capsys.readouterr().err


def test_marks_at_a_spacing_are_matched_with_what_turns_on_this_machine(make_window):
    frame = make_window("new").frame
    stop = frame.go_to("intake")
    stop.show_page("symptoms")
    named(frame, "symptom_marks_pitch").click()
    assert "thread" not in stop.symptoms.slow.text()
    type_into(frame, "symptom_spacing", "1/8 in")
    assert "no pitch of this machine is stated yet" in stop.symptoms.slow.text()
    named(frame, "pitch_of_lead_screw").click()
    assert (frame.stop_key, frame.session.assembly) == ("parts", "lead_screw")
    assert frame.window().focusWidget().objectName() == "pitch_mm"
    stop = frame.go_to("intake")
    frame.session.record(FactStated("cross_slide", "pitch_mm", 3.175))
    assert "is a turn of Cross-slide screw" in stop.symptoms.slow.text()
    assert not [b for b in frame.findChildren(QPushButton, "pitch_of_cross_slide") if b.isVisible()]
    ranking = stop.suspects.found.ranking
    assert ranking.place("screw_bent@cross_slide") < ranking.place("screw_bent@compound")
    type_into(frame, "symptom_spacing", "2 in")
    assert "is no turn of what is stated" in stop.symptoms.slow.text()
    type_into(frame, "symptom_spacing", "soon")
    assert any("length" in r or "number" in r for r in refusals(frame))


def test_the_plan_stands_at_once_and_moves_with_every_tick_and_date(frame, set_clock):
    stop = frame.go_to("plan")
    assert "Choose a remedy" in stop.banner.text.text() or "Read" in stop.rows.lines[0].task.title
    choose_all(frame)
    # What nobody decided stands before the day.
    assert stop.banner.head.text().startswith("2 not decided; without them ready")
    assert "Not decided: Headstock on bed, Lead screw & half nuts" in stop.banner.text.text()
    assert "nine in ten" in stop.banner.text.text()
    ready = day(stop)
    orders = [x.task.key for x in stop.plan.to_order]
    assert set(orders) >= {"order.cross_slide", "order.brake_cone"}
    # Tonight's hours hold what is listed for tonight, each line opens its stop.
    assert sum(h for _, h in stop.plan.tonight) <= stop.plan.evenings.hours[0] + 1e-6
    stop.look_at("make.dial_shaft.stepped_shaft")
    named(frame, "task_open").click()
    assert frame.index == 5
    assert frame.session.assembly == "dial_shaft"
    press(frame, Qt.Key.Key_9, Qt.KeyboardModifier.ControlModifier)
    assert frame.stop is stop
    # A tick by the keyboard.
    stop.look_at("order.brake_cone")
    stop.rows.setFocus()
    QTest.keyClick(stop.rows, Qt.Key.Key_Space)
    assert "order.brake_cone" in frame.session.job.steps_done(PLAN)
    assert "order.brake_cone" not in [x.task.key for x in stop.plan.to_order]
    press(frame, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert "order.brake_cone" in [x.task.key for x in stop.plan.to_order]
    # The bearing is late: promised for a day, and the plan is another.
    stop.look_at("comes.brake_cone")
    type_into(frame, "task_comes", (NOW + datetime.timedelta(days=40)).strftime("%Y-%m-%d"))
    assert day(stop) > ready + datetime.timedelta(days=15)
    assert "It comes: Brake cone" in stop.foot.text()
    type_into(frame, "task_comes", "2020-01-01")
    assert any("that day has been" in r for r in refusals(frame))
    frame._escape()
    press(frame, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert day(stop) == ready
    # An evening is lost.
    set_clock(NOW + datetime.timedelta(days=2))
    stop.refresh()
    assert day(stop) > ready
    assert stop.plan.lost_tonight >= 0


def test_bad_dates_hours_and_circles_are_refused_where_they_are_typed(frame):
    choose_all(frame)
    stop = frame.go_to("plan")
    named(frame, "plan_calendar").click()
    type_into(frame, "plan_mon", "30")
    assert any("a quarter of an hour to 16" in r for r in refusals(frame))
    frame._escape()
    type_into(frame, "plan_mon", "4")
    assert stop.plan.evenings.hours[4] == 4.0
    type_into(frame, "plan_off", "30 Nov")
    assert stop.plan.evenings.hours[4] == 0.0
    type_into(frame, "plan_ready_by", "in 3 days")
    assert stop.banner.head.text().endswith(f"not by {stop.plan.ready_by:%a} {stop.plan.ready_by.day} Nov.")
    assert "What would do" in stop.banner.text.text()
    named(frame, "plan_work").click()
    type_into(frame, "new_task", "paint the covers, 2 h")
    type_into(frame, "new_task", "paint dries, 3 d")
    assert [x.task.hours for x in stop.plan.lines if x.work.is_own] in ([2.0, 72.0], [72.0, 2.0])
    stop.work_side.make_wait_for("own2", "own1")
    with pytest.raises(Exception, match="wait for each other"):
        stop.work_side.make_wait_for("own1", "own2")
    type_into(frame, "new_task", "nonsense, 3 moons")
    assert any("hours or days" in r for r in refusals(frame))


def test_a_task_dragged_to_another_evening_is_held_until_then(frame):
    choose_all(frame)
    stop = frame.go_to("plan")
    rows, key = stop.rows, "make.dial_shaft.stepped_shaft"
    line = next(x for x in rows.lines if x.task.key == key)
    begin = rows.area_of(key).center()
    day, area = next((b.day, a) for b, a in rows._heads if b.day is not None and b.day > line.last + 2)
    QTest.mousePress(rows, Qt.MouseButton.LeftButton, pos=begin.toPoint())
    assert stop.current == key
    QTest.mouseRelease(rows, Qt.MouseButton.LeftButton, pos=area.center().toPoint())
    line = next(x for x in stop.plan.lines if x.task.key == key)
    assert line.task.not_before == day
    assert line.first >= day
    assert named(frame, "task_pinned", QLineEdit).text()


def test_evenings_are_benches_with_what_lies_on_them_and_the_machine_below(frame):
    choose_all(frame)
    stop = frame.go_to("plan")
    plan = stop.plan
    rows = stop.rows
    heads = {b.day: (b, a) for b, a in rows._heads if b.day is not None and not b.free}
    assert heads[0][1].height() > heads[max(heads)][1].height()  # tonight is large
    planks = {day: benches.plank_of(area, plan, day) for day, (_, area) in heads.items()}
    there = plan.evenings.hours
    for day, plank in planks.items():  # each as long as its hours
        assert plank.width() * there[0] == pytest.approx(planks[0].width() * there[day])
        blocks = [block for _, block in benches.blocks_on(plan, heads[day][0], plank)]
        assert all(plank.left() <= b.left() and b.right() <= plank.right() + 3 for b in blocks)
        assert all(one.right() <= other.left() + 3 for one, other in itertools.pairwise(blocks))
    assert all(any(x is line for line in rows.lines) for x in plan.lines)
    comes = next(x for x in plan.lines if x.task.waits)
    assert comes in heads[comes.last][0].lines  # what is ordered comes in on its day
    day = next(d for d in heads if heads[d][0].lies)
    line, block = next(benches.blocks_on(plan, heads[day][0], planks[day]))
    QTest.mouseClick(rows, Qt.MouseButton.LeftButton, pos=block.center().toPoint())
    assert stop.current == line.task.key
    QApplication.processEvents()
    spoken = " ".join(said.text for said in rows.said)
    assert "in pieces" in spoken
    assert "whole" in spoken


def test_the_solver_offers_an_order_and_nothing_moves_before_it_is_taken(frame, qtbot, capsys, set_clock):
    for key in ("dial_shaft", "cross_slide", "brake_cone"):
        take_what_is_left(frame.session.cases.of(key), "before", frame.session.record)
    choose_all(frame)
    set_clock(datetime.datetime(2026, 12, 3, 17).astimezone())
    stop = frame.go_to("plan")
    by_rule = [(x.task.key, x.first) for x in stop.plan.lines]
    days = stop.plan.days
    qtbot.waitUntil(lambda: stop.solver._done_of == stop.plan.of, timeout=240_000)
    assert [(x.task.key, x.first) for x in stop.plan.lines] == by_rule
    offered = stop._offer
    assert offered is not None
    assert offered[1].days <= days
    assert "A better order: ready" in stop.solver_words.text()
    named(frame, "take_order").click()
    assert stop.plan.days == offered[1].days
    assert [x.task.key for x in stop.plan.lines] == [x.task.key for x in offered[1].lines]
    assert frame.session.job.matter("plan")["order"].split() == list(offered[0].order)
    assert not stop.take_order.isVisible()
    # The shell, which reads the file alone, has the same plan.
    assert main(["plan", str(frame.session.path), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["ready"] == stop.plan.ready.isoformat()
    assert [t["key"] for t in told["tasks"]] == [x.task.key for x in stop.plan.lines]


def test_a_timer_adds_its_hours_and_money_stands_by_assembly(frame, set_clock):
    choose_all(frame)
    stop = frame.go_to("plan")
    stop.look_at("make.dial_shaft.stepped_shaft")
    named(frame, "task_timer").click()
    assert named(frame, "task_timer").text() == "Stop timer"
    set_clock(NOW + datetime.timedelta(hours=1.5))
    stop.refresh()
    named(frame, "task_timer").click()
    assert frame.session.job.matter("task", stop.current)["spent"] == pytest.approx(1.5)
    type_into(frame, "task_paid", "12.50")
    named(frame, "plan_money").click()
    page = stop._made["money"]
    row = next(r for r in page.table.rows() if r[0] == "Thread-dial shaft")
    assert row[2] == "1.5"
    assert "12" in row[4]
    assert "planned" in page.banner.head.text()
    frame.session.job.card_number("worth", 0.0)


def test_strip_down_asks_first_and_fit_up_is_built_from_it(frame, tmp_path):
    choose_all(frame)
    session = frame.session
    session.choose("cross_slide")
    press(frame, Qt.Key.Key_0, Qt.KeyboardModifier.ControlModifier)
    stop = frame.stop
    assert "Bracket and casting" in stop.marks.text()
    type_into(frame, "came_off", "chip guard, 2 × M5")
    assert "First take" in stop.refusal.text()
    plan = frame.go_to("plan")
    plan.look_at("strip.cross_slide")
    plan.work_side.toggle()
    assert "First take" in plan.work_side.refusal.text()
    assert "strip.cross_slide" not in session.job.steps_done(PLAN)
    frame.go_to("strip_down")
    type_into(frame, "take_nut", "12.5 mm from the front")
    type_into(frame, "take_turns", "a quarter turn")
    named(frame, "take_shim", QLineEdit).setText("none there")
    named(frame, "waive_shim").click()
    for text in ("chip guard, 2 × M5", "handwheel, taper pin", "friction spring"):
        type_into(frame, "came_off", text)
    assert [o.what for o in stop.rows._rows] == ["chip guard", "handwheel", "friction spring"]
    type_into(frame, "strip_way", "hook to the front")
    type_into(frame, "strip_shim", "8 thou")
    picture = tmp_path / "seen.png"
    image = QImage(40, 30, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.gray)
    image.save(str(picture))
    stop.pictures.add_photo(picture)
    assert stop.rows._rows[-1].has_photo
    assert stop.pictures.shown.isVisible()
    QGuiApplication.clipboard().setImage(image)
    named(frame, "strip_paste").click()
    assert len(session.job.photos("cross_slide")) >= 2
    stop.rows.moved.emit(stop.rows._rows[-1].key, -1)
    assert [o.what for o in stop.rows._rows] == ["chip guard", "friction spring", "handwheel"]
    fit = frame.go_to("fit_up")
    titles = [line.title for line in fit.list._lines]
    assert (
        titles.index("Handwheel back on")
        < titles.index("Friction spring back on")
        < titles.index("Chip guard back on")
    )
    spring = next(line.key for line in fit.list._lines if line.title == "Friction spring back on")
    fit.show_step(spring)
    assert "Hook to the front" in fit.remind.text()
    assert "8 thou" in fit.remind.text()
    plan = frame.go_to("plan")
    plan.look_at("strip.cross_slide")
    plan.work_side.toggle()
    assert "strip.cross_slide" in session.job.steps_done(PLAN)


def test_what_came_off_backwards_is_said_and_a_learned_order_stays(frame):
    frame.session.choose("cross_slide")
    for key in ("nut", "turns", "shim"):
        frame.session.record(MatterStated("strip", f"first.cross_slide.{key}", "waived", "test"))
    stop = frame.go_to("strip_down")
    stop._add("Screw", "", "screw_in")
    stop._add("Dial", "", "dial")
    assert "came off before" in stop.doubt.text()
    fit = frame.go_to("fit_up")
    assert "disagree" in fit.banner.head.text()
    frame.go_to("strip_down")
    stop.before.setCurrentIndex(stop.before.findData("dial"))
    stop.then.setCurrentIndex(stop.then.findData("screw_in"))
    named(frame, "learn_rule").click()
    assert "it cannot come first" in stop.refusal.text()
    stop.before.setCurrentIndex(stop.before.findData("nut_in"))
    stop.then.setCurrentIndex(stop.then.findData("gib"))
    named(frame, "learn_rule").click()
    steps = {s.key: s for s in frame.session.case.fit_order()}
    assert "nut_in" in steps["gib"].after
    # An assembly without set-ups goes back as it came off, too.
    frame.session.choose("gearbox")
    type_into(frame, "came_off", "cover, 6 × M6")
    fit = frame.go_to("fit_up")
    assert "Cover back on" in [line.title for line in fit.list._lines]


def test_a_camera_folder_is_watched_and_said_to_be_gone(frame, tmp_path):
    frame.session.choose("gearbox")
    stop = frame.go_to("strip_down")
    type_into(frame, "came_off", "cover, 6 × M6")
    folder = tmp_path / "camera"
    stop.pictures.watch(folder)
    assert "cannot be watched" in stop.pictures.said.text()
    folder.mkdir()
    stop.pictures.watch(folder)
    stop.pictures._camera._timer.setInterval(10)
    said: list[str] = []
    stop.pictures._camera.said.connect(said.append)
    image = QImage(20, 20, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.black)
    image.save(str(folder / "one.png"))
    (folder / "half.png").write_bytes(b"\x89PNG\r\n")
    os.mkfifo(folder / "pipe.png")
    (folder / "zero.jpg").symlink_to("/dev/zero")
    (folder / "nothing.jpg").symlink_to("/nowhere")
    assert until(lambda: [p.file_name for p in frame.session.job.photos("gearbox")] == ["one.png"])
    assert until(lambda: any("half.png" in sentence for sentence in said))
    assert len(frame.session.job.photos("gearbox")) == 1
    for name in os.listdir(folder):
        (folder / name).unlink()
    folder.rmdir()
    assert until(lambda: "is gone" in stop.pictures.said.text())
    assert len(frame.session.job.photos("gearbox")) == 1


def test_what_came_in_boxes_is_ticked_by_a_list_and_fit_up_follows(frame, tmp_path):
    frame.session.choose("apron")
    stop = frame.go_to("strip_down")
    stop.arrived.setCurrentIndex(stop.arrived.findData("apron"))
    stop.arrived.activated.emit(1)
    assert stop.title.text() == "Apron, in boxes"
    for key in (Qt.Key.Key_Space, Qt.Key.Key_Delete, Qt.Key.Key_Space):
        QTest.keyClick(stop.boxes.rows, key)
    assert stop.boxes.at == "handwheel"
    boxed = frame.session.case.boxed
    assert [t.key for t in boxed.those("yes")] == ["case", "pinion"]
    assert [t.key for t in boxed.lacking] == ["pump"]
    assert "must wait" in stop.boxes.state.text()
    type_into(frame, "box_measured", ".6250 and .6262")
    named(frame, "box_hurt").click()
    assert frame.session.case.boxed.at("handwheel").measured == ".6250 and .6262"
    stop.boxes.look_at("handwheel")
    named(frame, "box_hurt").click()  # the same again takes it back
    assert not frame.session.case.boxed.at("handwheel").found
    image = QImage(20, 20, QImage.Format.Format_RGB32)
    image.fill(Qt.GlobalColor.black)
    QGuiApplication.clipboard().setImage(image)
    named(frame, "strip_paste").click()
    assert stop.pictures.shown.isVisible()
    fit = frame.go_to("fit_up")
    titles = [line.title for line in fit.list._lines]
    assert "Plunger, spring and ball into the casting: missing" in titles
    for key in ("marks", "clean", "box_case", "box_pump"):
        fit.show_step(key)
        fit.toggle_done()
    assert "box_pump" not in frame.session.job.steps_done(frame.session.case.fit_plan)
    assert "missing. Once it is here" in fit.banner.head.text()
    frame.go_to("strip_down")
    stop.arrived.setCurrentIndex(0)
    stop.arrived.activated.emit(0)
    assert stop.title.text() == "Taking Apron down"
    assert frame.session.case.boxed is None


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "TIFF"])
def test_a_picture_that_is_still_being_copied_is_waited_for(frame, tmp_path, kind):
    frame.session.choose("gearbox")
    stop = frame.go_to("strip_down")
    type_into(frame, "came_off", "cover, 6 × M6")
    folder = tmp_path / "camera"
    folder.mkdir()
    stop.pictures.watch(folder)
    stop.pictures._camera._timer.setInterval(10)
    data = photographed(kind)
    with (folder / f"cover.{kind.lower()[:4]}").open("wb") as copied:
        copied.write(data[: len(data) // 3])
        copied.flush()
        assert until(lambda: "waited for" in stop.pictures.said.text())
        assert not frame.session.job.photos("gearbox")
        copied.write(data[len(data) // 3 :])
    assert until(lambda: frame.session.job.photos("gearbox"))
    (photo,) = frame.session.job.photos("gearbox")
    assert frame.session.file.photograph(photo.sha256)[1] == data
    assert "Kept" in stop.pictures.said.text()


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "TIFF"])
def test_a_picture_cut_off_anywhere_is_refused_wherever_it_is_given(tmp_path, kind):
    data = photographed(kind)
    for part in range(1, 20):
        cut = tmp_path / "cut.jpg"
        cut.write_bytes(data[: len(data) * part // 20])
        with pytest.raises(PhotographError):
            read_photograph(cut)
    cut.write_bytes(data)
    assert read_photograph(cut)[2] == data


def photographed(kind: str) -> bytes:
    """A picture as a camera makes one: nothing in it is plain."""
    import io
    import random

    from PIL import Image

    noise = random.Random(4).randbytes(480 * 320 * 3)
    out = io.BytesIO()
    Image.frombytes("RGB", (480, 320), noise).save(out, kind)
    return out.getvalue()


def test_stock_is_laid_in_cut_and_what_is_missing_holds_its_task(frame):
    choose_all(frame)
    stop = frame.go_to("plan")
    named(frame, "plan_stock").click()
    page = stop._made["stock"]
    bought = sum(c.to_buy for c in page.plan_of_cuts.cuts)
    box = named(frame, "bar_metal", QComboBox)
    box.setCurrentIndex(box.findData("free_cutting"))
    named(frame, "bar_size", QLineEdit).setText("5/8 in")
    type_into(frame, "bar_long", "2 x 12 in")
    assert len(read_rack().bars) == 2
    assert sum(c.to_buy for c in page.plan_of_cuts.cuts) == bought - 1
    index = next(i for i, c in enumerate(page.plan_of_cuts.cuts) if c.bars)
    named(frame, f"cut_{index}").click()
    lengths = sorted(b.length_mm for b in read_rack().bars)
    assert lengths[0] == lengths[1] < 304.8 - 150  # the shaft's blank out of one, its spare out of the other
    for text in ("0", "x", "60 x 3"):
        type_into(frame, "bar_long", text)
        assert refusals(frame)
    need = next(n for n in page.bill.tools if "die" in n.words)
    page.mark_tool(need.words, need.there)
    page.mark_tool(need.words, "yes")
    assert "missing" in page.banner.head.text()
    assert "make.dial_shaft.stepped_shaft" not in stop.plan.starts
    page.mark_tool(need.words, "no")
    assert "make.dial_shaft.stepped_shaft" in stop.plan.starts


def test_oil_is_planned_tried_and_hung_on_the_door(frame, tmp_path):
    stop = frame.go_to("plan")
    named(frame, "plan_oil").click()
    page = stop._made["oil"]
    page.write_to(tmp_path / "oil.pdf")
    assert "add the places" in page.said.text()
    named(frame, "usual_oil").click()
    type_into(frame, "new_oil", "cup over the feed shaft")
    box = named(frame, "oil_state", QComboBox)
    box.setCurrentIndex(box.findData("blocked"))
    box.activated.emit(box.currentIndex())
    assert "Blocked" in page.banner.head.text()
    page.write_to(tmp_path / "oil.pdf")
    assert "cup over the feed shaft" in text_of(tmp_path / "oil.pdf")


def text_of(path):
    from pypdf import PdfReader

    return " ".join(" ".join(p.extract_text() for p in PdfReader(path).pages).split())


def test_from_the_plan_to_the_card_on_the_door(frame, tmp_path, set_clock):
    session = frame.session
    session.record(
        MatterStated("symptom", "growl", "there", "yes"), MatterStated("symptom", "growl", "after", "no")
    )
    choose_all(frame)
    for key in CHOSEN:
        take_what_is_left(session.cases.of(key), "before", session.record)
    stop = frame.go_to("plan")
    todo = [x.task.key for x in stop.plan.lines if not x.is_done]
    for key in CHOSEN:
        case = session.cases.of(key)
        cut_parts(case, session.record)
        fit_together(case, session.record)
        take_what_is_left(case, "after", session.record)
    left = [x.task.key for x in stop.plan.lines if not x.is_done]
    assert set(left) < set(todo)
    assert not [k for k in left if k.startswith(("make.", "fit."))]
    session.record(*[StepDone(PLAN, k) for k in left])
    assert "All of it is done" in stop.banner.head.text()
    named(frame, "plan_after").click()
    page = stop._made["after"]
    named(frame, "usual_again").click()
    type_into(frame, "new_again", "belt tension, in 2 months")
    type_into(frame, "new_again", "belt tension, in 2 moons")
    assert "write a date" in page.said.text()
    for suffix in ("card.pdf", "card.json", "plan.ics"):
        page.write_to(tmp_path / suffix, suffix)
        assert page.said.text().startswith("Written"), page.said.text()
    words = text_of(tmp_path / "card.pdf")
    card = json.loads((tmp_path / "card.json").read_text())
    slide = next(a for a in card["assemblies"] if a["key"] == "cross_slide")
    from trebb.core.units import show_uncertain

    reading = slide["readings"][0]
    shown = show_uncertain(reading["before_mm"], reading["before_half_mm"], session.system)
    assert shown in words  # digits can be found
    assert "Growls at speed: gone" in words
    assert "belt tension" in words
    events = parsed((tmp_path / "plan.ics").read_bytes().decode())
    assert any("belt tension" in e["SUMMARY"] for e in events)
    page.write_to(tmp_path / "week.pdf", "week.pdf")
    assert "week without work" in page.said.text()
    set_clock(NOW + datetime.timedelta(days=40))
    stop.refresh()
    assert page.banner.head.text().startswith("Due")
    named(frame, "looked").click()
    assert any(a.get("done") for a in card_again(session))


def card_again(session):
    from trebb.logbook.plan.machine_card import card_of

    return card_of(session.cases, clock.now())["again"]


def test_the_plan_is_read_from_two_metres(frame):
    from trebb.app.plan.from_afar import PlanFromAfar

    choose_all(frame)
    stop = frame.go_to("plan")
    press(frame, Qt.Key.Key_F11)
    (view,) = frame.findChildren(PlanFromAfar)
    assert view.isVisible()
    assert view.lines()[0] == stop.plan.tonight[0][0].task.title
    QApplication.processEvents()
    QTest.keyClick(view, Qt.Key.Key_Escape)
    QApplication.processEvents()
    assert not view.isVisible()


def test_a_year_on_the_proof_says_what_it_wore(frame):
    session = frame.session
    session.choose("cross_slide")
    take_what_is_left(session.case, "before", session.record)
    session.record(RemedyChosen(assembly="cross_slide", remedy="pair_thrust", reason=""))
    cut_parts(session.case, session.record)
    fit_together(session.case, session.record)
    take_what_is_left(session.case, "after", session.record)
    stop = frame.go_to("prove")
    named(frame, "phase_later").click()
    assert "a month or a year on" in stop.banner.head.text()
    stop.bench.choose_set_up("lash")
    type_into(frame, stop.pod.entry.objectName(), "2.5")
    assert session.job.readings("cross_slide", "lash", "later")
    take_what_is_left(session.case, "later", session.record)
    assert "still inside" in stop.banner.head.text()
    assert (
        "no difference larger than the measuring" in stop.banner.text.text()
        or "soon" in stop.banner.text.text()
    )
    named(frame, "phase_after").click()
    assert "Every place is taken again" in stop.banner.text.text()


def test_the_whole_job_is_said_in_the_shop_s_own_units(frame):
    from trebb.core.units import UnitSystem

    choose_all(frame)
    session = frame.session
    session.record(
        MatterStated("strip", "off1", "assembly", "cross_slide"),
        MatterStated("strip", "off1", "what", "Collar"),
    )
    session.record(
        MatterStated("strip", "off1", "shim", 0.2), MatterStated("symptom", "growl", "there", "yes")
    )
    session.record(PartSet("stepped_shaft.dial_shaft", "get", "buy"))
    session.choose("cross_slide")
    for system in UnitSystem:
        session.show_in(system)
        for key in ("strip_down", "fit_up"):
            frame.go_to(key)
            QApplication.processEvents()
            assert wrong_units(frame, system) == set(), key
        stop = frame.go_to("plan")
        for page in stop.chips:
            stop.show_page(page)
            QApplication.processEvents()
            assert wrong_units(frame, system) == set(), page
        stop.show_page("work")
        for line in stop.plan.lines:
            stop.look_at(line.task.key)
            assert wrong_units(frame, system) == set(), line.task.key
        intake = frame.go_to("intake")
        intake.show_page("symptoms")
        QApplication.processEvents()
        assert wrong_units(frame, system) == set()
        intake.show_page("machine")


def test_two_copies_are_joined_in_the_window_and_what_both_state_is_chosen(make_window, tmp_path):
    window = make_window("demo")
    first, second, out = tmp_path / "bench.trebb", tmp_path / "office.trebb", tmp_path / "one.trebb"
    demo_at(first).close()
    second.write_bytes(first.read_bytes())
    for path, travel in ((first, 200.0), (second, 210.0)):
        with JobFile.open(path) as copy:
            copy.append([FactStated("cross_slide", "travel_mm", travel)])
    window.leave_job()
    window.show_join()
    page = window.findChildren(JoinPage)[-1]
    page.take("first", first)
    page.take("second", tmp_path / "none.trebb")
    assert "cannot be joined" in page.banner.head.text()
    assert not page.write_button.isEnabled()
    page.take("second", second)
    assert "Both state 1 thing otherwise" in page.banner.text.text()
    named(page, "clash_0_first").click()
    page.write(first)  # a job is never written over
    assert "Not joined" in page.banner.head.text()
    page.write(out)
    assert window.frame.session.path == out
    assert window.frame.session.job.facts_of("cross_slide")["travel_mm"] == 200.0
