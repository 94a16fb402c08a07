"""What one set-up bounds another by: a part is not more than its whole, worn not more than unworn. Readings
that deny it are named, both of them, with the likely slip; nothing of them is believed to a repair.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from msgspec import Struct

from trebb.core.belief.bounds import denied
from trebb.core.condition import Observation

At = tuple[str, str]  # a set-up's key and one of its places


class Bound(Struct, frozen=True):
    """A part that cannot be more than its whole, in the rows' mm.

    Parameters
    ----------
    part, whole : where each is read; `whole` None where it is a size by itself, `most_mm`.
    words : what cannot be, in a sentence that names neither figure: "the end float is part of the lash".
    allowed_mm : how much more it may be all the same: what gives under the hand.
    slip : what it likely is, in a sentence.
    is_least : the whole is the least that the part can be instead.
    """

    part: At
    whole: At | None
    words: str
    slip: str
    most_mm: float = 0.0
    allowed_mm: float = 0.0
    is_least: bool = False

    def is_denied(self, part: Observation, whole: Observation | None) -> bool:
        """Whether readings deny it: the chance that it holds was less than one in a hundred."""
        sign = -1.0 if self.is_least else 1.0
        top = (whole.value, whole.row.noise_sd) if whole is not None else (self.most_mm, NO_DOUBT_MM)
        return denied((sign * part.value - self.allowed_mm, part.row.noise_sd), (sign * top[0], top[1]))


NO_DOUBT_MM = 1e-4
Bounds = Callable[[Any], Sequence[Bound]]


def all_denied(
    bounds: Sequence[Bound], means: Mapping[At, Observation]
) -> list[tuple[Bound, Observation, Observation | None]]:
    """The bounds that readings deny, with what was read: `means` by set-up and place."""
    found = []
    for bound in bounds:
        part, whole = means.get(bound.part), means.get(bound.whole) if bound.whole else None
        if part is None or (bound.whole is not None and whole is None):
            continue
        if bound.is_denied(part, whole):
            found.append((bound, part, whole))
    return found
