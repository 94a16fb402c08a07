"""Readings as they are said at the bench: "1 to 2 tenths", "under 2 thou", "half a thou"."""

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
_UNDER = r"(?i)^\s*(?:under|below|less than|<)\s*(.+)$"


class Between(Struct, frozen=True):
    """A reading said to lie between two, in one unit: its middle, and how far the two are apart. It is no
    reading of its middle: it is worth what a needle with marks so far apart is.
    """

    middle: float
    width: float


def plainly(text: str) -> str:
    """Words for numbers as numbers: "half a thou" is ".5 thou"."""
    found = re.match(_PART, text)
    return f"{_WORDS[found[1].lower()]} {found[2].strip()}" if found else text


def between(s: AnySetUp, text: str, parse: Callable[[str], float]) -> Between | None:
    """What a text says to lie between, by how one figure is read; None where it is one figure. Raises
    InputError for two that are the wrong way round.
    """
    if not s.is_length or s.is_size:
        return None
    if (under := re.match(_UNDER, text)) is not None:
        low, high = 0.0, parse(under[1])
    elif (found := re.match(_BETWEEN, text)) is not None:
        unit = (found[4] or found[2] or "").strip()
        low, high = parse(f"{found[1]} {found[2] or unit}"), parse(f"{found[3]} {unit}")
    else:
        return None
    if not low < high:
        raise InputError(f"“{text.strip()}”", "the smaller first: 1 to 2 tenths")
    return Between((low + high) / 2, high - low)
