"""What may be hidden in each practice machine: causes, shapes, and where they are found."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from typing import Any

import numpy as np
from msgspec import Struct, field

from trebb.core.condition.draws import Array, combined
from trebb.core.errors import InputError

Drawn = Mapping[str, Array]
Condition = dict[str, float]
Share = Callable[[Any, Drawn, Mapping[str, float]], Array]
Shape = Callable[[np.random.Generator], Condition]
NOTHING = "nothing"
LEAST, MOST = 1.8, 4.0  # limits that a planted cause comes to


class Cause(Struct, frozen=True):
    """One thing that may be wrong.

    Parameters
    ----------
    label : how it is said.
    share(subject, drawn, limits) : how much it comes to, in limits, one a draw.
    shape(rng) : what it is made of, by source; drawn as large as wanted.
    """

    key: str
    label: str
    share: Share
    shape: Shape


class Ground(Struct, frozen=True):
    """An assembly to practise on: of a kind of machine, or a piece `under` one of its assemblies.

    `whole` is a figure that several causes add up to, in limits: a sum is judged as a sum. `also` names
    assemblies whose set-ups tell of it too.
    """

    key: str
    label: str
    kind: str
    assembly: str
    family: str
    causes: tuple[Cause, ...]
    limits: tuple[str, ...]
    under: str = ""
    facts: Mapping[str, str | float] = field(default_factory=dict)
    whole: Share | None = None
    also: tuple[str, ...] = ()

    def cause(self, key: str) -> Cause:
        """The cause of that key; raises InputError for another."""
        for cause in self.causes:
            if cause.key == key:
                return cause
        raise InputError(f"cause “{key}”", f"{self.label} has {', '.join(c.key for c in self.causes)}")

    def label_of(self, key: str) -> str:
        """How a cause is said, or that there is none."""
        return "Nothing is beyond its limit" if key == NOTHING else self.cause(key).label


def _alone(source: str) -> Shape:
    return lambda rng: {source: 1.0}


def _over(source: str, limit: str, factor: float = 1.0) -> Share:
    return lambda subject, drawn, limits: factor * np.abs(drawn[source]) / limits[limit]


def _fixed(**shape: float) -> Shape:
    return lambda rng: {key.replace("__", "."): value for key, value in shape.items()}


def _screw_causes(limit: str) -> tuple[Cause, ...]:
    def worn(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
        return np.asarray(np.max([drawn[f"wear.{i}"] for i in range(1, 6)], axis=0) / limits[limit])

    def middle(rng: np.random.Generator) -> Condition:
        most = int(rng.integers(2, 5))
        return {f"wear.{i}": float(math.exp(-(((i - most) / 1.3) ** 2))) for i in range(1, 6)}

    return (
        Cause("nut", "The nut is worn", _over("nut", limit), _alone("nut")),
        Cause("wear", "The screw is worn in the middle", worn, middle),
        Cause("float", "The screw floats in its thrust", _over("float", limit), _alone("float")),
    )


def _lash(limit: str) -> Share:
    def share(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
        worn = np.max([drawn[f"wear.{i}"] for i in range(1, 6)], axis=0)
        return np.asarray((drawn["nut"] + worn + drawn["float"] + drawn["key"]) / limits[limit])

    return share


def _vector(name: str, limit: str) -> Share:
    def share(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
        from trebb.core.families.spindle.sizes import vector_at

        z = subject.pin_near_mm if name == "chuck" else subject.work_mm
        return np.asarray(2 * np.abs(vector_at(drawn, name, z)) / limits[limit])

    return share


def _round_about(name: str) -> Shape:
    def shape(rng: np.random.Generator) -> Condition:
        angle = float(rng.uniform(0, 2 * math.pi))
        return {f"{name}.x": math.cos(angle), f"{name}.y": math.sin(angle)}

    return shape


def _seat(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
    from trebb.core.families.spindle.sizes import measure_value

    per_mm = measure_value(subject, {"seat": np.ones(1)}, "seat").value
    return np.asarray(per_mm * drawn["seat"] / limits["seat_repeat"])


def _work(limit: str) -> Share:
    def share(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
        from trebb.core.families.spindle.sizes import slack_at, turning_at

        turns = 2 * np.abs(turning_at(subject, drawn, subject.work_mm))
        loose = _seat(subject, drawn, {"seat_repeat": 1.0}) + slack_at(subject, drawn)
        return np.asarray((turns + loose) / limits[limit])

    return share


def _spindle_causes(work: str, slack: str, float_: str, *, quill: bool) -> tuple[Cause, ...]:
    def loose(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
        return np.asarray(drawn["slack"] / limits[slack])

    found = (
        Cause("bearings", "The bearings run out", _vector("bearing", work), _round_about("bearing")),
        Cause("taper", "The taper runs out", _vector("taper", work), _round_about("taper")),
        Cause("seat", "The taper's seat does not repeat", _seat, _alone("seat")),
        Cause("slack", "The bearings are slack", loose, _alone("slack")),
        Cause("float", "The spindle floats", _over("float", float_), _alone("float")),
        Cause("chuck", "The chuck runs out", _vector("chuck", "chuck"), _round_about("chuck")),
    )
    if not quill:
        return found
    return (
        *(c for c in found if c.key not in ("chuck", "slack")),
        Cause("coupler", "The coupler is slack", _over("coupler", "coupler"), _alone("coupler")),
    )


def _gib_play(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
    return np.asarray(np.maximum(drawn["gap.thin"], drawn["gap.thick"]) / limits["gib_play"])


def _uneven(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
    worn = np.stack([drawn[f"worn.{spot}"] for spot in ("left", "mid", "right")])
    return np.asarray(np.ptp(worn, axis=0) / limits["gib_even"])


def _gib_shape(rng: np.random.Generator) -> Condition:
    return {"gap.thin": 1.0, "gap.thick": float(rng.uniform(0.5, 1.4))}


def _all_play(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
    worn = np.max([drawn[f"worn.{spot}"] for spot in ("left", "mid", "right")], axis=0)
    return np.asarray(_gib_play(subject, drawn, limits) + worn / limits["gib_play"])


_GIB = (
    Cause("gib", "The gib is worn thin", _gib_play, _gib_shape),
    Cause(
        "ways",
        "The slideways are worn in the middle",
        _uneven,
        _fixed(worn__mid=1.0, worn__left=0.25, worn__right=0.1),
    ),
)
_DROP = Cause("drop", "The saddle has come down", _over("drop", "saddle_drop"), _alone("drop"))


def _bed_part(measure: str, limit: str, only: str = "") -> Share:
    """Of a figure of the bed that is linear: all of it, or what one source makes of it."""

    def share(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
        from trebb.core.families.bed.findings import linear

        c = linear(subject)[measure]
        mm = combined(drawn, {only: c[only]} if only else c)
        return np.asarray(np.abs(mm) / limits[limit])

    return share


def _quill(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
    return np.asarray(0.1 * np.hypot(drawn["quill_side"], drawn["quill_high"]) / limits["quill"])


def _either(source: str) -> Shape:
    return lambda rng: {source: float(rng.choice((-1.0, 1.0)))}


_TAIL = (
    Cause(
        "side",
        "The tailstock stands aside",
        _bed_part("tail_side", "tail_side", "tail_side"),
        _either("tail_side"),
    ),
    Cause(
        "high",
        "The tailstock is off in height",
        _bed_part("tail_high", "tail_high", "tail_high"),
        _either("tail_high"),
    ),
    Cause("key", "Its key is loose in the bed's slot", _over("tail_key", "tail_key"), _alone("tail_key")),
)
_HEAD = (
    Cause("twist", "The bed is twisted", _bed_part("taper", "taper_chuck", "twist"), _either("twist")),
    Cause("yaw", "The headstock points aside", _bed_part("taper", "taper_chuck", "yaw"), _either("yaw")),
)


def _bend(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
    sizes = [2 * np.hypot(drawn[f"bend@{z:g}.x"], drawn[f"bend@{z:g}.y"]) for z in subject.free]
    return np.asarray(np.max(sizes, axis=0) / limits["shaft_bend"])


SHAFT_STATIONS = (10.0, 56.0, 100.0, 160.0, 190.0)


def _bow(rng: np.random.Generator) -> Condition:
    angle, at = float(rng.uniform(0, 2 * math.pi)), float(rng.choice((56.0, 100.0)))
    found: Condition = {}
    for z in SHAFT_STATIONS:
        size = math.exp(-(((z - at) / 60.0) ** 2))
        found[f"bend@{z:g}.x"], found[f"bend@{z:g}.y"] = size * math.cos(angle), size * math.sin(angle)
    return found


def _worn_seats(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
    return np.asarray(
        np.max([drawn[f"wear.{seat}"] for seat in ("left", "right", "seat")], axis=0) / limits["shaft_wear"]
    )


def _a_seat(rng: np.random.Generator) -> Condition:
    seat = str(rng.choice(("left", "right")))
    return {f"wear.{seat}": 1.0, f"play.{seat}": 1.0}


_SHAFT = (
    Cause("bend", "The shaft is bent", _bend, _bow),
    Cause("wear", "A journal is worn", _worn_seats, _a_seat),
    Cause("joint", "The wheel rocks on it", _over("joint", "shaft_rock"), _alone("joint")),
)


def _bore_share(measure: str, limit: str) -> Share:
    def share(subject: Any, drawn: Drawn, limits: Mapping[str, float]) -> Array:
        depths = ("mouth", "middle", "inner end")
        if measure == "oval":
            each = [2 * np.hypot(drawn[f"oval.{d}.x"], drawn[f"oval.{d}.y"]) for d in depths]
        else:
            each = [drawn[f"wear.{d}"] for d in depths]
        return np.asarray(np.max(each, axis=0) / limits[limit])

    return share


def _bell(rng: np.random.Generator) -> Condition:
    return {"wear.mouth": 1.0, "wear.middle": 0.35, "wear.inner end": float(rng.uniform(0.2, 0.9))}


def _oval(rng: np.random.Generator) -> Condition:
    angle = float(rng.uniform(0, 2 * math.pi))
    return {
        f"oval.{d}.{axis}": size * part
        for d, size in (("mouth", 1.0), ("middle", 0.8), ("inner end", 0.7))
        for axis, part in (("x", math.cos(angle)), ("y", math.sin(angle)))
    }


_BORE = (
    Cause("wear", "The bore is worn at its mouth", _bore_share("wear", "bore_wear"), _bell),
    Cause("oval", "The bore is out of round", _bore_share("oval", "bore_oval"), _oval),
)
GROUNDS: dict[str, Ground] = {
    g.key: g
    for g in (
        Ground(
            "cross_screw",
            "Lathe, cross-slide screw",
            "lathe",
            "cross_slide",
            "screw_drive",
            _screw_causes("cross_lash"),
            ("cross_lash",),
            whole=_lash("cross_lash"),
        ),
        Ground(
            "table_screw",
            "Mill, table screw",
            "mill",
            "table_screw",
            "screw_drive",
            _screw_causes("table_lash"),
            ("table_lash",),
            whole=_lash("table_lash"),
        ),
        Ground(
            "lathe_spindle",
            "Lathe, spindle",
            "lathe",
            "spindle",
            "spindle",
            _spindle_causes("lathe_work", "spindle_slack", "spindle_float", quill=False),
            ("lathe_work", "seat_repeat", "spindle_slack", "spindle_float", "chuck"),
            whole=_work("lathe_work"),
        ),
        Ground(
            "drill_spindle",
            "Pillar drill, spindle and quill",
            "drill",
            "spindle",
            "spindle",
            _spindle_causes("drill_work", "drill_slack", "drill_float", quill=True),
            ("drill_work", "seat_repeat", "drill_slack", "drill_float", "coupler", "chuck"),
            whole=_work("drill_work"),
        ),
        Ground(
            "saddle",
            "Lathe, saddle on its gib",
            "lathe",
            "saddle",
            "gib",
            (*_GIB, _DROP),
            ("gib_play", "gib_even", "saddle_drop"),
            whole=_all_play,
        ),
        Ground(
            "knee",
            "Mill, knee on its gib",
            "mill",
            "knee",
            "gib",
            _GIB,
            ("gib_play", "gib_even"),
            whole=_all_play,
        ),
        Ground(
            "tailstock",
            "Lathe, tailstock",
            "lathe",
            "tailstock",
            "tailstock",
            _TAIL,
            ("tail_side", "tail_high", "tail_wander", "tail_key", "quill"),
            whole=_bed_part("tail_side", "tail_side"),
            also=("ways",),
        ),
        Ground(
            "headstock",
            "Lathe, headstock and feet",
            "lathe",
            "headstock",
            "headstock",
            _HEAD,
            ("taper_chuck", "axis_rise", "facing"),
            whole=_bed_part("taper", "taper_chuck"),
            also=("ways",),
        ),
        Ground(
            "shaft",
            "A dial shaft of the apron",
            "lathe",
            "practice_shaft",
            "shaft",
            _SHAFT,
            ("shaft_bend", "shaft_wear", "shaft_play", "shaft_float", "shaft_rock"),
            under="apron",
            facts={"length_mm": 200.0, "a_mm": 40.0, "b_mm": 140.0, "dia_mm": 16.0,
                   "at_mm": "10 56 100 160 190"},
        ),
        Ground(
            "bore",
            "A bore that a shaft turns in",
            "lathe",
            "practice_bore",
            "bore",
            _BORE,
            ("bore_wear", "bore_oval", "bore_play"),
            under="apron",
            facts={"dia_mm": 25.0, "length_mm": 40.0, "outside_mm": 60.0},
        ),
    )
}  # fmt: skip


def ground(key: str) -> Ground:
    """The ground of that key; raises InputError for another."""
    if key not in GROUNDS:
        raise InputError(f"ground “{key}”", f"known are {', '.join(GROUNDS)}")
    return GROUNDS[key]
