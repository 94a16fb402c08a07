"""Exact answers that the product's approximations are held against, and that nothing in it needs itself."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import combinations_with_replacement
from math import factorial

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from trebb.core.belief.bounds import CONTRADICTION
from trebb.core.belief.curve import Array, Curve, between, curve_of, nodes, panels, phi_upper
from trebb.core.belief.deciding import Matter
from trebb.core.belief.extremes import TAIL, odds_to_chance
from trebb.core.belief.repeats import TAILS
from trebb.core.solving import root_between

_ROOT = math.sqrt(2 * math.pi)

SCAN, SCANS = (1 / 50, 4.0), 60  # of a source's doubt, where the one is sought from which reading it pays


def _log_bessel0(x: Array) -> Array:
    """Log of the scaled I₀(x)·exp(−x), by its integral over half a turn (trapezoids converge at once)."""
    turn = (np.arange(2000) + 0.5) * math.pi / 2000
    result = [
        float(np.mean(np.exp(v * (np.cos(turn) - 1)))) if v < 1e4 else 1 / math.sqrt(2 * math.pi * v)
        for v in x
    ]
    return np.asarray(np.log(result))


def amplitude_noise(noise: float, angles: int) -> float:
    """sd of either part of a wave's amplitude by so many evenly spread readings: s √(2/m)."""
    return noise * math.sqrt(2 / angles)


def out_of_round(amplitude: float, noise: float, angles: int, slab: float, before: float) -> Curve:
    """Out-of-round 2a of a bore or a round by the amplitude that a wave fitted to so many angles shows.

    The amplitude is Rice's about the true a: never nothing where anything scatters. `before` is the chance
    that it is round; else a is half-normal of scale `slab`. Lengths in one unit.
    """
    g = amplitude_noise(noise, angles)

    def log_slab(double: Array) -> Array:
        a = double / 2
        rice = -((amplitude - a) ** 2) / (2 * g**2) + _log_bessel0(amplitude * a / g**2)
        return np.asarray(rice - (a / slab) ** 2 / 2)

    top = 2 * (amplitude + TAIL * g)
    edges = panels(0.0, top, [(2 * amplitude, 2 * g), (0.0, 2 * g)])
    points, weight = nodes(edges)
    # Of a, with the half-normal's own height; the round one is the Rice density at a = 0.
    slab_mass = float(weight @ np.exp(log_slab(points))) / 2 * math.sqrt(2 / math.pi) / slab
    round_mass = math.exp(-(amplitude**2) / (2 * g**2))
    whole = before * round_mass + (1 - before) * slab_mass
    return curve_of(log_slab, edges, before * round_mass / whole)


def amplitude_on_average(true: float, noise: float, angles: int) -> float:
    """What a fitted amplitude shows on average of a true one: Rice's mean, g √(π/2) where it is round."""
    g = amplitude_noise(noise, angles)
    u = true**2 / (4 * g**2)
    turn = (np.arange(2000) + 0.5) * math.pi / 2000
    shape = np.exp(u * (np.cos(turn) - 1))
    return (
        g
        * math.sqrt(math.pi / 2)
        * float(np.mean(shape) * (1 + 2 * u) + 2 * u * np.mean(shape * np.cos(turn)))
    )


