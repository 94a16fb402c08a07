"""The job file: an SQLite database that only grows.

All writing goes through `JobFile.append`, one transaction a gesture. SQLite
itself refuses change. One writer at a time holds the file (see `holding`), and
the file alone is the whole job after each gesture: there is no log beside it.
"""

from __future__ import annotations

import contextlib
import os
import sqlite3
from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from datetime import UTC
from functools import lru_cache
from pathlib import Path
from types import GenericAlias, TracebackType
from typing import ClassVar, Self

import msgspec

from trebb.core import clock
from trebb.logbook.file.file_trouble import (
    BY_JSON,
    CANNOT_WRITE,
    GONE,
    IN_USE,
    MOVED,
    UNGUARDED,
    WAY_OUT,
    JobFileError,
    file_error,
    sentence_of,
)
from trebb.logbook.file.holding import Hold
from trebb.logbook.log.entries import KINDS, Body, Entry, Unreadable, gesture_of, why_not

APPLICATION_ID = 0x54524542  # "TREB"

_REFUSE = "RAISE(ABORT, 'entries are never changed')"
MIGRATIONS: tuple[tuple[int, str], ...] = (
    (
        1,
        f"""
        CREATE TABLE migration (version INTEGER PRIMARY KEY, at TEXT NOT NULL) STRICT;
        CREATE TABLE entry (
            id INTEGER PRIMARY KEY,
            at TEXT NOT NULL,
            gesture INTEGER NOT NULL,
            kind TEXT NOT NULL,
            body TEXT NOT NULL
        ) STRICT;
        CREATE TABLE photograph (
            sha256 TEXT PRIMARY KEY, media_type TEXT NOT NULL, bytes BLOB NOT NULL
        ) STRICT;
        CREATE TRIGGER entry_no_update BEFORE UPDATE ON entry BEGIN SELECT {_REFUSE}; END;
        CREATE TRIGGER entry_no_delete BEFORE DELETE ON entry BEGIN SELECT {_REFUSE}; END;
        CREATE TRIGGER entry_no_overwrite BEFORE INSERT ON entry
            WHEN EXISTS (SELECT 1 FROM entry WHERE id = NEW.id) BEGIN SELECT {_REFUSE}; END;
        CREATE TRIGGER photograph_no_update BEFORE UPDATE ON photograph BEGIN SELECT {_REFUSE}; END;
        CREATE TRIGGER photograph_no_delete BEFORE DELETE ON photograph BEGIN SELECT {_REFUSE}; END;
        """,
    ),
)
LOOKS_S = 1.0
MOST_ENTRIES = 2**53  # numbers of entries, as JSON still carries them whole
MANY = 100  # rows of a kind from which reading the lot together pays
# The rollback journal of a gesture lives for milliseconds: between two gestures the file alone is the job.
PRAGMAS = ("PRAGMA journal_mode = TRUNCATE", "PRAGMA synchronous = FULL")


def utc_now() -> str:
    """The time as stored: UTC, ISO 8601, milliseconds."""
    return clock.now().astimezone(UTC).isoformat(timespec="milliseconds").replace("+00:00", "Z")


