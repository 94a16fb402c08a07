"""Decimal marks and days as the desktop's language writes them, at the one place where words become visible.

Everything below says 12.5 and Sat 5 Dec; where the language writes 12,5 and
Sa. 5 Dez. so do screen and paper. What is typed is understood either way by the readers of the core. What
other programs read (CSV, JSON, DXF, the shell) keeps the point, and so do
names, versions and addresses.
"""

from __future__ import annotations

import re

from PySide6.QtCore import QLocale

from trebb.core.dates import MONTHS, WEEKDAYS, also_named

# A number with a point: no letter, figure or point may touch it, so that “0.10.0” and “part1.5b” are none.
_NUMBER = r"(?<![\w.,])(\d*)\.(\d+)(?![\w]*\.\w)(?![a-zA-Z_]*\d)"
SHORTEST_DAY = len("Sat 5 Dec")
_FIELD = r"[\d.\s+−–-]+[^\d]{0,12}"

_DAY = f"\\b({'|'.join(d.title() for d in WEEKDAYS)}) (\\d{{1,2}}) ({'|'.join(m.title() for m in MONTHS)})\\b"

_comma = False
_names: dict[str, str] = {}  # of English short names of days and months


def follow(locale: QLocale) -> None:
    """Take the decimal mark and the names of days and months of a language; one that writes neither comma nor
    point keeps the point.
    """
    global _comma
    _comma = locale.decimalPoint() == ","
    _names.clear()
    also_named((), ())
    if locale.language() not in (QLocale.Language.C, QLocale.Language.English):
        short = QLocale.FormatType.ShortFormat
        days = [locale.dayName(i, short) for i in range(1, 8)]
        months = [locale.monthName(i, short) for i in range(1, 13)]
        for english, own in zip((*WEEKDAYS, *MONTHS), (*days, *months), strict=True):
            _names[english.title()] = own
        long = QLocale.FormatType.LongFormat
        also_named(
            [(name, locale.monthName(i, long)) for i, name in enumerate(months, start=1)],
            [(name, locale.dayName(i, long)) for i, name in enumerate(days, start=1)],
        )


def shown(text: str) -> str:
    """A text as it stands on the screen or on paper."""
    if _names and len(text) >= SHORTEST_DAY:
        text = re.sub(_DAY, lambda found: f"{_names[found[1]]} {found[2]} {_names[found[3]]}", text)
    if not _comma or "." not in text:
        return text
    return re.sub(_NUMBER, lambda found: f"{found[1] or '0'},{found[2]}", text)


def shown_field(text: str) -> str:
    """What stands in a field: numbers with their unit; words stay as they were written."""
    return shown(text) if _comma and re.fullmatch(_FIELD, text) else text
