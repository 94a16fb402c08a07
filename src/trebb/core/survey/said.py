"""Readings as they are said at the bench: "1 to 2 tenths", "under 2 thou", "half a thou", "a good 3"."""

from __future__ import annotations

import re
from collections.abc import Callable

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.survey.base import AnySetUp

_WORDS = {"half": 0.5, "quarter": 0.25, "a quarter": 0.25, "a half": 0.5}
_PART = r"(?i)^\s*(?:about\s+)?(a half|half|a quarter|quarter)(?:\s+an?)?\s+(?:of\s+an?\s+)?(\D+)$"
_BETWEEN = (
    r"(?i)^\s*(?:from\s+|between\s+)?([^a-z]*?[\d.,/]+)\s*([a-z°µ\"]*)\s*(?:to|and|–|…|\.\.)"
    r"\s*([\d.,/]+)\s*([a-z°µ\"].*)?$"
)
_DASHED = r"(?i)^\s*(\d+[.,]?\d*)\s*([a-z°µ\"]*)\s*-\s*(\d+[.,]?\d*)\s*([a-z°µ\"].*)?$"
# "A good 3", "3 scant", "about 3": which side of the figure, in halves of what its last place counts.
_ABOUT = (
    (r"(?i)^\s*(?:a\s+)?(?:good|full|strong|fat)\s+(.+)$|^(.+?)(?:\s+(?:plus|and a bit|full)|\+)\s*$", 0, 1),
    (
        r"(?i)^\s*(?:a\s+)?(?:scant|bare|just under|almost|nearly|barely)\s+(.+)$"
        r"|^(.+?)\s+(?:scant|bare|minus)\s*$",
        -1,
        0,
    ),
    (r"(?i)^\s*(?:about|around|roughly|some|circa|~|≈)\s*(.+)$|^(.+?)(?:\s+or so|\s*ish)\s*$", -1, 1),
)
_NONE = r"(?i)^\s*(?:nothing|none|nil|zero|no play|no movement)\s*\.?\s*$"
_THOU_TENTHS = r"(?i)^\s*(\d+)\s*thou(?:sandths?)?\s*(?:and\s+)?(\d)\s*tenths?\s*$"
_GLYPHS = {"½": 0.5, "¼": 0.25, "¾": 0.75}
_NUMBERS = {"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9}
_UNDER = r"(?i)^\s*(?:under|below|less than|<)\s*(.+)$"


class Between(Struct, frozen=True):
    """A reading said to lie between two, in one unit: its middle, and how far the two are apart. It is no
    reading of its middle: it is worth what a needle with marks so far apart is.
    """

    middle: float
    width: float


def plainly(text: str) -> str:
    """Words for numbers as numbers: "half a thou" is ".5 thou", "1½" 1.5, "two thou" 2, "nothing" 0, "3 thou
    2 tenths" 3.2 thou.
    """
    if re.match(_NONE, text):
        return "0"
    if (both := re.match(_THOU_TENTHS, text)) is not None:
        return f"{both[1]}.{both[2]} thou"
    if (glyph := re.match(r"^\s*(\d*)\s*([½¼¾])\s*(.*)$", text)) is not None:
        return f"{int(glyph[1] or 0) + _GLYPHS[glyph[2]]} {glyph[3]}".strip()
    if (word := re.match(r"(?i)^\s*([a-z]+)\b(.*)$", text)) is not None and word[1].lower() in _NUMBERS:
        return f"{_NUMBERS[word[1].lower()]}{word[2]}"
    if text.strip().lower() in _WORDS:
        return str(_WORDS[text.strip().lower()])
    found = re.match(_PART, text)
    return f"{_WORDS[found[1].lower()]} {found[2].strip()}" if found else text


def _about(text: str, parse: Callable[[str], float]) -> Between | None:
    """What is said to lie about a figure, or on one side of it: half of what its last place counts away."""
    for pattern, below, above in _ABOUT:
        found = re.match(pattern, text)
        if found is None:
            continue
        raw = (found[1] or found[2]).strip()
        said = plainly(raw)
        figure = re.match(r"^\s*(\d*)[.,]?(\d*)\s*(.*)$", said)
        if figure is None or not (figure[1] or figure[2]):
            return None
        value = float(f"{figure[1] or 0}.{figure[2] or 0}")
        half = 10.0 ** -len(figure[2]) / 2 if said == raw else value / 2  # "about half a thou" has no places
        if max(0.0, value + below * half) >= value + above * half:
            return None
        low, high = (
            parse(f"{max(0.0, value + side * half):.9g} {figure[3]}".strip()) for side in (below, above)
        )
        return Between((low + high) / 2, high - low)
    return None


def between(s: AnySetUp, text: str, parse: Callable[[str], float]) -> Between | None:
    """What a text says to lie between, by how one figure is read; None where it is one figure. Raises
    InputError for two that are the wrong way round.
    """
    if not s.is_length or s.is_size:
        return None
    if (under := re.match(_UNDER, text)) is not None:
        low, high = 0.0, parse(under[1])
    elif (found := re.match(_BETWEEN, text) or re.match(_DASHED, text)) is not None:
        unit = (found[4] or found[2] or "").strip()
        low, high = parse(f"{found[1]} {found[2] or unit}"), parse(f"{found[3]} {unit}")
    else:
        return _about(text, parse)
    if not low < high:
        raise InputError(f"“{text.strip()}”", "the smaller first: 1 to 2 tenths")
    return Between((low + high) / 2, high - low)
