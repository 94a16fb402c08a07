"""What stands on the screen can be read whole at every size, and is told to a screen reader."""

from __future__ import annotations

import itertools
import os
import stat
import subprocess
import sys
from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QSettings
from PySide6.QtGui import QAccessible, QHelpEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QPushButton, QToolTip, QWidget

from tests.app.cut_text import shown, troubles
from trebb.app.help.figure_cover import FigureCover
from trebb.app.look import painting, spoken, text_size
from trebb.app.look.said import Said
from trebb.app.shell.walk import take_what_is_left
from trebb.app.shots import settle_layout
from trebb.app.stops.register import ALL_STOPS
from trebb.app.window.machine_panel import AssemblyList
from trebb.logbook.log.entries import AssemblyAdded

SIZES = ((1100, 700), (2560, 1440))


def visited(frame, *, stops=None, with_readings: bool = True):
    """Every stop of one assembly of each family, everything read."""
    cases, seen = frame.session.cases, set()
    for assembly in cases.kind.assemblies:
        family = cases.of(assembly.key).family
        if family in seen:
            continue
        seen.add(family)
        if with_readings and cases.of(assembly.key).has_set_ups:
            take_what_is_left(cases.of(assembly.key), "before", frame.session.record)
        frame.session.choose(assembly.key)
        for stop in ALL_STOPS:
            if stops is None or stop.key in stops:
                frame.go_to(stop.key)
                frame.rail.settle()
                settle_layout()
                yield assembly.key, stop.key


def shown_pictures(window) -> list[QWidget]:
    return [
        w
        for w in shown(window)
        if isinstance(w, painting.Painted) and not isinstance(w, QPushButton | QComboBox)
    ]


def unnamed(window) -> set[str]:
    """Pictures and lists that a screen reader is told no name of, or not what they are."""
    found = set()
    for widget in shown_pictures(window):
        told = QAccessible.queryAccessibleInterface(widget)
        is_told = told.role() in (QAccessible.Role.List, QAccessible.Role.Graphic)
        if not is_told or not told.text(QAccessible.Text.Name):
            found.add(type(widget).__name__)
    return found


@pytest.mark.parametrize("machine", ["lathe", "mill", "drill"])
def test_no_word_is_cut_or_lies_on_another_in_the_smallest_window(make_window, machine):
    window = make_window(machine)
    window.resize(*SIZES[0])
    found, nameless = [], set()
    for assembly, stop in visited(window.frame):
        found += [f"{assembly}, {stop}: {line}" for line in troubles(window)]
        nameless |= unnamed(window)
    assert not found, "\n".join(found[:20])
    assert not nameless
    assert not painting.TROUBLES


def test_no_word_is_cut_in_a_large_window_in_metric_units(make_window):
    window = make_window("lathe")
    window.resize(*SIZES[1])
    window.frame.switch_units()
    shown = visited(window.frame, stops=("survey", "parts"), with_readings=False)
    found = [f"{assembly}, {stop}: {line}" for assembly, stop in shown for line in troubles(window)]
    assert not found, "\n".join(found[:20])


@pytest.mark.parametrize("size", SIZES)
def test_no_word_is_cut_on_any_page_of_a_stop(make_window, size):
    """Pages within stops, with a plan to show, symptoms marked and a strip-down begun."""
    from trebb.app.stops.plan import PAGES
    from trebb.logbook.log.entries import MatterStated, RemedyChosen

    window = make_window("lathe")
    window.resize(*size)
    frame = window.frame
    take_what_is_left(frame.session.cases.of("cross_slide"), "before", frame.session.record)
    frame.session.record(RemedyChosen(assembly="cross_slide", remedy="pair_thrust", reason=""))
    frame.session.record(
        MatterStated("symptom", "handle_nothing", "there", "yes"),
        MatterStated("strip", "off1", "assembly", "cross_slide"),
        MatterStated("strip", "off1", "what", "Chip guard with its three screws and their washers"),
    )
    found = []

    def look(name: str) -> None:
        QTest.qWait(10)
        settle_layout()
        found.extend(f"{name}: {line}" for line in troubles(window))

    for page in ("machine", "symptoms"):
        frame.go_to("intake").show_page(page)
        look(page)
    plan = frame.go_to("plan")
    for key, *_ in PAGES:
        plan.show_page(key)
        look(key)
    frame.go_to("strip_down")
    look("strip-down")
    window.show_help()
    look("help")
    window.show_help()
    frame.show_where_from()
    cover = frame.findChild(FigureCover)
    while cover._waiting:
        QTest.qWait(20)
    look("where from")
    window.leave_job()
    look("start")
    for show in (window.show_shop, window.show_practice, window.show_backups, window.show_preferences):
        show()
        look(show.__name__)
    assert not found, "\n".join(found[:25])


def panel_of(frame, widget) -> str:
    for name, panel in (("machine", frame.machine), ("centre", frame.centre), ("side", frame.side)):
        if panel.isAncestorOf(widget):
            return name
    return "around"