def straightness_of_three(readings: Sequence[float], noise: float, slab: float, before: float) -> Curve:
    """Straightness about the end points of a way stepped in three, by each step's reading (its rise).

    `before`: chance that it is straight; else each step's rise is normal, of sd `slab`. Lengths in one unit.
    """
    mean = sum(readings) / 3
    rises = [r - mean for r in readings]
    share = slab**2 / (slab**2 + noise**2)
    g = noise * math.sqrt(share)
    squares = sum(r * r for r in rises)
    wide = noise**2 + slab**2
    # Two of three rises are free once their mean is taken out.
    log_odds = (
        math.log(before / (1 - before))
        - squares / (2 * noise**2)
        + squares / (2 * wide)
        + math.log(wide / noise**2)
        if 0 < before < 1
        else math.inf * (before - 0.5)
    )
    h1, h2 = share * rises[0], share * (rises[0] + rises[1])
    sd = g * math.sqrt(2 / 3)  # of either height; they move together by a half
    left = sd * math.sqrt(0.75)

    def normal(x: Array, mean: Array | float, spread: float) -> Array:
        return np.asarray(np.exp(-(((x - mean) / spread) ** 2) / 2) / (spread * math.sqrt(2 * math.pi)))

    def density(z: float) -> float:
        """Slope of the chance that the range is not more than z."""
        x, weight = nodes(panels(-z, z, [(h1, sd), (0.0, sd)], even=2))
        second = h2 + 0.5 * (x - h1)
        rate = normal(np.minimum(x, 0) + z, second, left) + normal(np.maximum(x, 0) - z, second, left)
        return float(weight @ (normal(x, h1, sd) * rate)) + _at_edges(z)

    def _at_edges(z: float) -> float:
        """What comes in where the first height itself is the range."""
        at = np.array([z, -z])
        s = h2 + 0.5 * (at - h1)
        inside = between((np.maximum(at, 0) - z - s) / left, (np.minimum(at, 0) + z - s) / left)
        return float(inside @ normal(at, h1, sd))

    top = max(abs(h1), abs(h2), abs(h1 - h2)) + TAIL * sd
    edges = panels(0.0, top, [(abs(h1), sd), (abs(h2), sd), (abs(h1 - h2), sd)])

    def log(z: Array) -> Array:
        return np.asarray(np.log(np.maximum([density(float(v)) for v in z], 1e-300)))

    return curve_of(log, edges, odds_to_chance(log_odds))


def mean_posterior_variance(scatter: float, step: float, count: int) -> float:
    """What readings written to a step leave of doubt on average over all places between two marks: the
    variance of the posterior, by all ways the readings can come out. In the unit squared; for few readings.
    """
    reach = math.ceil(TAILS * scatter / step) + 1
    edges = panels(0.0, step, [(0.0, scatter), (step / 2, scatter), (step, scatter)])
    at, weight = nodes(edges)
    marks = step * np.arange(-reach, reach + 2)
    chance = between((marks[:, None] - step / 2 - at) / scatter, (marks[:, None] + step / 2 - at) / scatter)
    # All ways to fall on marks that have a chance; those that are one way up to a whole step are one.
    return _posterior_spread(chance, np.asarray(marks), at, weight / step, count)


def _posterior_spread(chance: Array, marks: Array, at: Array, weight: Array, count: int) -> float:
    step = float(marks[1] - marks[0])
    usable = [i for i in range(len(marks)) if chance[i].max() > 1e-14]
    by_first: dict[tuple[int, ...], list[tuple[Array, Array]]] = {}
    for ways in combinations_with_replacement(usable, count):
        product = np.prod([chance[i] for i in ways], axis=0)
        same = factorial(count)
        for i in set(ways):
            same //= factorial(ways.count(i))
        if float(product.max()) < 1e-13:
            continue
        pattern = tuple(i - ways[0] for i in ways)
        by_first.setdefault(pattern, []).append((same * product * weight, at - step * ways[0]))
    total = 0.0
    for parts in by_first.values():
        mass = np.concatenate([p for p, _ in parts])
        where = np.concatenate([x for _, x in parts])
        whole = float(mass.sum())
        mean = float(mass @ where) / whole
        total += float(mass @ (where - mean) ** 2)
    return total


def read_first(matter: Matter) -> str:
    """The source whose reading first makes all of it cost least; "" where acting now does."""
    best = max(matter.readings, key=matter.gain, default="")
    return best if best and matter.gain(best) > 0 else ""


def least_cost(matter: Matter) -> float:
    """Of acting now, or after one reading."""
    first = read_first(matter)
    return matter.cost(matter.best) - (matter.gain(first) if first else 0.0)


def pays_from(matter: Matter, source: str) -> float | None:
    """The least doubt (sd) of a source from which reading it first pays; None where none does."""
    known, reading = matter.sources[source], matter.readings[source]
    if known.values:
        return None

    def gain(sd: float) -> float:
        other = replace(matter, sources={**matter.sources, source: replace(known, sd=sd)})
        return other.value(source, reading.sd) - reading.minutes / 60 * matter.hour

    before = SCAN[0] * known.sd
    if gain(before) > 0:
        return before
    for sd in np.geomspace(SCAN[0] * known.sd, SCAN[1] * known.sd, SCANS)[1:]:
        if gain(float(sd)) > 0:
            return root_between(gain, before, float(sd))
        before = float(sd)
    return None


