"""Suspects by Bayes' rule: every set of up to three causes weighed by what was marked and looked at.

A symptom shows unless its leak and every cause there fail to show it (noisy or); what was not said counts
for nothing. A look tells so many bits of which set it is: the one with most a minute comes first.
"""

from __future__ import annotations

import itertools
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, TypeAlias

import numpy as np
from msgspec import Struct

from trebb.core.suspects.table import FAMILY, MACHINE, Cause, LookAt, Symptom, Table

if TYPE_CHECKING:
    from numpy.typing import NDArray

MOST_TOGETHER = 3
TRIPLES_OF = 18  # causes, most likely alone, of which three are taken together
OTHER_WAY = 0.25  # of how often a cause shows, where it came the other way: slowly what comes suddenly
ELSEWHERE = 0.15  # of how often a cause shows, where the symptom was said of another assembly
OWNER_HEARS = 0.5  # of an owner's “no” on what creeps up

Floats: TypeAlias = "NDArray[np.float64]"


class Marked(Struct, frozen=True):
    """A symptom as marked: there or not, on which assembly ("" where not said), how it came."""

    there: bool
    assembly: str = ""
    grew: str = ""


class Suspect(Struct, frozen=True):
    """A cause on an assembly ("" for none), with its chance now; `is_backed` by something marked or seen:
    without that it stands by how often such machines have it, and below those that are.
    """

    cause: Cause
    assembly: str
    chance: float
    is_backed: bool = False

    @property
    def key(self) -> str:
        """What tells it from others."""
        return f"{self.cause.key}@{self.assembly}"


class Advice(Struct, frozen=True):
    """A look on an assembly, with what it tells: bits, and bits a minute."""

    look: LookAt
    assembly: str
    bits: float

    @property
    def key(self) -> str:
        """What tells it from others."""
        return look_key(self.look.key, self.assembly)

    @property
    def per_minute(self) -> float:
        """Bits a minute."""
        return self.bits / self.look.minutes


def look_key(look: str, assembly: str) -> str:
    """Key of a look on an assembly."""
    return f"{look}@{assembly}"


class Ranking(Struct, frozen=True):
    """Suspects, the likeliest first, and looks, the most telling a minute first."""

    suspects: tuple[Suspect, ...]
    advice: tuple[Advice, ...]

    def place(self, key: str) -> int:
        """Place of a suspect, the first is 1; 0 where it is none."""
        return next((i for i, s in enumerate(self.suspects, 1) if s.key == key), 0)

    def chance(self, key: str) -> float:
        """Chance of a suspect. From 0 to 1."""
        return next((s.chance for s in self.suspects if s.key == key), 0.0)


Assemblies = Sequence[tuple[str, str]]  # key, family


def places_of(at: Sequence[str], assemblies: Assemblies) -> list[str]:
    """Assemblies of a machine that a place in the table means; [""] for what is of no assembly."""
    found: list[str] = []
    for place in at:
        if place.startswith(FAMILY):
            found += [key for key, family in assemblies if family == place.removeprefix(FAMILY)]
        else:
            found += [key for key, _ in assemblies if key == place]
    if not found and MACHINE in at:
        return [""]
    return list(dict.fromkeys(found))