def gone_round(frame) -> list[QWidget]:
    """What Tab reaches, in its order."""
    order: list[QWidget] = []
    for _ in range(200):
        frame.focusNextChild()
        at = QApplication.focusWidget()
        if at is None or at in order:
            return order
        order.append(at)
    raise AssertionError("Tab never comes round")


@pytest.mark.parametrize("machine", ["lathe", "mill"])
def test_tab_goes_round_as_the_eye_does(make_window, machine):
    """In each panel from top to bottom: no step up by more than a few rows."""
    window = make_window(machine)
    frame = window.frame
    window.activateWindow()
    up = set()
    for stop in ALL_STOPS:
        frame.go_to(stop.key)
        QTest.qWait(20)
        order = gone_round(frame)
        assert len(order) > 5
        back = []
        for _ in order:
            frame.focusPreviousChild()
            back.append(QApplication.focusWidget())
        assert back == order[::-1]
        for panel in ("machine", "centre", "side"):
            tops = [(w.mapTo(frame, QPoint(0, 0)).y(), w) for w in order if panel_of(frame, w) == panel]
            for (before, one), (after, other) in itertools.pairwise(tops):
                if after < before - 60:
                    names = [w.objectName() or type(w).__name__ for w in (one, other)]
                    up.add(f"{stop.key}, {panel}: from {names[0]} {before - after} px up to {names[1]}")
    assert not up, "\n".join(sorted(up)[:30])


