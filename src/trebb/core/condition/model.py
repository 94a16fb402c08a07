"""Sources of error with their prior, and rows that tie readings to them."""

from __future__ import annotations

from collections.abc import Hashable, Mapping, Sequence
from functools import cached_property
from itertools import combinations
from typing import TYPE_CHECKING, Any, TypeAlias

import numpy as np
from msgspec import Struct, field
from msgspec.structs import replace

from trebb.core.errors import InputError

if TYPE_CHECKING:
    from numpy.typing import NDArray

Vector: TypeAlias = "NDArray[np.float64]"
Matrix: TypeAlias = "NDArray[np.float64]"


def variances_of(rows: Matrix, covariance: Matrix) -> Vector:
    """Variance of each combination, (m,), of its rows (m, n) and the sources' covariance (n, n)."""
    return np.asarray((rows @ covariance * rows).sum(axis=1), dtype=np.float64)


# A machine can be this many times worse than usual, and readings alone must be able to say so.
LOOSE = 25.0


class Source(Struct, frozen=True):
    """One physical source of error.

    Parameters
    ----------
    key : short name used in rows.
    label : the trade's name, for sentences.
    mean, sd : prior before any reading, in the source's unit (mm unless said).
    is_clearance : True for what cannot be less than nothing: wear, play, float.
    loose : how many times wider the prior is where only readings may speak; 1 for
        what a set-up, a hand or a tolerance bounds and no wear can stretch.
    group : sources that are stretched together (the two axes of a vector); those
        tied by a correlation are anyway.
    """

    key: str
    label: str
    mean: float
    sd: float
    is_clearance: bool = False
    loose: float = LOOSE
    group: str = ""

    @property
    def loosened(self) -> Source:
        """The same with next to nothing expected of it."""
        mean = 0.0 if self.is_clearance and self.loose > 1 else self.mean
        return replace(self, mean=mean, sd=self.sd * self.loose, loose=1.0)


class Row(Struct, frozen=True):
    """How one reading depends on the condition: offset + Σ coefficient × source, ± noise.

    `noise_sd` is everything random in one reading: instrument, repeatability,
    re-seating. Where readings of one place are averaged, the caller reduces it.
    """

    coefficients: Mapping[str, float]
    noise_sd: float
    offset: float = 0.0


class ErrorModel(Struct, frozen=True, dict=True):
    """Sources with their joint prior.

    `correlation` holds pairs of keys that move together before anything is
    read (wear at neighbouring stations), each with a coefficient in (−1, 1).
    """

    sources: tuple[Source, ...]
    correlation: Mapping[tuple[str, str], float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if len(self._index) != len(self.sources):
            raise InputError("two sources with one key", "each source needs its own key")

    @cached_property
    def _index(self) -> dict[str, int]:
        """Position of each source."""
        return {source.key: i for i, source in enumerate(self.sources)}

    @cached_property
    def prior_mean(self) -> Vector:
        """What is expected of each source before anything is read, (n,), in its unit."""
        return np.array([source.mean for source in self.sources], dtype=float)

    @cached_property
    def prior_covariance(self) -> Matrix:
        """Of the same, (n, n), in the units' squares."""
        sd = np.array([source.sd for source in self.sources], dtype=float)
        tie = np.eye(len(sd))
        for (a, b), value in self.correlation.items():
            i, j = self._index[a], self._index[b]
            tie[i, j] = tie[j, i] = value
        return tie * np.outer(sd, sd)

    @cached_property
    def prior_precision(self) -> Matrix:
        """Inverse of the prior's covariance, (n, n)."""
        return np.asarray(np.linalg.inv(self.prior_covariance), dtype=np.float64)

    @cached_property
    def bounded(self) -> NDArray[np.bool_]:
        """Which sources are clearances, (n,)."""
        return np.array([source.is_clearance for source in self.sources], dtype=bool)

    @cached_property
    def group_of(self) -> NDArray[np.intp]:
        """Which of the groups each source belongs to, (n,)."""
        group_of = np.zeros(len(self.sources), dtype=np.intp)
        for g, members in enumerate(self.groups):
            group_of[list(members)] = g
        return group_of

    @cached_property
    def groups(self) -> tuple[tuple[int, ...], ...]:
        """Positions of the sources that are stretched together, group by group."""
        index = self._index
        leader = list(range(len(self.sources)))

        def find(i: int) -> int:
            while leader[i] != i:
                i = leader[i]
            return i

        named: dict[str, int] = {}
        pairs = [(index[a], index[b]) for a, b in self.correlation]
        for i, source in enumerate(self.sources):
            if source.group:
                pairs.append((named.setdefault(source.group, i), i))
        for a, b in pairs:
            leader[find(b)] = find(a)
        found: dict[int, list[int]] = {}
        for i in range(len(self.sources)):
            found.setdefault(find(i), []).append(i)
        return tuple(tuple(members) for members in found.values())

    @cached_property
    def kept(self) -> dict[Hashable, Any]:
        """What was worked out of nothing but this model, by what it is."""
        return {}

    def part(self, groups: tuple[int, ...]) -> tuple[NDArray[np.intp], ErrorModel]:
        """The sources of some groups by themselves, and their positions here: nothing expected ties them to
        the others.
        """
        if groups not in self.kept:
            at = sorted(i for g in groups for i in self.groups[g])
            sources = tuple(self.sources[i] for i in at)
            keys = {source.key for source in sources}
            ties = {pair: value for pair, value in self.correlation.items() if pair[0] in keys}
            self.kept[groups] = np.array(at, dtype=np.intp), ErrorModel(sources, ties)
        found: tuple[NDArray[np.intp], ErrorModel] = self.kept[groups]
        return found

    @cached_property
    def loosened(self) -> ErrorModel:
        """The same sources with next to nothing expected of them: what they are is left to the readings."""
        return ErrorModel(tuple(s.loosened for s in self.sources), self.correlation)

    @cached_property
    def by_neighbours(self) -> ErrorModel:
        """The loosened sources, where of those that move together it stays known how far one may be from its
        neighbours: what they share is left open.
        """
        ties = dict(self.correlation)
        tied = {self._index[key] for pair in ties for key in pair}
        for at in (tied.intersection(members) for members in self.groups):
            for one, other in combinations((self.sources[i] for i in sorted(at)), 2):
                own = ties.pop((other.key, one.key), 0.0) + ties.pop((one.key, other.key), 0.0)
                common = ((one.loose**2 - 1) * (other.loose**2 - 1)) ** 0.5
                ties[one.key, other.key] = (own + common) / (one.loose * other.loose)
        return ErrorModel(self.loosened.sources, ties)

    def __contains__(self, key: object) -> bool:
        return key in self._index

    def position(self, key: str) -> int:
        """Index of a source; raises InputError for a key that is not one."""
        try:
            return self._index[key]
        except KeyError:
            raise InputError(f"source “{key}”", f"this model has {', '.join(self._index)}") from None

    def source(self, key: str) -> Source:
        """The source of that key."""
        return self.sources[self.position(key)]

    def vector(self, coefficients: Mapping[str, float]) -> Vector:
        """Coefficients by key as a dense (n,) vector. Without unit."""
        result = np.zeros(len(self.sources))
        for key, value in coefficients.items():
            result[self.position(key)] = value
        return result

    def matrix(self, rows: Sequence[Row]) -> Matrix:
        """Rows as a dense (m, n) matrix of coefficients."""
        result = np.zeros((len(rows), len(self.sources)))
        index = self._index
        for i, row in enumerate(rows):
            for key, value in row.coefficients.items():
                result[i, index[key]] = value
        return result
