"""Usual figures blended with a shop's own.

Each job j saw y_j ± s_j of a figure that differs from shop to shop (usual ± shops) and from job to job
(± jobs). The posterior of the shop's figure is the precision-weighted mean of a normal hierarchy (Gelman et
al., Bayesian Data Analysis, ch. 5), the jobs' own spread estimated from them and never below half of the
usual one; a job that stands apart is weighed down as by Student's t of four degrees, so that one strange job
moves little.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

from msgspec import Struct

STUDENT = 4.0
ORDINARY = 0.75  # mean of weight × square for normal residuals and that many degrees
# Weighing jobs down costs some of what they tell: sd of the mean so weighed over 1/√Σw, for normal ones
# (E ψ² E w)^½ / E ψ′ with ψ = w z (Huber, Robust Statistics, ch. 3).
ROBUST = 1.07
ROUNDS = 30
CLEAR = 3  # jobs from which a figure is called the shop's own
SPREAD_JOBS = 3.0  # jobs that the usual spread counts for
Z95 = 1.96


class Usual(Struct, frozen=True):
    """A figure as usual: `mean`, its sd between shops, and from job to job in one shop. In its unit, or the
    natural logarithm of a ratio where `is_ratio`.
    """

    mean: float
    shops: float
    jobs: float
    is_ratio: bool = False


class Seen(Struct, frozen=True):
    """What one job saw, with its own sd."""

    job: str
    value: float
    sd: float


class Learned(Struct, frozen=True):
    """A figure as it is now believed: the shop's `mean` with its sd, how jobs spread about it, and how many
    jobs taught it; `weights` how much each counted, 1 for an ordinary one.
    """

    mean: float
    sd: float
    spread: float
    jobs: int
    usual: Usual
    weights: tuple[float, ...] = ()

    @property
    def is_own(self) -> bool:
        """Whether enough jobs taught it to call it the shop's own."""
        return self.jobs >= CLEAR

    @property
    def next_sd(self) -> float:
        """Standard deviation of the same figure in the next job."""
        return math.hypot(self.sd, self.spread)

    @property
    def value(self) -> float:
        """The figure itself: of a ratio, not its logarithm."""
        return math.exp(self.mean) if self.usual.is_ratio else self.mean

    @property
    def low(self) -> float:
        """Lower end of the 95 % interval of the shop's figure."""
        return self._end(-Z95)

    @property
    def high(self) -> float:
        """Upper end. In the unit of what was learned."""
        return self._end(Z95)

    def _end(self, times: float) -> float:
        at = self.mean + times * self.sd
        return math.exp(at) if self.usual.is_ratio else at

    @property
    def source(self) -> str:
        """Where it comes from, in words."""
        if not self.jobs:
            return "usual"
        jobs = f"{self.jobs} job{'s' if self.jobs != 1 else ''}"
        return f"yours, from {jobs}" if self.is_own else f"usual, moved by {jobs}"


def learned(usual: Usual, seen: Sequence[Seen]) -> Learned:
    """The shop's figure from the usual one and what its jobs saw; the usual one where they saw nothing."""
    if not seen:
        return Learned(usual.mean, usual.shops, usual.jobs, 0, usual)
    spread = usual.jobs
    weights = [1.0] * len(seen)
    mean, variance = usual.mean, usual.shops**2
    for _ in range(ROUNDS):
        precision = [w / (s.sd**2 + spread**2) for w, s in zip(weights, seen, strict=True)]
        whole = 1 / usual.shops**2 + sum(precision)
        mean = (
            usual.mean / usual.shops**2 + sum(p * s.value for p, s in zip(precision, seen, strict=True))
        ) / whole
        variance = 1 / whole
        away = [(s.value - mean) ** 2 / (s.sd**2 + spread**2) for s in seen]
        weights = [(STUDENT + 1) / (STUDENT + a) for a in away]
        excess = sum(w * ((s.value - mean) ** 2 - s.sd**2) for w, s in zip(weights, seen, strict=True))
        # Weighed down, the residuals of ordinary jobs come to less than their variance.
        found = max(excess, 0.0) / ORDINARY + SPREAD_JOBS * usual.jobs**2
        spread = max(math.sqrt(found / (SPREAD_JOBS + max(len(seen) - 1, 0))), usual.jobs / 2)
    return Learned(
        mean,
        min(ROBUST * math.sqrt(variance), usual.shops),
        spread,
        len({s.job for s in seen}),
        usual,
        tuple(min(w, 1.0) for w in weights),
    )


def gain(usual: Usual, seen: Sequence[Seen]) -> float:
    """By how much what was learned foretells better than the usual figure: the sum over jobs, each left out
    and foretold from the others, of the logarithm of how likely what it saw was, less the same by the usual
    figure (cross-validated log score; Gelman et al., ch. 7). Nothing for one job: there is no other.
    """
    jobs = {s.job for s in seen}
    if len(jobs) < 2:
        return 0.0
    found = 0.0
    for job in jobs:
        others = learned(usual, [s for s in seen if s.job != job])
        for s in (s for s in seen if s.job == job):
            own, plain = others.next_sd**2 + s.sd**2, usual.shops**2 + usual.jobs**2 + s.sd**2
            found += (s.value - usual.mean) ** 2 / (2 * plain) + math.log(plain) / 2
            found -= (s.value - others.mean) ** 2 / (2 * own) + math.log(own) / 2
    return found


def pooled_ratio(variance: float, degrees: float, usual_sd: float) -> tuple[float, float]:
    """A repeatability against the usual one, as the logarithm of the ratio of standard deviations, and its
    sd: a variance of so many degrees of freedom is known in its logarithm to √(2/degrees), its root to half.
    """
    return 0.5 * math.log(max(variance, 1e-16) / usual_sd**2), 0.5 * math.sqrt(2 / max(degrees, 0.5))


def widening(z: Sequence[float], *, counts_for: float = 8.0) -> float:
    """By how much intervals must be wider, ≥ 1, from how many of their own standard deviations each figure
    came out away: root of the mean square, blended with 1 by so many figures; each counted to 4 at the
    most. Without unit.
    """
    square = sum(min(abs(one), 4.0) ** 2 for one in z)
    return max(1.0, math.sqrt((counts_for + square) / (counts_for + len(z))))


def cover(z: Sequence[float]) -> float:
    """Share that came inside its 95 % interval."""
    return sum(abs(one) <= Z95 for one in z) / len(z) if z else math.nan
