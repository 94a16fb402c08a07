"""Axes against the bed: a test bar swept by the carriage, a bar between centres, the quill, the tailstock's
key; and the machine's feet.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from trebb.core.condition import Row
from trebb.core.figure import Arrow, Figure, Item, Label, Role, box
from trebb.core.machine import Bed
from trebb.core.machine.bed import FEET, REACH_MM, minus, plus
from trebb.core.safety import LOCK_OUT, LOCK_OUT_CARRIAGE
from trebb.core.survey.base import InstrumentKind, Lot, Place, PlaceReadings, SetUp
from trebb.core.survey.bed_figure import (
    AXIS,
    WAY,
    bed_front,
    carriage,
    frame,
    indicator_on,
    tailstock,
    words_at,
)
from trebb.core.survey.reduction import differences
from trebb.core.survey.sharing import Unknowns, observe_sharing, one_zero, stirred_zero
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator
from trebb.core.units import UnitSystem

SWEEP_SD, CENTRES_SD, KEY_SD, FOOT_SD = 0.0022, 0.0030, 0.004, 0.004
SWEEP_MM = 250.0
SIDES = ("top", "front")


def _few(bed: Bed, place: str, raw: float, system: UnitSystem) -> str:
    return beyond_indicator(raw, TURN_MOST_MM, system)


# test bar swept -------------------------------------------------------------------------------


def sweep_places(bed: Bed) -> tuple[Place, ...]:
    """Top and front, near and far, with the bar at 0° and turned to 180°."""
    return tuple(
        Place(
            f"{side}, bar at {angle}°, {end}",
            end.capitalize(),
            f"indicator on the {side} of the bar" if end == "near" else f"{SWEEP_MM:.0f} mm further",
            f"{side}, bar at {angle}°",
        )
        for angle in (0, 180)
        for side in SIDES
        for end in ("near", "far")
    )


def sweep_row(bed: Bed, place: str) -> Row:
    """+ is the bar's surface toward the indicator. Turning the bar turns its own error round."""
    side, bar, end = place.split(", ")
    if end == "near":
        return Row({}, SWEEP_SD)
    x0 = bed.nose_mm + bed.near_mm
    turned = -1.0 if "180" in bar else 1.0
    if side == "front":
        path = minus(bed.tool_out(x0 + SWEEP_MM), bed.tool_out(x0), -1.0)
        return Row(plus(path, {"yaw": -SWEEP_MM / 1000, "bar_side": turned}), SWEEP_SD)
    path = minus(bed.carriage_height(x0 + SWEEP_MM), bed.carriage_height(x0), -1.0)
    return Row(plus(path, {"pitch": SWEEP_MM / 1000, "bar_high": turned}), SWEEP_SD)


def sweep_unknowns(bed: Bed, place: str) -> Unknowns:
    """One zero a side and seating."""
    return {place.rsplit(", ", 1)[0]: (1.0, 0.5)}


def sweep_pairs(bed: Bed) -> list[tuple[str, str, str]]:
    """Far less near of each side and seating."""
    groups = dict.fromkeys(p.group for p in sweep_places(bed))
    return [(g, f"{g}, near", f"{g}, far") for g in groups]


def sweep_figure(bed: Bed, place: str) -> Figure:
    """A test bar in the spindle, the carriage's indicator on its top or front."""
    side, bar, end = place.split(", ")
    x = 200.0 if end == "near" else 400.0
    items: list[Item] = [
        *bed_front(bed, wash="nose"),
        box(142, AXIS - 6, 290, 12, role=Role.BLUE, wash=True),
        *carriage(x),
    ]
    items += indicator_on(x, AXIS - 6 if side == "top" else AXIS + 6, top=side == "top")
    items.append(words_at(450, 40, f"{bar}, {side}"))
    return frame(items)


