"""What no view of a part shows, as lines on its sheet: what is not right yet, limits, what it is made by."""

from __future__ import annotations

import math
import re
import textwrap
from collections.abc import Sequence

from trebb.core.parts.base import Part, SizeRow
from trebb.core.parts.page import SMALL, Box, Page, text_width
from trebb.core.parts.sheet_turned import feature_places
from trebb.core.parts.turned_sections import Place
from trebb.core.threads import Band
from trebb.core.units import show_small

STEP, LETTERS, WHOLE = (
    4.2,
    48,
    3,
)  # mm of paper a line, letters of the longest, most that are said in whole sentences


def row_words(row: SizeRow, place: Place) -> str:
    """The value of a line of the sizes, as a drawing has it."""
    if isinstance(row.value, Band):
        return place.limits(row.value)
    if isinstance(row.value, str):
        return row.value
    if row.kind == "angle":
        return f"{math.degrees(row.value):.2f}°".replace("-", "−")
    if row.kind == "small":
        return show_small(row.value, place.system)
    return place.size(row.value)


def rows_of(part: Part, drawn: Sequence[object]) -> list[int]:
    """Which row limits each of the things drawn, given by a row's key or by limits; -1 for none of them. Of
    several with the same limits the first drawn is the first row's.
    """
    found: list[int] = []
    for what in drawn:
        rows = [i for i, row in enumerate(part.rows) if what in (row.key, row.value)]
        free = [i for i in rows if i not in found]
        found.append((free or rows or [-1])[0])
    return found


def unsaid(part: Part, page: Page, place: Place) -> list[str]:
    """Lines for what nothing on the page says yet: every limit, every size that is to be held; first of all
    what is not right with the part.
    """
    said = " ".join([t.words for t in page.texts] + [d.words for d in page.dims])
    lines: list[str] = []
    wrong = [check.sentence for check in part.checks if not check.is_ok]
    if len(wrong) > WHOLE:  # what would do about them stands at Parts
        wrong = [f"{sentence.partition(': ')[0].rstrip('.')}." for sentence in wrong]
    for sentence in wrong:
        lines += textwrap.wrap(f"NOT RIGHT YET: {sentence}", LETTERS)
    lines += textwrap.wrap(part.usual_words, LETTERS)
    for words in feature_places(part, place):
        lines += textwrap.wrap(words, LETTERS)
    for row in part.rows:
        words = row_words(row, place)
        if not (row.is_key or isinstance(row.value, Band)) or _stands(words, said):
            continue
        if row.kind == "size" and isinstance(row.value, float) and _stands(place.length(row.value), said):
            continue
        lines += textwrap.wrap(f"{row.label}: {words}" + (f" ({row.note})" if row.note else ""), LETTERS)
    return lines


def _stands(words: str, said: str) -> bool:
    """Whether these words stand there by themselves, not as a piece of a longer figure."""
    return re.search(rf"(?<![\d.]){re.escape(words)}(?![\d.])", said) is not None


def block_high(lines: list[str]) -> float:
    """Height the block takes, mm of paper."""
    return STEP * len(lines) + 2.0 if lines else 0.0


def put_block(page: Page, lines: list[str], beside: Box) -> bool:
    """Write the lines where the page has room, else `beside` the notes; False where neither has."""
    if not lines:
        return True
    wide, high = max(text_width(line, SMALL) for line in lines) + 2.0, block_high(lines)
    spot = page.room(wide, high, (4, 8), off_views=True)
    if spot is None and wide <= beside.right - beside.left and high <= beside.high - beside.low + 0.01:
        spot = Box(beside.left, beside.low, beside.left + wide, beside.low + high)
    if spot is None:
        return False
    for i, line in enumerate(lines):
        page.write_left(line, (spot.left + 1.0, spot.high - STEP * (i + 1) + 1.0), SMALL)
    page.boxes.append(spot)
    return True
