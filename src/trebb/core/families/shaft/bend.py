"""The bend of a shaft and its sizes, as far as readings fix them."""

from __future__ import annotations

import math
from collections.abc import Mapping
from statistics import NormalDist

import numpy as np
from msgspec import Struct

from trebb.core.condition import Z95, Quantity, ReadingsOnly
from trebb.core.condition.draws import Array, combined, draw, quantity
from trebb.core.condition.fixing import is_read
from trebb.core.families.shaft.subject import SEATS, Shaft, bend_key, key_rock
from trebb.core.findings.base import Measure, suggestion_words
from trebb.core.fits.taper_pins import INCH, METRIC, NextPin, next_pin
from trebb.core.machine import RatedLimit
from trebb.core.shafts import driving, squares
from trebb.core.shafts.vblocks import Curve, Kink, fit_curve, fit_kink, shape_of
from trebb.core.units import INCH_MM, UnitSystem
from trebb.core.words import small

_normal = NormalDist().inv_cdf
CLEAN_UP_MM, STAND_OUT_MM, PROJECT_MM = 0.05, 1.5, 1.0
SHEAR_MPA, BEARING_MPA, SHAFT_SHEAR_MPA = 60.0, 90.0, 45.0  # what keys, their sides and shafts see (practice)
# Key → label and limit.
_FIXED: dict[str, tuple[str, str]] = {
    "bend": ("Bend, total reading", "shaft_bend"),
    "play.left": ("Play at the left journal", "shaft_play"),
    "play.right": ("Play at the right journal", "shaft_play"),
    "play.seat": ("Play of the wheel on its seat", "shaft_play"),
    "wear.left": ("Wear of the left journal", "shaft_wear"),
    "wear.right": ("Wear of the right journal", "shaft_wear"),
    "wear.seat": ("Wear of the wheel's seat", "shaft_wear"),
    "float": ("End float", "shaft_float"),
    "rock": ("Rock of the wheel", "shaft_rock"),
    "joint": ("Rock of wheel on shaft", "shaft_rock"),
    "keyed": ("Rock that key and slots allow", "shaft_rock"),
    "squared": ("Slop of the square", "shaft_rock"),
}


def combinations(shaft: Shaft) -> dict[str, Mapping[str, float]]:
    """What each measure that is linear is made of. Coefficients by source, without unit."""
    found: dict[str, Mapping[str, float]] = {
        **{f"play.{seat}": {f"play.{seat}": 1.0} for seat in SEATS},
        **{f"wear.{seat}": {f"wear.{seat}": 1.0} for seat in SEATS},
        "float": {"float": 1.0},
        "rock": {"joint": 1.0, "train": 1.0},
        "joint": {"joint": 1.0},
    }
    if shaft.drive == "key":
        found["keyed"] = key_rock(shaft)
    if shaft.drive == "square":
        found["squared"] = {"socket": 1.0}
    return found


def label_of(key: str) -> str:
    """How a measure is called."""
    return _FIXED[key][0]


def limit_key(key: str) -> str:
    """The limit a measure is judged by."""
    return _FIXED[key][1]


def read_stations(shaft: Shaft, alone: ReadingsOnly, limit_mm: float) -> tuple[float, ...]:
    """Stations off the journals whose bend is read, along the mark and square to it. In mm."""
    return tuple(
        z
        for z in shaft.free
        if all(is_read(alone, {f"{bend_key(z)}.{axis}": 1.0}, limit_mm) for axis in ("x", "y"))
    )


def bend_vectors(shaft: Shaft, drawn: Mapping[str, Array], z: float) -> Array:
    """Bend at a station, complex, one a draw. Draws in mm."""
    found: Array = drawn[f"{bend_key(z)}.x"] + 1j * drawn[f"{bend_key(z)}.y"]
    return found


def bend_value(shaft: Shaft, drawn: Mapping[str, Array], stations: tuple[float, ...]) -> Quantity:
    """Total reading at the worst of some stations, mm: twice the largest eccentricity.

    The largest of several is larger than it should be by chance: the lower end
    is that of a station singled out of so many (Bonferroni).
    """
    share = _normal(1 - 0.025 / len(stations))
    found = []
    for z in stations:
        vectors = bend_vectors(shaft, drawn, z)
        mean = complex(vectors.mean())
        toward = mean / abs(mean) if mean else 1.0
        sd = float((vectors * np.conj(toward)).real.std())
        size = abs(mean)
        low = max(0.0, size - share * sd) if size > share * sd else 0.0
        found.append(Quantity(2 * size, 2 * sd, 2 * low, 2 * (size + Z95 * sd)))
    worst = max(found, key=lambda q: q.value)
    low, high = max(q.low for q in found), max(q.high for q in found)
    return Quantity(worst.value, worst.sd, min(low, worst.value), high)


