"""The error of a spindle split among its causes: bearings, slack, taper, seat, bar, chuck."""

from __future__ import annotations

import cmath
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from trebb.core.condition import Estimate, Quantity
from trebb.core.condition.draws import Array, combined, draw, quantiles, quantity, vector_size
from trebb.core.condition.fixing import is_fixed, is_touched
from trebb.core.findings.base import Measure, suggestion_words
from trebb.core.machine import RatedLimit, Spindle
from trebb.core.machine.spindle import LEAN_MM, slack_shares
from trebb.core.runout import degrees_of, whole_degrees
from trebb.core.survey.seat import SeatScatter
from trebb.core.units import UnitSystem

# Mean length of a vector scattered by one on each axis, twice: what scatter adds to runout.
SCATTER_TIR = 2 * math.sqrt(math.pi / 2)
CAUSES = ("bearings", "slack", "taper", "seat", "bar", "chuck")
# The vector that turns, of each cause that has a direction.
VECTOR_OF = {"bearings": "bearing", "taper": "taper", "bar": "bar", "chuck": "chuck"}
CAUSE_NAMES = {
    "bearings": "bearings",
    "slack": "bearing slack",
    "taper": "taper",
    "seat": "seat",
    "bar": "test bar",
    "chuck": "chuck",
    "quill": "quill",
    "coupler": "coupler",
    "coupler_side": "coupler, sideways",
    "grip": "chuck's grip",
    "float": "end float",
}
# A cause is named when it is beyond twice its own ±; alike when another is within this share of it.
ALIKE_SHARE = 0.8
TOLD_SHARE = 0.5
KNOWN_SHARE = 0.25  # of its limit: to this sd a figure needs no more reading
IN_MM = 10.0  # a quill drawn in stands out this much
INDICATOR_MM = 0.0025


def vector_at(drawn: Mapping[str, Array], name: str, z_mm: float) -> Array:
    """A vector at z, complex, one a draw."""
    result = drawn[f"{name}.x"] + 1j * drawn[f"{name}.y"]
    if f"{name}_lean.x" in drawn:
        result = result + z_mm / LEAN_MM * (drawn[f"{name}_lean.x"] + 1j * drawn[f"{name}_lean.y"])
    return np.asarray(result)


def slack_at(spindle: Spindle, drawn: Mapping[str, Array], *, out: float = 0.5) -> Array:
    """Play at the nose, or at the quill's end with the quill run out by a share of its stroke."""
    result = sum((c * drawn[k] for k, c in slack_shares(spindle).items()), np.zeros(1))
    if spindle.has_quill:
        result = result + spindle.quill_share(out * spindle.quill_stroke_mm) * drawn["quill"]
    return np.asarray(result)


def causes_of(spindle: Spindle) -> tuple[str, ...]:
    """What makes the error of this kind of spindle: a drill's chuck belongs to it."""
    return tuple(k for k in CAUSES if k != "chuck" or spindle.kind == "drill")


def _plays(spindle: Spindle, drawn: Mapping[str, Array], z_mm: float) -> dict[str, Array]:
    """What the causes that have no direction make at z, one value a draw."""
    seat = SCATTER_TIR * spindle.seat_spread(z_mm) * drawn["seat"]
    return {"slack": slack_at(spindle, drawn), "seat": seat}


def cause_draws(spindle: Spindle, drawn: Mapping[str, Array], z_mm: float) -> dict[str, Array]:
    """Runout (TIR) or play that each cause makes at z, one value a draw."""
    plays = _plays(spindle, drawn, z_mm)
    return {
        k: plays[k] if k in plays else 2 * np.abs(vector_at(drawn, VECTOR_OF[k], z_mm))
        for k in causes_of(spindle)
    }


def work_draws(
    spindle: Spindle, drawn: Mapping[str, Array], z_mm: float, *, chuck_turned_deg: float = 0.0
) -> Array:
    """Error at z: runout of bearings and taper (and the chuck of a drill), what the seat adds, and slack.
    The bar's own is not the machine's.
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


def with_play(vectors: Array, play: Array) -> Quantity:
    """Runout of a vector with play added, one a draw: it reaches down to the play where the vector may be
    nothing.
    """
    size, whole = vector_size(vectors, 2.0), quantity(2 * np.abs(vectors) + play)
    value = size.value + float(play.mean())
    low = quantiles(play, (0.025,))[0] if size.low == 0 else min(whole.low, value)
    return Quantity(value, whole.sd, low, max(whole.high, value))


def measure_value(spindle: Spindle, drawn: Mapping[str, Array], key: str) -> Quantity:
    """A measure's value from draws."""
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


