"""What to read before repairs are chosen for the work: what may change the choice, for its minutes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from msgspec import Struct

from trebb.core.condition import Candidate, Estimate
from trebb.core.work import WorkRow
from trebb.core.work.reading import Way, first_read
from trebb.logbook.plan.made_work import Held, MadeWork, ways_of


class ReadToChoose(Struct, frozen=True):
    """What to read before choosing.

    Parameters
    ----------
    set_ups : to be read together.
    minutes : that they take.
    saves : money, hours counted, that the choice costs less on average; the minutes are off.
    now, then : remedies by assembly: the choice as it is believed, and what it would most often be instead.
    changes : the chance that it is another than now.
    """

    set_ups: tuple[str, ...]
    minutes: float
    saves: float
    now: Mapping[str, str]
    then: Mapping[str, str]
    changes: float


class ChoiceAsked(Struct, frozen=True):
    """A choice to be made over one condition of the machine: ways with the remedies that each is, what the
    work asks, what could be read, what an hour is worth. It hangs on nothing that may change meanwhile.
    """

    now: Estimate
    ways: tuple[Way, ...]
    remedies: tuple[Mapping[str, str], ...]
    rows: tuple[WorkRow, ...]
    limits_mm: tuple[float, ...]
    could_be_read: tuple[Candidate, ...]
    hour: float


def choices_asked(work: MadeWork) -> list[ChoiceAsked]:
    """The choices that the work asks for, one a condition."""
    return [_asked(held) for held in work.conditions]


def read_to_choose(asked: Sequence[ChoiceAsked]) -> list[ReadToChoose]:
    """What is to be read before choosing, of each condition, what saves most first."""
    found = []
    for one in asked:
        first = first_read(one.now, one.ways, one.rows, one.limits_mm, one.could_be_read, one.hour)
        if first is not None:
            now, then = one.remedies[first.now], one.remedies[first.then]
            found.append(ReadToChoose(first.lots, first.minutes, first.saves, now, then, first.changes))
    return sorted(found, key=lambda one: -one.saves)


def told_of_first(first: Sequence[ReadToChoose]) -> list[dict[str, object]]:
    """All of it as JSON has it."""
    return [
        {
            "set_ups": list(one.set_ups),
            "minutes": round(one.minutes, 1),
            "saves": round(one.saves, 2),
            "now": dict(one.now),
            "then": dict(one.then),
            "changes": round(one.changes, 4),
        }
        for one in first
    ]


def _asked(held: Held) -> ChoiceAsked:
    hour = held.case.hour_worth()
    listed = [(taken, changes) for taken, changes, _ in ways_of(held)]
    return ChoiceAsked(
        held.case.mended_from,
        tuple(Way(done, sum(r.cost + r.hours * hour for r in taken.values())) for taken, done in listed),
        tuple({assembly: r.key for assembly, r in taken.items()} for taken, _ in listed),
        tuple(row for _, row, _ in held.rows),
        tuple(most for *_, most in held.rows),
        tuple(_set_ups(held)),
        hour,
    )


def _set_ups(held: Held) -> list[Candidate]:
    """What is left to read of the condition, by set-up."""
    found: dict[str, Candidate] = {}
    for case in held.case.of_one_condition():
        for one in case.could_be_read():
            key = one.key.split("/")[0]
            had = found.get(key, Candidate(key, (), 0.0))
            found[key] = Candidate(key, (*had.rows, *one.rows), had.minutes + one.minutes)
    return list(found.values())
