"""Thread-dial rules in exact fractions."""

from __future__ import annotations

from fractions import Fraction

from msgspec import Struct

from trebb.core.errors import InputError


class ThreadDial(Struct, frozen=True):
    """A lathe's lead screw and its thread dial; `pitch` in any unit, exact."""

    pitch: Fraction
    gear_teeth: int
    marks: int

    def __post_init__(self) -> None:
        if self.pitch <= 0 or self.gear_teeth < 1 or self.marks < 1:
            raise InputError(
                "a thread dial without pitch, teeth or marks",
                "count the teeth of its gear and the lines on it",
            )


class DialRule(Struct, frozen=True):
    """Where the half nuts may be closed for one lead.

    `lines` counts from 0, the line of the first pass; empty where no fixed line
    is safe. `step` is in marks, `screw_threads` the smallest safe shift in lead
    screw threads. `any_position` says the dial is not needed at all.
    """

    travel_per_turn: Fraction
    travel_per_mark: Fraction
    step: int
    repeats_each_turn: bool
    lines: tuple[int, ...]
    any_position: bool
    screw_threads: int

    @property
    def sentence(self) -> str:
        """The rule as said at the lathe."""
        if self.any_position:
            return "any line, and between the lines: close the half nuts anywhere"
        if not self.lines:
            return "no line is safe: keep the half nuts closed and reverse the spindle"
        if self.step == 1:
            return "any line"
        if len(self.lines) == 1:
            return "the same line every time"
        return f"every {_ordinal(self.step)} line from the first"


def _ordinal(number: int) -> str:
    return {2: "second", 3: "third", 4: "fourth"}.get(number, f"{number}th")


def dial_rule(dial: ThreadDial, lead: Fraction) -> DialRule:
    """Lines at which a thread of this lead is picked up. Raises InputError for no lead.

    Parameters
    ----------
    lead : of the thread, in the dial's unit, exact: never a float, and never
        the pitch of a multi-start thread.

    Notes
    -----
    With travel per mark / lead = u/v in lowest terms every v-th mark is safe,
    provided a turn of the dial is a whole number of leads, and the marks fall
    on threads of the lead screw (teeth / marks whole). If lead screw pitch /
    lead is whole, any position is safe.
    """
    if lead <= 0:
        raise InputError("a lead of nothing", "give the thread's lead")
    per_turn = dial.pitch * dial.gear_teeth
    per_mark = per_turn / dial.marks
    step = (per_mark / lead).denominator
    repeats = (per_turn / lead).denominator == 1
    on_threads = dial.gear_teeth % dial.marks == 0
    lines = tuple(range(0, dial.marks, step)) if repeats and on_threads else ()
    threads = dial.pitch / lead
    return DialRule(per_turn, per_mark, step, repeats, lines, threads.denominator == 1, threads.denominator)
