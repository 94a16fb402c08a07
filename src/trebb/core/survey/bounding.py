"""What one set-up bounds another by: a part is not more than its whole, worn not more than unworn. Readings
that deny it are named, both of them, with the likely slip; nothing of them is believed to a repair.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from msgspec import Struct

from trebb.core.belief.bounds import denied
from trebb.core.condition import Observation

At = tuple[str, str]  # a set-up's key and one of its places
Known = tuple[float, float]  # what was read there and its sd, mm


class Bound(Struct, frozen=True):
    """A part that cannot be more than its whole, in the rows' mm.

    Parameters
    ----------
    part, whole : where each is read; `whole` None where it is a size by itself, `most_mm`.
    words : what cannot be, in a sentence that names neither figure: "the end float is part of the lash".
    allowed_mm : how much more it may be all the same: what gives under the hand.
    slip : what it likely is, in a sentence.
    is_least : the whole is the least that the part can be instead.
    less : a third place that the whole is less: a bore less its shaft is the room that there is.
    share : what of the part stands in the whole.
    """

    part: At
    whole: At | None
    words: str
    slip: str
    most_mm: float = 0.0
    allowed_mm: float = 0.0
    is_least: bool = False
    less: At | None = None
    share: float = 1.0

    @property
    def places(self) -> tuple[At, ...]:
        """Where it must be read to be denied."""
        return tuple(at for at in (self.part, self.whole, self.less) if at is not None)

    def is_denied(self, part: Known, whole: Known) -> bool:
        """Whether readings deny it: the chance that it holds was less than one in a hundred."""
        sign = -1.0 if self.is_least else 1.0
        return denied(
            (sign * self.share * part[0] - self.allowed_mm, self.share * part[1]), (sign * whole[0], whole[1])
        )


NO_DOUBT_MM = 1e-4
Bounds = Callable[[Any], Sequence[Bound]]


def all_denied(bounds: Sequence[Bound], means: Mapping[At, Observation]) -> list[tuple[Bound, float, float]]:
    """The bounds that readings deny, with what was read of part and whole, mm; `means` by set-up, place."""
    read: dict[At | None, Known] = {at: (found.value, found.row.noise_sd) for at, found in means.items()}
    denying = []
    for bound in bounds:
        if any(at not in read for at in bound.places):
            continue
        part, whole = read[bound.part], read[bound.whole] if bound.whole else (bound.most_mm, NO_DOUBT_MM)
        if bound.less is not None:
            less = read[bound.less]
            whole = whole[0] - less[0], math.hypot(whole[1], less[1])
        if bound.is_denied(part, whole):
            denying.append((bound, part[0], whole[0]))
    return denying
