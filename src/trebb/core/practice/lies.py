"""Set-ups that lie: what is amiss with how a reading is taken, what puts it right, and what it does to the
reading.

What puts one right is offered at every set-up that it may belong to, whether it is amiss or not.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from msgspec import Struct

from trebb.core.errors import InputError

Shifted = Mapping[str, float]


class Preparation(Struct, frozen=True):
    """What one may do before a reading, in minutes of bench time."""

    key: str
    words: str
    minutes: float
    set_ups: tuple[str, ...]


class Lie(Struct, frozen=True):
    """One way in which a set-up lies.

    Parameters
    ----------
    cured_by : the preparation that puts it right.
    families : assemblies that may have it.
    usual, most : its amount in the unit of `what`, as drawn usually, and at the most.
    shift(subject, amount) : what it adds to each source while the set-up is read, in the source's unit.
    raw(subject, raw, amount) : what it makes of the raw reading.
    why : a sentence for afterwards.
    """

    key: str
    label: str
    cured_by: str
    families: tuple[str, ...]
    set_ups: tuple[str, ...]
    what: str
    usual: float
    most: float
    why: str
    shift: Callable[[Any, float], Shifted] = lambda subject, amount: {}
    raw: Callable[[Any, float, float], float] = lambda subject, raw, amount: raw


_SEATED = ("test_bar", "taper_bore", "bar_sweep")
_GIB = ("feelers", "stand_out", "rock")
_TAIL = ("centres", "quill", "long_piece")
_FEET = (
    "level_across",
    "level_along",
    "two_collar",
    "trials",
    "facing",
    "bar_sweep",
    "centres",
    "long_piece",
)
_TURNS = ("turns_travel",)
_FINE = (
    "nose",
    "test_bar",
    "taper_bore",
    "push_test",
    "spindle_float",
    "end_float",
    "centres",
    "bar_sweep",
    "shaft_turn",
    "rock",
    "bore_gauge",
    "bore_push",
)

PREPARATIONS: dict[str, Preparation] = {
    p.key: p
    for p in (
        Preparation("clean_taper", "Wipe taper and bar clean", 1.5, _SEATED),
        Preparation("push_home", "Push the gib fully home", 2.0, _GIB),
        Preparation("clamp", "Tighten it as for work", 0.5, _TAIL),
        Preparation("bed_feet", "Bed the foot that rocks", 4.0, _FEET),
        Preparation("count_again", "Count the turns again", 1.0, _TURNS),
        Preparation("try_file", "Try a file on it", 1.0, ("bore_gauge", "shaft_sizes")),
        Preparation("finer", "Take the finer indicator", 1.0, _FINE),
    )
}


def _open(subject: Any, amount: float) -> Shifted:
    by = amount / subject.ratio
    return {"gap.thin": by, "gap.thick": 1.6 * by}


def _coarse(subject: Any, raw: float, amount: float) -> float:
    return round(raw / amount) * amount


LIES: dict[str, Lie] = {
    lie.key: lie
    for lie in (
        Lie(
            "dirty_seat",
            "Dirt in the taper",
            "clean_taper",
            ("spindle",),
            _SEATED,
            "scatter of a seating, mm",
            0.010,
            0.05,
            "A chip sat in the taper: no seating was like the last.",
            shift=lambda subject, amount: {"seat": amount},
        ),
        Lie(
            "gib_not_home",
            "Gib not home",
            "push_home",
            ("gib",),
            ("feelers", "rock"),
            "stands off home by, mm",
            3.0,
            8.0,
            "Its rear screw stopped the gib before it was home: both ends read open, the thick end more.",
            shift=_open,
        ),
        Lie(
            "loose_tailstock",
            "Tailstock loose",
            "clamp",
            ("tailstock",),
            _TAIL,
            "shifts when its bolts go down by, mm",
            0.06,
            0.5,
            "The tailstock was read loose: it moves when its bolts go down.",
            shift=lambda subject, amount: {"tail_side": amount},
        ),
        Lie(
            "foot_in_air",
            "A foot in the air",
            "bed_feet",
            ("headstock", "tailstock"),
            _FEET,
            "twist while it hangs, mm a metre",
            0.35,
            2.0,
            "A foot hung in the air: the bed stood twisted while it was read.",
            shift=lambda subject, amount: {"twist": amount},
        ),
        Lie(
            "miscounted",
            "Turns miscounted",
            "count_again",
            ("screw_drive",),
            _TURNS,
            "turns too many",
            1.0,
            3.0,
            "A turn more was counted than was read off: the lead came out wrong.",
            raw=lambda subject, raw, amount: raw * (1 + amount / max(subject.turns, 1)),
        ),
        Lie(
            "coarse",
            "A cheap indicator",
            "finer",
            ("spindle", "screw_drive", "tailstock", "headstock", "gib", "shaft", "bore"),
            _FINE,
            "its last digit jumps by, mm",
            0.010,
            0.10,
            "The indicator's last digit jumped: what was smaller than it was not shown.",
            raw=_coarse,
        ),
    )
}


def lie(key: str) -> Lie:
    """The lie of that key; raises InputError for another."""
    if key not in LIES:
        raise InputError(f"set-up that lies “{key}”", f"known are {', '.join(LIES)}")
    return LIES[key]


def preparations_of(set_up: str) -> tuple[Preparation, ...]:
    """What may be done before a set-up is read, in order."""
    return tuple(p for p in PREPARATIONS.values() if set_up in p.set_ups)


class Lying(Struct, frozen=True):
    """A lie at work, of a size."""

    lie: Lie
    amount: float

    def touches(self, set_up: str) -> bool:
        """Whether a set-up lies by it."""
        return set_up in self.lie.set_ups


def lying(amounts: Mapping[str, float], done: frozenset[str] = frozenset()) -> tuple[Lying, ...]:
    """The lies at work that no preparation has put right. `amounts` in the units of their lies."""
    found = (Lying(lie(key), amount) for key, amount in amounts.items())
    return tuple(one for one in found if one.lie.cured_by not in done)
