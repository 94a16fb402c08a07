"""The frame: stops, units, undo, keys, looks, and the start page."""

from __future__ import annotations

import itertools
import subprocess
import sys

import numpy as np
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import (
    QAbstractButton,
    QApplication,
    QComboBox,
    QFrame,
    QLabel,
    QLineEdit,
    QPlainTextEdit,
)

from tests.app.conftest import click, press
from trebb.app.look import theme
from trebb.app.stops.register import ALL_STOPS, STOPS
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SCREW
from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.log.entries import CardChanged, NoteWritten

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


@pytest.mark.parametrize("look", list(theme.LOOKS))
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
def test_text_stands_out_from_its_ground(look, text, ground):
    least = 7.0 if look == "contrast" else 4.5
    assert contrast(getattr(theme.LOOKS[look], text), getattr(theme.LOOKS[look], ground)) >= least


# What is seen with one kind of cone missing, of linear red, green, blue (Machado, Oliveira, Fernandes 2009,
# severity 1).
CONES = {
    "red": (
        (0.152286, 1.052583, -0.204868),
        (0.114503, 0.786281, 0.099216),
        (-0.003882, -0.048116, 1.051998),
    ),
    "green": (
        (0.367322, 0.860646, -0.227968),
        (0.280085, 0.672501, 0.047413),
        (-0.011820, 0.042940, 0.968881),
    ),
    "blue": (
        (1.255528, -0.076749, -0.178779),
        (-0.078411, 0.930809, 0.147602),
        (0.004733, 0.691367, 0.303900),
    ),
}


def lab(name: str, cone: str):
    """CIE L*a*b* (D65) of a colour as it is seen without a kind of cone."""
    colour = np.array([QColor(name).redF(), QColor(name).greenF(), QColor(name).blueF()])
    linear = np.where(colour <= 0.04045, colour / 12.92, ((colour + 0.055) / 1.055) ** 2.4)
    seen = np.clip(np.array(CONES[cone]) @ linear, 0, 1)
    xyz = (
        np.array(((0.4124, 0.3576, 0.1805), (0.2126, 0.7152, 0.0722), (0.0193, 0.1192, 0.9505)))
        @ seen
        / np.array((0.9505, 1.0, 1.089))
    )
    f = np.where(xyz > 0.008856, np.cbrt(xyz), 7.787 * xyz + 16 / 116)
    return np.array((116 * f[1] - 16, 500 * (f[0] - f[1]), 200 * (f[1] - f[2])))


@pytest.mark.parametrize("look", list(theme.LOOKS))
@pytest.mark.parametrize("cone", list(CONES))
def test_states_tell_apart_without_a_kind_of_cone(look, cone):
    """Shapes carry the state; the colours repeat it: a difference of ten is seen at a glance."""
    roles = theme.LOOKS[look]
    for a, b in itertools.combinations(("within", "near", "beyond"), 2):
        apart = float(np.linalg.norm(lab(getattr(roles, a), cone) - lab(getattr(roles, b), cone)))
        assert apart >= 10, (a, b, apart)


def test_other_colours_keep_job_and_stop_and_come_round_again(window):
    window.frame.go_to("findings")
    for look in ("evening", "contrast", "light"):
        window.next_look()
        assert theme.roles() is theme.LOOKS[look]
        assert window.settings.value("look") == look
        assert STOPS[window.frame.index].key == "findings"
    assert window.frame.session.case.is_measured


def nameless(widget) -> list[str]:
    """Everything that can have the focus and tells a screen reader no name."""
    from PySide6.QtGui import QAccessible

    found: list[str] = []

    def walk(one) -> None:
        for i in range(one.childCount()):
            child = one.child(i)
            if child is None or not child.isValid() or child.state().invisible:
                continue
            if child.state().focusable and not child.text(QAccessible.Text.Name):
                found.append(f"{child.role()} {child.object()}")
            walk(child)

    walk(QAccessible.queryAccessibleInterface(widget))
    return found


@pytest.mark.parametrize("machine", ["lathe", "mill"])
def test_everything_that_can_have_the_focus_has_a_name(make_window, machine):
    window = make_window(machine)
    for stop in ALL_STOPS:
        window.frame.go_to(stop.key)
        QApplication.processEvents()
        assert nameless(window) == [], stop.key
    window.leave_job()
    for page in (window.show_practice, window.show_shop, window.show_backups):
        page()
        QApplication.processEvents()
        assert nameless(window) == []


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


def test_a_job_open_elsewhere_whose_window_answers_is_not_opened_twice(make_window):
    window = make_window()
    window._hang_bell()
    other = make_window(None)
    assert not other.open_path(window.frame.session.path)
    assert "open in another Trebb" in other.start.banner.head.text()


def test_a_job_open_elsewhere_can_be_looked_at_and_is_followed(make_window):
    window = make_window()
    session = window.frame.session
    other = make_window(None)
    window._hang_bell()
    window.bell.close()  # on a slow machine it hangs by now
    assert other.open_path(session.path)  # nobody answers: its window is on another machine
    looked = other.frame
    QApplication.processEvents()
    (banner,) = (w for w in looked.findChildren(QFrame, "looked_at") if w.isVisible())
    assert "another program has this job. Nothing can be added" in banner.text.text()
    count = looked.session.file.newest
    assert looked.session.record(NoteWritten(topic="left", text="from outside")) == []
    assert "nothing can be added" in looked.trouble.head.text()
    assert session.record(NoteWritten(topic="left", text="oil cap"))
    assert looked.session.job.note("left") == ""
    looked.look_at_file()
    assert looked.session.job.note("left") == "oil cap"
    assert looked.session.file.newest == count + 1
    other.leave_job()
    assert session.record(NoteWritten(topic="left", text="found"))


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


OPENS = """
import sys
from pathlib import Path
from PySide6.QtCore import QSettings
from PySide6.QtWidgets import QApplication, QFrame
from trebb.app.window.gui import application
from trebb.app.window.main import Window

app = application()
window = Window(QSettings(sys.argv[2], QSettings.Format.IniFormat))
window.open_path(Path(sys.argv[1]))
window.show()
QApplication.processEvents()
assert window.frame is not None
print(*[name for name in sys.argv[3:] if name in sys.modules])
window.close()
"""


@pytest.mark.parametrize("job", list(DEMOS))
def test_a_job_opens_without_loading_what_it_does_not_need_yet(job, tmp_path):
    path = tmp_path / f"{job}.trebb"
    DEMOS[job](path).close()
    heavy = ("scipy", "ezdxf", "ortools", "openpyxl", "icalendar", "pypdf", "jsonschema", "PIL", "pyqtgraph")
    done = subprocess.run(
        [sys.executable, "-c", OPENS, str(path), str(tmp_path / "w.ini"), *heavy],
        capture_output=True,
        text=True,
        check=True,
    )
    assert done.stdout.strip() == ""
