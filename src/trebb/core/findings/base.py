"""What a finding is."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.condition import Quantity
from trebb.core.dual_units import in_units
from trebb.core.machine import RatedLimit, State, judged
from trebb.core.units import UnitSystem, show_small, show_uncertain


class Measure(Struct, frozen=True):
    """One thing an assembly is judged by, mm, as far as readings fix it.

    `unread` names what would add to it and was not read, in words, each with
    the set-up that reads it: with any left, the figure is the least that it
    can be, and inside its limit only once they are read. `is_expected` says
    that nothing of it was read: it is shown, never judged.
    """

    key: str
    label: str
    limit: RatedLimit
    value: Quantity
    unread: tuple[tuple[str, str], ...] = ()
    is_expected: bool = False

    @property
    def state(self) -> State:
        """How it stands to its limit: `UNKNOWN` where what is read cannot say."""
        if self.is_expected:
            return State.UNKNOWN
        state = judge(self.value, self.limit.limit_mm)
        return State.UNKNOWN if self.unread and state is not State.BEYOND else state

    @property
    def rank(self) -> tuple[int, float]:
        """For finding the worst: over its limit, then what cannot be said yet, then near it; then by
        share.
        """
        order = (State.WITHIN, State.NEAR, State.UNKNOWN, State.BEYOND)
        return order.index(self.state), self.share_of_limit

    @property
    def share_of_limit(self) -> float:
        """1 is at the limit. Without unit."""
        return self.value.value / self.limit.limit_mm


def judge(value: Quantity, limit_mm: float) -> State:
    """How a value with its interval stands to a limit."""
    return judged(value.value, value.low, value.high, limit_mm)


NOTHING = "anything of it"  # what is not read of a figure that stands by expectation only


def unread_words(unread: Sequence[tuple[str, str]]) -> str:
    """What was not read, as a sentence; "" for nothing."""
    names = list(dict.fromkeys(name for name, _ in unread if name != NOTHING))
    if not names:
        return "Nothing of it is read." if unread else ""
    numbers = [name.removeprefix("station ") for name in names]
    if len(names) > 1 and all(name.startswith("station ") for name in names):
        return f"Not read: stations {', '.join(numbers[:-1])} and {numbers[-1]}."
    listed = names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
    return f"Not read: {listed}."


def ways_to(unread: Sequence[tuple[str, str]]) -> tuple[tuple[str, str], ...]:
    """Ways on to the first two of what was not read: words and the set-up's key."""
    return tuple(("Read it" if what == NOTHING else f"Read {what}", set_up) for what, set_up in unread[:2])


def first_not_read(judged: Measure, system: UnitSystem) -> Finding:
    """That what an assembly is judged by cannot be said yet: other things of it are read, this is not."""
    return Finding(
        "first_not_read",
        State.UNKNOWN,
        f"{in_units(judged.label, system)} cannot be said yet.",
        "no reading of it",
        unread_words(judged.unread),
        0.0,
        ways_to(judged.unread),
    )


def size_words(m: Measure, system: UnitSystem) -> str:
    """A measure's value with its ±, and its limit."""
    return (
        f"{show_uncertain(m.value.value, m.value.half_width, system)}, limit "
        f"{show_small(m.limit.limit_mm, system)}"
    )


class Finding(Struct, frozen=True):
    """One verdict: a sentence a rebuilder would say, what it rests on, and the next move.

    `weight_mm` ranks findings by what they do to the work; `set_ups` are the ways on: words and the set-up's
    key; `asks` the facts that its words ask to be stated.
    """

    key: str
    state: State
    sentence: str
    rests_on: str
    next_move: str
    weight_mm: float
    set_ups: tuple[tuple[str, str], ...] = ()
    asks: tuple[str, ...] = ()


def hedged(found: Sequence[Finding], measures: Mapping[str, Measure], system: UnitSystem) -> list[Finding]:
    """Findings of measures said only as far as these are read: by key, a finding's or its measure's."""
    result = []
    for finding in found:
        m = measures.get(finding.key)
        if m is None or (not m.unread and m.state is not State.UNKNOWN):
            result.append(finding)
            continue
        unread = unread_words(m.unread)
        ways = ways_to(m.unread)
        if m.state is not State.UNKNOWN:
            result.append(replace(finding, next_move=f"{finding.next_move} {unread}".strip()))
            continue
        size = show_uncertain(m.value.value, m.value.half_width, system)
        limit = show_small(m.limit.limit_mm, system)
        result.append(
            replace(
                finding,
                sentence=f"{in_units(m.label, system)}: {size} so far. Whether it is inside {limit} "
                "cannot be said yet.",
                next_move=unread or "± is too wide for that: read it again, or by another set-up.",
                set_ups=ways or finding.set_ups,
            )
        )
    return result


def suggestion_words(
    name: str, sd_before: float, sd_after: float, system: UnitSystem, *, little: float
) -> str:
    """What a set-up would settle: 95 % ± after and before; "little" where more than that share of the doubt
    (sd, mm) stays.
    """
    if sd_after > little * sd_before:
        return "little left to learn from it"
    return (
        f"{name} to ± {show_small(2 * sd_after, system)}, now ± "
        f"{show_small(2 * sd_before, system, unit=False)}"
    )
