"""Open formats: the whole job as JSON both ways, readings as CSV both ways."""

from __future__ import annotations

import base64
import csv
import io
import json
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import msgspec

from trebb.core.errors import InputError
from trebb.core.survey import all_set_ups
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.units import INCH_MM, THOU_MM
from trebb.logbook.admitting import admit
from trebb.logbook.casework import Cases
from trebb.logbook.entries import (
    KINDS,
    Entry,
    PhotoAdded,
    ReadingTaken,
    Unit,
    Unreadable,
    phase_of,
    read_body,
    why_not,
)
from trebb.logbook.fold import Job
from trebb.logbook.store import JobFile, JobFileError, sha256_of
from trebb.logbook.writing import is_job, written_beside

JSON_FORMAT = "trebb-job"
JSON_VERSION = 1


class ExchangeError(InputError):
    """A file to import that cannot be used; the sentence names line or entry."""


@dataclass(frozen=True)
class Imported:
    """What an exported job brought: entries that can be used, photographs, and what was set aside and why."""

    entries: list[Entry]
    photographs: dict[str, tuple[str, bytes]]
    set_aside: list[str]


def job_to_json(job_file: JobFile) -> str:
    """Every entry and photograph as JSON text; `job_from_json` restores the same job."""
    entries = job_file.entries()
    rows = [{"id": e.id, "at": e.at, "gesture": e.gesture, **_with_kind(e)} for e in entries]
    shas = dict.fromkeys(e.body.sha256 for e in entries if isinstance(e.body, PhotoAdded))
    photographs = []
    for sha in shas:
        media_type, data = job_file.photograph(sha)
        photographs.append(
            {"sha256": sha, "media_type": media_type, "base64": base64.b64encode(data).decode()}
        )
    document = {"format": JSON_FORMAT, "version": JSON_VERSION, "entries": rows, "photographs": photographs}
    return json.dumps(document, indent=1, ensure_ascii=False) + "\n"


def _with_kind(entry: Entry) -> dict[str, Any]:
    """An entry's kind and fields; one that cannot be understood as it is stored."""
    if not isinstance(entry.body, Unreadable):
        return {"kind": entry.body.kind, **entry.body.fields()}
    try:
        fields = json.loads(entry.body.text)
    except ValueError:
        fields = None
    return {"kind": entry.body.stored_kind, **(fields if isinstance(fields, dict) else {})}


def job_from_json(text: str) -> Imported:
    """Entries and photographs of an exported job; what cannot be used is set aside with its reason.

    Raises ExchangeError where the document as a whole is no exported job.
    Nothing is written by this.
    """
    document = _document(text)
    photographs, aside = _photographs(document.get("photographs", []))
    rows = document.get("entries", [])
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
    if not isinstance(document, dict) or document.get("format") != JSON_FORMAT:
        raise ExchangeError("this JSON", f"it is not an exported job: “format” must be “{JSON_FORMAT}”")
    if document.get("version") != JSON_VERSION:
        raise ExchangeError(
            f"version {document.get('version')}",
            f"this Trebb reads version {JSON_VERSION}; update Trebb or export again",
        )
    return document


def _photographs(items: Any) -> tuple[dict[str, tuple[str, bytes]], list[str]]:
    """Photographs of an exported job by their SHA-256, and what is wrong with the others."""
    found, aside = {}, []
    for item in items if isinstance(items, list) else []:
        try:
            data = base64.b64decode(item["base64"], validate=True)
            name = str(item["sha256"])
            if sha256_of(data) != name:
                aside.append(f"photograph {name[:8]}: its bytes are not what its name says; export again")
                continue
            found[name] = (str(item["media_type"]), data)
        except (KeyError, TypeError, ValueError):
            aside.append("a photograph: it must have sha256, media_type and base64")
    return found, aside


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


_CSV_COLUMNS = (
    "entry",
    "taken_at",
    "assembly",
    "set_up",
    "place",
    "phase",
    "value_mm",
    "value_div",
    "instrument",
    "resolution_mm",
    "struck",
    "value_c",
    "value_mm_m",
    "value_count",
)
MOST_RESOLUTION_MM = 10.0
READ_IN = {"mm": "a length", **{key: unit.plain for key, unit in RAW_UNITS.items()}}
_CSV_UNITS: Mapping[str, tuple[Unit, float]] = {
    "value_mm": ("mm", 1.0),
    "value_um": ("mm", 0.001),
    "value_in": ("mm", INCH_MM),
    "value_thou": ("mm", THOU_MM),
    "value_div": ("div", 1.0),
    "value_c": ("C", 1.0),
    "value_mm_m": ("mm/m", 1.0),
    "value_count": ("count", 1.0),
}


_RUNS = ("=", "+", "-", "@", "\t", "\r")  # a cell that begins so is run by spreadsheets


def as_text(cell: str) -> str:
    """A cell of words that no spreadsheet takes for a formula; `from_text` takes the mark off again."""
    return f"'{cell}" if cell.startswith(_RUNS) or (cell[:1] == "'" and cell[1:2] in _RUNS) else cell


def from_text(cell: str) -> str:
    """A cell as it was before `as_text`."""
    return cell[1:] if cell[:1] == "'" and cell[1:].lstrip("'").startswith(_RUNS) else cell


