"""A metric pillar drill of one's own, from arrival to proof: every reading and size typed, nothing simulated
by the job itself.
"""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QComboBox, QLineEdit, QPlainTextEdit

from tests.app.conftest import cable, click, press
from trebb.core.families.spindle.subject import spindle_model
from trebb.core.machine import State
from trebb.core.practice import PracticeMachine
from trebb.core.remedies import remedy
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SPINDLE
from trebb.logbook.demo.machines import DRILL_SPINDLE
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.fold import Job

SETS = ("nose", "taper_bore", "chuck_pin", "push_test", "spindle_float", "coupler", "warm_run", "reach")


@pytest.fixture
def drill(make_window):
    window = make_window("new", machine="Drill 4", machine_kind="drill", machine_class="ordinary")
    window.frame.session.show_in(UnitSystem.METRIC)
    return window


def typed(s, raw: float) -> str:
    """A raw reading as someone would type it at the bench."""
    if s.unit == "C":
        return f"{raw:.1f} C"
    return f"{raw:.5f} mm" if s.is_size else f"{raw * 1000:+.1f} um"


def type_readings(frame, machine: PracticeMachine, phase: str) -> int:
    bench, pod, count = frame.stop.bench, frame.stop.pod, 0
    for s in bench.set_ups:
        if s.key not in SETS:
            continue
        bench.choose_set_up(s.key)
        while bench.current is s and (place := frame.session.case.next_place(s, phase)) is not None:
            bench.choose_place(place.key)
            raw = machine.reading(
                s, place.key, len(frame.session.job.readings(SPINDLE, s.key, phase, place.key))
            )
            cable(frame, pod.entry, typed(s, raw))
            assert pod.refusal.text() == ""
            count += 1
    return count


def test_a_metric_drill_goes_from_arrival_to_proof(drill, tmp_path):
    frame = drill.frame
    session = frame.session
    assert session.assembly == SPINDLE

    # Intake: graded, named, a limit from its own card.
    frame.go_to("intake")
    click(frame, "grade_accuracy")
    click(frame, "number_one")
    assert session.job.number_one == SPINDLE

    # Stated: one bearing in the quill, a soft taper.
    frame.go_to("survey")
    click(frame, "leaf_stated")
    for name, value in (("bearing_count", "1"), ("hardness", "soft")):
        box = frame.stop.bench.aside.findChild(QComboBox, name)
        box.setCurrentIndex(box.findData(value))
        box.activated.emit(box.currentIndex())
    assert session.case.spindle.lever > 2

    # Survey, every reading typed.
    spindle = session.case.spindle
    machine = PracticeMachine(spindle, spindle_model(spindle), DRILL_SPINDLE, 12)
    assert type_readings(frame, machine, "before") > 60
    figures = {m.key: m for m in session.case.figures}
    assert figures["coupler"].value.value == pytest.approx(DRILL_SPINDLE["coupler"], abs=0.04)
    assert figures["coupler"].state is State.BEYOND
    assert figures["slack"].state is State.BEYOND

    # Findings and remedy.
    stop = frame.go_to("findings")
    assert "Most of it is the slack in the bearings." in stop.banner.head.text()
    stop = frame.go_to("remedies")
    assert {"second_bearing", "coupler"} <= set(stop.current.split("+"))  # the least that is enough
    stop.look_at("overhaul")
    stop.findChild(QPlainTextEdit)
    stop.reason.setPlainText("the lock gates cannot wait")
    click(frame, "choose_remedy")
    assert session.case.chosen.key == "overhaul"

    # Parts: drawn in millimetres.
    stop = frame.go_to("parts")
    for key in session.case.part_keys():
        stop.show_part(key)
        assert not stop.trouble.isVisible()
        stop.save_to(tmp_path / f"{key}.svg")
        assert (tmp_path / f"{key}.svg").stat().st_size > 2000

    # Make: each size typed inside its band.
    stop = frame.go_to("make")
    for key in session.case.part_keys():
        stop.show_part(key)
        for operation in session.case.route(key, UnitSystem.METRIC):
            stop.show_step(operation.key)
            if operation.target is not None:
                field = frame.findChild(QLineEdit, "typed_size")
                cable(frame, field, f"{operation.target.band.middle_mm:.4f}")
                assert "stop" in stop.banner.head.text()
            click(frame, "mark_done")
    assert all(
        len(session.job.steps_done(key)) == len(session.case.route(key)) for key in session.case.part_keys()
    )

    # Fit-up in its order.
    stop = frame.go_to("fit_up")
    for _ in session.case.fit_order():
        stop.step_key = ""
        stop.refresh()
        click(frame, "fit_done")
    assert len(session.job.steps_done("fit.spindle")) == len(session.case.fit_order())

    # Proof: the repaired machine read again.
    after = machine.repaired(
        remedy("overhaul", "spindle").change(session.case.subject_for("before"), session.case.estimate)
    )
    stop = frame.go_to("prove")
    assert type_readings(frame, after, "after") > 60
    proven = {m.key: m for m in session.case.measures_of("after")}
    assert proven["coupler"].state is State.WITHIN
    assert proven["slack"].value.value < 0.5 * figures["slack"].value.value
    stop.write_to(tmp_path / "sheet.pdf")
    assert (tmp_path / "sheet.pdf").read_bytes().startswith(b"%PDF")

    # Closed and opened again, nothing is lost.
    readings = len(session.job.all_readings())
    path = session.path
    drill.leave_job()
    with JobFile.open(path) as job_file:
        job = Job(job_file.entries())
        assert len(job.all_readings()) == readings
        assert job.chosen(SPINDLE).reason == "the lock gates cannot wait"
        assert {r.taken.unit for r in job.all_readings()} == {"mm", "C"}


def test_the_whole_way_can_be_gone_by_keys(make_window):
    frame = make_window("mill").frame
    for number in range(1, 9):
        press(frame, getattr(Qt.Key, f"Key_{number}"), Qt.KeyboardModifier.ControlModifier)
        assert frame.index == number - 1
    press(frame, Qt.Key.Key_2, Qt.KeyboardModifier.ControlModifier)
    for s in frame.session.case.set_ups:
        press(frame, getattr(Qt.Key, f"Key_{s.letter}"), Qt.KeyboardModifier.AltModifier)
        assert frame.stop.bench.current is s
    for number, leaf in ((3, "stated"), (1, "how")):
        press(frame, getattr(Qt.Key, f"Key_{number}"), Qt.KeyboardModifier.AltModifier)
        assert frame.stop.bench.aside._leaf == leaf
    press(frame, Qt.Key.Key_8, Qt.KeyboardModifier.ControlModifier)
    press(frame, Qt.Key.Key_T, Qt.KeyboardModifier.ControlModifier)
    assert frame.stop.pages.currentIndex() == 1


def test_nothing_on_any_stop_is_below_thirteen_pixels_or_without_a_tooltip(make_window):
    from PySide6.QtWidgets import QPushButton, QWidget

    frame = make_window("mill").frame
    for key in ("survey", "findings", "remedies", "parts", "make", "fit_up", "prove"):
        stop = frame.go_to(key)
        QTest.qWait(10)
        for widget in stop.findChildren(QWidget):
            assert widget.font().pixelSize() == -1 or widget.font().pixelSize() >= 13, widget
        assert all(b.toolTip() for b in stop.findChildren(QPushButton)), key
