"""A lathe in space: its measures by assembly, the error of the work by source, the next shim, and the
verdicts.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from functools import lru_cache
from itertools import pairwise

import numpy as np

from trebb.core.alignment import closing_error, minimum_zones, straightness
from trebb.core.belief.extremes import largest_of, straightness_of_noise
from trebb.core.condition import Quantity, ReadingsOnly, size_of
from trebb.core.condition.draws import Array, combined, profile_draws, quantity, signed_size, vector_size
from trebb.core.condition.fixing import are_touched, is_fixed, is_read, is_touched
from trebb.core.dual_units import show_force
from trebb.core.families.bed.levels import is_turned, number_of
from trebb.core.families.bed.subject import FEET, REACH_MM, WAYS, Bed, Coefficients, plus, scaled
from trebb.core.findings.base import Finding, Measure, hedged, size_words, suggestion_words
from trebb.core.machine import RatedLimit, State
from trebb.core.survey import PlaceReadings
from trebb.core.units import UnitSystem, show_small

FEW = 240  # draws for what is costly
CLOSING_MM = 0.012  # a level run of a metre or so closes to this

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


def measure_draws(bed: Bed, drawn: Mapping[str, Array], key: str) -> Array:
    """A measure, one value a draw, mm."""
    if key == "straight_up":
        zones = [minimum_zones(profile_draws(drawn, way, FEW), bed.stations) for way in _heights(bed)]
        return np.asarray(np.max(zones, axis=0))
    if key == "straight_side":
        return minimum_zones(profile_draws(drawn, _path(bed)[0], FEW), bed.stations)
    if key == "way_wear":
        return np.asarray(np.max([drawn[f"{way}.{k}"] for way in WAYS for k in range(bed.steps + 1)], axis=0))
    if key == "quill":
        return np.asarray(np.hypot(drawn["quill_side"], drawn["quill_high"]) * 0.1)
    if key == "soft_foot":
        return np.asarray(np.max([drawn[f"foot.{foot}"] for foot in FEET], axis=0))
    return np.asarray(np.abs(combined(drawn, linear(bed)[key])))


@lru_cache(maxsize=8)  # asked for by every measure of every assembly, after every reading
def linear(bed: Bed) -> Mapping[str, Coefficients]:
    """Measures that are the size of one combination of sources, mm."""
    return {
        "twist": bed.level_twist(0, bed.steps),
        "taper": bed.taper(),
        "axis_rise": {"pitch": REACH_MM / 1000},
        "facing": {"cross": 0.15, "yaw": -0.15},
        "tail_side": bed.set_over(),
        "tail_high": {"tail_high": 1.0},
        "tail_wander": {"wander": 2.0},
        "tail_key": {"tail_key": 1.0},
        "stand_flex": {"stand_flex": 1.0},
    }


def measure_value(bed: Bed, drawn: Mapping[str, Array], key: str) -> Quantity:
    """A measure's value, mm."""
    if key in linear(bed):
        return signed_size(combined(drawn, linear(bed)[key]))
    return quantity(measure_draws(bed, drawn, key))


# What reads more of a measure, by the words for what is not read.
LEVEL, ACROSS, RIDGE, FEET_EACH, QUILL_OUT = (
    ("the level's other steps", "level_along"),
    ("the level's other steps across", "level_across"),
    ("the ridge at the other stations", "ridge"),
    ("the other feet", "soft_feet"),
    ("the quill on its other side", "quill"),
)
CLEAR_OF_NOISE = 1.5  # times what scatter makes: less may be a straight way
Known = tuple[Quantity, tuple[tuple[str, str], ...]]


def _worst_of(
    alone: ReadingsOnly, sources: Sequence[str], other: tuple[str, str], limit_mm: float
) -> Known | None:
    """The largest of several sources that were read, and what is left to read where some were not."""
    touched = are_touched(alone, [{key: 1.0} for key in sources])
    read = [
        key
        for key, told in zip(sources, touched, strict=True)
        if told and is_fixed(alone.source(key), 0.5 * limit_mm)
    ]
    if not read:
        return None
    each = [alone.source(key) for key in read]
    return largest_of(each), () if len(read) == len(sources) else (other,)


Profile = tuple[Coefficients, ...]


@lru_cache(maxsize=8)
def _heights(bed: Bed) -> tuple[Profile, ...]:
    """Heights of both ways, station by station."""
    return tuple(tuple(bed.height(way, x) for x in bed.stations) for way in WAYS)


@lru_cache(maxsize=8)
def _path(bed: Bed) -> tuple[Profile, ...]:
    """The tool's path to the front, station by station."""
    return (tuple(bed.tool_out(x) for x in bed.stations),)


