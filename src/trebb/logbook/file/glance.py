"""A job at a glance, for the list of recent ones: read without opening it for writing."""

from __future__ import annotations

import contextlib
import datetime
import json
import sqlite3
from pathlib import Path

from msgspec import Struct

from trebb.core import clock
from trebb.core.dates import day_words
from trebb.core.errors import TrebbError
from trebb.logbook.file.only_reading import only_reading

# The furthest stop that something stands at, the last first: a kind of entry, and words of its body.
_STOPS = (
    ("Prove", "reading.taken", '"phase":"after"'),
    ("Fit-up", "step.done", '"plan":"fit'),
    ("Make", "size.taken", ""),
    ("Parts", "part.set", ""),
    ("Remedies", "remedy.chosen", ""),
    ("Survey", "reading.taken", ""),
    ("Intake", "assembly.graded", ""),
)


class Glance(Struct, frozen=True):
    """What can be said of a job file in a line.

    Parameters
    ----------
    trouble : why nothing can be said; "" where something can.
    due : what is to be done next by a date, with the date; "" where nothing is.
    photo : SHA-256 of the photograph added last; "" for none.
    """

    path: Path
    machine: str = ""
    shop: str = ""
    far: str = ""
    readings: int = 0
    last: datetime.datetime | None = None
    due: str = ""
    is_practice: bool = False
    photo: str = ""
    trouble: str = ""

    def words(self) -> str:
        """How far it is, in a line."""
        if self.trouble:
            return self.trouble
        last = f", last on {day_words(self.last.astimezone().date())}" if self.last else ""
        due = f" · {self.due}" if self.due else ""
        readings = f"{self.readings} reading{'s' if self.readings != 1 else ''}"
        return f"{self.far or 'just begun'}, {readings}{last}{due}"

    def has(self, text: str) -> bool:
        """Whether all the words of a text are in it."""
        whole = f"{self.machine} {self.shop} {self.path} {self.far}".lower()
        return all(word in whole for word in text.lower().split())


def glance(path: Path, today: datetime.date | None = None) -> Glance:
    """A job file at a glance; never raises."""
    if not path.is_file():
        return Glance(path, path.stem, trouble="its file is not there any more")
    try:
        with only_reading(path, timeout_s=0.1) as db:
            return _read(path, db, today or clock.today())
    except (sqlite3.Error, ValueError, KeyError, TypeError):
        return Glance(path, path.stem, trouble="it cannot be read just now; open it to see why")


# What was taken back, and what was struck out, counts no more; of a step its newest tick.
_STANDING = """
CREATE TEMP TABLE gone AS
    SELECT json_extract(body, '$.gesture_id') AS gesture FROM entry WHERE id IN (
        SELECT max(id) FROM entry WHERE kind IN ('undone', 'redone') AND json_valid(body)
        GROUP BY json_extract(body, '$.gesture_id')
    ) AND kind = 'undone';
CREATE TEMP VIEW kept AS
    SELECT id, kind, body FROM main.entry
    WHERE json_valid(body) AND gesture NOT IN (SELECT gesture FROM gone);
CREATE TEMP VIEW standing AS
    SELECT id, kind, body FROM kept WHERE kind NOT IN ('reading.taken', 'step.done')
    UNION ALL
    SELECT id, kind, body FROM kept WHERE kind = 'reading.taken' AND id NOT IN (
        SELECT json_extract(body, '$.reading') FROM kept WHERE kind = 'reading.struck'
    )
    UNION ALL
    SELECT id, kind, body FROM kept WHERE id IN (
        SELECT max(id) FROM kept WHERE kind = 'step.done'
        GROUP BY json_extract(body, '$.plan'), json_extract(body, '$.step')
    ) AND coalesce(json_extract(body, '$.done'), 1);
"""


def _read(path: Path, db: sqlite3.Connection, today: datetime.date) -> Glance:
    db.executescript(_STANDING)
    started = db.execute(
        "SELECT body FROM standing WHERE kind = 'job.started' ORDER BY id LIMIT 1"
    ).fetchone()
    told = json.loads(started[0]) if started else {}
    counts = dict(db.execute("SELECT kind, count(*) FROM standing GROUP BY kind").fetchall())
    far = ""
    for stop, kind, words in _STOPS:
        if kind not in counts:
            continue
        found = (
            not words
            or db.execute(
                "SELECT 1 FROM standing WHERE kind = ? AND instr(body, ?) LIMIT 1", (kind, words)
            ).fetchone()
        )
        if found:
            far = stop
            break
    last = db.execute("SELECT at FROM entry ORDER BY id DESC LIMIT 1").fetchone()
    return Glance(
        path,
        str(told.get("machine", path.stem)),
        str(told.get("shop", "")),
        far,
        int(counts.get("reading.taken", 0)),
        datetime.datetime.fromisoformat(last[0]) if last else None,
        _due(db, today),
        bool(counts.get("practice.marked", 0)),
        _last_photo(db) if "photo.added" in counts else "",
    )


def _last_photo(db: sqlite3.Connection) -> str:
    row = db.execute(
        "SELECT body FROM standing WHERE kind = 'photo.added' ORDER BY id DESC LIMIT 1"
    ).fetchone()
    return str(json.loads(row[0])["sha256"])


def small_picture(one: Glance) -> bytes:
    """The photograph of a glance, small, as PNG; nothing where it cannot be shown. Never raises."""
    from trebb.logbook.file.photographs import thumbnail

    try:
        with only_reading(one.path, timeout_s=0.1) as db:
            row = db.execute("SELECT bytes FROM photograph WHERE sha256 = ?", (one.photo,)).fetchone()
        return thumbnail(bytes(row[0])) if row else b""
    except (sqlite3.Error, TrebbError):
        return b""


def _due(db: sqlite3.Connection, today: datetime.date) -> str:
    """The nearest date the job must be ready by, or something is to be looked at again."""
    stated: dict[tuple[str, str], dict[str, object]] = {}
    for (body,) in db.execute(
        "SELECT body FROM standing WHERE kind = 'matter.stated' "
        'AND (instr(body, \'"matter":"plan"\') OR instr(body, \'"matter":"again"\')) ORDER BY id'
    ):
        told = json.loads(body)
        stated.setdefault((told["matter"], told["of"]), {})[told["field"]] = told["value"]
    found: list[tuple[datetime.date, str]] = []
    for (matter, _), fields in stated.items():
        text = str(fields.get("ready_by" if matter == "plan" else "due", ""))
        if not text or fields.get("done") or fields.get("gone") == "yes":
            continue
        with contextlib.suppress(ValueError):
            day = datetime.date.fromisoformat(text)
            what = "ready by" if matter == "plan" else f"look again: {fields.get('what', '')},"
            found.append((day, what))
    if not found:
        return ""
    day, what = min(found)
    late = " (past)" if day < today else ""
    return f"{what} {day_words(day)}{late}"
