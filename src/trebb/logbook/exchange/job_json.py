"""The whole job as JSON both ways, photograph by photograph: a job of any size needs the memory of one."""

from __future__ import annotations

import base64
import io
import json
import shutil
import tempfile
import weakref
from collections.abc import Iterator, Mapping
from pathlib import Path
from typing import IO, Any

import msgspec
from msgspec import Struct

from trebb.core.errors import InputError
from trebb.logbook.cases.admitting import admit
from trebb.logbook.cases.casework import Cases
from trebb.logbook.exchange.readings_csv import ExchangeError
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.given_files import read_text
from trebb.logbook.file.store import JobFile, sha256_of
from trebb.logbook.file.writing import is_job, written_beside
from trebb.logbook.log.entries import KINDS, Entry, PhotoAdded, Unreadable, read_body, why_not
from trebb.logbook.log.fold import Job

JSON_FORMAT = "trebb-job"
JSON_VERSION = 1
STREAMED_BYTES = 20_000_000  # a longer document is never held whole
BUFFER = 16_777_216  # bytes read at a time: a photograph that spans many is slow to put together
CHUNK = 3 * 256 * 1024  # bytes encoded at a time; a multiple of three, so that base64 goes on without a seam


class Spooled(Mapping[str, tuple[str, bytes]]):
    """Photographs on their way in, by their SHA-256: a few are held, more lie on the disk until asked for."""

    def __init__(self) -> None:
        self._types: dict[str, str] = {}
        self._held: dict[str, bytes] = {}
        self._room = STREAMED_BYTES
        self._folder: Path | None = None

    def add(self, sha256: str, media_type: str, data: bytes) -> None:
        """One more."""
        self._types[sha256] = media_type
        self._room -= len(data)
        if self._room >= 0:
            self._held[sha256] = data
            return
        if self._folder is None:
            self._folder = Path(tempfile.mkdtemp(prefix="trebb-photographs-"))
            weakref.finalize(self, shutil.rmtree, self._folder, ignore_errors=True)
        (self._folder / sha256).write_bytes(data)

    def __getitem__(self, sha256: str) -> tuple[str, bytes]:
        media_type, held = self._types[sha256], self._held.get(sha256)
        if held is not None:
            return media_type, held
        assert self._folder is not None
        return media_type, (self._folder / sha256).read_bytes()

    def __iter__(self) -> Iterator[str]:
        return iter(self._types)

    def __len__(self) -> int:
        return len(self._types)


class Imported(Struct, frozen=True):
    """What an exported job brought: entries that can be used, photographs, and what was set aside and why."""

    entries: list[Entry]
    photographs: Mapping[str, tuple[str, bytes]]
    set_aside: list[str]


def write_job_json(job_file: JobFile, out: IO[str]) -> None:
    """Every entry and photograph as JSON, written as it is read; `read_job_json` restores the same job."""
    entries = job_file.entries()
    head = json.dumps({"format": JSON_FORMAT, "version": JSON_VERSION}, indent=1)
    out.write(head.removesuffix("\n}") + ',\n "entries": [')
    for i, entry in enumerate(entries):
        row = {"id": entry.id, "at": entry.at, "gesture": entry.gesture, **_with_kind(entry)}
        text = json.dumps(row, indent=1, ensure_ascii=False).replace("\n", "\n  ")
        out.write(("," if i else "") + "\n  " + text)
    out.write(("\n " if entries else "") + '],\n "photographs": [')
    shas = dict.fromkeys(e.body.sha256 for e in entries if isinstance(e.body, PhotoAdded))
    for i, sha in enumerate(shas):
        media_type, data = job_file.photograph(sha)
        out.write(
            f'{"," if i else ""}\n  {{\n   "sha256": {json.dumps(sha)},\n   "media_type": '
            f'{json.dumps(media_type)},\n   "base64": "'
        )
        for at in range(0, len(data), CHUNK):
            out.write(base64.b64encode(data[at : at + CHUNK]).decode("ascii"))
        out.write('"\n  }')
    out.write(("\n " if shas else "") + "]\n}\n")


