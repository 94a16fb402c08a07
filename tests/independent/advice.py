"""A machine's readings as a deck: typed when they are wanted, by Trebb's own advice or in an order."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from tests.independent.beds import Lathe
from tests.independent.bores import WornBore
from tests.independent.gibs import GibAtBench
from tests.independent.job import TypedJob
from tests.independent.scores import Played
from tests.independent.screws import Screw, facts
from tests.independent.spindles import SpindleAtBench
from trebb.logbook.log.entries import Body, ReadingTaken


@dataclass(frozen=True)
class Lot:
    """What is read in one go: its set-up's key, its places, minutes to set up and to read."""

    set_up: str
    places: tuple[str, ...]
    setting: float
    reading: float


class Deck:
    """Everything that could be read of one assembly, and what of it is typed so far."""

    def __init__(self, full: TypedJob, assembly: str, already: Sequence[Body] = ()) -> None:
        self.assembly = assembly
        self.stated = [body for body in full.bodies if not isinstance(body, ReadingTaken)] + list(already)
        self.readings: dict[tuple[str, str], list[ReadingTaken]] = {}
        for body in full.bodies:
            if isinstance(body, ReadingTaken) and body.assembly == assembly:
                self.readings.setdefault((body.set_up, body.place), []).append(body)
        self.count = sum(map(len, self.readings.values()))
        self.shuffle()

    def shuffle(self) -> None:
        """Nothing typed."""
        self.job, self.typed, self.minutes = TypedJob(self.stated[0].machine_kind), set(), 0.0
        self.job.record(*self.stated[1:])

    @property
    def case(self):
        """What Trebb says now."""
        return self.job.of(self.assembly)

    def lots(self) -> list[Lot]:
        """Every lot of which the deck holds something, in the order of the list."""
        found, seen = [], set()
        for s in self.case.set_ups:
            for lot in s.all_lots(self.case.subject_for("before")):
                places = tuple(
                    p for p in lot.places if (s.key, p) in self.readings and (s.key, p) not in seen
                )
                seen |= {(s.key, p) for p in places}
                if places:
                    found.append(Lot(s.key, places, s.setting_of(lot), s.minutes))
        return found

    def take(self, lot: Lot) -> None:
        """Type a lot, its minutes counted; places that were typed are not typed again."""
        new = [p for p in lot.places if (lot.set_up, p) not in self.typed]
        is_set_up = any((lot.set_up, p) in self.typed for p in lot.places)
        self.minutes += lot.reading * len(new) + (0.0 if is_set_up else lot.setting)
        self.typed |= {(lot.set_up, p) for p in new}
        self.job.record(*[body for p in new for body in self.readings[lot.set_up, p]])

    def advised(self) -> Lot | None:
        """What Trebb would have read next, of what the deck holds; None where it has nothing to say."""
        for suggestion in self.case.suggestions():
            s, lot = self.case.lot_of(suggestion.key)
            places = tuple(p for p in lot.places if (s.key, p) in self.readings)
            if set(places) - {p for key, p in self.typed if key == s.key}:
                return Lot(s.key, places, s.setting_of(lot), s.minutes)
        return None

    @property
    def is_said(self) -> bool:
        """Whether the verdict on what the assembly is judged by is said."""
        return self.case.state.name != "UNKNOWN"


def by_advice(*assemblies: str, share: float = 0.1) -> Played:
    """Of each assembly, whole lots typed as advised until that share of its readings is reached."""

    def played(full: TypedJob) -> TypedJob:
        already: list[Body] = []
        for assembly in assemblies:
            deck = Deck(full, assembly, already)
            while sum(len(deck.readings[key]) for key in deck.typed) < share * deck.count:
                lot = deck.advised()
                if lot is None:
                    break
                deck.take(lot)
            already = [body for body in deck.job.bodies if isinstance(body, ReadingTaken)]
        return deck.job

    return played


Maker = Callable[[int], Deck]
FAMILIES: dict[str, Maker] = {
    "screws": lambda seed: Deck(Screw(seed).type_all(facts(TypedJob())), "cross_slide"),
    "spindles": lambda seed: Deck(SpindleAtBench(seed).type_all(TypedJob()), "spindle"),
    "beds": lambda seed: Deck(Lathe(seed).type_all(TypedJob()), "ways"),
    "gibs": lambda seed: Deck(GibAtBench(seed).type_all(TypedJob()), "saddle"),
    "bores": lambda seed: Deck(WornBore(seed).typed(), "hole"),
}


def advised_minutes(deck: Deck) -> float:
    """Minutes until the verdict, taking what is advised first each time; where nothing is advised and nothing
    said, what is left in the order of the list.
    """
    deck.shuffle()
    while not deck.is_said:
        left = [lot for lot in deck.lots() if not {(lot.set_up, p) for p in lot.places} <= deck.typed]
        lot = deck.advised() or next(iter(left), None)
        if lot is None:
            return deck.minutes
        deck.take(lot)
    return deck.minutes


class Searched:
    """Minutes to the verdict in any order of lots, each set of lots looked at once only."""

    def __init__(self, deck: Deck) -> None:
        self.deck, self.lots = deck, deck.lots()
        self._said: dict[frozenset[int], tuple[bool, float]] = {}

    def at(self, chosen: Iterable[int]) -> tuple[bool, float]:
        """Whether it is said, and after how many minutes."""
        key = frozenset(chosen)
        if key not in self._said:
            self.deck.shuffle()
            for i in sorted(key):
                self.deck.take(self.lots[i])
            self._said[key] = (self.deck.is_said, self.deck.minutes)
        return self._said[key]

    def minutes(self, order: Sequence[int]) -> float:
        """Minutes until it is said in that order; of all of them where it is never said."""
        for n in range(1, len(order) + 1):
            is_said, minutes = self.at(order[:n])
            if is_said:
                return minutes
        return minutes


def best_order(searched: Sequence[Searched]) -> tuple[int, ...]:
    """The order of lots of fewest mean minutes on these machines: every order where lots are few, else
    the list's own, bettered by moving one lot at a time until no move helps.
    """
    count = len(searched[0].lots)

    def mean(order: Sequence[int]) -> float:
        return float(np.mean([s.minutes(order) for s in searched]))

    if count <= 5:
        return min(itertools.permutations(range(count)), key=mean)
    order = tuple(range(count))
    best = mean(order)
    while True:
        moved = []
        for i, j in itertools.permutations(range(count), 2):
            rest = [k for k in order if k != order[i]]
            moved.append((*rest[:j], order[i], *rest[j:]))
        found = min(moved, key=mean)
        if mean(found) >= best - 1e-9:
            return order
        order, best = found, mean(found)


def minutes_against_best(family: str, seeds: range, searched_on: int = 40) -> float:
    """Mean minutes as advised over those of the best order found on the first machines."""
    make = FAMILIES[family]
    order = best_order([Searched(make(seed)) for seed in list(seeds)[:searched_on]])
    advised = [advised_minutes(make(seed)) for seed in seeds]
    return float(np.mean(advised) / np.mean([Searched(make(seed)).minutes(order) for seed in seeds]))
