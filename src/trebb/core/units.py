"""Lengths as people write them, and back.

Inside Trebb a length is a float in millimetres. This module is the only edge
where text becomes a length and a length becomes text. A bare number takes the
shop's unit; any unit or fraction may be typed anywhere.
"""

from __future__ import annotations

import math
import re
from enum import Enum
from typing import Literal

from msgspec import Struct

from trebb.core.errors import InputError

INCH_MM = 25.4
THOU_MM = 0.0254
LBF_N = 4.4482216152605  # one pound-force, exact by definition
TENTH_MM = 0.00254
MICRON_MM = 0.001

# The words heard at the bench, by exact constants; there are no others.
_UNITS = {
    "in": INCH_MM, "inch": INCH_MM, "inches": INCH_MM, '"': INCH_MM, "”": INCH_MM, "″": INCH_MM,
    "thou": THOU_MM, "thous": THOU_MM, "th": THOU_MM, "thousandth": THOU_MM, "thousandths": THOU_MM,
    "tenth": TENTH_MM, "tenths": TENTH_MM,
    "ft": 12 * INCH_MM, "foot": 12 * INCH_MM, "feet": 12 * INCH_MM, "'": 12 * INCH_MM, "′": 12 * INCH_MM,
    "mm": 1.0, "millimetre": 1.0, "millimetres": 1.0, "millimeter": 1.0, "millimeters": 1.0,
    "µm": MICRON_MM, "μm": MICRON_MM, "um": MICRON_MM, "µ": MICRON_MM, "μ": MICRON_MM,
    "micron": MICRON_MM, "microns": MICRON_MM, "nm": 1e-6,
    "cm": 10.0, "centimetre": 10.0, "centimetres": 10.0, "dm": 100.0,
    "m": 1000.0, "metre": 1000.0, "metres": 1000.0, "meter": 1000.0, "meters": 1000.0,
}  # fmt: skip
# Heard too, and no lengths: said as such, where another word is only unknown.
_OTHER_UNITS = {
    "kg",
    "g",
    "lb",
    "n",
    "nm",
    "kn",
    "c",
    "°c",
    "f",
    "°f",
    "s",
    "min",
    "h",
    "rpm",
    "deg",
    "°",
    "l",
    "bar",
}
_DIVISION_WORDS = {"div", "divs", "division", "divisions"}
MOST_LETTERS = 40  # anything longer is no length
MOST_MM = 1e6  # no machine that comes through a door is a kilometre long
MOST_IN_A_LIST = 200
LARGE_MM = 3.0  # from here on a figure is said in whole units, not in thou or µm

_NUMBER = r"""(?x)^\s*(?P<sign>[+\-−])?\s*
        (?: (?:(?P<whole>[0-9]+)(?:\s*-\s*|\s+))?(?P<top>[0-9]+)\s*/\s*(?P<bottom>[0-9]+)
          | (?P<plain>[0-9]+(?:[.,][0-9]*)?|[.,][0-9]+) )
        \s*(?P<unit>[^0-9\s].*?)?\s*$"""
_EXAMPLE = "write a length such as 2 thou, 6 tenths, 1-1/8, .0006 or 0.05 mm"


# What a raw reading is stored in: a length, divisions of a dial, °C, a slope in mm a metre, a count.
ReadingUnit = Literal["mm", "div", "C", "mm/m", "count"]


class UnitSystem(Enum):
    """What the shop reads: inch shows inches, thou and tenths; metric shows mm and µm."""

    INCH = "inch"
    METRIC = "metric"


class LengthError(InputError):
    """Text that cannot be read as a length."""


