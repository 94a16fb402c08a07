"""Several readings typed at once: "12 13 14" a place after the other, "12; 13; 14" all of one place."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Sequence
from typing import Any

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.survey.admitting import readings_typed
from trebb.core.survey.base import AnySetUp
from trebb.core.units import UnitSystem, parse_length

MOST = 40
# Between two readings where no semicolon is: room before a figure, or before words that stand for one.
_APART = re.compile(r",?\s+(?=[-+−.\d½¼¾])")
# A word that joins what stands before it to what comes: then they are one, be it one that will not do.
_JOINS = re.compile(r"(?:^|\s)(?:to|at|and|or|than|under|over|about|between|from)\s*$", re.IGNORECASE)


class Landing(Struct, frozen=True):
    """One of several: where it lands and how that is called, its raw value in the set-up's unit, and the
    words it was typed as.
    """

    place: str
    label: str
    raw: float
    typed: str


def several_typed(
    s: AnySetUp, subject: Any, onward: Sequence[str], text: str, system: UnitSystem
) -> list[Landing]:
    """Where several readings land. `onward` are the places from the one asked for on that still want one.

    With semicolons all are of the first place; else they go onward, a place each, or are of the one place
    where there is no other. Empty where the text is not several readings. Raises InputError where one of them
    will not do, and where there are more of them than places.
    """
    apart = text.split(";") if ";" in text else _APART.split(text.strip())
    words = [word.strip() for word in apart if word.strip()]
    if not 2 <= len(words) <= MOST or not onward or any(_JOINS.search(word) for word in words[:-1]):
        return []
    for is_one in (
        lambda: parse_length(text, system),  # “1 1/8” and “1 ft 2 in”, even where it will not do
        lambda: readings_typed(s, subject, onward[0], text, system),
    ):
        with contextlib.suppress(InputError):
            is_one()
            return []
    if ";" in text or len(onward) == 1:
        places = [onward[0]] * len(words)
    elif len(words) <= len(onward):
        places = list(onward[: len(words)])
    else:
        raise InputError(
            f"“{text.strip()}”: {len(words)} readings",
            f"{len(onward)} places want one; with semicolons between them all are of this place",
        )
    found = []
    for place, word in zip(places, words, strict=True):
        landed = readings_typed(s, subject, place, word, system)
        if len(landed) != 1 or landed[0][0] != place:  # a whole turn is typed by itself
            return []
        found.append(Landing(place, s.place(subject, place).label, landed[0][1], word))
    return found
