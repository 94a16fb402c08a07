"""What to do when something in Trebb itself goes wrong: one sentence, the window stays, a report to read."""

from __future__ import annotations

import logging
import sys
import traceback
from collections.abc import Callable
from pathlib import Path
from types import TracebackType

import platformdirs

import trebb
from trebb.core import clock

KEPT = 20
LOG_BYTES, LOGS = 500_000, 3
SENTENCE = "Something went wrong in Trebb itself. What was shown as taken is safe."


def state_folder() -> Path:
    """Where logs and reports are kept."""
    return platformdirs.user_state_path("trebb", appauthor=False)


def write_report(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> Path | None:
    """A report of where in the program it went wrong, with nothing of the job in it: no values, no file
    names. None where it could not be written.
    """
    import platform

    frames = [f"  {Path(f.filename).name}:{f.lineno} in {f.name}" for f in traceback.extract_tb(trace)[-40:]]
    at = clock.now()
    text = "\n".join(
        (
            f"Trebb {trebb.__version__}, {at:%Y-%m-%d %H:%M} UTC",
            f"Python {platform.python_version()}, {platform.system()} {platform.release()}",
            f"{kind.__name__}",
            *frames,
            "",
            "Nothing of your job is in this report. What you did just before helps whoever reads it.",
            "",
        )
    )
    folder = state_folder() / "reports"
    path = folder / f"report-{at:%Y%m%dT%H%M%S%f}.txt"
    try:
        folder.mkdir(parents=True, exist_ok=True)
        path.write_text(text, encoding="utf-8")
        for old in sorted(folder.glob("report-*.txt"))[:-KEPT]:
            old.unlink(missing_ok=True)
    except OSError:
        return None
    return path


def begin_log() -> None:
    """A log in the state folder, a few small files of it; without one where it cannot be written."""
    try:
        folder = state_folder()
        folder.mkdir(parents=True, exist_ok=True)
        from logging.handlers import RotatingFileHandler

        handler = RotatingFileHandler(folder / "trebb.log", maxBytes=LOG_BYTES, backupCount=LOGS)
    except OSError:
        return
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    log = logging.getLogger("trebb")
    log.setLevel(logging.INFO)
    log.addHandler(handler)
    log.info("Trebb %s begins", trebb.__version__)


def catch(say: Callable[[str, str], object]) -> None:
    """From now on what nobody caught is said by `say(head, text)`, written as a report, and survived."""

    def hook(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        if issubclass(kind, KeyboardInterrupt):
            sys.__excepthook__(kind, error, trace)
            return
        traceback.print_exception(kind, error, trace)
        path = write_report(kind, error, trace)
        logging.getLogger("trebb").error("%s, report %s", kind.__name__, path)
        where = f"A report of where is in {path}; nothing of your job is in it." if path else ""
        say(SENTENCE, where)

    sys.excepthook = hook
