"""The one clock. Core and logbook never ask the system what time it is: whoever runs them gives a clock,
once, and a test gives any.
"""

from __future__ import annotations

import datetime
from collections.abc import Callable

Clock = Callable[[], datetime.datetime]
_clock: list[Clock] = []


def give(clock: Clock) -> None:
    """From now on time is what this clock says: an aware time, of any zone."""
    _clock[:] = [clock]


def now() -> datetime.datetime:
    """The time, aware. Raises RuntimeError where no clock was given."""
    if not _clock:
        raise RuntimeError("no clock was given: call trebb.core.clock.give first")
    return _clock[0]()


def today() -> datetime.date:
    """The day in one's own time zone. Raises RuntimeError where no clock was given."""
    return now().astimezone().date()
