"""From condition to readings: the simulated instruments, the demo, the practice bench."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from trebb.core.condition.model import ErrorModel, Row, Vector


def simulate(rows: Sequence[Row], condition: Mapping[str, float], rng: np.random.Generator) -> Vector:
    """One noisy reading for each row, (m,), from a true condition by source key."""
    true = np.array(
        [row.offset + sum(c * condition[key] for key, c in row.coefficients.items()) for row in rows], dtype=float
    )
    noise = np.array([row.noise_sd for row in rows], dtype=float)
    return true + noise * rng.standard_normal(len(rows))


def draw_condition(model: ErrorModel, rng: np.random.Generator) -> dict[str, float]:
    """A condition drawn from the prior, clearances redrawn until none is negative.

    Rejection keeps the joint shape of the cut-off prior, which is what
    `estimate` assumes.
    """
    factor = np.linalg.cholesky(model.prior_covariance)
    while True:
        x = model.prior_mean + factor @ rng.standard_normal(len(model.sources))
        if (x[model.bounded] >= 0).all():
            return {source.key: float(value) for source, value in zip(model.sources, x, strict=True)}
