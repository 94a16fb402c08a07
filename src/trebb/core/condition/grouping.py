"""Readings that share what nobody wants to know: an indicator's zero, one seating of a bar."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from trebb.core.condition.estimating import Observation
from trebb.core.condition.model import Row

if TYPE_CHECKING:
    from numpy.typing import NDArray


class Shared(Struct, frozen=True):
    """An unknown common to the readings of a group: how much of it is in each (n,), and its sd beforehand."""

    share: NDArray[np.float64]
    sd: float


def grouped(rows: Sequence[Row], values: Sequence[float], shared: Sequence[Shared]) -> list[Observation]:
    """The same readings as observations independent of each other, of unit noise, the shared unknowns taken
    out.

    The readings' covariance C = diag(noise²) + Σ sd²·u·uᵀ is factored as L·Lᵀ;
    L⁻¹ times rows and values leaves independent ones that say exactly as much
    about the sources, whatever readings are missing.
    """
    named = [tuple(row.coefficients) for row in rows]
    keys = named[0] if len(set(named)) == 1 else tuple(dict.fromkeys(key for one in named for key in one))
    design = np.array(
        [
            [
                *(row.coefficients.values() if own == keys else (row.coefficients.get(k, 0.0) for k in keys)),
                value - row.offset,
            ]
            for row, own, value in zip(rows, named, values, strict=True)
        ]
    ).reshape(len(rows), len(keys) + 1)
    covariance = np.diag([row.noise_sd**2 for row in rows])
    if shared:
        common = np.array([unknown.sd * unknown.share for unknown in shared])
        covariance += common.T @ common
    independent = np.linalg.solve(np.linalg.cholesky(covariance), design)
    return [
        Observation(Row(dict(zip(keys, line, strict=False)), 1.0), line[-1])  # what is last is the value
        for line in independent.tolist()
    ]
