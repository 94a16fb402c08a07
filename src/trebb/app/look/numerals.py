"""Decimal marks as the desktop's language writes them, at the one place where words become visible; units and
paper as its country has them.

Everything below says 12.5; where the language writes 12,5 so do screen and paper. Days and months are named
in the language of the words they stand in, which is English: typed, they are understood in the desktop's own
too. What other programs read (CSV, JSON, DXF, the shell) keeps the point, and so do names, versions and
addresses.
"""

from __future__ import annotations

import re

from PySide6.QtCore import QLocale

from trebb.core.dates import also_named
from trebb.core.units import UnitSystem

_T = QLocale.Country
LETTER = frozenset(
    (_T.Belize, _T.Canada, _T.Chile, _T.Colombia, _T.CostaRica, _T.Guatemala, _T.Mexico, _T.Nicaragua,
     _T.Panama, _T.Philippines, _T.PuertoRico, _T.ElSalvador, _T.UnitedStates, _T.Venezuela)
)  # fmt: skip

# A number with a point: no letter, figure or point may touch it, so that “0.10.0” and “part1.5b” are none.
_NUMBER = r"(?<![\w.,])(\d*)\.(\d+)(?![\w]*\.\w)(?![a-zA-Z_]*\d)"
_FIELD = r"[\d.\s+−–-]+[^\d]{0,12}"

_comma = False
_locale: QLocale | None = None


def follow(locale: QLocale) -> None:
    """Take the decimal mark and the names of days and months of a language; one that writes neither comma nor
    point keeps the point.
    """
    global _comma, _locale
    _comma, _locale = locale.decimalPoint() == ",", locale
    also_named((), ())
    if locale.language() not in (QLocale.Language.C, QLocale.Language.English):
        short = QLocale.FormatType.ShortFormat
        days = [locale.dayName(i, short) for i in range(1, 8)]
        months = [locale.monthName(i, short) for i in range(1, 13)]
        long = QLocale.FormatType.LongFormat
        also_named(
            [(name, locale.monthName(i, long)) for i, name in enumerate(months, start=1)],
            [(name, locale.dayName(i, long)) for i, name in enumerate(days, start=1)],
        )


def usual_system() -> UnitSystem | None:
    """The units of the desktop's country; None where none is said."""
    if _locale is None or _locale.language() == QLocale.Language.C:
        return None
    is_metric = _locale.measurementSystem() is QLocale.MeasurementSystem.MetricSystem
    return UnitSystem.METRIC if is_metric else UnitSystem.INCH


def is_letter_paper() -> bool:
    """Whether paper is Letter there, by the Unicode CLDR (paperSize US-Letter); A4 anywhere else."""
    return _locale is not None and _locale.territory() in LETTER and _locale.language() != QLocale.Language.C


def shown(text: str) -> str:
    """A text as it stands on the screen or on paper."""
    if not _comma or "." not in text:
        return text
    return re.sub(_NUMBER, lambda found: f"{found[1] or '0'},{found[2]}", text)


def shown_field(text: str) -> str:
    """What stands in a field: numbers with their unit; words stay as they were written."""
    return shown(text) if _comma and re.fullmatch(_FIELD, text) else text
