"""Push test: a few pulls each way on a spring balance; slack is a step, flex a slope."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence

import numpy as np
from msgspec.structs import replace

from trebb.core.belief.repeats import on_one_mark
from trebb.core.condition import Z95, Observation, Row, Shared, grouped
from trebb.core.dual_units import both_forces
from trebb.core.errors import InputError
from trebb.core.families.spindle.figure import AXIS, NOSE, frame, nose
from trebb.core.families.spindle.subject import Spindle, slack_shares
from trebb.core.figure import Arrow, Figure, Indicator, Label, Role, box, line
from trebb.core.runout import PushFit, fit_push
from trebb.core.safety import CHUCK_KEY, LOCK_OUT
from trebb.core.survey.base import InstrumentKind, Place, PlaceReadings, Result, SetUp, lots_by_group
from trebb.core.survey.sizes import TURN_MOST_MM, beyond_indicator
from trebb.core.survey.steps import coarser_sd
from trebb.core.survey.turns import STEP_MM, coarsest

PULLS = (("pulled full", -1.0), ("pulled half", -0.5), ("pushed half", 0.5), ("pushed full", 1.0))
PUSH_SD_MM = 0.0016
ZERO_SD_MM = 0.5
IN_MM = 10.0
APART = 1.4  # a pull and its half fall on marks of their own, and the slope between them takes that up
LESS_MM = 3 * PUSH_SD_MM  # so much less is no scatter
PIN = "pin"  # a ground pin in the chuck, the quill drawn in


def spots(spindle: Spindle) -> tuple[tuple[str, str], ...]:
    """Where it is pushed: the nose; a quill's end drawn in, and run out."""
    return (
        (("quill in", "drawn right up, lock off"), ("quill out", "run down, lock off"))
        if spindle.has_quill
        else (("nose", "on the register, or a bar's first inch"),)
    )


def places(spindle: Spindle) -> tuple[Place, ...]:
    """Two pulls each way at each spot, taken twice."""
    return _pulls(spindle, spots(spindle))


def pin_places(spindle: Spindle) -> tuple[Place, ...]:
    """The same pulls at a pin in the chuck."""
    return _pulls(spindle, ((PIN, "close to the jaws"),))


def _pulls(spindle: Spindle, at: Sequence[tuple[str, str]]) -> tuple[Place, ...]:
    return tuple(
        Place(
            f"{spot}, {words}",
            words.capitalize(),
            both_forces(abs(share) * spindle.pull_n),
            spot,
        )
        for spot, _ in at
        for words, share in PULLS
    )


def force_n(spindle: Spindle, place: str) -> float:
    """Force of a place, + toward the indicator."""
    return spindle.pull_n * dict(PULLS)[place.rsplit(", ", 1)[1]]


def shares(spindle: Spindle, spot: str) -> dict[str, float]:
    """Total play at a spot by source. Coefficients by source, without unit."""
    result = dict(slack_shares(spindle))
    if spot == PIN:
        return {**result, "quill": spindle.quill_share(IN_MM + spindle.pin_near_mm), "grip": 1.0}
    if spindle.has_quill:
        result["quill"] = spindle.quill_share(spindle.quill_stroke_mm if spot == "quill out" else IN_MM)
    return result


def row(spindle: Spindle, place: str) -> Row:
    """Half the play to the side pushed, + flex × force; a quill run out flexes more in proportion to its
    reach.
    """
    spot, _ = place.rsplit(", ", 1)
    force = force_n(spindle, place)
    side = 0.5 if force > 0 else -0.5
    reach = 1.6 if spot == "quill out" else 1.0
    gives = {"flex": reach * force / 1000, **({"pin_flex": force / 1000} if spot == PIN else {})}
    return Row({**{k: side * c for k, c in shares(spindle, spot).items()}, **gives}, PUSH_SD_MM)