def sweep_measure(bed: Bed, place: str) -> tuple[str, float]:
    """Above the bar the axis's rise, beside it half the taper that the work would have."""
    is_top = place.startswith("top")
    return ("axis_rise" if is_top else "taper", SWEEP_MM / REACH_MM * (1.0 if is_top else 0.5))


BAR_SWEEP: SetUp[Bed] = SetUp(
    key="bar_sweep",
    measure=sweep_measure,
    letter="E",
    short="Test bar",
    title="Carriage along a test bar",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.5,
    setting_minutes=10,
    wanted=2,
    places=sweep_places,
    row=sweep_row,
    figure=sweep_figure,
    observe=observe_sharing(lambda: BAR_SWEEP, sweep_unknowns),
    results=differences(lambda: BAR_SWEEP, sweep_pairs),
    stir=stirred_zero,
    refusal=_few,
    is_signed=True,
    lots=lambda bed: tuple(
        Lot(
            f"bar at {a}°",
            f"Test bar swept, at {a}°",
            tuple(p.key for p in sweep_places(bed) if f"bar at {a}°" in p.key),
        )
        for a in (0, 180)
    ),
    steps=(
        "Test bar in the spindle's taper, clean; the spindle's survey must say that it repeats.",
        "Indicator on the carriage, on the bar's top: near the nose, then far.",
        "The same on its front.",
        "Turn the bar 180° in the taper and do both again: its own error turns round and is taken out.",
    ),
    cautions=(LOCK_OUT_CARRIAGE,),
    tells="Where the headstock points, in height and across, against the carriage's path.",
    cannot_tell="It is worth what the seat is worth: a bar that seats anew each time points anywhere.",
    settles="headstock in height and across",
    family="headstock",
)


# between centres ------------------------------------------------------------------------------

TIGHT_AGAIN = "tight"
STATES = ("loose", "tight 1", "tight 2", "tight 3", "tight 4", "after use")
STATE_WORDS = {"loose": "bolts finger tight", "after use": "tightened, after an hour's work"}


def centres_places(bed: Bed) -> tuple[Place, ...]:
    """Front and top at the tailstock's end: loose, tightened afresh four times, and after use."""
    return tuple(
        Place(
            f"{state}, {side}",
            side.capitalize(),
            STATE_WORDS.get(state, "slackened and tightened afresh"),
            state,
        )
        for state in STATES
        for side in ("front", "top")
    )


def centres_row(bed: Bed, place: str) -> Row:
    """At the tailstock's end, zeroed at the headstock's. A tailstock that stands to the rear takes the bar
    off the indicator in front.
    """
    state, side = place.split(", ")
    a, b = bed.nose_mm, bed.nose_mm + bed.centres_mm
    if side == "top":
        return Row(
            plus(minus(bed.carriage_height(b), bed.carriage_height(a), -1.0), {"tail_high": 1.0}), CENTRES_SD
        )
    across = {"tail_side": -1.0}
    if state == "loose":
        across["tail_shift"] = 1.0  # tightening adds the shift
    if state == "after use":
        across["tail_used"] = -1.0
    return Row(plus(minus(bed.tool_out(b), bed.tool_out(a), -1.0), across), CENTRES_SD)


def centres_unknowns(bed: Bed, place: str) -> Unknowns:
    """Each tightening lands a little elsewhere: by the wander found."""
    state, side = place.split(", ")
    return {f"wander {state}": (1.0, max(bed.wander_mm, 1e-4))} if side == "front" else {}


def centres_figure(bed: Bed, place: str) -> Figure:
    """A bar between centres, the carriage's indicator at its tailstock end."""
    state, side = place.split(", ")
    items: list[Item] = [
        *bed_front(bed),
        *tailstock(470, wash=True),
        box(142, AXIS - 6, 306, 12),
        *carriage(410),
    ]
    items += indicator_on(410, AXIS - 6 if side == "top" else AXIS + 6, top=side == "top")
    items.append(words_at(170, 44, f"zero at the headstock's end, then here; {state}"))
    if state != "loose":
        items.append(Arrow((498, WAY + 34), (498, WAY + 16)))
    return frame(items)


