"""A lathe in space: its measures by assembly, the error of the work by source, the next shim, and the
verdicts.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from trebb.core.alignment import closing_error, minimum_zones, straightness
from trebb.core.condition import Z95, Estimate, Quantity
from trebb.core.condition.draws import Array, combined, quantity
from trebb.core.findings.base import Finding, Measure, is_told, size_words, suggestion_words
from trebb.core.findings.bed_shims import Cut, ShimAdvice
from trebb.core.machine import Bed, RatedLimit, State, state_of
from trebb.core.machine.bed import ACROSS_FROM, FEET, REACH_MM, WAYS, Coefficients
from trebb.core.survey import PlaceReadings
from trebb.core.survey.bed_axes import Wander
from trebb.core.survey.bed_levels import is_turned, number_of
from trebb.core.units import UnitSystem, show_shim, show_size, show_small, show_uncertain

FEW = 240  # draws for what is costly
CLOSING_MM = 0.012  # a level run of a metre or so closes to this
SURE_TWIST_SHARE = 0.35

# Key → (assembly, label, limit).
MEASURES: dict[str, tuple[str, str, str]] = {
    "twist": ("ways", "Twist, in 1000 mm", "twist"),
    "straight_up": ("ways", "Straight in height", "straight_up"),
    "straight_side": ("ways", "Straight sideways", "straight_side"),
    "way_wear": ("ways", "Wear of the ways", "way_wear"),
    "taper": ("headstock", "Taper in 300 mm", "taper_chuck"),
    "axis_rise": ("headstock", "Axis in height, in 300 mm", "axis_rise"),
    "facing": ("headstock", "Facing, over 300 mm", "facing"),
    "tail_side": ("tailstock", "Across", "tail_side"),
    "tail_high": ("tailstock", "In height", "tail_high"),
    "tail_wander": ("tailstock", "Comes back to", "tail_wander"),
    "tail_key": ("tailstock", "Key in its slot", "tail_key"),
    "quill": ("tailstock", "Quill, in 100 mm", "quill"),
    "soft_foot": ("stand", "Worst foot", "soft_foot"),
    "stand_flex": ("stand", "Give", "stand_flex"),
}


def keys_of(assembly: str) -> tuple[str, ...]:
    """Measures of an assembly."""
    return tuple(key for key, (part, _, _) in MEASURES.items() if part == assembly)


def told_by(bed: Bed, key: str) -> Coefficients:
    """What must have been read before a measure counts as known."""
    middle, early = bed.steps // 2, max(1, bed.steps // 4)
    return {
        "twist": {"twist": 1.0},
        "straight_up": {f"bend.{middle}": 1.0, f"front.{middle}": -1.0},
        "straight_side": {f"side.{middle}": 1.0},
        "way_wear": {f"front.{early}": 1.0},
        "taper": bed.work(0.0, REACH_MM),
        "axis_rise": {"pitch": 1.0},
        "facing": {"cross": 1.0, "yaw": -1.0},
        "tail_side": {"tail_side": 1.0},
        "tail_high": {"tail_high": 1.0},
        "tail_wander": {},
        "tail_key": {"tail_key": 1.0},
        "quill": {"quill_side": 1.0},
        "soft_foot": {"foot.tail_front": 1.0},
        "stand_flex": {"stand_flex": 1.0},
    }[key]


def measure_draws(bed: Bed, drawn: Mapping[str, Array], key: str) -> Array:
    """A measure, one value a draw, mm."""
    if key == "twist":
        return np.asarray(np.abs(drawn["twist"]) * 1000 / bed.along_mm)
    if key == "straight_up":
        ways = [
            np.stack([combined(drawn, bed.height(way, x))[:FEW] for x in bed.stations], axis=1)
            for way in WAYS
        ]
        return np.asarray(
            np.maximum(minimum_zones(ways[0], bed.stations), minimum_zones(ways[1], bed.stations))
        )
    if key == "straight_side":
        return minimum_zones(
            np.stack([combined(drawn, bed.tool_out(x))[:FEW] for x in bed.stations], axis=1), bed.stations
        )
    if key == "way_wear":
        return np.asarray(np.max([drawn[f"{way}.{k}"] for way in WAYS for k in range(bed.steps + 1)], axis=0))
    if key == "quill":
        return np.asarray(np.hypot(drawn["quill_side"], drawn["quill_high"]) * 0.1)
    if key == "soft_foot":
        return np.asarray(np.max([drawn[f"foot.{foot}"] for foot in FEET], axis=0))
    linear: dict[str, Coefficients] = {
        "taper": bed.work(0.0, REACH_MM),
        "axis_rise": {"pitch": REACH_MM / 1000},
        "facing": {"cross": 0.15, "yaw": -0.15},
        "tail_side": {"tail_side": 1.0},
        "tail_high": {"tail_high": 1.0},
        "tail_wander": {"wander": 2.0},
        "tail_key": {"tail_key": 1.0},
        "stand_flex": {"stand_flex": 1.0},
    }
    return np.asarray(np.abs(combined(drawn, linear[key])))


def measure_value(bed: Bed, drawn: Mapping[str, Array], key: str) -> Quantity:
    """A measure's value, mm."""
    return quantity(measure_draws(bed, drawn, key))


