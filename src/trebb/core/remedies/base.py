"""What a remedy says of itself, and its prediction."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from trebb.core.condition import Change, Estimate, Quantity, apply_change
from trebb.core.findings.screw_lash import LashSplit, lash_combination
from trebb.core.machine import STATIONS, ScrewDrive, wear_key
from trebb.core.units import UnitSystem


@dataclass(frozen=True)
class Prediction:
    """What a remedy would leave along the travel, and where it would bind.

    `lash` holds one Quantity a station, mm; `binds_at` the stations where the
    nut would have less than no clearance.
    """

    after: Estimate
    lash: tuple[Quantity, ...]
    binds_at: tuple[int, ...]

    @property
    def worst(self) -> Quantity:
        """The largest lash left."""
        return max(self.lash, key=lambda q: q.value)


@dataclass(frozen=True)
class Remedy:
    """One way to mend.

    Parameters
    ----------
    cost : money at the shop's usual prices, in its own currency; `hours` of bench time;
        `wait_days` for parts or others.
    needs : what must be at hand.
    risk : one sentence, from the prediction.
    parts : part families it makes.
    """

    key: str
    title: str
    summary: str
    change: Callable[[ScrewDrive, Estimate], Change]
    cost: float
    hours: float
    wait_days: float
    needs: str
    risk: Callable[[ScrewDrive, LashSplit, Prediction, UnitSystem], str]
    parts: tuple[str, ...] = ()
    family: str = "screw_drive"


def predict(remedy: Remedy, drive: ScrewDrive, now: Estimate) -> Prediction:
    """Lash along the travel to expect after a remedy, with its 95 % band."""
    return _predict(now, remedy.change(drive, now))


def _predict(now: Estimate, change: Change) -> Prediction:
    after = apply_change(now, change)
    lash = tuple(after.combination(lash_combination(k)) for k in range(1, STATIONS + 1))
    free = [after.combination({"nut": 1.0, wear_key(k): 1.0}) for k in range(1, STATIONS + 1)]
    return Prediction(after, lash, tuple(k + 1 for k, q in enumerate(free) if q.value < 0))