def centres_stir(bed: Bed, condition: Mapping[str, float], place: str, rng_of: object) -> float:
    """Where this tightening let it stand."""
    state, side = place.split(", ")
    wander = condition.get("wander", 0.0)
    return float(wander * rng_of(f"tightened/{state}").standard_normal()) if side == "front" else 0.0  # type: ignore[operator]


CENTRES: SetUp[Bed] = SetUp(
    key="centres",
    measure=lambda bed, place: ("tail_high" if place.endswith(" top") else "tail_side", 1.0),
    letter="A",
    short="Bar",
    title="Bar between centres",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.7,
    setting_minutes=10,
    wanted=2,
    places=centres_places,
    row=centres_row,
    figure=centres_figure,
    observe=observe_sharing(lambda: CENTRES, centres_unknowns),
    stir=centres_stir,
    refusal=_few,
    is_signed=True,
    lots=lambda bed: tuple(
        Lot(
            state,
            f"Between centres, {state}",
            tuple(p.key for p in centres_places(bed) if p.group == state),
            10.0 if state in ("loose", "tight 1") else 2.0,
        )
        for state in STATES
    ),
    steps=(
        "A bar of one diameter between centres; quill in, clamped.",
        "Zero on the bar's front at the headstock's end, run the carriage to the tailstock's end, read; then "
        "on top.",
        "Loose first, then tightened as for work. Log the tightened reading: that is where it cuts.",
        "Slacken, push it to and fro, tighten again: three times more. It either comes back or it wanders.",
    ),
    cautions=(LOCK_OUT_CARRIAGE,),
    tells="Tailstock across and in height, tightened; the habit it has when the bolts go down; whether it "
    "comes back.",
    cannot_tell="The ways under the carriage are in it: the level takes them out.",
    settles="tailstock across and in height",
    family="tailstock",
)


@dataclass(frozen=True)
class Wander:
    """How far the tailstock lands from one tightening to the next: sd across with its own sd and 95 %
    interval, mm, and how many tightenings were read.
    """

    mean_mm: float
    sd_mm: float
    low_mm: float
    high_mm: float
    times: int


USUAL_WANDER_MM = (
    0.008  # scale of a Student's t of three degrees: most come back, a few are loose without bound
)
_GRID = np.geomspace(0.0003, 0.2, 60)


def wander(taken: Sequence[PlaceReadings]) -> Wander:
    """Scatter of the tightenings by its likelihood over a grid: a variance, found outside the linear model.

    Readings of tightening i are mean + wander_i + reading noise; with the
    mean free, the differences between them alone tell the wander.
    """
    seen = [
        (sum(p.values) / len(p.values), len(p.values))
        for p in taken
        if p.place.startswith(TIGHT_AGAIN) and p.place.endswith("front")
    ]
    log_weight = -2 * np.log1p((_GRID / USUAL_WANDER_MM) ** 2 / 3) + np.log(_GRID)
    if len(seen) > 1:
        y = np.array([v for v, _ in seen])
        noise = np.array([CENTRES_SD**2 / n for _, n in seen])
        for i, sigma in enumerate(_GRID):
            variance = noise + sigma**2
            weight = 1 / variance
            away = y - (weight @ y) / weight.sum()
            log_weight[i] += (
                -0.5 * np.log(variance).sum() - 0.5 * np.log(weight.sum()) - 0.5 * float(weight @ away**2)
            )
    weight = np.exp(log_weight - log_weight.max())
    weight /= weight.sum()
    summed = np.cumsum(weight)
    low, high = (float(_GRID[min(int(np.searchsorted(summed, q)), len(_GRID) - 1)]) for q in (0.025, 0.975))
    mean = float(weight @ _GRID)
    return Wander(mean, max(float(weight @ (_GRID - mean) ** 2) ** 0.5, 1e-4), low, high, len(seen))