def bed_measures(
    bed: Bed,
    assembly: str,
    now: Estimate,
    before_any: Estimate,
    drawn: Mapping[str, Array],
    limits: Mapping[str, RatedLimit],
    tightenings: int,
) -> list[Measure]:
    """What is known of an assembly. A measure whose doubt no reading has taken away is not shown."""
    found = []
    for key in keys_of(assembly):
        _, label, limit = MEASURES[key]
        told = told_by(bed, key)
        known = tightenings >= 2 if not told else is_told(now, before_any, told)
        if known:
            found.append(Measure(key, label, limits[limit], measure_value(bed, drawn, key)))
    return found


def questions(bed: Bed, assembly: str) -> dict[str, Coefficients]:
    """What is to be known of an assembly, each a combination of sources that comes to mm."""
    middle, quarter = bed.steps // 2, max(1, bed.steps // 4)
    if assembly == "ways":
        found: dict[str, Coefficients] = {"twist": {"twist": 1000 / bed.along_mm}}
        found.update({f"{way} way": bed.height(way, bed.stations[k]) for way in WAYS for k in (middle,)})
        found.update({f"wear of the {way} way": {f"{way}.{quarter}": 1.0} for way in WAYS})
        found["path sideways"] = {f"side.{middle}": 1.0}
        return found
    if assembly == "headstock":
        return {
            "taper": bed.work(0.0, REACH_MM),
            "headstock across": {"yaw": 2 * REACH_MM / 1000},
            "axis in height": {"pitch": REACH_MM / 1000},
            "facing": {"cross": 0.15, "yaw": -0.15},
        }
    if assembly == "tailstock":
        return {
            "across": {"tail_side": 1.0},
            "in height": {"tail_high": 1.0},
            "shift": {"tail_shift": 1.0},
            "wander": {"wander": 2.0},
            "key": {"tail_key": 1.0},
            "quill": {"quill_side": 0.1},
        }
    return {**{f"foot {foot}": {f"foot.{foot}": 1.0} for foot in FEET}, "give": {"stand_flex": 1.0}}


_QUESTION_WORDS = {
    "twist": "twist",
    "taper": "taper",
    "across": "tailstock across",
    "in height": "its height",
    "shift": "its shift on tightening",
    "wander": "whether it comes back",
    "key": "play of the key",
    "quill": "the quill",
    "give": "give of the stand",
    "facing": "facing",
}


def reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking."""
    name = _QUESTION_WORDS.get(most, FEET.get(most.removeprefix("foot "), most))
    return suggestion_words(name, sd_before, sd_after, system, little=0.9)


# verdicts -------------------------------------------------------------------------------------


def closing_findings(bed: Bed, along: Sequence[PlaceReadings]) -> list[Finding]:
    """Runs of the level that do not close, and stations left out of them."""
    found = []
    for way in WAYS:
        steps = {
            number_of(p.place): p.values
            for p in along
            if p.place.startswith(f"{way} way") and not is_turned(p.place)
        }
        missing = [k for k in range(1, max(steps, default=0)) if k not in steps]
        if missing:
            found.append(
                Finding(
                    f"left_out.{way}",
                    State.NEAR,
                    f"Step {_list(missing)} of the {way} way was left out.",
                    "level along",
                    f"Beyond it the heights hang on a guess: read step {_list(missing)}, the level on the "
                    "same marks.",
                    0.012,
                    (("Read it", "level_along"),),
                )
            )
        both = {k: v for k, v in steps.items() if len(v) > 1}
        if len(both) >= 3:
            error = closing_error([v[0] for v in both.values()], [v[1] for v in both.values()], bed.base_mm)
            if abs(error) > CLOSING_MM:
                k = max(both, key=lambda k: abs(both[k][0] - both[k][1]))
                found.append(
                    Finding(
                        f"closing.{way}",
                        State.NEAR,
                        f"The level run on the {way} way does not close: out and back differ by "
                        f"{error * 1000:+.0f} µm at the far end.".replace("-", "−"),
                        "level along, out and back",
                        f"Something moved between: take step {k} again first, it differs most; then the rest "
                        "of the way back.",
                        0.011,
                        (("Take it again", "level_along"),),
                    )
                )
    return found


def _list(numbers: Sequence[int]) -> str:
    return ", ".join(map(str, numbers))


def ways_findings(
    bed: Bed, now: Estimate, measures: Mapping[str, Measure], system: UnitSystem
) -> list[Finding]:
    """Twist, the three straightness figures, wear and where it is."""
    found = []
    if m := measures.get("twist"):
        roll = now.source("twist").value
        leans = "front" if roll > 0 else "rear"
        larger = abs(2 * bed.tool_height_mm * roll * REACH_MM / bed.along_mm / 1000)
        sentence = (
            f"{'Before the shims the bed was' if bed.shims else 'The bed is'} twisted: "
            f"{size_words(m, system)}."
            if m.state is not State.WITHIN
            else f"The bed is not twisted beyond its limit: {size_words(m, system)}."
        )
        foot = "tail_front" if roll > 0 else "tail_rear"
        found.append(
            Finding(
                "twist",
                m.state,
                sentence,
                "level across",
                f"At the tailstock's end it leans to the {leans}: raise the foot at the {FEET[foot]}. In a "
                f"chuck that makes work {'larger' if roll > 0 else 'smaller'} away from it by "
                f"{show_small(larger, system)} in 300 mm.",
                larger,
                (("Shim and cut", "trials"),) if m.state is not State.WITHIN else (),
            )
        )
    if m := measures.get("straight_up"):
        figures = []
        for way in WAYS:
            s = straightness(bed.stations, [now.combination(bed.height(way, x)).value for x in bed.stations])
            figures.append(
                f"{way} way: {show_small(s.minimum_zone, system)} minimum zone, "
                f"{show_small(s.least_squares, system)} least squares, "
                f"{show_small(s.endpoint_total, system)} end point"
            )
        found.append(
            Finding(
                "straight_up",
                m.state,
                f"In height the worse way is straight to {size_words(m, system)}.",
                "minimum zone; level along, straightedge or autocollimator",
                "; ".join(figures) + ". Three figures of one profile: compare like with like.",
                m.value.value * 0.2,
            )
        )
    if m := measures.get("straight_side"):
        found.append(
            Finding(
                "straight_side",
                m.state,
                f"Sideways the tool's path is straight to {size_words(m, system)}.",
                "minimum zone at centre height",
                f"The work shows twice that on diameter: {show_small(2 * m.value.value, system)}.",
                2 * m.value.value,
            )
        )
    if m := measures.get("way_wear"):
        worst = max(
            ((way, k) for way in WAYS for k in range(bed.steps + 1)),
            key=lambda at: now.source(f"{at[0]}.{at[1]}").value,
        )
        tipped = bed.centre_mm / bed.gauge_mm * m.value.value
        found.append(
            Finding(
                "way_wear",
                m.state,
                f"The {worst[0]} way is worn most at station {worst[1]}, by {size_words(m, system)}.",
                "ridge and level",
                f"There the saddle comes down and rolls: the tool moves about {show_small(tipped, system)} "
                f"to the {worst[0]}. Scrape, or keep the work away from there.",
                2 * tipped,
            )
        )
    return found


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
    found = []
    if m := measures.get("taper"):
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
        found.append(
            Finding(
                "taper",
                state,
                sentence,
                "two lands, test bar and level together",
                f"{explains}{shims}",
                abs(whole.value),
                ways,
            )
        )
    if m := measures.get("axis_rise"):
        rises = "rises" if now.source("pitch").value > 0 else "drops"
        found.append(
            Finding(
                "axis_rise",
                m.state,
                f"In 300 mm from the headstock the spindle's axis {rises} by {size_words(m, system)}.",
                "test bar, on top",
                "Up to its limit it may rise, for the work's weight. Height errors hardly show on diameter; "
                "they do in boring.",
                m.value.value * 0.3,
            )
        )
    if m := measures.get("facing"):
        face = now.combination({"cross": 1.0, "yaw": -1.0})
        hollow, is_sure = face.value > 0, abs(face.value) > face.half_width
        state = m.state if hollow or m.state is State.BEYOND or not is_sure else State.NEAR
        move = (
            "Hollow is allowed."
            if hollow
            else "Proud is not allowed: a face must never stand on its middle. Set the headstock over before "
            "the cross slide is touched."
        )
        found.append(
            Finding(
                "facing",
                state,
                f"It faces {'hollow' if hollow else 'proud'} by {size_words(m, system)}.",
                "facing test",
                move if is_sure else "Flat as far as this was read.",
                m.value.value,
            )
        )
    return found


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


def is_habit(now: Estimate, found: Wander) -> bool:
    """Whether the shift on tightening is one that can be aimed off for: larger than twice what the
    tightenings scatter by.
    """
    shift = now.source("tail_shift")
    return found.times >= 2 and abs(shift.value) > 2 * found.mean_mm and abs(shift.value) > Z95 * shift.sd


def tailstock_findings(
    bed: Bed, now: Estimate, measures: Mapping[str, Measure], found_wander: Wander, system: UnitSystem
) -> list[Finding]:
    """Offset tightened, the habit it has, whether it comes back, key and quill."""
    found = []
    if m := measures.get("tail_side"):
        side = now.source("tail_side").value
        found.append(
            Finding(
                "tail_side",
                m.state,
                f"Tightened, the tailstock stands to the {'rear' if side > 0 else 'front'} by "
                f"{size_words(m, system)}.",
                "bar between centres and long piece, the bed taken out",
                f"A long piece comes out {'larger' if side > 0 else 'smaller'} at the tailstock by "
                f"{show_small(2 * abs(side), system)}. Move it {show_small(abs(side), system)} to the "
                f"{'front' if side > 0 else 'rear'}.",
                2 * m.value.value,
            )
        )
    if m := measures.get("tail_high"):
        high = now.source("tail_high").value
        move = (
            "Scrape its base, or let it be up to its limit: it wears down."
            if high > 0
            else f"Raise it: a shim of {show_small(abs(high), system)} under its whole base."
        )
        found.append(
            Finding(
                "tail_high",
                m.state,
                f"It stands {'high' if high > 0 else 'low'} by {size_words(m, system)}.",
                "bar between centres, on top",
                move,
                0.3 * m.value.value,
            )
        )
    if m := measures.get("tail_wander"):
        shift = now.source("tail_shift")
        if is_habit(now, found_wander):
            move = (
                f"A habit: tightening takes it {show_small(abs(shift.value), system)} to the "
                f"{'rear' if shift.value > 0 else 'front'} each time. Set it that much to the "
                f"{'front' if shift.value > 0 else 'rear'} while loose, and it lands right."
            )
            found.append(
                Finding(
                    "habit",
                    m.state,
                    f"Tightened again it comes back to {size_words(m, system)}.",
                    f"{found_wander.times} tightenings",
                    move,
                    m.value.value,
                )
            )
        else:
            move = (
                "A loose key lets it land where it likes: no setting holds. Shim the slot, or fit a new key, "
                "before it is set over."
                if m.state is not State.WITHIN
                else "It comes back."
            )
            found.append(
                Finding(
                    "wander",
                    m.state,
                    f"From one tightening to the next it wanders by {size_words(m, system)}.",
                    f"{found_wander.times} tightenings",
                    move,
                    m.value.value,
                    (("Try the key", "tail_key"),) if m.state is not State.WITHIN else (),
                )
            )
    if m := measures.get("tail_key"):
        found.append(
            Finding(
                "tail_key",
                m.state,
                f"The key's play in its slot is {size_words(m, system)}.",
                "pushed to and fro",
                f"A shim of {show_small(max(0.0, (m.value.value - 0.01) / 2), system)} on each side leaves "
                "it a slide fit."
                if m.state is not State.WITHIN
                else "A slide fit.",
                0.8 * m.value.value,
            )
        )
    if m := measures.get("quill"):
        found.append(
            Finding(
                "quill",
                m.state,
                f"In 100 mm the quill points aside by {size_words(m, system)}.",
                "quill run out",
                "What is drilled from it goes there; clamp it as in use when you set it.",
                0.5 * m.value.value,
            )
        )
    return found


def stand_findings(
    bed: Bed, now: Estimate, measures: Mapping[str, Measure], system: UnitSystem
) -> list[Finding]:
    """Feet that do not stand; a stand that gives."""
    found = []
    if m := measures.get("soft_foot"):
        foot = max(FEET, key=lambda f: now.source(f"foot.{f}").value)
        move = (
            f"Shim it by {show_small(now.source(f'foot.{foot}').value, system)} before the bed is levelled: "
            "a foot that is pulled down bends the bed."
            if m.state is not State.WITHIN
            else "All four stand."
        )
        found.append(
            Finding(
                "soft_foot",
                m.state,
                f"With its bolt slackened, the foot at the {FEET[foot]} springs up by "
                f"{size_words(m, system)}.",
                "each bolt alone",
                move,
                m.value.value,
            )
        )
    if m := measures.get("stand_flex"):
        found.append(
            Finding(
                "stand_flex",
                m.state,
                f"Pushed with 200 N the stand gives by {size_words(m, system)}.",
                "pushed at the headstock",
                "Bolt it down or brace it first: levels on a stand that gives do not last."
                if m.state is not State.WITHIN
                else "Stiff enough to hold a level.",
                0.7 * m.value.value,
            )
        )
    return found
