"""The practice bench and the shop's memory by hand in the window."""

from __future__ import annotations

import json
import time

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QPushButton, QWidget

from tests.app.hand import Hand
from trebb.app.cli import main
from trebb.app.look import theme
from trebb.app.stops.register import ALL_STOPS
from trebb.app.window.main import SMALLEST_SIZE
from trebb.core.practice.ground_records import GROUNDS
from trebb.core.practice.lies import preparations_of
from trebb.core.practice.piece import code_of, drawn
from trebb.core.units import UnitSystem
from trebb.logbook.cases.practice_piece import set_pieces
from trebb.logbook.demo.jobs import simulated_reading
from trebb.logbook.log.entries import MatterStated, PartSet, PracticeMarked, RemedyChosen, StepDone
from trebb.logbook.memory.asked import memory_of
from trebb.logbook.memory.shop import read_shop
from trebb.logbook.memory.shop_place import has_memory, shop_path
from trebb.logbook.plan.task_gathering import gather
from trebb.logbook.plan.work import PLAN
from trebb.logbook.practice.begun import used
from trebb.logbook.practice.opened import opening
from trebb.logbook.practice.trial import BestOrder


def named(window, name) -> QWidget:
    """A widget by its name."""
    found = [w for w in window.findChildren(QWidget) if w.objectName() == name]
    assert found, name
    return found[-1]


def press(window, name) -> None:
    """A button pressed, and what follows done."""
    button = named(window, name)
    assert isinstance(button, QPushButton)
    button.click()
    QApplication.processEvents()


def texts(widget) -> str:
    """Everything a widget says in labels."""
    from PySide6.QtWidgets import QLabel

    QApplication.processEvents()
    return " ".join(w.text() for w in widget.findChildren(QLabel) if w.isVisible())


class Bench:
    """A machine on the practice bench, played in the window."""

    def __init__(self, window, piece: str) -> None:
        self.window = window
        window.show_practice()
        page = window._page
        page.begin(set_pieces()[piece])
        self.frame = window.frame
        self.session = self.frame.session

    def read(self, key: str, count: int) -> None:
        stop = self.frame.go_to("survey")
        stop.bench.choose_set_up(key)
        for _ in range(count):
            place = stop.bench.place()
            self.session.record(
                simulated_reading(self.session.case, stop.bench.current.key, place.key, "before")
            )
            QApplication.processEvents()

    def opened(self) -> QWidget:
        stop = self.frame.go_to("practice")
        press(self.window, "open_machine")
        while stop.search.is_running or not stop._kept:
            QApplication.processEvents()
            time.sleep(0.005)  # lets the search have the interpreter
        QApplication.processEvents()
        return stop


@pytest.fixture
def window(make_window):
    return make_window("new")


@pytest.fixture
def gib(window):
    return Bench(window, "01-not-home")


def test_played_wrongly_it_says_where_and_the_score_is_kept_by_trap(gib):
    gib.read("feelers", 4)
    press(gib.window, "hint_trust")
    assert "rear screw" in named(gib.window, "hint_trust").parent().words.text()
    press(gib.window, "prepare_push_home")
    assert not named(gib.window, "prepare_push_home").isEnabled()
    gib.read("rock", 12)
    gib.frame.go_to("practice")
    press(gib.window, "cause_gib")
    press(gib.window, "sure_0.9")
    stop = gib.opened()
    said = texts(stop)
    assert "Nothing is beyond its limit" in stop.banner.head.text()
    assert "that was not it" in said
    assert "From reading" in said
    assert "rear screw" in said
    assert "What it costs" in said
    assert "hints" in texts(stop.side)
    gib.window.leave_job()
    gib.window.show_practice()
    assert "Gib not home" in gib.window._page.record._by_trap


def test_nothing_is_told_while_it_is_played(gib):
    gib.read("rock", 12)
    assert gib.frame.stop.worth.rows() == []
    findings = gib.frame.go_to("findings")
    assert "yours to say" in findings.banner.head.text()
    assert not findings.pictures.isVisible()
    from trebb.app.window.machine_panel import assembly_figure

    saddle = gib.session.cases.kind.assembly("saddle")
    assert assembly_figure(gib.session, saddle)[1] == "yours to say"
    gib.frame.go_to("survey")
    press(gib.window, "hint_next")
    assert gib.frame.stop.worth.rows()
    press(gib.window, "hint_expert")
    assert "yours to say" not in gib.frame.go_to("findings").banner.head.text()


