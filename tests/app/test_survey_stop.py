"""Readings at the bench: space, typed, struck, asked about."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLineEdit

from tests.app.conftest import cable, click, keys, press, until
from trebb.app.window.from_afar import FromAfar
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SCREW
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.fold import Job


def count(frame, set_up="lash"):
    return sum(r.struck is None for r in frame.session.job.readings(SCREW, set_up))


def entry(frame) -> QLineEdit:
    return frame.stop.pod.entry


def test_space_takes_what_the_simulated_instrument_shows_and_the_next_place_is_chosen(frame):
    bench = frame.stop.bench
    place, before = bench.place().key, count(frame)
    assert until(lambda: frame.stop.pod.take_button.isEnabled() and abs(frame.stop.pod._raw - 22.5) < 1e-6)
    press(frame, Qt.Key.Key_Space)
    assert count(frame) == before + 1
    taken = frame.session.job.readings(SCREW, "lash", place=place)[-1].taken
    assert (taken.value, taken.instrument) == (22.5, "simulated")
    assert bench.place().key != place
    assert any(r.key == place and len(r.figures) == 2 for r in bench.view().places.rows())


def test_after_a_typed_reading_space_takes_the_next_one(frame):
    frame.stop.bench.choose_set_up("end_float")
    cable(frame, entry(frame), "0.0061")
    assert QApplication.focusWidget() is frame
    assert until(lambda: abs((frame.stop.pod._raw or 9) - 0.155) < 0.02)
    press(QApplication.focusWidget(), Qt.Key.Key_Space)
    assert count(frame, "end_float") == 2


def test_space_in_the_empty_field_takes_the_instrument_s_reading(frame):
    assert until(lambda: frame.stop.pod._raw is not None)
    before = count(frame)
    press(entry(frame), Qt.Key.Key_Space)
    assert (count(frame), entry(frame).text()) == (before + 1, "")


def test_units_switch_while_someone_types(frame):
    entry(frame).setFocus()
    press(entry(frame), Qt.Key.Key_U, Qt.KeyboardModifier.ControlModifier)
    assert frame.session.system is UnitSystem.METRIC


def test_keys_that_nothing_has_in_focus_belong_to_the_bench(window):
    frame = window.frame
    assert until(lambda: frame.stop.pod._raw is not None)
    before = count(frame)
    press(window, Qt.Key.Key_Space)
    press(window, Qt.Key.Key_X)
    assert count(frame) == before + 1


def test_a_wedge_cable_types_into_the_pod_without_a_click(make_window):
    frame = make_window("new").frame
    frame.go_to("survey")
    click(frame, "dial_radius")
    cable(frame, entry(frame), "24.5")
    assert frame.session.job.readings(SCREW, "lash")[0].taken.value == 24.5
    assert entry(frame).text() == ""


@pytest.mark.parametrize(
    ("typed", "said"),
    [
        ("much", "write a length"),
        ("3 kg", "is not a length"),
        ("-4", "not less than nothing"),
        ("9 in", "more than the slide's whole travel"),
    ],
)
def test_a_typed_reading_that_will_not_do_is_refused_where_it_was_typed(frame, typed, said):
    before = count(frame, "push_pull")
    frame.stop.bench.choose_set_up("push_pull")
    keys(entry(frame), typed)
    press(entry(frame), Qt.Key.Key_Return)
    assert said in frame.stop.pod.refusal.text()
    assert frame.stop.pod.refusal.isVisible()
    assert entry(frame).text() == typed
    assert count(frame, "push_pull") == before


def test_a_size_of_another_thread_is_questioned_before_it_is_recorded(frame):
    frame.stop.bench.choose_set_up("thread_size")
    keys(entry(frame), "1.9")
    press(entry(frame), Qt.Key.Key_Return)
    assert "is expected here" in frame.stop.pod.refusal.text()
    assert count(frame, "thread_size") == 0


def test_a_length_is_taken_in_any_unit(frame):
    frame.stop.bench.choose_set_up("end_float")
    keys(entry(frame), "0,15 mm")
    press(entry(frame), Qt.Key.Key_Return)
    assert frame.session.job.readings(SCREW, "end_float")[0].taken.value == 0.15


def test_a_reading_is_struck_out_with_a_reason_and_stays_on_the_screen(frame):
    before = count(frame)
    last = frame.session.job.last_reading(SCREW, "before")
    frame.stop.bench.choose_set_up("push_pull")
    press(frame, Qt.Key.Key_Backspace)
    assert "Strike out" in frame.stop.bench.banner.head.text()
    click(frame, "strike_out")
    struck = [r for r in frame.session.job.readings(SCREW, "push_pull") if r.struck]
    assert [(r.id, r.struck) for r in struck] == [(last.id, "bumped")]
    assert count(frame) == before
    shown = [f for r in frame.stop.bench.view().places.rows() for f in r.figures if f.id == last.id]
    assert shown[0].struck == "bumped"


def test_a_reading_fifty_times_its_neighbours_is_asked_about_and_kept_if_so(frame):
    frame.stop.bench.choose_set_up("push_pull")
    before = count(frame, "push_pull")
    keys(entry(frame), "0.4 thou")
    press(entry(frame), Qt.Key.Key_Return)
    assert "the others read about" in frame.stop.pod.refusal.text()
    assert entry(frame).text() == "0.4 thou"
    assert count(frame, "push_pull") == before
    press(entry(frame), Qt.Key.Key_Return)  # it is so
    assert count(frame, "push_pull") == before + 1
    assert "keep, or strike out?" not in frame.stop.bench.banner.head.text()
    # Not so far that it is asked before, and far enough to be asked about.
    keys(entry(frame), "2 thou")
    press(entry(frame), Qt.Key.Key_Return)
    assert "keep, or strike out?" in frame.stop.bench.banner.head.text()
    kept = count(frame, "push_pull")
    click(frame, "keep_reading")
    assert count(frame, "push_pull") == kept
    assert "keep, or strike out?" not in frame.stop.bench.banner.head.text()


def test_the_dial_s_convention_is_asked_once(make_window):
    frame = make_window("new").frame
    frame.go_to("survey")
    assert "How is this dial numbered?" in frame.stop.bench.banner.head.text()
    click(frame, "dial_diameter")
    assert frame.session.case.drive.reads_diameter
    assert "Nobody has said which thread" in frame.stop.bench.banner.head.text()


def test_up_and_down_choose_the_place_and_a_place_may_be_repeated(frame):
    frame.stop.bench.choose_place("station 1")
    press(frame, Qt.Key.Key_Down)
    assert frame.stop.bench.place().key == "station 2"
    press(frame, Qt.Key.Key_Up)
    assert until(lambda: frame.stop.pod._raw is not None)
    before = len(frame.session.job.readings(SCREW, "lash", place="station 1"))
    press(frame, Qt.Key.Key_Space)
    assert len(frame.session.job.readings(SCREW, "lash", place="station 1")) == before + 1


def test_what_is_worth_next_is_ranked_anew_on_every_reading(frame):
    assert frame.stop.worth.rows()[0][0] == "end_float"
    press(frame.stop.worth, Qt.Key.Key_Return)
    assert frame.stop.bench.current.key == "end_float"
    for _ in range(3):
        keys(entry(frame), "6.1 thou")
        press(entry(frame), Qt.Key.Key_Return)
    assert frame.stop.worth.rows()[0][0] == "thread_size"


def test_a_port_that_is_not_there_is_said_in_the_pod_and_the_old_instrument_stays(frame):
    frame.stop.pod.use("serial", "/dev/ttyNONE")
    assert "cannot be opened" in frame.stop.pod.refusal.text()
    assert frame.link.kind == "simulated"


def test_an_unplugged_cable_stops_the_numerals_and_loses_nothing(frame):
    before = count(frame)
    frame.link.simulated.unplug()
    assert until(lambda: "unplugged" in frame.stop.pod.source.text())
    assert frame.stop.pod.numeral.text() == "–"
    press(frame, Qt.Key.Key_Space)
    assert "Nothing to take" in frame.stop.pod.refusal.text()
    assert count(frame) == before
    frame.link.simulated.plug()
    assert until(lambda: frame.stop.pod.numeral.text() != "–")


def test_from_afar_space_takes_and_escape_goes_back(frame):
    assert until(lambda: frame.stop.pod._raw is not None)
    before = count(frame)
    press(frame, Qt.Key.Key_F11)
    (view,) = frame.findChildren(FromAfar)
    assert view.isVisible()
    press(view, Qt.Key.Key_Space)
    assert count(frame) == before + 1
    press(view, Qt.Key.Key_Escape)
    QApplication.processEvents()
    assert not any(v.isVisible() for v in frame.findChildren(FromAfar))


def test_a_full_disk_is_said_and_nothing_is_shown_as_taken(frame):
    before = count(frame)
    frame.session.file._db.execute("PRAGMA max_page_count = 1")
    frame.session.file._db.execute("PRAGMA cache_size = 1")
    for _ in range(400):
        if not frame.session.record(*[r.taken for r in frame.session.job.readings(SCREW, "lash")]):
            break
        before = count(frame)
    assert "not recorded: the disk is full" in frame.trouble.head.text()
    assert frame.trouble.isVisible()
    assert count(frame) == before


def test_everything_is_there_after_closing_and_opening_again(make_window, tmp_path):
    window = make_window()
    assert until(lambda: window.frame.stop.pod._raw is not None)
    press(window.frame, Qt.Key.Key_Space)
    seen = [(r.id, r.taken) for r in window.frame.session.job.all_readings()]
    window.leave_job()
    with JobFile.open(tmp_path / "demo.trebb") as again:
        assert [(r.id, r.taken) for r in Job(again.entries()).all_readings()] == seen


def test_a_part_without_set_ups_says_not_measured(frame):
    frame.session.choose("gearbox")
    assert frame.stop.other.isVisible()
    assert frame.stop.other.text.text().startswith("Not measured")
    press(frame, Qt.Key.Key_Space)
    QTest.qWait(10)
    assert count(frame) == 8
