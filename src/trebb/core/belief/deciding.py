"""Which repair to take, or what to read first: by what each costs, and what it costs to be wrong.

The cost of a repair is its money, its hours at what they are worth, and the
penalty times the chance that what is left is over the limit. Sources that nobody
read keep their whole spread: so a dear repair of one of two is not advised while
the other may be over by itself. A reading is worth what it may change (Raiffa and
Schlaifer 1961, "Applied statistical decision theory": the value of sample
information); it is taken first where that is more than its minutes are.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct

from trebb.core.belief.curve import Array, between, nodes, panels

TAIL = 9.0


class Doubt(Struct, frozen=True):
    """One source of the judged figure, by how much of it that figure has (`coefficient`): normal, or one of a
    few values with their chances.
    """

    coefficient: float
    mean: float = 0.0
    sd: float = 0.0
    values: tuple[float, ...] = ()
    chances: tuple[float, ...] = ()


class Repair(Struct, frozen=True):
    """What a repair costs and leaves: money, hours, its own scatter, what is left of each source as a share
    (1 where it does not touch one).
    """

    money: float
    hours: float
    scatter: float
    factors: Mapping[str, float]


class ToRead(Struct, frozen=True):
    """A source that may be read first: minutes, and the sd of what is read."""

    minutes: float
    sd: float


class Matter(Struct, frozen=True):
    """What is to be decided: limit and penalty of being over it, what an hour is worth, the sources, the
    repairs, and what may be read.
    """

    limit: float
    penalty: float
    hour: float
    sources: Mapping[str, Doubt]
    repairs: Mapping[str, Repair]
    readings: Mapping[str, ToRead]

    def cost_before(self, repair: str) -> float:
        """Money and hours of a repair, for certain."""
        r = self.repairs[repair]
        return r.money + r.hours * self.hour

    def over(self, repair: str) -> float:
        """Chance that what a repair leaves is over the limit, either way."""
        return float(self._over_at(repair, "", np.zeros(1))[0])

    def cost(self, repair: str) -> float:
        """What a repair costs, being wrong counted."""
        return self.cost_before(repair) + self.penalty * self.over(repair)

    @property
    def best(self) -> str:
        """The repair that costs least as things are known."""
        return min(self.repairs, key=self.cost)

    def _over_at(self, repair: str, known: str, at: Array, left_sd: float = 0.0) -> Array:
        """The same where one source is known to lie at each of several places, to a doubt."""
        r = self.repairs[repair]
        mean, variance = 0.0, r.scatter**2
        few: list[tuple[float, float]] = [(0.0, 1.0)]
        shift = np.zeros(len(at))
        for key, source in self.sources.items():
            share = source.coefficient * r.factors.get(key, 1.0)
            if key == known:
                shift = share * at
                variance += (share * left_sd) ** 2
            elif source.values:
                few = [
                    (a + share * v, p * q)
                    for a, p in few
                    for v, q in zip(source.values, source.chances, strict=True)
                ]
            else:
                mean += share * source.mean
                variance += (share * source.sd) ** 2
        sd = math.sqrt(variance)
        total = np.zeros(len(at))
        for a, p in few:
            middle = mean + a + shift
            total += p * (1 - between((-self.limit - middle) / sd, (self.limit - middle) / sd))
        return total

    def _least_at(self, known: str, at: Array, left_sd: float = 0.0) -> Array:
        """Least cost over the repairs, with one source known."""
        costs = [
            self.cost_before(r) + self.penalty * self._over_at(r, known, at, left_sd) for r in self.repairs
        ]
        return np.asarray(np.min(costs, axis=0))

    def value(self, source: str, reading_sd: float = 0.0) -> float:
        """What it is worth to know a source before deciding: for certain, or by a reading of that sd."""
        return self.cost(self.best) - self._least_known(source, reading_sd)

    def _least_known(self, source: str, reading_sd: float) -> float:
        known = self.sources[source]
        if known.values:
            return self._least_of_few(source, known, reading_sd)
        spread = known.sd**2 / math.hypot(known.sd, reading_sd)
        left = known.sd * reading_sd / math.hypot(known.sd, reading_sd)
        at, weight = _normal(known.mean, spread, self._kinks(source, left))
        return float(weight @ self._least_at(source, at, left))

    def _least_of_few(self, source: str, known: Doubt, reading_sd: float) -> float:
        if not reading_sd:
            least = self._least_at(source, np.array(known.values))
            return float(np.dot(known.chances, least))
        low, high = min(known.values) - TAIL * reading_sd, max(known.values) + TAIL * reading_sd
        y, weight = nodes(panels(low, high, [(v, reading_sd) for v in known.values], even=200))
        seen = np.array(
            [
                p * np.exp(-(((y - v) / reading_sd) ** 2) / 2) / (reading_sd * math.sqrt(2 * math.pi))
                for v, p in zip(known.values, known.chances, strict=True)
            ]
        )
        costs = []
        for r in self.repairs:
            over = self._over_at(r, source, np.array(known.values))
            costs.append(self.cost_before(r) * seen.sum(axis=0) + self.penalty * (over @ seen))
        return float(weight @ np.min(costs, axis=0))

    def _kinks(self, source: str, left_sd: float) -> list[tuple[float, float]]:
        """Where what is left of each repair passes the limit: there the costs turn."""
        turns = []
        for r in self.repairs.values():
            share = self.sources[source].coefficient * r.factors.get(source, 1.0)
            if not share:
                continue
            rest = sum(
                s.coefficient * r.factors.get(k, 1.0) * s.mean
                for k, s in self.sources.items()
                if k != source and not s.values
            )
            scale = math.hypot(r.scatter, share * left_sd) / abs(share)
            turns += [((edge - rest) / share, max(scale, 1e-9)) for edge in (-self.limit, self.limit)]
        return turns

    def gain(self, source: str) -> float:
        """What reading a source first is worth, less its minutes."""
        reading = self.readings[source]
        return self.value(source, reading.sd) - reading.minutes / 60 * self.hour


def _normal(mean: float, sd: float, turns: Sequence[tuple[float, float]]) -> tuple[Array, Array]:
    """Points and chances of a normal, close where a cost turns."""
    edges = panels(mean - TAIL * sd, mean + TAIL * sd, [(mean, sd), *turns], even=80)
    at, weight = nodes(edges)
    return at, weight * np.exp(-(((at - mean) / sd) ** 2) / 2) / (sd * math.sqrt(2 * math.pi))