class DialScale(Struct, frozen=True):
    """A handwheel dial.

    Parameters
    ----------
    divisions : divisions in one full turn of the screw.
    lead_mm : travel of the slide in one turn, mm.
    reads_diameter : True when the dial is numbered for the work's diameter, so
        that it shows twice the slide's travel. It never changes what one
        division moves the slide (handbook, section 9: the divisor is divisions
        per screw turn, never the displayed units).
    """

    divisions: int
    lead_mm: float
    reads_diameter: bool = False

    def __post_init__(self) -> None:
        if self.divisions < 1:
            raise InputError(f"{self.divisions} divisions", "a dial has at least one division a turn")
        if not self.lead_mm > 0:
            raise InputError(f"a lead of {self.lead_mm:g} mm", "the lead must be more than nothing")

    @property
    def division_mm(self) -> float:
        """Slide travel of one division, mm."""
        return self.lead_mm / self.divisions


def _shown(text: str) -> str:
    """What was typed, short enough for a sentence."""
    plain = " ".join(text.split())
    return plain if len(plain) <= MOST_LETTERS else f"{plain[:MOST_LETTERS]}…"


def _unit_mm(unit: str) -> float | None:
    """Millimetres in one `unit`; None for what is no unit of length known here. A torque is none: "5 Nm"."""
    if unit[:1] == "N":
        return None
    return _UNITS.get(unit) or (_UNITS.get(unit.lower()) if len(unit) > 1 else None)


_FEET = re.compile(
    r"(?<![\w.,/])(?P<feet>[0-9]+)\s*(?:ft|foot|feet|'|′)\.?[\s,]*"
    r"(?P<inches>[0-9]+[- ][0-9]+/[0-9]+|[0-9]+/[0-9]+|[0-9]*[.,]?[0-9]+)\s*"
    r"(?:inches|inch|in|\"|″|”)(?![a-z])",
    re.IGNORECASE,
)


def _in_inches(text: str) -> str:
    """A text in which feet with inches behind them, which are one length, are so many inches."""

    def one(found: re.Match[str]) -> str:
        return f"{12 * int(found['feet']) + parse_number(found['inches'])[0]!r} in"

    return _FEET.sub(one, text) if len(text) <= MOST_LETTERS * MOST_IN_A_LIST else text


def parse_number(text: str) -> tuple[float, str]:
    """Split `text` into a number and the unit written behind it (maybe empty).

    Fractions ("27/64", "1-1/8", "1 1/8") and a decimal comma are understood. A
    comma with three digits behind a whole number is refused, because it reads
    as a thousand to one person and as a decimal to another.

    Raises LengthError when no number stands there.
    """
    match = re.match(_NUMBER, text) if len(text.strip()) <= MOST_LETTERS else None
    if match is None:
        shown = _shown(text)
        raise LengthError(f"“{shown}”" if shown else "nothing", _EXAMPLE)
    if match["plain"] is not None:
        plain = match["plain"]
        if re.fullmatch(r"[1-9]\d*,\d{3}", plain):
            whole, part = plain.split(",")
            raise LengthError(
                f"“{text.strip()}”", f"write {whole}.{part} or {whole}{part}, so that it cannot be misread"
            )
        value = float(plain.replace(",", "."))
    else:
        if int(match["bottom"]) == 0:
            raise LengthError(f"“{text.strip()}”", "a fraction cannot be over nothing")
        value = int(match["top"]) / int(match["bottom"]) + int(match["whole"] or 0)
    return (-value if match["sign"] in ("-", "−") else value), (match["unit"] or "").strip()