def test_a_verdict_that_is_not_whole_is_refused_where_it_is_given(gib):
    stop = gib.frame.go_to("practice")
    press(gib.window, "open_machine")
    assert "mostly wrong" in stop.refusal.text()
    press(gib.window, "cause_ways")
    press(gib.window, "open_machine")
    assert "how sure" in stop.refusal.text()
    assert not gib.session.job.practice_marks("verdict")


def test_codes_files_and_a_folder_that_cannot_be_written_are_refused_there(window, tmp_path, monkeypatch):
    window.show_practice()
    page = window._page
    page.code.setText("2-AB")
    page.begin_code()
    assert "level from 1 to 4" in page.refusal.text()
    bad = tmp_path / "bad.toml"
    bad.write_text('ground = "saddle"\n[lies]\nmiscounted = 1\n')
    page.begin_file(bad)
    assert "miscounted" in page.refusal.text()
    monkeypatch.setenv("XDG_DATA_HOME", "/proc/nowhere")
    page.draw_one()
    assert page.refusal.text()
    assert window.frame is None or window.pages.currentWidget() is page


def test_a_code_begins_the_machine_and_the_keys_lead_there(window):
    window.leave_job()
    QTest.keyClick(window, Qt.Key.Key_B, Qt.KeyboardModifier.ControlModifier)
    QApplication.processEvents()
    page = window._page
    assert page is not None
    page.code.setText(code_of(1, 9).lower())
    page.begin_code()
    assert window.frame is not None
    assert window.frame.session.assembly == "practice_bore"
    assert window.frame.strip.practice.isVisible()


def test_the_page_of_a_job_of_ones_own_says_so(window):
    stop = window.frame.go_to("practice")
    assert "machine of your own" in stop.banner.head.text()
    assert not window.frame.strip.practice.isVisible()


# memory ---------------------------------------------------------------------------------------


def finished(make_window, answer: float) -> Hand:
    """A saddle read, tightened and proven, hours and all."""
    hand = Hand(make_window, system=UnitSystem.METRIC)
    for spot in ("left", "mid", "right"):
        for end in ("thin", "thick"):
            hand.read("saddle", "rock", f"{spot}, {end} end", 70, 82, 76)
    hand.state("saddle", home="yes")
    hand.session.record(RemedyChosen("saddle", "tighten", ""))
    for work in gather(hand.session.cases).work:
        hand.session.record(MatterStated("task", work.task.key, "spent", 3 * max(work.planned, 0.5)))
        hand.session.record(StepDone(PLAN, work.task.key, done=True))
    for spot in ("left", "mid", "right"):
        for end in ("thin", "thick"):
            hand.read("saddle", "rock", f"{spot}, {end} end", 14, 26, 20, phase="after")
    return hand


def teach(hand: Hand) -> None:
    """What it teaches shown, and given."""
    plan = hand.frame.go_to("plan")
    plan.show_page("after")
    giving = plan._made["after"].giving
    giving.show_lines()
    assert giving.findChildren(QCheckBox)
    giving.give()
    assert "in the shop's memory" in giving.words.text()


def test_three_jobs_teach_and_the_fourth_differs(make_window):
    fresh = Hand(make_window, system=UnitSystem.METRIC).read("saddle", "rock", "mid, thin end", 50, 52)
    usual = fresh.session.cases.of("saddle").figures[0].value.half_width
    for i in range(3):
        teach(finished(make_window, 0.4 + i))
    memory = memory_of(read_shop()[0])
    assert len(memory.jobs) == 3
    assert next(k for k in memory.figures() if k.topic == "noise").now.source == "yours, from 3 jobs"
    fourth = Hand(make_window, system=UnitSystem.METRIC)
    assert fourth.session.cases.taught.noise["dial indicator"] > 1.2
    fourth.read("saddle", "rock", "mid, thin end", 50, 52)
    assert fourth.session.cases.of("saddle").figures[0].value.half_width > 1.15 * usual
    assert fourth.session.cases.taught.hours["fit"] > 1.5
    window = fourth.window
    window.leave_job()
    window.show_shop()
    page = window._page
    assert "yours, from 3 jobs" in texts(page)
    page.show_page("jobs")
    press(window, "leave_out_0")
    assert memory_of(read_shop()[0]).figures()[0].now.jobs == 2
    assert "left out" in texts(page)
    press(window, "leave_out_0")
    assert memory_of(read_shop()[0]).figures()[0].now.jobs == 3
    page.show_page("foretold")
    assert page.cover._rows


