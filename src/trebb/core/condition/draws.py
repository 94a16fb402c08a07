"""Conditions that the readings allow, drawn: for figures that are not linear in the sources."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import cache
from typing import TYPE_CHECKING, TypeAlias

import numpy as np

from trebb.core.condition.estimating import Estimate, Quantity

if TYPE_CHECKING:
    from numpy.typing import NDArray

DRAWS = 2000
CHI2_95 = 5.991  # χ² of two degrees of freedom at 95 %
Array: TypeAlias = "NDArray[np.float64]"


@cache
def normal_draws(count: int) -> Array:
    """Source by source, (count, DRAWS): what is worked out of a source goes through its draws in a row."""
    return np.ascontiguousarray(np.random.default_rng(20).standard_normal((DRAWS, count)).T)


def draw(now: Estimate, *, cut: bool = True) -> dict[str, Array]:
    """Conditions that the readings allow: DRAWS values of each source, the same each time; clearances never
    negative.

    Not `cut` at nothing, sums of sources that only together are known stay as
    narrow as they are: for figures that are worked out from such sums.
    """
    values, vectors = np.linalg.eigh(now.covariance)
    spread = vectors * np.sqrt(np.maximum(values, 0.0))
    all_ = spread @ normal_draws(len(now.model.sources))
    all_ += now.mean[:, None]  # in place: another array of this size costs more than all else here
    if cut:
        np.maximum(all_, 0.0, out=all_, where=now.model.bounded[:, None])
    return dict(zip((s.key for s in now.model.sources), all_, strict=True))


def combined(drawn: Mapping[str, Array], coefficients: Mapping[str, float]) -> Array:
    """A combination of sources, one value a draw. In mm; coefficients without unit."""
    return np.asarray(sum((c * drawn[key] for key, c in coefficients.items()), np.zeros(1)))


def profile_draws(drawn: Mapping[str, Array], points: Sequence[Mapping[str, float]], count: int) -> Array:
    """Several combinations of sources at once, (count, points): the first draws of each. In mm; coefficients
    without unit.
    """
    keys = list(dict.fromkeys(key for point in points for key in point))
    shares = np.array([[point.get(key, 0.0) for key in keys] for point in points])
    return np.asarray((shares @ np.array([drawn[key][:count] for key in keys])).T)


def quantity(values: Array) -> Quantity:
    """Median of draws, sd and 95 % interval."""
    low, middle, high = quantiles(values, (0.025, 0.5, 0.975))
    return Quantity(middle, float(values.std()), low, high)


def vector_size(
    vectors: NDArray[np.complex128] | Array, factor: float = 1.0, *, as_read: bool = False
) -> Quantity:
    """Size of a vector (complex, one a draw) times a factor, with an interval that reaches nothing where the
    vector may be nothing.

    The draws of a size never come near nothing, so its own quantiles would claim a runout that noise makes.
    The value is the size of the mean vector less what scatter makes of any (√(|m|² − 2g²), g on each axis): a
    round thing reads 1.25 g); `as_read`, where much else is in doubt than the reading's scatter, the mean
    vector's own. Nothing is inside where its distance from the mean, in the
    draws' own covariance, is within the 95 % of χ² with two degrees of freedom.
    """
    mean = complex(vectors.mean())
    x, y = vectors.real - mean.real, vectors.imag - mean.imag
    covariance = np.array([[x @ x, x @ y], [x @ y, y @ y]]) / len(vectors) + 1e-18 * np.eye(2)
    at = np.array([mean.real, mean.imag])
    sizes = factor * np.abs(vectors)
    low, high = quantiles(sizes, (0.025, 0.975))
    if float(at @ np.linalg.solve(covariance, at)) < CHI2_95:
        low = 0.0
    scatter = 0.0 if as_read else float(covariance[0, 0] + covariance[1, 1])
    value = factor * math.sqrt(max(abs(mean) ** 2 - scatter, 0.0))
    return Quantity(value, float(sizes.std()), min(low, value), max(high, value))


def signed_size(values: Array, factor: float = 1.0) -> Quantity:
    """Size of a figure that may go either way, one a draw, with an interval that reaches nothing where the
    figure may be nothing. In mm.
    """
    low, high = quantiles(values, (0.025, 0.975))
    value, sizes = factor * abs(float(values.mean())), factor * np.abs(values)
    least, most = quantiles(sizes, (0.025, 0.975))
    return Quantity(
        value, float(factor * values.std()), 0.0 if low < 0 < high else min(least, value), max(most, value)
    )


def quantiles(values: Array, shares: Sequence[float]) -> list[float]:
    """Quantiles by straight lines between the ordered values, as NumPy's own by default, which at its first
    use loads a fifth of NumPy more. In the values' unit; shares from 0 to 1.
    """
    ordered = np.sort(values, axis=None)
    at = np.asarray(shares) * (len(ordered) - 1)
    low = np.floor(at).astype(int)
    high = np.minimum(low + 1, len(ordered) - 1)
    return [float(v) for v in ordered[low] + (at - low) * (ordered[high] - ordered[low])]
