"""Display and sound as chosen; the five gestures to begin with."""

from __future__ import annotations

import itertools
import wave

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLineEdit, QPushButton

from tests.app.conftest import click, press, until
from tests.app.test_read_and_heard import desktop  # noqa: F401
from trebb.app.look import sounds, spoken, theme
from trebb.app.shell.walk import choose_least_work, take_what_is_left
from trebb.app.stops.register import ALL_STOPS
from trebb.app.window import preferences
from trebb.app.window.first_steps import OWN_STEPS, STEPS
from trebb.app.window.preferences import Preferences, desktop_moves, kept

CTRL = Qt.KeyboardModifier.ControlModifier


@pytest.fixture(autouse=True)
def as_before(qapp):
    yield
    preferences.use(Preferences())
    theme.apply_to(qapp)


def test_what_is_chosen_is_kept_and_shown_again(make_window):
    window = make_window()
    press(window.frame, Qt.Key.Key_Comma, CTRL)
    window._page.boxes["touch"].setChecked(True)
    assert window._page.boxes["touch"].isChecked()  # the page was made anew, in the new size
    assert kept(window.settings).touch
    click(window, "look_evening")
    assert theme.roles() is theme.EVENING
    assert window.settings.value("look") == "evening"
    click(window, "preferences_back")
    assert window.pages.currentWidget() is window.frame


def low(window) -> list[str]:
    """What is pressed and is lower than a gloved finger needs."""
    found = []
    for kind in (QPushButton, QLineEdit, QComboBox):
        for widget in window.findChildren(kind):
            inside_combo = isinstance(widget.parentWidget(), QComboBox)
            if widget.isVisible() and not inside_combo and widget.height() < theme.TOUCH:
                found.append(f"{widget.objectName()} {widget.height()}")
    return found


@pytest.mark.parametrize("machine", ["lathe", "drill"])
def test_in_shop_mode_everything_that_is_pressed_is_large_enough(make_window, machine):
    window = make_window(machine)
    window.prefer(Preferences(touch=True))
    frame = window.frame
    case = frame.session.cases.first()
    take_what_is_left(case, "before", frame.session.record)
    choose_least_work(case, frame.session.record, "")
    for stop in ALL_STOPS:
        frame.go_to(stop.key)
        QTest.qWait(30)
        assert not low(window), stop.key


def test_in_shop_mode_rows_of_lists_are_as_high(make_window):
    window = make_window("lathe")
    window.prefer(Preferences(touch=True))
    window.frame.go_to("make")
    window.frame.go_to("survey")
    QTest.qWait(30)
    window.grab()
    rows = spoken.spoken_rows(window.frame.machine.list)
    tops = [spot.top() for _, spot in rows]
    assert len(tops) > 5
    assert min(b - a for a, b in itertools.pairwise(tops)) >= theme.TOUCH - 3


def test_without_movement_the_rail_is_there_at_once(make_window):
    window = make_window()
    window.prefer(Preferences(moves=False))
    window.frame.go(4)
    assert window.frame.rail._carriage == 4.0


@pytest.mark.parametrize(("tool", "moves"), [("false", False), ("true", True), ("nonsense", True)])
def test_movement_follows_the_desktop_until_somebody_chooses(desktop, settings, tool, moves):  # noqa: F811
    desktop(tool)
    assert desktop_moves() is moves
    assert kept(settings).moves is moves
    preferences.keep(settings, Preferences(moves=not moves))
    assert kept(settings).moves is not moves


# sounds ----------------------------------------------------------------------------------------


@pytest.fixture
def system(tmp_path, monkeypatch):
    """A system with a player and a voice that write down what they were told."""
    heard = tmp_path / "heard"
    folder = tmp_path / "programs"
    folder.mkdir()
    for name in ("paplay", "espeak-ng"):
        path = folder / name
        path.write_text(f'#!/bin/sh\necho "{name} $@" >> {heard}\n')
        path.chmod(0o755)
    monkeypatch.setenv("PATH", f"{folder}:/usr/bin:/bin")
    monkeypatch.setattr(sounds, "PLAYERS", ("paplay",))
    monkeypatch.setattr(sounds, "SPEAKERS", ("espeak-ng",))
    monkeypatch.setenv("XDG_CACHE_HOME", str(tmp_path / "cache"))
    return lambda: heard.read_text() if heard.exists() else ""