def test_an_unticked_line_is_not_kept(make_window):
    hand = finished(make_window, 0.4)
    plan = hand.frame.go_to("plan")
    plan.show_page("after")
    giving = plan._made["after"].giving
    giving.show_lines()
    for tick in giving.findChildren(QCheckBox):
        if "dial indicator" in tick.text():
            tick.setChecked(False)
    giving.give()
    assert "noise" not in {k.topic for k in memory_of(read_shop()[0]).figures()}


def test_an_instrument_is_checked_and_a_bad_check_refused(window):
    window.leave_job()
    window.show_shop()
    page = window._page
    page.show_page("instruments")
    form = page.instruments
    form.name.setText("red dot")
    form.up.setText("0 0.01 0.01")
    press(window, "keep_check")
    assert "going down" in form.refusal.text()
    form.down.setText("0.02 0.02 0.8 thou")
    press(window, "keep_check")
    assert form.refusal.text() == ""
    assert "red dot" in texts(form)
    assert memory_of(read_shop()[0]).taught().extra_mm["dial indicator"] > 0.003
    form.up.setText("much")
    press(window, "keep_check")
    assert "much" in form.refusal.text()


def test_a_part_drawn_before_is_copied_and_found(make_window):
    hand = Hand(make_window, system=UnitSystem.METRIC)
    for end in ("thin", "thick"):
        for spot in ("left", "mid", "right"):
            hand.read("saddle", "rock", f"{spot}, {end} end", 90, 92)
        hand.read("saddle", "feelers", f"{end} end", 90, 90)
    hand.read("saddle", "stand_out", "stand-out", "3 mm", "3 mm")
    hand.state("saddle", home="yes")
    hand.session.record(RemedyChosen("saddle", "new", ""))
    key = hand.session.case.part_keys()[0]
    hand.session.record(PartSet(part=hand.session.case.part_name(key), field="get", value="buy"))
    teach(hand)
    other = Hand(make_window, system=UnitSystem.METRIC)
    other.session.choose("saddle")
    other.session.record(RemedyChosen("saddle", "new", ""))
    stop = other.frame.go_to("parts")
    stop.show_part(key)
    words, facts = stop.before.offers()[0]
    stop.before.copy(facts)
    assert other.session.case.part_facts(key)["get"] == "buy"
    window = other.window
    window.leave_job()
    window.show_shop()
    page = window._page
    page.show_page("search")
    page.asked.setText("gib lathe")
    assert "Lathe 9" in words
    assert "part" in texts(page)
    page.asked.setText("submarine")
    assert "Nothing in your jobs" in texts(page)


def test_a_damaged_memory_is_said_and_the_job_opens(make_window, tmp_path):
    finished_once = finished(make_window, 0.4)
    teach(finished_once)
    assert has_memory()
    shop_path().write_bytes(b"x" * 500)
    hand = Hand(make_window, system=UnitSystem.METRIC)
    assert "memory cannot be read" in hand.frame.trouble.head.text()
    hand.read("saddle", "rock", "mid, thin end", 50, 52)
    assert hand.session.cases.taught.is_usual
    hand.window.leave_job()
    hand.window.show_shop()
    assert "cannot be read" in hand.window._page.banner.head.text()
    hand.window.show_practice()
    assert "record cannot be read" in hand.window._page.banner.head.text()


