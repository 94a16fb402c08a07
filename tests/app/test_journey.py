"""One worn screw from arrival to proof on a job of one's own: a metric lathe, every reading typed."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QLineEdit

from tests.app.conftest import cable, click, keys, press
from trebb.core.families.screw_drive.subject import drive_model
from trebb.core.machine import State, state_of
from trebb.core.practice import PracticeMachine
from trebb.core.survey import set_ups_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SCREW
from trebb.logbook.exchange.job_json import job_from_json, job_to_json
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.fold import Job

# A made-up metric lathe: Tr 20 × 4 right hand, dial of 80 divisions read on diameter.
TRUTH = {
    "nut": 0.18,
    "wear.1": 0.05,
    "wear.2": 0.16,
    "wear.3": 0.24,
    "wear.4": 0.14,
    "wear.5": 0.04,
    "float": 0.02,
    "key": 0.02,
    "give": 0.005,
    "unworn": 17.84,
    "ridge": 1.93,
    "lead": 4.0,
    "major": 19.9,
    "crest": 0.01,
}
AFTER = {**TRUTH, "nut": 0.04, **{f"wear.{k}": 0.0 for k in range(1, 6)}}


def state_the_thread(frame):
    """Form, size, pitch, hand and dial, set by hand at Parts."""
    frame.go_to("parts")
    for name, value in (("form", "trapezoidal"), ("hand", "right"), ("reads", "diameter")):
        box = frame.findChild(QComboBox, name)
        box.setCurrentIndex(box.findData(value))
        box.activated.emit(box.currentIndex())
    for name, text in (
        ("major_mm", "20 mm"),
        ("pitch_mm", "4 mm"),
        ("divisions", "80"),
        ("travel_mm", "160 mm"),
        ("nut_length_mm", "35 mm"),
    ):
        field = frame.findChild(QLineEdit, name)
        field.setFocus()
        field.selectAll()
        keys(field, text)
        press(field, Qt.Key.Key_Return)


def type_readings(frame, condition, phase: str) -> int:
    """Go through every set-up and type what the machine gives, each in the unit it is read in."""
    model = drive_model(frame.session.case.drive)
    machine = PracticeMachine(
        frame.session.case.drive,
        model,
        {**{s.key: 0.0 for s in model.sources}, **condition},
        5 if phase == "before" else 6,
    )
    bench, pod = frame.stop.bench, frame.stop.pod
    count = 0
    for s in set_ups_of("screw_drive"):
        if s.is_optional or not s.applies(frame.session.case.drive) or (phase == "after" and not s.is_proof):
            continue
        bench.choose_set_up(s.key)
        while bench.current is s and (place := bench.place()) is not None:
            raw = machine.reading(
                s, place.key, len(frame.session.job.readings(SCREW, s.key, phase, place.key))
            )
            cable(
                frame,
                pod.entry,
                f"{raw:.1f}" if s.unit == "div" else f"{raw:.5f} mm" if s.is_size else f"{raw * 1000:.1f} um",
            )
            assert pod.refusal.text() == ""
            count += 1
    return count


@pytest.fixture
def metric(make_window):
    window = make_window("new", machine="Lathe 3", machine_class="ordinary")
    window.frame.session.show_in(UnitSystem.METRIC)
    return window


def test_a_metric_lathe_goes_from_arrival_to_proof(metric, tmp_path):
    frame = metric.frame
    session = frame.session

    # Intake: graded, named, and a limit from its own card.
    click(frame, "grade_stops")
    click(frame, "number_one")
    state_the_thread(frame)
    assert session.case.drive.thread.designation == "Tr 20 × 4"
    assert session.case.drive.dial.division_mm == 0.05

    # Survey: all five set-ups typed; the split is what was put in.
    frame.go_to("survey")
    assert type_readings(frame, TRUTH, "before") == 33
    for key in ("nut", "float", "key", "wear.1", "wear.3", "wear.5"):
        q = session.case.estimate.source(key)
        assert q.low - 0.004 <= TRUTH[key] <= q.high + 0.004, key

    # Findings and remedies: the pair is enough, because the thrust is sound.
    frame.go_to("findings")
    assert "The screw is worn" in frame.stop.banner.head.text()
    stop = frame.go_to("remedies")
    assert stop.current == "new_pair"
    stop.reason.setPlainText("thrust is sound")
    click(frame, "choose_remedy")

    # Parts and make: too large, then right; the nut's play.
    frame.go_to("parts").save_to(tmp_path / "screw.dxf")
    assert (tmp_path / "screw.dxf").exists()
    stop = frame.go_to("make")
    stop.show_step("thread")
    cable(frame, stop.entry, "20.95")
    assert "over the band" in stop.banner.head.text()
    band = next(r for r in session.case.part("screw").rows if r.label == "Over wires").value
    middle = (band.low_mm + band.high_mm) / 2
    cable(frame, stop.entry, f"{middle:.4f}")
    assert "Inside the band" in stop.banner.head.text()
    click(frame, "mark_done")
    click(frame, "route_nut")
    stop.show_step("nut_thread")
    cable(frame, stop.entry, "40")
    assert session.case.nut_play_mm() == pytest.approx(0.04)

    # Fit-up, in order.
    stop = frame.go_to("fit_up")
    for _ in session.case.fit_order():
        click(frame, "fit_done")
    assert len(session.job.steps_done("fit")) == len(session.case.fit_order())

    # Prove: the same set-ups, within limit and shown.
    frame.go_to("prove")
    assert type_readings(frame, AFTER, "after") == 23
    rows = session.case.comparisons()
    lash = [r for r in rows if r.set_up == "lash"]
    assert all(r.is_shown for r in lash)
    assert all(state_of(r.after_mm, session.case.limit.limit_mm) is not State.BEYOND for r in lash)
    frame.stop.write_to(tmp_path / "sheet.pdf")
    assert "Written" in frame.stop.said.text()

    # Close and open again: everything is there, and it leaves as JSON unharmed.
    path, seen = session.path, [e.body for e in session.file.entries()]
    metric.leave_job()
    with JobFile.open(path) as again:
        assert [e.body for e in again.entries()] == seen
        entries = job_from_json(job_to_json(again)).entries
        assert Job(entries).chosen(SCREW).reason == "thrust is sound"


def test_every_gesture_of_a_job_can_be_undone_back_to_its_start(metric):
    frame = metric.frame
    click(frame, "grade_stops")
    click(frame, "number_one")
    state_the_thread(frame)
    frame.go_to("survey")
    cable(frame, frame.stop.pod.entry, "6.5")
    gestures = 0
    while frame.session.job.undoable is not None:
        press(frame, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
        gestures += 1
    assert gestures == 11
    assert frame.session.job.number_one is None
    assert frame.session.case.is_measured is False
    while frame.session.job.redoable is not None:
        press(frame, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert frame.session.job.number_one == SCREW
    assert frame.session.case.drive.thread.designation == "Tr 20 × 4"
    assert frame.session.case.is_measured


def test_the_prior_of_a_metric_drive_follows_its_thread(metric):
    state_the_thread(metric.frame)
    model = drive_model(metric.frame.session.case.drive)
    assert model.source("lead").mean == 4.0
    assert model.source("unworn").mean == pytest.approx(17.84, abs=0.2)
