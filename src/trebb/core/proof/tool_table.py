"""A tool table whose every length shifts by what the spindle's repair moved its nose."""

from __future__ import annotations

import csv
import io
import re

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.units import INCH_MM

UNITS = {"in": INCH_MM, "mm": 1.0}
# Lengths are kept to what a machine's control holds, and never to less than the table had.
LEAST_DECIMALS = {"in": 4, "mm": 3}
_NUMBER = re.compile(r"^[+-]?\d*[.,]?\d+$")
TOOL_WORDS, LENGTH_WORDS = ("tool", "number", "no", "t", "name"), ("length", "height", "z", "offset", "h")


class ToolTable(Struct, frozen=True):
    """A table as read: header and rows as they stood, and how they were written."""

    header: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    delimiter: str

    @property
    def usual_columns(self) -> tuple[int, int]:
        """Columns that by their names hold tool and length; the first and the last where none says so."""
        names = [h.strip().lower() for h in self.header]

        def find(words: tuple[str, ...], otherwise: int) -> int:
            for word in words:
                for i, name in enumerate(names):
                    if name == word or (len(word) > 2 and word in name):
                        return i
            return otherwise

        return find(TOOL_WORDS, 0), find(LENGTH_WORDS, len(names) - 1)


class ShiftedTool(Struct, frozen=True):
    """One tool: its old and new length as text; `problem` says why it was left as it is, or ""."""

    tool: str
    old: str
    new: str
    problem: str = ""


def read_table(text: str) -> ToolTable:
    """A table from CSV text; comma, semicolon or tab. Raises InputError for what is no table."""
    lines = text.lstrip("\ufeff").splitlines()
    lines = [line for line in lines if line.strip()]
    if len(lines) < 2:
        raise InputError(
            "a table without rows", "the first line names the columns, each further line is a tool"
        )
    delimiter = max(";\t,", key=lines[0].count)
    rows = list(csv.reader(lines, delimiter=delimiter))
    if len(rows[0]) < 2:
        raise InputError(
            f"one column, “{lines[0].strip()[:40]}”",
            "a tool table has a column for the tool and one for its length, divided by comma, semicolon or "
            "tab",
        )
    for number, row in enumerate(rows[1:], start=2):
        if len(row) != len(rows[0]):
            raise InputError(
                f"line {number} of the table", f"it has {len(row)} cells, the header {len(rows[0])}"
            )
    return ToolTable(tuple(rows[0]), tuple(tuple(r) for r in rows[1:]), delimiter)


def shift_table(
    table: ToolTable, tool: int, length: int, by_mm: float, unit: str
) -> tuple[list[ShiftedTool], str]:
    """Every length moved by `by_mm` (+ longer), and the table as text with nothing else changed.

    A cell that is empty or no number is left as it is and says so. Decimal
    commas stay commas. Raises InputError for a column that is not there.
    """
    if unit not in UNITS:
        raise InputError(f"unit “{unit}”", f"lengths are in {' or '.join(UNITS)}")
    for column in (tool, length):
        if not 0 <= column < len(table.header):
            raise InputError(f"column {column + 1}", f"the table has {len(table.header)}")
    shifted, rows = [], []
    comma = any("," in row[length] for row in table.rows)
    for row in table.rows:
        old = row[length].strip()
        if not _NUMBER.match(old):
            shifted.append(
                ShiftedTool(row[tool], old, old, "no length" if not old else f"“{old}” is not a number")
            )
            rows.append(row)
            continue
        decimals = max(len(re.split("[.,]", old)[1]) if re.search("[.,]", old) else 0, LEAST_DECIMALS[unit])
        new = f"{float(old.replace(',', '.')) + by_mm / UNITS[unit]:.{decimals}f}"
        new = new.replace(".", ",") if comma else new
        shifted.append(ShiftedTool(row[tool], old, new))
        rows.append((*row[:length], new, *row[length + 1 :]))
    out = io.StringIO()
    writer = csv.writer(out, delimiter=table.delimiter, lineterminator="\n")
    writer.writerow(table.header)
    writer.writerows(rows)
    return shifted, out.getvalue()