def slack_read(spindle: Spindle, alone: Estimate, limit_mm: float) -> tuple[dict[str, float], bool] | None:
    """The play that the push test fixes, by source, and whether that is all of it: a quill that was pushed
    drawn in only has more run out. None where it fixes none.
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


def turns_are_read(spindle: Spindle, alone: Estimate, names: Sequence[str], z_mm: float) -> bool:
    """Whether turns fix what vectors together make at z."""
    return all(is_touched(alone, at_vector(spindle, names, z_mm, axis)) for axis in ("x", "y"))


def turns_are_known(
    spindle: Spindle, alone: Estimate, names: Sequence[str], z_mm: float, limit_mm: float
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
    alone: Estimate,
    drawn: Mapping[str, Array],
    limits: Mapping[str, RatedLimit],
    scatter: SeatScatter,
) -> tuple[Measure, ...]:
    """What readings fix of a spindle, each against its limit, with what of it was not read.

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
            with_play(turning_at(spindle, drawn, z), added + np.zeros(len(seat_draws))),
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


@dataclass(frozen=True)
class Link:
    """One link of the chain spindle → … → indicator, at the distance the error counts.

    Where readings do not tell it, `is_read` is False and `value` what such machines have.
    """

    key: str
    label: str
    value: Quantity
    share: float
    words: str
    is_read: bool = True


@dataclass(frozen=True)
class SpindleSplit:
    """The estimate in the rebuilder's terms. TIR in mm, directions as dial degrees."""

    links: tuple[Link, ...]
    measures: tuple[Measure, ...]
    named: tuple[str, ...]
    rivals: tuple[str, ...]
    drawn: Mapping[str, Array]
    scatter: SeatScatter
    trusts_seat: bool
    slack_part: str = ""

    @property
    def worst(self) -> Measure:
        """The measure that stands worst: over its limit, then not yet said, then the one nearest to it.
        Raises ValueError where nothing is read: `measures` is then empty.
        """
        return max(self.measures, key=lambda m: (m.rank[0], m.key == "work", m.rank[1]))


def seat_is_trusted(spindle: Spindle, scatter: SeatScatter, limit_mm: float) -> bool:
    """False where it is nine to one that the seat moves the bar beyond the limit, whatever bearings and
    indicator explain.
    """
    return not (
        scatter.seatings >= 2
        and SCATTER_TIR * spindle.seat_spread(spindle.work_mm) * scatter.low_mm > limit_mm
    )


def split_spindle(
    spindle: Spindle,
    now: Estimate,
    limits: Mapping[str, RatedLimit],
    scatter: SeatScatter,
    alone: Estimate | None = None,
) -> SpindleSplit:
    """The chain with its shares, the measures against their limits, and the causes that can be named.

    `alone` is the condition by readings alone, which all of it but the chain's
    unread links rests on; `now` if not given.
    """
    drawn = draw(now)
    fixed, by = (drawn, now) if alone is None else (draw(alone, cut=False), alone)
    z = spindle.work_mm
    causes = cause_sizes(spindle, fixed, z)
    slack = slack_read(spindle, by, limits[measure_limits(spindle)["slack"][1]].limit_mm)
    if slack is not None:
        causes["slack"] = by.combination(slack[0])
    told = told_causes(spindle, by, causes, scatter, limits)
    usual = cause_sizes(spindle, drawn, z)
    shown = {k: causes[k] if k in told else usual[k] for k in causes}
    total = sum(shown[k].value for k in told) + INDICATOR_MM
    order = ["bearings", "slack", "taper", "seat", "chuck" if spindle.kind == "drill" else "bar"]
    if spindle.kind == "drill":
        order.append("bar")
    links = [
        Link(
            k,
            CAUSE_NAMES[k].capitalize(),
            shown[k],
            shown[k].value / total if k in told else 0.0,
            _direction(fixed, k, spindle) if k in told else "not told",
            k in told,
        )
        for k in order
    ]
    links.append(
        Link(
            "indicator",
            "Indicator",
            Quantity(INDICATOR_MM, 0.0, 0.0, INDICATOR_MM),
            INDICATOR_MM / total,
            "its own step",
        )
    )
    trusted = seat_is_trusted(spindle, scatter, limits["seat_repeat"].limit_mm)
    turned = turns_are_read(spindle, by, turning_names(spindle), z)
    candidates = {k: causes[k] for k in told} if turned or not trusted else {}
    if turned and not {"bearings", "taper"} <= set(told):
        # What bearings and taper make together is known, and may be the most of it: no smaller cause is
        # named.
        together = vector_size(turning_at(spindle, fixed, z), 2.0).value
        candidates = {k: q for k, q in candidates.items() if q.value > together or k == "seat"}
    named = named_causes(candidates, seatings=scatter.seatings, seat_is_sure=not trusted)
    return SpindleSplit(
        tuple(links),
        spindle_measures(spindle, by, fixed, limits, scatter),
        named,
        rival_causes(candidates, named),
        drawn,
        scatter,
        trusted,
        slack_part(spindle, fixed),
    )