def test_practice_from_the_shell(tmp_path, capsys):
    path = tmp_path / "p.trebb"
    assert main(["practise", str(path), "10-hard-bore"]) == 0
    assert main(["take", str(path), "try_file"]) == 0
    assert main(["take", str(path), "bore_gauge"]) == 0
    assert main(["findings", str(path)]) == 1
    assert "yours to say" in capsys.readouterr().err
    assert main(["remedies", str(path), "--part", "practice_bore"]) == 0
    assert "advised" not in capsys.readouterr().out
    assert main(["verdict", str(path), "wear", "90", "--json"]) == 0
    assert main(["findings", str(path)]) == 0
    assert '"was": "wear"' in capsys.readouterr().out
    assert main(["verdict", str(path), "wear", "90"]) == 1
    assert "open already" in capsys.readouterr().err
    assert main(["practise", str(tmp_path / "q.trebb"), "1-AAAA"]) == 1
    assert main(["take", str(path), "boat"]) == 1
    assert "set-ups are" in capsys.readouterr().err
    assert main(["pieces"]) == 0
    assert "Reaming" in capsys.readouterr().out
    assert main(["leave-out", "nobody"]) == 1
    assert main(["find", "nut"]) == 0
    assert main(["shop"]) == 0
    assert main(["shop-json", str(tmp_path / "m.json")]) == 0
    capsys.readouterr()
    assert main(["watch", str(path), "--all", "--count", "2"]) == 0
    assert len(capsys.readouterr().out.splitlines()) == 2


@pytest.mark.parametrize("key", list(GROUNDS))
def test_every_ground_is_played_from_its_first_preparation_to_its_score(make_window, key):
    """Each assembly that can be practised on, at every stop and in both unit systems: made ready, read in
    the bench, asked about, judged and opened.
    """
    window = make_window(None)
    window.show_practice()
    window._page.begin(drawn(3, 11, key))
    frame = window.frame
    session, on = frame.session, GROUNDS[key]
    assert session.assembly == on.assembly
    survey = frame.go_to("survey")
    is_first = key == next(k for k, ground in GROUNDS.items() if ground.family == on.family)
    if not is_first:  # another of a family that was played through: it begins, and can be read
        s = session.case.set_ups[0]
        assert session.case.places(s.key)
        return
    for s in session.case.set_ups[:3]:
        survey.bench.choose_set_up(s.key)
        QApplication.processEvents()
        for preparation in preparations_of(s.key):
            press(window, f"prepare_{preparation.key}")
        question = session.case.question(s, "before", session.system)
        if question is not None:
            session.record(*question.answers[0].bodies)
        for place in session.case.places(s.key)[:2]:
            session.record(simulated_reading(session.case, s.key, place.key, "before"))
    for hint in ("trust", "next", "expert"):
        press(window, f"hint_{hint}")
    assert survey.help.words.text()
    for stop in ALL_STOPS:
        frame.go_to(stop.key)
        frame.switch_units()
        QApplication.processEvents()
    frame.go_to("practice")
    press(window, f"cause_{on.causes[0].key}")
    press(window, "sure_0.7")
    session.record(PracticeMarked(what="verdict", of=on.causes[0].key, share=0.7))
    session.record(opening(BestOrder(30.0, ("as Trebb advised",), is_found=False)))
    stop = frame.stop
    said = stop.banner.head.text()
    assert " of 100." in said
    assert "hints" in texts(stop.side)
    assert stop.after.isVisible()
    for look in theme.LOOKS:
        window.next_look()
        assert window.frame.stop.banner.head.text() == said, look


def test_the_smallest_window_holds_the_practice_pages(make_window):
    window = make_window(None)
    window.resize(*SMALLEST_SIZE)
    window.show_practice()
    QApplication.processEvents()
    page = window._page
    assert page.width() <= window.width()
    for name in ("draw_machine", "begin_code", "piece_file", "practice_back"):
        button = named(window, name)
        assert window.rect().contains(button.mapTo(window, button.rect().bottomRight())), name
    page.begin(set_pieces()["01-not-home"])
    window.frame.go_to("survey")
    QApplication.processEvents()
    for name in ("hint_trust", "hint_next", "hint_expert", "prepare_push_home"):
        button = named(window, name)
        assert window.rect().contains(button.mapTo(window, button.rect().bottomRight())), name
        assert button.fontMetrics().horizontalAdvance(button.text()) <= button.width(), name
    for hint in ("hint_trust", "hint_next", "hint_expert"):
        press(window, hint)
    window.frame.stop.bench.choose_set_up("rock")
    QApplication.processEvents()
    pod = window.frame.stop.pod
    dial, numerals = pod.face.geometry(), pod.numeral.geometry()
    # The numerals stand in the middle of their label, with room above and below.
    assert dial.bottom() <= numerals.top() + 20, (dial, numerals)


