"""Levels stepped along and across the bed, and an autocollimator's angles: readings that chain into a
profile.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

import numpy as np

from trebb.core.alignment import endpoint_residuals, heights_from_slopes, minimum_zones, straightness, twist
from trebb.core.condition import Z95, Estimate, Observation, Row
from trebb.core.condition.draws import draw, profile_draws, quantity
from trebb.core.families.bed.figure import WAY, at, bed_end, bed_front, level
from trebb.core.families.bed.subject import WAYS, Bed, minus, scaled
from trebb.core.figure import Figure
from trebb.core.safety import LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, Result, SetUp, lots_by_group
from trebb.core.survey.ground import frame, words_at
from trebb.core.survey.sharing import Unknowns, observe_sharing
from trebb.core.units import UnitSystem, show_slope

# What a level of 0.02 mm/m a division repeats to when it is lifted and set down again; an autocollimator's
# mirror.
LEVEL_SD, COLLIMATOR_SD = 0.008, 0.004
# A bed out of level by more than this stands on something that was forgotten.
MOST_SLOPE = 3.0
ZERO_SLOPE, TILT = 0.5, 2.0
ZONE_DRAWS = 300
TURNED = "turned round"


def number_of(place: str) -> int:
    """Step or station of a place: "front way, step 3" → 3."""
    return int(place.replace(f" {TURNED}", "").rsplit(" ", 1)[1])


def is_turned(place: str) -> bool:
    """Whether the level stands the other way round there."""
    return place.endswith(TURNED)


def too_steep(bed: Bed, place: str, raw: float, system: UnitSystem) -> str:
    """Why a slope cannot be. `raw` in the set-up's own unit."""
    return (
        f"more than {show_slope(MOST_SLOPE, system, signed=False)} out of level; is the unit right?"
        if abs(raw) > MOST_SLOPE
        else ""
    )


def _steps(bed: Bed, group: str, note: str) -> list[Place]:
    return [
        Place(f"{group}, step {k}", f"Step {k}", note if k == 1 else f"from station {k - 1} to {k}", group)
        for k in range(1, bed.steps + 1)
    ]


def _sign(place: str) -> float:
    return -1.0 if is_turned(place) else 1.0


def chain_unknowns(bed: Bed, place: str) -> Unknowns:
    """The instrument's zero is the same both ways round; how the whole bed lies turns with the level."""
    group = place.split(",")[0]
    return {"zero": (1.0, ZERO_SLOPE), f"tilt {group}": (_sign(place), TILT)}


# How far a level, and the bed it stands on, drift with the room over one walk along it, mm/m.
DRIFT_SLOPE = 0.015


def chain_observe(
    set_up: Callable[[], SetUp[Bed]],
) -> Callable[[Bed, Sequence[PlaceReadings]], list[Observation]]:
    """A walk along the bed: what drifts meanwhile is told from twist and bend by the walk back, and by
    nothing else; until then it is in doubt.
    """

    def drifting(bed: Bed, place: str) -> Unknowns:
        found = dict(chain_unknowns(bed, place))
        if not is_turned(place):
            group = place.split(",")[0]
            found[f"drift {group}"] = (number_of(place) / bed.steps - 0.5, DRIFT_SLOPE)
        return found

    def observe(bed: Bed, taken: Sequence[PlaceReadings]) -> list[Observation]:
        is_one_way = any(len(p.values) == 1 for p in taken if not is_turned(p.place))
        return observe_sharing(set_up, drifting if is_one_way else chain_unknowns)(bed, taken)

    return observe


