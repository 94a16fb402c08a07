"""Readings as CSV both ways."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping, Sequence

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.survey import all_set_ups
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.units import INCH_MM, THOU_MM
from trebb.logbook.cases.admitting import admit
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import ReadingTaken, Unit, phase_of
from trebb.logbook.log.fold import Job


class ExchangeError(InputError):
    """A file to import that cannot be used; the sentence names line or entry."""


CSV_COLUMNS = (
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
    writer.writerow(CSV_COLUMNS)
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


class ImportedReadings(Struct, frozen=True):
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
