"""Sizes of a spindle’s errors from its estimate: vectors, slack, what of them is read."""

from __future__ import annotations

import cmath
import math
from collections.abc import Mapping, Sequence
from typing import TYPE_CHECKING, TypeAlias

import numpy as np

from trebb.core.condition import Quantity, ReadingsOnly
from trebb.core.condition.draws import Array, combined, quantiles, quantity, vector_size
from trebb.core.condition.fixing import is_fixed, is_touched
from trebb.core.families.spindle.seat import SeatScatter
from trebb.core.families.spindle.subject import LEAN_MM, Spindle, slack_shares
from trebb.core.findings.base import Measure
from trebb.core.machine import RatedLimit

if TYPE_CHECKING:
    from numpy.typing import NDArray

Vectors: TypeAlias = "NDArray[np.complex128]"

# Mean length of a vector scattered by one on each axis, twice: what scatter adds to runout.
SCATTER_TIR = 2 * math.sqrt(math.pi / 2)
CAUSES = ("bearings", "slack", "taper", "seat", "bar", "chuck")
# The vector that turns, of each cause that has a direction.
VECTOR_OF = {"bearings": "bearing", "taper": "taper", "bar": "bar", "chuck": "chuck"}
KNOWN_SHARE = 0.25  # of its limit: to this sd a figure needs no more reading
IN_MM = 10.0  # a quill drawn in stands out this much


def vector_at(drawn: Mapping[str, Array], name: str, z_mm: float) -> Vectors:
    """A vector at z, complex, one a draw. Draws in mm."""
    result: Vectors = np.empty(np.shape(drawn[f"{name}.x"]), dtype=np.complex128)
    for part, axis in ((result.real, "x"), (result.imag, "y")):
        part[...] = drawn[f"{name}.{axis}"]
        if f"{name}_lean.{axis}" in drawn:
            part += z_mm / LEAN_MM * drawn[f"{name}_lean.{axis}"]
    return result


def slack_at(spindle: Spindle, drawn: Mapping[str, Array], *, out: float = 0.5) -> Array:
    """Play at the nose, or at the quill's end with the quill run out by a share of its stroke."""
    result = sum((c * drawn[k] for k, c in slack_shares(spindle).items()), np.zeros(1))
    if spindle.has_quill:
        result = result + spindle.quill_share(out * spindle.quill_stroke_mm) * drawn["quill"]
    return np.asarray(result)


def causes_of(spindle: Spindle) -> tuple[str, ...]:
    """What makes the error of this kind of spindle: a drill's chuck belongs to it."""
    return tuple(k for k in CAUSES if k != "chuck" or spindle.kind == "drill")


def all_plays(spindle: Spindle, drawn: Mapping[str, Array], z_mm: float) -> dict[str, Array]:
    """What the causes that have no direction make at z, one value a draw. Draws in mm."""
    seat = SCATTER_TIR * spindle.seat_spread(z_mm) * drawn["seat"]
    return {"slack": slack_at(spindle, drawn), "seat": seat}


def cause_draws(spindle: Spindle, drawn: Mapping[str, Array], z_mm: float) -> dict[str, Array]:
    """Runout (TIR) or play that each cause makes at z, one value a draw. Draws in mm."""
    plays = all_plays(spindle, drawn, z_mm)
    return {
        k: plays[k] if k in plays else 2 * np.abs(vector_at(drawn, VECTOR_OF[k], z_mm))
        for k in causes_of(spindle)
    }


def work_draws(
    spindle: Spindle, drawn: Mapping[str, Array], z_mm: float, *, chuck_turned_deg: float = 0.0
) -> Array:
    """Error at z: runout of bearings and taper (and the chuck of a drill), what the seat adds, and slack.
    The bar's own is not the machine's. Draws in mm.
    """
    vector = turning_at(spindle, drawn, z_mm, chuck_turned_deg=chuck_turned_deg)
    return np.asarray(
        2 * np.abs(vector)
        + SCATTER_TIR * spindle.seat_spread(z_mm) * drawn["seat"]
        + slack_at(spindle, drawn)
    )


