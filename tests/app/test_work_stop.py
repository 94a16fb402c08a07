"""The work: from what a machine is for to the repairs that buy most, in the window and from the shell."""

from __future__ import annotations

import itertools
import json

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QLineEdit, QPushButton

from tests.app.conftest import keys
from trebb.app.cli import main
from trebb.app.shell.walk import take_what_is_left
from trebb.core import clock
from trebb.core.machine import State
from trebb.core.stating.work import MEANS
from trebb.core.units import show_small
from trebb.logbook.log.entries import MatterStated, ReadingTaken
from trebb.logbook.plan.machine_card import card_of
from trebb.logbook.plan.made_work import came_of, choose, made_work, within_means
from trebb.logbook.plan.owner_page import owner_page
from trebb.logbook.plan.usual_work import usual_work


def named(frame, name, kind=QPushButton):
    found = frame.findChild(kind, name)
    assert found is not None, name
    return found


def take(frame, *titles):
    stop = frame.go_to("work")
    for title in titles:
        stop.usual.setCurrentIndex(stop.usual.findText(title))
        named(frame, "work_take").click()
    return stop


def typed(frame, name, text):
    edit = named(frame, name, QLineEdit)
    edit.setFocus()
    edit.selectAll()
    keys(edit, text)
    QTest.keyClick(edit, Qt.Key.Key_Return)


def without_work(frame):
    """A demo's own work taken off."""
    for key in frame.session.job.matters("work"):
        frame.session.record(MatterStated("work", key, "gone", "yes"))


def read(session, *assemblies):
    for key in assemblies:
        take_what_is_left(session.cases.of(key), "before", session.record)


def test_of_a_machine_that_nobody_read_nothing_is_told_but_what_to_read(make_window):
    frame = make_window("new").frame
    stop = frame.go_to("work")
    assert "What is this machine to make?" in stop.banner.head.text()
    assert not stop.plot.isVisible()
    take(frame, "Journal for a bearing")
    assert all(state is State.UNKNOWN for *_, state in stop.rows._rows)
    assert "not told yet" in stop.rows._rows[0][2]
    assert "Nothing of it is told yet" in stop.banner.head.text()
    assert not stop.drawn.isVisible()
    assert not stop.plot.isVisible()
    named(frame, "work_read_bar_sweep").click()
    assert frame.stop_key == "survey"
    assert frame.session.assembly == "headstock"
    assert frame.stop.bench.current.key == "bar_sweep"


def test_what_is_told_does_not_speak_for_what_nobody_read(make_window):
    frame = make_window("new").frame
    stop = take(frame, "Journal for a bearing")
    (place,) = frame.session.cases.of("headstock").places("facing")
    frame.session.record(ReadingTaken("headstock", "facing", place.key, "before", 0.01, "mm"))
    assert stop.work.untold == 2
    assert stop.banner.head.text() == "1 of 1 figures come inside; 2 not told."
    assert stop.banner.property("banner") == "soft"
    assert "what is told of it is inside" in stop.option.text()


def test_from_the_work_to_a_set_of_repairs_in_one_gesture(make_window):
    frame = make_window("demo").frame
    session = frame.session
    without_work(frame)
    read(session, "ways", "headstock", "tailstock")
    stop = take(frame, "Journal for a bearing", "Shaft between centres", "Faced flange")
    work = stop.work
    told = [m for p in work.pieces for m in p.told]
    assert any(m.ratio > 1 for m in told)
    for m in told:
        if all(s.mm is not None for s in m.budget):
            assert sum(s.mm for s in m.budget) == pytest.approx(m.value.value, abs=1e-9)
    journal = next(p for p in work.pieces if p.piece.kind == "chuck")
    dia = next(m for m in journal.figures if m.figure == "dia")
    assert max(journal.along) - min(journal.along) == pytest.approx(dia.value.value)
    # Along the edge each set costs more and comes nearer; the first mends nothing.
    assert not stop.edge[0].remedies
    assert [o.money for o in stop.edge] == sorted(o.money for o in stop.edge)
    mended = [o for o in stop.edge if not o.how]
    assert all(b.worst < a.worst for a, b in itertools.pairwise(mended))
    stop.plot.setFocus()
    for _ in stop.edge:
        QTest.keyClick(stop.plot, Qt.Key.Key_Right)
    last = stop.edge[-1]
    assert stop.point == len(stop.edge) - 1
    named(frame, "work_choose").click()
    assert {k: session.job.chosen(k).remedy for k in last.remedies} == dict(last.remedies)
    assert named(frame, "work_choose").text() == "Chosen"
    assert stop.work.chosen.worst == pytest.approx(last.worst)
    session.undo()  # one gesture
    assert all(session.job.chosen(k) is None for k in last.remedies)
    named(frame, "work_hours").click()
    assert [o.hours for o in stop.edge] == sorted(o.hours for o in stop.edge)


def test_to_offset_by_hand_and_to_sell_stand_beside_the_repairs(make_window):
    frame = make_window("demo").frame
    session = frame.session
    without_work(frame)
    read(session, "ways", "headstock", "tailstock")
    stop = take(frame, "Shaft between centres")
    leave = stop.edge[0]
    offset = next(i for i, o in enumerate(stop.edge) if o.how == "offset")
    assert stop.edge[offset].worst < leave.worst
    assert not any(o.how == "sell" for o in stop.edge)
    stop.walk(offset)
    piece = stop.work.pieces[0]
    shown = next(words for words in stop._by_hand(piece) if words.startswith("Set on diameter"))
    assert show_small(-piece.along[-1], session.system) in shown
    named(frame, "work_choose").click()
    assert session.job.matter("work", MEANS)["method"] == "offset"
    assert named(frame, "work_choose").text() == "Chosen"
    typed(frame, "means_brings", "300")
    typed(frame, "means_another", "1100")
    sold = next(o for o in stop.edge if o.how == "sell")
    assert (sold.money, sold.remedies) == (800.0, {})