class JobFile:
    """An open job file. Use `create` or `open`; close it, or use it in a `with`.

    Another file of the same form says what it is by `application_id`, `noun` and the `kinds` it holds.
    """

    application_id: ClassVar[int] = APPLICATION_ID
    noun: ClassVar[str] = "job"
    kinds: ClassVar[Mapping[str, type[Body]]] = KINDS
    is_looked_at: ClassVar[bool] = False  # nothing can be added …
    why = ""  # … and why, in words

    def __init__(self, path: Path, connection: sqlite3.Connection, hold: Hold) -> None:
        self.path = path
        self._db, self._hold = connection, hold
        self._next = 1 + (connection.execute("SELECT max(id) FROM entry").fetchone()[0] or 0)

    def unguarded(self) -> str:
        """What no longer keeps entries as they were written, in words; "" where all of it does. Only
        reads.
        """
        there = set(self._db.execute("SELECT type, name FROM sqlite_master").fetchall())
        gone = ", ".join(sorted(name for kind, name in _own_schema() if (kind, name) not in there))
        return UNGUARDED.format(noun=self.noun, gone=gone) if gone else ""

    @classmethod
    def create(cls, path: Path) -> Self:
        """A new, empty job file. Raises JobFileError if the file exists or cannot be written."""
        if path.exists():
            raise JobFileError(path, "a file of this name is there already; choose another name")
        if not path.parent.is_dir():
            raise JobFileError(path, f"there is no folder {path.parent}; make it, or choose another")
        try:
            return cls._connect(path)
        except JobFileError:  # a full disk leaves nothing behind
            _unmake(path)
            raise

    @classmethod
    def begin(cls, path: Path, *gestures: Sequence[Body]) -> Self:
        """A new job file with its first gestures, or nothing at all. Raises JobFileError."""
        return cls._made(path, lambda made: [made.append(bodies) for bodies in gestures])

    @classmethod
    def restored(cls, path: Path, entries: Sequence[Entry]) -> Self:
        """A new job file of entries with the numbers and times they had, or nothing at all. Raises
        JobFileError.
        """
        return cls._made(path, lambda made: made.restore(entries, {}))

    @classmethod
    def joined(
        cls, path: Path, entries: Sequence[Entry], photographs: Mapping[str, tuple[str, bytes]]
    ) -> Self:
        """A new job file of the entries and photographs of others, or nothing at all. Raises JobFileError."""
        return cls._made(path, lambda made: made.restore(entries, photographs))

    @classmethod
    def _made(cls, path: Path, fill: Callable[[Self], object]) -> Self:
        made = cls.create(path)
        try:
            fill(made)
        except BaseException:
            made.close()
            _unmake(path)
            raise
        return made

    @classmethod
    def open(cls, path: Path, *, wait_s: float = 0.0) -> Self:
        """An existing job file, migrated if it is from an older Trebb; one that another Trebb has is waited
        for, `wait_s` at most.

        Raises JobFileError: no such file, not a job, from a newer Trebb, open
        elsewhere, or in a place that cannot be written.
        """
        cls.refuse_other(path)
        return cls._connect(path, wait_s)

    @classmethod
    def refuse_other(cls, path: Path) -> None:
        """Raises JobFileError where there is no file, or one that is no such file of Trebb's. Only reads."""
        if not path.is_file():
            raise JobFileError(path, "there is no such file; check the name, or start a new job")
        try:
            with path.open("rb") as stream:
                head = stream.read(72)
        except OSError as error:
            raise JobFileError(
                path, f"the file cannot be read ({error.strerror}); check whose it is"
            ) from None
        if head and (
            not head.startswith(b"SQLite format 3\0") or head[68:72] != cls.application_id.to_bytes(4, "big")
        ):
            raise JobFileError(path, f"this is not a Trebb {cls.noun}; choose a file that Trebb made")

    @classmethod
    def _connect(cls, path: Path, wait_s: float = 0.0) -> Self:
        try:
            hold = Hold(path, wait_s=wait_s)
        except BlockingIOError:
            raise JobFileError(path, IN_USE.replace("job", cls.noun), is_open_elsewhere=True) from None
        except OSError as error:
            raise JobFileError(path, CANNOT_WRITE, is_unwritable=True) from error
        db = None
        try:
            # Whoever only looks locks it for the moment in which it reads: that is waited for.
            db = sqlite3.connect(path, isolation_level=None, timeout=LOOKS_S, check_same_thread=False)
            db.execute("PRAGMA trusted_schema = OFF")
            cls.refuse_foreign_schema(path, db)
            for pragma in PRAGMAS:
                db.execute(pragma)
            cls._migrate(path, db)
            db.execute("BEGIN IMMEDIATE")
            db.execute("COMMIT")
            return cls(path, db, hold)
        except (sqlite3.Error, JobFileError) as error:
            if db is not None:
                db.close()
            hold.release()
            if isinstance(error, JobFileError):
                raise
            raise file_error(path, error) from error

    def trouble(self) -> str:
        """What happened to the file from outside while it is open, in words; "" where nothing did."""
        if self._hold.is_unlinked():
            return GONE if not self.path.exists() else f"{GONE}, and another stands in its place"
        return "" if self._hold.is_at(self.path) else MOVED

    def save_anew(self) -> None:
        """Write the whole job to its path again after it was deleted or moved; raises JobFileError."""
        if self.path.exists():
            raise JobFileError(self.path, "a file of this name is there already; move it away first")
        beside = self.path.with_name(f".{self.path.name}.anew")
        try:
            with contextlib.closing(sqlite3.connect(beside)) as target:
                self._db.backup(target)
            os.replace(beside, self.path)
        except (sqlite3.Error, OSError) as error:
            raise JobFileError(self.path, f"not saved: {error}; check the folder") from error
        self._db.close()
        self._hold.release()
        again = type(self)._connect(self.path)
        self._db, self._hold = again._db, again._hold

    @classmethod
    def refuse_foreign_schema(cls, path: Path, db: sqlite3.Connection) -> None:
        """A file that holds a view, a trigger or a table which Trebb does not make is refused before any of
        it could run. One from a newer Trebb is refused as such, elsewhere.
        """
        if db.execute("PRAGMA user_version").fetchone()[0] > MIGRATIONS[-1][0]:
            return
        ours = _own_schema()
        for kind, name, sql in db.execute("SELECT type, name, sql FROM sqlite_master"):
            if sql is not None and ours.get((kind, name)) != _spaced(sql):
                raise JobFileError(
                    path,
                    f"it holds a {kind} “{str(name)[:60]}” that Trebb did not make, and is not opened for "
                    "that; ask whoever sent it for the job as JSON (trebb export)",
                )

    @classmethod
    def refuse_newer(cls, path: Path, db: sqlite3.Connection) -> int:
        """The version of a file's format. Raises JobFileError where a newer Trebb made it."""
        has: int = db.execute("PRAGMA user_version").fetchone()[0]
        newest = MIGRATIONS[-1][0]
        if has > newest:
            raise JobFileError(
                path,
                f"this {cls.noun} is from a newer Trebb (its format is {has}, this one reads up to "
                f"{newest}); update Trebb",
            )
        return has

    @classmethod
    def _migrate(cls, path: Path, db: sqlite3.Connection) -> None:
        has = cls.refuse_newer(path, db)
        for version, script in MIGRATIONS:
            if version > has:
                db.executescript(
                    f"BEGIN IMMEDIATE;{script}"
                    f"INSERT INTO migration VALUES ({version}, '{utc_now()}');"
                    f"PRAGMA application_id = {cls.application_id}; PRAGMA user_version = {version}; COMMIT;"
                )

    def append(
        self, bodies: Sequence[Body], photographs: Mapping[str, tuple[str, bytes]] | None = None
    ) -> list[Entry]:
        """Append one gesture durably; returns its entries only once they are on the disk.

        Parameters
        ----------
        photographs : sha256 → (media type, bytes) to keep beside the entries.

        Raises
        ------
        JobFileError : the disk is full or the file cannot be written; nothing
            of the gesture is then kept.
        """
        trouble = self.trouble()
        if trouble:
            raise JobFileError(self.path, f"not recorded: {trouble}; {WAY_OUT}")
        if self._next + len(bodies) > MOST_ENTRIES:
            raise JobFileError(self.path, f"not recorded: its last entry has number {self.newest}; {BY_JSON}")
        entries = gesture_of(bodies, self._next, utc_now())
        self._insert(entries, photographs or {})
        return entries

    def _insert(self, entries: Sequence[Entry], photographs: Mapping[str, tuple[str, bytes]]) -> None:
        rows = [(e.id, e.at, e.gesture, e.body.kind, self._as_text(e.body)) for e in entries]
        try:
            self._db.execute("BEGIN IMMEDIATE")
            self._refuse_foreign()
            for sha, (media_type, data) in photographs.items():
                self._db.execute("INSERT OR IGNORE INTO photograph VALUES (?, ?, ?)", (sha, media_type, data))
            for row in rows:
                self._db.execute("INSERT INTO entry VALUES (?, ?, ?, ?, ?)", row)
            self._db.execute("COMMIT")
        except sqlite3.Error as error:
            with contextlib.suppress(sqlite3.Error):
                self._db.execute("ROLLBACK")
            raise JobFileError(self.path, f"not recorded: {sentence_of(error)}") from error
        except JobFileError:
            self._db.execute("ROLLBACK")
            raise
        if entries:
            self._next = entries[-1].id + 1

    def _as_text(self, body: Body) -> str:
        """A body as it is stored; raises JobFileError where it could not be read back."""
        data = _ENCODER.encode(body)
        try:
            _reader(type(body)).decode(data)
        except (msgspec.ValidationError, msgspec.DecodeError) as error:
            field, words = why_not(error)
            where = f" “{field}”" if field else ""
            raise JobFileError(self.path, f"not recorded: the {body.kind} entry’s{where}: {words}") from None
        return data.decode()

    def _refuse_foreign(self) -> None:
        """What another program wrote meanwhile is noticed before anything is put on top of it."""
        newest = self._db.execute("SELECT max(id) FROM entry").fetchone()[0] or 0
        if newest != self._next - 1:
            count = abs(newest - self._next + 1)
            raise JobFileError(
                self.path,
                f"not recorded: another program wrote {count} entr{'y' if count == 1 else 'ies'} into this "
                "job meanwhile; close the job and open it again, nothing of it is lost",
            )

    def restore(self, entries: Sequence[Entry], photographs: Mapping[str, tuple[str, bytes]]) -> None:
        """Write entries with the numbers and times they had, into an empty job: of an import, of a demo."""
        if self._next != 1:
            raise JobFileError(self.path, "entries can only be restored into an empty job")
        self._insert(entries, photographs)

    def entries(self) -> list[Entry]:
        """All entries in order; one that cannot be understood has an `Unreadable` body. Only reads.

        Raises JobFileError where the file itself cannot be read.
        """
        try:
            rows = self._db.execute("SELECT id, at, gesture, kind, body FROM entry ORDER BY id").fetchall()
        except sqlite3.Error as error:
            raise file_error(self.path, error) from error
        return [
            Entry(row[0], row[1], row[2], body) for row, body in zip(rows, self._bodies(rows), strict=True)
        ]

    def first(self) -> list[Entry]:
        """The first entry, by which a job is known wherever its file is; none in an empty one. Only reads."""
        rows = self._db.execute(
            "SELECT id, at, gesture, kind, body FROM entry ORDER BY id LIMIT 1"
        ).fetchall()
        return [Entry(row[0], row[1], row[2], _body(self.kinds, row[3], row[4])) for row in rows]

    def _bodies(self, rows: Sequence[tuple[int, str, int, str, str]]) -> list[Body]:
        """Bodies of rows; kinds that occur often are read together, which is quicker than one by one."""
        count = Counter(row[3] for row in rows)
        together = {}
        for kind in (k for k, n in count.items() if n >= MANY and k in self.kinds):
            joined = ",".join(row[4] for row in rows if row[3] == kind)
            with contextlib.suppress(msgspec.MsgspecError):  # one by one below, to name the entry
                found = msgspec.json.decode(f"[{joined}]", type=GenericAlias(list, (self.kinds[kind],)))
                if len(found) == count[kind]:  # a body that smuggles a comma in is no two entries
                    together[kind] = iter(found)
        return [
            next(together[row[3]]) if row[3] in together else _body(self.kinds, row[3], row[4])
            for row in rows
        ]

    def photograph(self, sha256: str) -> tuple[str, bytes]:
        """Media type and bytes of a photograph. Only reads; raises JobFileError if it is not there."""
        row = self._db.execute(
            "SELECT media_type, bytes FROM photograph WHERE sha256 = ?", (sha256,)
        ).fetchone()
        if row is None:
            raise JobFileError(self.path, f"photograph {sha256[:8]} is not in this job")
        return str(row[0]), bytes(row[1])

    def copy_to(self, target: Path) -> None:
        """Copy the whole file, as it stands, to a new one, and have it on the disk. Raises JobFileError."""
        try:
            with contextlib.closing(sqlite3.connect(target)) as copy:
                copy.execute("PRAGMA synchronous = OFF")
                self._db.backup(copy)
            with target.open("rb+") as stream:
                os.fsync(stream.fileno())
        except sqlite3.Error as error:
            raise JobFileError(self.path, f"not copied: {sentence_of(error)}") from error

    @property
    def newest(self) -> int:
        """Number of the last entry; 0 where there is none."""
        return self._next - 1

    def close(self) -> None:
        """Let the file go; the journal's empty file goes with it."""
        with contextlib.suppress(sqlite3.Error):
            self._db.execute("PRAGMA journal_mode = DELETE")
        self._db.close()
        self._hold.release()

    def __enter__(self) -> JobFile:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self.close()


