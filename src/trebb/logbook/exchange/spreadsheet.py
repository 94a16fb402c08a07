"""A job as a spreadsheet (.xlsx), and readings out of one: words stay words, nothing is ever a formula."""

from __future__ import annotations

import csv
import io
import warnings
import zipfile
from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from trebb.core.errors import InputError
from trebb.core.survey import set_up
from trebb.core.units import THOU_MM
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.telling import machine_told
from trebb.logbook.exchange.readings_csv import ExchangeError, readings_to_csv
from trebb.logbook.file.given_files import read_given
from trebb.logbook.file.writing import written_beside

if TYPE_CHECKING:
    from openpyxl import Workbook
    from openpyxl.worksheet.worksheet import Worksheet

    from trebb.core.units import UnitSystem

MOST_ROWS, MOST_COLUMNS = 20_000, 60
# An encrypted spreadsheet is a compound file (MS-CFB) and no archive.
ENCRYPTED = b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1"
MOST_UNPACKED = 100_000_000  # bytes that a file may hold unpacked
LETTERS = 48  # of a column's width at most

Cell = str | float | int | None


def _put(sheet: Worksheet, row: int, cells: Sequence[Cell], *, bold: bool = False) -> None:
    from openpyxl.cell.cell import ILLEGAL_CHARACTERS_RE
    from openpyxl.styles import Font

    for column, value in enumerate(cells, start=1):
        cell = sheet.cell(row=row, column=column)
        if isinstance(value, str):
            cell.value = ILLEGAL_CHARACTERS_RE.sub("�", value)[:32_767]
            cell.data_type = "s"  # “=1+1” is what somebody wrote, not a sum
        elif value is not None:
            cell.value = value
        if bold:
            cell.font = Font(bold=True)


def _table(book: Workbook, title: str, head: Sequence[str], rows: Iterable[Sequence[Cell]]) -> None:
    from openpyxl.utils import get_column_letter

    sheet = book.create_sheet(title)
    _put(sheet, 1, head, bold=True)
    wide = [len(name) for name in head]
    for at, row in enumerate(rows, start=2):
        _put(sheet, at, row)
        wide = [max(w, len(str(c)) if isinstance(c, str) else 10) for w, c in zip(wide, row, strict=True)]
    for i, w in enumerate(wide, start=1):
        sheet.column_dimensions[get_column_letter(i)].width = min(LETTERS, w + 2)
    sheet.freeze_panes = "A2"


def _readings(book: Workbook, cases: Cases) -> None:
    """Every reading by its words."""
    job, names = cases.job, {a.key: a.label for a in cases.kind.assemblies}
    head = (
        "taken at", "assembly", "set-up", "place", "phase", "value", "unit", "thou", "as typed", "instrument",
        "struck out",
    )  # fmt: skip
    _table(
        book,
        "Readings",
        head,
        (
            (
                r.at,
                names.get(r.taken.assembly, r.taken.assembly),
                set_up(r.taken.set_up).title,
                r.taken.place,
                r.taken.phase,
                r.taken.value,
                r.taken.unit,
                r.taken.value / THOU_MM if r.taken.unit == "mm" else None,
                r.taken.typed,
                r.taken.instrument,
                r.struck or "",
            )
            for r in job.all_readings()
        ),
    )


def workbook(cases: Cases, system: UnitSystem) -> Workbook:
    """Sheets “Machine”, “Readings”, “Figures”, “Sizes taken” and “To bring in”; lengths in mm and in thou."""
    from openpyxl import Workbook

    job = cases.job
    book = Workbook()
    book.remove(book.worksheets[0])
    started = job.started
    card = [(key, job.card(key)) for key in ("make", "year", "size", "worth")]
    about = [("shop", started.shop), ("machine", started.machine)] if started else []
    _table(book, "Machine", ("what", "value"), [*about, *((k, v) for k, v in card if v)])
    _readings(book, cases)
    told = machine_told(cases, system)
    _table(
        book,
        "Figures",
        ("assembly", "figure", "value, mm", "low, mm", "high, mm", "limit, mm", "state"),
        (
            (part["label"], f["label"], *(f[key] for key in ("value_mm", "low_mm", "high_mm", "limit_mm")),
             f["state"])
            for part in told["parts"]
            for f in part["figures"]
        ),
    )  # fmt: skip
    _table(
        book,
        "Sizes taken",
        ("part", "operation", "what", "value, mm", "as typed", "struck out"),
        (
            (s.taken.part, s.taken.operation, s.taken.what, s.taken.value_mm, s.taken.typed, s.struck or "")
            for s in job.all_sizes()
        ),
    )
    # Once more as the CSV has them, by their keys: the sheet that is read when it is brought in again.
    listed = list(csv.reader(io.StringIO(readings_to_csv(job))))
    _table(book, "To bring in", listed[0], listed[1:])
    return book


def write_xlsx(cases: Cases, system: UnitSystem, path: Path) -> None:
    """The job as a spreadsheet. Raises WriteError."""
    book = workbook(cases, system)
    with written_beside(path, zipfile.is_zipfile) as beside:
        held = io.BytesIO()  # an archive half written on a full disk would complain after the sentence
        book.save(held)
        beside.write_bytes(held.getvalue())


def readings_text(path: Path) -> str:
    """The first sheet of a spreadsheet that has a column `set_up`, as CSV text.

    Values are taken as they were last worked out; no formula is run. Raises
    ExchangeError where it cannot be read, or is larger than a list of readings.
    """
    from openpyxl import load_workbook

    data = read_given(path, MOST_UNPACKED, ExchangeError)
    if data.startswith(ENCRYPTED):
        raise ExchangeError(path.name, "it is encrypted, or old; save it as .xlsx without a password")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as held:
            if sum(one.file_size for one in held.infolist()) > MOST_UNPACKED:
                raise ExchangeError(path.name, "it unpacks to more than 100 MB: no list of readings")
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # of what the library does not know in a sheet
            book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
            try:
                text = _first_list(book.worksheets)
            finally:
                book.close()
    except (ExchangeError, InputError):
        raise
    except Exception as error:  # one wrong byte within can raise nearly anything in the library
        why = "it is damaged, or no spreadsheet; open it there and save it anew"
        raise ExchangeError(path.name, why) from error
    if text is not None:
        return text
    raise ExchangeError(path.name, "no sheet has a column “set_up” in its first row")


def _first_list(sheets: Iterable[Any]) -> str | None:
    """The first sheet with a column `set_up` as CSV text; None where none has one."""
    for sheet in sheets:
        rows = _rows(sheet)
        if rows and "set_up" in (cell.strip().lower() for cell in rows[0]):
            out = io.StringIO()
            csv.writer(out, delimiter="\t", lineterminator="\n").writerows(rows)
            return out.getvalue()
    return None


def _rows(sheet: Any) -> list[list[str]]:
    found = [
        [_text(cell) for cell in row]
        for row in sheet.iter_rows(max_row=MOST_ROWS, max_col=MOST_COLUMNS, values_only=True)
    ]
    if len(found) == MOST_ROWS:
        raise InputError(f"{MOST_ROWS} rows or more", "bring them in by parts")
    wide = max((i + 1 for row in found[:1] for i, cell in enumerate(row) if cell), default=0)
    return [row[:wide] + [""] * (wide - len(row)) for row in found if any(row)]


def _text(value: Any) -> str:
    if value is None:
        return ""
    return repr(value) if isinstance(value, float) else " ".join(str(value).split())
