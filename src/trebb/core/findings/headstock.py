"""What is wrong with how a headstock stands, in sentences."""

from __future__ import annotations

from collections.abc import Mapping

from trebb.core.condition import Estimate, Quantity
from trebb.core.findings.base import Finding, Measure, size_words
from trebb.core.findings.bed import SURE_TWIST_SHARE
from trebb.core.findings.bed_shims import Cut, ShimAdvice
from trebb.core.machine import Bed, State, state_of
from trebb.core.machine.bed import ACROSS_FROM, FEET, REACH_MM
from trebb.core.units import UnitSystem, show_shim, show_size, show_small, show_uncertain


def headstock_findings(
    bed: Bed,
    now: Estimate,
    before_any: Estimate,
    measures: Mapping[str, Measure],
    advice: ShimAdvice | None,
    system: UnitSystem,
) -> list[Finding]:
    """Which end is large, whether twist or headstock explains it, which foot, and what the next cut will
    read.
    """
    found = (
        _taper(bed, now, before_any, advice, measures["taper"], system) if "taper" in measures else None,
        _axis_rise(now, measures["axis_rise"], system) if "axis_rise" in measures else None,
        _facing(now, measures["facing"], system) if "facing" in measures else None,
    )
    return [f for f in found if f is not None]


def _taper(
    bed: Bed, now: Estimate, before_any: Estimate, advice: ShimAdvice | None, m: Measure, system: UnitSystem
) -> Finding:
    whole = now.combination(bed.work(0.0, REACH_MM))
    end = "far" if whole.value > 0 else "near"
    parts = bed.work(0.0, REACH_MM)
    head = now.combination({"yaw": parts.pop("yaw")})
    bedded = now.combination(parts)
    twist_doubt = now.source("twist").sd / before_any.source("twist").sd
    explains = _who(bed, now, bedded, head, twist_doubt, system)
    ways: tuple[tuple[str, str], ...] = (
        (("Level across decides", "level_across"),) if twist_doubt > SURE_TWIST_SHARE else ()
    )
    state, sentence = m.state, _taper_sentence(m, end, system)
    if bed.shims and advice is not None:
        state = state_of(abs(advice.now.value), advice.limit_mm)
        sentence = (
            "With the shims in, the far land differs from the near one by "
            f"{show_uncertain(advice.now.value, advice.now.half_width, system)}, limit "
            f"{show_small(advice.limit_mm, system)};"
            f" before, work came out {show_small(m.value.value, system)} larger at the {end} end in 300 "
            "mm."
        )
    shims = (
        _shim_words(bed, advice, system)
        if advice is not None and (m.state is not State.WITHIN or bed.shims)
        else ""
    )
    return Finding(
        "taper",
        state,
        sentence,
        "two lands, test bar and level together",
        f"{explains}{shims}",
        abs(whole.value),
        ways,
    )


def _axis_rise(now: Estimate, m: Measure, system: UnitSystem) -> Finding:
    rises = "rises" if now.source("pitch").value > 0 else "drops"
    return Finding(
        "axis_rise",
        m.state,
        f"In 300 mm from the headstock the spindle's axis {rises} by {size_words(m, system)}.",
        "test bar, on top",
        "Up to its limit it may rise, for the work's weight. Height errors hardly show on diameter; "
        "they do in boring.",
        m.value.value * 0.3,
    )


def _facing(now: Estimate, m: Measure, system: UnitSystem) -> Finding:
    face = now.combination({"cross": 1.0, "yaw": -1.0})
    hollow, is_sure = face.value > 0, abs(face.value) > face.half_width
    state = m.state if hollow or m.state is State.BEYOND or not is_sure else State.NEAR
    move = (
        "Hollow is allowed."
        if hollow
        else "Proud is not allowed: a face must never stand on its middle. Set the headstock over before "
        "the cross slide is touched."
    )
    return Finding(
        "facing",
        state,
        f"It faces {'hollow' if hollow else 'proud'} by {size_words(m, system)}.",
        "facing test",
        move if is_sure else "Flat as far as this was read.",
        m.value.value,
    )


