"""What each figure of an assembly was found at, what was foretold of it, what was proven: it grows as the
job does.
"""

from __future__ import annotations

import math

from msgspec import Struct

from trebb.core.condition import Quantity
from trebb.core.machine import State
from trebb.logbook.cases.case import Case


class Grown(Struct, frozen=True):
    """One figure, mm: as found, as the chosen repair was to leave it, as read after it, its limit."""

    key: str
    label: str
    found: Quantity
    foretold: Quantity | None
    proven: Quantity | None
    limit_mm: float

    @property
    def is_shown(self) -> bool:
        """Whether what changed is larger than the measuring."""
        if self.proven is None:
            return False
        return abs(self.proven.value - self.found.value) > math.hypot(
            self.found.half_width, self.proven.half_width
        )


def before_and_after(case: Case) -> list[Grown]:
    """The figures that were read of an assembly, in its order; none where nothing is told of it."""
    if not case.is_measured:
        return []
    after = {m.key: m.value for m in case.figures_after if m.state is not State.UNKNOWN}
    prediction = case.chosen_prediction()
    return [
        Grown(
            m.key,
            m.label,
            m.value,
            case.left_by(prediction, m.key) if prediction is not None else None,
            after.get(m.key),
            m.limit.limit_mm,
        )
        for m in case.figures
        if not m.is_expected and (m.state is not State.UNKNOWN or m.key in after)
    ]
