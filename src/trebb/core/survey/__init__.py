"""What every set-up is: places, rows, reduction, figure, steps, cautions, limits. Those of a family stand in
its folder.

A new set-up is one file and one line in its family's record (its folder's `__init__`).
"""

from collections.abc import Sequence
from typing import Any

from trebb.core.register import FAMILIES
from trebb.core.survey.admitting import admit_reading, doubt_of, read_typed, readings_typed
from trebb.core.survey.base import AnySetUp, InstrumentKind, Lot, Place, PlaceReadings, Result, SetUp
from trebb.core.survey.bounding import Bound
from trebb.core.survey.reduction import (
    Outlier,
    information,
    observations,
    outlier,
    pooled_sd,
    reduced_mean,
    results,
    spread,
)

_LOADED: dict[str, tuple[AnySetUp, ...]] = {}
_BY_KEY: dict[str, AnySetUp] = {}


def set_ups_of(family: str) -> tuple[AnySetUp, ...]:
    """The set-ups of a family of assemblies, in order."""
    if family not in _LOADED:
        _LOADED[family] = tuple(FAMILIES[family].each(FAMILIES[family].set_ups))
        _BY_KEY.update((s.key, s) for s in _LOADED[family])
    return _LOADED[family]


def bounds_of(family: str, subject: Any) -> Sequence[Bound]:
    """What the set-ups of a family bound each other by."""
    record = FAMILIES[family]
    found: Sequence[Bound] = record.named(record.bounds)(subject) if record.bounds else ()
    return found


def set_up(key: str) -> AnySetUp:
    """The set-up of that key; raises KeyError for another."""
    for family in FAMILIES:
        if key in _BY_KEY:
            break
        set_ups_of(family)
    return _BY_KEY[key]


def all_set_ups() -> tuple[AnySetUp, ...]:
    """Every set-up of every family."""
    return tuple(s for family in FAMILIES for s in set_ups_of(family))


__all__ = [
    "AnySetUp",
    "InstrumentKind",
    "Lot",
    "Outlier",
    "Place",
    "PlaceReadings",
    "Result",
    "SetUp",
    "admit_reading",
    "all_set_ups",
    "bounds_of",
    "doubt_of",
    "information",
    "observations",
    "outlier",
    "pooled_sd",
    "read_typed",
    "readings_typed",
    "reduced_mean",
    "results",
    "set_up",
    "set_ups_of",
    "spread",
]
