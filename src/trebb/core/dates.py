"""Dates as they are typed in a shop: "2026-12-05", "5.12.", "5 Dec", "in 3 days"."""

from __future__ import annotations

import datetime
import re
from collections.abc import Mapping, Sequence

from trebb.core.errors import InputError

MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
WEEKDAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
FIRST, LAST = datetime.date(1990, 1, 1), datetime.date(2099, 12, 31)
# What months and weekdays are called in the shop's own language too, short and in full (`also_named`).
_own_months: dict[str, int] = {}
_own_weekdays: dict[str, int] = {}
WOULD_DO = "write a date such as 2026-12-05, 5 Dec or in 3 days"


def also_named(months: Sequence[Sequence[str]], weekdays: Sequence[Sequence[str]]) -> None:
    """Take names of the twelve months and, from Monday on, the seven weekdays in another language beside the
    English ones, each as it is written short and in full; none of either to take English alone again.
    """
    for own, each in ((_own_months, months), (_own_weekdays, weekdays)):
        own.clear()
        own.update({name.lower().rstrip("."): i for i, names in enumerate(each) for name in names})


def _position(word: str, english: Sequence[str], own: Mapping[str, int]) -> int | None:
    """Which month or weekday a typed name begins; None where it is none."""
    if word[:3] in english:
        return english.index(word[:3])
    return next((i for name, i in own.items() if name.startswith(word)), None)  # “soon” is no “So.”


def date_typed(text: str, today: datetime.date) -> datetime.date:
    """The date that was typed; without a year the next such day from today on. Raises InputError."""
    plain = text.strip().lower().rstrip(".")
    named = re.match(r"([^\W\d_]{2,})\.?,?\s+(?=\d)", plain)
    if named and _position(named[1], WEEKDAYS, _own_weekdays) is not None:
        plain = plain[named.end() :]
    given = f"“{text.strip()[:40]}”"
    found: datetime.date | None = None
    try:
        if plain in ("today", "tonight"):
            found = today
        elif plain == "tomorrow":
            found = today + datetime.timedelta(days=1)
        elif m := re.fullmatch(r"(?:in\s+|\+)(\d{1,4})\s*(d|days?|w|weeks?|m|months?)?", plain):
            found = later(today, int(m[1]), (m[2] or "d")[0])
        elif m := re.fullmatch(r"(\d{4})-(\d{1,2})-(\d{1,2})", plain):
            found = datetime.date(int(m[1]), int(m[2]), int(m[3]))
        elif m := re.fullmatch(r"(\d{1,2})\.\s*(\d{1,2})(?:\.\s*(\d{4})?)?", plain):
            found = _next(int(m[1]), int(m[2]), m[3], today)
        elif m := re.fullmatch(r"(\d{1,2})\.?\s*([^\W\d_]{3,10})\.?\s*(\d{4})?", plain):
            month = _position(m[2], MONTHS, _own_months)
            found = None if month is None else _next(int(m[1]), month + 1, m[3], today)
        elif plain.isalpha() and (weekday := _position(plain, WEEKDAYS, _own_weekdays)) is not None:
            found = today + datetime.timedelta(days=(weekday - today.weekday()) % 7)
    except (ValueError, OverflowError):  # the 31st of a month that has thirty
        raise InputError(given, "there is no such day") from None
    if found is None or not FIRST <= found <= LAST:
        raise InputError(given, WOULD_DO)
    return found


def later(day: datetime.date, count: int, unit: str) -> datetime.date:
    """So many days "d", weeks "w", months "m" or years "y" later; the last of a shorter month. Raises
    OverflowError beyond what dates are counted to.
    """
    if unit in ("d", "w"):
        return day + datetime.timedelta(days=count * (7 if unit == "w" else 1))
    months = day.month - 1 + count * (12 if unit == "y" else 1)
    year, month = day.year + months // 12, months % 12 + 1
    if year > LAST.year:
        raise OverflowError(year)
    for last in range(day.day, 27, -1):
        try:
            return datetime.date(year, month, last)
        except ValueError:
            continue
    return datetime.date(year, month, day.day)


def _next(day: int, month: int, year: str | None, today: datetime.date) -> datetime.date:
    if year:
        return datetime.date(int(year), month, day)
    found = datetime.date(today.year, month, day)
    return found if found >= today else datetime.date(today.year + 1, month, day)


def stored_date(text: str) -> datetime.date:
    """A date from how it is kept. Raises InputError."""
    try:
        found = datetime.date.fromisoformat(text.strip())
    except ValueError:
        raise InputError(f"“{text.strip()[:40]}”", WOULD_DO) from None
    if not FIRST <= found <= LAST:
        raise InputError(f"“{text.strip()[:40]}”", f"a year from {FIRST.year} to {LAST.year}")
    return found


def dates_typed(text: str, today: datetime.date) -> list[datetime.date]:
    """Dates with commas between, two with "to" for all the days from one to the other. Raises InputError."""
    found: list[datetime.date] = []
    for part in filter(None, (p.strip() for p in re.split(r"[,;]", text))):
        first, to, last = part.partition(" to ")
        a = date_typed(first, today)
        b = date_typed(last, a) if to else a
        if not 0 <= (b - a).days <= 366:
            raise InputError(f"“{part}”", "the first day, then the last, within a year")
        found += [a + datetime.timedelta(days=i) for i in range((b - a).days + 1)]
    return sorted(set(found))


def day_of(at: str) -> str:
    """The day of a stored time (ISO 8601), in one's own time zone, with its year; "" for what is none."""
    try:
        return full_words(datetime.datetime.fromisoformat(at).astimezone().date())
    except ValueError:
        return ""


def full_words(day: datetime.date) -> str:
    """A date with its year: "Sat 5 Dec 2026"."""
    return f"{day_words(day)} {day.year}"


def day_words(day: datetime.date) -> str:
    """A date as one says it: "Sat 5 Dec"."""
    return f"{WEEKDAYS[day.weekday()].title()} {day.day} {MONTHS[day.month - 1].title()}"
