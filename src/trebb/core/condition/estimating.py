"""From readings to condition: weighted least squares with a prior and with clearances that cannot be
negative.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct, field

from trebb.core.condition.model import ErrorModel, Matrix, Row, Vector, variances_of
from trebb.core.condition.normal import truncated_moments, truncated_quantile
from trebb.core.errors import InputError

if TYPE_CHECKING:
    from numpy.typing import NDArray

# A clearance further than this many standard deviations from nothing feels no bound.
FREE_SIGMAS = 6.0
MAX_SWEEPS, FEW_SWEEPS = 60, 2
SETTLED = 1e-3  # of a standard deviation: far below what is shown
DAMPING = 0.8
Z95 = 1.959963984540054
TAIL_FREEDOM = 4.0
CLEAR_SDS = 3.0  # a reading within this of what all say is an ordinary one
MAX_REWEIGHTINGS = 30
LEAST_VARIANCE = 1e-18  # mm², a nanometre: rounding takes none below it
# What no reading touches is worked out once and put beside the rest, where it is this much at least.
APART_SHARE, UNREAD = 0.8, "unread"
REWEIGHTED = 0.02  # weights settled to this share


class Observation(Struct, frozen=True):
    """A reading, or the mean of several, with the row that explains it; value in the row's unit."""

    row: Row
    value: float


class Quantity(Struct, frozen=True):
    """A combination of sources with its uncertainty: value, standard deviation, 95 % interval."""

    value: float
    sd: float
    low: float
    high: float

    @property
    def half_width(self) -> float:
        """Half of the 95 % interval, what is written behind ±."""
        return (self.high - self.low) / 2

    def wider(self, times: float) -> Quantity:
        """The same with so many times the doubt."""
        low, high = (self.value + times * (end - self.value) for end in (self.low, self.high))
        return Quantity(self.value, times * self.sd, low, high)


def size_of(q: Quantity) -> Quantity:
    """Size of a quantity that may go either way; nothing is inside its interval where it is inside q's."""
    most = max(abs(q.low), abs(q.high))
    low = 0.0 if q.low < 0 < q.high else min(abs(q.low), abs(q.high))
    return Quantity(abs(q.value), q.sd, low, most)


class Estimate(Struct, frozen=True):
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
    trust: Vector = field(default_factory=lambda: np.ones(0))

    def source(self, key: str) -> Quantity:
        """One source with its interval."""
        i = self.model.position(key)
        value, sd = float(self.mean[i]), float(np.sqrt(self.covariance[i, i]))
        if i in self.cavity:
            m, s = self.cavity[i]
            # What is not bounded away from nothing begins at nothing.
            low = truncated_quantile(m, s, 0.0, 0.025) if m > Z95 * s else 0.0
            return Quantity(value, sd, low, truncated_quantile(m, s, 0.0, 0.975))
        return Quantity(value, sd, value - Z95 * sd, value + Z95 * sd)

    def combination(
        self, coefficients: Mapping[str, float], *, offset: float = 0.0, extra_sd: float = 0.0
    ) -> Quantity:
        """offset + Σ coefficient × source, with `extra_sd` of independent doubt added. In mm; coefficients
        without unit.

        A sum of clearances alone is not allowed below nothing, unless a repair itself takes one there (a nut
        closed too far).
        """
        if len(coefficients) == 1 and not extra_sd and not offset:
            ((key, factor),) = coefficients.items()
            one = self.source(key)
            low, high = sorted((factor * one.low, factor * one.high))
            return Quantity(factor * one.value, abs(factor) * one.sd, low, high)
        vector = self.model.vector(coefficients)
        value = float(vector @ self.mean) + offset
        sd = float(np.sqrt(vector @ self.covariance @ vector + extra_sd**2))
        low, high = value - Z95 * sd, value + Z95 * sd
        if (
            offset == 0
            and value >= 0
            and all(c >= 0 and self.model.source(k).is_clearance for k, c in coefficients.items())
        ):
            low, high = _never_below(value, sd)
        return Quantity(value, sd, low, high)


