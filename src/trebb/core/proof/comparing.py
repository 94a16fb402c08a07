"""Before and after, place by place."""

from __future__ import annotations

import math
import statistics
from collections.abc import Sequence
from dataclasses import dataclass

from trebb.core.condition import Estimate
from trebb.core.condition.predicting import predicted_reading
from trebb.core.machine import ScrewDrive
from trebb.core.survey import PlaceReadings, SetUp, observations

Z95 = 1.959963984540054


@dataclass(frozen=True)
class Comparison:
    """One place before and after, mm.

    `is_shown` says that the difference is larger than the measuring;
    `as_predicted` that the reading after lies in the predicted band (None where
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
    set_up: SetUp, drive: ScrewDrive, before: Sequence[PlaceReadings], after: Sequence[PlaceReadings], predicted: Estimate | None
) -> list[Comparison]:
    """Places read both before and after, in the set-up's order; places read once only are left out.

    ± is the 95 % half width of the mean of the repeats; the predicted band
    includes the noise of the reading itself.
    """
    was = dict(zip([p.place for p in before if p.values], observations(set_up, drive, before), strict=True))
    now = dict(zip([p.place for p in after if p.values], observations(set_up, drive, after), strict=True))
    result = []
    for place in (p.key for p in set_up.places(drive)):
        if place not in was or place not in now:
            continue
        expected = predicted_reading(predicted, now[place].row) if predicted is not None else None
        result.append(
            Comparison(
                set_up.key, place,
                was[place].value, Z95 * was[place].row.noise_sd,
                now[place].value, Z95 * now[place].row.noise_sd,
                expected[0] if expected else None, Z95 * expected[1] if expected else None,
            )
        )  # fmt: skip
    return result


def mean_change_mm(rows: Sequence[Comparison]) -> float:
    """Mean improvement over the places, mm; raises statistics.StatisticsError when there is none."""
    return statistics.fmean(row.change_mm for row in rows)
