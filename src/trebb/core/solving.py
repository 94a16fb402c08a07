"""Roots, least places and areas of a function, by SciPy: loaded when one is first wanted, for loading it
takes several times as long as opening a job.
"""

from __future__ import annotations

from collections.abc import Callable


def root_between(
    function: Callable[[float], float], low: float, high: float, *, xtol: float = 2e-12, rtol: float = 1e-14
) -> float:
    """Where a function is nothing between two places that it has of unlike signs, in the places' own unit;
    by Brent's method (R. P. Brent, Algorithms for Minimization without Derivatives, 1973, chapter 4).

    Raises ValueError where the signs are alike.
    """
    from scipy.optimize import brentq

    return float(brentq(function, low, high, xtol=xtol, rtol=rtol))


def least_between(
    function: Callable[[float], float], low: float, high: float, *, xtol: float
) -> tuple[float, float]:
    """The least value of a function with one low place between two, and that place; Brent, chapter 5. All in
    the function's own unit.
    """
    from scipy.optimize import minimize_scalar

    found = minimize_scalar(function, bounds=(low, high), method="bounded", options={"xatol": xtol})
    return float(found.fun), float(found.x)


def area_under(function: Callable[[float], float], low: float, high: float, *, rtol: float) -> float:
    """The integral of a function from one place to another, adaptively (QUADPACK's QAGS). In the function's
    unit times that of its place; `rtol` without.
    """
    from scipy.integrate import quad

    return float(quad(function, low, high, epsrel=rtol, limit=200)[0])