def _never_below(value: float, sd: float) -> tuple[float, float]:
    """The middle 95 % of a sum that cannot be less than nothing, by its mean and sd: as the gamma of the
    same, whose cube root is nearly normal (Wilson and Hilferty 1931, "The distribution of chi-square").
    """
    if sd <= 0 or value >= FREE_SIGMAS * sd:
        return max(0.0, value - Z95 * sd), value + Z95 * sd
    spread = sd / value / 3 if value > 0 else math.inf
    if not math.isfinite(spread) or spread > 1:
        return 0.0, value + Z95 * sd
    low, high = (value * max(0.0, 1 - spread**2 + z * spread) ** 3 for z in (-Z95, Z95))
    return (low if value > Z95 * sd else 0.0), high


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
    touched = np.bincount(model.group_of, (design != 0).any(axis=0)) > 0
    if not touched.any() or np.count_nonzero(touched[model.group_of]) > APART_SHARE * len(model.sources):
        return _estimated(model, design, scaled)
    at, read = model.part(tuple(np.flatnonzero(touched).tolist()))
    beside, unread = model.part(tuple(np.flatnonzero(~touched).tolist()))
    if UNREAD not in unread.kept:
        unread.kept[UNREAD] = _estimated(unread, np.zeros((0, len(beside))), np.zeros(0))
    return _together(model, (at, _estimated(read, design[:, at], scaled)), (beside, unread.kept[UNREAD]))


def _together(model: ErrorModel, *parts: tuple[NDArray[np.intp], Estimate]) -> Estimate:
    """Estimates of sources that nothing ties to each other, as one. The readings are all of the first."""
    mean, covariance = np.zeros(len(model.sources)), np.zeros((len(model.sources),) * 2)
    cavity: dict[int, tuple[float, float]] = {}
    for at, found in parts:
        mean[at] = found.mean
        covariance[np.ix_(at, at)] = found.covariance
        cavity.update({int(at[i]): bound for i, bound in found.cavity.items()})
    first = parts[0][1]
    return Estimate(model, mean, covariance, dict(sorted(cavity.items())), first.readings, first.trust)


def _estimated(model: ErrorModel, design: Matrix, scaled: Vector) -> Estimate:
    """The condition by rows (m, n) and values (m,), both in their noise."""
    stretch, trust = np.ones(len(model.groups)), np.ones(len(scaled))
    sites = _Sites.none(len(model.sources))
    is_whole = False  # while the weights still move, the bounds follow a few sweeps at a time
    for _ in range(MAX_REWEIGHTINGS):
        sweeps = MAX_SWEEPS if is_whole else FEW_SWEEPS
        mean, covariance, is_settled = _weighted(model, design, scaled, stretch, trust, sites, sweeps)
        wanted = _stretches(model, mean, covariance)
        weights = _trusts(design, scaled, mean, covariance, trust)
        moved = max(
            float(np.abs(wanted / stretch - 1).max(initial=0.0)),
            float(np.abs(weights / trust - 1).max(initial=0.0)),
        )
        if moved < REWEIGHTED:
            if is_settled or is_whole:
                break
            is_whole = True
            continue
        stretch, trust = wanted, weights
    return Estimate(model, mean, covariance, sites.cavities(mean, covariance), len(scaled), trust)


class _Sites(Struct):
    """What each clearance's bound adds to the posterior, as the normal nearest to it: precision and shift of
    each source, 0 where the bound is not felt.
    """

    precision: list[float]
    shift: list[float]

    @classmethod
    def none(cls, count: int) -> _Sites:
        return cls([0.0] * count, [0.0] * count)

    def cavity(self, i: int, mean: float, variance: float) -> tuple[float, float]:
        """Mean and sd of source i without its own bound."""
        left = max(1 / variance - self.precision[i], 1e-9 / variance)
        return (mean / variance - self.shift[i]) / left, 1 / math.sqrt(left)

    def cavities(self, mean: Vector, covariance: Matrix) -> dict[int, tuple[float, float]]:
        """The same of every source that feels its bound."""
        return {
            i: self.cavity(i, float(mean[i]), float(covariance[i, i]))
            for i, felt in enumerate(self.precision)
            if felt > 0
        }