def test_a_tone_is_played_for_each_reading_by_what_the_system_has(window, system):
    frame = window.frame
    frame.go_to("survey")
    frame.stop.bench.choose_set_up("end_float")
    frame.stop.pod.take_typed("6 thou")
    assert until(lambda: "paplay" in system())
    with wave.open(str(sounds.tone_file())) as tone:
        assert tone.getnframes() == int(sounds.RATE * sounds.TONE_S)


def test_no_tone_where_it_is_turned_off(window, system):
    window.prefer(Preferences(sound=False))
    window.frame.go_to("survey")
    window.frame.stop.bench.choose_set_up("end_float")
    window.frame.stop.pod.take_typed("6 thou")
    QTest.qWait(100)
    assert system() == ""


@pytest.mark.parametrize("speech", [True, False])
def test_a_value_taken_from_afar_is_spoken_where_that_was_chosen(window, system, speech):
    window.prefer(Preferences(speech=speech, sound=False))
    frame = window.frame
    frame.go_to("survey")
    frame.stop.bench.choose_set_up("end_float")
    frame.show_from_afar()
    frame.stop.pod.take_typed("6.5 thou")
    if speech:
        assert until(lambda: "espeak-ng 6.5 thou" in system())
    else:
        QTest.qWait(150)
        assert system() == ""


@pytest.mark.parametrize(
    ("text", "said"),
    [("−1.5 thou", "minus 1.5 thou"), ("12 µm", "12 microns"), ("0.30 mm", "0.30 millimetres")],
)
def test_a_value_is_said_in_words(text, said):
    assert sounds.words_of(text) == said


# the five gestures -----------------------------------------------------------------------------


def test_the_five_gestures_are_asked_for_one_by_one_and_seen_when_done(make_window):
    window = make_window("demo")
    window.offer_first_steps()
    frame, steps = window.frame, window.frame.first_steps
    frame.go_to("survey")
    assert "1 of 5" in steps.head.text()
    assert until(lambda: frame.stop.pod.take_button.isEnabled())
    press(frame, Qt.Key.Key_Space)
    assert "2 of 5" in steps.head.text()
    press(frame, Qt.Key.Key_3, CTRL)
    assert "3 of 5" in steps.head.text()
    press(frame, Qt.Key.Key_4, CTRL)
    assert "3 of 5" in steps.head.text()  # going there is not choosing
    choose_least_work(frame.session.case, frame.session.record, "")
    assert "4 of 5" in steps.head.text()
    press(frame, Qt.Key.Key_5, CTRL)
    assert "5 of 5" in steps.head.text()
    press(frame, Qt.Key.Key_Z, CTRL)
    assert "all there is" in steps.head.text()
    assert steps.at == len(STEPS)
    assert window.settings.value("first_steps") == "done"


def test_put_away_once_they_do_not_come_again(make_window):
    window = make_window("demo")
    window.offer_first_steps()
    click(window, "first_steps_close")
    assert not window.frame.first_steps.isVisible()
    window.frame.first_steps = None
    window.offer_first_steps()
    assert window.frame.first_steps is None


def test_a_job_of_ones_own_begins_with_five_gestures_too(make_window, settings, tmp_path):
    window = make_window(None)
    window.start.machine.setText("Mill 3")
    window.start.kind.setCurrentIndex(window.start.kind.findData("mill"))
    window.start.start_new(tmp_path / "mill.trebb")
    frame, steps = window.frame, window.frame.first_steps
    assert steps.at == 1, "its kind was chosen when it was begun"
    frame.session.choose("table")
    click(frame, "number_one")
    assert steps.at == 2
    survey = frame.go_to("survey")
    survey.bench.choose_set_up("rock")
    for figure, stop in (("4.5", "findings"), ("5", "survey")):
        survey.pod.entry.setText(figure)
        press(survey.pod.entry, Qt.Key.Key_Return)
        frame.go_to(stop)
        survey = frame.go_to("survey") if stop == "findings" else survey
    assert steps.at == len(OWN_STEPS)
    assert settings.value("own_first_steps") == "done"
    assert settings.value("first_steps") is None


def test_they_are_shown_for_the_first_job_only(make_window, tmp_path, settings):
    settings.setValue("own_first_steps", "done")
    window = make_window(None)
    window.start.machine.setText("Mill 3")
    window.start.start_new(tmp_path / "mill.trebb")
    assert window.frame.first_steps is None
    QApplication.processEvents()
