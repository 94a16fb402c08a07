"""One turn under a fixed indicator, as vectors.

θ is the angle of the spindle's dial under the indicator; a reading is positive
where the surface comes toward it: y(θ) = c₀ + Σ A_k cos(kθ − ψ_k). A vector
A·e^{iψ} is a complex number in the readings' unit, its argument the dial angle
of the high spot. Eccentricity is A₁; the runout (TIR) it makes is 2·A₁.
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError

if TYPE_CHECKING:
    from numpy.typing import NDArray

MOST_LOBES = 3
# A fit that makes one reading's noise more than this many times larger is not offered.
MOST_GAIN = 2.5
FINE = 720


class Turn(Struct, frozen=True):
    """A turn fitted by least squares; readings' unit.

    `vectors[k-1]` is harmonic k; `covariance` (2K+1, 2K+1) of (c₀, a₁, b₁, …)
    for readings of unit variance; `residual_sd` and `freedom` what is left over.
    """

    mean: float
    vectors: tuple[complex, ...]
    covariance: NDArray[np.float64]
    residual_sd: float
    freedom: int
    tir_sampled: float

    @property
    def eccentricity(self) -> complex:
        """The first harmonic."""
        return self.vectors[0]

    @property
    def tir_of_eccentricity(self) -> float:
        """Runout that the eccentricity alone makes: twice its amount. In the readings' unit."""
        return 2 * abs(self.vectors[0])

    @property
    def tir(self) -> float:
        """Runout of the whole fitted curve; the readings' own is a lower bound. In the readings' unit."""
        curve = self.at(np.linspace(0, 2 * np.pi, FINE, endpoint=False))
        return float(curve.max() - curve.min())

    def at(self, theta: NDArray[np.float64]) -> NDArray[np.float64]:
        """The fitted curve at dial angles in radians."""
        result = np.full(theta.shape, self.mean)
        for k, v in enumerate(self.vectors, start=1):
            result = result + v.real * np.cos(k * theta) + v.imag * np.sin(k * theta)
        return np.asarray(result, dtype=np.float64)


def _design(theta: NDArray[np.float64], lobes: int) -> NDArray[np.float64]:
    columns = [np.ones_like(theta)]
    for k in range(1, lobes + 1):
        columns += [np.cos(k * theta), np.sin(k * theta)]
    return np.column_stack(columns)


def fit_turn(angles_deg: Sequence[float], readings: Sequence[float]) -> Turn:
    """Fit mean, eccentricity and as many lobes as the angles allow. In the readings' unit.

    n equally spaced readings resolve lobes below n/2 (8 → 3, 12 → 5, of which
    three are used); with struck or unequal angles fewer, so that no lobe is
    claimed that the angles cannot show.

    Raises InputError for fewer than three different angles.
    """
    theta, y = np.radians(np.asarray(angles_deg, dtype=float)), np.asarray(readings, dtype=float)
    distinct = len({round(math.degrees(t) % 360, 3) for t in theta})
    if distinct < 3:
        raise InputError(
            f"{distinct} angle{'s' if distinct != 1 else ''}",
            "three angles round the turn are the least that give an eccentricity",
        )
    lobes = min(MOST_LOBES, (distinct - 1) // 2)
    while True:
        design = _design(theta, lobes)
        singular = np.linalg.svd(design / math.sqrt(len(y)), compute_uv=False)
        if singular[-1] > 1 / (MOST_GAIN * math.sqrt(2)) or lobes == 1:
            break
        lobes -= 1
    if singular[-1] < 0.1:
        raise InputError("angles on one side only", "take readings spread over the whole turn")
    normal = np.asarray(np.linalg.inv(design.T @ design), dtype=np.float64)
    found = normal @ design.T @ y
    left = y - design @ found
    freedom = len(y) - design.shape[1]
    sd = math.sqrt(float(left @ left) / freedom) if freedom > 0 else 0.0
    vectors = tuple(complex(found[2 * k - 1], found[2 * k]) for k in range(1, lobes + 1))
    return Turn(float(found[0]), vectors, normal, sd, freedom, float(y.max() - y.min()))


def residual_tir(angles_deg: Sequence[float], readings: Sequence[float], turn: Turn) -> float:
    """Largest less smallest of the readings once mean and eccentricity are taken out: what is not round, and
    noise. In their unit.
    """
    theta = np.radians(np.asarray(angles_deg, dtype=float))
    v = turn.vectors[0]
    left = np.asarray(readings, dtype=float) - turn.mean - v.real * np.cos(theta) - v.imag * np.sin(theta)
    return float(left.max() - left.min())


def degrees_of(vector: complex) -> float:
    """Direction of a vector, 0 ≤ deg < 360. Means nothing where the amount is at noise level."""
    return math.degrees(cmath.phase(vector)) % 360.0


def whole_degrees(vector: complex) -> int:
    """Direction of a vector to the nearest degree, 0 ≤ deg < 360."""
    return round(degrees_of(vector)) % 360


def high_spot_deg(vector: complex, lobe: int) -> float:
    """Dial angle of a high spot of a lobe, modulo 360/k."""
    return degrees_of(vector) / lobe


def reversal(at_0: complex, at_180: complex) -> tuple[complex, complex]:
    """Spindle-borne and bar-borne vectors from a bar seated at 0° and at 180°.

    The bar's is referred to the dial at the 0° seating. Even lobes of bar and
    spindle repeat alike and cannot be separated this way.
    """
    return (at_0 + at_180) / 2, (at_0 - at_180) / 2


def tilt(near: complex, far: complex, spacing_mm: float) -> complex:
    """Tilt per mm between two planes: subtract vectors, never amounts. µm per mm is mrad."""
    return (far - near) / spacing_mm


def extrapolated(near: complex, lean: complex, z_near_mm: float, z_mm: float = 0.0) -> complex:
    """The vector at another distance, from a near plane's and the tilt."""
    return near + lean * (z_mm - z_near_mm)
