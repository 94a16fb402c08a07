"""Repeats of one place, quickly: the same curve as `repeats`, on a coarser grid, for all the places of
a job. What it gives are moments, and which repeat slipped.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import cache, lru_cache

import numpy as np
from msgspec import Struct

from trebb.core.belief.curve import Array, between
from trebb.core.belief.repeats import RIGHT, SLIP, Slips, swapped, t_upper

FREEDOM = 4  # of the scatter's tail
SCALE_FREEDOM = 3  # of the scatter's own prior, half-t about what the set-up is known for
EVEN = 48  # places between the outermost readings that are looked at beside
OTHER = "other"
# How often a reading slipped so, and how wide a slip of no known kind may go, in spreads of the readings.
WEIGHTS: Mapping[str, float] = {"turn": 0.012, "swap": 0.004, "tenfold": 0.004, "unit": 0.003, OTHER: 0.012}
WIDER = 3.0


@cache  # made when first wanted: a window opens without NumPy
def _scales() -> Array:
    """Scatters to try, in the known one."""
    return np.asarray(np.exp(np.linspace(-1.2, 4.6, 15)))


@cache
def _around() -> Array:
    """Sizes to try about a reading, in its scatter and half its step."""
    return np.array([-9, -6, -4.5, -3.5, *np.linspace(-2.75, 2.75, 23), 3.5, 4.5, 6, 9.0])


class Slipped(Struct, frozen=True):
    """A repeat that slipped, or may have: which one, how likely, in which way and what it then was."""

    at: int
    chance: float
    kind: str
    meant: float

    @property
    def is_sure(self) -> bool:
        """Whether it is called one."""
        return self.chance > SLIP


class Place(Struct, frozen=True):
    """What the repeats of one place come to: mean and sd, and those that slipped or may have."""

    mean: float
    sd: float
    slips: tuple[Slipped, ...] = ()


@lru_cache(maxsize=4096)
def place(
    values: tuple[float, ...], scatter: float, step: float, turns: tuple[float, ...] = (), places: int = -1
) -> Place:
    """What repeats come to where they are written to a coarse step, or do not agree.

    Parameters
    ----------
    values : the repeats. All in one unit.
    scatter : what the set-up is known to repeat to, beside its rounding: the scale of a half-t prior.
    turns : what a whole turn miscounted would make, each way; none where there is no turn.
    places : figures written after the point, for two that are swapped; −1 where that cannot be.
    """
    if len(values) == 1:
        return Place(values[0], math.sqrt(scatter**2 + step**2 / 12))
    spread = max(values) - min(values)
    may_slip = spread > 6 * scatter + 2 * step
    ways = {x: _ways(x, turns, places) if may_slip else [] for x in dict.fromkeys(values)}
    centres = [y for x in ways for y in (x, *(w[1] for w in ways[x]))]
    low, high = (
        min(values) - WIDER * spread - 9 * scatter - step,
        max(values) + WIDER * spread + 9 * scatter + step,
    )
    width = scatter + step / 2
    m = np.unique(
        np.concatenate(
            [np.linspace(low, high, EVEN), *(c + width * _around() for c in centres if low < c < high)]
        )
    )
    weight = np.gradient(m)
    scales = _scales()
    s = scatter * scales
    tail = -(SCALE_FREEDOM + 1) / 2 * np.log1p(scales**2 / SCALE_FREEDOM)
    log = (tail + np.log(scales))[:, None]
    total = np.repeat(log, len(m), axis=1)
    each: dict[float, tuple[Array, dict[str, Array]]] = {}
    for x in values:
        if x not in each:
            each[x] = _likelihoods(x, ways[x], m, s, step, high - low if may_slip else 0.0)
        total = total + np.log(np.maximum(each[x][0], 1e-300))
    mass = np.exp(total - total.max()) * weight
    mass /= mass.sum()
    mean = float((mass @ m).sum())
    sd = math.sqrt(max(float((mass @ (m - mean) ** 2).sum()), 0.0))
    found = tuple(_slip(i, x, mass, each[x], ways[x], mean) for i, x in enumerate(values)) if may_slip else ()
    slips = tuple(one for one in found if one.chance > RIGHT)
    sure = {one.at for one in slips if one.is_sure}
    if not sure or len(sure) == len(values):
        return Place(mean, sd, slips)
    # A slip found is left out, not averaged: what little chance it has to be right all the same is said.
    rest = place(tuple(x for i, x in enumerate(values) if i not in sure), scatter, step, turns, places)
    return Place(rest.mean, rest.sd, tuple(one for one in slips if one.at in sure))


def _ways(x: float, turns: tuple[float, ...], places: int) -> list[tuple[str, float, float, float]]:
    """Kind, what was meant, chance, and how much wider the reading is written than that."""
    kinds = [("turn", t, WEIGHTS["turn"] / len(turns)) for t in turns]
    if x:
        kinds += [(kind, 0.0, WEIGHTS[kind]) for kind in ("tenfold", "unit")]
    if places >= 1 and swapped(x, places) != x:
        kinds.append(("swap", 0.0, WEIGHTS["swap"]))
    return [
        (kind, size, chance * share, wider)
        for kind, turn, chance in kinds
        for size, share, wider in Slips({}, turn=turn, places=places).meant(kind, x)
    ]


def _likelihoods(
    x: float, ways: Sequence[tuple[str, float, float, float]], m: Array, s: Array, step: float, width: float
) -> tuple[Array, dict[str, Array]]:
    """Of a reading, all ways together and slip by slip, (scales, sizes)."""
    right = _density(x, 1.0, m, s, step)
    if not width:
        return right, {}
    kinds: dict[str, Array] = {OTHER: np.full_like(right, WEIGHTS[OTHER] / width)}
    for kind, meant, chance, wider in ways:
        kinds[kind] = kinds.get(kind, 0.0) + chance * _density(meant, wider, m, s, step)
    slipped: Array = np.sum(list(kinds.values()), axis=0)
    return (1 - sum(WEIGHTS.values())) * right + slipped, kinds


def _density(x: float, wider: float, m: Array, s: Array, step: float) -> Array:
    """Density of a reading by each size and scatter: over its step where it is written to one."""
    z = (x - m) / s[:, None]
    if step * wider < 0.5 * s[0]:
        constant = math.gamma((FREEDOM + 1) / 2) / math.gamma(FREEDOM / 2) / math.sqrt(FREEDOM * math.pi)
        return np.asarray(wider * constant * (1 + z**2 / FREEDOM) ** (-(FREEDOM + 1) / 2) / s[:, None])
    half = step * wider / 2 / s[:, None]
    return np.asarray(between(z - half, z + half, t_upper(FREEDOM)) / step)


def _slip(
    at: int,
    x: float,
    mass: Array,
    likelihoods: tuple[Array, dict[str, Array]],
    ways: Sequence[tuple[str, float, float, float]],
    mean: float,
) -> Slipped:
    all_, kinds = likelihoods
    share = mass / np.maximum(all_, 1e-300)
    chances = {kind: float((share * one).sum()) for kind, one in kinds.items()}
    kind = max(chances, key=lambda k: chances[k])
    meant = [w[1] for w in ways if w[0] == kind]
    return Slipped(
        at, sum(chances.values()), kind, min(meant, key=lambda y: abs(y - mean)) if meant else mean
    )