def export_job(job_file: JobFile, path: Path) -> None:
    """The same into a file, read back before it counts. Raises WriteError."""
    with written_beside(path, _ends_whole) as beside, beside.open("w", encoding="utf-8") as out:
        write_job_json(job_file, out)


def _ends_whole(path: Path) -> bool:
    """Whether an export on the disk has its head and its end."""
    with path.open("rb") as stream:
        head = stream.read(200)
        stream.seek(max(0, path.stat().st_size - 3))
        return f'"{JSON_FORMAT}"'.encode() in head and stream.read() == b"]\n}\n"[-3:]


def job_to_json(job_file: JobFile) -> str:
    """The same as text, for a job that is small."""
    out = io.StringIO()
    write_job_json(job_file, out)
    return out.getvalue()


def _with_kind(entry: Entry) -> dict[str, Any]:
    """An entry's kind and fields; one that cannot be understood as it is stored."""
    if not isinstance(entry.body, Unreadable):
        return {"kind": entry.body.kind, **entry.body.fields()}
    try:
        fields = json.loads(entry.body.text)
    except ValueError:
        fields = None
    return {"kind": entry.body.stored_kind, **(fields if isinstance(fields, dict) else {})}


def read_job_json(path: Path) -> Imported:
    """What an exported job in a file brought. Raises ExchangeError; nothing is written by this."""
    try:
        is_large = path.is_file() and path.stat().st_size > STREAMED_BYTES
        if not is_large:
            return job_from_json(read_text(path, ExchangeError, most_bytes=STREAMED_BYTES))
        with path.open("rb") as stream:
            return _imported(*_streamed(stream))
    except UnicodeDecodeError:
        raise ExchangeError(path.name, "this is not text in UTF-8; export again") from None
    except OSError as error:
        raise ExchangeError(path.name, f"it cannot be read ({error.strerror})") from None
    except RecursionError:
        raise ExchangeError(path.name, "it is nested deeper than any job; export again") from None


def job_from_json(text: str) -> Imported:
    """Entries and photographs of an exported job; what cannot be used is set aside with its reason.

    Raises ExchangeError where the document as a whole is no exported job.
    Nothing is written by this.
    """
    document = _document(text)
    photographs, aside = Spooled(), list[str]()
    items = document.get("photographs", [])
    for item in items if isinstance(items, list) else []:
        _spool(item, photographs, aside)
    return _imported(document.get("entries", []), photographs, aside)


def _streamed(stream: IO[bytes]) -> tuple[Any, Spooled, list[str]]:
    """The parts of a long document, one value at a time. Raises ExchangeError."""
    import ijson
    from ijson.common import ObjectBuilder

    rows, photographs, aside, head = list[Any](), Spooled(), list[str](), dict[str, Any]()
    builder, at = None, ""
    try:
        for prefix, event, value in ijson.parse(stream, use_float=True, buf_size=BUFFER):
            if builder is not None:
                builder.event(event, value)
                if prefix == at and event in ("end_map", "end_array"):
                    if at == "entries.item":
                        rows.append(builder.value)
                    else:
                        _spool(builder.value, photographs, aside)
                    builder = None
            elif prefix in ("entries.item", "photographs.item"):
                if event in ("start_map", "start_array"):
                    builder, at = ObjectBuilder(), prefix
                    builder.event(event, value)
                elif prefix == "entries.item":
                    rows.append(value)
                else:
                    _spool(value, photographs, aside)
            elif prefix in ("format", "version"):
                head[prefix] = value
    except (ijson.JSONError, UnicodeDecodeError) as error:
        said = str(error).splitlines()[0] if str(error) else "it ends too early"
        raise ExchangeError("this JSON", f"it cannot be read ({said}); export again") from None
    _is_ours(head)
    return rows, photographs, aside


