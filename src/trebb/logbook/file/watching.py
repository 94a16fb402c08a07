"""A live feed of a job: entries as they come, read from its file while another program writes it."""

from __future__ import annotations

import json
import sqlite3
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.only_reading import only_reading

EVERY_S = 0.25


def watch(
    path: Path, *, after: int | None = None, rest: Callable[[float], object] = time.sleep
) -> Iterator[dict[str, Any]]:
    """Readings and strike-outs of a job, each as plain values, from entry `after` on (None: from now on);
    goes on for ever. The file is only read, and never held.

    Raises JobFileError where it cannot be read, or is taken away.
    """
    last = after
    while True:
        if not path.is_file():
            raise JobFileError(path, "there is no such file; check the name, or start a new job")
        try:
            with only_reading(path) as db:
                if last is None:
                    last = db.execute("SELECT max(id) FROM entry").fetchone()[0] or 0
                rows = db.execute(
                    "SELECT id, at, kind, body FROM entry WHERE id > ? AND kind LIKE 'reading.%' ORDER BY id",
                    (last,),
                ).fetchall()
        except sqlite3.Error as error:
            raise JobFileError(path, f"it cannot be watched ({error}); is it a Trebb job?") from error
        for number, at, kind, body in rows:
            last = number
            yield {"entry": number, "at": at, "kind": kind, **json.loads(body)}
        rest(EVERY_S)
