"""What to do about what is wrong: a repair, or a reading first where that may change which."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any, Protocol

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from trebb.core.belief.deciding import Doubt, Matter, Repair, ToRead
from trebb.core.condition import Candidate, Estimate, Quantity
from trebb.core.findings import Measure
from trebb.core.remedies import Remedy
from trebb.core.survey import AnySetUp, Lot

HOUR_WORTH = 15.0  # where nobody said what an hour is worth, beside the usual prices
LEAST_SD = 1e-6
FEW, DEAR, LEFT = "few", "dear", "left"
NARROWED = 0.9  # of the doubt: readings that leave more of it decide nothing
LEAST_FALL = 0.005  # of the doubt: what takes less of it is not of it


class Advice(Struct, frozen=True):
    """What is advised: `remedy`; or to read first (`lot`, its key, and its minutes) what decides between
    `few`, which takes fewer hours and may be enough, and `dear`. With none of these nothing is advised:
    nothing is wrong, it cannot be said yet, or readings deny each other (`is_denied`).
    """

    remedy: Remedy | None = None
    few: Remedy | None = None
    dear: Remedy | None = None
    lot: str = ""
    minutes: float = 0.0
    is_denied: bool = False

    @property
    def waits(self) -> bool:
        """Whether something is wrong, and what to do hangs on what is to be read."""
        return self.remedy is None and (self.is_denied or self.few is not None)


class Advised(Protocol):
    """What is asked of a case here."""

    @property
    def estimate(self) -> Estimate:
        """The condition by readings and expectation."""
        ...

    def left_by(self, prediction: Any, figure: str = "") -> Quantity:
        """What a prediction leaves of a figure."""
        ...

    def foretold_of(self, r: Remedy, now: Estimate) -> Any:
        """What a remedy would leave of a condition."""
        ...

    def could_be_read(self) -> Sequence[Candidate]:
        """What could be read next, lot by lot."""
        ...

    def lot_of(self, key: str) -> tuple[AnySetUp, Lot]:
        """Set-up and lot of a candidate's key."""
        ...


def after_reading(now: Estimate, candidate: Candidate) -> Estimate:
    """The condition once a candidate is read and says what is expected: as it is, known better."""
    rows = now.model.matrix(candidate.rows)
    noise = np.diag([row.noise_sd**2 for row in candidate.rows])
    spread = now.covariance @ rows.T
    told = spread @ np.linalg.solve(rows @ spread + noise, spread.T)
    return replace(now, covariance=now.covariance - told, cavity={})


def weighed(
    case: Advised, fewer: Sequence[Remedy], dear: Remedy, wrong: Sequence[Measure], hour: float
) -> Advice:
    """Whether to read first what decides between repairs of fewer hours, of which one may do, and one that is
    enough, which of all that could be read, or to take the dear one: the minutes are worth more.

    Each reading is weighed by what it leaves of the doubt in what the few hours leave; being wrong costs the
    dear repair after all (`deciding.Matter`).
    """

    def choice(few: Remedy) -> tuple[Matter, Measure, Quantity]:
        """Between the two by what the few hours leave of the figure that they leave worst."""
        left = {m.key: case.left_by(case.foretold_of(few, case.estimate), m.key) for m in wrong}
        worst = max(wrong, key=lambda m: _over(left[m.key], m.limit.limit_mm))
        sure = case.left_by(case.foretold_of(dear, case.estimate), worst.key)
        return _matter(few, dear, worst.limit.limit_mm, left[worst.key], sure, hour), worst, left[worst.key]

    choices = [(few, *choice(few)) for few in fewer]
    few, matter, worst, left = max(choices, key=lambda one: one[1].value(LEFT))
    sd = max(left.sd, LEAST_SD)

    def narrowed_by(now: Estimate) -> float:
        return max(case.left_by(case.foretold_of(few, now), worst.key).sd, LEAST_SD)

    each = [(sd - narrowed_by(after_reading(case.estimate, c)), c) for c in case.could_be_read()]
    order = [
        c for fall, c in sorted(each, key=lambda one: -one[0] / one[1].minutes) if fall > LEAST_FALL * sd
    ]
    if not order:
        return Advice(few=few, dear=dear)
    # One alone may decide nothing, and several together: the best of them is first, if all are worth it.
    now, minutes, gain = case.estimate, 0.0, -math.inf
    for candidate in order:
        now, minutes = after_reading(now, candidate), minutes + candidate.minutes
        narrowed = narrowed_by(now)
        if narrowed < NARROWED * sd:
            read_sd = sd * narrowed / math.sqrt(sd**2 - narrowed**2)
            gain = max(gain, replace(matter, readings={LEFT: ToRead(minutes, read_sd)}).gain(LEFT))
    # What nobody read is no reason for the dear one, unless not even knowing it all would be worth a reading.
    if gain <= 0 and matter.value(LEFT) <= min(c.minutes for c in order) / 60 * hour:
        return Advice(dear)
    return Advice(None, few, dear, order[0].key, order[0].minutes)


def _over(left: Quantity, limit: float) -> float:
    """How far over its limit, in its own doubt."""
    return (left.value - limit) / max(left.sd, LEAST_SD)


def _matter(few: Remedy, dear: Remedy, limit: float, left: Quantity, sure: Quantity, hour: float) -> Matter:
    """The choice between the two by what the few hours leave: that is the one thing in doubt."""
    again = dear.cost + dear.hours * hour
    scatter = min(max(sure.sd, LEAST_SD), 0.3 * limit)
    return Matter(
        limit,
        again,
        hour,
        {LEFT: Doubt(1.0, left.value, max(left.sd, LEAST_SD))},
        {
            FEW: Repair(few.cost, few.hours, LEAST_SD, {}),
            DEAR: Repair(dear.cost, dear.hours, scatter, {LEFT: 0.0}),
        },
        {},
    )
