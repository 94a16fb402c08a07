"""A size as a curve of chance: by Gauss quadrature on panels that narrow where the curve may turn."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from functools import cache, cached_property
from typing import TYPE_CHECKING, TypeAlias

import numpy as np
from msgspec import Struct

from trebb.core.condition import Quantity

if TYPE_CHECKING:
    from numpy.typing import NDArray

Array: TypeAlias = "NDArray[np.float64]"

ORDER = 10  # of the quadrature on each panel
HALVINGS = 60  # of a panel, until a quantile is found to a double's figures


@cache  # made when first wanted: a window opens without NumPy
def _gauss() -> tuple[Array, Array]:
    """Nodes and weights between −1 and 1."""
    return np.polynomial.legendre.leggauss(ORDER)


@cache
def _to_series() -> Array:
    """From values at the nodes to Legendre's series."""
    return np.asarray(np.linalg.inv(np.polynomial.legendre.legvander(_gauss()[0], ORDER - 1)))


@cache
def _about() -> Array:
    """Panels about a place where a curve turns, in its scale: narrow beside it, wider away from it."""
    return np.concatenate([np.arange(0, 4, 0.5), np.arange(4, 10, 1.0), (12.0, 16.0, 24.0, 40.0)])


def phi_upper(x: Array) -> Array:
    """Share of a standard normal above x, elementwise. SciPy's takes half a second to load."""
    flat = np.asarray(x, dtype=float).ravel() / math.sqrt(2)
    return np.array([0.5 * math.erfc(v) for v in flat.tolist()]).reshape(np.shape(x))


def between(low: Array, high: Array, upper: Callable[[Array], Array] = phi_upper) -> Array:
    """Chance between two bounds of a distribution even about nothing, of which `upper` is the share above.

    On the side where the tail is thin both are taken as tails: two numbers near one would lose their figures.
    """
    turned = low + high < 0
    near, far = np.where(turned, -high, low), np.where(turned, -low, high)
    return np.asarray(upper(near) - upper(far))


def panels(low: float, high: float, turns: Iterable[tuple[float, float]], even: int = 24) -> Array:
    """Edges of panels from low to high: even ones, and narrower about each turn (where, and its scale)."""
    edges = [np.linspace(low, high, even + 1)]
    for at, scale in turns:
        edges += [at + scale * _about(), at - scale * _about()]
    found = np.unique(np.concatenate(edges))
    found = found[(found >= low) & (found <= high)]
    # Edges that all but meet make panels of no width.
    wide = np.concatenate(([True], np.diff(found) > 1e-9 * (high - low)))
    wide[-1] = True
    return np.asarray(found[wide])


def nodes(edges: Array) -> tuple[Array, Array]:
    """Points of the panels and their weights, (panels × 10,)."""
    half, middle = np.diff(edges) / 2, (edges[1:] + edges[:-1]) / 2
    at, weights = _gauss()
    return (middle[:, None] + half[:, None] * at).ravel(), (half[:, None] * weights).ravel()


class Curve(Struct, frozen=True, dict=True):
    """A density on panels: edges (k + 1,), its values at the panels' nodes (10 k,), of which the integral is
    one; a chance of its own, `spike`, that it is nothing.
    """

    edges: Array
    density: Array
    spike: float = 0.0

    @cached_property
    def _nodes(self) -> tuple[Array, Array]:
        return nodes(self.edges)

    @property
    def points(self) -> Array:
        """Where the density is known."""
        return self._nodes[0]

    @property
    def chances(self) -> Array:
        """Chance that each point stands for; with the spike they come to one."""
        return np.asarray((1 - self.spike) * self._nodes[1] * self.density)

    def mean_of(self, values: Array) -> float:
        """Mean over the curve of a figure known at its points; at nothing it is nothing."""
        return float(self.chances @ values)

    @cached_property
    def mean(self) -> float:
        """In the size's unit."""
        return self.mean_of(self.points)

    @cached_property
    def sd(self) -> float:
        """Of the size, spike and all."""
        spread = self.chances @ (self.points - self.mean) ** 2 + self.spike * self.mean**2
        return math.sqrt(max(0.0, float(spread)))

    @cached_property
    def _below(self) -> Array:
        return np.concatenate(([0.0], np.cumsum(self.chances.reshape(-1, ORDER).sum(axis=1))))

    def _within(self, panel: int, turned: float) -> float:
        """Chance from a panel's beginning to a place in it, from −1 to 1."""
        values = self.density[panel * ORDER : (panel + 1) * ORDER]
        series = np.polynomial.legendre.legint(_to_series() @ values, lbnd=-1)
        half = (self.edges[panel + 1] - self.edges[panel]) / 2
        return float((1 - self.spike) * half * np.polynomial.legendre.legval(turned, series))

    def below(self, x: float) -> float:
        """Chance that the size is not more than x."""
        nothing = self.spike if x >= 0 else 0.0
        if x <= self.edges[0]:
            return nothing
        if x >= self.edges[-1]:
            return nothing + 1 - self.spike
        panel = int(np.searchsorted(self.edges, x, side="right")) - 1
        a, b = self.edges[panel], self.edges[panel + 1]
        return nothing + float(self._below[panel]) + self._within(panel, 2 * (x - a) / (b - a) - 1)

    def quantile(self, share: float) -> float:
        """The size that it is below with a chance of `share`."""
        low, high = float(self.edges[0]), float(self.edges[-1])
        if self.spike and self.below(0.0) >= share > self.below(0.0) - self.spike:
            return 0.0
        for _ in range(HALVINGS):
            middle = (low + high) / 2
            low, high = (middle, high) if self.below(middle) < share else (low, middle)
        return (low + high) / 2

    @property
    def quantity(self) -> Quantity:
        """Mean, sd and the middle 95 %."""
        return Quantity(self.mean, self.sd, self.quantile(0.025), self.quantile(0.975))


def curve(edges: Array, log_density: Array, spike: float = 0.0) -> Curve:
    """A curve of the logs of its density at the panels' nodes, whatever they come to together."""
    raw = np.exp(log_density - log_density.max())
    _, weights = nodes(edges)
    return Curve(edges, raw / float(weights @ raw), spike)


def curve_of(density: Callable[[Array], Array], edges: Array, spike: float = 0.0) -> Curve:
    """A curve of the log of its density."""
    points, _ = nodes(edges)
    return curve(edges, density(points), spike)
