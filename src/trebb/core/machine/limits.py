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


_PRACTICE = "class default, shop practice: no standard rates {what}"
_TEST = "class default, about what acceptance tests of such machines allow; your edition or the machine's own card goes first"
_CLASSES = ("toolroom", "ordinary", "rough")
# Key, label, limits by class in mm, source.
_LIMITS: tuple[tuple[str, str, tuple[float, float, float], str], ...] = (
    ("cross_lash", "Cross-slide lash", (3 * THOU_MM, 6 * THOU_MM, 10 * THOU_MM), _PRACTICE.format(what="lash")),
    ("lathe_work", "Error at the work, spindle", (0.015, 0.025, 0.050), _TEST),
    ("mill_work", "Error at the work, spindle", (0.015, 0.025, 0.050), _TEST),
    ("drill_work", "Error at the drill", (0.050, 0.080, 0.150), _TEST),
    ("seat_repeat", "Seat, one seating to the next", (0.006, 0.010, 0.025), _PRACTICE.format(what="it")),
    ("spindle_slack", "Slack at the nose", (0.005, 0.010, 0.025), _PRACTICE.format(what="slack")),
    ("mill_slack", "Slack at the quill's end", (0.010, 0.020, 0.040), _PRACTICE.format(what="slack")),
    ("drill_slack", "Slack at the quill's end", (0.020, 0.040, 0.080), _PRACTICE.format(what="slack")),
    ("spindle_float", "End float of the spindle", (0.005, 0.010, 0.025), _TEST),
    ("drill_float", "End float of the spindle", (0.030, 0.060, 0.120), _PRACTICE.format(what="it on drills")),
    ("coupler", "Slack in the drive coupler", (0.08, 0.20, 0.40), _PRACTICE.format(what="it")),
    ("chuck", "Chuck on a ground pin", (0.030, 0.060, 0.120), _PRACTICE.format(what="an old chuck")),
)
CLASS_LIMITS: dict[str, dict[str, RatedLimit]] = {
    name: {key: RatedLimit(key, label, limits[i], f"{name} {source}") for key, label, limits, source in _LIMITS}
    for i, name in enumerate(_CLASSES)
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
