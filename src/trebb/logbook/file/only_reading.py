"""Opening a job or a back-up only to look: nothing is held, nothing can be written."""

from __future__ import annotations

import contextlib
import sqlite3
from pathlib import Path


def reading_connection(path: Path, *, timeout_s: float = 1.0, is_frozen: bool = False) -> sqlite3.Connection:
    """A connection that only reads. `is_frozen`: nobody writes it, and what SQLite
    would mend or look for beside it is left alone.

    Raises sqlite3.Error where it cannot be opened.
    """
    name = str(path.resolve()).replace("%", "%25").replace("?", "%3f").replace("#", "%23")
    options = "mode=ro&immutable=1" if is_frozen else "mode=ro"
    return sqlite3.connect(
        f"file:{name}?{options}", uri=True, timeout=timeout_s, isolation_level=None, check_same_thread=False
    )


def only_reading(
    path: Path, *, timeout_s: float = 1.0, is_frozen: bool = False
) -> contextlib.closing[sqlite3.Connection]:
    """A connection that only reads, to be used in a `with`; see `reading_connection`."""
    return contextlib.closing(reading_connection(path, timeout_s=timeout_s, is_frozen=is_frozen))
