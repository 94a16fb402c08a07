"""The evenings there are: bench hours of each day from the first on, and the clock they stand on.

Day 0 is the first; its evening begins at clock 0, the next at 24. Bench hours are those evenings laid end
to end, so that a day without any takes none.
"""

from __future__ import annotations

import datetime
from bisect import bisect_left, bisect_right
from collections.abc import Collection, Sequence
from functools import cached_property
from itertools import accumulate

from msgspec import Struct

from trebb.core.errors import InputError

DAY = 24.0
TINY = 1e-9
MOST_EVENING = 16.0
LEAST_EVENING = 0.25
HORIZON = 800  # days that are looked ahead


def checked_hours(hours: float) -> float:
    """Hours of an evening. Raises InputError for what none has."""
    if not LEAST_EVENING <= hours <= MOST_EVENING:
        raise InputError(
            f"an evening of {hours:g} hours", f"from a quarter of an hour to {MOST_EVENING:g}; 0 is a day off"
        )
    return hours


class Evenings(Struct, frozen=True, eq=False, dict=True):
    """Bench hours by day, from day 0 on."""

    hours: tuple[float, ...]

    @cached_property
    def ends(self) -> list[float]:
        """Bench hour at which each evening ends."""
        return list(accumulate(self.hours))

    @cached_property
    def longest(self) -> float:
        """Hours of the longest evening."""
        return max(self.hours)

    def start_of(self, day: int) -> float:
        """Bench hour at which a day's evening begins. Raises InputError beyond the days looked ahead."""
        if day >= len(self.hours):
            raise InputError(f"not before {day} days from now", f"{len(self.hours)} days are looked ahead")
        return self.ends[day - 1] if day > 0 else 0.0

    def day_of(self, bench: float, *, ending: bool = False) -> int:
        """The day a bench hour falls in; at the night between two evenings the later day, or the earlier
        for what ends then. Raises InputError beyond the days looked ahead.
        """
        if ending and bench > TINY:
            day = bisect_left(self.ends, bench - TINY)
        else:
            day = bisect_right(self.ends, bench + TINY)
        if day >= len(self.hours):
            raise InputError(
                f"{bench:.0f} hours at the bench", f"there are not so many evenings in {len(self.hours)} days"
            )
        return day

    def clock_of(self, bench: float, *, ending: bool = False) -> float:
        """The clock at a bench hour."""
        day = self.day_of(bench, ending=ending)
        return DAY * day + max(0.0, bench - self.start_of(day))

    def bench_at(self, clock: float) -> float:
        """The first bench hour at or after a clock hour: in the day it is the next evening's. Raises
        InputError past the evenings looked at.
        """
        day = int(clock / DAY + TINY)
        if day >= len(self.hours):
            raise InputError(f"a wait of {clock / DAY:.0f} days", f"{len(self.hours)} are looked ahead")
        into = clock - day * DAY
        if into <= self.hours[day] - TINY:
            return self.start_of(day) + max(0.0, into)
        return self.ends[day]

    def fitting(self, bench: float, hours: float, only: Collection[int] = ()) -> float:
        """The first bench hour from which on so many hours are left of one evening, of one of those days
        where `only` some will do. Raises InputError.
        """
        day = self.day_of(bench)
        if bench + hours <= self.ends[day] + TINY and (not only or day in only):
            return bench
        for later in range(day + 1, len(self.hours)):
            if self.hours[later] >= hours - TINY and (not only or later in only):
                return self.start_of(later)
        if only:
            raise InputError(
                f"{hours:g} hours on a day with help", "no such day is long enough: a longer one, or in parts"
            )
        raise InputError(f"{hours:g} hours in one evening", f"none here has more than {self.longest:g}")


def alike(hours: float, days: int = HORIZON) -> Evenings:
    """Every evening as long as every other. Raises InputError for hours that none has."""
    return Evenings((checked_hours(hours),) * days)


def by_week(
    week: Sequence[float],
    first: datetime.date,
    off: Collection[datetime.date] = (),
    *,
    extra: float = 0.0,
    days: int = HORIZON,
) -> Evenings:
    """Evenings by weekday from a date on, Monday first, with days off; `extra` hours more on each there is.

    Raises InputError where a week has none, or one longer than an evening can be.
    """
    for hours in week:
        if hours:
            checked_hours(hours)
    if not any(week):
        raise InputError("a week without an evening", "give one day some hours")
    found = []
    for i in range(days):
        day = first + datetime.timedelta(days=i)
        hours = week[day.weekday()]
        found.append(min(hours + extra, MOST_EVENING) if hours and day not in off else 0.0)
    return Evenings(tuple(found))


def evenings_of(given: float | Evenings) -> Evenings:
    """Evenings from hours of each, or as they are."""
    return given if isinstance(given, Evenings) else alike(given)
