"""A spindle’s errors by link: which is told apart, which is the largest, how best to clock a holder."""

from __future__ import annotations

import cmath
import math
from collections.abc import Mapping, Sequence
from functools import cached_property

import numpy as np
from msgspec import Struct

from trebb.core.condition import Estimate, Quantity, ReadingsOnly
from trebb.core.condition.draws import Array, draw, quantiles, quantity, vector_size
from trebb.core.families.spindle.seat import SeatScatter
from trebb.core.families.spindle.sizes import (
    SCATTER_TIR,
    VECTOR_OF,
    all_plays,
    causes_of,
    measure_limits,
    slack_at,
    slack_read,
    spindle_measures,
    turning_at,
    turning_names,
    turns_are_read,
    vector_at,
)
from trebb.core.families.spindle.subject import LEAN_MM, Spindle, slack_shares
from trebb.core.findings.base import Measure, suggestion_words
from trebb.core.machine import RatedLimit
from trebb.core.runout import degrees_of, whole_degrees
from trebb.core.units import UnitSystem

INDICATOR_MM = 0.0025
TOLD_SHARE = 0.5
# A cause is named when it is beyond twice its own ±; alike when another is within this share of it.
ALIKE_SHARE = 0.8
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


class Link(Struct, frozen=True):
    """One link of the chain spindle → … → indicator, at the distance the error counts.

    Where readings do not tell it, `is_read` is False and `value` what such machines have.
    """

    key: str
    label: str
    value: Quantity
    share: float
    words: str
    is_read: bool = True


class SpindleSplit(Struct, frozen=True, dict=True):
    """The estimate in the rebuilder's terms. TIR in mm, directions as dial degrees. `now` is the condition
    with what is expected, which only links that nothing tells of rest on.
    """

    links: tuple[Link, ...]
    measures: tuple[Measure, ...]
    named: tuple[str, ...]
    rivals: tuple[str, ...]
    now: Estimate
    scatter: SeatScatter
    trusts_seat: bool
    slack_part: str = ""

    @cached_property
    def drawn(self) -> Mapping[str, Array]:
        """Conditions that readings and expectation allow, mm."""
        return draw(self.now)

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
    alone: ReadingsOnly,
) -> SpindleSplit:
    """The chain with its shares, the measures against their limits, and the causes that can be named.

    `alone` is the condition by readings alone, which all of it but the chain's
    unread links rests on.
    """
    fixed, by = draw(alone, cut=False), alone
    z = spindle.work_mm
    causes = cause_sizes(spindle, fixed, z)
    slack = slack_read(spindle, by, limits[measure_limits(spindle)["slack"][1]].limit_mm)
    if slack is not None:
        causes["slack"] = by.combination(slack[0])
    told = told_causes(spindle, by, causes, scatter, limits)
    untold = [k for k in causes if k not in told]
    shown = {**causes, **(cause_sizes(spindle, draw(now), z, untold) if untold else {})}
    total = sum(shown[k].value for k in told) + INDICATOR_MM
    order = ["bearings", "slack", "taper", "seat", "chuck" if spindle.kind == "drill" else "bar"]
    if spindle.kind == "drill":
        order.append("bar")
    links = _links(spindle, told, shown, total, order, fixed)
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
        together = vector_size(turning_at(spindle, fixed, z), 2.0, as_read=True).value
        candidates = {k: q for k, q in candidates.items() if q.value > together or k == "seat"}
    named = named_causes(candidates, seatings=scatter.seatings, seat_is_sure=not trusted)
    return SpindleSplit(
        tuple(links),
        spindle_measures(spindle, by, fixed, limits, scatter),
        named,
        rival_causes(candidates, named),
        now,
        scatter,
        trusted,
        slack_part(spindle, fixed),
    )


def _links(
    spindle: Spindle,
    told: tuple[str, ...],
    shown: dict[str, Quantity],
    total: float,
    order: list[str],
    fixed: dict[str, Array],
) -> list[Link]:
    return [
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


def cause_sizes(
    spindle: Spindle, drawn: Mapping[str, Array], z_mm: float, keys: Sequence[str] = ()
) -> dict[str, Quantity]:
    """Runout or play that each cause makes at z (of `keys`, or of all), with intervals that reach nothing
    where it may be nothing. Draws in mm.
    """
    plays = all_plays(spindle, drawn, z_mm)
    return {
        k: quantity(np.maximum(plays[k], 0.0))
        if k in plays
        else vector_size(vector_at(drawn, VECTOR_OF[k], z_mm), 2.0, as_read=True)
        for k in keys or causes_of(spindle)
    }


def told_causes(
    spindle: Spindle,
    alone: ReadingsOnly,
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
    """The source that for sure makes most of the slack, or "" where the readings do not tell. Draws in mm."""
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


class Clocking(Struct, frozen=True):
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
    """Oppose the holder's vector ("bar" or "chuck") to the spindle's at z. Draws in mm."""
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
    """Runout (TIR) at distances from the nose: spindle alone, or with a holder turned from its mark. Draws
    in mm.
    """
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
    still says which side one is on. In mm.
    """
    return 0.2 * limit_mm


def reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking, in a few words. Standard deviations in mm."""
    return suggestion_words(question_name(most), sd_before, sd_after, system, little=0.92)
