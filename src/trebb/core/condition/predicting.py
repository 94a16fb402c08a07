"""What a repair would leave: apply a change to the condition."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeVar

import numpy as np
from msgspec import Struct, field

from trebb.core.condition.draws import Array
from trebb.core.condition.estimating import Estimate
from trebb.core.condition.model import ErrorModel, Row
from trebb.core.condition.normal import truncated_moments

CERTAIN_SD = 1e-9  # a covariance must stay invertible even where the repair leaves no doubt


class Shift(Struct, frozen=True):
    """What happens to one source, in its unit.

    New value = amount + Σ of·(old sources), ± sd. Empty `of` forgets the old
    condition (a new nut); `{"itself": 1}` moves it (a shim); other sources may
    be named where the repair follows them (a split nut closed on the least worn thread).
    """

    amount: float
    sd: float
    of: Mapping[str, float] = field(default_factory=dict)


class Change(Struct, frozen=True):
    """A repair seen by the error model: every source not named stays as it is, doubt included."""

    shifts: Mapping[str, Shift] = field(default_factory=dict)

    def then(self, later: Change) -> Change:
        """This change with another done at the same time; the later one wins where both name a source."""
        return Change({**self.shifts, **later.shifts})

    def apply_to(
        self, condition: Mapping[str, float], model: ErrorModel, rng: np.random.Generator
    ) -> dict[str, float]:
        """A true condition after the repair was really done, its own scatter drawn at random."""
        result = dict(condition)
        for key, shift in self.shifts.items():
            base = shift.amount + sum(c * condition[k] for k, c in shift.of.items())
            value = base + shift.sd * float(rng.standard_normal())
            bounded = model.source(key).is_clearance and not shift.of
            while bounded and value < 0 and shift.sd > 0:
                value = base + shift.sd * float(rng.standard_normal())
            result[key] = value
        return result


class Linear(Struct, frozen=True):
    """What a change makes of a condition: gain · condition + added, with a doubt of its own (`extra`, the
    variance of each source). `cavity` : clearances it leaves that cannot be less than nothing.
    """

    gain: Array
    added: Array
    extra: Array
    cavity: Mapping[int, tuple[float, float]]


def linear_of(change: Change, model: ErrorModel) -> Linear:
    """A change as a linear map of a model's sources."""
    gain = np.eye(len(model.sources))
    added = np.zeros(len(model.sources))
    extra = np.zeros(len(model.sources))
    cavity = {}
    for key, shift in change.shifts.items():
        i = model.position(key)
        gain[i, :] = model.vector(shift.of)
        added[i], sd = shift.amount, max(shift.sd, CERTAIN_SD)
        extra[i] = sd**2
        if not shift.of and model.sources[i].is_clearance:
            cavity[i] = (shift.amount, sd)
            added[i], extra[i] = truncated_moments(shift.amount, sd, 0.0)
    return Linear(gain, added, extra, cavity)


E = TypeVar("E", bound=Estimate)


def apply_change(now: E, change: Change) -> E:
    """The condition to expect after a change, with covariance.

    Predicted readings follow from `Estimate.combination` with the row's
    coefficients and noise.
    """
    model = now.model
    linear = linear_of(change, model)
    gone = {model.position(key) for key in change.shifts}
    cavity = {**{i: one for i, one in now.cavity.items() if i not in gone}, **linear.cavity}
    mean = linear.gain @ now.mean + linear.added
    covariance = linear.gain @ now.covariance @ linear.gain.T + np.diag(linear.extra)
    return type(now)(model, mean, covariance, cavity, now.readings)


def predicted_reading(after: Estimate, row: Row) -> tuple[float, float]:
    """Value and sd of the reading that a row will show, its own noise included."""
    quantity = after.combination(row.coefficients, offset=row.offset, extra_sd=row.noise_sd)
    return quantity.value, quantity.sd
