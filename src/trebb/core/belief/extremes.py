"""The largest of several, and what may be nothing at all: a chance that all is sound, and else how much.

A largest reading of several is too high by what scatter makes of equal ones, and
a runout, a straightness, an out-of-round are never nothing where anything
scatters. So nothing has a chance of its own (a spike), the rest a prior as wide
as such faults are (a slab): Mitchell and Beauchamp 1988, "Bayesian variable
selection in linear regression".
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from trebb.core.belief.curve import Array, Curve, between, curve_of, nodes, panels, phi_upper
from trebb.core.condition.normal import hazard

TAIL = 9.0
_STEP = 1e-4  # of the range, for the slope of a chance


def odds_to_chance(log_odds: float) -> float:
    """Chance of what has these log odds."""
    return 1 / (1 + math.exp(-log_odds)) if log_odds > -700 else 0.0


def sound_chance(readings: Sequence[float], noise: float, slab: float, before: float) -> float:
    """Chance that several sizes, none less than nothing, are all nothing, by one reading of each.

    Each is else half-normal of scale `slab`; `before` is the chance of all together. Lengths in one unit.
    """
    if not 0 < before < 1:
        return before
    log = math.log(before / (1 - before))
    wide = math.hypot(slab, noise)
    for y in readings:
        mu, g = _slab(y, noise, slab)
        log += -((y / noise) ** 2) / 2 - math.log(noise)
        log -= math.log(2) - (y / wide) ** 2 / 2 - math.log(wide) + _log_phi(mu / g)
    return odds_to_chance(log)


def _slab(y: float, noise: float, slab: float) -> tuple[float, float]:
    """Mean and sd of a size by its reading, before it is cut at nothing."""
    share = slab**2 / (slab**2 + noise**2)
    return y * share, noise * math.sqrt(share)


def _log_phi(x: float) -> float:
    if x < -30:
        return -x * x / 2 - math.log(math.sqrt(2 * math.pi)) - math.log(hazard(x))
    return math.log(0.5 * math.erfc(-x / math.sqrt(2)))


def largest(readings: Sequence[float], noise: float, slab: float, before: float) -> Curve:
    """The largest of several sizes, none less than nothing, by one reading of each: see `sound_chance`."""
    mus = [_slab(y, noise, slab)[0] for y in readings]
    g = _slab(0.0, noise, slab)[1]
    top = max(*mus, 0.0) + TAIL * g
    edges = panels(0.0, top, [(max(m, 0.0), g) for m in mus])

    def log_density(z: Array) -> Array:
        """Σ of each one's hazard, × the product of all chances to be below."""
        logs, slopes = np.zeros(len(z)), np.zeros(len(z))
        for m in mus:
            whole = math.exp(_log_phi(m / g))
            below = (phi_upper((m - z) / g) - 0.5 * math.erfc(m / g / math.sqrt(2))) / whole
            if m < -6 * g:  # an exponential, of which a difference of tails keeps nothing
                rate = hazard(m / g) / g
                below = -np.expm1(-rate * z - (z / g) ** 2 / 2)
            below = np.maximum(below, 1e-300)
            density = np.exp(-(((z - m) / g) ** 2) / 2 - _log_phi(m / g)) / (g * math.sqrt(2 * math.pi))
            logs += np.log(below)
            slopes += density / below
        return np.asarray(logs + np.log(np.maximum(slopes, 1e-300)))

    return curve_of(log_density, edges, sound_chance(readings, noise, slab, before))


def too_high(count: int) -> float:
    """By how many of their sd the largest of so many equal readings is too high on average."""
    z, weight = nodes(panels(-TAIL, TAIL, [(0.0, 1.0)]))
    below = 1 - phi_upper(z)
    density = np.exp(-(z**2) / 2) / math.sqrt(2 * math.pi)
    return float(weight @ (z * count * density * below ** (count - 1)))


def amplitude_noise(noise: float, angles: int) -> float:
    """sd of either part of a wave's amplitude by so many evenly spread readings: s √(2/m)."""
    return noise * math.sqrt(2 / angles)


def _log_bessel0(x: Array) -> Array:
    """Log of the scaled I₀(x)·exp(−x), by its integral over half a turn (trapezoids converge at once)."""
    turn = (np.arange(2000) + 0.5) * math.pi / 2000
    result = [
        float(np.mean(np.exp(v * (np.cos(turn) - 1)))) if v < 1e4 else 1 / math.sqrt(2 * math.pi * v)
        for v in x
    ]
    return np.asarray(np.log(result))


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


def straightness_of_noise(steps: int) -> float:
    """What a perfectly straight way shows on average, in the sd of one step's reading: the range about its
    end points, 2/√(2π) Σ √((n − k)/(k n)) (Spitzer's identity, for a bridge). A straightness read below this
    is none.
    """
    n = steps
    return 2 / math.sqrt(2 * math.pi) * math.fsum(math.sqrt((n - k) / (k * n)) for k in range(1, n))


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
