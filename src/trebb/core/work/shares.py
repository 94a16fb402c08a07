"""How much of a tolerance each source may take, by what it costs to get it there."""

from __future__ import annotations

from collections.abc import Mapping

STEPS = 200  # of halving: far below what a double tells apart


def shared_tolerance(
    tolerance: float,
    coefficients: Mapping[str, float],
    costs: Mapping[str, float],
    present: Mapping[str, float],
    *,
    least: Mapping[str, float] | None = None,
    power: float = 1.0,
    squares: bool = False,
) -> dict[str, float]:
    """Tolerances of sources that together fill the tolerance of a figure at the least cost.

    A source at tolerance t costs K/t^p; Σ|c| t = T, or Σ(c t)² = T² where errors add as squares. At the least
    cost the last bit costs alike through every source (Lagrange): t = (p K/(λ e |c|^e))^(1/(p + e)), e = 1 or
    2, never over what the source is now, which costs nothing (tolerance allocation by cost: Chase and
    Greenwood 1988, "Design issues in mechanical tolerance analysis").

    Parameters
    ----------
    tolerance : T, mm.
    coefficients : c of each source, mm of the figure per unit of it; none is 0.
    costs : K of each, money · unit^p.
    present : what a source is now, in its unit, where that is known.
    least : what nothing brings it below, in its unit; where these alone overfill T, they are what is given.
    """
    e = 2 if squares else 1

    def at(rate: float) -> dict[str, float]:
        found = {}
        for key, c in coefficients.items():
            t = (power * costs[key] / (rate * e * abs(c) ** e)) ** (1 / (power + e))
            found[key] = max(min(t, present.get(key, t)), (least or {}).get(key, 0.0))
        return found

    def filled(tolerances: Mapping[str, float]) -> float:
        return sum((abs(coefficients[key]) * t) ** e for key, t in tolerances.items())

    few, many = 1e-12, 1e24  # money per mm: at a low rate every tolerance is wide
    if filled(at(few)) <= tolerance**e:  # all may stay as they are
        return at(few)
    for _ in range(STEPS):
        middle = (few * many) ** 0.5
        few, many = (middle, many) if filled(at(middle)) > tolerance**e else (few, middle)
    return at(many)
