"""Where the demo job is kept."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_data_path

from trebb.logbook.demo.jobs import DEMOS
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile


def demo_path(machine: str = "lathe") -> Path:
    """A demo job in the user's data folder."""
    return user_data_path("trebb", appauthor=False) / (
        "demo.trebb" if machine == "lathe" else f"demo-{machine}.trebb"
    )


def make_demo_job(machine: str = "lathe") -> JobFile:
    """A demo job made anew, in place of one that is there. Raises JobFileError if it cannot be written, or
    another program has it.
    """
    path = demo_path(machine)
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        if path.is_file():
            _refuse_held(path)
            path.unlink()
    except OSError as error:
        raise JobFileError(
            path,
            f"the folder {path.parent} cannot be written to ({error.strerror}); set XDG_DATA_HOME to one "
            "that can",
        ) from error
    return DEMOS[machine](path)


def _refuse_held(path: Path) -> None:
    try:
        JobFile.open(path).close()
    except JobFileError as error:
        if error.is_open_elsewhere:
            raise
