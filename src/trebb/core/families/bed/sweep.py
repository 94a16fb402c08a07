"""A bar swept in the headstock along the bed."""

from __future__ import annotations

from trebb.core.condition import Row
from trebb.core.families.bed.figure import AXIS, bed_front, carriage
from trebb.core.families.bed.subject import REACH_MM, Bed, minus, plus
from trebb.core.figure import Figure, Item, Role, box
from trebb.core.safety import LOCK_OUT_CARRIAGE
from trebb.core.survey.base import InstrumentKind, Lot, Place, SetUp
from trebb.core.survey.ground import frame, indicator_on, words_at
from trebb.core.survey.reduction import differences
from trebb.core.survey.sharing import Unknowns, observe_sharing, stirred_zero
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator
from trebb.core.units import UnitSystem

SWEEP_SD, CENTRES_SD, KEY_SD, FOOT_SD = 0.0022, 0.0030, 0.004, 0.004
SWEEP_MM = 250.0
SIDES = ("top", "front")


def few(bed: Bed, place: str, raw: float, system: UnitSystem) -> str:
    return beyond_indicator(raw, TURN_MOST_MM, system)


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
    """Above the bar the axis's rise, beside it half the taper that the work would have. In mm."""
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
    refusal=few,
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