def measure_value(
    shaft: Shaft, drawn: Mapping[str, Array], key: str, stations: tuple[float, ...]
) -> Quantity:
    """A measure by draws, mm; play of what is pressed counts as none."""
    if key == "bend":
        return bend_value(shaft, drawn, stations or shaft.free)
    if key == "squared":
        across, over = drawn["square"], drawn["square"] + np.maximum(drawn["socket"], 0.0)
        slop = [squares.slop_deg(float(a), float(b)) for a, b in zip(across[:400], over[:400], strict=True)]
        return quantity(np.radians(np.minimum(slop, 90.0)) * shaft.wheel_mm)
    values = combined(drawn, combinations(shaft)[key])
    found = quantity(values)
    if key.startswith("play"):
        return Quantity(max(0.0, found.value), found.sd, max(0.0, found.low), max(0.0, found.high))
    return found


def shaft_measures(shaft: Shaft, alone: ReadingsOnly, limits: Mapping[str, RatedLimit]) -> list[Measure]:
    """What readings fix. A bend hangs on every station; with some unread it is the least that it can be."""
    found: list[Measure] = []
    drawn = draw(alone, cut=False)
    limit = limits["shaft_bend"]
    stations = read_stations(shaft, alone, limit.limit_mm)
    if stations:
        unread = tuple((f"the turn at {z:g} mm", "shaft_turn") for z in shaft.free if z not in stations)
        value = bend_value(shaft, drawn, stations)
        found.append(Measure("bend", label_of("bend"), limit, value, unread))
    for key, c in combinations(shaft).items():
        limit = limits[limit_key(key)]
        if is_read(alone, c, limit.limit_mm):
            value = (
                measure_value(shaft, drawn, key, ())
                if key.startswith(("play", "squared"))
                else alone.combination(c)
            )
            found.append(Measure(key, label_of(key), limit, value))
    kept = {m.key for m in found}
    return [m for m in found if not (m.key == "rock" and "joint" in kept and _same(m, found))]


def _same(rock: Measure, found: list[Measure]) -> bool:
    """Whether the rock is the joint's alone, so that it need not be said twice."""
    joint = next(m for m in found if m.key == "joint")
    return abs(rock.value.value - joint.value.value) < 0.1 * rock.limit.limit_mm


def questions(shaft: Shaft) -> dict[str, Mapping[str, float]]:
    """What is to be known: the bend by its parts, and each linear measure. Coefficients by source, without
    unit.
    """
    found: dict[str, Mapping[str, float]] = {f"bend@{z:g}": {f"{bend_key(z)}.x": 1.0} for z in shaft.free}
    return {**found, **combinations(shaft)}


def reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking. Standard deviations in mm."""
    label = f"bend at {most.partition('@')[2]} mm" if most.startswith("bend@") else label_of(most)
    return suggestion_words(small(label), sd_before, sd_after, system, little=0.9)


class Bend(Struct, frozen=True):
    """The bend as read: eccentricities (complex, mm) at each station with nothing at the journals, the worst
    of them, and what shape they have.

    `kink` and `curve` are None where too few stations were read.
    """

    stations: tuple[tuple[float, complex], ...]
    worst_mm: float
    worst: complex
    kink: Kink | None
    curve: Curve | None

    @property
    def shape(self) -> str:
        """ "kink", "curve", "undecided", or "" where too few stations were read to say."""
        return shape_of(self.kink, self.curve) if self.kink is not None and self.curve is not None else ""

    @property
    def high_deg(self) -> float:
        """Shaft angle of the high side, up in the press."""
        return math.degrees(math.atan2(self.worst.imag, self.worst.real)) % 360

    @property
    def bow_mm(self) -> float:
        """Half the total reading at the worst."""
        return abs(self.worst)


def bend_of(shaft: Shaft, alone: ReadingsOnly, limit_mm: float) -> Bend | None:
    """The bend by the readings alone; None where no station was read whole."""
    read = read_stations(shaft, alone, limit_mm)
    if not read:
        return None
    at = {
        z: complex(alone.source(f"{bend_key(z)}.x").value, alone.source(f"{bend_key(z)}.y").value)
        for z in read
    }
    return bend_from(shaft, at)


def bend_from(shaft: Shaft, at: Mapping[float, complex]) -> Bend:
    """The bend by eccentricities at stations off the journals, mm: at the journals it is nothing by
    definition, which makes two stations more for its shape.
    """
    all_ = dict(sorted({shaft.a_mm: 0j, shaft.b_mm: 0j, **at}.items()))
    worst_z = max(at, key=lambda z: abs(at[z]))
    kink = curve = None
    if len(all_) >= 5:
        kink = fit_kink(list(all_), list(all_.values()))
        curve = fit_curve(list(all_), list(all_.values()), shaft.a_mm, shaft.b_mm)
    return Bend(tuple(all_.items()), worst_z, at[worst_z], kink, curve)


def press_of(shaft: Shaft, bend: Bend) -> tuple[float, float, float]:
    """Bow to press out, place, and distance of the blocks, mm.

    A kink is pressed between blocks as far on either side as the shaft lets
    them stand, and there its bow is k p q/(p + q) with p = q; any other bend at
    its worst station between the journals.
    """
    if bend.shape == "kink" and bend.kink is not None:
        at = bend.kink.place_mm
        half = min(at, shaft.length_mm - at, max(shaft.span_mm / 2, 6 * shaft.dia_mm))
        return bend.kink.angle * half / 2, at, 2 * half
    if shaft.a_mm < bend.worst_mm < shaft.b_mm:
        return bend.bow_mm, bend.worst_mm, shaft.span_mm
    # Off the journals, and no kink that shows: what a kink at the nearer journal would make of it.
    near = shaft.a_mm if bend.worst_mm < shaft.a_mm else shaft.b_mm
    away = abs(bend.worst_mm - near)
    half = min(away, near, shaft.length_mm - near) or away
    return bend.bow_mm / away * half / 2, near, 2 * half


def wanted_pin(shaft: Shaft, alone: ReadingsOnly, *, inch: bool) -> NextPin | None:
    """The next taper pin by both mouths; None where they are not read. Raises InputError where no pin will
    do.
    """
    large, small = (alone.source(f"mouth.{side}") for side in ("large", "small"))
    if large.sd > 0.1 or small.sd > 0.1:
        return None
    series, unit = (INCH, INCH_MM) if inch else (METRIC, 1.0)
    return next_pin(
        series, shaft.hub_mm / unit, large.value / unit, small.value / unit,
        CLEAN_UP_MM / unit, STAND_OUT_MM / unit, PROJECT_MM / unit,
    )  # fmt: skip


def links(shaft: Shaft, key_mm: float) -> dict[str, float]:
    """What each link between wheel and shaft carries, N·m, of what is stated."""
    found = {
        "the shaft": driving.shaft_torque(shaft.dia_mm, 0.0, SHAFT_SHEAR_MPA, keyed=shaft.drive == "key")
    }
    if shaft.drive == "key" and shaft.key_length_mm and key_mm:
        found["the key, in shear"] = driving.key_shear_torque(
            shaft.dia_mm, key_mm, shaft.key_length_mm, SHEAR_MPA
        )
        found["the key's side"] = driving.key_bearing_torque(
            shaft.dia_mm, key_mm / 2, shaft.key_length_mm, BEARING_MPA
        )
    if shaft.drive in ("pin", "taper_pin", "spring_pin") and shaft.pin_mm:
        if shaft.drive == "taper_pin":
            series = INCH if shaft.is_inch else METRIC
            found["the pin"] = driving.taper_pin_shear_torque(
                series.at_mouth(shaft.pin_mm, shaft.hub_mm),
                shaft.hub_mm,
                shaft.dia_mm,
                series.ratio,
                SHEAR_MPA,
            )
        elif shaft.drive == "spring_pin":
            wall = 0.2 * shaft.pin_mm
            found["the pin"] = driving.spring_pin_force_kn(shaft.pin_mm, wall) * shaft.dia_mm / 2
        else:
            found["the pin"] = driving.pin_shear_torque(shaft.dia_mm, shaft.pin_mm, 2, SHEAR_MPA)
        found["the hole in the shaft"] = driving.pin_bearing_in_shaft(shaft.dia_mm, shaft.pin_mm, BEARING_MPA)
        found["the hub's walls"] = driving.pin_bearing_in_hub(
            shaft.dia_mm, shaft.hub_mm, shaft.pin_mm, BEARING_MPA
        )
    return found
