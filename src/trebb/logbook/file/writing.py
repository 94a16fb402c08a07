"""Writing files for others: whole or not at all, and never over a job."""

from __future__ import annotations

import contextlib
import os
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from trebb.core.errors import InputError
from trebb.logbook.file.store import APPLICATION_ID

_HEAD = b"SQLite format 3\0"


class WriteError(InputError):
    """A file that was not written; what was there before is still there."""


def is_job(path: Path) -> bool:
    """Whether a path holds a Trebb job, or the journal beside one. Only reads."""
    name = str(path)
    for suffix in ("-journal", "-wal", "-shm"):
        if name.endswith(suffix) and is_job(Path(name.removesuffix(suffix))):
            return True
    try:
        with path.open("rb") as stream:
            head = stream.read(72)
    except OSError:
        return False
    return head.startswith(_HEAD) and head[68:72] == APPLICATION_ID.to_bytes(4, "big")


def refuse_job(path: Path) -> None:
    """Raises WriteError where a path holds a job: nothing is ever written over one."""
    if is_job(path):
        raise WriteError(str(path), "this is a job; nothing is written over a job: choose another name")


def write_whole(path: Path, data: bytes) -> None:
    """Write a file beside and rename it, then read it back.

    Raises WriteError saying why nothing was written; an older file of that
    name is then untouched.
    """
    with written_beside(path, lambda there: there.read_bytes() == data) as beside:
        beside.write_bytes(data)


@contextlib.contextmanager
def written_beside(path: Path, is_whole: Callable[[Path], bool]) -> Iterator[Path]:
    """A path to write to, renamed to the wanted one if `is_whole` says so of what can be read back.

    Raises WriteError saying why nothing was written.
    """
    refuse_job(path)
    if path.is_dir():
        raise WriteError(str(path), "not written: this is a folder; give a file's name")
    try:
        with tempfile.TemporaryDirectory(prefix=".trebb-", dir=path.parent) as folder:
            beside = Path(folder) / path.name
            yield beside
            if not beside.is_file() or not is_whole(beside):
                raise WriteError(
                    str(path), "not written: it could not be read back whole; make room, try again"
                )
            with beside.open("rb") as stream:
                os.fsync(stream.fileno())
            os.replace(beside, path)
    except OSError as error:
        why = error.strerror or str(error)
        raise WriteError(str(path), f"not written ({why}); choose another folder, or make room") from None


def is_pdf(path: Path) -> bool:
    """Whether a file is a PDF from its first line to its last. Only reads."""
    data = path.read_bytes()
    return data.startswith(b"%PDF") and b"%%EOF" in data[-1024:]