def _imported(rows: Any, photographs: Spooled, aside: list[str]) -> Imported:
    if not isinstance(rows, list):
        raise ExchangeError("“entries” of this JSON", "it must be a list; export again")
    job = Job()
    entries: list[Entry] = []
    cases = Cases(job)
    for number, row in enumerate(rows, start=1):
        try:
            entry = _entry_from_json(number, row)
            if entries and entry.id <= entries[-1].id:
                raise ExchangeError(
                    f"entry {number} of the file", f"its id {entry.id} must be more than {entries[-1].id}"
                )
            if isinstance(entry.body, PhotoAdded) and entry.body.sha256 not in photographs:
                raise ExchangeError(f"photograph “{entry.body.file_name}”", "its picture is not in the file")
            admit(job, cases, entry.body)
        except ExchangeError as error:
            aside.append(str(error))
            continue
        except InputError as error:
            aside.append(f"entry {number} of the file: {error}")
            continue
        entries.append(entry)
        job.apply(entry)
    if entries and job.started is None:
        why = f": {aside[0]}" if aside else ""
        raise ExchangeError("this JSON", f"no entry says which machine it is (job.started){why}")
    return Imported(entries, photographs, aside)


def make_job(path: Path, brought: Imported) -> None:
    """A job file with what an export brought: whole under its name, or not there at all.

    Raises JobFileError where a file of that name exists or cannot be made.
    """
    if path.exists():
        raise JobFileError(path, "a file of this name is there already; choose another name")
    with written_beside(path, is_job) as beside, JobFile.create(beside) as job_file:
        job_file.restore(brought.entries, brought.photographs)


def _document(text: str) -> dict[str, Any]:
    try:
        document = json.loads(text)
    except json.JSONDecodeError as error:
        raise ExchangeError(f"line {error.lineno}", f"this is not JSON ({error.msg})") from None
    except (ValueError, RecursionError):
        raise ExchangeError("this JSON", "it cannot be read; export again") from None
    _is_ours(document)
    return dict(document)


def _is_ours(document: Any) -> None:
    if not isinstance(document, dict) or document.get("format") != JSON_FORMAT:
        raise ExchangeError("this JSON", f"it is not an exported job: “format” must be “{JSON_FORMAT}”")
    if document.get("version") != JSON_VERSION:
        raise ExchangeError(
            f"version {document.get('version')}",
            f"this Trebb reads version {JSON_VERSION}; update Trebb or export again",
        )


def _spool(item: Any, photographs: Spooled, aside: list[str]) -> None:
    """Keep a photograph of an exported job, or say what is wrong with it."""
    try:
        data = base64.b64decode(item["base64"], validate=True)
        name = str(item["sha256"])
        if sha256_of(data) != name:
            aside.append(f"photograph {name[:8]}: its bytes are not what its name says; export again")
            return
        photographs.add(name, str(item["media_type"]), data)
    except (KeyError, TypeError, ValueError):
        aside.append("a photograph: it must have sha256, media_type and base64")


def _entry_from_json(number: int, row: Any) -> Entry:
    where = f"entry {number} of the file"
    if not isinstance(row, dict):
        raise ExchangeError(where, "it must be an object with id, at, gesture and kind")
    fields = dict(row)
    head = {name: fields.pop(name, None) for name in ("id", "at", "gesture")}
    numbers = [head[name] for name in ("id", "gesture")]
    if not all(type(n) is int and 0 < n < 2**53 for n in numbers) or not isinstance(head["at"], str):
        raise ExchangeError(where, "id and gesture must be whole numbers and at a time")
    name = fields.pop("kind", None)
    kind = KINDS.get(str(name))
    if kind is None:
        raise ExchangeError(f"{where}, field “kind”", f"“{str(name)[:60]}” is none of {', '.join(KINDS)}")
    try:
        body = read_body(kind, fields)
    except (msgspec.ValidationError, msgspec.DecodeError) as error:
        field, words = why_not(error)
        raise ExchangeError(f"{where}, field “{field or 'kind'}”", words) from None
    return Entry(head["id"], head["at"][:40], head["gesture"], body)
