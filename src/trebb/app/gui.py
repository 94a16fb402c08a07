"""Starting the window."""

from __future__ import annotations

import gc
import os
import signal
import sys
from pathlib import Path

from platformdirs import user_config_path
from PySide6.QtCore import QLocale, QSettings, QTimer
from PySide6.QtWidgets import QApplication

from trebb.app import numerals, preferences, spoken, text_size, theme
from trebb.app.mishaps import begin_log, catch
from trebb.app.own_command import own_command
from trebb.app.window import Window
from trebb.logbook.store import JobFile


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


def settings_file() -> Path:
    """Window state and recent jobs; nothing of a job is kept here."""
    return user_config_path("trebb", appauthor=False) / "window.ini"


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


def run(job_file: JobFile | None) -> int:
    """Open the window, on a job or on the start page, until it is closed."""
    settings = QSettings(str(settings_file()), QSettings.Format.IniFormat)
    text_size.apply(settings)
    app = application(sys.argv[:1])
    look = str(settings.value("look") or ("evening" if settings.value("evening") == "yes" else "light"))
    if look != "light" and look in theme.LOOKS:
        theme.use(theme.LOOKS[look])
        theme.apply_to(app)
    preferences.use(preferences.kept(settings))
    theme.apply_to(app)
    window = Window(settings)
    window.again = start_again
    begin_log()
    catch(window.say_mishap)
    if job_file is not None:
        window.open_file(job_file, seen_first=True)
        window.offer_first_steps()
    window.show()
    QTimer.singleShot(COLLECTED_AFTER_MS, collect_from_here)
    signal.signal(signal.SIGINT, signal.SIG_DFL)
    if os.environ.get("TREBB_QUIT_AFTER_MS"):  # lets a script see the window start and end by itself
        QTimer.singleShot(int(os.environ["TREBB_QUIT_AFTER_MS"]), window.close)
    return app.exec()