def measure_limits(spindle: Spindle) -> dict[str, tuple[str, str]]:
    """Measures of this kind of spindle: key → (label, limit key)."""
    drill = spindle.kind == "drill"
    result = {
        "work": ("Error at the drill" if drill else "Error at the work", f"{spindle.kind}_work"),
        "seat": ("Seat", "seat_repeat"),
        "slack": ("Slack", f"{spindle.kind}_slack" if spindle.has_quill else "spindle_slack"),
        "float": ("End float", "drill_float" if drill else "spindle_float"),
        "chuck": ("Chuck", "chuck"),
    }
    if spindle.has_quill:
        result["coupler"] = ("Coupler", "coupler")
        result["coupler_side"] = ("Coupler, sideways", "coupler")
        result["grip"] = ("Chuck's grip", "chuck")
    return result


def turning_at(
    spindle: Spindle, drawn: Mapping[str, Array], z_mm: float, *, chuck_turned_deg: float = 0.0
) -> Array:
    """What turns with the spindle at z, complex, one a draw: bearings and taper, and the chuck of a drill."""
    vector = vector_at(drawn, "bearing", z_mm) + vector_at(drawn, "taper", z_mm)
    if spindle.kind == "drill":
        vector = vector + vector_at(drawn, "chuck", z_mm) * cmath.exp(1j * math.radians(chuck_turned_deg))
    return np.asarray(vector)


def with_play(vectors: Array, play: Array, *, as_read: bool = False) -> Quantity:
    """Runout of a vector with play added, one a draw: it reaches down to the play where the vector may be
    nothing; `as_read` where some of it is not told apart yet. Draws in mm.
    """
    size, whole = vector_size(vectors, 2.0, as_read=as_read), quantity(2 * np.abs(vectors) + play)
    value = size.value + float(play.mean())
    low = quantiles(play, (0.025,))[0] if size.low == 0 else min(whole.low, value)
    return Quantity(value, whole.sd, low, max(whole.high, value))


def measure_value(spindle: Spindle, drawn: Mapping[str, Array], key: str) -> Quantity:
    """A measure's value from draws. Draws in mm."""
    z = spindle.work_mm
    seat = SCATTER_TIR * spindle.seat_spread(z) * drawn["seat"]
    if key == "work":
        return with_play(turning_at(spindle, drawn, z), seat + slack_at(spindle, drawn))
    if key == "seat":
        return quantity(seat)
    if key == "slack":
        return quantity(slack_at(spindle, drawn))
    if key == "chuck":
        return vector_size(vector_at(drawn, "chuck", spindle.pin_near_mm), 2.0)
    return quantity(drawn[key])


READ_SHARE = 0.6  # of its limit: to this sd a figure counts as read


def slack_read(
    spindle: Spindle, alone: ReadingsOnly, limit_mm: float
) -> tuple[dict[str, float], bool] | None:
    """The play that the push test fixes, by source, and whether that is all of it: a quill that was pushed
    drawn in only has more run out. None where it fixes none. Coefficients by source, without unit.
    """
    shares = slack_shares(spindle)
    if not spindle.has_quill:
        return (shares, True) if is_fixed(alone.combination(shares), READ_SHARE * limit_mm) else None
    stroke = spindle.quill_stroke_mm
    middle, out, inside = (
        {**shares, "quill": spindle.quill_share(way)} for way in (0.5 * stroke, stroke, IN_MM)
    )
    best = min((out, inside), key=lambda spot: alone.combination(spot).sd)
    found = middle if alone.combination(middle).sd < 1.3 * alone.combination(best).sd else best
    if is_fixed(alone.combination(found), READ_SHARE * limit_mm):
        return found, found is not inside
    # A push at a pin alone: the chuck's grip is in it, and not told from the rest.
    at_pin = {**shares, "quill": spindle.quill_share(IN_MM + spindle.pin_near_mm), "grip": 1.0}
    return (at_pin, True) if is_fixed(alone.combination(at_pin), READ_SHARE * limit_mm) else None


def at_vector(spindle: Spindle, names: Sequence[str], z_mm: float, axis: str) -> dict[str, float]:
    """Runout along one axis that vectors together give at z: coefficients of the sources."""
    result: dict[str, float] = {}
    for name in names:
        result[f"{name}.{axis}"] = 2.0
        result[f"{name}_lean.{axis}"] = 2 * z_mm / LEAN_MM
    return result


