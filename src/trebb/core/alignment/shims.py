"""A pack of shims from the thicknesses at hand."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from trebb.core.errors import InputError

STEP_MM = 0.005  # half a hundredth: finer is not cut from shim stock
MOST_LEAVES = 6


class Pack(Struct, frozen=True):
    """Leaves, the largest first, and what they miss the wanted thickness by, mm (+ too thick)."""

    leaves_mm: tuple[float, ...]
    miss_mm: float

    @property
    def thickness_mm(self) -> float:
        """All leaves together."""
        return sum(self.leaves_mm)


def shim_pack(wanted_mm: float, at_hand_mm: Sequence[float], most: int = MOST_LEAVES) -> Pack:
    """The pack nearest to a thickness; of equally near ones the fewest leaves, then the largest leaf first.

    Parameters
    ----------
    wanted_mm : thickness to reach; nothing gives an empty pack.
    at_hand_mm : thicknesses that stock is at hand in, any number of leaves of each.
    most : leaves at most; a thick pack of thin leaves is a spring.

    Raises
    ------
    InputError : a thickness below nothing, no stock, or more than `most` of the thickest would reach.
    """
    stock = sorted({round(t / STEP_MM) for t in at_hand_mm if t > 0}, reverse=True)
    if wanted_mm < 0:
        raise InputError(f"a pack of {wanted_mm:g} mm", "a shim only raises; raise the other foot instead")
    if not stock:
        raise InputError("no shim stock", "state the thicknesses at hand, such as 0.02, 0.05, 0.10 mm")
    target = round(wanted_mm / STEP_MM)
    if target > most * stock[0]:
        raise InputError(
            f"a pack of {wanted_mm:.3g} mm",
            f"{most} leaves of {stock[0] * STEP_MM:g} mm make less; use a plate and shim the rest",
        )
    # For each number of leaves all sums that can be made, with the pack that was found first: largest leaves
    # first.
    made: dict[int, tuple[int, ...]] = {0: ()}
    newest = dict(made)
    for _ in range(most):
        fresh: dict[int, tuple[int, ...]] = {}
        for total, leaves in newest.items():
            for leaf in stock:
                if (
                    (not leaves or leaf <= leaves[-1])
                    and total + leaf not in made
                    and total + leaf <= target + stock[-1]
                ):
                    candidate = (*leaves, leaf)
                    if candidate > fresh.get(total + leaf, ()):
                        fresh[total + leaf] = candidate
        made.update(fresh)
        newest = fresh
    best = min(made, key=lambda total: (abs(total - wanted_mm / STEP_MM), len(made[total])))
    return Pack(tuple(leaf * STEP_MM for leaf in made[best]), best * STEP_MM - wanted_mm)
