"""Decimal marks as the desktop's language writes them, at the one place where words become visible.

Everything below says 12.5; where the language writes 12,5 so do screen and
paper. What is typed is understood either way by the readers of the core. What
other programs read (CSV, JSON, DXF, the shell) keeps the point, and so do
names, versions and addresses.
"""

from __future__ import annotations

import re

from PySide6.QtCore import QLocale

# A number with a point: no letter, figure or point may touch it, so that “0.10.0” and “part1.5b” are none.
_NUMBER = re.compile(r"(?<![\w.,])(\d*)\.(\d+)(?![\w]*\.\w)(?![a-zA-Z_]*\d)")
_FIELD = re.compile(r"[\d.\s+−–-]+[^\d]{0,12}")

_comma = False


def follow(locale: QLocale) -> None:
    """Take the decimal mark of a language; one that writes neither comma nor point keeps the point."""
    global _comma
    _comma = locale.decimalPoint() == ","


def shown(text: str) -> str:
    """A text as it stands on the screen or on paper."""
    if not _comma or "." not in text:
        return text
    return _NUMBER.sub(lambda found: f"{found[1] or '0'},{found[2]}", text)


def shown_field(text: str) -> str:
    """What stands in a field: numbers with their unit; words stay as they were written."""
    return shown(text) if _comma and _FIELD.fullmatch(text) else text