def _points(spindle: Spindle, taken: Sequence[PlaceReadings]) -> dict[str, list[tuple[str, float, int]]]:
    result: dict[str, list[tuple[str, float, int]]] = {}
    for p in taken:
        if p.values:
            result.setdefault(p.place.rsplit(", ", 1)[0], []).append(
                (p.place, sum(p.values) / len(p.values), len(p.values))
            )
    return result


def observe(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Observation]:
    """The pulls at a spot share the indicator's zero."""
    result: list[Observation] = []
    coarser, step = APART * coarser_sd(taken, STEP_MM), coarsest(taken)
    for points in _points(spindle, taken).values():
        # Pulls that fell on one mark of a coarse needle are off together.
        together = (
            on_one_mark([v for _, v, _ in points], PUSH_SD_MM, step) if coarser else [0.0] * len(points)
        )
        rows = [
            Row(
                row(spindle, place).coefficients,
                math.sqrt(PUSH_SD_MM**2 / count + coarser**2 + more),
            )
            for (place, _, count), more in zip(points, together, strict=True)
        ]
        centre = sum(v for _, v, _ in points) / len(points)
        result += grouped(rows, [v - centre for _, v, _ in points], [Shared(np.ones(len(rows)), ZERO_SD_MM)])
    return result


def push_fits(spindle: Spindle, taken: Sequence[PlaceReadings]) -> dict[str, PushFit]:
    """The two-sided fit at each spot that has pulls enough."""
    found = {}
    for spot, points in _points(spindle, taken).items():
        try:
            found[spot] = fit_push(
                [force_n(spindle, place) for place, _, _ in points], [v for _, v, _ in points]
            )
        except InputError:
            continue
    return found


def results(spindle: Spindle, taken: Sequence[PlaceReadings]) -> list[Result]:
    """Slack at each spot."""
    counts = {spot: min(c for _, _, c in points) for spot, points in _points(spindle, taken).items()}
    # Two pulls each way fix the step to 1.6 readings' worth and the noise of one reading.
    return [
        Result(
            f"slack, {spot}",
            max(0.0, f.slack_mm),
            Z95 * 3.2 * math.hypot(PUSH_SD_MM / counts[spot] ** 0.5, coarser_sd(taken, STEP_MM)),
            Row(shares(spindle, spot), PUSH_SD_MM),
        )
        for spot, f in push_fits(spindle, taken).items()
    ]


