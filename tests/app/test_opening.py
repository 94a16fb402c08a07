"""A window that opens is seen with its readings; what is worked out of them follows a moment later."""

import os
import subprocess
import sys
import threading

import pytest
from PySide6.QtCore import QSettings

from trebb.app.window.loading import lazily, leave_sources_unread
from trebb.app.window.main import Window
from trebb.app.window.session import WAITS
from trebb.logbook.demo.jobs import DEMOS, make_demo


@pytest.fixture
def opening(qapp, tmp_path):
    """A function that opens a window as a start of the program does, and leaves it as it is first painted."""
    windows = []

    def make(job_file) -> Window:
        window = Window(QSettings(str(tmp_path / f"{len(windows)}.ini"), QSettings.Format.IniFormat))
        windows.append(window)
        window.open_file(job_file, seen_first=True)
        window.resize(1280, 800)
        window.show()
        return window

    yield make
    for window in windows:
        window.close()
        window.deleteLater()


def words(window) -> dict[str, object]:
    frame = window.frame
    return {
        "list": [figure for _, _, figure, _ in frame.machine.list._rows],
        "rail": frame.rail.words(),
        "next": frame.stop.worth.rows(),
        "said": frame.stop.bench.banner.head.text() if not frame.stop.bench.banner.isHidden() else "",
    }


def test_readings_stand_before_their_figures_and_the_figures_are_those_of_any_window(
    qtbot, make_window, opening, tmp_path
):
    window = opening(make_demo(tmp_path / "seen.trebb"))
    first = words(window)
    assert set(first["list"]) <= {WAITS, "not measured", "by eye"}
    assert first["list"].count(WAITS) > 3
    assert first["rail"][2] == WAITS
    assert not first["next"]
    assert not first["said"]
    assert window.frame.stop.bench.title.text() == "Lash at the handwheel"
    qtbot.waitUntil(lambda: not window.frame.session.figures_wait, timeout=240_000)
    window.frame.machine.list.fill()
    usual = make_window("demo")
    usual.frame.machine.list.fill()
    assert words(window) == words(usual)
    assert WAITS not in str(words(window))


@pytest.mark.parametrize("machine", list(DEMOS))
def test_every_demo_machine_has_its_figures_when_it_was_seen(qtbot, opening, machine, tmp_path):
    window = opening(DEMOS[machine](tmp_path / "job.trebb"))
    qtbot.waitUntil(lambda: not window.frame.session.figures_wait, timeout=240_000)
    assert window.frame.rail.words()[2] != WAITS
    qtbot.waitUntil(lambda: WAITS not in words(window)["list"], timeout=240_000)


def test_a_gesture_before_the_figures_is_taken_and_brings_them(opening, tmp_path):
    window = opening(make_demo(tmp_path / "quick.trebb"))
    frame, session = window.frame, window.frame.session
    pod = frame.stop.pod
    before = len(session.job.readings(session.assembly, frame.stop.bench.current.key))
    pod.entry.setText("14")
    pod.entry.returnPressed.emit()
    assert len(session.job.readings(session.assembly, frame.stop.bench.current.key)) == before + 1
    assert not session.figures_wait
    assert frame.rail.words()[2] != WAITS


def test_another_stop_brings_the_figures(opening, tmp_path):
    window = opening(make_demo(tmp_path / "go.trebb"))
    stop = window.frame.go_to("findings")
    assert not window.frame.session.figures_wait
    assert stop.banner.head.text()


def test_the_needle_of_a_practice_machine_is_there_when_the_window_was_seen(qtbot, opening, tmp_path):
    window = opening(make_demo(tmp_path / "needle.trebb"))
    assert window.frame.link.kind != "simulated"
    qtbot.waitUntil(lambda: window.frame.link.kind == "simulated", timeout=240_000)
    qtbot.waitUntil(lambda: window.frame.stop.pod.numeral.text() != "–", timeout=240_000)


FIRST_PAINT = """
import sys
from pathlib import Path
from trebb.app.window.loading import load_before_qt
load_before_qt()
from trebb.logbook.file.store import JobFile
job_file = JobFile.open(Path(sys.argv[1]))
from PySide6.QtCore import QSettings
from trebb.app.window.gui import application
from trebb.app.window.main import Window
app = application()
window = Window(QSettings(sys.argv[2], QSettings.Format.IniFormat))
window.open_file(job_file, seen_first=True)
window.show()
window.grab()
print(type(sys.modules["numpy"]).__name__, "numpy.linalg" in sys.modules)
while window.frame.session.figures_wait:
    app.processEvents()
print(type(sys.modules["numpy"]).__name__, "numpy.linalg" in sys.modules)
window.close()
"""