def test_the_needle_of_a_hidden_machine_is_seen_once_it_is_set_up_and_its_minutes_count(gib):
    survey = gib.frame.go_to("survey")
    survey.bench.choose_set_up("rock")
    gib.frame.link.hide(is_hidden=True)
    QApplication.processEvents()
    begin = named(gib.window, "begin_set_up")
    assert begin.isVisible()
    assert "min" in begin.text()
    assert gib.frame.link.fresh() == []
    case = gib.session.case
    assert used(case).minutes == 0
    press(gib.window, "begin_set_up")
    QApplication.processEvents()
    assert not named(gib.window, "begin_set_up").isVisible()
    spent = used(case)
    assert spent.minutes > 0
    assert spent.readings == 0
    gib.session.undo()
    assert used(case).minutes == spent.minutes


def test_the_lesson_is_read_beside_one_s_own_way(gib):
    gib.read("feelers", 2)
    gib.frame.go_to("practice")
    press(gib.window, "cause_gib")
    press(gib.window, "sure_0.5")
    said = texts(gib.opened())
    assert "The lesson" in said
    assert "Your way" in said
    assert "Feelers" in said


def test_a_class_is_collected_from_its_files_in_one_table(tmp_path, capsys):
    for who, cause, done in (("Second", "drop", True), ("First", "gib", True), ("Third", "", False)):
        path = tmp_path / f"{who}.trebb"
        assert main(["practise", str(path), "2-ABCX", "--pupil", who]) == 0
        if done:
            assert main(["take", str(path), "drop"]) == 0
            assert main(["verdict", str(path), cause, "80"]) == 0
    capsys.readouterr()
    files = [str(path) for path in tmp_path.glob("*.trebb")]
    assert main(["results", *files, "--csv", str(tmp_path / "class.csv"), "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert [row["pupil"] for row in told] == ["First", "Second", "Third"]
    assert told[1]["total"] > told[0]["total"]
    assert told[0]["was"] == "drop"
    assert "no verdict yet" in told[2]["trouble"]
    lines = (tmp_path / "class.csv").read_text().splitlines()
    assert lines[0].startswith("pupil,file,machine,level,total")
    assert len(lines) == 4


def test_from_the_shell_minutes_are_told_before_they_are_spent_and_nothing_is_taken_twice(tmp_path, capsys):
    path = str(tmp_path / "h.trebb")
    assert main(["practise", path, "2-ABCX"]) == 0
    assert main(["take", path]) == 0
    said = capsys.readouterr().out
    assert "drop: Drop of the saddle" in said
    assert "No minute used" in said
    assert main(["take", path, "drop"]) == 0
    assert main(["take", path, "drop"]) == 1
    assert "every place of it is read" in capsys.readouterr().err
    assert main(["strike", path, "saddle", "drop", "nowhere"]) == 1
    assert "readings stand at" in capsys.readouterr().err
    assert main(["strike", path, "saddle", "drop", "rack", "--why", "a chip"]) == 0
    assert main(["take", path, "drop", "--json"]) == 0
    assert list(json.loads(capsys.readouterr().out.split("\n", 1)[1])["readings"]) == ["rack"]


def test_what_is_offered_is_shown_and_must_be_answered(tmp_path, capsys):
    path = str(tmp_path / "h.trebb")
    offered = next(key for key, piece in set_pieces().items() if piece.offer.words)
    assert main(["practise", path, offered]) == 0
    assert "Offered: " in capsys.readouterr().out
    cause = set_pieces()[offered].ground.causes[0].key
    assert main(["verdict", path, cause, "60"]) == 1
    assert "--offer taken" in capsys.readouterr().err
    assert main(["verdict", path, cause, "60", "--offer", "left"]) == 0
