"""Several starts: by what the work or the carriage is shifted from one to the next."""

from __future__ import annotations

from fractions import Fraction

from msgspec import Struct

from trebb.core.errors import InputError
from trebb.core.gears.trains import Train
from trebb.core.making.thread_dial import ThreadDial
from trebb.core.units import UnitSystem, show_size, show_small

MOST_THREADS = 48  # nobody counts further along the bed


class Indexing(Struct, frozen=True):
    """One way to come from start to start, whether it can be done here, and how."""

    key: str
    title: str
    is_possible: bool
    how: str


def indexings(
    lead: Fraction, starts: int, dial: ThreadDial, train: Train | None, system: UnitSystem
) -> tuple[Indexing, ...]:
    """Every way to index a thread of so many starts, the surest first; empty for one start. Raises
    InputError for no start.

    Parameters
    ----------
    lead : of the thread, in the dial's unit (mm here), exact.
    train : the change gears in use; None where a gearbox drives.

    Notes
    -----
    Half nuts closed one lead screw thread later move the cut by the lead
    screw's pitch; the start wanted lies a pitch (lead / starts) on, plus any
    number of leads. It can be reached where a whole number of lead screw threads
    comes to that, exactly.
    """
    if starts < 1:
        raise InputError(f"{starts} starts", "a thread has at least one start")
    if starts == 1:
        return ()
    pitch = lead / starts
    found: list[Indexing] = []
    shift = next(
        (n for n in range(1, MOST_THREADS + 1) if ((n * dial.pitch - pitch) / lead).denominator == 1), None
    )
    _add_by_half_nuts(dial, found, shift)
    found.append(
        Indexing(
            "compound",
            "By the compound",
            True,
            f"Compound along the bed; after each start wind it on {show_size(float(pitch), system)}, lash "
            f"taken up the same way. Good to {show_small(0.0127, system)}.",
        )
    )
    _add_by_wheels(starts, train, found)
    found.append(
        Indexing(
            "plate",
            "By the driving plate",
            True,
            f"{starts} slots {360 / starts:g}° apart for the dog; good to {show_small(0.05, system)} on a "
            "small plate unless they were indexed.",
        )
    )
    return tuple(sorted(found, key=lambda i: not i.is_possible))


def _add_by_wheels(starts: int, train: Train | None, found: list[Indexing]) -> None:
    if train is not None:
        first = train.drivers[0]
        if first % starts == 0:
            found.append(
                Indexing(
                    "wheel",
                    "By the first wheel",
                    True,
                    f"Chalk a tooth of the {first} where it meshes; draw the banjo, turn the spindle "
                    f"{first // starts} teeth, mesh again. Exact.",
                )
            )
        else:
            found.append(
                Indexing(
                    "wheel",
                    "By the first wheel",
                    False,
                    f"{first} teeth do not divide by {starts}; another train whose first driver does would "
                    "serve.",
                )
            )


def _add_by_half_nuts(dial: ThreadDial, found: list[Indexing], shift: int | None) -> None:
    if shift is None:
        found.append(
            Indexing(
                "dial",
                "By the half nuts",
                False,
                f"No whole number of lead screw threads, up to {MOST_THREADS}, lands on the next start.",
            )
        )
    else:
        at_mark = Fraction(shift * dial.marks, dial.gear_teeth)
        line = (
            f"one line of the dial is {dial.gear_teeth // dial.marks} threads: take the line {at_mark} on"
            if at_mark.denominator == 1
            else f"count {shift} lead screw threads; no line of the dial stands there"
        )
        found.append(
            Indexing(
                "dial",
                "By the half nuts",
                True,
                f"Open, move {shift} lead screw thread{'s' if shift > 1 else ''}, close: {line}.",
            )
        )
