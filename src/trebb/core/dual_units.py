"""Words that carry lengths and forces, said in the shop's own units.

Texts that know no unit system (steps, captions, labels of limits) are written
with both, "20 mm (0.8 in)", or in round metric figures; here the one that the
shop reads is kept, or the round figure is turned into the other's. What a
standard names keeps its name: "Tr 28 × 5", "22 mm × 6 tpi", a bearing's three
sizes.
"""

from __future__ import annotations

import re
from functools import lru_cache

from trebb.core.units import INCH_MM, LBF_N, THOU_MM, UnitSystem

FOOT_M = 12 * INCH_MM / 1000
FT_LB_NM = FOOT_M * LBF_N
TON_N = 2000 * LBF_N  # the ton that presses are sold by in inch shops
_NUMBER = r"[0-9][0-9.,/]*(?: to [0-9][0-9.]*)?"
_METRIC = rf"(?:{_NUMBER} (?:mm/m|mm|µm|m|kN|N|t)\b)"
_INCH = (
    rf"(?:(?:{_NUMBER}|an?|one|half a|a tenth of a|two) "
    r"(?:thou an inch|thou|tenths?|inches|inch|in|ft|lbf|tons?)\b)"
)
_BOTH = rf"(?P<metric>{_METRIC}) \((?P<inch>{_INCH})\)|(?P<inch2>{_INCH}) \((?P<metric2>{_METRIC})\)"
_STANDARD = (
    r"(?:M|Tr )[0-9]+(?:\.[0-9]+)?(?: ?× ?[0-9.]+)?|[0-9.]+ mm × [0-9.]+ tpi|[0-9./-]+ in × [0-9.]+ mm"
    r"|[0-9.]+ × [0-9.]+(?: × [0-9.]+)? mm"
)
_PLAIN = r"(?<![\w.×])(?P<number>[0-9]+(?:\.[0-9]+)?) (?P<unit>N·m|m/min|mm|kN|N)(?![\w/])"
# Round lengths that acceptance tests and captions use, as an inch shop would call them.
_ROUND_IN = {25.0: "1 in", 75.0: "3 in", 100.0: "4 in", 150.0: "6 in", 200.0: "8 in", 300.0: "12 in",
             500.0: "20 in", 1000.0: "40 in"}  # fmt: skip
SMALL_MM = 1.3  # up to this a length is called in thou


def both_lengths(mm: float, decimals: int = 0) -> str:
    """A length in both systems: "200 mm (7.87 in)"."""
    inch = _ROUND_IN.get(mm, f"{mm / INCH_MM:.{decimals + 1 if decimals else 2}f} in")
    return f"{mm:.{decimals}f} mm ({inch})"


def both_forces(newton: float) -> str:
    """A force in both: "178 N (40 lbf)"."""
    return f"{newton:.0f} N ({newton / LBF_N:.0f} lbf)"


@lru_cache(maxsize=4096)
def in_units(text: str, system: UnitSystem) -> str:
    """A text with the figures of one system only."""
    if not any(c in "0123456789" for c in text):
        return text
    inch = system is UnitSystem.INCH

    def own(found: re.Match[str]) -> str:
        parts = found.groupdict()
        kept = ("inch", "inch2") if inch else ("metric", "metric2")
        return next(parts[name] for name in kept if parts[name])

    text = re.sub(_BOTH, own, text)
    if not inch:
        return text
    held: list[str] = []

    def keep(found: re.Match[str]) -> str:
        held.append(found[0])
        return f"\x00{len(held) - 1}\x00"

    text = re.sub(_PLAIN, _as_inch, re.sub(_STANDARD, keep, text))
    return re.sub("\x00([0-9]+)\x00", lambda found: held[int(found[1])], text)


def _as_inch(found: re.Match[str]) -> str:
    text, unit = found["number"], found["unit"]
    value = float(text)
    if unit == "N·m":
        return show_torque(value, UnitSystem.INCH)
    if unit == "m/min":
        return show_cutting_speed(value, UnitSystem.INCH)
    if unit == "N":
        return f"{value / LBF_N:.0f} lbf"
    if unit == "kN":
        return f"{1000 * value / TON_N:.1f} tons"
    if value in _ROUND_IN:
        return _ROUND_IN[value]
    if value <= SMALL_MM:
        return f"{value / THOU_MM:.{0 if value >= 0.15 else 1}f} thou"
    decimals = len(text.partition(".")[2])
    return f"{value / INCH_MM:.{decimals + 1 if decimals else 2}f} in"


def show_torque(nm: float, system: UnitSystem) -> str:
    """A torque as text, to three figures: "25 N·m" or "18.4 ft·lb"."""
    value, unit = (nm / FT_LB_NM, "ft·lb") if system is UnitSystem.INCH else (nm, "N·m")
    return f"{value:.0f} {unit}" if abs(value) >= 999.5 else f"{value:.3g} {unit}"


def show_cutting_speed(m_min: float, system: UnitSystem) -> str:
    """A cutting speed as text: "38 m/min" or "125 ft/min", to five feet."""
    if system is UnitSystem.INCH:
        return f"{5 * round(m_min / FOOT_M / 5):.0f} ft/min"
    return f"{m_min:g} m/min"


def show_force(newton: float, system: UnitSystem) -> str:
    """A force as text: "178 N" or "40 lbf"; from 2000 N on "16.1 kN" or "1.8 tons" (of 2000 lbf)."""
    big = newton >= 2000.0
    if system is UnitSystem.INCH:
        return f"{newton / TON_N:.1f} tons" if big else f"{newton / LBF_N:.0f} lbf"
    return f"{newton / 1000:.1f} kN" if big else f"{newton:.0f} N"
