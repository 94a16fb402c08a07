"""A scraping plan: how much to take from where, so that the points of two ways lie in one plane."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

import numpy as np
from msgspec import Struct

from trebb.core.errors import InputError

if TYPE_CHECKING:
    from numpy.typing import NDArray


class ScrapingPlan(Struct, frozen=True):
    """Metal to take at each station of each way, mm, and in how many passes.

    `remove_mm` is (2, n): front way, rear way. `passes` the same counted in
    passes of `pass_mm`; `deepest_mm` the most anywhere, `lowers_mm` by how much
    the ways come down on the average.
    """

    remove_mm: NDArray[np.float64]
    passes: NDArray[np.int64]
    pass_mm: float

    @property
    def deepest_mm(self) -> float:
        """The most taken anywhere."""
        return float(self.remove_mm.max())

    @property
    def lowers_mm(self) -> float:
        """Mean metal taken: about what the saddle comes down by."""
        return float(self.remove_mm.mean())

    @property
    def most_passes(self) -> int:
        """Passes over the highest place."""
        return int(self.passes.max())


def scraping_plan(
    stations_mm: Sequence[float],
    heights_mm: NDArray[np.float64],
    gauge_mm: float,
    pass_mm: float,
    *,
    free_roll: bool = True,
) -> ScrapingPlan:
    """The plane that touches the ways from below with the least metal above it.

    Parameters
    ----------
    stations_mm : (n,) along the bed.
    heights_mm : (2, n) of front and rear way.
    gauge_mm : distance between the ways.
    pass_mm : what one pass of the scraper takes.
    free_roll : the plane may lean across, where the feet can level the bed afterwards; else it keeps the
        mean of the ends.

    Raises
    ------
    InputError : shapes that do not fit, fewer than two stations, a pass that takes nothing.

    Notes
    -----
    A linear programme: minimise Σ(h − plane) with plane ≤ h everywhere. With
    height, slope and roll free, the sum is least for the plane that is highest
    at the centroid and still below all points.
    """
    from scipy.optimize import linprog  # half a second: only when a plan is wanted

    x = np.asarray(stations_mm, dtype=float)
    if heights_mm.shape != (2, x.size) or x.size < 2:
        raise InputError(
            f"heights of shape {heights_mm.shape}",
            "a height of the front and of the rear way at two stations at least",
        )
    if not pass_mm > 0:
        raise InputError(
            f"a pass of {pass_mm:g} mm", "a pass of the scraper takes something, usually 0.005 to 0.01 mm"
        )
    along = np.tile((x - x.mean()) / max(float(np.ptp(x)), 1.0), 2)
    across = np.repeat([-0.5, 0.5], x.size)
    points = heights_mm.ravel()
    columns = [np.ones_like(along), along] + ([across] if free_roll else [])
    basis = np.stack(columns, axis=1)
    held = np.zeros_like(points) if free_roll else across * float(heights_mm[1].mean() - heights_mm[0].mean())
    found = linprog(
        -basis.sum(axis=0),
        A_ub=basis,
        b_ub=points - held,
        bounds=[(None, None)] * basis.shape[1],
        method="highs",
    )
    if not found.success:
        raise InputError("these heights", "no plane lies below them; is a reading not a number?")
    remove = np.maximum(points - held - basis @ found.x, 0.0).reshape(2, x.size)
    passes = np.array([[math.ceil(v / pass_mm - 1e-6) for v in way] for way in remove], dtype=np.int64)
    return ScrapingPlan(remove, passes, pass_mm)


def plane_below(points_mm: NDArray[np.float64], heights_mm: NDArray[np.float64]) -> NDArray[np.float64]:
    """Metal over the plane that lies under every point with the least above it, mm: what scraping takes.
    Raises InputError for heights that no plane lies under.

    Parameters
    ----------
    points_mm : (n, 2); where all lie on one line the plane is taken along it.
    heights_mm : (n,).

    Notes
    -----
    The least of Σ(h - a - b x - c y) with every term not less than nothing, by linear programming.
    """
    from scipy.optimize import linprog

    design = np.column_stack([np.ones(len(points_mm)), points_mm - points_mm.mean(axis=0)])
    scale = np.maximum(np.abs(design).max(axis=0), 1e-9)
    found = linprog(
        -(design / scale).sum(axis=0),
        A_ub=design / scale,
        b_ub=heights_mm,
        bounds=[(None, None)] * design.shape[1],
    )
    if found.x is None:
        raise InputError(f"{len(heights_mm)} heights", "no plane lies under them: read them again")
    left: NDArray[np.float64] = np.maximum(heights_mm - design / scale @ found.x, 0.0)
    return left


def liner_thickness_mm(scraped_mm: float, worn_mm: float, milled_mm: float = 0.0) -> float:
    """Thickness of lining that brings a saddle back to its height: what wear, scraping and milling took
    together, mm. Raises InputError for metal of less than nothing.
    """
    for what, value in (("scraped", scraped_mm), ("worn", worn_mm), ("milled away", milled_mm)):
        if value < 0:
            raise InputError(f"{value:g} mm {what}", "metal taken is more than nothing")
    return scraped_mm + worn_mm + milled_mm
