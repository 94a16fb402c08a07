"""Back-ups: a verified copy of a job at its close, ten kept; and what can still be read of a damaged one."""

from __future__ import annotations

import contextlib
import datetime
import hashlib
import os
import sqlite3
import threading
from collections.abc import Sequence
from pathlib import Path

import platformdirs
from msgspec import Struct

from trebb.core import clock
from trebb.core.errors import InputError
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.looking import JobLookedAt
from trebb.logbook.file.only_reading import only_reading
from trebb.logbook.file.store import APPLICATION_ID, MIGRATIONS, JobFile, body_of, sha256_of
from trebb.logbook.log.entries import Entry, JobStarted

KEPT = 10
AT_ONCE_BYTES = 16 * 2**20  # copied and read back before anybody notices
LARGE_BYTES, LARGE_KEPT = 200 * 2**20, 3
SUFFIX = ".trebb"
DAY_S = 86_400
GAP = 2000  # ids in a row that give nothing, after which no more are looked for


class BackUp(Struct, frozen=True):
    """A copy of a job: of which machine, made when, with how many entries."""

    path: Path
    machine: str
    at: datetime.datetime
    entries: int


def backup_folder() -> Path:
    """Where back-ups are kept."""
    return platformdirs.user_data_path("trebb", appauthor=False) / "backups"


def back_up(job_file: JobFile, now: datetime.datetime | None = None) -> Path | None:
    """A verified copy of an open job; None where it holds nothing yet. The oldest beyond ten go.

    Raises JobFileError where it could not be copied, or what was copied reads otherwise.
    """
    entries = job_file.entries()
    if not entries:
        return None
    folder = backup_folder() / job_key(entries[:1])
    stamp = (now or clock.now()).strftime("%Y%m%dT%H%M%S%f")
    target = folder / f"{stamp}{SUFFIX}"
    beside = target.with_suffix(".part")
    try:
        folder.mkdir(parents=True, exist_ok=True)
        for left in folder.glob("*.part"):  # of one that was ended in its middle
            if clock.now().timestamp() - left.stat().st_mtime > DAY_S:
                left.unlink(missing_ok=True)
        job_file.copy_to(beside)
        copied = [(e.id, e.body) for e in _read_only(beside)]
        # More may have been added while it was copied; what there was is there.
        if copied[: len(entries)] != [(e.id, e.body) for e in entries]:
            raise JobFileError(job_file.path, "its back-up reads otherwise than the job; look at the disk")
        os.replace(beside, target)
    except OSError as error:
        raise JobFileError(job_file.path, f"no back-up was made ({error.strerror})") from error
    finally:
        beside.unlink(missing_ok=True)
    _keep_newest(folder)
    return target


def back_up_closed(path: Path) -> None:
    """Back up a job that was just closed: a large one beside whatever else is done, verified all the same;
    the program ends when it has. Where it cannot be copied the job itself is whole all the same.
    """

    def work() -> None:
        with contextlib.suppress(JobFileError), JobLookedAt.look(path) as looked:
            back_up(looked)

    try:
        is_large = path.stat().st_size > AT_ONCE_BYTES
    except OSError:
        return
    if is_large:
        threading.Thread(target=work, name=f"back-up of {path.name}").start()
    else:
        work()


def job_key(entries: Sequence[Entry]) -> str:
    """A job's name among back-ups and drafts, of its first entry: the same wherever its file is."""
    if not entries:
        return "empty"
    return hashlib.sha256(f"{entries[0].at}/{entries[0].body.fields()}".encode()).hexdigest()[:16]


def _keep_newest(folder: Path) -> None:
    copies = sorted(folder.glob(f"*{SUFFIX}"))
    kept = LARGE_KEPT if copies and copies[-1].stat().st_size > LARGE_BYTES else KEPT
    for old in copies[:-kept]:
        old.unlink(missing_ok=True)


def backups() -> list[BackUp]:
    """All back-ups there are, the newest first; what is no back-up is passed over."""
    found = []
    for path in backup_folder().glob(f"*/*{SUFFIX}"):
        try:
            entries = _read_only(path)
            at = datetime.datetime.strptime(path.stem, "%Y%m%dT%H%M%S%f").replace(tzinfo=datetime.UTC)
        except (sqlite3.Error, ValueError):
            continue
        started = next((e.body for e in entries if isinstance(e.body, JobStarted)), None)
        found.append(BackUp(path, started.machine if started else path.parent.name, at, len(entries)))
    return sorted(found, key=lambda b: b.at, reverse=True)


