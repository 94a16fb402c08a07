"""Certified rows: each file in tests/data carries its source column; a row's tolerance is in its own unit."""

from __future__ import annotations

import csv
from collections.abc import Callable
from pathlib import Path

DATA = Path(__file__).parent / "data"
Row = dict[str, str]


def rows(name: str, *quantities: str) -> list[Row]:
    """Rows of a file, of the named quantities or all."""
    with (DATA / name).open(encoding="utf-8") as stream:
        return [row for row in csv.DictReader(stream) if not quantities or row["quantity"] in quantities]


def misses(name: str, quantity: str, compute: Callable[[Row], object]) -> list[str]:
    """Rows of a quantity whose computed value is not the expected one; fails on a quantity without rows."""
    found = rows(name, quantity)
    assert found, f"no row of {quantity} in {name}"
    return [f"{row}: got {got}" for row in found if not _agrees(row, got := compute(row))]


def _agrees(row: Row, got: object) -> bool:
    expected = row["expected"]
    if isinstance(got, bool):
        return expected == str(got).lower()
    if isinstance(got, str):
        return expected == got
    tolerance = 0.0 if row["tolerance"] == "exact" else float(row["tolerance"])
    return abs(float(got) - float(expected)) <= tolerance  # type: ignore[arg-type]


def number(row: Row, key: str) -> float:
    """A cell as a number."""
    return float(row[key])


def millimetres(row: Row, key: str) -> float:
    """A length cell in mm, by the row's length unit."""
    return float(row[key]) * (25.4 if row["length_unit"] == "in" else 1.0)


def in_unit(row: Row, mm: float) -> float:
    """A length in mm back in the row's unit."""
    return mm / 25.4 if row["length_unit"] == "in" else mm