def stir(
    spindle: Spindle, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """Where the indicator happened to be zeroed. The condition by source, in mm."""
    return float(0.02 * rng_of(f"zero/{place.rsplit(', ', 1)[0]}").standard_normal())


def question(
    spindle: Spindle, place: str, raw: float, others: Mapping[str, float], is_signed_as_typed: bool
) -> str:
    """What to ask of a pull that does not go with the one opposite: magnitudes typed without their sign, or
    an indicator that stands the other way round. Lengths in mm, + toward the indicator.
    """
    spot, words = place.rsplit(", ", 1)
    opposite = {"pulled": "pushed", "pushed": "pulled"}[words.split()[0]]
    there = [v for key, v in others.items() if key.startswith(f"{spot}, {opposite}")]
    if not there:
        return ""
    other = sum(there) / len(there)
    if not is_signed_as_typed and raw * other > 0:
        return (
            "pulled and pushed have one sign: pushed toward the indicator is +, pulled away is −. Write the "
            "sign, or the same again with +."
        )
    moved = raw - other if opposite == "pulled" else other - raw
    if moved < -LESS_MM:
        return (
            "it reads less pushed toward the indicator than pulled away from it; are the two exchanged, or "
            "does the indicator count the other way round?"
        )
    return ""


def figure(spindle: Spindle, place: str) -> Figure:
    """Spring balance on one side, indicator opposite."""
    pull = force_n(spindle, place) < 0
    items = [*nose(wash="bearings"), Indicator((178, AXIS - 22), (0, -1))]
    ring = [
        box(NOSE - 12, AXIS + 26, 8, 8, role=Role.BLUE),
        line((NOSE - 8, AXIS + 34), (NOSE - 8, 146), role=Role.BLUE),
    ]
    items += ring
    items.append(
        Arrow((NOSE + 22, AXIS + 30), (NOSE + 22, AXIS + 58))
        if pull
        else Arrow((NOSE + 22, AXIS + 58), (NOSE + 22, AXIS + 30))
    )
    words = (
        f"spring balance: {'pull away from' if pull else 'push toward'} the indicator, "
        f"{both_forces(abs(force_n(spindle, place)))}"
    )
    items += [
        Label((NOSE + 40, AXIS + 48), words, Role.BLUE, "left"),
        Label((NOSE + 40, AXIS - 40), "indicator opposite, on the nose itself", Role.SOFT, "left"),
        Label((NOSE + 40, AXIS - 18), f"reads {'less: −' if pull else 'more: +'}", Role.BLUE, "left"),
    ]
    return frame(items)


SET_UP = SetUp[Spindle](
    key="push_test",
    measure=lambda spindle, place: ("slack", 1.0),
    letter="E",
    short="Push",
    title="Push test",
    instrument=InstrumentKind.INDICATOR,
    unit="mm",
    resolution_mm=0.00254,
    minutes=0.6,
    setting_minutes=4,
    wanted=2,
    places=places,
    lots=lots_by_group(places, "Push test, {}".format, 3.0),
    row=row,
    figure=figure,
    observe=observe,
    results=results,
    stir=stir,
    steps=(
        "Indicator on the nose or at the quill's end, its base on the machine's own casting; zero it.",
        "Pull away from it with a spring balance: half, then full, read with −; ease off between.",
        "The same toward it, pushing with a bar or pulling on the other side: read with +.",
        "Each twice; do not let the indicator's base take the force.",
    ),
    cautions=(f"{LOCK_OUT} A balance that slips flies: pull straight, stand aside.",),
    tells="Slack is what it jumps with hardly any force; flex is what it gives in proportion.",
    cannot_tell="Slack in the bearing and a bearing loose on its journal feel the same. A quill's own play "
    "is told by drawing it in and running it out.",
    settles="slack from flex",
    family="spindle",
    question=question,
    refusal=lambda spindle, place, raw, system: beyond_indicator(raw, TURN_MOST_MM, system),
    view="push",
    is_signed=True,
)


def pin_figure(spindle: Spindle, place: str) -> Figure:
    """Spring balance on a pin in the chuck, indicator opposite."""
    pull = force_n(spindle, place) < 0
    at = NOSE + 130
    way = ((at, AXIS + 20), (at, AXIS + 52))
    words = f"{'pull away from' if pull else 'push toward'} the indicator, " + both_forces(
        abs(force_n(spindle, place))
    )
    return frame(
        [
            *nose(chuck=True),
            Indicator((at, AXIS - 8), (0, -1)),
            Arrow(*(way if pull else way[::-1])),
            Label((at + 28, AXIS + 44), words, Role.BLUE, "left"),
            Label((at + 28, AXIS - 44), "on the pin, close to the jaws", Role.SOFT, "left"),
        ]
    )


PIN_SET_UP = replace(
    SET_UP,
    key="pin_push",
    measure=lambda spindle, place: ("grip", 1.0),
    letter="L",
    short="Pin",
    title="Push at a pin in the chuck",
    places=pin_places,
    lots=lots_by_group(pin_places, "Push at the {}".format, 3.0),
    figure=pin_figure,
    steps=(
        "A ground pin in the chuck, gripped as a drill is; the quill drawn up, its lock off.",
        "Indicator on the pin close to the jaws, its base on the machine's own casting.",
        "Pull with a spring balance opposite: half, then full; then the other way.",
        "Each twice. Let go, grip again and repeat: another answer is the jaws'.",
    ),
    cautions=(CHUCK_KEY, *SET_UP.cautions),
    tells="All that a drill feels: bearings, quill and the chuck's grip together.",
    cannot_tell="Which of them it is: the push at the quill's own end, less this, leaves the chuck's.",
    settles="the chuck's grip",
    applies=lambda spindle: spindle.has_quill,
    is_optional=True,
)
