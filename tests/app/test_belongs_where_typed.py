"""What is typed belongs to what was on show when it was typed; a stop comes back to what is chosen."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QLineEdit, QPlainTextEdit, QWidget

from tests.app.conftest import keys, press
from trebb.app.look import painting
from trebb.app.stops.register import STOPS
from trebb.core.parts import all_families
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SCREW
from trebb.logbook.log.entries import FactStated


@pytest.fixture
def lathe(make_window):
    painting.TROUBLES.clear()
    return make_window("new").frame


def field(frame, name: str) -> QLineEdit:
    (found,) = [f for f in frame.findChildren(QLineEdit, name) if f.isVisible()]
    return found


def type_in(frame, name: str, text: str) -> QLineEdit:
    edit = field(frame, name)
    edit.setFocus()
    edit.selectAll()
    keys(edit, text)
    return edit


def test_a_travel_typed_and_not_entered_is_the_slide_s_that_was_on_show(lathe):
    lathe.session.choose(SCREW)
    lathe.go_to("parts").show_fact("travel_mm")
    type_in(lathe, "travel_mm", "7 in")
    lathe.machine.elevation.chosen.emit("spindle")
    assert lathe.session.assembly == "spindle"
    assert lathe.session.job.facts_of(SCREW) == {"travel_mm": pytest.approx(177.8)}
    assert lathe.session.job.facts_of("spindle") == {}


def test_what_is_refused_is_refused_there_before_another_is_chosen(lathe):
    lathe.session.choose(SCREW)
    lathe.go_to("parts").show_fact("travel_mm")
    edit = type_in(lathe, "travel_mm", "0")
    lathe.machine.elevation.chosen.emit("spindle")
    assert lathe.session.assembly == SCREW
    assert edit.text() == "0"
    press(lathe, Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
    assert lathe.session.system is UnitSystem.INCH
    lathe._escape()
    lathe.machine.elevation.chosen.emit("spindle")
    assert lathe.session.assembly == "spindle"
    assert lathe.session.job.facts_of(SCREW) == {}


def test_a_note_typed_on_a_part_is_that_part_s(lathe):
    lathe.session.choose("ways")
    lathe.go_to("intake")
    (note,) = [w for w in lathe.findChildren(QPlainTextEdit, "grade_note") if w.isVisible()]
    note.setFocus()
    keys(note, "ridge")
    lathe.session.choose("saddle")
    assert lathe.session.job.note("seen.ways") == "ridge"
    assert lathe.session.job.note("seen.saddle") == ""
    assert lathe.session.job.grade("ways") is None  # a note grades nothing


def test_half_a_reading_is_taken_where_it_was_typed(lathe):
    lathe.session.choose(SCREW)
    lathe.go_to("survey").bench.choose_set_up("end_float")
    keys(lathe.stop.pod.entry, "6 thou")
    lathe.session.choose("spindle")
    assert [r.taken.assembly for r in lathe.session.job.all_readings()] == [SCREW]
    assert lathe.stop.pod.entry.text() == ""


@pytest.mark.parametrize("kind", ["lathe", "drill"])
def test_a_stop_that_comes_back_is_brought_to_what_is_chosen(make_window, kind):
    painting.TROUBLES.clear()
    frame = make_window("new", machine_kind=kind).frame
    assemblies = frame.session.case.kind.assemblies
    first_of = {a.family: a for a in reversed(assemblies)}.values()
    for i, assembly in enumerate((*assemblies, *reversed(assemblies))):
        frame.go_to("parts")
        frame.session.choose(assembly.key)
        for stop in STOPS if i < len(assemblies) and assembly in first_of else ():
            frame.go_to(stop.key)
            press(frame, Qt.Key.Key_F11)
            frame.stop.repaint()
            press(frame, Qt.Key.Key_Escape)
        bench = frame.go_to("survey").bench
        if frame.session.case.has_set_ups:
            assert bench.current in frame.session.case.set_ups
            assert bench.title.text() == bench.current.title
    assert painting.TROUBLES == []


def test_a_reminder_belongs_to_its_part():
    assert "spindle" not in next(f for f in all_families() if f.key == "dial").reminder
    assert "spindle" in next(f for f in all_families() if f.key == "spacer").reminder


def test_the_clearance_of_a_square_thread_is_asked_only_of_a_square_thread(lathe):
    session = lathe.session
    session.choose(SCREW)
    lathe.go_to("parts")

    def shown() -> list[bool]:
        QApplication.processEvents()
        return [w.isVisible() for w in lathe.findChildren(QWidget, "square_clearance_mm")]

    assert shown() == [False]
    session.record(FactStated(assembly=SCREW, field="form", value="square"))
    assert shown() == [True]
    session.record(FactStated(assembly=SCREW, field="form", value="Acme"))
    assert shown() == [False]
    session.record(FactStated(assembly=SCREW, field="make_form", value="square"))
    assert shown() == [True]
