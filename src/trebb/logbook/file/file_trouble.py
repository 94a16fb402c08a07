"""What may go wrong with a job's file, as sentences."""

from __future__ import annotations

import sqlite3
from pathlib import Path

from trebb.core.errors import TrebbError

GONE = "the file was deleted while it was open"
MOVED = "the file was renamed or moved while it was open"
IN_USE = "this job is open in another Trebb; close it there first"
CANNOT_WRITE = "the folder cannot be written to; copy the job to one that can"
_UNWRITABLE = ("SQLITE_READONLY", "SQLITE_CANTOPEN", "SQLITE_PERM")
UNGUARDED = (
    "another program took away what keeps this {noun} from being changed ({gone}): what it holds may be "
    "other than what was recorded. Compare it with its back-ups"
)
BY_JSON = "another program gave it that; take the job out as JSON (trebb export) and in again"
WAY_OUT = "put it back where it was, or save the job anew; what was recorded before is still here"


class JobFileError(TrebbError):
    """A job file that cannot be opened, read or written; the sentence names the file and what would do.
    `is_damaged` where its bytes are no longer sound; `is_open_elsewhere` where another Trebb has it;
    `is_unwritable` where it can be looked at only.
    """

    def __init__(
        self,
        path: Path,
        sentence: str,
        *,
        is_damaged: bool = False,
        is_open_elsewhere: bool = False,
        is_unwritable: bool = False,
    ) -> None:
        self.is_unwritable = is_unwritable
        self.path = path
        self.sentence = sentence
        self.is_damaged = is_damaged
        self.is_open_elsewhere = is_open_elsewhere
        super().__init__(f"{path.name}: {sentence}")


def is_damage(error: sqlite3.Error) -> bool:
    """Whether the bytes of the file are no longer sound."""
    if "Could not decode" in str(error):  # its own words of tables and triggers are no text any more
        return True
    return getattr(error, "sqlite_errorname", "").startswith(("SQLITE_NOTADB", "SQLITE_CORRUPT"))


def file_error(path: Path, error: sqlite3.Error) -> JobFileError:
    """What SQLite says of a file, as a sentence."""
    return JobFileError(
        path,
        sentence_of(error),
        is_damaged=is_damage(error),
        is_unwritable=getattr(error, "sqlite_errorname", "").startswith(_UNWRITABLE),
    )


def sentence_of(error: sqlite3.Error) -> str:
    """What SQLite refused, and what would do."""
    name = getattr(error, "sqlite_errorname", "")
    if name.startswith(("SQLITE_BUSY", "SQLITE_LOCKED")):
        return "another program is writing to this job just now; close it there first"
    if name.startswith("SQLITE_FULL"):
        return "the disk is full; make room, then do it again. What was recorded before is safe"
    if name.startswith(_UNWRITABLE):
        return CANNOT_WRITE
    if is_damage(error):
        return "it is damaged; its last copy is under Back-ups on the start page, or choose its last export"
    return f"the file could not be used ({error}); check the disk"
