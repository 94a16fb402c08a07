"""The real main window on a temporary job, offscreen. Leaked windows and threads fail the test."""

from __future__ import annotations

import os
import subprocess
import threading
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from PySide6.QtCore import QEvent, QSettings, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from tests.demo import demo_at
from trebb.app.look import theme
from trebb.app.shell.walk import take_what_is_left
from trebb.app.survey.pod import Pod
from trebb.app.window.gui import application
from trebb.app.window.main import Window
from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import JobStarted


@pytest.fixture(scope="session")
def qapp():
    return application()


@pytest.fixture(autouse=True)
def patient(monkeypatch):
    """A plan is waited for, however slow the machine is; a test that is about not waiting says so."""
    monkeypatch.setattr("trebb.app.window.behind.PATIENCE_S", 600.0)


@pytest.fixture
def settings(tmp_path):
    return QSettings(str(tmp_path / "window.ini"), QSettings.Format.IniFormat)


@pytest.fixture
def make_window(qapp, settings, tmp_path):
    """A function that opens the window on a job: "demo", "lathe", "mill", "drill", "new", or the start page
    with None.
    """
    before = set(threading.enumerate())
    windows = []

    def make(job: str | None = "demo", **started) -> Window:
        window = Window(settings)
        windows.append(window)
        if job in DEMOS:
            window.open_file(demo_at(tmp_path / f"{job}.trebb", job))
        elif job == "demo":
            window.open_file(demo_at(tmp_path / "demo.trebb"))
        elif job == "new":
            job_file = JobFile.create(
                tmp_path / (f"new-{len(windows)}.trebb" if len(windows) > 1 else "new.trebb")
            )
            facts = {"shop": "Shed", "machine": "Lathe 9", "machine_kind": "lathe", **started}
            job_file.append([JobStarted(**facts)])
            window.open_file(job_file)
        window.resize(1280, 800)
        window.show()
        QTest.qWaitForWindowExposed(window)
        QApplication.processEvents()
        return window

    yield make
    extra = [w for w in QApplication.topLevelWidgets() if w.isVisible() and w not in windows]
    assert not extra, f"windows of their own: {extra}"
    for window in windows:
        window.close()
        window.deleteLater()
    QApplication.processEvents()
    QApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
    theme.use(theme.LIGHT)
    theme.apply_to(qapp)
    left = [
        t
        for t in set(threading.enumerate()) - before
        if t.is_alive() and t.name.startswith(("indicator", "simulated"))
    ]
    assert not left, f"threads left running: {left}"


@pytest.fixture
def window(make_window):
    return make_window()


@pytest.fixture
def frame(window):
    return window.frame


@pytest.fixture
def surveyed(frame):
    """The demo with every reading taken."""
    take_what_is_left(frame.session.case, "before", frame.session.record)
    return frame


@pytest.fixture
def tiny_disk(tmp_path):
    """A disk with room for next to nothing."""
    place = tmp_path / "full"
    place.mkdir()
    mounted = ["mount", "-t", "tmpfs", "-o", "size=8k", "tmpfs", str(place)]
    if subprocess.run(mounted, check=False, capture_output=True).returncode:
        pytest.skip("nothing can be mounted here")
    yield place
    subprocess.run(["umount", str(place)], check=True)


def press(widget, key, modifiers=Qt.KeyboardModifier.NoModifier):
    QTest.keyClick(widget, key, modifiers)
    QApplication.processEvents()
    until(
        lambda: (
            not any(
                pod.is_waiting
                for window in QApplication.topLevelWidgets()
                for pod in window.findChildren(Pod)
            )
        )
    )


def keys(widget, text: str):
    QTest.keyClicks(widget, text)
    QApplication.processEvents()


def cable(frame, field, text: str):
    """Type as a wedge cable does: the first figure finds its field by itself, Enter takes it."""
    keys(frame, text[0])
    keys(field, text[1:])
    assert field.text() == text
    press(field, Qt.Key.Key_Return)


def click(parent, name: str):
    """Click the visible button of that name."""
    QApplication.processEvents()  # a button just added is shown by the event loop
    found = [b for b in parent.findChildren(QPushButton, name) if b.isVisible()]
    assert len(found) == 1, f"{len(found)} visible buttons named {name}"
    QTest.mouseClick(found[0], Qt.MouseButton.LeftButton)
    QApplication.processEvents()


def until(condition, milliseconds: int = 120_000) -> bool:
    """Wait for something to become true while the window runs."""
    for _ in range(milliseconds // 20):
        if condition():
            return True
        QTest.qWait(20)
    return bool(condition())


def picture(tmp_path: Path) -> Path:
    from PIL import Image

    path = tmp_path / "photo.png"
    Image.new("RGB", (60, 40), (120, 120, 110)).save(path)
    return path