def parse_length(
    text: str, default: UnitSystem, *, dial: DialScale | None = None, bare_mm: float | None = None
) -> float:
    """Read a length as typed at the bench, in mm.

    Parameters
    ----------
    text : for instance "2 thou", "6 tenths", ".0006", "1-1/8", "0,05 mm", "12 div".
    default : the system a bare number belongs to: inches or millimetres.
    dial : the dial that "div" refers to, if one is known here.
    bare_mm : mm in one unit of a bare number, where the place has a unit of its
        own (a field headed "thou"); overrides `default`.

    Raises
    ------
    LengthError : no number, an unknown unit, a unit of another kind, or
        divisions where no dial is known.
    """
    value, unit = parse_number(_in_inches(text))
    if not unit:
        scale = bare_mm if bare_mm is not None else (INCH_MM if default is UnitSystem.INCH else 1.0)
    elif unit.lower() in _DIVISION_WORDS:
        if dial is None:
            raise LengthError(
                f"“{text.strip()}”", "no dial is known here, so divisions cannot be turned into a length"
            )
        scale = dial.division_mm
    else:
        known = _unit_mm(unit)
        if known is None:
            is_other = unit.lower() in _OTHER_UNITS
            why = "is not a length" if is_other else "is no unit of length known here"
            raise LengthError(f"“{text.strip()}”", f"“{unit}” {why}; {_EXAMPLE}")
        scale = known
    result = value * scale
    if not abs(result) <= MOST_MM:
        raise LengthError(f"“{text.strip()}”", f"that is more than {MOST_MM / 1000:g} m; {_EXAMPLE}")
    return result


_WORD = r"^(?P<number>[+\-−]?(?:[0-9]+-)?[0-9.,]*[0-9][0-9.,]*(?:/[0-9]+)?)?(?P<unit>[^0-9.,+\-−/].*)?$"


def parse_list(
    text: str, example: str = "write numbers with a space or a semicolon between"
) -> list[tuple[float, str]]:
    """Several numbers as typed, each with the unit written behind it or behind the next that has one.

    A space or a semicolon stands between two; a comma followed by a space does
    too. A comma inside a word is a decimal comma ("58,5 64"), unless the word
    holds several ("0,40,95"): then each is between two numbers.

    Raises LengthError for what is no number, and for one that can be read two
    ways ("1,250", "1 1/8").
    """
    if len(text) > MOST_LETTERS * MOST_IN_A_LIST:
        raise LengthError(f"{len(text)} letters", f"{example}, no more than {MOST_IN_A_LIST} of them")
    words: list[str] = []
    for word in text.replace(";", " ").split():
        plain = word.rstrip(",")
        words += plain.split(",") if plain.count(",") > 1 else [plain]
    found: list[tuple[float, str]] = []
    bare: list[int] = []
    whole_before = False
    for word in filter(None, words):
        match = re.match(_WORD, word)
        if match is None or len(word) > MOST_LETTERS:
            raise LengthError(f"“{_shown(word)}”", example)
        if match["number"] is not None:
            if whole_before and "/" in match["number"] and "-" not in match["number"]:
                raise LengthError(
                    f"“{_shown(text)}”", "write a whole and its fraction together, such as 1-1/8"
                )
            found.append((parse_number(match["number"])[0], ""))
            bare.append(len(found) - 1)
            whole_before = match["number"].isdecimal()
        if match["unit"] is not None:
            if not bare:
                raise LengthError(f"“{_shown(text)}”", f"no number stands before “{_shown(match['unit'])}”")
            for i in bare:
                found[i] = (found[i][0], match["unit"].strip())
            bare = []
            whole_before = False
    if len(found) > MOST_IN_A_LIST:
        raise LengthError(f"{len(found)} numbers", f"{example}, no more than {MOST_IN_A_LIST} of them")
    return found


def parse_lengths(text: str, default: UnitSystem, *, bare_mm: float | None = None) -> list[float]:
    """Several lengths as typed, mm, in the order typed; see `parse_list`. Raises LengthError."""
    example = "write lengths with a space between, such as 0.02 0.05 0.1 mm"
    text = _in_inches(text)
    scale = bare_mm if bare_mm is not None else (INCH_MM if default is UnitSystem.INCH else 1.0)
    result = []
    for number, unit in parse_list(text, example):
        mm = _unit_mm(unit) if unit else scale
        if mm is None:
            raise LengthError(f"“{_shown(unit)}”", f"this is no unit of length known here; {example}")
        if abs(number * mm) > MOST_MM:
            raise LengthError(f"“{number:g} {unit}”", f"that is more than {MOST_MM / 1000:g} m")
        result.append(number * mm)
    return result