def _taper_sentence(m: Measure, end: str, system: UnitSystem) -> str:
    if m.state is State.WITHIN:
        return f"Work in the chuck comes out parallel enough, in 300 mm within {size_words(m, system)}."
    return (
        f"Work in the chuck comes out tapered, large at the {end} end, in 300 mm by {size_words(m, system)}."
    )


def _jack(bed: Bed, now: Estimate, system: UnitSystem) -> str:
    """How far the headstock's end at its jacking screw is moved, and which way: its axis points to the rear
    where yaw is more than nothing.
    """
    yaw = now.source("yaw").value
    return (
        f"{show_small(abs(yaw) * bed.lever_mm / 1000, system)} at "
        f"{show_size(bed.lever_mm, system, resolution_mm=1)} from its pivot, to the "
        f"{'front' if yaw > 0 else 'rear'} at its nose"
    )


def _who(
    bed: Bed, now: Estimate, bedded: Quantity, head: Quantity, twist_doubt: float, system: UnitSystem
) -> str:
    if twist_doubt > SURE_TWIST_SHARE:
        return (
            "Twist or headstock: the cut cannot tell them apart. Level the bed across first; what then "
            "remains is the headstock's. "
        )
    words = (
        f"Bed (twist and wear) gives {show_uncertain(bedded.value, bedded.half_width, system)}, the "
        f"headstock {show_uncertain(head.value, head.half_width, system)}: "
    )
    if abs(bedded.value) > 2 * abs(head.value):
        return words + "shim the feet. "
    if abs(head.value) > 2 * abs(bedded.value):
        return words + f"set the headstock over by {_jack(bed, now, system)}; the bed stands well. "
    return words + "both; the feet first. "


def _shim_words(bed: Bed, advice: ShimAdvice, system: UnitSystem) -> str:
    if advice.is_done:
        return (
            "Leave the feet." if abs(advice.now.value) <= advice.limit_mm else "No shim at hand betters it."
        )
    size = show_shim(abs(advice.mm), system)
    how = f"Put {size} under" if advice.mm > 0 else f"Take {size} out from under"
    return (
        f"{how} the foot at the {FEET[advice.foot]}; the next cut will read "
        f"{show_uncertain(advice.next.value, advice.next.half_width, system)} far less near."
    )


def wrong_foot_finding(bed: Bed, number: int, system: UnitSystem) -> Finding:
    """A shim that answers the wrong way round."""
    foot, mm = bed.shims[number - 1]
    return Finding(
        "wrong_foot",
        State.NEAR,
        f"Cut {number} answers as if the shim lay under the other foot.",
        "the change from one cut to the next",
        f"{show_shim(abs(mm), system)} are logged under the foot at the {FEET[foot]}; the work changed as if "
        f"it were the {FEET[ACROSS_FROM[foot]]}. Look, then log it there, or take it out and begin anew.",
        1.0,
        (("Look at the trials", "trials"),),
    )


def exchanged_finding(read: Cut, foretold: Quantity, system: UnitSystem) -> Finding:
    """Near and far look exchanged."""
    return Finding(
        "exchanged",
        State.NEAR,
        f"Were near and far exchanged? Read {show_small(read.difference_mm, system, signed=True)} far less "
        f"near; all else foretells {show_small(foretold.value, system, signed=True)} ± "
        f"{show_small(foretold.half_width, system)}.",
        "the cut against level and test bar",
        "Near is the chuck's end. Measure both lands again; strike the old ones out if they were exchanged.",
        1.1,
        (("Measure again", "two_collar"),),
    )


def seat_finding(why: str) -> Finding:
    """The test bar's sweep does not count."""
    return Finding(
        "bar_aside",
        State.NEAR,
        "The test bar's sweep is set aside.",
        "the spindle's survey",
        f"{why[0].upper()}{why[1:]}. The two-collar cut needs no taper; take the bar again when the spindle "
        "is mended.",
        0.02,
        (("Cut two lands", "two_collar"),),
    )