def cause_sizes(spindle: Spindle, drawn: Mapping[str, Array], z_mm: float) -> dict[str, Quantity]:
    """Runout or play that each cause makes at z, with intervals that reach nothing where it may be
    nothing.
    """
    plays = _plays(spindle, drawn, z_mm)
    return {
        k: quantity(np.maximum(plays[k], 0.0))
        if k in plays
        else vector_size(vector_at(drawn, VECTOR_OF[k], z_mm), 2.0)
        for k in causes_of(spindle)
    }


def told_causes(
    spindle: Spindle,
    alone: Estimate,
    causes: Mapping[str, Quantity],
    scatter: SeatScatter,
    limits: Mapping[str, RatedLimit],
) -> tuple[str, ...]:
    """Causes that readings tell of by themselves: known to half the limit at the work, or to half of
    themselves.
    """
    limit_mm = limits[f"{spindle.kind}_work"].limit_mm
    slack_limit = limits[measure_limits(spindle)["slack"][1]].limit_mm
    said = {
        "seat": scatter.seatings >= 2,
        "slack": slack_read(spindle, alone, slack_limit) is not None,
    }
    # A bar is made true: what such bars are like is narrow by itself, and no reading.
    if not turns_are_read(spindle, alone, ("bar",), spindle.far_mm):
        said["bar"] = False
    return tuple(
        k for k, q in causes.items() if said.get(k, q.half_width <= max(0.5 * limit_mm, TOLD_SHARE * q.value))
    )


# What most of the slack is, in words for "most of it is …".
SLACK_PARTS = {
    "slack": "slack in the bearings",
    "journals": "bearings, loose on their journals",
    "loose.housing": "front bearing, loose in its housing",
    "quill": "quill, loose in its bore",
}


def slack_part(spindle: Spindle, drawn: Mapping[str, Array]) -> str:
    """The source that for sure makes most of the slack, or "" where the readings do not tell."""
    shares = dict(slack_shares(spindle))
    if spindle.has_quill:
        shares["quill"] = spindle.quill_share(0.5 * spindle.quill_stroke_mm)
    total = slack_at(spindle, drawn)
    made = {key: c * drawn[key] for key, c in shares.items()}
    made["journals"] = made.pop("loose.front") + made.pop("loose.rear")
    for key, part in made.items():
        if quantiles(part / np.maximum(total, 1e-9), (0.05,))[0] > 0.5:
            return key
    return ""


def named_causes(
    causes: Mapping[str, Quantity], *, seatings: int = 2, seat_is_sure: bool = False
) -> tuple[str, ...]:
    """The largest cause that is beyond twice its own ±, and those as sure and about as large; none where no
    cause is so sure.

    With fewer than two seatings the seat is never named: one seating cannot be unlike another.
    `seat_is_sure`: the
    seatings by themselves show that it does not repeat.
    """
    sure = [
        k
        for k, q in causes.items()
        if q.value > 2 * q.half_width and q.value >= INDICATOR_MM and (k != "seat" or seatings >= 2)
    ]
    if seat_is_sure and "seat" not in sure:
        sure.append("seat")
    ranked = sorted(sure, key=lambda k: -causes[k].value)
    if not ranked:
        return ()
    first = causes[ranked[0]]
    return tuple(
        k
        for k in ranked
        if k == ranked[0]
        or (causes[k].high > ALIKE_SHARE * first.value and causes[k].value > 0.5 * first.value)
    )


def rival_causes(causes: Mapping[str, Quantity], named: tuple[str, ...]) -> tuple[str, ...]:
    """Causes too little known to be named that may be larger than the one named, the likeliest first."""
    if not named:
        return ()
    first = causes[named[0]].value
    return tuple(
        sorted(
            (k for k, q in causes.items() if k not in named and q.value > ALIKE_SHARE * first),
            key=lambda k: -causes[k].value,
        )
    )


