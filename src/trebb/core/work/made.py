"""A figure of the work from an error model: its value with ±, its chance inside a tolerance, its budget.

E = Σ c x with its signs, doubt s = √(c' C c) with what readings share; the chance inside ± T is
Φ((T − E)/s) − Φ((−T − E)/s). Of a profile E is its largest less its smallest place, and c the difference of
their rows: shares of it are those of the worst place as it is now, and add to one (error propagation, JCGM
100:2008, 5.2.2).
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct

from trebb.core.condition import Estimate, Quantity, ReadingsOnly
from trebb.core.condition.draws import Array, normal_draws
from trebb.core.condition.fixing import is_fixed, is_touched
from trebb.core.condition.normal import upper_normal

Coefficients = Mapping[str, float]
LEAST_SD = 1e-9
FLAT_MM = 1e-9
BEYOND_SHARE = 0.25  # of a figure's size: what is four times its doubt is told, whatever the tolerance
NOTICED_SHARE = (
    0.9  # of what is expected of it: what was read leaves less; whether that is enough the tolerance says
)
CUT = "the cut's force"
DOUBT = 0.4  # of what the cut's force makes (sd, practice)
READ_SHARE = 0.5  # of the tolerance: a doubt (sd) below it counts as read


class WorkRow(Struct, frozen=True):
    """How a figure of the work hangs on a machine's sources.

    Parameters
    ----------
    figure : of `FIGURES`.
    places : coefficients by source at each place; the figure is the largest less the smallest of them, or
        where there is one place that itself. mm each, of sources in their own units.
    given_mm : added at each place by what is no source of the machine, the cut's force, known to a share
        `DOUBT` of itself (sd).
    limits : the rated limits that bound it, by how many mm of it a mm of theirs may make.
    is_vector : its places are the directions of a vector, and the figure is its size.
    causes : source, or what it begins with before a point, → what it is called in a budget.
    reads : cause → the set-up that reads it.
    base_mm : added to it: of a source that is a size and no error.
    """

    figure: str
    places: tuple[Coefficients, ...]
    causes: Mapping[str, str]
    reads: Mapping[str, str]
    base_mm: float = 0.0
    is_vector: bool = False
    given_mm: tuple[float, ...] = ()
    limits: Mapping[str, float] = {}


class Share(Struct, frozen=True):
    """What a cause gives of a figure, signed, mm; None : not read, or not told from others. `set_up` reads
    it.
    """

    cause: str
    mm: float | None
    set_up: str


class Made(Struct, frozen=True):
    """A figure as the machine would make it; `value` is signed. `is_told` : readings tell it as a sum, to
    what the tolerance asks. `by_draws` : the chance that it is inside, where a normal will not do: of what is
    the most of several.
    """

    figure: str
    value: Quantity
    tolerance_mm: float
    budget: tuple[Share, ...]
    is_told: bool = True
    by_draws: float | None = None

    @property
    def unread(self) -> tuple[Share, ...]:
        """Of a figure that is not told the causes that nobody read to what it asks."""
        return () if self.is_told else tuple(s for s in self.budget if s.mm is None)

    @property
    def chance(self) -> float:
        """That it is inside its tolerance."""
        if self.by_draws is not None:
            return self.by_draws
        sd = max(self.value.sd, LEAST_SD)
        most, least = (
            (self.tolerance_mm - self.value.value) / sd,
            (-self.tolerance_mm - self.value.value) / sd,
        )
        return max(0.0, upper_normal(least) - upper_normal(most))

    @property
    def ratio(self) -> float:
        """Its size against its tolerance."""
        return abs(self.value.value) / self.tolerance_mm


def made_of(
    row: WorkRow,
    now: Estimate,
    tolerance_mm: float,
    alone: ReadingsOnly | None = None,
    wider: float = 1.0,
) -> Made:
    """A figure of the work by a condition. By `alone` its budget says what is not read; without one it is a
    prediction, and nothing is. Its doubt is so many times `wider` as a shop's own pieces ask for.
    """
    weights = _weights(row, now)
    c = _sum(row.places, weights)
    given = sum(w * mm for w, mm in zip(weights, row.given_mm, strict=False))
    value = now.combination(c, offset=row.base_mm + given, extra_sd=DOUBT * abs(given)).wider(wider)
    by_cause: dict[str, dict[str, float]] = {}
    for key, one in c.items():
        if one:
            by_cause.setdefault(row.causes.get(key.split(".")[0], ""), {})[key] = one
    budget = [
        Share(
            cause,
            _share(now, of, row.base_mm)
            if alone is None or _is_told(alone, of, tolerance_mm, row.base_mm)
            else None,
            row.reads.get(cause, ""),
        )
        for cause, of in by_cause.items()
    ]
    if given:
        budget.append(Share(CUT, given, ""))
    budget.sort(key=lambda s: (s.mm is not None, -abs(s.mm or 0.0)))
    is_told = alone is None or (
        _is_told(alone, c, tolerance_mm, row.base_mm)
        and (abs(value.value) > tolerance_mm or _most_doubt(row, alone) <= READ_SHARE * tolerance_mm)
    )
    by_draws = None
    if len(row.places) > 1:
        by_draws = float(np.mean(np.abs(drawn([row], now, wider)[0]) <= tolerance_mm))
    return Made(row.figure, value, tolerance_mm, tuple(budget), is_told, by_draws)


def _is_told(alone: ReadingsOnly, of: Coefficients, tolerance_mm: float, base_mm: float) -> bool:
    """Whether readings tell of a combination to what the tolerance asks, or to a share of itself."""
    if not is_touched(alone, of, NOTICED_SHARE):
        return False
    q = alone.combination(of, offset=base_mm)
    return is_fixed(q, max(READ_SHARE * tolerance_mm, BEYOND_SHARE * abs(q.value)))


def _most_doubt(row: WorkRow, alone: ReadingsOnly) -> float:
    """Of a profile that of the two places least known of each other (sd, mm): another pair may be the worst;
    nothing of other figures.
    """
    if len(row.places) == 1 or row.is_vector:
        return 0.0
    spread = _spread(row, alone)
    most, least = _least_known_pair(spread)
    return math.sqrt(max(0.0, spread[most, most] + spread[least, least] - 2 * spread[most, least]))


def _share(now: Estimate, of: Coefficients, base_mm: float) -> float:
    return base_mm + sum(c * float(now.mean[now.model.position(key)]) for key, c in of.items())


def drawn(rows: Sequence[WorkRow], now: Estimate, wider: float = 1.0) -> list[Array]:
    """Figures over conditions that an estimate allows, DRAWS of each, the same each time: what hangs together
    does so in every draw, and the most and least of a profile are where that draw has them. mm. Doubts are so
    many times `wider` as a shop's own pieces ask for.
    """
    mean, doubt = _places_drawn(rows, now)
    return sizes(rows, mean[:, None] + wider * doubt)


def drawn_by_hand(
    rows: Sequence[WorkRow], now: Estimate, by_hand_mm: Sequence[float], wider: float = 1.0
) -> list[Array]:
    """The same where what is known of some figures is offset by hand at each piece: their doubt is left, and
    what the hand leaves (sd, mm; 0 : that figure stays as it is).
    """
    mean, doubt = _places_drawn(rows, now)
    hand = np.repeat(by_hand_mm, [len(row.places) for row in rows])
    base = np.repeat([row.base_mm for row in rows], [len(row.places) for row in rows])
    left = np.where(hand > 0, -base, mean)
    return sizes(
        rows, left[:, None] + wider * doubt + hand[:, None] * normal_draws(2 * len(hand))[len(hand) :]
    )


def given_at(rows: Sequence[WorkRow]) -> Array:
    """What is added at the places of all rows by what is no source, mm."""
    return np.concatenate([row.given_mm or np.zeros(len(row.places)) for row in rows])


def _places_drawn(rows: Sequence[WorkRow], now: Estimate) -> tuple[Array, Array]:
    """Of the places of all rows what is expected, and what may be added to it, DRAWS of each, mm."""
    table = np.array([now.model.vector(place) for row in rows for place in row.places])
    values, vectors = np.linalg.eigh(table @ now.covariance @ table.T)
    doubt = (vectors * np.sqrt(np.maximum(values, 0.0))) @ normal_draws(len(table))
    given = given_at(rows)
    if given.any():
        doubt += DOUBT * np.outer(given, normal_draws(len(table) + 1)[-1])
    return table @ now.mean + given, doubt


def sizes(rows: Sequence[WorkRow], values: Array) -> list[Array]:
    """The figures of rows by the values of their places, (places of all rows, …): (…) each, mm."""
    found, at = [], 0
    for row in rows:
        of = values[at : at + len(row.places)]
        at += len(row.places)
        if row.is_vector:
            found.append(np.hypot.reduce(of, axis=0))
        elif len(of) > 1:
            found.append(of.max(axis=0) - of.min(axis=0))
        else:
            found.append(of[0] + row.base_mm)
    return found


def _weights(row: WorkRow, now: Estimate) -> list[float]:
    """How the figure is made of its places as the condition stands: of a profile the most less the least,
    where it is flat the two places that are least known of each other.
    """
    if len(row.places) == 1:
        return [1.0]
    at = profile(row, now)
    if row.is_vector:
        size = math.hypot(*at)
        return [mm / size for mm in at] if size > FLAT_MM else _least_known(_spread(row, now))
    most, least = int(np.argmax(at)), int(np.argmin(at))
    if at[most] - at[least] <= FLAT_MM:
        most, least = _least_known_pair(_spread(row, now))
    return [float(i == most) - float(i == least) for i in range(len(at))]


def _spread(row: WorkRow, now: Estimate) -> Array:
    """Covariance of the places with one another, mm²."""
    table = np.array([now.model.vector(place) for place in row.places])
    return np.asarray(table @ now.covariance @ table.T)


def _least_known(spread: Array) -> list[float]:
    """The direction of most doubt, of length one."""
    return [float(v) for v in np.linalg.eigh(spread)[1][:, -1]]


def _least_known_pair(spread: Array) -> tuple[int, int]:
    """The two places whose difference is in most doubt."""
    own = np.diag(spread)
    doubt = own[:, None] + own[None, :] - 2 * spread
    most, least = np.unravel_index(int(np.argmax(doubt)), doubt.shape)
    return int(most), int(least)


def _sum(places: Sequence[Coefficients], weights: Sequence[float]) -> dict[str, float]:
    found: dict[str, float] = {}
    for place, weight in zip(places, weights, strict=True):
        for key, c in place.items():
            found[key] = found.get(key, 0.0) + weight * c
    return found


def profile(row: WorkRow, now: Estimate) -> list[float]:
    """The figure's places as the condition stands, mm."""
    told = [sum(c * float(now.mean[now.model.position(k)]) for k, c in place.items()) for place in row.places]
    return [a + b for a, b in zip(told, row.given_mm, strict=True)] if row.given_mm else told
