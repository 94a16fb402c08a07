"""From readings to condition: weighted least squares with a prior and with clearances that cannot be
negative.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from trebb.core.condition.model import ErrorModel, Matrix, Row, Vector
from trebb.core.condition.normal import truncated_moments, truncated_quantile
from trebb.core.errors import InputError

# A clearance further than this many standard deviations from nothing feels no bound.
FREE_SIGMAS = 6.0
MAX_SWEEPS = 60
SETTLED = 1e-3  # of a standard deviation: far below what is shown
DAMPING = 0.8
Z95 = 1.959963984540054
TAIL_FREEDOM = 4.0
CLEAR_SDS = 3.0  # a reading within this of what all say is an ordinary one
MAX_REWEIGHTINGS = 30
REWEIGHTED = 0.02  # weights settled to this share


@dataclass(frozen=True)
class Observation:
    """A reading, or the mean of several, with the row that explains it; value in the row's unit."""

    row: Row
    value: float


@dataclass(frozen=True)
class Quantity:
    """A combination of sources with its uncertainty: value, standard deviation, 95 % interval."""

    value: float
    sd: float
    low: float
    high: float

    @property
    def half_width(self) -> float:
        """Half of the 95 % interval, what is written behind ±."""
        return (self.high - self.low) / 2


def size_of(q: Quantity) -> Quantity:
    """Size of a quantity that may go either way; nothing is inside its interval where it is inside q's."""
    most = max(abs(q.low), abs(q.high))
    low = 0.0 if q.low < 0 < q.high else min(abs(q.low), abs(q.high))
    return Quantity(abs(q.value), q.sd, low, most)


@dataclass(frozen=True)
class Estimate:
    """The condition after the readings.

    `mean` (n,) and `covariance` (n, n) describe it jointly; `cavity` holds, for
    each clearance that feels its bound, the mean and sd of the normal that is
    cut off there, from which its own interval is taken; `trust` the weight that
    each observation was given, 1 for an ordinary one.
    """

    model: ErrorModel
    mean: Vector
    covariance: Matrix
    cavity: Mapping[int, tuple[float, float]]
    readings: int
    trust: Vector = field(default_factory=lambda: np.ones(0), compare=False)

    def source(self, key: str) -> Quantity:
        """One source with its interval."""
        i = self.model.position(key)
        value, sd = float(self.mean[i]), float(np.sqrt(self.covariance[i, i]))
        if i in self.cavity:
            m, s = self.cavity[i]
            return Quantity(
                value, sd, truncated_quantile(m, s, 0.0, 0.025), truncated_quantile(m, s, 0.0, 0.975)
            )
        return Quantity(value, sd, value - Z95 * sd, value + Z95 * sd)

    def combination(
        self, coefficients: Mapping[str, float], *, offset: float = 0.0, extra_sd: float = 0.0
    ) -> Quantity:
        """offset + Σ coefficient × source, with `extra_sd` of independent doubt added.

        A sum of clearances alone is not allowed below nothing, unless a repair itself takes one there (a nut
        closed too far).
        """
        if len(coefficients) == 1 and not extra_sd and not offset:
            ((key, factor),) = coefficients.items()
            if factor == 1.0:
                return self.source(key)
        vector = self.model.vector(coefficients)
        value = float(vector @ self.mean) + offset
        sd = float(np.sqrt(vector @ self.covariance @ vector + extra_sd**2))
        low, high = value - Z95 * sd, value + Z95 * sd
        if (
            offset == 0
            and value >= 0
            and all(c >= 0 and self.model.source(k).is_clearance for k, c in coefficients.items())
        ):
            low = max(0.0, low)
        return Quantity(value, sd, low, high)


def estimate(model: ErrorModel, observations: Sequence[Observation]) -> Estimate:
    """The condition that the readings and the prior together imply.

    Returns
    -------
    Estimate, with a covariance that includes the prior: a source that no
    reading touches keeps its prior.

    Raises
    ------
    InputError : a noise that is not positive, or a value that is not a number.

    Notes
    -----
    The linear-Gaussian posterior by normal equations (n × n, n sources), then
    expectation propagation for the clearances near their bound (Minka 2001,
    "Expectation propagation for approximate Bayesian inference"; all sites
    updated in parallel with damping). Bounded least squares would give the same
    centre far from the bound but no honest interval at it.

    Prior and noise are heavy-tailed: Student's t of `TAIL_FREEDOM` degrees by
    variational reweighting (Lange, Little and Taylor 1989, "Robust statistical
    modeling using the t distribution"). A source far from what is usual
    stretches its own prior, so that no expectation outvotes an indicator; a
    reading far from what all others say is weighted down. Weights never exceed
    one: what agrees with expectation is not thereby known better.
    """
    rows = [observation.row for observation in observations]
    noise = np.array([row.noise_sd for row in rows], dtype=float)
    values = np.array([o.value - o.row.offset for o in observations], dtype=float)
    if noise.size and not (noise > 0).all():
        raise InputError("a reading without noise", "every reading needs an uncertainty greater than nothing")
    if not np.isfinite(values).all():
        raise InputError("a reading that is not a number", "strike it out and take it again")
    design = model.matrix(rows) / noise[:, None] if rows else np.zeros((0, len(model.sources)))
    scaled = values / noise if rows else values
    stretch, trust = np.ones(len(model.groups)), np.ones(len(rows))
    for _ in range(MAX_REWEIGHTINGS):
        mean, covariance, cavity = _weighted(model, design, scaled, stretch, trust)
        wanted = _stretches(model, mean, covariance)
        weights = _trusts(design, scaled, mean, covariance, trust)
        moved = max(
            float(np.abs(wanted / stretch - 1).max(initial=0.0)),
            float(np.abs(weights / trust - 1).max(initial=0.0)),
        )
        if moved < REWEIGHTED:
            break
        stretch, trust = wanted, weights
    return Estimate(model, mean, covariance, cavity, len(rows), trust)


