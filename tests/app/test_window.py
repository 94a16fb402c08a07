"""The frame: stops, units, undo, keys, looks, and the start page."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QAbstractButton, QApplication, QComboBox, QLabel, QLineEdit, QPlainTextEdit

from tests.app.conftest import click, press
from trebb.app import theme
from trebb.app.keys_sheet import KeysSheet
from trebb.app.stops.register import ALL_STOPS, STOPS
from trebb.core.units import UnitSystem
from trebb.logbook.casework import SCREW
from trebb.logbook.entries import CardChanged

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.mark.parametrize("number", range(1, 9))
def test_ctrl_and_a_figure_moves_to_a_stop(frame, number):
    press(frame, getattr(Qt.Key, f"Key_{number}"), CTRL)
    assert frame.index == number - 1
    assert frame.stop.isVisible()


def test_the_rail_says_how_far_each_stop_is(frame):
    assert dict(zip([s.key for s in STOPS], frame.rail.words(), strict=True))["survey"] == "7 of 20"
    frame.rail.setFocus()
    press(frame.rail, Qt.Key.Key_Right)
    assert STOPS[frame.index].key == "findings"


@pytest.mark.parametrize("stop", [s.key for s in ALL_STOPS])
def test_switching_units_never_changes_a_stored_number(surveyed, stop):
    before = [e.body for e in surveyed.session.file.entries()]
    surveyed.go_to(stop)
    press(surveyed, Qt.Key.Key_U, CTRL)
    assert surveyed.session.system is UnitSystem.METRIC
    assert not any(" thou" in w.text() for w in surveyed.stop.findChildren(QLabel) if w.isVisible())
    press(surveyed, Qt.Key.Key_U, CTRL)
    assert [e.body for e in surveyed.session.file.entries()] == before


def test_undo_and_redo_of_any_gesture(frame):
    frame.session.record(CardChanged(field="year", value="1961"))
    press(frame, Qt.Key.Key_Z, CTRL)
    assert frame.session.job.card("year") == "1958"
    press(frame, Qt.Key.Key_Z, CTRL | Qt.KeyboardModifier.ShiftModifier)
    assert frame.session.job.card("year") == "1961"
    assert "line of the card" in frame.strip.undo.toolTip()


def test_the_power_lock_is_an_entry(frame):
    assert frame.session.job.is_power_locked
    click(frame, "power_lock")
    assert not frame.session.job.is_power_locked
    assert frame.strip.lock.text() == "power on"


def test_the_list_of_assemblies_is_moved_through_with_keys(frame):
    frame.machine.list.setFocus()
    press(frame.machine.list, Qt.Key.Key_Down)
    assert frame.session.assembly == "cross_gib"
    press(frame.machine.list, Qt.Key.Key_Up)
    assert frame.session.assembly == SCREW


def test_f1_shows_the_keys_until_a_key(window):
    press(window, Qt.Key.Key_F1)
    (sheet,) = window.findChildren(KeysSheet)
    assert sheet.isVisible()
    press(sheet, Qt.Key.Key_Escape)
    assert not any(s.isVisible() for s in window.findChildren(KeysSheet))


@pytest.mark.parametrize("stop", [s.key for s in ALL_STOPS])
def test_everything_that_can_be_pressed_or_filled_has_a_tooltip(surveyed, stop):
    surveyed.go_to(stop)
    found = [
        w
        for kind in (QAbstractButton, QLineEdit, QComboBox, QPlainTextEdit)
        for w in surveyed.findChildren(kind)
    ]
    assert found
    assert [
        w.objectName() or w.text() for w in found if not w.toolTip() and not isinstance(w.parent(), QComboBox)
    ] == []


@pytest.mark.parametrize("stop", [s.key for s in ALL_STOPS])
def test_nothing_written_is_smaller_than_13_pixels(surveyed, stop):
    surveyed.go_to(stop)
    sizes = {w.font().pixelSize() for w in surveyed.findChildren(QLabel) if w.isVisible()}
    assert min(sizes) >= 13


@pytest.mark.parametrize("stop", [s.key for s in ALL_STOPS])
@pytest.mark.parametrize("size", [(1100, 700), (2560, 1440)])
def test_every_stop_holds_at_the_smallest_and_the_largest_size(make_window, stop, size):
    window = make_window()
    window.resize(*size)
    window.frame.go_to(stop)
    QApplication.processEvents()
    assert (window.width(), window.height()) == size
    assert window.frame.stop.width() > 400


def luminance(colour: QColor) -> float:
    parts = [
        c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4
        for c in (colour.redF(), colour.greenF(), colour.blueF())
    ]
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


def contrast(a: str, b: str) -> float:
    high, low = sorted((luminance(QColor(a)), luminance(QColor(b))), reverse=True)
    return (high + 0.05) / (low + 0.05)


@pytest.mark.parametrize("roles", [theme.LIGHT, theme.EVENING], ids=["light", "evening"])
@pytest.mark.parametrize(
    ("text", "ground"),
    [
        ("ink", "sheet"),
        ("ink", "ground"),
        ("soft", "sheet"),
        ("soft", "ground"),
        ("blue", "sheet"),
        ("blue", "blue_wash"),
        ("ink", "blue_wash"),
        ("on_blue", "blue"),
        ("within", "within_wash"),
        ("within", "sheet"),
        ("near", "near_wash"),
        ("near", "sheet"),
        ("beyond", "beyond_wash"),
        ("beyond", "sheet"),
        ("rail_text", "rail"),
        ("rail_soft", "rail"),
        ("brass_text", "brass"),
        ("soft", "metal"),
        ("soft", "blue_wash"),
        ("beyond", "blue_wash"),
    ],
)
def test_text_stands_out_from_its_ground(roles, text, ground):
    assert contrast(getattr(roles, text), getattr(roles, ground)) >= 4.5


def test_evening_colours_keep_job_and_stop(window):
    window.frame.go_to("findings")
    window.switch_evening()
    assert theme.roles() is theme.EVENING
    assert STOPS[window.frame.index].key == "findings"
    assert window.frame.session.case.is_measured


def test_the_shipped_face_is_used_and_its_figures_stand_in_columns(qapp):
    assert theme.font().family() == "Barlow Semi Condensed"
    assert {"Barlow Semi Condensed", "Barlow Semi Condensed Medium", "Barlow Semi Condensed SemiBold"} <= set(
        theme.QFontDatabase.families()
    )


# the start page -------------------------------------------------------------------------------


def test_a_new_job_is_started_and_then_stands_among_the_recent(make_window, tmp_path):
    window = make_window(None)
    window.start.machine.setText("Lathe 4")
    window.start.start_new(tmp_path / "lathe4.trebb")
    assert window.frame.session.job.started.machine == "Lathe 4"
    assert STOPS[window.frame.index].key == "intake"
    window.leave_job()
    assert [p.name for p in window.recent] == ["lathe4.trebb"]


def test_a_new_job_without_a_name_is_asked_for_one(make_window):
    window = make_window(None)
    click(window, "start_job")
    assert "has no name yet" in window.start.refusal.text()


@pytest.mark.parametrize(
    ("make", "said"),
    [
        (lambda p: p.write_text("letter " * 30), "this is not a Trebb job"),
        (lambda p: None, "there is no such file"),
    ],
)
def test_a_file_that_will_not_open_is_said_on_the_start_page(make_window, tmp_path, make, said):
    window = make_window(None)
    make(tmp_path / "x.trebb")
    assert not window.open_path(tmp_path / "x.trebb")
    assert said in window.start.banner.head.text()


def test_a_job_open_elsewhere_is_said_on_the_start_page(make_window):
    window = make_window()
    path = window.frame.session.path
    other = make_window(None)
    assert not other.open_path(path)
    assert "open in another Trebb" in other.start.banner.head.text()


def test_a_place_that_cannot_be_written_is_said_where_the_job_is_started(make_window):
    from pathlib import Path

    window = make_window(None)
    window.start.machine.setText("Lathe")
    window.start.start_new(Path("/proc/lathe.trebb"))
    assert "cannot be written to" in window.start.refusal.text()
    assert window.frame is None


def test_the_window_remembers_its_units(make_window):
    window = make_window()
    window.frame.switch_units()
    path = window.frame.session.path
    window.leave_job()
    window.open_path(path)
    assert window.frame.session.system is UnitSystem.METRIC