class Weighing:
    """A table on a machine: causes where it can have them, sets of them, and what is said so far."""

    def __init__(self, table: Table, assemblies: Assemblies) -> None:
        self.table = table
        self.candidates: list[tuple[Cause, str]] = []
        shares: list[float] = []
        self.places: dict[str, list[str]] = {}
        for cause in table.causes:
            places = self.places[cause.key] = places_of(cause.at, assemblies)
            for place in places:
                self.candidates.append((cause, place))
                shares.append(cause.share / len(places))
        self.shares = np.array(shares)
        self.looks = [(look, place) for look in table.looks for place in places_of(look.at, assemblies)]
        self._look_rows = [self._tells(look, place) for look, place in self.looks]

    def _tells(self, look: LookAt, place: str) -> Floats:
        """How often a look says yes to each candidate: of a cause that can be there, only if it is there."""
        row = np.zeros(len(self.candidates))
        for i, (cause, at) in enumerate(self.candidates):
            p = look.tells.get(cause.key, 0.0)
            if p and (at == place or place not in self.places[cause.key]):
                row[i] = p
        return row

    def _shows(self, symptom: Symptom, marked: Marked) -> Floats:
        row = np.zeros(len(self.candidates))
        for i, (cause, at) in enumerate(self.candidates):
            p = cause.shows.get(symptom.key, 0.0)
            if marked.there and marked.grew and p and (marked.grew == "suddenly") != cause.sudden:
                p *= OTHER_WAY
            if marked.there and marked.assembly and at and at != marked.assembly:
                p *= ELSEWHERE
            row[i] = p
        return row

    def _sets(self, alone: Floats, touched: NDArray[np.bool_]) -> NDArray[np.int64]:
        """Sets of the candidates that anything said speaks of, as rows of indices, filled up with −1."""
        of = [int(i) for i in np.flatnonzero(touched)]
        rows: list[tuple[int, int, int]] = [(-1, -1, -1)]
        rows += [(i, -1, -1) for i in of]
        rows += [(i, k, -1) for i, k in itertools.combinations(of, 2)]
        top = sorted(sorted(of, key=lambda i: -alone[i])[:TRIPLES_OF])
        rows += [(int(i), int(k), int(m)) for i, k, m in itertools.combinations(top, MOST_TOGETHER)]
        return np.array(rows)

    def _fails(self, row: Floats, leak: float, sets: NDArray[np.int64]) -> Floats:
        """Chance that nothing of a set shows it, nor its leak."""
        spare = np.append(1 - row, 1.0)  # −1 takes the last: none there
        found: Floats = np.asarray((1 - leak) * np.prod(spare[sets], axis=1), dtype=np.float64)
        return found

    def rank(self, marks: Mapping[str, Marked], looked: Mapping[str, bool]) -> Ranking:
        """Suspects and looks by what was marked, and what the looks (by `look_key`) said."""
        if not self.candidates:
            return Ranking((), ())
        odds = self.shares / (1 - self.shares)
        evidence: list[tuple[Floats, float, bool, float]] = []
        for key, marked in marks.items():
            symptom = self.table.by_key.get(key)
            if symptom is not None:
                hears = OWNER_HEARS if symptom.fitter_hears and not marked.there else 1.0
                evidence.append((self._shows(symptom, marked), symptom.leak, marked.there, hears))
        for (look, place), row in zip(self.looks, self._look_rows, strict=True):
            answer = looked.get(look_key(look.key, place))
            if answer is not None:
                evidence.append((row, look.leak, answer, 1.0))
        alone = np.log(odds)
        for row, leak, there, hears in evidence:
            yes = 1 - (1 - leak) * (1 - row)
            alone = alone + np.log(np.maximum(1e-9, yes if there else 1 - hears * yes))
        # Of what nothing said speaks, the chance is what it was, and whatever is said does not hang on it.
        touched = np.zeros(len(self.candidates), dtype=bool)
        for row, *_ in evidence:
            touched |= row > 0
        sets = self._sets(alone, touched if touched.any() else ~touched)
        weight = np.zeros(len(sets))
        spare = np.append(np.log(odds), 0.0)
        weight += spare[sets].sum(axis=1)
        for row, leak, there, hears in evidence:
            yes = 1 - self._fails(row, leak, sets)
            weight += np.log(np.maximum(1e-12, yes if there else 1 - hears * yes))
        share = np.exp(weight - weight.max())
        share /= share.sum()
        chance = np.zeros(len(self.candidates) + 1)
        for column in range(MOST_TOGETHER):
            np.add.at(chance, sets[:, column], share)
        chance = np.where(touched, chance[:-1], self.shares)
        backed = np.zeros(len(self.candidates), dtype=bool)
        for row, _, there, _ in evidence:
            if there:
                backed |= row > 0
        suspects = [
            Suspect(c, at, float(p), bool(b))
            for (c, at), p, b in zip(self.candidates, chance, backed, strict=True)
        ]
        suspects.sort(key=lambda s: (not s.is_backed, -s.chance))
        # A look answers what was marked: what it would tell of causes that nothing speaks for counts only
        # where nothing at all was marked.
        asked = backed if backed.any() else np.ones(len(backed), dtype=bool)
        return Ranking(tuple(suspects), self._advice(sets, share, looked, asked))

    def _advice(
        self,
        sets: NDArray[np.int64],
        share: Floats,
        looked: Mapping[str, bool],
        asked: NDArray[np.bool_],
    ) -> tuple[Advice, ...]:
        kept = share > 1e-7
        sets, share = sets[kept], share[kept]
        found = []
        for (look, place), row in zip(self.looks, self._look_rows, strict=True):
            if look_key(look.key, place) in looked:
                continue
            others = float(np.prod(1 - np.where(asked, 0.0, self.shares * row)))
            yes = 1 - others * self._fails(np.where(asked, row, 0.0), look.leak, sets)
            mean = float(share @ yes)
            found.append(Advice(look, place, max(0.0, _bits(mean) - float(share @ _each_bits(yes)))))
        found.sort(key=lambda a: -a.per_minute)
        return tuple(found)


def _bits(p: float) -> float:
    return float(_each_bits(np.array([p]))[0])


def _each_bits(p: Floats) -> Floats:
    q = np.clip(p, 1e-12, 1 - 1e-12)
    return -(q * np.log2(q) + (1 - q) * np.log2(1 - q))