def _weighted(
    model: ErrorModel,
    design: Matrix,
    scaled: Vector,
    stretch: Vector,
    trust: Vector,
    sites: _Sites,
    sweeps: int,
) -> tuple[Vector, Matrix, bool]:
    """The posterior with each group's prior and each reading weighted, and whether its bounds have settled in
    so many sweeps. The sites of the weights before are where the bounds are begun with, for weights change
    little from one time to the next.
    """
    prior = model.prior_precision
    if (stretch < 1).any():
        root = np.sqrt(stretch)[model.group_of]
        prior = prior * np.outer(root, root)
    weighted = design * trust[:, None]
    precision = prior + design.T @ weighted
    shift = prior @ model.prior_mean + weighted.T @ scaled
    return _with_bounds(np.asarray(precision, dtype=np.float64), shift, model, sites, sweeps)


def _stretches(model: ErrorModel, mean: Vector, covariance: Matrix) -> Vector:
    """Weight of each group's prior: (ν + d) / (ν + E|δ|²), with δ in the prior's own sds; at most 1.

    What the posterior's doubt adds to |δ|² is left out where it is the prior's own: of a source not read it
    would be d, and the weight 1.
    """
    away = mean - model.prior_mean
    # The prior ties nothing across groups: a group's share of a quadratic form is the sum over its members.
    each = away * (model.prior_precision @ away) + (model.prior_precision * covariance).sum(axis=1)
    squared = np.bincount(model.group_of, each, minlength=len(model.groups))
    size = np.bincount(model.group_of, minlength=len(model.groups))
    return np.minimum(1.0, (TAIL_FREEDOM + size) / (TAIL_FREEDOM + squared))


def _trusts(design: Matrix, scaled: Vector, mean: Vector, covariance: Matrix, trust: Vector) -> Vector:
    """Weight of each reading: 1 up to `CLEAR_SDS` of its noise, then (ν + c²) / (ν + r²), which begins with
    one: a reading a hair further off moves nothing by more than a hair.
    """
    if not len(design):
        return trust
    spread = variances_of(design, covariance)
    squared = (scaled - design @ mean) ** 2 + np.minimum(spread, 1.0)
    return np.minimum(1.0, (TAIL_FREEDOM + CLEAR_SDS**2) / (TAIL_FREEDOM + squared))


def _with_bounds(
    precision: Matrix, shift: Vector, model: ErrorModel, sites: _Sites, sweeps: int
) -> tuple[Vector, Matrix, bool]:
    n = len(model.sources)
    bounded = np.flatnonzero(model.bounded).tolist()

    def posterior() -> tuple[Vector, Matrix]:
        whole = precision.copy()
        whole.flat[:: n + 1] += sites.precision
        covariance = np.asarray(np.linalg.inv(whole), dtype=np.float64)
        return covariance @ (shift + sites.shift), covariance

    mean, covariance = posterior()
    is_settled = False
    for _ in range(sweeps):
        means = mean.tolist()  # plain numbers: they are taken one by one below
        variances = np.maximum(covariance.diagonal(), LEAST_VARIANCE).tolist()
        near = [
            i for i in bounded if sites.precision[i] > 0 or means[i] < FREE_SIGMAS * math.sqrt(variances[i])
        ]
        if not near:
            is_settled = True
            break
        moved = 0.0
        for i in near:
            m, s = sites.cavity(i, means[i], variances[i])
            cut_mean, cut_var = truncated_moments(m, s, 0.0)
            wanted_precision = max(0.0, 1 / cut_var - 1 / s**2)
            wanted_shift = cut_mean / cut_var - m / s**2
            sites.precision[i] += DAMPING * (wanted_precision - sites.precision[i])
            sites.shift[i] += DAMPING * (wanted_shift - sites.shift[i])
            moved = max(moved, abs(cut_mean - means[i]) / math.sqrt(variances[i]))
        mean, covariance = posterior()
        if moved < SETTLED:
            is_settled = True
            break
    return mean, (covariance + covariance.T) / 2, is_settled


class ReadingsOnly(Estimate, frozen=True):
    """The condition by readings and next to nothing else: the only kind that may judge, name, size, draw or
    prove. An `Estimate` with expectations predicts, and is refused here by the type checker.
    """


def by_readings(model: ErrorModel, observations: Sequence[Observation]) -> ReadingsOnly:
    """What readings alone say: the estimate of the loosened model."""
    found = estimate(model.loosened, observations)
    return ReadingsOnly(*(getattr(found, name) for name in Estimate.__struct_fields__))