def parse_angles(text: str) -> list[float]:
    """Several angles as typed, degrees; see `parse_list`. Raises LengthError."""
    result = []
    for number, unit in parse_list(
        text, "write angles in degrees with a space between, such as 0 90 180 270"
    ):
        if unit.rstrip(".").lower() not in ("", "°", "deg", "degrees"):
            raise LengthError(f"“{_shown(unit)}”", "angles are in degrees here, such as 0 90 180 270")
        result.append(number)
    return result


def parse_temperature(text: str) -> float:
    """A temperature in °C from text: "31.5", "31.5 C", "89 F". Raises InputError for what is none."""
    value, unit = parse_number(text)
    name = unit.strip().lstrip("°").strip().upper()
    if name in ("", "C"):
        return value
    if name == "F":
        return (value - 32) / 1.8
    raise InputError(f"“{text.strip()}”", "write degrees such as 31.5, 31.5 C or 89 F")


SLOPE_UNITS = {
    "mm/m": 1.0,
    "µm/m": 0.001,
    "μm/m": 0.001,
    "um/m": 0.001,
    "mrad": 1.0,
    "thou/ft": 1 / 12,
    "thou/foot": 1 / 12,
    "in/ft": 1000 / 12,
    "arcsec": 1000 * math.pi / 648_000,
    "sec": 1000 * math.pi / 648_000,
    "″": 1000 * math.pi / 648_000,
}


def slope_unit(system: UnitSystem) -> tuple[str, float]:
    """Name and mm/m of the unit that slopes are shown in."""
    return ("thou/ft", 1 / 12) if system is UnitSystem.INCH else ("mm/m", 1.0)


def parse_slope(text: str, system: UnitSystem) -> float:
    """A slope in mm a metre from text: "0.04 mm/m", "0.5 thou/ft", ".0005 in/ft", "8 arcsec"; a bare number
    is the shop's. Raises LengthError.
    """
    example = "write a level's reading such as 0.04 mm/m, 0.5 thou/ft or 8 arcsec"
    try:
        value, unit = parse_number(text)
    except LengthError:
        raise LengthError(f"“{text.strip()}”" if text.strip() else "nothing", example) from None
    scale = SLOPE_UNITS.get(unit.replace(" ", "")) if unit else slope_unit(system)[1]
    if scale is None:
        raise LengthError(f"“{text.strip()}”", f"“{unit}” is no slope; {example}")
    return value * scale


def show_slope(mm_m: float, system: UnitSystem, *, unit: bool = True, signed: bool = True) -> str:
    """A slope as text: "+0.48 thou/ft" or "+0.040 mm/m"."""
    name, scale = slope_unit(system)
    value = round(mm_m / scale, 2 if system is UnitSystem.INCH else 3) + 0.0
    text = _minus(f"{value:{'+' if signed and value else ''}.{2 if system is UnitSystem.INCH else 3}f}")
    return f"{text} {name}" if unit else text


def parse_count(text: str, what: str, *, low: int = 1, high: int = 100_000) -> int:
    """Read a whole number between `low` and `high`; `what` names it in the sentence. Raises InputError for
    what is none.
    """
    plain = text.strip()
    if not (plain.isascii() and plain.removeprefix("-").isdecimal() and len(plain) <= MOST_LETTERS):
        raise InputError(f"“{_shown(text)}”", f"{what} is a whole number from {low} to {high}")
    value = int(plain)
    if not low <= value <= high:
        raise InputError(f"{value}", f"{what} is a whole number from {low} to {high}")
    return value


def _minus(text: str) -> str:
    """With the sign one reads; what rounds to nothing has none."""
    if text.startswith("-") and not re.search(r"[1-9]", text):
        text = text[1:]
    return text.replace("-", "−")


def _decimals(resolution: float, most: int) -> int:
    return min(most, max(0, math.ceil(-math.log10(resolution) - 1e-9)))


