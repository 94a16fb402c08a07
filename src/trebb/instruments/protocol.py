"""The reading protocol: a line of text a reading. See docs/FORMATS.md."""

from __future__ import annotations

import math
import re
from collections.abc import Sequence

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.units import INCH_MM, MICRON_MM

UNIT_MM = {"mm": 1.0, "in": INCH_MM, "um": MICRON_MM}
# Beyond any instrument's whole range, by unit: more than this is a broken line, not a reading.
MOST = {"mm": 2000.0, "div": 100_000.0, "C": 500.0, "mm/m": 100.0, "count": 1000.0}
MOST_LINE = 64


class ProtocolError(InputError):
    """A line that is not a reading in the format expected."""


class Sample(Struct, frozen=True):
    """One reading as it came: value in mm, or in `unit` where that is "div", "C", "mm/m" or "count"."""

    value: float
    unit: str
    line: str


class LineFormat(Struct, frozen=True):
    """How an instrument writes a reading.

    Parameters
    ----------
    prefix : text before the number, dropped; "" for none.
    unit : of a number without one: "mm", "in", "um", "div".
    implied_decimals : places to shift a number sent without a point, or None.
    is_reversed : True where the instrument counts + away from the work.
    """

    key: str
    label: str
    prefix: str = ""
    unit: str = "mm"
    implied_decimals: int | None = None
    is_reversed: bool = False


FORMATS: dict[str, LineFormat] = {
    f.key: f
    for f in (
        LineFormat("mm", "millimetres, such as +0.123"),
        LineFormat("inch", "inches, such as +.0021", unit="in"),
        LineFormat("micron", "whole microns, such as -42", unit="um"),
        LineFormat("implied", "no point, thousandths of a mm, such as +00123", implied_decimals=3),
        LineFormat("prefixed", "prefix D and millimetres, such as D+0.123", prefix="D"),
    )
}

_LINE = (
    r"^\s*(?P<number>[+-]?\s*(?:[0-9]+(?:[.,][0-9]*)?|[.,][0-9]+))\s*(?P<unit>mm/m|mm|in|um|div|C|count)?\s*$"
)


def parse_line(line: str, line_format: LineFormat) -> Sample:
    """Read one line. A unit written in the line wins over the format's.

    Raises ProtocolError saying what came and what was expected.
    """
    shown = line.strip()[:MOST_LINE]
    expected = f"expected {line_format.label}"
    body = line.strip()
    if line_format.prefix:
        if not body.startswith(line_format.prefix):
            raise ProtocolError(
                f"the line “{shown}”", f"{expected}; it does not begin with {line_format.prefix}"
            )
        body = body[len(line_format.prefix) :]
    match = re.match(_LINE, body)
    if match is None or len(line) > MOST_LINE:
        raise ProtocolError(f"the line “{shown}”", f"{expected}; check format, baud rate and cable")
    number = "".join(match["number"].split()).replace(",", ".")
    value = float(number)
    if line_format.implied_decimals is not None and "." not in number:
        value /= 10**line_format.implied_decimals
    if line_format.is_reversed:
        value = -value
    unit = match["unit"] or line_format.unit
    mm = value * UNIT_MM.get(unit, 1.0)
    kept = "mm" if unit in UNIT_MM else unit
    if not math.isfinite(mm) or abs(mm) > MOST[kept]:
        raise ProtocolError(f"the line “{shown}”", f"{expected}; that is more than any instrument reads")
    return Sample(mm, kept, shown)


class Offer(Struct, frozen=True):
    """A format that fits lines as they came: how many of them, and whether another fits as well."""

    key: str
    fits: int
    lines: int
    words: str


def _looks(lines: Sequence[str]) -> tuple[str, str]:
    """Which format lines that begin with a number look like, and what speaks for it."""
    bare = [line.strip() for line in lines]
    if any(re.search(r"(mm|in|um|div|C|count)\s*$", line) for line in bare):
        return "mm", "the unit is in the line"
    digits = [re.sub(r"[^0-9.,]", "", line) for line in bare]
    if all("." in d or "," in d for d in digits):
        places = {len(re.split("[.,]", d)[1]) for d in digits}
        first = [re.split("[.,]", d)[0] for d in digits]
        if min(places) >= 4 or not any(first):
            return "inch", "four places, or no nought before the point"
        return "mm", "a point and three places"
    if all(len(d) >= 5 or (len(d) > 3 and d.startswith("0")) for d in digits):
        return "implied", "as many figures in each line, and no point"
    return "micron", "whole numbers"


def offer_of(lines: Sequence[str]) -> Offer | None:
    """The format that fits raw lines best; None where none fits more than half of them.

    Millimetres and inches cannot be told apart for certain by figures alone:
    the words say what speaks for the one offered, and the user says yes.
    """
    lines = [line for line in lines if line.strip()]
    if not lines:
        return None
    with_prefix = [line for line in lines if re.match(r"\s*[A-Za-z]", line)]
    if 2 * len(with_prefix) > len(lines):
        key, why = "prefixed", "each line begins with a letter"
    else:
        key, why = _looks([line for line in lines if re.match(r"\s*[-+.,0-9]", line)] or lines)
    fits = 0
    for line in lines:
        try:
            parse_line(line, FORMATS[key])
        except ProtocolError:
            continue
        fits += 1
    return Offer(key, fits, len(lines), why) if 2 * fits > len(lines) else None


def format_line(value: float, unit: str, decimals: int) -> str:
    """A reading as the simulated indicator writes it, unit and all: "+1.6402 mm"."""
    return f"{value:+.{decimals}f} {unit}\r\n"
