"""Is what is advised enough, and no more than enough? Feed screws, after every lot that is read."""

from __future__ import annotations

from collections.abc import Iterable

from tests.independent.advice import Deck
from tests.independent.job import TypedJob
from tests.independent.screws import STATIONS, Screw, facts

# What the repairs themselves leave, mm: a new nut's play, a new thrust's float.
NEW_NUT, NEW_FLOAT = 0.05, 0.012
HARDLY = 1.15  # of the limit: what is over it by less nobody sends back


def left(screw: Screw, remedy: str) -> float | None:
    """Lash at the worst after a repair, mm, by what was planted; None where the hand that laps decides it."""
    wear = max(screw.under_nut(way) for way in STATIONS)
    tip = 0.4 * screw.tip
    rest = screw.key + tip  # a new screw has its own key
    return {
        "leave": screw.nut + wear + screw.turned + rest,
        "thrust": screw.nut + wear + NEW_FLOAT + rest,
        "made_nut": NEW_NUT + wear + screw.turned + rest,
        "new_pair": NEW_NUT + screw.turned + tip,
        "new_thread": NEW_NUT + screw.turned + tip,
        "pair_thrust": NEW_NUT + NEW_FLOAT + tip,
    }.get(remedy)


class Advised:
    """Counts over machines: what was advised, what of it was not enough, and more than enough."""

    def __init__(self) -> None:
        self.tries = self.not_enough = self.too_much = self.waits = 0

    def count(self, screw: Screw, case: object, limit: float) -> None:
        """What is advised of a machine now."""
        advice = case.advised()  # type: ignore[attr-defined]
        if advice is None:
            self.waits += 1
            return
        self.tries += 1
        now = left(screw, advice.key)
        if now is not None and now > HARDLY * limit and advice.key != "pair_thrust":
            self.not_enough += 1
        hours = {r.key: r.hours for r, _ in case.predictions()}  # type: ignore[attr-defined]
        cheaper = [key for key, h in hours.items() if h < advice.hours - 1.0]
        if any((after := left(screw, key)) is not None and after < limit / HARDLY for key in cheaper):
            self.too_much += 1

    @property
    def wrong(self) -> float:
        """Share of what was advised that was more than enough or not enough."""
        return (self.not_enough + self.too_much) / max(self.tries, 1)


def advised_on_screws(seeds: Iterable[int]) -> Advised:
    """Every lot in the order Trebb asks for them; after each what is advised."""
    found = Advised()
    for seed in seeds:
        screw = Screw(seed)
        deck = Deck(screw.type_all(facts(TypedJob())), "cross_slide")
        deck.shuffle()
        while (lot := deck.advised()) is not None:
            deck.take(lot)
            found.count(screw, deck.case, deck.case.limit.limit_mm)
    return found