def small_unit(system: UnitSystem) -> tuple[str, float]:
    """Name and mm of the unit that errors and wear are shown in."""
    return ("thou", THOU_MM) if system is UnitSystem.INCH else ("µm", MICRON_MM)


def size_unit(system: UnitSystem) -> tuple[str, float]:
    """Name and mm of the unit that sizes are shown in."""
    return ("in", INCH_MM) if system is UnitSystem.INCH else ("mm", 1.0)


def show_small(
    mm: float,
    system: UnitSystem,
    *,
    resolution_mm: float | None = None,
    signed: bool = False,
    unit: bool = True,
) -> str:
    """An error, wear or play as text: "12.5 thou" or "318 µm".

    `resolution_mm` limits the decimals to what the instrument can show; without
    it thou carry one decimal and µm none.
    """
    name, scale = small_unit(system)
    places = _decimals((resolution_mm or 0.1 * THOU_MM) / scale, 2) if system is UnitSystem.INCH else (
        _decimals((resolution_mm or MICRON_MM) / scale, 1))  # fmt: skip
    value = round(mm / scale, places) + 0.0
    text = _minus(f"{value:{'+' if signed and value else ''}.{places}f}")
    return f"{text} {name}" if unit else text


def show_size(mm: float, system: UnitSystem, *, resolution_mm: float | None = None, unit: bool = True) -> str:
    """A size as text: "0.7812 in" or "19.842 mm" (four or three decimals unless coarser)."""
    name, scale = size_unit(system)
    places = 4 if system is UnitSystem.INCH else 3
    if resolution_mm is not None:
        places = _decimals(resolution_mm / scale, 5 if system is UnitSystem.INCH else 4)
    text = _minus(f"{mm / scale:.{places}f}")
    return f"{text} {name}" if unit else text


def show_sizes(low_mm: float, high_mm: float, system: UnitSystem, *, unit: bool = True) -> str:
    """Two limits of a size as text, "1.3783 to 1.3793 in"; one decimal more where they would read alike."""
    finer = (
        None
        if show_size(low_mm, system) != show_size(high_mm, system)
        else size_unit(system)[1] * (1e-5 if system is UnitSystem.INCH else 1e-4)
    )
    return (
        f"{show_size(low_mm, system, resolution_mm=finer, unit=False)} to "
        f"{show_size(high_mm, system, resolution_mm=finer, unit=unit)}"
    )


def show_shim(mm: float, system: UnitSystem) -> str:
    """A shim's thickness: "3.1 thou" or "0.08 mm", as stock is called."""
    return show_small(mm, system) if system is UnitSystem.INCH else _minus(f"{mm:.2f} mm")


def show_uncertain(mm: float, half_width_mm: float, system: UnitSystem, *, unit: bool = True) -> str:
    """A small length with its ±, as "12.0 ± 0.6 thou" or "305 ± 15 µm"; without its unit in a column."""
    name, scale = small_unit(system)
    places = 1 if system is UnitSystem.INCH else 0
    half = max(half_width_mm / scale, 10.0**-places)  # never claim better than the last place shown
    return f"{_minus(f'{mm / scale:.{places}f}')} ± {half:.{places}f}" + (f" {name}" if unit else "")


def show_minutes(minutes: float) -> str:
    """A time at the bench: "25 min", "3 h 20"."""
    whole = round(minutes)
    return f"{whole} min" if whole < 60 else f"{whole // 60} h {whole % 60:02d}"


def is_inch_size(mm: float) -> bool:
    """Whether a size is called in inches: nearer to a 32nd of one than to half a millimetre. In mm."""
    off_inch = abs(mm - round(mm * 32 / INCH_MM) * INCH_MM / 32)
    return off_inch < abs(mm - round(mm * 2) / 2)


def show_money(amount: float, sign: str = "") -> str:
    """An amount in the shop's money, its sign before it: whole, or to the penny where it has any."""
    whole = abs(amount - round(amount)) < 0.005
    return f"{sign}{amount:,.0f}" if whole else f"{sign}{amount:,.2f}"
