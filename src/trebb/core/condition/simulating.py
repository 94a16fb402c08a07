"""From condition to readings: the simulated instruments, the demo, the practice bench."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from trebb.core.condition.model import ErrorModel, Row, Vector

FIRST_BATCH, NEXT_BATCH = 8, 512


def simulate(rows: Sequence[Row], condition: Mapping[str, float], rng: np.random.Generator) -> Vector:
    """One noisy reading for each row, (m,), from a true condition by source key. The condition by source, in
    mm.
    """
    true = np.array(
        [row.offset + sum(c * condition[key] for key, c in row.coefficients.items()) for row in rows],
        dtype=float,
    )
    noise = np.array([row.noise_sd for row in rows], dtype=float)
    return true + noise * rng.standard_normal(len(rows))


def draw_condition(model: ErrorModel, rng: np.random.Generator) -> dict[str, float]:
    """A condition drawn from the prior, clearances redrawn until none is negative. By source, in mm.

    Rejection keeps the joint shape of the cut-off prior, which is what
    `estimate` assumes.
    """
    factor = np.linalg.cholesky(model.prior_covariance)
    batch = FIRST_BATCH
    while True:  # many at once: of a bed with dozens of clearances one draw in a thousand is whole
        x = model.prior_mean + rng.standard_normal((batch, len(model.sources))) @ factor.T
        whole = np.flatnonzero((x[:, model.bounded] >= 0).all(axis=1))
        if whole.size:
            return {
                source.key: float(value) for source, value in zip(model.sources, x[whole[0]], strict=True)
            }
        batch = NEXT_BATCH
