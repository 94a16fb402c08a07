"""Several remedies of one assembly as one: what they do together, cost, wait for and make.

A set has a key of its own, its members' keys joined, and is a `Remedy` like any
other, so that whatever follows a choice follows a set of them. Two of which each
mends the same thing exclude each other: one of them is enough.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from itertools import combinations
from typing import Any

from trebb.core.condition import Change, Estimate
from trebb.core.remedies.base import BY_STEPS, JOINED, Remedy
from trebb.core.units import UnitSystem
from trebb.core.words import small

MOST_TOGETHER = 4  # members of a set that is looked for; who ticks may tick more


def together(members: Sequence[Remedy]) -> Remedy:
    """The members as one remedy, in the order given; one alone is itself."""
    if len(members) == 1:
        return members[0]
    first = members[0]
    return Remedy(
        key=JOINED.join(r.key for r in members),
        title=_listed([r.title for r in members]),
        summary=_in_turn(r.summary for r in members),
        change=_all_changes([r.change for r in members]),
        cost=sum(r.cost for r in members),
        hours=sum(r.hours for r in members),
        wait_days=max(r.wait_days for r in members),
        needs=_in_turn(r.needs for r in members),
        risk=_all_risks([r.risk for r in members]),
        parts=_each_once(key for r in members for key in r.parts),
        buys=_each_once(key for r in members for key in r.buys),
        family=first.family,
        outcome=first.outcome,
        hinder=_first_of([r.hinder for r in members]),
        answered_by=next((r.answered_by for r in members if r.answered_by), ""),
        applies=lambda subject: all(r.applies(subject) for r in members),
        caution=_in_turn(r.caution for r in members),
        hides=any(r.hides for r in members),
        comes_whole=any(r.comes_whole for r in members),
        items=lambda subject: tuple(item for r in members for item in r.items(subject)),
        # Done in place together only where nothing comes apart for any of them.
        in_place=BY_STEPS if all(r.in_place for r in members) else "",
        works_on=next((r.works_on for r in members if r.works_on), ""),
        on_it_hours=sum(r.on_it_hours for r in members),
        first=lambda subject: next((key for r in members if (key := r.first(subject))), ""),
    )


def why_apart(one: Remedy, other: Remedy, subject: Any, now: Estimate) -> str:
    """Why two remedies cannot stand together, in a sentence; "" where they can."""
    both, idle = (one.title, other.title), next((r for r in (one, other) if is_idle(r)), None)
    if idle is not None:
        return f"“{idle.title}” stands alone: with it nothing else is done."
    mine, others = _settled(one, subject, now), _settled(other, subject, now)
    shared = mine & others
    if not shared:
        return ""
    if mine < others or others < mine:
        larger, smaller = both if others < mine else both[::-1]
        return f"“{larger}” does what “{smaller}” does already."
    what = next(s.label for s in now.model.sources if s.key in shared)
    return f"“{both[0]}” and “{both[1]}” both settle one thing, the {what}: one of them is enough."


def is_idle(r: Remedy) -> bool:
    """Whether nothing is done by it."""
    return r.key == "leave"


def sets_of(remedies: Sequence[Remedy], subject: Any, now: Estimate) -> Iterator[tuple[Remedy, ...]]:
    """Every set of two or more, of as many as are looked for, that can stand together."""
    settled = {r.key: _settled(r, subject, now) for r in remedies if not is_idle(r)}
    for count in range(2, MOST_TOGETHER + 1):
        for members in combinations([r for r in remedies if r.key in settled], count):
            if all(not settled[a.key] & settled[b.key] for a, b in combinations(members, 2)):
                yield members


def _settled(r: Remedy, subject: Any, now: Estimate) -> frozenset[str]:
    return frozenset(r.change(subject, now).shifts)


def _all_changes(changes: Sequence[Callable[[Any, Estimate], Change]]) -> Callable[[Any, Estimate], Change]:
    def change(subject: Any, now: Estimate) -> Change:
        done = Change()
        for one in changes:
            done = done.then(one(subject, now))
        return done

    return change


def _all_risks(
    risks: Sequence[Callable[[Any, Any, Any, UnitSystem], str]],
) -> Callable[[Any, Any, Any, UnitSystem], str]:
    return lambda subject, split, then, system: _in_turn(r(subject, split, then, system) for r in risks)


def _first_of(hinders: Sequence[Callable[[Any], str]]) -> Callable[[Any], str]:
    return lambda subject: next((why for hinder in hinders if (why := hinder(subject))), "")


def _each_once(keys: Iterator[str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(keys))


def _in_turn(sentences: Iterator[str]) -> str:
    return " ".join(dict.fromkeys(s for s in sentences if s))


def _listed(titles: Sequence[str]) -> str:
    """Titles as one: "New nut, cut to the old screw; take out the end float"."""
    return "; ".join([titles[0], *(small(t) for t in titles[1:])])
