"""A bar between centres: where the tailstock stands, and how well it comes back."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from trebb.core.condition import Row
from trebb.core.families.bed.figure import AXIS, WAY, bed_front, carriage, tailstock
from trebb.core.families.bed.subject import Bed, minus, plus
from trebb.core.families.bed.sweep import CENTRES_SD, few
from trebb.core.figure import Arrow, Figure, Item, box
from trebb.core.safety import LOCK_OUT_CARRIAGE
from trebb.core.survey.base import InstrumentKind, Lot, Place, PlaceReadings, SetUp
from trebb.core.survey.ground import frame, indicator_on, words_at
from trebb.core.survey.sharing import Unknowns, observe_sharing

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
    """Where this tightening let it stand. The condition by source, in mm."""
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
    refusal=few,
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


class Wander(Struct, frozen=True):
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
