"""Which set-up would settle most, per minute of work."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct

from trebb.core.condition.estimating import Estimate
from trebb.core.condition.model import Row, variances_of


class Candidate(Struct, frozen=True):
    """Readings that could be taken next, and how long they take together."""

    key: str
    rows: tuple[Row, ...]
    minutes: float


class Suggestion(Struct, frozen=True):
    """What a candidate would do.

    `settles` is the share of the present doubt that it removes, 0 to 1;
    `per_minute` the same for a minute's work; `most` the key of the question
    whose doubt falls most, with its standard deviation before and after.
    """

    key: str
    minutes: float
    settles: float
    per_minute: float
    most: str
    sd_before: float
    sd_after: float


def total_doubt(now: Estimate, questions: Mapping[str, Mapping[str, float]], scale: float) -> float:
    """Σ var/(var + scale²) over the questions: how many of them are open, those nearly settled counting
    little. `scale` in mm, coefficients without unit.
    """
    wanted = np.array([now.model.vector(q) for q in questions.values()])
    variance = variances_of(wanted, now.covariance)
    return float((variance / (variance + scale**2)).sum())


def suggest(
    now: Estimate, candidates: Sequence[Candidate], questions: Mapping[str, Mapping[str, float]], scale: float
) -> list[Suggestion]:
    """Rank candidates by the doubt they would remove per minute, best first.

    Parameters
    ----------
    questions : what is to be known, each a combination of sources by key.
    scale : the standard deviation (mm) below which a question counts as
        settled, usually a fraction of the limit; doubt is Σ var/(var + scale²),
        so that wide doubt does not drown the rest.

    Notes
    -----
    The posterior covariance after a linear-Gaussian reading does not depend on
    what will be read, so each candidate costs one small solve.
    """
    keys = list(questions)
    wanted = np.array([now.model.vector(questions[key]) for key in keys])
    before = variances_of(wanted, now.covariance)

    def doubt(variance: np.ndarray) -> np.ndarray:
        result: np.ndarray = variance / (variance + scale**2)
        return result

    total = float(doubt(before).sum())
    result = []
    for candidate in candidates:
        rows = now.model.matrix(candidate.rows)
        noise = np.array([row.noise_sd**2 for row in candidate.rows])
        spread = now.covariance @ rows.T
        gain = wanted @ spread
        inner = rows @ spread + np.diag(noise)
        after = np.maximum(before - np.einsum("ij,ij->i", gain, np.linalg.solve(inner, gain.T).T), 0.0)
        fall = doubt(before) - doubt(after)
        most = int(np.argmax(fall))
        share = float(fall.sum()) / total if total > 0 else 0.0
        result.append(
            Suggestion(
                candidate.key, candidate.minutes, share, share / candidate.minutes,
                keys[most], float(np.sqrt(before[most])), float(np.sqrt(after[most])),
            )
        )  # fmt: skip
    return sorted(result, key=lambda s: -s.per_minute)