def _read_run(alone: ReadingsOnly, profile: Profile) -> list[int]:
    """The longest run of points of a profile that are read against each other: where the bend over each inner
    point is, and where the ways' own side bend at it is, if the profile has that.
    """
    n = len(profile)
    bends = [plus(plus(profile[k - 1], profile[k + 1]), scaled(profile[k], -2.0)) for k in range(1, n - 1)]
    own = [[key for key in profile[k] if key.startswith("side.")] for k in range(1, n - 1)]
    bent = [
        False,
        *(
            told and all(is_touched(alone, {key: 1.0}) for key in sides)
            for told, sides in zip(are_touched(alone, bends), own, strict=True)
        ),
        False,
    ]
    runs: list[list[int]] = [[]]
    for k in range(n):
        if bent[k]:
            runs[-1].append(k)
        elif runs[-1]:
            runs.append([])
    best = max(runs, key=len)
    return list(range(best[0] - 1, best[-1] + 2)) if best else []


def _straight(
    bed: Bed,
    alone: ReadingsOnly,
    drawn: Mapping[str, Array],
    profiles: Sequence[Profile],
    other: tuple[str, str],
) -> Known | None:
    """How straight the worst of some profiles is over what of them was read: the least that it is as a
    whole.
    """
    found: list[Quantity] = []
    missing = False
    for profile in profiles:
        run = _read_run(alone, profile)
        missing |= len(run) < len(profile)
        if len(run) >= 3:
            heights = profile_draws(drawn, [profile[k] for k in run], FEW)
            shown = quantity(minimum_zones(heights, [bed.stations[k] for k in run]))
            found.append(_less_noise(alone, [profile[k] for k in run], shown))
    if not found:
        return None
    return max(found, key=lambda q: q.value), (other,) if missing else ()


def _less_noise(alone: ReadingsOnly, profile: Sequence[Coefficients], shown: Quantity) -> Quantity:
    """A straightness that is no more than scatter makes of a perfectly straight way says nothing of bend: it
    may be nothing.
    """
    steps = [alone.combination(plus(b, scaled(a, -1.0))).sd for a, b in pairwise(profile)]
    floor = straightness_of_noise(len(steps)) * math.sqrt(sum(sd * sd for sd in steps) / len(steps))
    if shown.value > floor * CLEAR_OF_NOISE:
        return shown
    return Quantity(max(0.0, shown.value - floor), shown.sd, 0.0, shown.high)


