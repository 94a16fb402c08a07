"""How a family of pieces is judged: one record of what differs, for one kind of case.

A family that is judged by several measures, each a figure of its sources, declares them here: what each is
called, the limit it is judged by, how it is worked out of draws, and what must have been read for it.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any, Generic, TypeVar

from msgspec import Struct, field

from trebb.core.belief.sound import Kind, as_faults
from trebb.core.condition import ErrorModel, Estimate, Quantity, ReadingsOnly
from trebb.core.condition.draws import Array, draw
from trebb.core.condition.fixing import is_read
from trebb.core.figure import Figure
from trebb.core.findings.base import Finding, Measure, hedged
from trebb.core.machine import RatedLimit, State
from trebb.core.survey.base import PlaceReadings
from trebb.core.units import UnitSystem

S = TypeVar("S")
Drawn = Mapping[str, Array]
Unread = tuple[tuple[str, str], ...]


class Known(Struct, Generic[S], frozen=True):
    """What is known of a piece: as stated, by its readings alone, and what was read at each set-up."""

    subject: S
    alone: ReadingsOnly
    limits: Mapping[str, RatedLimit]
    taken: Mapping[str, Sequence[PlaceReadings]]
    system: UnitSystem = UnitSystem.METRIC
    painted: frozenset[int] = frozenset()

    def read(self, set_up: str) -> dict[str, float]:
        """Mean of each place that was read at a set-up, in its unit."""
        return {p.place: sum(p.values) / len(p.values) for p in self.taken.get(set_up, ()) if p.values}

    def source(self, key: str, doubt_mm: float) -> float | None:
        """A source that readings fix to a doubt; None where they do not. In mm."""
        if not is_read(self.alone, {key: 1.0}, doubt_mm):
            return None
        found = self.alone.source(key)
        return found.value if found.sd <= doubt_mm else None


class Judged(Struct, Generic[S], frozen=True):
    """One measure.

    Parameters
    ----------
    label, limit : how it is called, and the key of the limit it is judged by.
    value(subject, drawn) : it by draws, mm.
    needs(subject) : combinations of sources that must have been read for it to be said at all; where only
        some are, `unread` says what else would add to it.
    unread(known) : what was not read that adds to it, each with the set-up that reads it.
    words(known, measure, size) : sentence, what it rests on, the next move.
    weight : of its finding against the others.
    applies(subject) : whether this piece has it.
    if_read : sources that count only where they were read; what was not stands in `unread`.
    known_to : share of the limit to which each of `needs` must be known (sd): less where another figure
    stands
        for the sum that this one is part of.
    unless : a measure that stands for it where that one is known: a sum, where its part is told apart.
    """

    label: str
    limit: str
    value: Callable[[S, Drawn], Quantity]
    needs: Callable[[S], tuple[Mapping[str, float], ...]]
    words: Callable[[Known[S], Measure, str], tuple[str, str, str]]
    unread: Callable[[Known[S]], Unread] = lambda known: ()
    weight: float = 1.0
    applies: Callable[[S], bool] = lambda subject: True
    unless: str = ""
    if_read: tuple[str, ...] = ()
    known_to: float = 1.0


class Judging(Struct, Generic[S], frozen=True):
    """A family of pieces.

    Parameters
    ----------
    decides : the set-up that reads its first measure.
    model(subject) : its sources.
    measures : by key, the first the one it is usually judged by.
    questions : of the subject, what is to be known, each with its words.
    describe : what it is, in a few words.
    also(known, measures) : verdicts beyond the measures.
    sizes(known) : sizes that readings fix for its parts, mm.
    cures : of verdicts beyond the measures, the remedies that mend them.
    picture(known) : it drawn with what was read of it; None where its family draws its own.
    faults(subject) : which of its sources are faults that may be nothing, kind by kind.
    default_parts, optional_parts : keys of part families.
    """

    decides: str
    model: Callable[[S], ErrorModel]
    measures: Mapping[str, Judged[S]]
    questions: Callable[[S], Mapping[str, tuple[str, Mapping[str, float]]]]
    describe: Callable[[S], str]
    also: Callable[[Known[S], Mapping[str, Measure]], Sequence[Finding]] = lambda known, measures: ()
    sizes: Callable[[Known[S]], dict[str, float]] = lambda known: {}
    cures: Mapping[str, tuple[str, ...]] = field(default_factory=dict)
    picture: Callable[[Known[S]], Figure] | None = None
    faults: Callable[[S], Sequence[Kind]] = lambda subject: ()
    default_parts: tuple[str, ...] = ()
    optional_parts: tuple[str, ...] = ()

    def known_measures(self, known: Known[S]) -> list[Measure]:
        """What readings fix, in order; a measure that nothing tells of is left out."""
        drawn, faults = draw(known.alone, cut=False), self.faults(known.subject)
        if faults:
            drawn = as_faults(known.alone, self.model(known.subject), drawn, faults)
        found: list[Measure] = []
        for key, judged in self.measures.items():
            if not judged.applies(known.subject):
                continue
            limit = known.limits[judged.limit]
            if judged.unless in {m.key for m in found}:
                continue
            if all(
                is_read(known.alone, c, judged.known_to * limit.limit_mm) for c in judged.needs(known.subject)
            ):
                left_out = {k: 0.0 * drawn[k] for k in judged.if_read if not _is_read(known, k, limit)}
                value = none_below(judged.value(known.subject, {**drawn, **left_out}))
                found.append(Measure(key, judged.label, limit, value, judged.unread(known)))
        return found

    def findings(self, known: Known[S], measures: Sequence[Measure]) -> list[Finding]:
        """Verdicts, the heaviest first."""
        from trebb.core.findings.base import size_words

        by_key = {m.key: m for m in measures}
        found = []
        for m in measures:
            judged = self.measures[m.key]
            sentence, rests, move = judged.words(known, m, size_words(m, known.system))
            move = "Inside its limit." if m.state is State.WITHIN else move
            found.append(Finding(m.key, m.state, sentence, rests, move, judged.weight * m.value.value))
        found = hedged(found, by_key, known.system)
        found += self.also(known, by_key)
        return sorted(found, key=lambda f: -f.weight_mm)


def _is_read(known: Known[Any], source: str, limit: RatedLimit) -> bool:
    return is_read(known.alone, {source: 1.0}, limit.limit_mm)


def none_below(q: Quantity) -> Quantity:
    """A figure that cannot be less than nothing."""
    return Quantity(max(0.0, q.value), q.sd, max(0.0, q.low), max(0.0, q.high))


class Outcome(Struct, frozen=True):
    """What a remedy would leave, by measure, mm; the first is what it is compared by."""

    after: Estimate
    measures: Mapping[str, Quantity] = field(default_factory=dict)

    @property
    def worst(self) -> Quantity:
        """The first measure."""
        return next(iter(self.measures.values()))


def outcome_by(judging: Judging[Any]) -> Callable[[Any, Estimate], Outcome]:
    """A family's `Remedy.outcome`: every measure of the condition after it."""

    def outcome(subject: Any, after: Estimate) -> Outcome:
        drawn = draw(after)
        return Outcome(
            after, {key: none_below(judged.value(subject, drawn)) for key, judged in judging.measures.items()}
        )

    return outcome
