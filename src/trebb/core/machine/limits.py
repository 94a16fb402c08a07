"""Rated limits and how a figure stands to them."""

from __future__ import annotations

from enum import Enum

from msgspec import Struct

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


class RatedLimit(Struct, frozen=True):
    """A limit with where it comes from."""

    key: str
    label: str
    limit_mm: float
    source: str


_PRACTICE = "class default, shop practice: no standard rates {what}"
_TEST = (
    "class default, about what acceptance tests of such machines allow; your edition or the machine's "
    "own card goes first"
)
_CLASSES = ("toolroom", "ordinary", "rough")
# Key, label, limits by class in mm, source.
_LIMITS: tuple[tuple[str, str, tuple[float, float, float], str], ...] = (
    (
        "cross_lash",
        "Cross-slide lash",
        (3 * THOU_MM, 6 * THOU_MM, 10 * THOU_MM),
        _PRACTICE.format(what="lash"),
    ),
    (
        "compound_lash",
        "Compound lash",
        (3 * THOU_MM, 6 * THOU_MM, 10 * THOU_MM),
        _PRACTICE.format(what="lash"),
    ),
    (
        "lead_play",
        "Carriage's play on the lead screw",
        (0.100, 0.200, 0.400),
        _PRACTICE.format(what="it: what only delays the pick-up of a thread may be large"),
    ),
    ("table_lash", "Table lash", (0.050, 0.120, 0.250), _PRACTICE.format(what="lash")),
    ("mill_cross_lash", "Cross lash", (0.050, 0.120, 0.250), _PRACTICE.format(what="lash")),
    (
        "knee_lash",
        "Knee lash",
        (0.100, 0.200, 0.400),
        _PRACTICE.format(what="lash that the knee's weight takes up"),
    ),
    (
        "lift_lash",
        "Table lift lash",
        (0.200, 0.400, 0.800),
        _PRACTICE.format(what="lash that the table's weight takes up"),
    ),
    ("lead_error", "Screw's error, in 300 mm", (0.015, 0.030, 0.060), _TEST),
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
    ("twist", "Twist of the bed, in 1000 mm", (0.020, 0.040, 0.080), _TEST),
    ("straight_up", "Ways straight in height", (0.015, 0.030, 0.060), _TEST),
    ("straight_side", "Tool's path straight sideways", (0.010, 0.020, 0.040), _TEST),
    ("way_wear", "Wear of the ways", (0.030, 0.080, 0.200), _PRACTICE.format(what="wear")),
    ("taper_chuck", "Taper in the chuck, on diameter in 300 mm", (0.010, 0.020, 0.040), _TEST),
    ("axis_rise", "Spindle axis in height, in 300 mm", (0.015, 0.025, 0.050), _TEST),
    ("facing", "Hollow or proud in facing, over 300 mm diameter", (0.012, 0.020, 0.040), _TEST),
    ("tail_side", "Tailstock across", (0.010, 0.015, 0.030), _TEST),
    ("tail_high", "Tailstock in height", (0.020, 0.030, 0.060), _TEST),
    (
        "tail_wander",
        "Tailstock, one tightening to the next",
        (0.006, 0.012, 0.025),
        _PRACTICE.format(what="it"),
    ),
    ("tail_key", "Tailstock's key in its slot", (0.020, 0.040, 0.080), _PRACTICE.format(what="it")),
    ("quill", "Quill against the bed, in 100 mm", (0.010, 0.020, 0.040), _TEST),
    (
        "soft_foot",
        "Foot that moves when its bolt is slackened",
        (0.030, 0.050, 0.100),
        _PRACTICE.format(what="it"),
    ),
    ("stand_flex", "Give of the stand when pushed", (0.030, 0.060, 0.120), _PRACTICE.format(what="it")),
    ("gib_play", "Play of a slide on its gib", (0.020, 0.040, 0.080), _PRACTICE.format(what="gib play")),
    ("gib_even", "Play that differs along the travel", (0.015, 0.030, 0.060), _PRACTICE.format(what="it")),
    ("saddle_drop", "Drop of the saddle", (0.10, 0.25, 0.50), _PRACTICE.format(what="it")),
    ("tram", "Head square to the table, in 300 mm", (0.010, 0.020, 0.040), _TEST),
    ("drill_tram", "Table square to the quill, in 300 mm", (0.030, 0.060, 0.120), _TEST),
    ("travel_square", "Travel square to the table, in 300 mm", (0.015, 0.025, 0.050), _TEST),
    ("drill_travel", "Quill and column square to the table, in 300 mm", (0.050, 0.100, 0.200), _TEST),
    ("table_flat", "Table's top", (0.020, 0.040, 0.080), _TEST),
    ("shaft_bend", "Shaft’s bend, total reading", (0.020, 0.050, 0.100), _PRACTICE.format(what="it")),
    ("shaft_wear", "Wear of a journal or seat", (0.015, 0.030, 0.060), _PRACTICE.format(what="wear")),
    ("shaft_play", "Play of a shaft in its bore", (0.025, 0.050, 0.100), _PRACTICE.format(what="play")),
    ("shaft_float", "End float of a shaft", (0.050, 0.150, 0.300), _PRACTICE.format(what="it")),
    ("shaft_rock", "Rock of a wheel on its shaft", (0.100, 0.250, 0.500), _PRACTICE.format(what="it")),
    ("bore_wear", "Wear of a bore", (0.015, 0.030, 0.060), _PRACTICE.format(what="wear")),
    ("bore_oval", "Out-of-round of a bore", (0.010, 0.020, 0.040), _PRACTICE.format(what="it")),
    ("bore_play", "Play in a bore", (0.025, 0.050, 0.100), _PRACTICE.format(what="play")),
    ("gear_lash", "Lash of a pair of gears", (0.150, 0.300, 0.600), _PRACTICE.format(what="lash")),
    ("gear_tight", "Lash lacking at the tightest tooth", (0.010, 0.020, 0.040), _PRACTICE.format(what="it")),
    ("gear_runout", "Lash that changes once a turn", (0.040, 0.080, 0.160), _PRACTICE.format(what="it")),
    ("gear_teeth", "Tooth against tooth", (0.030, 0.060, 0.120), _PRACTICE.format(what="it")),
    ("gear_play", "Play of a gear on its shaft", (0.030, 0.060, 0.120), _PRACTICE.format(what="play")),
    ("cone_draw", "Draw lacking of what is wanted", (0.2, 0.4, 0.8), _PRACTICE.format(what="it")),
    ("cone_lining", "Lining lacking over its rivets", (0.1, 0.2, 0.4), _PRACTICE.format(what="it")),
    ("cone_angle", "Cone against its cup, on diameter", (0.05, 0.10, 0.20), _PRACTICE.format(what="it")),
    ("crack", "Crack that draws", (1.0, 1.0, 3.0), _PRACTICE.format(what="it")),
    ("cast_face", "Warp of a casting's seat", (0.020, 0.040, 0.100), _PRACTICE.format(what="it")),
    ("jaw_top", "Top of a vise over its base", (0.010, 0.030, 0.080), _PRACTICE.format(what="it")),
    ("jaw_pair", "Jaw plates as a pair", (0.005, 0.015, 0.040), _PRACTICE.format(what="it")),
    ("jaw_mark", "Depth of a mark", (0.100, 0.500, 2.000), _PRACTICE.format(what="looks")),
    ("index_total", "Divisions at the work", (0.020, 0.050, 0.120), _PRACTICE.format(what="them")),
    ("index_space", "Worst space at the work", (0.015, 0.040, 0.100), _PRACTICE.format(what="it")),
    ("index_pin", "Detent's play at the work", (0.010, 0.030, 0.080), _PRACTICE.format(what="play")),
    ("cutter_hole", "Hole over a cutter's name", (0.015, 0.030, 0.060), _PRACTICE.format(what="it")),
    ("cutter_runs", "Cutter off centre, total reading", (0.010, 0.025, 0.060), _PRACTICE.format(what="it")),
    ("cutter_own", "Flutes against each other", (0.005, 0.012, 0.030), _PRACTICE.format(what="it")),
    ("train_whole", "Lost motion of a train at its end", (0.3, 0.8, 2.0), _PRACTICE.format(what="it")),
    ("train_mesh", "Widest mesh of a train", (0.15, 0.30, 0.60), _PRACTICE.format(what="it")),
    ("way_flat", "Flatness of a way by map", (0.010, 0.025, 0.060), _TEST),
    ("chuck", "Chuck on a ground pin", (0.030, 0.060, 0.120), _PRACTICE.format(what="an old chuck")),
)
CLASS_LIMITS: dict[str, dict[str, RatedLimit]] = {
    name: {
        key: RatedLimit(key, label, limits[i], f"{name} {source}") for key, label, limits, source in _LIMITS
    }
    for i, name in enumerate(_CLASSES)
}