def test_words_are_whole_at_half_as_many_pixels_again(tmp_path):
    script = """
import sys
from PySide6.QtCore import QSettings
from PySide6.QtTest import QTest
from tests.app.cut_text import troubles
from trebb.app.window.gui import application
from trebb.app.window.main import Window
from trebb.app.shots import settle_layout
from trebb.logbook.demo.jobs import make_demo
app = application()
window = Window(QSettings(sys.argv[1] + "/w.ini", QSettings.Format.IniFormat))
window.open_file(make_demo(__import__("pathlib").Path(sys.argv[1]) / "demo.trebb"))
window.resize(1100, 700)
window.show()
assert window.devicePixelRatio() == 1.5
found = []
for key in ("intake", "survey", "findings", "parts", "make", "plan"):
    window.frame.go_to(key)
    window.frame.rail.settle()
    settle_layout()
    found += [key + ": " + line for line in troubles(window)]
window.close()
print("\\n".join(found))
"""
    environment = {**os.environ, "QT_SCALE_FACTOR": "1.5", "XDG_DATA_HOME": str(tmp_path)}
    done = subprocess.run(
        [sys.executable, "-c", script, str(tmp_path)],
        capture_output=True, text=True, env=environment, check=False, cwd=Path(__file__).parents[2],
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    assert not done.stdout.strip()


def test_a_cut_word_is_found_by_the_measure(make_window):
    window = make_window()
    button = window.frame.strip.plan
    button.setFixedWidth(14)
    assert any("Plan" in line for line in troubles(window))


def test_words_cut_in_a_row_are_whole_under_the_mouse(make_window, monkeypatch):
    window = make_window("lathe")
    window.resize(1100, 700)
    long = "Shaft of the thread dial, bent by a knock at the depot"
    added = AssemblyAdded(assembly="long_shaft", family="shaft", label=long, under="gearbox")
    window.frame.session.record(added)
    window.frame.session.choose("gearbox")
    rows = window.frame.machine.list
    QTest.qWait(20)
    window.grab()
    cut = next(one for one in rows.said if one.is_cut)
    shown = []
    monkeypatch.setattr(QToolTip, "showText", lambda at, text, widget: shown.append(text))
    at = cut.spot.center().toPoint()
    QApplication.sendEvent(rows, QHelpEvent(QHelpEvent.Type.ToolTip, at, rows.mapToGlobal(at)))
    assert cut.text.split()[0] in shown[0]
    assert "…" not in shown[0]


# what is heard ---------------------------------------------------------------------------------


def test_a_painted_list_has_its_rows_and_says_which_is_chosen(make_window):
    window = make_window("lathe")
    window.frame.machine.list.fill()
    window.grab()
    rows = window.findChild(AssemblyList)
    told = QAccessible.queryAccessibleInterface(rows)
    assert told.role() == QAccessible.Role.List
    named = [told.child(i) for i in range(told.childCount())]
    assert len(named) == len(rows.listed())
    assert all(row.role() == QAccessible.Role.ListItem for row in named)
    first = next(a for a in rows.listed() if a.key == window.frame.session.assembly)
    chosen = [row for row in named if row.state().selected]
    assert [row.text(QAccessible.Text.Name).split(",")[0] for row in chosen] == [first.label]
    assert rows.rect().contains(rows.mapFromGlobal(chosen[0].rect().center()))
    heard = {row.text(QAccessible.Text.Name) for row in named}
    assert "Cross-slide screw, 26.5 thou, beyond" in heard, "what the shape says is heard too"
    assert not chosen[0].state().invisible
    window.frame.hide()
    assert chosen[0].state().invisible


def test_the_stops_are_heard_one_by_one(window):
    window.grab()
    told = QAccessible.queryAccessibleInterface(window.frame.rail)
    names = [told.child(i).text(QAccessible.Text.Name) for i in range(told.childCount())]
    assert len(names) == 8
    assert names[1].startswith("Survey, ")


def test_the_needle_is_heard_with_its_value(window):
    frame = window.frame
    frame.go_to("survey")
    frame.link.use_simulated()
    for _ in range(50):
        QTest.qWait(20)
        if "–" not in frame.stop.pod.numeral.text():
            break
    told = QAccessible.queryAccessibleInterface(frame.stop.pod.face)
    assert told.text(QAccessible.Text.Name) == "Dial of the instrument"
    assert frame.stop.pod.numeral.text() in told.text(QAccessible.Text.Value)


def test_rows_are_read_from_left_to_right_and_columns_from_the_top():
    from PySide6.QtCore import QRectF

    said = [
        Said("right", QRectF(50, 0, 10, 20)),
        Said("left", QRectF(0, 2, 10, 18)),
        Said("below", QRectF(0, 30, 10, 20)),
    ]
    assert [words for words, _ in spoken.rows_of(said)] == ["left, right", "below"]
    assert [words for words, _ in spoken.rows_of(said, in_columns=True)] == ["left, below", "right"]


def test_a_figure_read_twice_is_heard_twice_and_one_painted_twice_once():
    from PySide6.QtCore import QRectF

    said = [Said("26.5", QRectF(x, 0, 30, 20)) for x in (0, 0, 40)]
    said.append(Said("beyond", QRectF(0, 0, 9, 20), is_shape=True))
    assert [words for words, _ in spoken.rows_of(said)] == ["26.5, 26.5, beyond"]


# how large -------------------------------------------------------------------------------------


@pytest.fixture
def desktop(tmp_path, monkeypatch):
    """A desktop that says nothing of its text yet: a function to make it say so."""
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    monkeypatch.setenv("PATH", str(tmp_path / "bin"))
    monkeypatch.setenv("XDG_CURRENT_DESKTOP", "any")
    for folder in ("config", "bin"):
        (tmp_path / folder).mkdir()

    def say(tool: str = "", font: str = "") -> None:
        if tool:
            path = tmp_path / "bin" / "gsettings"
            path.write_text(f"#!/bin/sh\necho {tool}\n")
            path.chmod(path.stat().st_mode | stat.S_IEXEC)
        if font:
            (tmp_path / "config" / "kdeglobals").write_text(f"[General]\nfont={font}\n")

    return say


@pytest.mark.parametrize(
    ("tool", "font", "factor"),
    [
        ("", "", 1.0),
        ("1.25", "", 1.25),
        ("1.0", "", 1.0),
        ("not a number", "", 1.0),
        ("", "Noto Sans,15,-1,5,50", 1.5),
        ("", "Noto Sans,10,-1,5,50", 1.0),
        ("", "broken", 1.0),
        ("3.0", "", 2.0),
    ],
)
def test_text_follows_the_desktop(desktop, settings, tool, font, factor):
    desktop(tool, font)
    assert text_size.now(settings) == factor


def test_a_size_chosen_here_stands_above_the_desktops(desktop, settings):
    desktop("1.5")
    assert text_size.step(settings, 1) == 1.75
    assert text_size.now(QSettings(settings.fileName(), QSettings.Format.IniFormat)) == 1.75
    assert text_size.step(settings, 1) == 2.0
    assert text_size.step(settings, 1) is None


def test_a_factor_set_from_outside_stands(settings, monkeypatch):
    monkeypatch.setenv("QT_SCALE_FACTOR", "3")
    settings.setValue(text_size.KEY, 1.5)
    text_size.apply(settings)
    assert os.environ["QT_SCALE_FACTOR"] == "3"


def test_another_size_opens_the_same_job_anew_and_loses_nothing(make_window, monkeypatch):
    window = make_window()
    monkeypatch.setattr(text_size, "of_desktop", lambda: 1.0)
    started = []
    window.again = started.append
    path, count = window.frame.session.path, len(window.frame.session.file.entries())
    window.resize_text(1)
    assert started == [path]
    assert window.frame is None
    from trebb.logbook.file.store import JobFile

    with JobFile.open(path) as again:
        assert len(again.entries()) == count


def test_what_is_smaller_than_it_holds_can_be_scrolled(make_window):
    window = make_window()
    window.setMinimumSize(400, 300)
    window.resize(700, 500)
    QTest.qWait(20)
    area = window.centralWidget()
    assert area.horizontalScrollBar().maximum() > 0
    assert area.verticalScrollBar().maximum() > 0
    assert window.pages.size().width() >= 1100
    assert window.childAt(QPoint(10, 10)) is not None