def restore(backup: BackUp, target: Path) -> None:
    """Copy a back-up to a new job file. Raises JobFileError where one of that name is there, or it could not
    be written.
    """
    if target.exists():
        raise JobFileError(target, "a file of this name is there already; choose another name")
    beside = target.with_name(f".{target.name}.part")
    try:
        beside.write_bytes(backup.path.read_bytes())
        os.replace(beside, target)
    except OSError as error:
        beside.unlink(missing_ok=True)
        raise JobFileError(target, f"it could not be written ({error.strerror})") from error


def _read_only(path: Path) -> list[Entry]:
    with only_reading(path) as db:
        rows = db.execute("SELECT id, at, gesture, kind, body FROM entry ORDER BY id").fetchall()
    return [Entry(i, at, gesture, body_of(kind, body)) for i, at, gesture, kind, body in rows]


# what can still be read -----------------------------------------------------------------------


class Salvaged(Struct, frozen=True):
    """What was read of a damaged job: entries, photographs, and numbers of entries that could not be."""

    path: Path
    entries: int
    photographs: int
    lost: tuple[int, ...]

    @property
    def words(self) -> str:
        """In a sentence."""
        lost = f" {len(self.lost)} could not be read, from number {self.lost[0]} on." if self.lost else ""
        return (
            f"{self.entries} entries and {self.photographs} photographs could be read and are in "
            f"{self.path.name}.{lost} The damaged file is as it was."
        )


def can_be_salvaged(path: Path) -> bool:
    """Whether a file that does not open is a job's at all."""
    try:
        with path.open("rb") as stream:
            head = stream.read(72)
    except OSError:
        return False
    return head.startswith(b"SQLite format 3\0") and head[68:72] == APPLICATION_ID.to_bytes(4, "big")


def salvage(path: Path, target: Path) -> Salvaged:
    """Read a damaged job as far as it is sound, entry by entry, into a new one; the damaged file is only
    read.

    Raises JobFileError where the new one cannot be written, InputError where nothing can be read.
    """
    entries: list[Entry] = []
    lost: list[int] = []
    photographs: dict[str, tuple[str, bytes]] = {}
    with only_reading(path, is_frozen=True) as db:
        try:
            version = db.execute("PRAGMA user_version").fetchone()[0]
        except sqlite3.Error as error:
            raise InputError(path.name, f"nothing of it can be read ({error})") from None
        if version > MIGRATIONS[-1][0]:
            raise InputError(path.name, "it is from a newer Trebb; update Trebb")
        number, nothing = 1, 0
        while nothing < GAP:
            try:
                row = db.execute(
                    "SELECT id, at, gesture, kind, body FROM entry WHERE id = ?", (number,)
                ).fetchone()
            except sqlite3.Error:
                lost.append(number)
                row = None
            if row is None:
                nothing += 1
            else:
                nothing = 0
                with contextlib.suppress(TypeError, ValueError):
                    entries.append(Entry(row[0], str(row[1]), int(row[2]), body_of(str(row[3]), str(row[4]))))
            number += 1
        for sha in _names(db):
            try:
                kind, data = db.execute(
                    "SELECT media_type, bytes FROM photograph WHERE sha256 = ?", (sha,)
                ).fetchone()
            except (sqlite3.Error, TypeError):
                continue
            if isinstance(data, bytes) and sha256_of(data) == sha:
                photographs[sha] = (str(kind), data)
    last = entries[-1].id if entries else 0
    if not entries:
        raise InputError(path.name, "nothing of it can be read; look among the back-ups")
    with JobFile.create(target) as job_file:
        job_file.restore([e for e in entries if e.body.kind], photographs)
    kept = sum(bool(e.body.kind) for e in entries)
    return Salvaged(target, kept, len(photographs), tuple(n for n in lost if n < last))


def _names(db: sqlite3.Connection) -> list[str]:
    found: list[str] = []
    try:
        for row in db.execute("SELECT sha256 FROM photograph"):
            found.append(str(row[0]))
    except sqlite3.Error:
        pass
    return found


def saved_name(path: Path) -> Path:
    """A free name beside a damaged job for what can be read of it."""
    for i in range(1, 1000):
        name = path.with_name(f"{path.stem}-saved{'' if i == 1 else f'-{i}'}{SUFFIX}")
        if not name.exists():
            return name
    raise InputError(str(path), "a thousand copies of it are there already")
