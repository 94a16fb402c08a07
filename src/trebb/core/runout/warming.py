"""A warm run: where the temperature will settle, from its first minutes."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError

# Time constants of small spindles, minutes: a head of 20 kg to one of 300 kg. Log-normal prior.
TAU_MIDDLE, TAU_SPREAD = 18.0, 0.6
READING_SD_C = 0.4


class WarmRun(Struct, frozen=True):
    """Rise over the start that it will settle at, its sd, and the time constant in minutes."""

    rise_c: float
    sd_c: float
    tau_min: float
    start_c: float


def settle(minutes: Sequence[float], degrees_c: Sequence[float], *, sd_c: float = READING_SD_C) -> WarmRun:
    """The settling value of T(t) = T₀ + R·(1 − e^{−t/τ}).

    For each τ of a grid the fit of T₀ and R is linear; the grid's answers are
    weighed by how well they fit and by what such heads take. Early on the
    slope R/τ is known and R is not: the sd says so.

    Raises InputError for fewer than three times.
    """
    t, y = np.asarray(minutes, dtype=float), np.asarray(degrees_c, dtype=float)
    if len(set(minutes)) < 3:
        raise InputError(
            f"{len(set(minutes))} times", "three at least, the first at the start, tell where it goes"
        )
    taus = TAU_MIDDLE * np.exp(TAU_SPREAD * np.linspace(-2.5, 2.5, 41))
    log_weight, rises, variances, starts = [], [], [], []
    for tau in taus:
        shape = 1 - np.exp(-t / tau)
        design = np.column_stack([np.ones_like(t), shape])
        # A wide prior on the rise (0 ± 60 °C) keeps the earliest fits finite.
        precision = design.T @ design / sd_c**2 + np.diag([1e-6, 1 / 60.0**2])
        covariance = np.linalg.inv(precision)
        found = covariance @ (design.T @ y) / sd_c**2
        left = y - design @ found
        log_weight.append(
            -0.5 * float(left @ left) / sd_c**2
            - 0.5 * (found[1] / 60) ** 2
            + 0.5 * math.log(float(np.linalg.det(covariance)))
            - 0.5 * (math.log(tau / TAU_MIDDLE) / TAU_SPREAD) ** 2
        )
        rises.append(float(found[1]))
        variances.append(float(covariance[1, 1]))
        starts.append(float(found[0]))
    weight = np.exp(np.array(log_weight) - max(log_weight))
    weight /= weight.sum()
    rise = float(weight @ np.array(rises))
    spread = float(weight @ (np.array(variances) + (np.array(rises) - rise) ** 2))
    tau = float(np.exp(weight @ np.log(taus)))
    return WarmRun(rise, math.sqrt(spread), tau, float(weight @ np.array(starts)))