def _twisted(bed: Bed, alone: ReadingsOnly, limit_mm: float) -> Known | None:
    """Twist between the two stations furthest apart that were levelled across; over half the bed at least."""
    for apart in range(bed.steps, (bed.steps - 1) // 2, -1):
        for i in range(bed.steps - apart + 1):
            twist = bed.level_twist(i, i + apart)
            if is_read(alone, twist, limit_mm):
                return size_of(alone.combination(twist)), () if apart == bed.steps else (ACROSS,)
    return None


def _known(
    bed: Bed, alone: ReadingsOnly, drawn: Mapping[str, Array], key: str, tightenings: int, limit_mm: float
) -> Known | None:
    """What readings fix of a measure; None where they fix nothing."""
    if key == "tail_wander":
        return (measure_value(bed, drawn, key), ()) if tightenings >= 2 else None
    if key == "twist":
        return _twisted(bed, alone, limit_mm)
    if key in linear(bed):
        combination = linear(bed)[key]
        if not is_read(alone, combination, limit_mm):
            return None
        return size_of(alone.combination(combination)), ()
    if key == "straight_up":
        return _straight(bed, alone, drawn, _heights(bed), LEVEL)
    if key == "straight_side":
        return _straight(bed, alone, drawn, _path(bed), ACROSS)
    if key == "way_wear":
        return _worst_of(alone, [f"{way}.{k}" for way in WAYS for k in range(bed.steps + 1)], RIDGE, limit_mm)
    if key == "soft_foot":
        return _worst_of(alone, [f"foot.{foot}" for foot in FEET], FEET_EACH, limit_mm)
    sides = [name for name in ("quill_side", "quill_high") if is_touched(alone, {name: 1.0})]
    if not sides:
        return None
    if len(sides) == 2:
        return vector_size(drawn["quill_side"] + 1j * drawn["quill_high"], 0.1), ()
    return signed_size(drawn[sides[0]], 0.1), (QUILL_OUT,)


def bed_measures(
    bed: Bed,
    assembly: str,
    alone: ReadingsOnly,
    drawn: Mapping[str, Array],
    limits: Mapping[str, RatedLimit],
    tightenings: int,
) -> list[Measure]:
    """What readings fix of an assembly; `drawn` are conditions that the readings alone allow. Draws in mm."""
    found = []
    for key in keys_of(assembly):
        _, label, limit = MEASURES[key]
        known = _known(bed, alone, drawn, key, tightenings, limits[limit].limit_mm)
        if known is not None:
            found.append(Measure(key, label, limits[limit], known[0], known[1]))
    return found


def questions(bed: Bed, assembly: str) -> dict[str, Coefficients]:
    """What is to be known of an assembly, each a combination of sources that comes to mm."""
    middle, quarter = bed.steps // 2, max(1, bed.steps // 4)
    if assembly == "ways":
        found: dict[str, Coefficients] = {"twist": bed.level_twist(0, bed.steps)}
        found.update({f"{way} way": bed.height(way, bed.stations[k]) for way in WAYS for k in (middle,)})
        found.update({f"wear of the {way} way": {f"{way}.{quarter}": 1.0} for way in WAYS})
        found["path sideways"] = {f"side.{middle}": 1.0}
        return found
    if assembly == "headstock":
        return {
            "taper": bed.taper(),
            "headstock across": {"yaw": 2 * REACH_MM / 1000},
            "axis in height": {"pitch": REACH_MM / 1000},
            "facing": {"cross": 0.15, "yaw": -0.15},
        }
    if assembly == "tailstock":
        return {
            "across": bed.set_over(),
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
    """Why a set-up is worth taking. Standard deviations in mm."""
    name = _QUESTION_WORDS.get(most, FEET.get(most.removeprefix("foot "), most))
    return suggestion_words(name, sd_before, sd_after, system, little=0.9)


# verdicts -------------------------------------------------------------------------------------


def closing_findings(bed: Bed, along: Sequence[PlaceReadings], system: UnitSystem) -> list[Finding]:
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
                        f"{show_small(error, system, signed=True)} at the far end.",
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
    bed: Bed, now: ReadingsOnly, measures: Mapping[str, Measure], system: UnitSystem
) -> list[Finding]:
    """Twist, the three straightness figures, wear and where it is."""
    found = (
        _twist(bed, now, measures["twist"], system) if "twist" in measures else None,
        _straight_up(bed, now, measures["straight_up"], system) if "straight_up" in measures else None,
        _straight_side(measures["straight_side"], system) if "straight_side" in measures else None,
        _way_wear(bed, now, measures["way_wear"], system) if "way_wear" in measures else None,
    )
    return hedged([f for f in found if f is not None], measures, system)


def _twist(bed: Bed, now: ReadingsOnly, m: Measure, system: UnitSystem) -> Finding:
    roll = now.combination(bed.level_twist(0, bed.steps)).value * bed.along_mm / 1000
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
        f"{show_small(larger, system)} {'in 12 in' if system is UnitSystem.INCH else 'in 300 mm'}.",
        larger,
        (("Shim and cut", "trials"),) if m.state is not State.WITHIN else (),
    )


def _straight_up(bed: Bed, now: ReadingsOnly, m: Measure, system: UnitSystem) -> Finding:
    figures = []
    for way, profile in zip(WAYS, _heights(bed), strict=True):
        run = _read_run(now, profile)
        if len(run) < 3:
            continue
        s = straightness([bed.stations[k] for k in run], [now.combination(profile[k]).value for k in run])
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


def _way_wear(bed: Bed, now: ReadingsOnly, m: Measure, system: UnitSystem) -> Finding:
    places = [(way, k) for way in WAYS for k in range(bed.steps + 1)]
    touched = are_touched(now, [{f"{way}.{k}": 1.0} for way, k in places])
    worst = max(
        (at for at, told in zip(places, touched, strict=True) if told),
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
    bed: Bed, now: ReadingsOnly, measures: Mapping[str, Measure], system: UnitSystem
) -> list[Finding]:
    """Feet that do not stand; a stand that gives."""
    found = []
    if m := measures.get("soft_foot"):
        read = [f for f in FEET if is_touched(now, {f"foot.{f}": 1.0})]
        foot = max(read, key=lambda f: now.source(f"foot.{f}").value)
        move = (
            f"Shim it by {show_small(now.source(f'foot.{foot}').value, system)} before the bed is levelled: "
            "a foot that is pulled down bends the bed."
            if m.state is not State.WITHIN
            else "All four stand."
            if len(read) == len(FEET)
            else "Read the others too."
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
                f"Pushed with {show_force(200.0, system)} the stand gives by {size_words(m, system)}.",
                "pushed at the headstock",
                "Bolt it down or brace it first: levels on a stand that gives do not last."
                if m.state is not State.WITHIN
                else "Stiff enough to hold a level.",
                0.7 * m.value.value,
            )
        )
    return hedged(found, measures, system)