def _direction(drawn: Mapping[str, Array], key: str, spindle: Spindle) -> str:
    name = VECTOR_OF.get(key)
    if name is None:
        return {"slack": "play under push and pull", "seat": "changes at each seating"}[key]
    vectors = vector_at(drawn, name, spindle.work_mm)
    mean = complex(vectors.mean())
    if abs(mean) < 2 * float(np.abs(vectors - mean).std()):
        return "direction not shown"
    return f"high at {whole_degrees(mean)}°" + (" of its own mark" if name == "bar" else "")


@dataclass(frozen=True)
class Clocking:
    """How to set a holder against the spindle so that errors oppose.

    Turn it by `turn_deg` (+ with rising dial angles) from its present mark;
    runout at z falls from `before` to `after`, at worst it would be `worst`.
    `mark_deg` is the dial angle at which to scribe the mark.
    """

    holder: str
    turn_deg: float
    mark_deg: float
    z_mm: float
    before: Quantity
    after: Quantity
    worst: Quantity
    is_shown: bool


def best_clocking(spindle: Spindle, drawn: Mapping[str, Array], z_mm: float, holder: str) -> Clocking:
    """Oppose the holder's vector ("bar" or "chuck") to the spindle's at z."""
    own = vector_at(drawn, "bearing", z_mm) + (
        vector_at(drawn, "taper", z_mm) if holder == "bar" or spindle.chuck_on_taper else 0
    )
    held = vector_at(drawn, holder, z_mm)
    s, h = complex(own.mean()), complex(held.mean())
    turn = (degrees_of(s) + 180.0 - degrees_of(h)) % 360.0
    turned = held * cmath.exp(1j * math.radians(turn))
    shown = abs(s) > 2 * float(np.abs(own - s).std()) and abs(h) > 2 * float(np.abs(held - h).std())
    return Clocking(
        holder,
        turn,
        turn,
        z_mm,
        quantity(2 * np.abs(own + held)),
        quantity(2 * np.abs(own + turned)),
        quantity(2 * np.abs(own) + 2 * np.abs(held)),
        shown,
    )


def runout_along(
    spindle: Spindle,
    drawn: Mapping[str, Array],
    z_mm: list[float],
    *,
    holder: str = "",
    turned_deg: float = 0.0,
) -> list[Quantity]:
    """Runout (TIR) at distances from the nose: spindle alone, or with a holder turned from its mark."""
    result = []
    for z in z_mm:
        v = vector_at(drawn, "bearing", z) + (
            vector_at(drawn, "taper", z) if holder != "chuck" or spindle.chuck_on_taper else 0
        )
        if holder:
            v = v + vector_at(drawn, holder, z) * cmath.exp(1j * math.radians(turned_deg))
        result.append(quantity(2 * np.abs(v)))
    return result


def at_work(name: str, axis: str, reach: float) -> dict[str, float]:
    """Runout along one axis that a vector gives at the work: coefficients of the sources."""
    return {f"{name}.{axis}": 2.0, f"{name}_lean.{axis}": 2 * reach}


def questions(spindle: Spindle) -> dict[str, Mapping[str, float]]:
    """What is to be known of a spindle, each as a combination of sources in mm of runout or play at the
    work.
    """
    k = spindle.work_mm / LEAN_MM
    result: dict[str, Mapping[str, float]] = {}
    for key, name in (
        ("bearings", "bearing"),
        ("taper", "taper"),
    ):  # the bar's own is nobody's question: turning it only serves the taper
        for axis in ("x", "y"):
            result[f"{key}.{axis}"] = at_work(name, axis, k)
    if spindle.chuck_on_taper:
        kc = spindle.pin_near_mm / LEAN_MM
        for axis in ("x", "y"):
            result[f"chuck.{axis}"] = {f"chuck.{axis}": 1.0, f"chuck_lean.{axis}": kc}
        result["coupler"] = {"coupler": 0.2}
        result["quill"] = {"quill": spindle.quill_share(0.5 * spindle.quill_stroke_mm)}
    result["seat"] = {"seat": SCATTER_TIR * spindle.seat_spread(spindle.work_mm)}
    result["slack"] = slack_shares(spindle)
    result["float"] = {"float": 1.0}
    return result


def question_name(key: str) -> str:
    """The trade's name of a question."""
    return CAUSE_NAMES[key.split(".")[0]]


def doubt_scale(limit_mm: float) -> float:
    """Standard deviation below which a question counts as settled: a fifth of the limit, so that twice it
    still says which side one is on.
    """
    return 0.2 * limit_mm


def reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking, in a few words."""
    return suggestion_words(question_name(most), sd_before, sd_after, system, little=0.92)


__all__ = [
    "Clocking",
    "Link",
    "Measure",
    "SpindleSplit",
    "best_clocking",
    "draw",
    "runout_along",
    "split_spindle",
]
