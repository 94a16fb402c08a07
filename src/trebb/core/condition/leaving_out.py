"""Does a reading agree with all the others? Each is foretold from those."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from trebb.core.condition.estimating import Observation
from trebb.core.condition.model import ErrorModel, variances_of

# The others foretell a reading where they leave less than this share of what was in doubt before any.
FORETOLD_SHARE = 0.55


class Foretold(Struct, frozen=True):
    """A reading as all the others foretell it: value, sd of that with the reading's own noise, and how many
    of these it lies off. `is_told` says whether the others tell anything of it.
    """

    value: float
    sd: float
    off: float
    is_told: bool


def foretold(model: ErrorModel, observations: Sequence[Observation]) -> list[Foretold]:
    """Each observation by all the others, in its row's unit.

    By leverage from one solution (Cook and Weisberg 1982, "Residuals and
    influence in regression", section 2.2): with h = a·Σ·aᵀ/σ², the residual
    left out is r/(1 − h) and its variance σ²/(1 − h). Bounds and heavy tails are
    left aside: a question is asked, no answer changed.
    """
    if not observations:
        return []
    noise = np.array([o.row.noise_sd for o in observations])
    design = model.matrix([o.row for o in observations]) / noise[:, None]
    values = np.array([o.value - o.row.offset for o in observations]) / noise
    covariance = np.linalg.inv(model.prior_precision + design.T @ design)
    mean = covariance @ (model.prior_precision @ model.prior_mean + design.T @ values)
    before = variances_of(design, model.prior_covariance)
    leverage = np.minimum(variances_of(design, covariance), 1 - 1e-9)
    residual = (values - design @ mean) / (1 - leverage)
    variance = 1 / (1 - leverage)
    result = []
    for i, o in enumerate(observations):
        result.append(
            Foretold(
                o.value - float(residual[i]) * float(noise[i]),
                float(noise[i]) * float(variance[i]) ** 0.5,
                abs(float(residual[i])) / float(variance[i]) ** 0.5,
                bool(variance[i] - 1 < FORETOLD_SHARE**2 * before[i]),
            )
        )
    return result