def turns_are_read(spindle: Spindle, alone: ReadingsOnly, names: Sequence[str], z_mm: float) -> bool:
    """Whether turns fix what vectors together make at z."""
    return all(is_touched(alone, at_vector(spindle, names, z_mm, axis)) for axis in ("x", "y"))


def turns_are_known(
    spindle: Spindle, alone: ReadingsOnly, names: Sequence[str], z_mm: float, limit_mm: float
) -> bool:
    """Whether they fix it to what its limit asks."""
    found = [alone.combination(at_vector(spindle, names, z_mm, axis)) for axis in ("x", "y")]
    return all(is_fixed(q, KNOWN_SHARE * limit_mm) for q in found)


def seat_size(spindle: Spindle, scatter: SeatScatter, z_mm: float) -> Quantity:
    """Runout that a seating typically adds at z, with the interval that the seatings leave it."""
    tir = SCATTER_TIR * spindle.seat_spread(z_mm)
    return Quantity(tir * scatter.mean_mm, tir * scatter.sd_mm, tir * scatter.least_mm, tir * scatter.high_mm)


def turning_names(spindle: Spindle) -> tuple[str, ...]:
    """The vectors that make the error at the work."""
    return ("bearing", "taper", "chuck") if spindle.kind == "drill" else ("bearing", "taper")


def spindle_measures(
    spindle: Spindle,
    alone: ReadingsOnly,
    drawn: Mapping[str, Array],
    limits: Mapping[str, RatedLimit],
    scatter: SeatScatter,
) -> tuple[Measure, ...]:
    """What readings fix of a spindle, each against its limit, with what of it was not read. Draws in mm.

    `drawn` are conditions that the readings alone allow.
    """
    named = {key: (label, limits[limit]) for key, (label, limit) in measure_limits(spindle).items()}
    z = spindle.work_mm
    seat_draws = SCATTER_TIR * spindle.seat_spread(z) * np.maximum(drawn["seat"], 0.0)
    slack = slack_read(spindle, alone, named["slack"][1].limit_mm)
    play = np.maximum(combined(drawn, slack[0]), 0.0) if slack is not None else np.zeros(1)
    slack_unread = (
        (("slack", "push_test"),)
        if slack is None
        else (("what of it is the chuck's grip", "push_test"),)
        if "grip" in slack[0]
        else ()
        if slack[1]
        else (("slack with the quill run out", "push_test"),)
    )
    found: dict[str, tuple[Quantity, tuple[tuple[str, str], ...]]] = {}
    if turns_are_read(spindle, alone, turning_names(spindle), z):
        seat_unread: tuple[tuple[str, str], ...] = (
            (("whether the seat repeats", "test_bar"),) if scatter.seatings < 2 else ()
        )
        if not turns_are_known(spindle, alone, turning_names(spindle), z, named["work"][1].limit_mm):
            seat_unread += (("what of it is the bar's own", "test_bar"),)
        added = play + (seat_draws if scatter.seatings >= 2 else 0.0)
        found["work"] = (
            with_play(
                turning_at(spindle, drawn, z), added + np.zeros(len(seat_draws)), as_read=bool(seat_unread)
            ),
            (*slack_unread, *seat_unread),
        )
    if scatter.seatings >= 2:
        found["seat"] = (seat_size(spindle, scatter, z), ())
    if slack is not None:
        found["slack"] = (alone.combination(slack[0]), slack_unread)
    for key in ("float", "coupler", "coupler_side", "grip"):
        told = key in named and is_touched(alone, {key: 1.0})
        if told and (key != "grip" or is_fixed(alone.source(key), READ_SHARE * named[key][1].limit_mm)):
            found[key] = (alone.source(key), ())
    if turns_are_read(spindle, alone, ("chuck",), spindle.pin_near_mm):
        value = vector_size(vector_at(drawn, "chuck", spindle.pin_near_mm), 2.0)
        found["chuck"] = (value, ())
    return tuple(Measure(key, *named[key], found[key][0], found[key][1]) for key in named if key in found)
