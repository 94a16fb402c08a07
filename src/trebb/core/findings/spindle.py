"""The error of a spindle split among its causes: bearings, slack, taper, seat, bar, chuck."""

from __future__ import annotations

import cmath
import math
from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from trebb.core.condition import Z95, Estimate, Quantity, tangles
from trebb.core.condition.draws import Array, draw, quantiles, quantity
from trebb.core.condition.normal import truncated_moments
from trebb.core.findings.base import Finding, Measure, size_words, suggestion_words
from trebb.core.machine import RatedLimit, Spindle, State
from trebb.core.machine.spindle import LEAN_MM, slack_shares
from trebb.core.runout import WarmRun, degrees_of, whole_degrees
from trebb.core.survey.contact import WANTED_SHARE, Contact
from trebb.core.survey.journals import SeatState
from trebb.core.survey.seat import SeatScatter
from trebb.core.survey.warm_run import USUAL_RISE_C
from trebb.core.units import UnitSystem, show_small, show_uncertain

# Mean length of a vector scattered by one on each axis, twice: what scatter adds to runout.
SCATTER_TIR = 2 * math.sqrt(math.pi / 2)
CAUSES = ("bearings", "slack", "taper", "seat", "bar", "chuck")
CAUSE_NAMES = {
    "bearings": "bearings",
    "slack": "bearing slack",
    "taper": "taper",
    "seat": "seat",
    "bar": "test bar",
    "chuck": "chuck",
    "quill": "quill",
    "coupler": "coupler",
    "float": "end float",
}
# A cause is named when it is beyond twice its own ±; alike when another is within this share of it.
ALIKE_SHARE = 0.8
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


def cause_draws(spindle: Spindle, drawn: Mapping[str, Array], z_mm: float) -> dict[str, Array]:
    """Runout (TIR) or play that each cause makes at z, one value a draw."""
    result = {
        "bearings": 2 * np.abs(vector_at(drawn, "bearing", z_mm)),
        "slack": slack_at(spindle, drawn),
        "taper": 2 * np.abs(vector_at(drawn, "taper", z_mm)),
        "seat": SCATTER_TIR * spindle.seat_spread(z_mm) * drawn["seat"],
        "bar": 2 * np.abs(vector_at(drawn, "bar", z_mm)),
    }
    if spindle.kind == "drill":
        result["chuck"] = 2 * np.abs(vector_at(drawn, "chuck", z_mm))
    return result


def work_draws(
    spindle: Spindle, drawn: Mapping[str, Array], z_mm: float, *, chuck_turned_deg: float = 0.0
) -> Array:
    """Error at z: runout of bearings and taper (and the chuck of a drill), what the seat adds, and slack.
    The bar's own is not the machine's.
    """
    vector = vector_at(drawn, "bearing", z_mm) + vector_at(drawn, "taper", z_mm)
    if spindle.kind == "drill":
        vector = vector + vector_at(drawn, "chuck", z_mm) * cmath.exp(1j * math.radians(chuck_turned_deg))
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
    return result


def measure_value(spindle: Spindle, drawn: Mapping[str, Array], key: str) -> Quantity:
    """A measure's value from draws."""
    z = spindle.work_mm
    if key == "work":
        return quantity(work_draws(spindle, drawn, z))
    if key == "seat":
        return quantity(SCATTER_TIR * spindle.seat_spread(z) * drawn["seat"])
    if key == "slack":
        return quantity(slack_at(spindle, drawn))
    if key == "chuck":
        return quantity(2 * np.abs(vector_at(drawn, "chuck", spindle.pin_near_mm)))
    return quantity(drawn[key])


# Sources whose doubt must have fallen before a measure counts as read at all.
_TOUCHED = {
    "work": "taper.x",
    "seat": "seat",
    "slack": "slack",
    "float": "float",
    "chuck": "chuck.x",
    "coupler": "coupler",
}


def is_read(now: Estimate, key: str, scatter: SeatScatter) -> bool:
    """Whether readings have told anything of a measure."""
    if key == "seat":
        return scatter.seatings >= 2
    source = now.model.source(_TOUCHED[key])
    at = now.model.position(source.key)
    before = truncated_moments(source.mean, source.sd, 0.0)[1] if source.is_clearance else source.sd**2
    return bool(now.covariance[at, at] < 0.7 * before)


