"""A job that is only looked at: another program has it, or it lies where nothing can be written."""

from __future__ import annotations

import sqlite3
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import ClassVar, Self

from trebb.logbook.file.file_trouble import GONE, JobFileError, file_error
from trebb.logbook.file.only_reading import reading_connection
from trebb.logbook.file.store import LOOKS_S, JobFile
from trebb.logbook.log.entries import Body, Entry

ELSEWHERE = "another program has this job"
PROTECTED = "it lies where nothing can be written"


class JobLookedAt(JobFile):
    """A job of which everything can be asked and to which nothing can be added; nobody waits for it.

    `why` says in words why nothing can be added; "" where nothing was to be.
    """

    is_looked_at: ClassVar[bool] = True

    def __init__(self, path: Path, connection: sqlite3.Connection) -> None:
        self.path = path
        self._db = connection
        self._next = 1 + (connection.execute("SELECT max(id) FROM entry").fetchone()[0] or 0)

    @classmethod
    def look(cls, path: Path, why: str = "") -> Self:
        """Look at an existing job. Raises JobFileError: no such file, not a job, from a newer Trebb,
        damaged.
        """
        cls.refuse_other(path)
        try:
            db = reading_connection(path, timeout_s=LOOKS_S)
        except sqlite3.Error as error:
            raise file_error(path, error) from error
        try:
            cls.refuse_foreign_schema(path, db)
            cls.refuse_newer(path, db)
            found = cls(path, db)
        except sqlite3.Error as error:
            db.close()
            raise file_error(path, error) from error
        except JobFileError:
            db.close()
            raise
        found.why = why
        return found

    def newer(self) -> list[Entry]:
        """What was added since it was asked last. Raises JobFileError where the file cannot be read."""
        try:
            newest = self._db.execute("SELECT max(id) FROM entry").fetchone()[0] or 0
        except sqlite3.Error as error:
            raise file_error(self.path, error) from error
        found = [e for e in self.entries() if e.id >= self._next] if newest >= self._next else []
        if found:
            self._next = found[-1].id + 1
        return found

    def trouble(self) -> str:
        return "" if self.path.exists() else GONE

    def _insert(self, entries: Sequence[Entry], photographs: Mapping[str, tuple[str, bytes]]) -> None:
        raise JobFileError(self.path, f"nothing can be added: {self.why or 'it is only looked at'}")

    def append(
        self, bodies: Sequence[Body], photographs: Mapping[str, tuple[str, bytes]] | None = None
    ) -> list[Entry]:
        self._insert((), {})
        return []

    def close(self) -> None:
        self._db.close()


def open_or_look(path: Path) -> JobFile:
    """A job to work on; where another program has it, or nothing can be written there, to look at.

    Raises JobFileError where not even that can be.
    """
    try:
        return JobFile.open(path)
    except JobFileError as error:
        if not (error.is_open_elsewhere or error.is_unwritable):
            raise
        return JobLookedAt.look(path, ELSEWHERE if error.is_open_elsewhere else PROTECTED)
