"""Open formats: the whole job as JSON both ways, readings as CSV both ways."""

from __future__ import annotations

import base64
import csv
import io
import json
import re
from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import ValidationError

from trebb.core.errors import InputError, TrebbError
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.units import INCH_MM, THOU_MM
from trebb.logbook.entries import KINDS, Entry, PhotoAdded, ReadingTaken
from trebb.logbook.fold import Job
from trebb.logbook.store import JobFile, sha256_of

JSON_FORMAT = "trebb-job"
JSON_VERSION = 1


class ExchangeError(InputError):
    """A file to import that cannot be used; the sentence names line or entry."""


def job_to_json(job_file: JobFile) -> str:
    """Every entry and photograph as JSON text; `job_from_json` restores the same job."""
    entries = job_file.entries()
    rows = [{"id": e.id, "at": e.at, "gesture": e.gesture, **e.body.model_dump(mode="json")} for e in entries]
    shas = dict.fromkeys(e.body.sha256 for e in entries if isinstance(e.body, PhotoAdded))
    photographs = []
    for sha in shas:
        media_type, data = job_file.photograph(sha)
        photographs.append({"sha256": sha, "media_type": media_type, "base64": base64.b64encode(data).decode()})
    document = {"format": JSON_FORMAT, "version": JSON_VERSION, "entries": rows, "photographs": photographs}
    return json.dumps(document, indent=1, ensure_ascii=False) + "\n"


def job_from_json(text: str) -> tuple[list[Entry], dict[str, tuple[str, bytes]]]:
    """Entries and photographs of an exported job.

    Raises ExchangeError naming the entry and field that will not do. Nothing is
    written by this.
    """
    try:
        document = json.loads(text)
    except json.JSONDecodeError as error:
        raise ExchangeError(f"line {error.lineno}", f"this is not JSON ({error.msg})") from None
    if not isinstance(document, dict) or document.get("format") != JSON_FORMAT:
        raise ExchangeError("this JSON", f"it is not an exported job: “format” must be “{JSON_FORMAT}”")
    if document.get("version") != JSON_VERSION:
        raise ExchangeError(f"version {document.get('version')}", f"this Trebb reads version {JSON_VERSION}; update Trebb or export again")
    entries: list[Entry] = []
    for number, row in enumerate(document.get("entries", []), start=1):
        entry = _entry_from_json(number, row)
        if entries and entry.id <= entries[-1].id:
            raise ExchangeError(f"entry {number} of the file", f"its id {entry.id} must be more than {entries[-1].id}")
        entries.append(entry)
    photographs = {}
    for item in document.get("photographs", []):
        try:
            data = base64.b64decode(item["base64"], validate=True)
            if sha256_of(data) != item["sha256"]:
                raise ExchangeError(f"photograph {item['sha256'][:8]}", "its bytes are not what its name says; export again")
            photographs[item["sha256"]] = (str(item["media_type"]), data)
        except (KeyError, TypeError, ValueError) as error:
            if isinstance(error, TrebbError):
                raise
            raise ExchangeError("a photograph", "it must have sha256, media_type and base64") from None
    missing = [e.body.file_name for e in entries if isinstance(e.body, PhotoAdded) and e.body.sha256 not in photographs]
    if missing:
        raise ExchangeError(f"photograph “{missing[0]}”", "its picture is not in the file; export again")
    return entries, photographs


def _entry_from_json(number: int, row: Any) -> Entry:
    if not isinstance(row, dict):
        raise ExchangeError(f"entry {number} of the file", "it must be an object with id, at, gesture and kind")
    fields = dict(row)
    head = {name: fields.pop(name, None) for name in ("id", "at", "gesture")}
    if not isinstance(head["id"], int) or not isinstance(head["gesture"], int) or not isinstance(head["at"], str):
        raise ExchangeError(f"entry {number} of the file", "id and gesture must be whole numbers and at a time")
    kind = KINDS.get(str(fields.get("kind")))
    if kind is None:
        raise ExchangeError(f"entry {number} of the file, field “kind”", f"“{fields.get('kind')}” is none of {', '.join(KINDS)}")
    try:
        body = kind.model_validate(fields)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"]) or "kind"
        raise ExchangeError(f"entry {number} of the file, field “{where}”", f"{first['msg'].lower()}") from None
    return Entry(head["id"], head["at"], head["gesture"], body)


_CSV_COLUMNS = (
    "entry", "taken_at", "assembly", "set_up", "place", "phase", "value_mm", "value_div", "instrument", "resolution_mm", "struck", "value_c", "value_mm_m", "value_count",
)  # fmt: skip
READ_IN = {"mm": "a length", **{key: unit.plain for key, unit in RAW_UNITS.items()}}
_CSV_UNITS: Mapping[str, tuple[str, float]] = {
    "value_mm": ("mm", 1.0),
    "value_um": ("mm", 0.001),
    "value_in": ("mm", INCH_MM),
    "value_thou": ("mm", THOU_MM),
    "value_div": ("div", 1.0),
    "value_c": ("C", 1.0),
    "value_mm_m": ("mm/m", 1.0),
    "value_count": ("count", 1.0),
}


