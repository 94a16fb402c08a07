"""What is counted over many machines, family by family."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from scipy import stats

from tests.independent.job import TypedJob

Z95 = 1.959963984540054
COUNTS = ("cover", "state", "cause", "false alarm", "sure and wrong", "not said")

# What of a job with everything read is typed: all of it, or what Trebb itself asks for.
Played = Callable[[TypedJob], TypedJob]


def all_of_it(full: TypedJob) -> TypedJob:
    """Everything that was read."""
    return full


@dataclass
class Score:
    """Hits and tries of each count.

    `cover`: the truth inside the 95 % interval; `state`: inside or over its
    limit, of what is said; `cause`: the named cause is the largest; `false
    alarm`: of figures inside their limit, those said to be over it; `sure
    and wrong`: the whole interval on the wrong side; `not said`: figures that
    cannot be said yet.
    """

    tries: dict[str, int] = field(default_factory=lambda: dict.fromkeys(COUNTS, 0))
    hits: dict[str, int] = field(default_factory=lambda: dict.fromkeys(COUNTS, 0))

    def count(self, name: str, hit: bool) -> None:
        """One try."""
        self.tries[name] += 1
        self.hits[name] += bool(hit)

    def share(self, name: str) -> float:
        """Share of hits; not a number where nothing was tried."""
        return self.hits[name] / self.tries[name] if self.tries[name] else float("nan")

    def figure(self, m, truth: float) -> None:
        """A figure against the truth, both as the limit counts them, mm."""
        limit, low, high = m.limit.limit_mm, m.value.low, m.value.high
        # Of what is read in part the figure is the least that it is.
        self.count("cover", low - 1e-9 <= truth and (m.unread or truth <= high + 1e-9))
        state = m.state.name
        beyond = state == "BEYOND"
        self.count("not said", state == "UNKNOWN")
        if truth <= limit:
            self.count("false alarm", beyond)
        if state == "UNKNOWN":
            return
        self.count("state", beyond == (truth > limit))
        sure = low > limit or (high <= limit and not m.unread)
        self.count("sure and wrong", sure and beyond != (truth > limit))

    def interval(self, q, truth: float) -> None:
        """A stated interval against the truth."""
        self.count("cover", q.low - 1e-9 <= truth <= q.high + 1e-9)

    def cells(self) -> list[str]:
        """The shares as text, in the order of `COUNTS`."""
        return [f"{100 * self.share(c):5.1f}" if self.tries[c] else "    –" for c in COUNTS]


@dataclass
class Scored:
    """Stated values with their sd, against the truth; normal, 95 % intervals. In mm."""

    values: list[float]
    sds: list[float]
    truths: list[float]

    @property
    def z(self) -> np.ndarray:
        """How far the truth lies off, in sds."""
        return (np.array(self.truths) - np.array(self.values)) / np.array(self.sds)

    @property
    def covered(self) -> int:
        """How many truths lie inside their interval."""
        return int((np.abs(self.z) <= Z95).sum())

    @property
    def sharpness(self) -> float:
        """Mean width of the intervals: compared only where cover is right."""
        return float(2 * Z95 * np.mean(self.sds))

    @property
    def rms_z(self) -> float:
        """1 where the sds are right."""
        return float(np.sqrt(np.mean(self.z**2)))

    @property
    def log_score(self) -> float:
        """Mean of −ln of the density at the truth."""
        return float(np.mean(self.z**2 / 2 + np.log(np.array(self.sds) * np.sqrt(2 * np.pi))))

    @property
    def crps(self) -> float:
        """Mean continuous ranked probability score (Gneiting and Raftery 2007, equation 21)."""
        z = self.z
        body = z * (2 * stats.norm.cdf(z) - 1) + 2 * stats.norm.pdf(z) - 1 / np.sqrt(np.pi)
        return float(np.mean(np.array(self.sds) * body))

    @property
    def interval_score(self) -> float:
        """Mean width, and forty times what lies outside (the same, equation 43)."""
        outside = np.maximum(np.abs(self.z) - Z95, 0) * np.array(self.sds)
        return float(self.sharpness + 40 * np.mean(outside))

    def over(self, limit: float) -> np.ndarray:
        """The stated chance of each to be over a limit."""
        return stats.norm.sf((limit - np.array(self.values)) / np.array(self.sds))

    def brier(self, limit: float) -> float:
        """Mean square of the stated chance to be over a limit less what came."""
        return float(np.mean((self.over(limit) - (np.array(self.truths) > limit)) ** 2))

    def sure(self, limit: float) -> list[bool]:
        """Of those said to be over or inside with more than 95 %, whether it was wrong."""
        said = zip(self.over(limit), self.truths, strict=True)
        return [(p > 0.5) != (truth > limit) for p, truth in said if max(p, 1 - p) > 0.95]


def cover_interval(hits: int, tries: int) -> tuple[float, float]:
    """95 % interval of a share by its hits (Clopper and Pearson 1934)."""
    low = stats.beta.ppf(0.025, hits, tries - hits + 1) if hits else 0.0
    high = stats.beta.ppf(0.975, hits + 1, tries - hits) if hits < tries else 1.0
    return float(low), float(high)


def cover_p_value(hits: int, tries: int) -> float:
    """Two-sided chance of a cover as far from 95 % as this."""
    return float(stats.binomtest(hits, tries, 0.95).pvalue)


def most_wrong(wrong: int, sure: int) -> float:
    """The share of sure ones that may be wrong, by so many wrong of so many: 95 % upper end."""
    return float(stats.beta.ppf(0.95, wrong + 1, sure - wrong)) if wrong < sure else 1.0
