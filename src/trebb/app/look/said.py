"""What a picture says: words with the spot they stand at."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from msgspec import Struct
from PySide6.QtCore import QRectF


class Said(Struct, frozen=True):
    """Words on a picture: whole, even where only their beginning was painted; the spot they stand at."""

    text: str
    spot: QRectF
    is_cut: bool = False
    is_shape: bool = False  # a state's mark, in words; they follow what the row is called


def in_rows(
    said: Iterable[Said], across: Callable[[Said], float], is_one: Callable[[float], bool]
) -> list[list[Said]]:
    """Words gathered in rows, in the order of `across`, their middle: in one while `is_one` holds of how far
    they lie from the row's first, px.
    """
    rows: list[list[Said]] = []
    for one in sorted(said, key=across):
        if rows and is_one(abs(across(one) - across(rows[-1][0]))):
            rows[-1].append(one)
        else:
            rows.append([one])
    return rows


def height_of(one: Said) -> float:
    """The height of the middle of words, px."""
    return one.spot.center().y()