def test_a_window_is_painted_without_what_only_figures_need(tmp_path):
    make_demo(tmp_path / "first.trebb").close()
    done = subprocess.run(
        [sys.executable, "-c", FIRST_PAINT, str(tmp_path / "first.trebb"), str(tmp_path / "w.ini")],
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    assert done.stdout.split() == ["_Later", "False", "module", "True"]


STARTED = """
import gc, sys
from pathlib import Path
from PySide6.QtCore import QTimer
from trebb.app.window import gui
from trebb.app.window.loading import load_before_qt
load_before_qt()
from trebb.logbook.file.store import JobFile
job_file = JobFile.open(Path(sys.argv[1]))
print(gc.isenabled())
found = []
def wait():
    if gc.isenabled() and gc.get_freeze_count() > 10_000:
        print("collected from here")
        gui.QApplication.closeAllWindows()
    else:
        QTimer.singleShot(50, wait)
QTimer.singleShot(0, wait)
gui.run(job_file)
"""


def test_garbage_is_looked_for_once_the_window_stands(tmp_path):
    make_demo(tmp_path / "first.trebb").close()
    done = subprocess.run(
        [sys.executable, "-c", STARTED, str(tmp_path / "first.trebb")],
        capture_output=True, text=True, check=True, env={**os.environ, "XDG_CONFIG_HOME": str(tmp_path)},
    )  # fmt: skip
    assert done.stdout.split("\n")[:2] == ["False", "collected from here"]


def test_a_module_loads_when_something_of_it_is_asked_for(tmp_path, monkeypatch):
    (tmp_path / "slow_sums.py").write_text(
        "loaded = []\nloaded.append(1)\n\ndef twice(x):\n    return 2 * x\n"
    )
    monkeypatch.syspath_prepend(str(tmp_path))
    monkeypatch.delitem(sys.modules, "slow_sums", raising=False)
    leave_sources_unread()  # Qt's binding would ask the module for its source
    lazily("slow_sums")
    import slow_sums  # type: ignore[import-not-found]

    assert "twice" not in object.__getattribute__(slow_sums, "__dict__")
    assert slow_sums.__name__ == "slow_sums"
    assert slow_sums.twice(3) == 6
    lazily("slow_sums")
    assert slow_sums.loaded == [1]
    lazily("no_such_module_anywhere")
    assert "no_such_module_anywhere" not in sys.modules


def test_two_threads_that_ask_at_once_find_the_module_whole(tmp_path, monkeypatch):
    (tmp_path / "slow_whole.py").write_text("import threading\nthreading.Event().wait(0.05)\nready = 7\n")
    monkeypatch.syspath_prepend(str(tmp_path))
    leave_sources_unread()
    lazily("slow_whole")
    import slow_whole  # type: ignore[import-not-found]

    found = []
    threads = [threading.Thread(target=lambda: found.append(slow_whole.ready)) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert found == [7, 7, 7, 7]
    monkeypatch.delitem(sys.modules, "slow_whole")


def test_a_job_that_was_left_leaves_nothing_behind(make_window):
    """Frame, stops, session and fold go with their job: what is connected to a session holds it unseen."""
    import gc
    import weakref

    from PySide6.QtCore import QEvent
    from PySide6.QtWidgets import QApplication

    from trebb.app.stops.register import ALL_STOPS

    window = make_window("lathe")
    path = window.frame.session.path
    for _ in range(2):
        frame = window.frame
        held = [weakref.ref(one) for one in (frame, frame.session, frame.session.job, frame.session.cases)]
        for stop in ALL_STOPS:
            held.append(weakref.ref(frame.go_to(stop.key)))
            QApplication.processEvents()
        del frame
        window.leave_job()
        QApplication.processEvents()
        QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
        gc.collect()
        assert [type(one()).__name__ for one in held if one() is not None] == []
        assert window.open_path(path)


@pytest.mark.parametrize("kind", ["lathe", "mill", "drill"])
def test_no_piece_of_a_stop_is_a_window_of_its_own_for_a_moment(make_window, qapp, kind):
    """A widget shown before it has its place flashes up, and takes the keyboard from the window."""
    from PySide6.QtCore import QEvent, QObject
    from PySide6.QtWidgets import QWidget

    from trebb.app.stops.register import ALL_STOPS

    shown = []

    class Watch(QObject):
        def eventFilter(self, watched, event):
            if event.type() == QEvent.Type.Show and isinstance(watched, QWidget) and watched.isWindow():
                shown.append(type(watched).__name__)
            return False

    watch = Watch()
    qapp.installEventFilter(watch)
    window = make_window(kind)
    for assembly in window.frame.session.job.machine.assemblies[:4]:
        window.frame.session.choose(assembly.key)
        for stop in ALL_STOPS:
            window.frame.go_to(stop.key)
            qapp.processEvents()
    qapp.removeEventFilter(watch)
    assert shown == ["Window"]
    assert qapp.activeWindow() is window
