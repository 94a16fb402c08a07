"""A lathe in space: its measures by assembly, the error of the work by source, the next shim, and the
verdicts.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from trebb.core.alignment import closing_error, minimum_zones, straightness
from trebb.core.condition import Estimate, Quantity
from trebb.core.condition.draws import Array, combined, quantity
from trebb.core.findings.base import Finding, Measure, is_told, size_words, suggestion_words
from trebb.core.machine import Bed, RatedLimit, State
from trebb.core.machine.bed import FEET, REACH_MM, WAYS, Coefficients
from trebb.core.survey import PlaceReadings
from trebb.core.survey.bed_levels import is_turned, number_of
from trebb.core.units import UnitSystem, show_small

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
    found = (
        _twist(bed, now, measures["twist"], system) if "twist" in measures else None,
        _straight_up(bed, now, measures["straight_up"], system) if "straight_up" in measures else None,
        _straight_side(measures["straight_side"], system) if "straight_side" in measures else None,
        _way_wear(bed, now, measures["way_wear"], system) if "way_wear" in measures else None,
    )
    return [f for f in found if f is not None]


def _twist(bed: Bed, now: Estimate, m: Measure, system: UnitSystem) -> Finding:
    roll = now.source("twist").value
    leans = "front" if roll > 0 else "rear"
    larger = abs(2 * bed.tool_height_mm * roll * REACH_MM / bed.along_mm / 1000)
    sentence = (
        f"{'Before the shims the bed was' if bed.shims else 'The bed is'} twisted: {size_words(m, system)}."
        if m.state is not State.WITHIN
        else f"The bed is not twisted beyond its limit: {size_words(m, system)}."
    )
    foot = "tail_front" if roll > 0 else "tail_rear"
    return Finding(
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


def _straight_up(bed: Bed, now: Estimate, m: Measure, system: UnitSystem) -> Finding:
    figures = []
    for way in WAYS:
        s = straightness(bed.stations, [now.combination(bed.height(way, x)).value for x in bed.stations])
        figures.append(
            f"{way} way: {show_small(s.minimum_zone, system)} minimum zone, "
            f"{show_small(s.least_squares, system)} least squares, "
            f"{show_small(s.endpoint_total, system)} end point"
        )
    return Finding(
        "straight_up",
        m.state,
        f"In height the worse way is straight to {size_words(m, system)}.",
        "minimum zone; level along, straightedge or autocollimator",
        "; ".join(figures) + ". Three figures of one profile: compare like with like.",
        m.value.value * 0.2,
    )


def _straight_side(m: Measure, system: UnitSystem) -> Finding:
    return Finding(
        "straight_side",
        m.state,
        f"Sideways the tool's path is straight to {size_words(m, system)}.",
        "minimum zone at centre height",
        f"The work shows twice that on diameter: {show_small(2 * m.value.value, system)}.",
        2 * m.value.value,
    )


def _way_wear(bed: Bed, now: Estimate, m: Measure, system: UnitSystem) -> Finding:
    worst = max(
        ((way, k) for way in WAYS for k in range(bed.steps + 1)),
        key=lambda at: now.source(f"{at[0]}.{at[1]}").value,
    )
    tipped = bed.centre_mm / bed.gauge_mm * m.value.value
    return Finding(
        "way_wear",
        m.state,
        f"The {worst[0]} way is worn most at station {worst[1]}, by {size_words(m, system)}.",
        "ridge and level",
        f"There the saddle comes down and rolls: the tool moves about {show_small(tipped, system)} "
        f"to the {worst[0]}. Scrape, or keep the work away from there.",
        2 * tipped,
    )


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
