"""Where a figure comes from: its readings, how each is understood, what could be said without them.

What stands without the readings of a set-up is worked out anew from the job's
other entries, not estimated: it is what the findings would say had nobody read
them.
"""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from trebb.core.findings import Measure
from trebb.core.findings.base import unread_words
from trebb.core.memory.taught import Taught
from trebb.core.survey import AnySetUp, set_up
from trebb.core.survey.shown import reading_text
from trebb.core.units import UnitSystem, show_small, show_uncertain
from trebb.core.words import small
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import Entry, ReadingTaken
from trebb.logbook.log.fold import Job

SMALLEST = 1e-9  # a coefficient that counts for nothing
MOST_TERMS = 6


class PlaceRead(Struct, frozen=True):
    """A place of a set-up: what was read there, and what a reading there is made of."""

    place: str
    values: str
    made_of: str


class Rest(Struct, frozen=True):
    """A set-up that a figure may rest on, and the places read."""

    key: str
    title: str
    instrument: str
    places: tuple[PlaceRead, ...]


class Chain(Struct, frozen=True):
    """A figure with all that is behind it."""

    label: str
    value: str
    limit: str
    unread: str
    rests: tuple[Rest, ...]


def figure_words(measure: Measure | None, system: UnitSystem) -> str:
    """A figure with its ±, or that it cannot be said."""
    if measure is None:
        return "cannot be said"
    least = "at least " if measure.unread else ""
    return f"{least}{show_uncertain(measure.value.value, measure.value.half_width, system)}"


def chain_of(case: Case, measure: Measure, system: UnitSystem) -> Chain:
    """What is behind a figure of an assembly, before the repair."""
    labels = {s.key: s.label for s in case.estimate.model.sources}
    rests = []
    for s in case.all_set_ups():
        observed = case.observations_of(s.key)
        if observed:
            rests.append(Rest(s.key, s.title, s.instrument.value, _places(case, s, labels, system)))
    return Chain(
        measure.label,
        figure_words(measure, system),
        f"{show_small(measure.limit.limit_mm, system)}: {measure.limit.source}",
        unread_words(measure.unread),
        tuple(rests),
    )


def _places(case: Case, s: AnySetUp, labels: dict[str, str], system: UnitSystem) -> tuple[PlaceRead, ...]:
    known = case.known_at(s.key, "before")
    subject = case.seen_by(s.key, "before")
    named = {p.key: p for p in s.places(subject)}
    found = []
    for one in known:
        place = named.get(one.place)
        if place is None:
            continue
        values = ", ".join(reading_text(v, s, system) for v in one.values)
        unit = reading_text(one.values[0], s, system, unit=True).removeprefix(
            reading_text(one.values[0], s, system)
        )
        found.append(PlaceRead(place.label, f"{values}{unit}", _made_of(case, s, one.place, labels)))
    return tuple(found)


def _made_of(case: Case, s: AnySetUp, place: str, labels: dict[str, str]) -> str:
    """A reading as the sum it is understood as: “nut + 0.5 × wear at station 2”."""
    rows = case.rows_of(s, [place])
    if not rows:
        return ""
    terms = sorted(
        ((k, c) for k, c in rows[0].coefficients.items() if abs(c) > SMALLEST and k in labels),
        key=lambda one: -abs(one[1]),
    )
    words = []
    for key, c in terms[:MOST_TERMS]:
        name = small(labels[key])
        times = "" if abs(abs(c) - 1) < 1e-6 else f"{abs(c):.2g} × "
        words.append(f"{'− ' if c < 0 else '+ '}{times}{name}")
    if len(terms) > MOST_TERMS:
        words.append(f"and {len(terms) - MOST_TERMS} smaller")
    return " ".join(words).removeprefix("+ ")


def without(
    entries: Sequence[Entry], taught: Taught, case: Case, measure: str, key: str, system: UnitSystem
) -> str:
    """The figure of a case that would stand had nobody read a set-up."""
    is_neighbours = set_up(key).family != case.family  # then there is one such assembly only
    left = [
        e
        for e in entries
        if not (
            isinstance(e.body, ReadingTaken)
            and e.body.set_up == key
            and (is_neighbours or e.body.assembly == case.assembly_key)
        )
    ]
    then = Cases(Job(left), taught).of(case.assembly_key)
    found = next((m for m in then.figures if m.key == measure), None) if then.is_measured else None
    return figure_words(found, system)