def class_limit(machine_class: str, key: str) -> RatedLimit:
    """Default limit of a class of machine; raises InputError for an unknown class or key."""
    try:
        return CLASS_LIMITS[machine_class][key]
    except KeyError:
        raise InputError(
            f"limit “{key}” of class “{machine_class}”", f"classes are {', '.join(CLASS_LIMITS)}"
        ) from None


# Where the 95 % interval reaches over the limit, the value still decides if ± is no more than this of it.
NARROW_SHARE = 0.6
SMALL_SHARE = 0.35
EVEN_SHARE = 0.25  # of ±: half a standard deviation, three to one at best


def judged(value_mm: float, low_mm: float, high_mm: float, limit_mm: float) -> State:
    """Where a figure with its 95 % interval stands.

    The interval decides. Where it reaches over the limit the value does, if ±
    is little more than half the limit: over it is beyond, under it only near, since it
    may be over. With a wider ± it cannot be said yet (`UNKNOWN`), nor where ± is not small against the limit
    and the value so close to it that one side is hardly likelier than the other.
    """
    if low_mm > limit_mm or high_mm <= limit_mm:
        return state_of(value_mm, limit_mm)
    half = (high_mm - low_mm) / 2
    if half > NARROW_SHARE * limit_mm:
        return State.UNKNOWN
    if half > SMALL_SHARE * limit_mm and abs(value_mm - limit_mm) < EVEN_SHARE * half:
        return State.UNKNOWN
    return State.BEYOND if value_mm > limit_mm else State.NEAR


def state_of(value_mm: float | None, limit_mm: float) -> State:
    """Where a figure stands; None is not measured."""
    if value_mm is None:
        return State.UNKNOWN
    if value_mm > limit_mm:
        return State.BEYOND
    return State.NEAR if value_mm > NEAR_SHARE * limit_mm else State.WITHIN