def readings_to_csv(job: Job) -> str:
    """Every reading, struck ones included, units in the header."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_CSV_COLUMNS)
    for r in job.all_readings():
        t = r.taken
        mm, div, *others = (repr(t.value) if t.unit == unit else "" for unit in ("mm", "div", "C", "mm/m", "count"))
        writer.writerow([r.id, r.at, t.assembly, t.set_up, t.place, t.phase, mm, div, t.instrument, repr(t.resolution_mm), r.struck or "", *others])
    return out.getvalue()


Known = Mapping[str, tuple[str, Sequence[str]]]


def readings_from_csv(text: str, known: Mapping[str, Known], assembly: str) -> list[ReadingTaken]:
    """Readings from a CSV, from Trebb or from a spreadsheet.

    Parameters
    ----------
    known : assembly → set-up key → (its unit, its places), to check against.
    assembly : taken where the file has no such column.

    Notes
    -----
    Semicolons, tabs and decimal commas are understood. Struck rows are left
    out. Raises ExchangeError naming the line; then nothing is imported.
    """
    lines = text.lstrip("\ufeff").splitlines()
    if not lines:
        raise ExchangeError("an empty file", "the first line must name the columns set_up, place and value_mm or value_div")
    delimiter = max(";\t,", key=lines[0].count)
    rows = list(csv.reader(lines, delimiter=delimiter))
    header = [name.strip().lower() for name in rows[0]]
    values = [name for name in header if name in _CSV_UNITS]
    for needed in ("set_up", "place"):
        if needed not in header:
            raise ExchangeError("line 1", f"there is no column “{needed}”; the header must have set_up, place and one of {', '.join(_CSV_UNITS)}")
    if not values:
        raise ExchangeError("line 1", f"no column says value and unit; one of {', '.join(_CSV_UNITS)} is needed")
    result = []
    for number, cells in enumerate(rows[1:], start=2):
        if not any(cell.strip() for cell in cells):
            continue
        if len(cells) != len(header):
            raise ExchangeError(f"line {number}", f"it has {len(cells)} cells, the header {len(header)}")
        row = dict(zip(header, (cell.strip() for cell in cells), strict=True))
        if row.get("struck"):
            continue
        result.append(_reading_from_row(number, row, values, known, assembly, delimiter))
    return result


def _reading_from_row(
    number: int, row: Mapping[str, str], values: Sequence[str], known: Mapping[str, Known], assembly: str, delimiter: str
) -> ReadingTaken:
    set_up, place, part = row["set_up"], row["place"], row.get("assembly") or assembly
    if part not in known:
        raise ExchangeError(f"line {number}", f"“{part}” is no part with set-ups here; known are {', '.join(known)}")
    if set_up not in known[part]:
        raise ExchangeError(f"line {number}", f"“{set_up}” is no set-up here; known are {', '.join(known[part])}")
    unit, places = known[part][set_up]
    if place not in places:
        raise ExchangeError(f"line {number}", f"“{place}” is no place of {set_up}; it has {', '.join(places)}")
    given = [name for name in values if row[name]]
    if len(given) != 1:
        raise ExchangeError(f"line {number}", f"exactly one of {', '.join(values)} must hold the value")
    name = given[0]
    if _CSV_UNITS[name][0] != unit:
        raise ExchangeError(f"line {number}", f"{set_up} is read in {READ_IN[unit]}, the column is {name}")
    phase = row.get("phase") or "before"
    if phase not in ("before", "after"):
        raise ExchangeError(f"line {number}", f"“{phase}” is no phase; write before or after")
    return ReadingTaken(
        assembly=part,
        set_up=set_up,
        place=place,
        phase="after" if phase == "after" else "before",
        value=_csv_number(number, row[name], delimiter) * _CSV_UNITS[name][1],
        unit=_CSV_UNITS[name][0],  # type: ignore[arg-type]
        typed=f"{row[name]} ({name})",
        instrument=row.get("instrument", ""),
        resolution_mm=_csv_number(number, row.get("resolution_mm") or "0", delimiter),
    )


def _csv_number(line: int, text: str, delimiter: str) -> float:
    cleaned = text.replace("−", "-").replace("\u00a0", "").replace(" ", "")
    if re.fullmatch(r"[+-]?\d*,\d+", cleaned):
        cleaned = cleaned.replace(",", ".")
    try:
        value = float(cleaned)
    except ValueError:
        raise ExchangeError(f"line {line}", f"“{text}” is not a number; write it like 0.0125 or 0,0125") from None
    if value != value or value in (float("inf"), float("-inf")):
        raise ExchangeError(f"line {line}", f"“{text}” is not a finite number")
    return value
