"""What nobody did changes nothing, and what somebody typed is kept: the wheel, words half typed, the end."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import textwrap
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import (
    QAbstractSlider,
    QAbstractSpinBox,
    QApplication,
    QComboBox,
    QLineEdit,
    QPlainTextEdit,
    QScrollBar,
    QWidget,
)

from tests.app.conftest import click, keys, press, until
from tests.app.cut_text import shown
from trebb.app.look import typed
from trebb.app.look.painting import Painted
from trebb.app.look.widgets import Settles
from trebb.app.stops.register import ALL_STOPS
from trebb.logbook.cases.quotes import quote_of
from trebb.logbook.demo.jobs import DEMOS, make_demo
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.fold import Job

PLAN_PAGES = ("plan_work", "plan_calendar", "plan_stock", "plan_money", "plan_oil", "plan_after")
OF_AN_ASSEMBLY = ("survey", "findings", "remedies", "parts", "make", "prove")
HELD = (QComboBox, QAbstractSpinBox, QAbstractSlider, QLineEdit, QPlainTextEdit, Painted)


@pytest.fixture
def short_rest(monkeypatch):
    """Whoever types rests sooner: no test waits a second for each field."""
    monkeypatch.setattr(typed, "REST_MS", 20)


def turn_wheel(window, widget: QWidget, notches: int) -> None:
    """The window system's own wheel event over the middle of a widget, as from a mouse."""
    at = widget.mapTo(window, QPoint(widget.width() // 2, widget.height() // 2))
    QTest.wheelEvent(window.windowHandle(), at, QPoint(0, 120 * notches))


def values_of(frame) -> list[tuple[str, object]]:
    """What every field on the screen holds."""
    found: list[tuple[str, object]] = []
    for widget in shown(frame):
        if isinstance(widget, QScrollBar):
            continue
        if isinstance(widget, QComboBox):
            found.append((widget.objectName(), widget.currentIndex()))
        elif isinstance(widget, QLineEdit):
            found.append((widget.objectName(), widget.text()))
        elif isinstance(widget, QAbstractSlider):
            found.append((widget.objectName(), widget.value()))
    return found


def stands_in(frame, stop: str):
    """The stop with each of its pages and figures in turn."""
    frame.go_to(stop)
    yield
    if stop == "plan":
        for name in PLAN_PAGES:
            for page in frame.findChildren(QWidget, name):
                if page.isVisible():
                    page.click()
                    yield
    elif stop == "intake":
        for chip in list(shown(frame)):
            if chip.objectName().startswith("intake_page"):
                chip.click()
                yield


@pytest.mark.parametrize("machine", DEMOS)
def test_the_wheel_over_every_field_of_every_stop_writes_nothing(make_window, machine):
    window = make_window(machine)
    frame = window.frame
    turned, kinds = 0, set()
    newest = frame.session.file.newest
    for i, assembly in enumerate({a.family: a.key for a in frame.session.cases.kind.assemblies}.values()):
        frame.session.choose(assembly)
        for stop in ALL_STOPS:
            if i and stop.key not in OF_AN_ASSEMBLY:
                continue  # the same for every part of the machine
            for _ in stands_in(frame, stop.key):
                QApplication.processEvents()
                before, aimed = values_of(frame), getattr(frame.stop, "bench", None)
                place = aimed.place_key if aimed is not None else None
                for widget in list(shown(frame)):
                    if isinstance(widget, HELD) and not isinstance(widget, QScrollBar):
                        turn_wheel(window, widget, -3)
                        turned += 1
                        kinds.add(type(widget).__name__)
                QApplication.processEvents()
                assert values_of(frame) == before, f"{assembly}, {stop.key}"
                assert aimed is None or aimed.place_key == place, f"{assembly}, {stop.key}"
                assert frame.session.file.newest == newest, f"{assembly}, {stop.key}"
    assert turned > 300
    assert {"Choice", "LengthEdit", "Notes"} <= kinds


def test_the_wheel_over_a_closed_list_scrolls_the_panel_it_stands_in(make_window):
    window = make_window("lathe")
    frame = window.frame
    frame.session.choose("cross_slide")
    stop = frame.go_to("parts")
    QApplication.processEvents()
    box = next(
        b
        for b in frame.findChildren(QComboBox)
        if b.isVisible() and b.visibleRegion().boundingRect().height() == b.height()
        and any(bar.maximum() > 0 for bar in scroll_bars(b))
    )  # fmt: skip
    bar = next(bar for bar in scroll_bars(box) if bar.maximum() > 0)
    bar.setValue(0)
    QApplication.processEvents()
    at, chosen = bar.value(), box.currentIndex()
    turn_wheel(window, box, -2)
    assert bar.value() > at
    assert box.currentIndex() == chosen
    assert stop is frame.stop


def scroll_bars(widget: QWidget) -> list[QScrollBar]:
    """Vertical bars of what a widget stands in, the nearest first."""
    from PySide6.QtWidgets import QScrollArea

    found, at = [], widget.parentWidget()
    while at is not None:
        if isinstance(at, QScrollArea):
            found.append(at.verticalScrollBar())
        at = at.parentWidget()
    return found


def test_a_slider_takes_the_wheel_once_it_was_clicked_into(make_window):
    window = make_window("lathe")
    frame = window.frame
    frame.session.choose("ways")
    frame.go_to("findings")
    QApplication.processEvents()
    slider = next(s for s in frame.findChildren(QAbstractSlider) if s.objectName() and s.isVisible())
    before = slider.value()
    turn_wheel(window, slider, 2)
    turn_wheel(window, slider, -2)
    turn_wheel(window, slider, -2)
    assert slider.value() == before
    QTest.mouseClick(slider, Qt.MouseButton.LeftButton)
    clicked = slider.value()
    turn_wheel(window, slider, 1)
    turn_wheel(window, slider, 1)
    assert slider.value() != clicked
    frame.setFocus()
    after = slider.value()
    turn_wheel(window, slider, 2)
    assert slider.value() == after


def test_a_size_that_spoils_its_part_is_refused_in_the_field_and_not_in_the_file(make_window):
    frame = make_window("lathe").frame
    frame.session.choose("quill_bore")
    frame.go_to("parts").show_part("bush")
    newest = frame.session.file.newest
    field = field_of(frame, "bush_outside")
    field.setFocus()
    field.selectAll()
    keys(field, "0.1 in")
    press(field, Qt.Key.Key_Return)
    assert field.property("refused") == "true"
    assert field.text() == "0.1 in"
    assert frame.session.file.newest == newest


# words ------------------------------------------------------------------------------------------


def stored(path: Path) -> Job:
    """The job as another program would read it now."""
    from trebb.logbook.file.only_reading import only_reading
    from trebb.logbook.file.store import body_of
    from trebb.logbook.log.entries import Entry

    with only_reading(path) as db:
        rows = db.execute("SELECT id, at, gesture, kind, body FROM entry ORDER BY id").fetchall()
    return Job([Entry(i, at, g, body_of(kind, body)) for i, at, g, kind, body in rows])


def field_of(frame, name: str):
    QApplication.processEvents()
    return next(w for w in frame.findChildren(QWidget, name) if w.isVisible())


def test_a_note_is_taken_at_rest_while_it_is_still_being_typed(make_window, short_rest):
    frame = make_window("new").frame
    frame.go_to("intake")
    note = field_of(frame, "owners_words")
    note.setFocus()
    keys(note, "growls when")
    assert until(lambda: stored(frame.session.path).card("words") == "growls when")
    keys(note, " warm")  # the cursor stands where it stood
    assert note.toPlainText() == "growls when warm"
    assert until(lambda: stored(frame.session.path).card("words") == "growls when warm")


def test_a_note_on_a_part_that_nobody_graded_grades_nothing(make_window, short_rest):
    frame = make_window("new").frame
    frame.go_to("intake")
    note = field_of(frame, "grade_note")
    note.setFocus()
    keys(note, "a weld")
    press(note, Qt.Key.Key_Tab)
    assert frame.session.job.grade(frame.session.assembly) is None
    assert note.toPlainText() == "a weld"
    assert stored(frame.session.path).note(f"seen.{frame.session.assembly}") == "a weld"


def test_a_quote_and_a_reason_are_taken_by_the_button_that_is_pressed(surveyed):
    frame = surveyed
    frame.session.choose("cross_slide")
    stop = frame.go_to("remedies")
    remedy = stop.current
    reason = field_of(frame, "remedy_reason")
    reason.setFocus()
    keys(reason, "no better one will be found")
    price = field_of(frame, "quote_price")
    price.setFocus()
    keys(price, "180")
    click(frame, "choose_remedy")
    job = stored(frame.session.path)
    quote = quote_of(job, "cross_slide", remedy)
    assert quote is not None
    assert quote.price == 180
    assert job.chosen("cross_slide").reason == "no better one will be found"


def test_a_reason_not_yet_given_with_a_choice_stands_there_again_when_the_job_is_opened(surveyed, short_rest):
    frame = surveyed
    window = frame.window()
    frame.session.choose("cross_slide")
    stop = frame.go_to("remedies")
    key, path = stop.current, frame.session.path
    reason = field_of(frame, "remedy_reason")
    reason.setFocus()
    keys(reason, "the screw is good")
    window.leave_job()
    QApplication.processEvents()
    window.open_path(path)
    again = window.frame
    again.session.choose("cross_slide")
    again.go_to("remedies").look_at(key)
    assert field_of(again, "remedy_reason").toPlainText() == "the screw is good"
    other = next(r.key for r, _ in again.session.case.predictions() if r.key != key)
    again.stop.look_at(other)
    assert field_of(again, "remedy_reason").toPlainText() == ""


def test_a_line_that_its_gate_refused_stays_and_outlives_the_window(make_window):
    window = make_window("lathe")
    frame = window.frame
    path = frame.session.path
    frame.session.choose("spindle")
    frame.go_to("strip_down")
    line = field_of(frame, "came_off")
    line.setFocus()
    keys(line, "drawbar, 1 nut")
    press(line, Qt.Key.Key_Return)
    assert line.text() == "drawbar, 1 nut"
    window.leave_job()
    QApplication.processEvents()
    window.open_path(path)
    window.frame.session.choose("spindle")
    window.frame.go_to("strip_down")
    assert field_of(window.frame, "came_off").text() == "drawbar, 1 nut"


def test_words_that_a_full_disk_refused_stay_and_are_taken_later(make_window, short_rest, monkeypatch):
    from trebb.logbook.file.file_trouble import JobFileError

    frame = make_window("new").frame
    frame.go_to("intake")
    note = field_of(frame, "owners_words")
    note.setFocus()

    def full(self, *_):
        raise JobFileError(self.path, "not recorded: the disk is full")

    with monkeypatch.context() as patch:
        patch.setattr(JobFile, "append", full)
        keys(note, "hums")
        assert until(frame.trouble.isVisible)
    assert note.toPlainText() == "hums"
    keys(note, " low")
    assert until(lambda: stored(frame.session.path).card("words") == "hums low")


def test_every_field_of_words_is_one_that_is_settled(make_window):
    """No text field that an entry is made of stands outside of what the window settles at its end."""
    search = {"typed_reading", "help_search", "", "prefix"}
    for machine in DEMOS:
        frame = make_window(machine).frame
        for stop in ALL_STOPS:
            for _ in stands_in(frame, stop.key):
                loose = {
                    w.objectName()
                    for w in shown(frame)
                    if isinstance(w, QLineEdit | QPlainTextEdit) and not isinstance(w, Settles)
                }  # fmt: skip
                assert loose <= search, f"{machine}, {stop.key}: {loose - search}"


SCRIPT = """
import sys
from pathlib import Path
from PySide6.QtCore import QTimer
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QWidget
from trebb.app.look import typed
from trebb.app.window import gui
from trebb.logbook.file.store import JobFile

typed.REST_MS = 10 ** 8  # it is the end that takes the words, not the rest
real = gui.Window.show
def show(window):
    real(window)
    def begin():
        window.frame.go_to("intake")
        note = next(w for w in window.frame.findChildren(QWidget, "owners_words") if w.isVisible())
        note.setFocus()
        note.selectAll()
        QTest.keyClicks(note, "howls in back gear")
        print("typed", flush=True)
    QTimer.singleShot(300, begin)
gui.Window.show = show
sys.exit(gui.run(JobFile.open(Path(sys.argv[1]))))
"""


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGHUP])
def test_words_being_typed_are_taken_when_the_window_is_told_to_end(tmp_path, how):
    path = tmp_path / "job.trebb"
    make_demo(path).close()
    running = subprocess.Popen(
        [sys.executable, "-c", textwrap.dedent(SCRIPT), str(path)],
        stdout=subprocess.PIPE, text=True, env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )  # fmt: skip
    assert running.stdout.readline().strip() == "typed"
    running.send_signal(how)
    assert running.wait(timeout=120) == 0
    running.stdout.close()
    assert stored(path).card("words") == "howls in back gear"