def wander_information(bed: Bed, found: Wander) -> tuple[Row, ...]:
    """What one more tightening would tell of the wander: a standard deviation from one more difference,
    known to itself / √2. The first alone tells nothing.
    """
    if found.times < 1:
        return ()
    return (Row({"wander": 1.0}, float(np.hypot(max(found.mean_mm, 0.001), CENTRES_SD)) / 2**0.5),)


def with_wander(bed: Bed, found: Wander) -> Bed:
    """The bed with its tailstock's wander as found."""
    return replace(bed, wander_mm=found.mean_mm, wander_sd_mm=found.sd_mm)


# quill, key -----------------------------------------------------------------------------------


def quill_places(bed: Bed) -> tuple[Place, ...]:
    """The quill's outside, in and run out, on front and top."""
    return tuple(
        Place(
            f"{side}, {how}",
            how.capitalize(),
            f"on the quill's {side}" if how == "quill in" else f"run out {bed.quill_mm:.0f} mm and clamped",
            side,
        )
        for side in ("front", "top")
        for how in ("quill in", "quill out")
    )


def quill_row(bed: Bed, place: str) -> Row:
    """The carriage stands; the quill runs out past its indicator."""
    side, how = place.split(", ")
    if how == "quill in":
        return Row({}, SWEEP_SD)
    return Row(
        {
            "quill_side" if side == "front" else "quill_high": (-1.0 if side == "front" else 1.0)
            * bed.quill_mm
            / 1000
        },
        SWEEP_SD,
    )


def quill_figure(bed: Bed, place: str) -> Figure:
    """Indicator on the quill, which is run out under it."""
    side, how = place.split(", ")
    items: list[Item] = [
        *bed_front(bed),
        *tailstock(440, wash=True, quill=20 if how == "quill in" else 80),
        *carriage(400),
    ]
    items += indicator_on(
        430 if how == "quill in" else 400, AXIS - 6 if side == "top" else AXIS + 6, top=side == "top"
    )
    items.append(words_at(130, 44, f"{how}, on its {side}; the carriage goes with it"))
    return frame(items)


QUILL: SetUp[Bed] = SetUp(
    key="quill",
    measure=lambda bed, place: ("quill", bed.quill_mm / 100),
    letter="B",
    short="Quill",
    title="Quill run out",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.6,
    setting_minutes=5,
    wanted=2,
    places=quill_places,
    row=quill_row,
    figure=quill_figure,
    observe=observe_sharing(lambda: QUILL, one_zero),
    stir=stirred_zero,
    refusal=_few,
    is_signed=True,
    is_proof=False,
    steps=(
        "Indicator on the carriage, on the quill's front near its nose; zero, quill in and clamped.",
        "Run the quill out, the carriage as far; clamp; read.",
        "The same on its top.",
    ),
    cautions=(LOCK_OUT,),
    tells="Where the quill points: a drill fed by it goes there.",
    cannot_tell="Wear of the quill in its bore shows as droop too.",
    settles="direction of the quill",
    family="tailstock",
)


KEY: SetUp[Bed] = SetUp(
    key="tail_key",
    measure=lambda bed, place: ("tail_key", 1.0),
    letter="C",
    short="Key",
    title="Tailstock's key in its slot",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.7,
    setting_minutes=5,
    wanted=3,
    places=lambda bed: (Place("key", "Pushed to and fro", "bolts slack, at the tailstock's foot"),),
    row=lambda bed, place: Row({"tail_key": 1.0}, KEY_SD),
    figure=lambda bed, place: frame(
        [
            *bed_front(bed),
            *tailstock(440, wash=True),
            Arrow((520, 84), (560, 84), both_ways=True),
            words_at(420, 44, "push to the front, zero; push to the rear, read", anchor="right"),
            *indicator_on(470, 92, top=False),
        ]
    ),
    refusal=_few,
    steps=(
        "Slacken the bolts; indicator on the bed, on the tailstock's foot, across.",
        "Push it to the front, zero; push it to the rear, read.",
        "At the place of the bed where it is used.",
    ),
    cautions=("A tailstock that comes off the bed's end falls: stop block on.",),
    tells="How much room the key has: it may land anywhere within.",
    cannot_tell="Not whether key or slot is worn: measure both.",
    settles="play of the tailstock's key",
    family="tailstock",
)


