"""Where the demo job is kept."""

from __future__ import annotations

from pathlib import Path

from platformdirs import user_data_path

from trebb.logbook.demo import DEMOS
from trebb.logbook.store import JobFile, JobFileError


def demo_path(machine: str = "lathe") -> Path:
    """A demo job in the user's data folder."""
    return user_data_path("trebb", appauthor=False) / (
        "demo.trebb" if machine == "lathe" else f"demo-{machine}.trebb"
    )


def open_demo(machine: str = "lathe", *, fresh: bool = False) -> JobFile:
    """A demo job as it was left, or made anew. Raises JobFileError if it cannot be written."""
    path = demo_path(machine)
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
        if fresh:
            for name in (path, path.with_name(path.name + "-wal")):
                name.unlink(missing_ok=True)
    except OSError as error:
        raise JobFileError(
            path,
            f"the folder {path.parent} cannot be written to ({error.strerror}); set XDG_DATA_HOME to one "
            "that can",
        ) from error
    return JobFile.open(path) if path.is_file() else DEMOS[machine](path)
