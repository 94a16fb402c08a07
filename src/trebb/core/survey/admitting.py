"""Which readings can be: one rule for what is typed, imported, sent by an instrument, or stands in a file."""

from __future__ import annotations

import math
import re
from typing import Any

from trebb.core.errors import InputError
from trebb.core.survey.angles import figure_place, is_figure, split_place
from trebb.core.survey.base import AnySetUp
from trebb.core.survey.raw_units import RAW_UNITS
from trebb.core.survey.said import between, plainly
from trebb.core.units import UnitSystem, parse_length, small_unit

NOT_LESS = (
    "a play or a size is not less than nothing; zero the indicator the other way round, or drop the sign"
)
# More than this is no reading at any bench, by unit; what a set-up itself can show is narrower.
MOST = {"mm": 10_000.0, "div": 100_000.0, "C": 500.0, "mm/m": 100.0, "count": 1000.0}
# An indicator's own noise about nothing: a play that shows so little below it is nothing, not a mistake.
STEPS_BELOW = 2.0


def admit_reading(s: AnySetUp, subject: Any, place: str, raw: float, *, given: str = "") -> None:
    """Refuse a reading that no instrument can have shown.

    What is merely far from what is expected here is not refused: an
    indicator is believed; see `doubt_of`.

    Parameters
    ----------
    raw : in the set-up's own unit.
    given : as typed, for the sentence; the number if not given.

    Raises
    ------
    InputError : not finite, less than nothing where nothing is less, a part
        of a spot, or beyond any instrument.
    """
    shown = f"“{given.strip()}”" if given else f"{raw:g} {s.unit}"
    _possible(s, subject, raw, shown, is_typed=bool(given))
    if not math.isfinite(s.reduce(subject, place, raw)):
        raise InputError(shown, "nothing can be worked out from that; is the unit right?")


def _possible(s: AnySetUp, subject: Any, raw: float, shown: str, *, is_typed: bool) -> None:
    """Raises InputError for what no instrument of this set-up can show."""
    if not math.isfinite(raw) or abs(raw) > MOST[s.unit]:
        raise InputError(shown, "no instrument shows that; is the unit right?")
    least = 0.0 if is_typed or s.unit == "count" else -STEPS_BELOW * s.step(subject)
    if raw < least and not (s.is_signed or s.may_be_less(subject)) and s.unit != "C":
        raise InputError(shown, NOT_LESS)
    if s.unit == "count" and raw != int(raw):
        raise InputError(shown, "count them: a whole number such as 8")


def doubt_of(s: AnySetUp, subject: Any, place: str, raw: float, system: UnitSystem) -> str:
    """Why a reading is hardly what was meant, in words: typed it is refused, shown by an instrument it is
    asked about. "" where there is nothing to doubt. `raw` in the set-up's own unit.
    """
    return s.refusal(subject, place, raw, system)


def bare_mm(s: AnySetUp, text: str, system: UnitSystem) -> float | None:
    """Millimetres in one of a bare number typed for a set-up: of the unit written beside its field, thou or
    µm where a small length is read. A figure as nobody writes that unit, to a thousandth of a thou or a
    hundredth of a µm, is one of inches or millimetres: .0021, 0.05. None for those.
    """
    if s.is_size:
        return None
    places = re.search(r"[.,](\d*)\s*$", text)
    finest = 3 if system is UnitSystem.INCH else 2
    return None if places is not None and len(places[1]) >= finest else small_unit(system)[1]


def read_typed(s: AnySetUp, subject: Any, place: str, text: str, system: UnitSystem) -> float:
    """A reading as typed, in the set-up's own unit. Raises InputError saying what would do."""
    said = between(s, text, lambda part: _one(s, subject, part, system))
    raw = said.middle if said is not None else _one(s, subject, text, system)
    shown = f"“{text.strip()}”"
    _possible(s, subject, raw, shown, is_typed=True)
    doubt = doubt_of(s, subject, place, raw, system)
    if doubt:
        raise InputError(shown, doubt)
    admit_reading(s, subject, place, raw, given=text)
    return raw


def _one(s: AnySetUp, subject: Any, text: str, system: UnitSystem) -> float:
    """One figure as typed, in the set-up's own unit."""
    text = plainly(text)
    if s.unit in RAW_UNITS:
        return RAW_UNITS[s.unit].parse(text, system, s, subject)
    dial = getattr(subject, "dial", None)
    return parse_length(text, system, dial=dial, bare_mm=bare_mm(s, text, system))


def width_typed(s: AnySetUp, subject: Any, text: str, system: UnitSystem) -> float:
    """How far apart the two are between which a typed reading is said to lie, mm; 0 for one figure."""
    if not text:
        return 0.0
    try:
        said = between(s, text, lambda part: _one(s, subject, part, system))
    except InputError:
        return 0.0
    return said.width * s.unit_mm(subject) if said is not None else 0.0


# A whole turn in one figure: "6 thou TIR at 90", "TIR 0.15 mm, high at 45°".
_TIR = r"(?i)\b(?:tir|total)\b"
_HIGH_AT = r"(?i)(?:,?\s*high)?\s*(?:at|@)\s*(-?\d+(?:[.,]\d+)?)\s*(?:°|deg(?:rees)?)?\s*$"


def readings_typed(
    s: AnySetUp, subject: Any, place: str, text: str, system: UnitSystem
) -> list[tuple[str, float]]:
    """A typed entry as readings, each with its place: one at the place asked for, or all of a turn where its
    total indicator reading is typed as one figure with the angle at which it is high, or that figure by
    itself where the angle is not known. In the set-up's unit.

    An eccentricity e high at φ reads e·cos(θ − φ), and its TIR is 2e; lobes
    are not in one figure. Raises InputError saying what would do.
    """
    if s.view != "turn" or not re.search(_TIR, text):
        return [(place, read_typed(s, subject, place, text, system))]
    given = f"“{text.strip()}”"
    high = re.search(_HIGH_AT, text)
    end = high.start() if high is not None else len(text)
    figure = re.sub(_TIR, " ", text[:end]).strip(" ,")
    tir = parse_length(figure, system, bare_mm=bare_mm(s, figure, system))
    _possible(s, subject, tir, given, is_typed=True)
    if tir < 0:
        raise InputError(given, "a TIR is not less than nothing: high less low")
    group = place.rsplit(", ", 1)[0] if is_figure(place) else s.place(subject, place).group
    if high is None:  # how much, not whither: it stands by itself
        admit_reading(s, subject, figure_place(group), tir, given=text)
        return [(figure_place(group), tir)]
    at = float(high.group(1).replace(",", "."))
    found = []
    for p in s.places(subject):
        if p.group == group:
            _, angle = split_place(p.key)
            raw = tir / 2 * math.cos(math.radians(angle - at))
            admit_reading(s, subject, p.key, raw, given=text)
            found.append((p.key, raw))
    doubt = doubt_of(s, subject, place, tir / 2, system)
    if doubt:
        raise InputError(given, doubt)
    return found