def test_limits_are_taken_from_the_work_in_one_gesture(make_window):
    frame = make_window("demo").frame
    session = frame.session
    without_work(frame)
    read(session, "ways", "headstock", "tailstock")
    stop = take(frame, "Shaft between centres")
    had = session.job.limit("tail_side").limit_mm
    named(frame, "work_limits").click()
    assert session.job.limit("tail_side").limit_mm != had
    assert "Tailstock across" in stop.banner.text.text()
    assert "Shaft between centres" in session.job.limit("tail_side").source
    session.undo()
    assert session.job.limit("tail_side").limit_mm == had


def test_a_piece_of_one_s_own_is_typed_changed_and_taken_off(make_window):
    frame = make_window("demo").frame
    without_work(frame)
    read(frame.session, "ways", "headstock")
    stop = frame.go_to("work")
    named(frame, "work_own").click()
    assert "say its kind" in stop.rows._rows[0][2]
    frame.session.record(MatterStated("work", stop.at, "kind", "chuck"))
    typed(frame, "work_dia_mm", "40 mm")
    typed(frame, "work_length_mm", "200 mm")
    typed(frame, "work_tol_taper", "20 µm")
    (row,) = stop.rows._rows
    assert row[3] is not State.UNKNOWN
    before = made_work(frame.session.cases).pieces[0].figures[0].ratio
    typed(frame, "work_tol_taper", "10 µm")
    assert made_work(frame.session.cases).pieces[0].figures[0].ratio == pytest.approx(2 * before)
    typed(frame, "work_length_mm", "4000 mm")  # longer than the bed
    assert "from the jaws" in stop.rows._rows[0][2]
    named(frame, "work_gone").click()
    assert stop.rows._rows == []


@pytest.mark.parametrize("machine", ["mill", "drill"])
def test_a_head_makes_holes_and_faces(make_window, machine):
    frame = make_window(machine).frame
    assemblies = {"mill": ("head",), "drill": ("table",)}[machine]
    read(frame.session, *assemblies)
    stop = take(frame, *[str(one["title"]) for one in usual_work(machine)])
    assert all(m.is_told for p in stop.work.pieces for m in p.figures if m.figure != "place")
    # Nobody turned the table's screw against its travel: what it spaces is not told, and says what reads it.
    assert {s for _, s in stop.work.unread} <= {"turns_travel"}
    assert bool(stop.work.unread) is (machine == "mill")


def test_what_a_grinder_makes_is_said_not_to_be_known(make_window):
    frame = make_window("new", machine_kind="grinder").frame
    stop = frame.go_to("work")
    assert "not known here yet" in stop.banner.head.text()
    assert not stop.usual.isVisible()


def test_the_shell_says_the_same_and_adds_usual_work(make_window, capsys):
    frame = make_window("demo").frame
    without_work(frame)
    read(frame.session, "ways", "headstock", "tailstock")
    stop = take(frame, "Shaft between centres")
    path = str(frame.session.path)
    assert main(["work", path, "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    (made,) = stop.work.pieces[0].figures
    assert told["pieces"][0]["figures"][0]["mm"] == pytest.approx(made.value.value, abs=1e-5)
    assert len(told["edge"]) == len(stop.edge)
    frame.session.record(*choose(frame.session.cases, stop.edge[-1], stop.work))
    assert main(["work", path, "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["chosen"]["remedies"] == dict(stop.edge[-1].remedies)
    assert main(["work", path, "--units", "metric"]) == 0
    said = capsys.readouterr().out
    assert "Shaft between centres" in said
    assert "thou" not in said
    assert main(["work", path, "--usual", "99"]) == 1


def test_the_piece_is_made_and_measured_and_stands_beside_what_was_foretold(make_window):
    frame = make_window("demo").frame
    session = frame.session
    without_work(frame)
    read(session, "ways", "headstock", "tailstock")
    stop = take(frame, "Shaft between centres")
    stop.walk(len(stop.edge) - 1)
    named(frame, "work_choose").click()
    typed(frame, "work_made_dia", "0.1 thou")
    (came,) = came_of(session.cases, stop.work.pieces[0].piece)
    assert came.is_inside
    assert owner_page(session.cases, session.system).makes == (
        ("Shaft between centres", "made and measured, inside: 0.1 thou"),
    )
    (told,) = card_of(session.cases, clock.now())["work"]
    assert told["figures"][0]["figure"] == "dia"
    typed(frame, "work_made_dia", "5 thou")
    (came,) = came_of(session.cases, stop.work.pieces[0].piece)
    assert not came.is_inside
    assert not came.is_as_foretold
    words = [w.text() for w in stop.side.findChildren(QLabel)]
    assert any("came out 5.0 thou: not inside, not as foretold" in w for w in words)


def test_the_best_for_the_money_and_hours_there_are(make_window):
    frame = make_window("demo").frame
    without_work(frame)
    read(frame.session, "ways", "headstock", "tailstock")
    stop = take(frame, "Shaft between centres")
    assert within_means(frame.session.cases, stop.work) is None
    typed(frame, "means_money", "50")
    typed(frame, "means_hours", "6")
    best = within_means(frame.session.cases, stop.work)
    assert best.money <= 50
    assert best.hours <= 6
    assert all(
        o.worst >= best.worst - 1e-9 for o in stop.work.choice.options if o.money <= 50 and o.hours <= 6
    )
    assert "Best for what there is" in stop.banner.text.text()
    typed(frame, "means_money", "0")
    assert within_means(frame.session.cases, stop.work).money == 0
