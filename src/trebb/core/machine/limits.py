"""Rated limits and how a figure stands to them."""

from __future__ import annotations

from dataclasses import dataclass
from enum import Enum

from trebb.core.errors import InputError
from trebb.core.units import THOU_MM

# A figure within the last fifth below its limit is near it: one more year's wear uses that up.
NEAR_SHARE = 0.8


class State(Enum):
    """How a figure stands to its limit. Shape carries it, colour repeats it."""

    WITHIN = "within"
    NEAR = "near"
    BEYOND = "beyond"
    UNKNOWN = "not measured"


@dataclass(frozen=True)
class RatedLimit:
    """A limit with where it comes from."""

    key: str
    label: str
    limit_mm: float
    source: str


_PRACTICE = "class default, shop practice: no standard rates lash"
CLASS_LIMITS: dict[str, dict[str, RatedLimit]] = {
    "toolroom": {"cross_lash": RatedLimit("cross_lash", "Cross-slide lash", 3 * THOU_MM, f"toolroom {_PRACTICE}")},
    "ordinary": {"cross_lash": RatedLimit("cross_lash", "Cross-slide lash", 6 * THOU_MM, f"ordinary {_PRACTICE}")},
    "rough": {"cross_lash": RatedLimit("cross_lash", "Cross-slide lash", 10 * THOU_MM, f"rough work {_PRACTICE}")},
}


def class_limit(machine_class: str, key: str) -> RatedLimit:
    """Default limit of a class of machine; raises InputError for an unknown class or key."""
    try:
        return CLASS_LIMITS[machine_class][key]
    except KeyError:
        raise InputError(f"limit “{key}” of class “{machine_class}”", f"classes are {', '.join(CLASS_LIMITS)}") from None


def state_of(value_mm: float | None, limit_mm: float) -> State:
    """Where a figure stands; None is not measured."""
    if value_mm is None:
        return State.UNKNOWN
    if value_mm > limit_mm:
        return State.BEYOND
    return State.NEAR if value_mm > NEAR_SHARE * limit_mm else State.WITHIN
