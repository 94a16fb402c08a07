"""Starting the window."""

from __future__ import annotations

import contextlib
import gc
import os
import signal
import socket
import sys
from pathlib import Path

from PySide6.QtCore import QLocale, QSocketNotifier, QTimer
from PySide6.QtWidgets import QApplication

from trebb.app.look import numerals, spoken, text_size, theme
from trebb.app.window import preferences
from trebb.app.window.main import Window
from trebb.app.window.mishaps import begin_log, catch
from trebb.app.window.own_command import own_command
from trebb.logbook.file.store import JobFile


def application(arguments: list[str] | None = None) -> QApplication:
    """The application with our fonts and colours; one a process."""
    app = QApplication.instance()
    if not isinstance(app, QApplication):
        # Named to Qt and not set by `setStyle`, whose answer is a class of a thousand names to be made.
        app = QApplication([*(arguments or ["trebb"]), "-style", theme.STYLE])
        app.setApplicationName("Trebb")
        spoken.install()
        numerals.follow(QLocale.system())
    theme.load_fonts()
    theme.apply_to(app)
    return app


def start_again(path: Path | None) -> None:
    """Another start of the program, on the same job, once this one has let it go."""
    import subprocess

    arguments = [*own_command(), *([str(path)] if path is not None else [])]
    environment = {k: v for k, v in os.environ.items() if k != "QT_SCALE_FACTOR"}
    subprocess.Popen(arguments, env=environment, start_new_session=True)


COLLECTED_AFTER_MS = 1000  # the first figures, and what they load, stand by then


def collect_from_here() -> None:
    """Garbage is looked for from now on; what stands already is none, and is not looked through again."""
    gc.freeze()
    gc.enable()


def end_as_closed(app: QApplication, window: Window) -> None:
    """SIGTERM, SIGHUP and a logout end the window as closing it does: what is being typed is taken first.

    Python's own handlers run only between two of its lines, which a window that waits has none of: the
    signal's number comes through a pair of sockets that Qt listens to.
    """
    heard, said = socket.socketpair()
    heard.setblocking(False)
    said.setblocking(False)
    listens = QSocketNotifier(heard.fileno(), QSocketNotifier.Type.Read, window)

    def end() -> None:
        with contextlib.suppress(BlockingIOError):
            if {signal.SIGTERM, signal.SIGHUP} & set(heard.recv(16)):
                window.close()

    listens.activated.connect(end)
    window.ended_by = (heard, said)
    for one in (signal.SIGTERM, signal.SIGHUP):
        signal.signal(one, lambda *_: None)
    signal.set_wakeup_fd(said.fileno(), warn_on_full_buffer=False)

    def take_typed() -> None:
        if window.frame is not None:
            window.frame.take_typed()

    app.commitDataRequest.connect(take_typed)


def run(job_file: JobFile | None) -> int:
    """Open the window, on a job or on the start page, until it is closed."""
    settings = preferences.settings_at_home()
    text_size.apply(settings)
    app = application(sys.argv[:1])
    theme.use(theme.LOOKS[preferences.look_of(settings)])
    preferences.use(preferences.kept(settings))
    theme.apply_to(app)
    window = Window(settings)
    window.again = start_again
    app.styleHints().colorSchemeChanged.connect(lambda _: window.follow_desktop())
    begin_log()
    catch(window.say_mishap)
    if job_file is not None:
        window.open_file(job_file, seen_first=True)
        window.offer_first_steps()
    window.show()
    QTimer.singleShot(COLLECTED_AFTER_MS, collect_from_here)
    signal.signal(signal.SIGINT, signal.SIG_DFL)
    end_as_closed(app, window)
    if os.environ.get("TREBB_QUIT_AFTER_MS"):  # lets a script see the window start and end by itself
        QTimer.singleShot(int(os.environ["TREBB_QUIT_AFTER_MS"]), window.close)
    return app.exec()