def _unmake(path: Path) -> None:
    """Take away a file that was just made, and what SQLite left beside it."""
    for name in (path, path.with_name(f"{path.name}-journal")):
        with contextlib.suppress(OSError):
            name.unlink(missing_ok=True)


def _spaced(sql: str) -> str:
    """A statement without its spaces: earlier versions set theirs otherwise."""
    return "".join(sql.split())


@lru_cache(maxsize=1)
def _own_schema() -> Mapping[tuple[str, str], str]:
    """Tables and triggers as the migrations make them: type and name → statement."""
    with contextlib.closing(sqlite3.connect(":memory:")) as db:
        for _, script in MIGRATIONS:
            db.executescript(script)
        rows = db.execute("SELECT type, name, sql FROM sqlite_master WHERE sql IS NOT NULL").fetchall()
    return {(kind, name): _spaced(sql) for kind, name, sql in rows}


def sha256_of(data: bytes) -> str:
    """The name under which bytes are kept."""
    import hashlib  # a library of its own: loaded with the first photograph

    return hashlib.sha256(data).hexdigest()


def _body(kinds: Mapping[str, type[Body]], kind: str, text: str) -> Body:
    """One body by itself, so that what is wrong with it can be said."""
    if kind not in kinds:
        return Unreadable(kind, text, f"its kind is “{kind}”, which this Trebb does not know; update Trebb")
    try:
        return _reader(kinds[kind]).decode(text)
    except msgspec.MsgspecError as error:
        field, words = why_not(error)
        return Unreadable(kind, text, f"field “{field}”: {words}" if field else words)


def body_of(kind: str, text: str) -> Body:
    """A job's body from its stored text; `Unreadable` where it cannot be understood."""
    return _body(KINDS, kind, text)


_ENCODER = msgspec.json.Encoder()
_READERS: dict[type[Body], msgspec.json.Decoder[Body]] = {}


def _reader(kind: type[Body]) -> msgspec.json.Decoder[Body]:
    if kind not in _READERS:
        _READERS[kind] = msgspec.json.Decoder(kind)
    return _READERS[kind]
