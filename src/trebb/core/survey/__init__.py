"""Set-ups: one module each, holding its places, rows, reduction, figure, steps, cautions and limits.

A new set-up is one file and one line in `SET_UPS`.
"""

from trebb.core.survey import end_float, lash, push_pull, thread_size, turns_travel
from trebb.core.survey.base import InstrumentKind, Place, SetUp
from trebb.core.survey.reduction import Outlier, PlaceReadings, observations, outlier, pooled_sd, reduced_mean, spread

SET_UPS: tuple[SetUp, ...] = (lash.SET_UP, push_pull.SET_UP, end_float.SET_UP, turns_travel.SET_UP, thread_size.SET_UP)


_BY_KEY = {s.key: s for s in SET_UPS}


def set_up(key: str) -> SetUp:
    """The set-up of that key; raises KeyError for another."""
    return _BY_KEY[key]


__all__ = [
    "SET_UPS",
    "InstrumentKind",
    "Outlier",
    "Place",
    "PlaceReadings",
    "SetUp",
    "observations",
    "outlier",
    "pooled_sd",
    "reduced_mean",
    "set_up",
    "spread",
]
