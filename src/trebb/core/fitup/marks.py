"""Two marks that must meet: how far they stood apart, before and again, and what may be left."""

from __future__ import annotations

import re

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.machine import State
from trebb.core.units import INCH_MM, THOU_MM

# What is said of marks, in words as typed: its unit, and what one of it is in that.
_UNITS = {
    **dict.fromkeys(("°", "deg", "degree", "degrees"), ("°", 1.0)),
    **dict.fromkeys(("div", "divs", "division", "divisions", "line", "lines"), ("div", 1.0)),
    **dict.fromkeys(("tooth", "teeth"), ("teeth", 1.0)),
    **dict.fromkeys(("mm", "millimetre", "millimetres"), ("mm", 1.0)),
    **dict.fromkeys(("µm", "um", "micron", "microns"), ("mm", 1e-3)),
    **dict.fromkeys(("thou", "thous"), ("mm", THOU_MM)),
    **dict.fromkeys(("in", "inch", '"'), ("mm", INCH_MM)),
}
_FIGURE = re.compile(r'^\s*(half an?\b|[+\-−]?\d*[.,]?\d+)\s*([a-zµ°"]+)?', re.IGNORECASE)
_MEETS = re.compile(r"^\s*(meets?|together|in line|true|none|nothing)\b", re.IGNORECASE)


class Apart(Struct, frozen=True):
    """How far two marks stood apart: a figure in °, div, teeth or mm; unit "" where it is nothing."""

    value: float
    unit: str


def apart_read(text: str) -> Apart | None:
    """What was read of two marks, where words begin with a figure: "2 div late", "half a line", "0"; None
    where they do not, or in a unit that is none.
    """
    if _MEETS.match(text):
        return Apart(0.0, "")
    found = _FIGURE.match(text)
    if found is None:
        return None
    figure, unit = found[1], (found[2] or "").lower()
    value = 0.5 if figure.lower().startswith("half") else float(figure.replace(",", ".").replace("−", "-"))
    if not value and unit not in _UNITS:
        return Apart(0.0, "")
    if unit not in _UNITS:
        return None
    name, one = _UNITS[unit]
    return Apart(value * one, name)


def refuse_unread(text: str) -> None:
    """Raises InputError for what may be left that is no figure."""
    if text.strip() and apart_read(text) is None:
        raise InputError(f"“{text.strip()}”", "a figure with its unit: 0.5 div, 2°, 1 tooth, 5 thou")


def judged(again: str, allowed: str) -> State:
    """Whether marks meet by what was read again and what may be left; unknown where either says no figure, or
    the two are of other units.
    """
    read, most = apart_read(again), apart_read(allowed)
    if read is None or most is None or (read.unit and most.unit and read.unit != most.unit):
        return State.UNKNOWN
    return State.WITHIN if abs(read.value) <= abs(most.value) + 1e-9 else State.BEYOND