@dataclass(frozen=True)
class Link:
    """One link of the chain spindle → … → indicator, at the distance the error counts."""

    key: str
    label: str
    value: Quantity
    share: float
    words: str


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
        """The measure furthest to or over its limit. Raises ValueError where nothing is read: `measures` is
        then empty.
        """
        return max(self.measures, key=lambda m: m.share_of_limit)


def seat_is_trusted(spindle: Spindle, scatter: SeatScatter, limit_mm: float) -> bool:
    """False where it is nine to one that the seat moves the bar beyond the limit, whatever bearings and
    indicator explain.
    """
    return not (
        scatter.seatings >= 2
        and SCATTER_TIR * spindle.seat_spread(spindle.work_mm) * scatter.low_mm > limit_mm
    )


def split_spindle(
    spindle: Spindle, now: Estimate, limits: Mapping[str, RatedLimit], scatter: SeatScatter
) -> SpindleSplit:
    """The chain with its shares, the measures against their limits, and the causes that can be named."""
    drawn = draw(now)
    causes = {k: quantity(v) for k, v in cause_draws(spindle, drawn, spindle.work_mm).items()}
    total = sum(q.value for q in causes.values()) + INDICATOR_MM
    order = ["bearings", "slack", "taper", "seat", "chuck" if spindle.kind == "drill" else "bar"]
    if spindle.kind == "drill":
        order.append("bar")
    links = [
        Link(
            k, CAUSE_NAMES[k].capitalize(), causes[k], causes[k].value / total, _direction(drawn, k, spindle)
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
    measures = tuple(
        Measure(key, label, limits[limit_key], measure_value(spindle, drawn, key))
        for key, (label, limit_key) in measure_limits(spindle).items()
        if is_read(now, key, scatter)
    )
    trusted = seat_is_trusted(spindle, scatter, limits["seat_repeat"].limit_mm)
    named = named_causes(causes, seatings=scatter.seatings, seat_is_sure=not trusted)
    return SpindleSplit(
        tuple(links),
        measures,
        named,
        rival_causes(causes, named),
        drawn,
        scatter,
        trusted,
        slack_part(spindle, drawn),
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
    name = {"bearings": "bearing", "taper": "taper", "bar": "bar", "chuck": "chuck"}.get(key)
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


def _at_work(name: str, axis: str, reach: float) -> dict[str, float]:
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
            result[f"{key}.{axis}"] = _at_work(name, axis, k)
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


# verdicts -------------------------------------------------------------------------------------


def spindle_findings(
    spindle: Spindle,
    now: Estimate,
    split: SpindleSplit,
    limits: Mapping[str, RatedLimit],
    system: UnitSystem,
    *,
    seats: list[SeatState],
    contact: Contact | None,
    warm: WarmRun | None,
    noise: str = "",
) -> list[Finding]:
    """Verdicts on one spindle, the heaviest first."""
    found: list[Finding] = []
    has_work = any(m.key == "work" for m in split.measures)
    if split.measures and (has_work or split.trusts_seat or split.worst.key != "seat"):
        found.append(_whole(spindle, split, system, now.readings))
    if not split.trusts_seat:
        found.append(_seat(split, limits["seat_repeat"], system, contact))
    told = "work" if has_work else split.worst.key if split.measures else ""
    found += [
        _measure(spindle, m, split, system)
        for m in split.measures
        if m.key != told and not (m.key == "seat" and not split.trusts_seat)
    ]
    if split.trusts_seat and split.measures:
        tangle = _tangle(spindle, now, limits[f"{spindle.kind}_work"], split, system)
        if tangle:
            found.append(tangle)
    found += [_journal(s, system) for s in seats]
    if contact is not None and contact.share > 0:
        state = (
            State.WITHIN
            if contact.share >= WANTED_SHARE
            else State.NEAR
            if contact.share >= 0.8 * WANTED_SHARE
            else State.BEYOND
        )
        found.append(
            Finding(
                "contact",
                state,
                f"The taper bears over {contact.share:.0%}: {contact.pattern}.",
                f"blue: mouth {contact.mouth:.0%}, back {contact.back:.0%}; {WANTED_SHARE:.0%} wanted",
                contact.meaning,
                0.01,
            )
        )
    if warm is not None:
        found.append(_warm(warm))
    if not found:
        found.append(
            Finding(
                "begun",
                State.UNKNOWN,
                "Too little is read yet to judge the spindle.",
                f"{now.readings} readings' worth",
                "Go on with this set-up, or the one worth most a minute.",
                0.0,
            )
        )
    if noise in ("growls", "knocks"):
        found.append(
            Finding(
                "noise",
                State.BEYOND,
                f"It {noise}.",
                "graded by ear on the warm run",
                "Bearings that growl are pitted; adjusting will not mend them.",
                0.008,
            )
        )
    return sorted(found, key=lambda f: -f.weight_mm)


def _whole(spindle: Spindle, split: SpindleSplit, system: UnitSystem, readings: int) -> Finding:
    work = next((m for m in split.measures if m.key == "work"), None)
    if work is None:
        worst = split.worst
        words = (
            f"{worst.label}: {show_uncertain(worst.value.value, worst.value.half_width, system)}, limit "
            f"{show_small(worst.limit.limit_mm, system)}."
        )
        return Finding(
            "whole",
            worst.state,
            words,
            f"{readings} readings' worth",
            _MOVE[worst.state],
            worst.value.value + 10,
        )
    against = "limit" if work.state is not State.WITHIN else "inside the limit of"
    where = (
        f"{show_small(work.value.value, system)} {spindle.work_mm / 25.4:.0f} in out"
        if system is UnitSystem.INCH
        else f"{show_small(work.value.value, system)} {spindle.work_mm:.0f} mm out"
    )
    cause = cause_words(split)
    sentence = f"The spindle is out by {where}, {against} {show_small(work.limit.limit_mm, system)}. {cause}"
    rest = (
        f"± {show_small(work.value.half_width, system)} at the work; bearings, taper, seat and slack; "
        "the bar's own taken out"
    )
    move = (
        _MOVE[work.state]
        if split.named
        else "The set-up at the right settles most a minute, where one is left."
    )
    return Finding("whole", work.state, sentence, rest, move, work.value.value + 10)


_MOVE = {
    State.WITHIN: "Leave it, and write down why.",
    State.NEAR: "Near its limit: clean, deburr and look again in a month.",
    State.BEYOND: "Compare what each repair would leave before anything is taken apart.",
    State.UNKNOWN: "",
}


def cause_words(split: SpindleSplit) -> str:
    """Which one is lying, in a sentence."""
    if not split.named:
        return "Which part of it lies cannot be told yet."
    names = [
        f"the {SLACK_PARTS[split.slack_part] if k == 'slack' and split.slack_part else CAUSE_NAMES[k]}"
        for k in split.named
    ]
    if split.rivals:
        verb = "are" if len(names) > 1 else "is"
        return f"Sure of it {verb} {' and '.join(names)}; the {CAUSE_NAMES[split.rivals[0]]} may be as much."
    if len(names) == 1:
        return f"Most of it is {names[0]}."
    return f"{names[0].capitalize()} and {' and '.join(names[1:])} are about alike in it."


def _seat(split: SpindleSplit, limit: RatedLimit, system: UnitSystem, contact: Contact | None) -> Finding:
    moved = max(split.scatter.between_mm, 0.0)
    words = (
        f"The seat does not repeat: {show_small(moved, system)} between seatings, limit "
        f"{show_small(limit.limit_mm, system)}."
    )
    ways = (
        "Each seating moves the bar further than bearings and indicator explain. What was taken off that "
        "taper is set aside: it would be measured against a moving reference."
    )
    if contact is not None and contact.share > 0:
        ways = (
            f"What was taken off that taper is set aside. The blue says: {contact.pattern}. {contact.meaning}"
        )
    on = (
        ("Blue the taper and find out why", "contact"),
        ("Go round it: the bore needs no bar", "taper_bore"),
    )
    return Finding(
        "seat",
        State.BEYOND,
        words,
        f"{split.scatter.seatings} seatings; bearings and indicator explain far less",
        ways,
        moved + 20,
        on,
    )


def _measure(spindle: Spindle, m: Measure, split: SpindleSplit, system: UnitSystem) -> Finding:
    shown = m.value.low > INDICATOR_MM / 2 or m.value.value > INDICATOR_MM
    if not shown:
        return Finding(
            m.key,
            State.WITHIN,
            f"{m.label}: not shown; less than {show_small(m.value.high, system)}.",
            "smaller than the instrument can show",
            "Nothing to do.",
            0.0,
        )
    move = {
        "slack": "Set the preload before buying bearings; if it comes back, they are worn or loose on their "
        "seats.",
        "float": "Take it up with the preload.",
        "chuck": "True the jaws or set the backplate; the spindle is not to blame.",
        "coupler": "A sleeve over worn splines, or new dogs.",
        "seat": "It repeats well enough to measure by.",
    }[m.key]
    if m.key == "slack" and split.slack_part not in ("", "slack"):
        move = (
            "Neither preload nor new bearings take it out: most of it is the "
            f"{SLACK_PARTS[split.slack_part]}."
        )
    elif m.key == "slack" and spindle.lever > 1:
        move = (
            "The spindle swings about its one bearing: a second one takes the lever away; set the "
            "preload in any case."
        )
    if m.key == "seat" and m.state is not State.WITHIN:
        move = (
            "Not shown to be over its limit, so the bar is trusted as yet: seat it twice more and read "
            "it again."
        )
    if m.state is State.WITHIN and m.key != "seat":
        move = "Leave it."
    words = f"{m.label}: {size_words(m, system)}."
    return Finding(
        m.key,
        m.state,
        words,
        "all readings standing",
        move,
        m.value.value * (1 if m.state is not State.WITHIN else 0.1),
    )


def _tangle(
    spindle: Spindle, now: Estimate, limit: RatedLimit, split: SpindleSplit, system: UnitSystem
) -> Finding | None:
    parts = {
        key: _at_work(name, "x", spindle.work_mm / LEAN_MM)
        for key, name in (("bearings", "bearing"), ("taper", "taper"), ("bar", "bar"))
    }
    found = tangles(now, parts, doubt_scale(limit.limit_mm) * 2)
    if not found:
        return None
    names = [CAUSE_NAMES[k] for k in found[0].keys]
    settle = (
        "Turn the bar half round in the taper and read again."
        if "bar" in found[0].keys
        else "The nose by itself settles it."
    )
    return Finding(
        "tangle",
        State.UNKNOWN,
        f"{', '.join(names[:-1]).capitalize()} and {names[-1]} cannot be told apart yet.",
        "the readings so far fix only their sum",
        settle,
        0.02,
    )


def _journal(seat: SeatState, system: UnitSystem) -> Finding:
    loose = seat.loose_mm - seat.half_mm > 0
    tight = seat.loose_mm + seat.half_mm < 0
    move = (
        "New bearings alone will not cure it: build up and grind, or sleeve it."
        if loose
        else "It will hold a bearing."
        if tight
        else "Measure it again, or try a bearing cold."
    )
    state = State.BEYOND if loose else State.WITHIN if tight else State.NEAR
    return Finding(
        seat.seat,
        state,
        seat.words(system),
        f"± {show_small(seat.half_mm, system)}, the bearing's own tolerance in it",
        move,
        max(seat.loose_mm, 0.0) * 1.5,
    )


def _warm(warm: WarmRun) -> Finding:
    over = warm.rise_c - USUAL_RISE_C
    state = State.BEYOND if over > 1.5 * warm.sd_c else State.NEAR if over > 0 else State.WITHIN
    words = f"It will settle {warm.rise_c:.0f} ± {Z95 * warm.sd_c:.0f} °C above the room."
    move = {
        State.BEYOND: "Ease the preload, or take grease out, before it burns.",
        State.NEAR: "Run on to the hour before trusting it.",
        State.WITHIN: "Usual.",
    }[state]
    return Finding(
        "warm",
        state,
        words,
        f"from the first minutes, time constant {warm.tau_min:.0f} min; up to {USUAL_RISE_C:.0f} °C is usual",
        move,
        0.004,
    )


__all__ = [
    "Clocking",
    "Link",
    "Measure",
    "SpindleSplit",
    "best_clocking",
    "draw",
    "runout_along",
    "spindle_findings",
    "split_spindle",
]