def chain_stir(
    bed: Bed, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """Zero of the instrument and lie of the bed. The condition by source, in mm."""
    return float(
        0.06 * rng_of("zero").standard_normal()
        + _sign(place) * 0.25 * rng_of(f"tilt/{place.split(',')[0]}").standard_normal()
    )


def chain_results(group_way: Mapping[str, str]) -> Callable[[Bed, Sequence[PlaceReadings]], list[Result]]:
    """The narrowest pair of lines round each profile that was read through."""

    def results(bed: Bed, taken: Sequence[PlaceReadings]) -> list[Result]:
        means = {p.place: sum(p.values) / len(p.values) for p in taken if not is_turned(p.place)}
        counts = [len(p.values) for p in taken] or [1]
        found = []
        for group in group_way:
            slopes = [means.get(f"{group}, step {k}") for k in range(1, bed.steps + 1)]
            if None not in slopes:
                heights = heights_from_slopes([s for s in slopes if s is not None], bed.base_mm)
                half = Z95 * LEVEL_SD * bed.base_mm / 1000 * np.sqrt(bed.steps / min(counts)) / 2
                found.append(
                    Result(
                        f"{group}, straight to", straightness(bed.stations, heights).minimum_zone, float(half)
                    )
                )
        return found

    return results


def chain_expected(
    profile: Callable[[Bed, str, float], dict[str, float]],
) -> Callable[[Bed, Estimate, str], tuple[float, float]]:
    """Minimum zone of the profile in a condition, over what the condition leaves open, and what the level
    adds to it. In mm.
    """

    def expected(bed: Bed, after: Estimate, place: str) -> tuple[float, float]:
        group = place.split(",")[0]
        drawn = draw(after)
        heights = profile_draws(drawn, [profile(bed, group, x) for x in bed.stations], ZONE_DRAWS)
        noise = (
            np.random.default_rng(7).standard_normal((heights.shape[0], bed.steps))
            * LEVEL_SD
            / 2**0.5
            * bed.base_mm
            / 1000
        )
        heights[:, 1:] += np.cumsum(noise, axis=1)
        zone = quantity(minimum_zones(heights, bed.stations))
        return (zone.low + zone.high) / 2, zone.half_width

    return expected


Points = list[tuple[float, float]]


def profiles(key: str, bed: Bed, taken: Sequence[PlaceReadings]) -> tuple[list[tuple[str, Points]], bool]:
    """What the readings of a set-up chain to so far: words and points (x mm, height mm) of each run from its
    first station on; True where it is roll in mm/m instead.

    The ends of a whole run lie on nothing; so does the start of one that is not read through.
    """
    means = {p.place: sum(p.values) / len(p.values) for p in taken if p.values and not is_turned(p.place)}
    if key == "level_across":
        points = [
            (bed.stations[k], means[f"across, station {k}"])
            for k in range(bed.steps + 1)
            if f"across, station {k}" in means
        ]
        return ([("across", [(x, v - points[0][1]) for x, v in points])] if len(points) > 1 else []), True
    found = []
    for group in dict.fromkeys(p.split(",")[0] for p in means):
        slopes: list[float] = []
        for k in range(1, bed.steps + 1):
            if f"{group}, step {k}" not in means:
                break
            slopes.append(means[f"{group}, step {k}"])
        if len(slopes) > 1:
            at = bed.stations[: len(slopes) + 1]
            heights = endpoint_residuals(at, heights_from_slopes(slopes, bed.base_mm))
            found.append(
                (group.removesuffix(" way"), [(x, float(h)) for x, h in zip(at, heights, strict=True)])
            )
    return found, False


# along ----------------------------------------------------------------------------------------


def along_places(bed: Bed) -> tuple[Place, ...]:
    """Both ways in steps of the level's feet; the first step once more with the level turned."""
    found = []
    for way in WAYS:
        steps = _steps(bed, f"{way} way", "from station 0 to 1, feet on the marks")
        found += [
            *steps,
            Place(f"{way} way, step 1 {TURNED}", "Step 1, turned", "level turned end for end", f"{way} way"),
        ]
    return tuple(found)


def along_row(bed: Bed, place: str) -> Row:
    """Slope of the way over one step, mm/m; the other sign with the level turned."""
    way, k = place.split(" ", 1)[0], number_of(place)
    rise = minus(bed.height(way, bed.stations[k]), bed.height(way, bed.stations[k - 1]))
    return Row(scaled(rise, _sign(place) * 1000 / bed.base_mm), LEVEL_SD)


def _way_profile(bed: Bed, group: str, x: float) -> dict[str, float]:
    return bed.height(group.split(" ", 1)[0], x)


def along_figure(bed: Bed, place: str) -> Figure:
    """The level on its own feet over one step."""
    k = number_of(place)
    x = (at(bed, bed.stations[k - 1]) + at(bed, bed.stations[k])) / 2
    items = [*bed_front(bed, wash="ways", station=k), *level(x, turned=is_turned(place))]
    items.append(
        words_at(
            586,
            60,
            "level turned end for end"
            if is_turned(place)
            else f"on the {place.split(',')[0]}; + when the far end is high",
            anchor="right",
        )
    )
    return frame(items)


ALONG: SetUp[Bed] = SetUp(
    key="level_along",
    measure=lambda bed, place: ("straight_up", 1.0),
    view="profile",
    letter="A",
    short="Along",
    title="Level along the ways",
    instrument=InstrumentKind.LEVEL,
    unit="mm/m",
    resolution_mm=0.005,
    minutes=0.7,
    setting_minutes=6,
    wanted=2,
    places=along_places,
    row=along_row,
    figure=along_figure,
    observe=chain_observe(lambda: ALONG),
    stir=chain_stir,
    results=chain_results({"front way": "front", "rear way": "rear"}),
    expected=chain_expected(_way_profile),
    lots=lots_by_group(along_places, "Level along, {}".format, 5.0),
    refusal=too_steep,
    steps=(
        "Clean the way; mark stations exactly the level's feet apart.",
        "Step it from mark to mark, the same way round each time; wait for the bubble.",
        "At the first step turn it end for end once: half the difference is its zero.",
        "Walk back over the same marks: the second reading. A run that does not close moved.",
    ),
    cautions=(f"{LOCK_OUT} Keep the carriage where it does not load what you measure.",),
    tells="The ways' profile in height, each for itself, whatever the level's zero.",
    cannot_tell="Bend and wear look alike to a level: the ridge beside the worn part tells them apart.",
    settles="height of the ways along the bed",
    family="ways",
    is_signed=True,
)


# across ---------------------------------------------------------------------------------------


def across_places(bed: Bed) -> tuple[Place, ...]:
    """Every station, and the first with the level turned."""
    stations = [
        Place(
            f"across, station {k}",
            f"Station {k}",
            "headstock end" if k == 0 else "tailstock end" if k == bed.steps else "",
            "across",
        )
        for k in range(bed.steps + 1)
    ]
    return (
        *stations,
        Place(f"across, station 0 {TURNED}", "Station 0, turned", "level turned end for end", "across"),
    )


def across_row(bed: Bed, place: str) -> Row:
    """Roll at a station, mm/m."""
    return Row(scaled(bed.roll(bed.stations[number_of(place)]), _sign(place)), LEVEL_SD)


def across_results(bed: Bed, taken: Sequence[PlaceReadings]) -> list[Result]:
    """Twist end to end, in 1000 mm of bed."""
    means = {
        number_of(p.place): (sum(p.values) / len(p.values), len(p.values))
        for p in taken
        if not is_turned(p.place)
    }
    if len(means) < 3:
        return []
    ks = sorted(means)
    rate = twist([bed.stations[k] for k in ks], [means[k][0] for k in ks]).rate_mrad_m
    spread = np.std([bed.stations[k] for k in ks]) * np.sqrt(len(ks)) / 1000
    return [
        Result(
            "twist, in 1000",
            abs(rate),
            float(Z95 * LEVEL_SD / np.sqrt(min(n for _, n in means.values())) / spread),
        )
    ]


def across_expected(bed: Bed, after: Estimate, place: str) -> tuple[float, float]:
    """Twist in a condition. mm in 1000 mm."""
    rates = after.combination({"twist": 1000 / bed.along_mm})
    return abs(rates.value), rates.half_width + 0.004


def across_figure(bed: Bed, place: str) -> Figure:
    """The level across both ways at a station."""
    k = number_of(place)
    x = at(bed, bed.stations[k])
    items = [*bed_front(bed, wash="ways", station=k), *level(x, across=True)]
    items.append(
        words_at(
            586, 60, "across both ways on a bridge or a ground bar; + when the rear is high", anchor="right"
        )
    )
    return frame(items)


ACROSS: SetUp[Bed] = SetUp(
    key="level_across",
    measure=lambda bed, place: ("twist", 1.0),
    view="profile",
    letter="B",
    short="Across",
    title="Level across the bed",
    instrument=InstrumentKind.LEVEL,
    unit="mm/m",
    resolution_mm=0.005,
    minutes=0.7,
    setting_minutes=4,
    wanted=2,
    places=across_places,
    row=across_row,
    figure=across_figure,
    observe=chain_observe(lambda: ACROSS),
    stir=chain_stir,
    results=across_results,
    expected=across_expected,
    refusal=too_steep,
    steps=(
        "A bridge or ground bar across both ways, the level on it; the same end always to the rear.",
        "Read at every station from the headstock to the tailstock's end.",
        "At the first station turn it once.",
        "Walk back over the same stations: the second reading.",
    ),
    cautions=(LOCK_OUT,),
    tells="Twist: how the roll changes along the bed. Its zero and how the floor lies cancel.",
    cannot_tell="It says nothing of the headstock: what the cut shows beyond the twist is the headstock's.",
    settles="twist of the bed",
    family="ways",
    is_signed=True,
)


# autocollimator -------------------------------------------------------------------------------


def collimator_places(bed: Bed) -> tuple[Place, ...]:
    """Pitch and yaw of the mirror at each step of the front way."""
    return (
        *_steps(bed, "up", "mirror on its base, from station 0 to 1"),
        *_steps(bed, "side", "the same steps, read sideways"),
    )


def collimator_row(bed: Bed, place: str) -> Row:
    """Slope of the front way over a step, in height or sideways, mm/m."""
    k = number_of(place)
    a, b = bed.stations[k - 1], bed.stations[k]
    if place.startswith("up"):
        return Row(
            scaled(minus(bed.height("front", b), bed.height("front", a)), 1000 / bed.base_mm), COLLIMATOR_SD
        )
    return Row(scaled(minus(_side(bed, b), _side(bed, a)), 1000 / bed.base_mm), COLLIMATOR_SD)


def _side(bed: Bed, x: float) -> dict[str, float]:
    return {key: value for key, value in bed.tool_out(x).items() if key.startswith("side.")}


def collimator_figure(bed: Bed, place: str) -> Figure:
    """The mirror on the ways, the instrument off the bed's end."""
    k = number_of(place)
    x = (at(bed, bed.stations[k - 1]) + at(bed, bed.stations[k])) / 2
    items = [*bed_front(bed, wash="ways", station=k), *level(x)]
    items += [
        words_at(
            x,
            WAY - 30,
            "mirror; " + ("the image up or down" if place.startswith("up") else "the image left or right"),
            anchor="middle",
        ),
        words_at(596, 60, "autocollimator, off the bed", anchor="right"),
    ]
    return frame(items)


COLLIMATOR: SetUp[Bed] = SetUp(
    key="autocollimator",
    measure=lambda bed, place: ("straight_side" if place.startswith("side") else "straight_up", 1.0),
    view="profile",
    letter="C",
    short="Angles",
    title="Autocollimator along the front way",
    instrument=InstrumentKind.COLLIMATOR,
    unit="mm/m",
    resolution_mm=0.001,
    minutes=0.5,
    setting_minutes=30,
    wanted=1,
    places=collimator_places,
    row=collimator_row,
    figure=collimator_figure,
    observe=observe_sharing(lambda: COLLIMATOR, chain_unknowns),
    stir=chain_stir,
    results=chain_results({"up": "front", "side": "front"}),
    expected=chain_expected(lambda bed, group, x: bed.height("front", x) if group == "up" else _side(bed, x)),
    lots=lots_by_group(collimator_places, "Autocollimator, {}".format, 20.0),
    refusal=too_steep,
    steps=(
        "The instrument on its own stand beyond the bed's end, not on the machine.",
        "Step the mirror exactly its base along a straight fence on the front way.",
        "Read up and side at each step: in arc seconds, or as a slope.",
    ),
    cautions=("Do not look into a laser version; a lamp's is harmless.",),
    tells="Height and sideways profile of the front way, finer than a level.",
    cannot_tell="It does not see twist, nor the rear way.",
    settles="straightness, in height and sideways",
    family="ways",
    is_signed=True,
)

__all__ = ["ACROSS", "ALONG", "COLLIMATOR", "bed_end", "is_turned", "number_of"]
