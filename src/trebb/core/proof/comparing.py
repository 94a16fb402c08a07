"""Before and after, place by place."""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from typing import Any

from msgspec import Struct

from trebb.core.condition import Z95, Estimate
from trebb.core.condition.predicting import predicted_reading
from trebb.core.survey import AnySetUp, PlaceReadings, Result, results


class Comparison(Struct, frozen=True):
    """One figure before and after, mm.

    `is_shown` says that the difference is larger than the measuring;
    `as_predicted` that the figure after lies in the predicted band (None where
    nothing was predicted).
    """

    set_up: str
    place: str
    before_mm: float
    before_half_mm: float
    after_mm: float
    after_half_mm: float
    predicted_mm: float | None
    predicted_half_mm: float | None

    @property
    def change_mm(self) -> float:
        """After less before; negative is better for plays."""
        return self.after_mm - self.before_mm

    @property
    def is_shown(self) -> bool:
        return abs(self.change_mm) > math.hypot(self.before_half_mm, self.after_half_mm)

    @property
    def as_predicted(self) -> bool | None:
        if self.predicted_mm is None or self.predicted_half_mm is None:
            return None
        return abs(self.after_mm - self.predicted_mm) <= self.predicted_half_mm


def compare(
    set_up: AnySetUp,
    subjects: tuple[Any, Any],
    before: Sequence[PlaceReadings],
    after: Sequence[PlaceReadings],
    predicted: Estimate | None,
) -> list[Comparison]:
    """What was read both before and after, in the set-up's order; what was read once only is left out.

    `subjects` are those by which the readings before and after are understood.
    ± is the 95 % half width; the predicted band includes the noise of the
    reading itself.
    """
    was = {r.place: r for r in results(set_up, subjects[0], before)}
    subject = subjects[1]
    now = {r.place: r for r in results(set_up, subject, after)}
    order = {p.key: i for i, p in enumerate(set_up.places(subject))}
    found = []
    for place in sorted(now, key=lambda key: order.get(key, 0)):
        if place not in was:
            continue
        expected = _expected(set_up, subject, now[place], predicted) if predicted is not None else None
        found.append(
            Comparison(
                set_up.key,
                place,
                was[place].value_mm,
                was[place].half_mm,
                now[place].value_mm,
                now[place].half_mm,
                expected[0] if expected else None,
                expected[1] if expected else None,
            )
        )
    return found


def _expected(
    set_up: AnySetUp, subject: Any, result: Result, predicted: Estimate
) -> tuple[float, float] | None:
    """Predicted value and 95 % half width of a figure."""
    if result.row is not None:
        value, sd = predicted_reading(predicted, result.row)
        return value, Z95 * sd
    return set_up.expected(subject, predicted, result.place) if set_up.expected is not None else None


def mean_change_mm(rows: Sequence[Comparison]) -> float:
    """Mean improvement over the places, mm; raises statistics.StatisticsError when there is none."""
    return statistics.fmean(row.change_mm for row in rows)