class Said(Struct, frozen=True):
    """A figure said to lie between two: "1 to 2 tenths"; "under 2 thou" has no low end, "over" no high one.
    `sd` is the eye's.
    """

    low: float | None
    high: float | None
    sd: float


def said_between(
    said: Sequence[Said],
    prior: tuple[float, float],
    readings: Sequence[tuple[float, float]] = (),
    *,
    is_positive: bool = False,
) -> Curve:
    """A size of which it is said between which two it lies, by its prior (mean, sd) and readings (value, sd).

    "Under b" is no reading of b, nor of its half. In one unit.
    """

    def log(x: Array) -> Array:
        total = -(((x - prior[0]) / prior[1]) ** 2) / 2
        for value, sd in readings:
            total = total - ((x - value) / sd) ** 2 / 2
        for one in said:
            low = (one.low - x) / one.sd if one.low is not None else np.full(len(x), -np.inf)
            high = (one.high - x) / one.sd if one.high is not None else np.full(len(x), np.inf)
            total = total + np.log(np.maximum(between(low, high), 1e-300))
        return np.asarray(total)

    low, high = prior[0] - TAIL * prior[1], prior[0] + TAIL * prior[1]
    turns = [(e, one.sd) for one in said for e in (one.low, one.high) if e is not None]
    turns += [(value, sd) for value, sd in readings]
    return curve_of(log, panels(max(low, 0.0) if is_positive else low, high, [prior, *turns]))


class Bounded(Struct, frozen=True):
    """Two figures with what is left between them once bounds are laid on: x and y; y − x where they are
    ordered; the chance that the bounds held before.
    """

    x: Curve
    y: Curve
    rest: Curve | None
    chance: float

    @property
    def is_contradiction(self) -> bool:
        """Whether the readings deny the bounds."""
        return self.chance < CONTRADICTION


def at_least_nothing(mean: float, sd: float) -> Curve:
    """A figure that cannot be less than nothing. In its own unit."""
    top = max(mean, 0.0) + TAIL * sd
    return curve_of(
        lambda x: -(((x - mean) / sd) ** 2) / 2, panels(0.0, top, [(mean, sd), (0.0, _decay(mean, sd))])
    )


def _decay(mean: float, sd: float) -> float:
    """Over how much a normal cut off far from its mean falls by a factor."""
    return min(sd, sd * sd / max(-mean, 1e-12 * sd))


def part_of(
    x: tuple[float, float], y: tuple[float, float], correlation: float = 0.0, *, is_positive: bool = False
) -> Bounded:
    """A part x that is not more than the whole y, each a mean and sd, with what they share as a correlation;
    `is_positive`: and not less than nothing.
    """
    (mx, sx), (my, sy) = x, y
    r = correlation
    slope_x, left_x = r * sy / sx, sy * math.sqrt(1 - r * r)  # y by x
    slope_y, left_y = r * sx / sy, sx * math.sqrt(1 - r * r)  # x by y

    def log_x(at: Array) -> Array:
        above = phi_upper((at - (my + slope_x * (at - mx))) / left_x)
        return np.asarray(-(((at - mx) / sx) ** 2) / 2 + np.log(np.maximum(above, 1e-300)))

    def log_y(at: Array) -> Array:
        middle = mx + slope_y * (at - my)
        below = phi_upper((middle - at) / left_y)
        if is_positive:
            below = between((0 - middle) / left_y, (at - middle) / left_y) * (at > 0)
        return np.asarray(-(((at - my) / sy) ** 2) / 2 + np.log(np.maximum(below, 1e-300)))

    low_x, high_x = min(mx, my) - TAIL * (sx + sy), max(mx, my) + TAIL * (sx + sy)
    turns = [(mx, sx), (my, sy), (mx, left_y), (my, left_x)]
    low = 0.0 if is_positive else low_x
    found_x = curve_of(log_x, panels(low, high_x, [*turns, (low, sx)]))
    found_y = curve_of(log_y, panels(low, high_x, [*turns, (low, sy)]))
    x_at, weight = nodes(panels(low, high_x, turns))
    chance = float(weight @ np.exp(log_x(x_at))) / (sx * _ROOT)
    rest = None
    if not is_positive:
        spread = math.sqrt(sx * sx + sy * sy - 2 * r * sx * sy)
        rest = at_least_nothing(my - mx, spread)
    return Bounded(found_x, found_y, rest, chance)