def readings_to_csv(job: Job) -> str:
    """Every reading, struck ones included, units in the header."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_CSV_COLUMNS)
    for r in job.all_readings():
        t = r.taken
        mm, div, *others = (
            repr(t.value) if t.unit == unit else "" for unit in ("mm", "div", "C", "mm/m", "count")
        )
        writer.writerow(
            [
                r.id,
                r.at,
                as_text(t.assembly),
                as_text(t.set_up),
                as_text(t.place),
                t.phase,
                mm,
                div,
                as_text(t.instrument),
                repr(t.resolution_mm),
                as_text(r.struck or ""),
                *others,
            ]
        )
    return out.getvalue()


@dataclass(frozen=True)
class ImportedReadings:
    """Readings that a CSV brought, and the lines that were set aside with their reasons."""

    readings: list[ReadingTaken]
    set_aside: list[str]


def readings_from_csv(text: str, cases: Cases) -> ImportedReadings:
    """Readings from a CSV, from Trebb or from a spreadsheet.

    Parameters
    ----------
    cases : of the job that takes them: its set-ups and places are checked
        against; a file without a column “assembly” is about its first part.

    Notes
    -----
    Semicolons, tabs and decimal commas are understood. Struck rows are left
    out. A line that cannot be used is set aside with its reason. Raises
    ExchangeError where the header will not do, or where no line can be used.
    """
    lines = text.lstrip("\ufeff").splitlines()
    if not lines:
        raise ExchangeError(
            "an empty file", "the first line must name the columns set_up, place and value_mm or value_div"
        )
    delimiter = max(";\t,", key=lines[0].count)
    header = [name.strip().lower() for name in lines[0].replace('"', "").split(delimiter)]
    values = [name for name in header if name in _CSV_UNITS]
    for needed in ("set_up", "place"):
        if needed not in header:
            raise ExchangeError(
                "line 1",
                f"there is no column “{needed}”; the header must have set_up, place and one of "
                f"{', '.join(_CSV_UNITS)}",
            )
    if not values:
        raise ExchangeError(
            "line 1", f"no column says value and unit; one of {', '.join(_CSV_UNITS)} is needed"
        )
    found: list[ReadingTaken] = []
    aside: list[str] = []
    for number, line in enumerate(lines[1:], start=2):
        if not line.replace(delimiter, "").strip():
            continue
        try:
            row = _csv_row(number, line, header, delimiter)
            if not row.get("struck"):
                found.append(_reading_from_row(number, row, values, cases, delimiter))
        except InputError as error:
            aside.append(str(error))
    if aside and not found:
        raise ExchangeError("nothing in this file can be used", aside[0])
    return ImportedReadings(found, aside)


def _csv_row(number: int, line: str, header: Sequence[str], delimiter: str) -> dict[str, str]:
    try:
        cells = next(csv.reader([line], delimiter=delimiter))
    except (csv.Error, StopIteration) as error:
        raise ExchangeError(f"line {number}", f"it cannot be read ({error})") from None
    if len(cells) != len(header):
        raise ExchangeError(f"line {number}", f"it has {len(cells)} cells, the header {len(header)}")
    return dict(zip(header, (from_text(cell.strip()) for cell in cells), strict=True))


def _reading_from_row(
    number: int, row: Mapping[str, str], values: Sequence[str], cases: Cases, delimiter: str
) -> ReadingTaken:
    where = f"line {number}"
    given = [name for name in values if row[name]]
    if len(given) != 1:
        raise ExchangeError(where, f"exactly one of {', '.join(values)} must hold the value")
    name = given[0]
    unit, scale = _CSV_UNITS[name]
    wanted = next((s.unit for s in all_set_ups() if s.key == row["set_up"]), unit)
    if wanted != unit:
        raise ExchangeError(where, f"{row['set_up']} is read in {READ_IN[wanted]}, the column is {name}")
    phase = row.get("phase") or "before"
    if phase not in ("before", "after", "later"):
        raise ExchangeError(where, f"“{phase}” is no phase; write before, after or later")
    resolution_mm = _csv_number(number, row.get("resolution_mm") or "0", delimiter)
    if not 0 <= resolution_mm <= MOST_RESOLUTION_MM:
        raise ExchangeError(where, f"a resolution of {resolution_mm:g} mm is no instrument's")
    body = ReadingTaken(
        assembly=row.get("assembly") or cases.first().assembly_key,
        set_up=row["set_up"],
        place=row["place"],
        phase=phase_of(phase),
        value=_csv_number(number, row[name], delimiter) * scale,
        unit=unit,
        typed=f"{row[name]} ({name})",
        instrument=row.get("instrument", "")[:100],
        resolution_mm=resolution_mm,
    )
    try:
        admit(cases.job, cases, body)
    except InputError as error:
        raise ExchangeError(f"{where}, {error.given}", error.would_do) from None
    return body


_CSV_NUMBER = re.compile(r"[+-]?([0-9]{1,12}(\.[0-9]*)?|\.[0-9]+)([eE][+-]?[0-9]{1,3})?")


def _csv_number(line: int, text: str, delimiter: str) -> float:
    cleaned = text.replace("−", "-").replace("\u00a0", "").replace(" ", "")
    if delimiter == "," and re.fullmatch(r"[+-]?[1-9][0-9]*,[0-9]{3}", cleaned):
        raise ExchangeError(f"line {line}", f"“{text[:40]}” can be read two ways; write it with a point")
    if re.fullmatch(r"[+-]?[0-9]*,[0-9]+", cleaned):
        cleaned = cleaned.replace(",", ".")
    if len(cleaned) > 40 or not _CSV_NUMBER.fullmatch(cleaned):
        raise ExchangeError(f"line {line}", f"“{text[:40]}” is not a number; write it like 0.0125 or 0,0125")
    return float(cleaned)
