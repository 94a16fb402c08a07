"""Test bar in the taper, two planes, any number of seatings at marked angles."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import lru_cache

import numpy as np

from trebb.core.condition import Row
from trebb.core.families.spindle.figure import frame, indicators, nose, plane_x, turning
from trebb.core.families.spindle.subject import Spindle
from trebb.core.families.spindle.turning import lobe_row, turn_set_up, vector_row
from trebb.core.figure import Figure
from trebb.core.safety import TURN_BY_HAND
from trebb.core.survey.angles import angle_words, split_place
from trebb.core.survey.base import Lot, Place
from trebb.core.survey.turns import READING_SD_MM, stir_zero, turn_places

PLANES = ("near", "far")


def seating_words(number: int, index_deg: float) -> str:
    """A seating as it stands in a place."""
    return f"seat {number} at {angle_words(index_deg)}"


@lru_cache(maxsize=1024)
def seating_of(group: str) -> tuple[int, float, str]:
    """Number, index angle and plane of a group: "seat 2 at 180°, far"."""
    seat, plane = group.rsplit(", ", 1)
    _, number, _, angle = seat.split(" ")
    return int(number), float(angle.rstrip("°")), plane


def plane_mm(spindle: Spindle, plane: str) -> float:
    """Distance of a plane from the nose."""
    return spindle.near_mm if plane == "near" else spindle.far_mm


def places(spindle: Spindle) -> tuple[Place, ...]:
    """Every seating, both planes, every angle."""
    return turn_places(_groups(spindle.seatings), spindle.angles)


@lru_cache(maxsize=32)
def _groups(seatings: tuple[float, ...]) -> tuple[tuple[str, str], ...]:
    return tuple(
        (f"{seating_words(i, a)}, {plane}", "") for i, a in enumerate(seatings, 1) for plane in PLANES
    )


def lots(spindle: Spindle) -> tuple[Lot, ...]:
    """A seating at a time."""
    found = []
    for i, angle in enumerate(spindle.seatings, 1):
        seat = seating_words(i, angle)
        first = angle in spindle.seatings[: i - 1]
        title = (
            "Test bar in the taper"
            if i == 1
            else f"Bar seated again at {angle_words(angle)}"
            if first
            else f"Bar turned to {angle_words(angle)} in the taper"
        )
        keys = tuple(f"{seat}, {plane}, {angle_words(a)}" for plane in PLANES for a in spindle.angles)
        found.append(Lot(seat, title, keys, 6.0 if i == 1 else 2.5))
    return tuple(found)


def row(spindle: Spindle, place: str) -> Row:
    """Bearings + taper + bar turned to its mark, with their leans at the plane."""
    group, angle = split_place(place)
    _, index, plane = seating_of(group)
    z = plane_mm(spindle, plane)
    return Row(
        {**vector_row((("bearing", z), ("taper", z), ("bar", z)), {"bar": index}, angle), **lobe_row(angle)},
        READING_SD_MM,
    )


def seat_shares(spindle: Spindle, place: str) -> list[tuple[str, float, float]]:
    """What this seating adds: shift and tilt of the bar, shared by all readings of the seating."""
    group, angle = split_place(place)
    _, _, plane = seating_of(group)
    theta, lean = math.radians(angle), plane_mm(spindle, plane) / spindle.seat_length_mm
    sd = math.hypot(spindle.seat_mm, spindle.seat_sd_mm)
    c, s = math.cos(theta), math.sin(theta)
    return [("shift.x", c, sd), ("shift.y", s, sd), ("tilt.x", lean * c, sd), ("tilt.y", lean * s, sd)]


def stir(
    spindle: Spindle, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """The zero of the turn, and how the bar went in this time. The condition by source, in mm."""
    group, _ = split_place(place)
    drawn = rng_of(f"seat/{group.rsplit(', ', 1)[0]}").standard_normal(4) * condition["seat"]
    shares = seat_shares(spindle, place)
    return stir_zero(spindle, condition, place, rng_of) + float(
        sum(d * share for d, (_, share, _) in zip(drawn, shares, strict=True))
    )


def figure(spindle: Spindle, place: str) -> Figure:
    """The bar, its index mark, and the plane that is read."""
    group, _ = split_place(place)
    _, _, plane = seating_of(group)
    planes = [(plane_x(plane_mm(spindle, p), spindle.far_mm), p, p == plane) for p in PLANES]
    return frame([*nose(bar=True, wash="bar"), *turning(), *indicators(planes)])


SET_UP = turn_set_up(
    row,
    figure,
    key="test_bar",
    letter="C",
    short="Test bar",
    title="Test bar in the taper",
    minutes=0.2,
    setting_minutes=6,
    places=places,
    lots=lots,
    stir=stir,
    loose=seat_shares,
    bundle=lambda group: group.rsplit(", ", 1)[0],
    steps=(
        "Clean taper and bar; a scribed index mark on the bar, 0° chalked on the nose.",
        "Seat the bar with one firm push and a twist, its mark at the angle shown.",
        "Indicator square to the bar near the nose: turn by hand, read each angle. Then the far plane.",
        "Take the bar out, turn its mark to the next angle, seat it as before, read again.",
    ),
    cautions=(
        TURN_BY_HAND,
        "Knock the bar out onto a soft hand or a cloth, never onto the ways.",
    ),
    tells="Turned half round, the bar's own error turns with it and the taper's does not. Seated again, it "
    "tells whether the seat repeats.",
    cannot_tell="With one seating only, bar and taper are one sum. Lobes of two on bar and spindle never "
    "come apart.",
    settles="bar from taper, and whether the seat repeats",
    plane_mm=lambda spindle, group: plane_mm(spindle, seating_of(group)[2]),
)