def _weighted(
    model: ErrorModel, design: Matrix, scaled: Vector, stretch: Vector, trust: Vector
) -> tuple[Vector, Matrix, dict[int, tuple[float, float]]]:
    """The posterior with each group's prior and each reading weighted."""
    prior = model.prior_precision
    if (stretch < 1).any():
        root = np.ones(len(model.sources))
        for members, weight in zip(model.groups, stretch, strict=True):
            root[list(members)] = weight**0.5
        prior = prior * np.outer(root, root)
    weighted = design * trust[:, None]
    precision = prior + design.T @ weighted
    shift = prior @ model.prior_mean + weighted.T @ scaled
    return _with_bounds(np.asarray(precision, dtype=np.float64), shift, model)


def _stretches(model: ErrorModel, mean: Vector, covariance: Matrix) -> Vector:
    """Weight of each group's prior: (ν + d) / (ν + E|δ|²), with δ in the prior's own sds; at most 1.

    What the posterior's doubt adds to |δ|² is left out where it is the prior's own: of a source not read it
    would be d, and the weight 1.
    """
    away = mean - model.prior_mean
    found = np.ones(len(model.groups))
    for g, members in enumerate(model.groups):
        at = list(members)
        block = model.prior_precision[np.ix_(at, at)]
        # The precision of the group by itself: the prior ties nothing across groups.
        squared = float(away[at] @ block @ away[at] + np.trace(block @ covariance[np.ix_(at, at)]))
        found[g] = min(1.0, (TAIL_FREEDOM + len(at)) / (TAIL_FREEDOM + squared))
    return found


def _trusts(design: Matrix, scaled: Vector, mean: Vector, covariance: Matrix, trust: Vector) -> Vector:
    """Weight of each reading: 1 up to `CLEAR_SDS` of its noise, then (ν + 1) / (ν + r²)."""
    if not len(design):
        return trust
    spread = np.einsum("ij,jk,ik->i", design, covariance, design)
    squared = (scaled - design @ mean) ** 2 + np.minimum(spread, 1.0)
    return np.where(squared > CLEAR_SDS**2, (TAIL_FREEDOM + 1) / (TAIL_FREEDOM + squared), 1.0)


def _with_bounds(
    precision: Matrix, shift: Vector, model: ErrorModel
) -> tuple[Vector, Matrix, dict[int, tuple[float, float]]]:
    n = len(model.sources)
    site_precision, site_shift = np.zeros(n), np.zeros(n)
    covariance: Matrix = np.asarray(np.linalg.inv(precision), dtype=np.float64)
    mean = covariance @ shift
    for _ in range(MAX_SWEEPS):
        sd = np.sqrt(np.diag(covariance))
        near = [
            i
            for i in range(n)
            if model.bounded[i] and (site_precision[i] > 0 or mean[i] < FREE_SIGMAS * sd[i])
        ]
        if not near:
            break
        moved = 0.0
        for i in near:
            m, s = _cavity(i, mean, covariance, site_precision, site_shift)
            cut_mean, cut_var = truncated_moments(m, s, 0.0)
            wanted_precision = max(0.0, 1 / cut_var - 1 / s**2)
            wanted_shift = cut_mean / cut_var - m / s**2
            site_precision[i] += DAMPING * (wanted_precision - site_precision[i])
            site_shift[i] += DAMPING * (wanted_shift - site_shift[i])
            moved = max(moved, abs(cut_mean - mean[i]) / sd[i])
        covariance = np.asarray(np.linalg.inv(precision + np.diag(site_precision)), dtype=np.float64)
        mean = covariance @ (shift + site_shift)
        if moved < SETTLED:
            break
    cavity = {
        i: _cavity(i, mean, covariance, site_precision, site_shift) for i in range(n) if site_precision[i] > 0
    }
    return mean, (covariance + covariance.T) / 2, cavity


def _cavity(
    i: int, mean: Vector, covariance: Matrix, site_precision: Vector, site_shift: Vector
) -> tuple[float, float]:
    """Mean and sd of source i without its own bound."""
    variance = covariance[i, i]
    left = max(1 / variance - site_precision[i], 1e-9 / variance)
    return float((mean[i] / variance - site_shift[i]) / left), float(1 / np.sqrt(left))
