"""The error model: one condition, used four ways.

A machine's *condition* is a vector of physical error *sources* with a prior.
Every place of every set-up is a *row*: how the reading there depends on the
sources. From the same rows: `simulate` (condition to readings), `estimate`
(readings to condition with covariance), `suggest` (which set-up would settle
most, per minute) and `predict` (apply a change, say what will be read then).

Nothing here knows what a screw or a spindle is.
"""

from trebb.core.condition.estimating import (
    Z95,
    Estimate,
    Observation,
    Quantity,
    ReadingsOnly,
    by_readings,
    estimate,
    size_of,
)
from trebb.core.condition.grouping import Shared, grouped
from trebb.core.condition.model import ErrorModel, Row, Source
from trebb.core.condition.predicting import Change, Linear, Shift, apply_change, linear_of
from trebb.core.condition.separating import Tangle, tangles
from trebb.core.condition.simulating import draw_condition, simulate
from trebb.core.condition.suggesting import Candidate, Suggestion, suggest, total_doubt

__all__ = [
    "Z95",
    "Candidate",
    "Change",
    "ErrorModel",
    "Estimate",
    "Linear",
    "Observation",
    "Quantity",
    "ReadingsOnly",
    "Row",
    "Shared",
    "Shift",
    "Source",
    "Suggestion",
    "Tangle",
    "apply_change",
    "by_readings",
    "draw_condition",
    "estimate",
    "grouped",
    "linear_of",
    "simulate",
    "size_of",
    "suggest",
    "tangles",
    "total_doubt",
]