# feet -----------------------------------------------------------------------------------------


def feet_places(bed: Bed) -> tuple[Place, ...]:
    """Each foot as its bolt is slackened."""
    return tuple(
        Place(f"foot, {foot}", words.capitalize(), "indicator beside the bolt, from the floor", "feet")
        for foot, words in FEET.items()
    )


def feet_figure(bed: Bed, place: str) -> Figure:
    """An indicator from the floor on the foot whose bolt is slackened."""
    head = "head" in place
    x = 96.0 if head else 558.0
    items: list[Item] = [*bed_front(bed, wash="feet"), Arrow((x, 136), (x, 152))]
    items.append(
        words_at(
            x + 70 if head else x - 70,
            148,
            f"slacken this bolt alone, {'front' if 'front' in place else 'rear'}; read, tighten",
            anchor="left" if head else "right",
        )
    )
    return frame(items)


SOFT_FEET: SetUp[Bed] = SetUp(
    key="soft_feet",
    measure=lambda bed, place: ("soft_foot", 1.0),
    letter="A",
    short="Feet",
    title="Each foot tight?",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=2.0,
    setting_minutes=5,
    wanted=1,
    places=feet_places,
    row=lambda bed, place: Row({f"foot.{place.split(', ')[1]}": 1.0}, FOOT_SD),
    figure=feet_figure,
    refusal=_few,
    steps=(
        "All bolts tight. Indicator from the floor on one foot.",
        "Slacken that bolt alone: what the foot moves is what the bolt was holding down.",
        "Tighten again before the next.",
    ),
    cautions=("One bolt at a time: a machine on three slack bolts can tip.",),
    tells="A foot that springs up was pulled down onto nothing: it bends the bed.",
    cannot_tell="Not which way the bed is twisted: the level does.",
    settles="feet that do not stand",
    family="stand",
)

STAND_FLEX: SetUp[Bed] = SetUp(
    key="stand_flex",
    measure=lambda bed, place: ("stand_flex", 1.0),
    letter="B",
    short="Give",
    title="Give of the stand when pushed",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=1.0,
    setting_minutes=4,
    wanted=2,
    places=lambda bed: (
        Place("stand", "Pushed at the headstock", "200 N (45 lbf), from the front, against the floor"),
    ),
    row=lambda bed, place: Row({"stand_flex": 1.0}, FOOT_SD),
    refusal=_few,
    figure=lambda bed, place: frame(
        [
            *bed_front(bed, wash="feet"),
            Arrow((30, 70), (60, 70)),
            Label((30, 56), "push", Role.BLUE),
            words_at(150, 50, "indicator from the floor, at the bed's height"),
            *indicator_on(130, WAY, top=True),
        ]
    ),
    steps=(
        "Indicator from the floor on the bed at its headstock end, across; zero.",
        "Push with about 200 N at the headstock; read.",
        "Let go: it must come back to zero, or a bolt is loose.",
    ),
    cautions=("Push, do not rock it over: stand clear on the other side.",),
    tells="Whether levelling it is worth anything: a stand that gives does not hold a twist.",
    cannot_tell="Stand or bolts: slacken and tighten them first.",
    settles="give of the stand",
    family="stand",
)

__all__ = [
    "BAR_SWEEP",
    "CENTRES",
    "KEY",
    "QUILL",
    "SOFT_FEET",
    "STAND_FLEX",
    "TIGHT_AGAIN",
    "Wander",
    "wander",
    "wander_information",
    "with_wander",
]
