"""What keys alone would reach, behind one button of the strip; and what is dropped on the window."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import Any, Protocol

from PySide6.QtGui import QKeySequence
from PySide6.QtWidgets import QFileDialog, QMenu

from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.core.words import small

PICTURES = (".png", ".jpg", ".jpeg", ".tif", ".tiff", ".webp", ".bmp")
READINGS = (".csv", ".tsv", ".txt", ".xlsx")
JOB = ".trebb"
# How a job is written out: its key, what it is called, the file's ending.
WRITTEN_AS = (
    ("json", "The whole job, as JSON", ".json"),
    ("csv", "Its readings, as CSV", ".csv"),
    ("xlsx", "A spreadsheet", ".xlsx"),
)


class Holding(Protocol):
    """The window, as far as it is asked here."""

    frame: Any

    @property
    def start(self) -> Any:
        """The start page."""
        ...

    def say(self, tone: str, head: str, text: str) -> None:
        """Say something of the whole window, where the user is."""
        ...

    def open_path(self, path: Path) -> bool:
        """Open a job file."""
        ...

    def show_help(self) -> None:
        """Help on what is on the screen."""
        ...

    def show_shop(self) -> None:
        """The shop's memory."""
        ...

    def show_preferences(self) -> None:
        """How the window looks and sounds."""
        ...

    def next_look(self) -> None:
        """Other colours."""
        ...

    def open_another(self) -> None:
        """Choose another job."""
        ...

    def leave_job(self) -> None:
        """Close the job."""
        ...

    def close(self) -> bool:
        """Close the window."""
        ...


def fill(menu: QMenu, window: Holding) -> None:
    """Everything that a job's window can do that is on no button of its stops."""
    frame = window.frame
    if frame is None:
        return
    menu.clear()

    def add(words: str, does: Callable[[], object], keys: str = "") -> None:
        made = menu.addAction(words)
        made.triggered.connect(lambda *_: does())
        if keys:
            made.setShortcut(QKeySequence(keys))
            made.setShortcutVisibleInContextMenu(True)

    add("Help", window.show_help, "F1")
    add("Look something up", window.show_help, "Ctrl+F")
    add("Where the figures come from", frame.show_where_from, "Shift+F1")
    menu.addSeparator()
    add("Print …", frame.show_print, "Ctrl+P")
    add("Bring readings in …", frame.bring_in, "Ctrl+Shift+V")
    for key, words, _ in WRITTEN_AS:
        add(f"Write out: {small(words)} …", partial(ask_where, frame.session, key, window))
    menu.addSeparator()
    add("Numerals for arm’s length", frame.show_from_afar, "F11")
    add("Other colours", window.next_look, "Ctrl+E")
    add("Display and sound", window.show_preferences, "Ctrl+,")
    menu.addSeparator()
    add("The shop's memory", window.show_shop, "Ctrl+M")
    add("Open another job …", window.open_another, "Ctrl+O")
    add("Close the job", window.leave_job, "Ctrl+W")
    add("Close the window", window.close, "Ctrl+Q")


def ask_where(session: Session, key: str, window: Holding) -> None:
    """Ask where a job is to be written, and write it there."""
    _, words, ending = next(one for one in WRITTEN_AS if one[0] == key)
    start = session.path.with_suffix(ending)
    name, _ = QFileDialog.getSaveFileName(window.frame, words, str(start), f"*{ending}")
    if name:
        write_out(session, key, Path(name), window)


def write_out(session: Session, key: str, path: Path, window: Holding) -> None:
    """Write a job to a file; says in the window where it is, or why it could not be."""
    try:
        if key == "json":
            from trebb.logbook.exchange.job_json import export_job

            export_job(session.file, path)
        elif key == "csv":
            from trebb.logbook.exchange.readings_csv import readings_to_csv
            from trebb.logbook.file.writing import write_whole

            write_whole(path, readings_to_csv(session.job).encode("utf-8"))
        else:
            from trebb.logbook.exchange.spreadsheet import write_xlsx

            write_xlsx(session.cases, session.system, path)
    except (TrebbError, OSError) as error:
        window.say("beyond", "Not written.", f"{path}: {error}.")
        return
    window.say("within", f"Written: {path}", "")


def is_taken(path: Path) -> bool:
    """Whether a file that is dropped is one that something can be done with."""
    return path.suffix.lower() in (JOB, *PICTURES, *READINGS)


def dropped(paths: list[Path], window: Holding) -> None:
    """Files dropped on the window: a job is opened, pictures are kept with the part that is chosen, readings
    are shown before they count.
    """
    frame = window.frame
    for path in paths:
        kind = path.suffix.lower()
        if kind == JOB:
            window.open_path(path)
            return
        if frame is None:
            window.start.refuse(f"{path.name}: open its job first, then drop it there")
        elif kind in PICTURES:
            frame.go_to("intake").add_photo(path)
        else:
            frame.bring_in(path)
            return
