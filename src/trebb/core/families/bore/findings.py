"""A bore: wear against its ridge, oval, taper, the play that is left, and what it takes to clean it up."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np
from msgspec import Struct

from trebb.core.belief.sound import Kind, as_faults
from trebb.core.bores import bushes
from trebb.core.bores.shape import barrel_mm, section, taper_per_mm
from trebb.core.condition import Quantity, ReadingsOnly
from trebb.core.condition.draws import Array, draw, quantity
from trebb.core.condition.fixing import is_read
from trebb.core.families.bore.subject import ANGLES, DEPTHS, Bore, bore_model
from trebb.core.findings.base import Finding, Measure, hedged, size_words, suggestion_words
from trebb.core.machine import RatedLimit, State
from trebb.core.survey.angles import angle_words
from trebb.core.survey.base import PlaceReadings
from trebb.core.units import UnitSystem, show_size, show_small

_MEASURES = {
    "wear": ("Wear of the bore", "bore_wear"),
    "oval": ("Out-of-round", "bore_oval"),
    "play": ("Play of its mate at the worst", "bore_play"),
    "push": ("Play by push, at the mouth", "bore_play"),
}


def label_of(key: str) -> str:
    """How a measure is called."""
    return _MEASURES[key][0]


def limit_key(key: str) -> str:
    """The limit a measure is judged by."""
    return _MEASURES[key][1]


def _worst(drawn: Mapping[str, Array], depths: Sequence[str]) -> Array:
    """Largest over its depths of wear and half the oval, one a draw: what a gauge reads at its widest."""
    each = [drawn[f"wear.{d}"] + np.hypot(drawn[f"oval.{d}.x"], drawn[f"oval.{d}.y"]) for d in depths]
    found: Array = np.max(each, axis=0)
    return found


def measure_value(
    bore: Bore, drawn: Mapping[str, Array], key: str, depths: Sequence[str] = DEPTHS
) -> Quantity:
    """A measure by draws, mm on diameter."""
    if key == "oval":
        ovals = [2 * np.hypot(drawn[f"oval.{d}.x"], drawn[f"oval.{d}.y"]) for d in depths]
        return quantity(np.max(ovals, axis=0))
    if key == "push":
        return _none_below(quantity(drawn["gap"] + drawn["wear.mouth"]))
    if key == "play":
        return _none_below(quantity(drawn["gap"] + _worst(drawn, depths)))
    return _none_below(quantity(_worst(drawn, depths)))


def _none_below(q: Quantity) -> Quantity:
    return Quantity(max(0.0, q.value), q.sd, max(0.0, q.low), max(0.0, q.high))


def depths_read(alone: ReadingsOnly, limit_mm: float) -> tuple[str, ...]:
    """Depths whose oval was read, in both parts."""
    return tuple(
        d for d in DEPTHS if all(is_read(alone, {f"oval.{d}.{axis}": 1.0}, limit_mm) for axis in ("x", "y"))
    )


def bore_measures(bore: Bore, alone: ReadingsOnly, limits: Mapping[str, RatedLimit]) -> list[Measure]:
    """What readings fix; a depth that nobody read is named."""
    limit, found = limits["bore_oval"], []
    round_ = depths_read(alone, limit.limit_mm)
    faults = [fault for d in round_ for fault in (f"wear.{d}", f"oval.{d}.x", f"oval.{d}.y")]
    drawn = as_faults(alone, bore_model(bore), draw(alone, cut=False), [Kind(tuple(faults))])
    unread = tuple((f"the {d}", "bore_gauge") for d in DEPTHS if d not in round_)
    if round_:
        found.append(
            Measure("oval", label_of("oval"), limit, measure_value(bore, drawn, "oval", round_), unread)
        )
    limit = limits["bore_wear"]
    worn = tuple(d for d in round_ if is_read(alone, {f"wear.{d}": 1.0}, limit.limit_mm))
    if worn:
        found.append(
            Measure("wear", label_of("wear"), limit, measure_value(bore, drawn, "wear", worn), unread)
        )
    limit = limits["bore_play"]
    if bore.use != "fixed":
        gone = tuple(d for d in round_ if is_read(alone, {f"wear.{d}": 1.0, "gap": 1.0}, limit.limit_mm))
        if gone:
            found.append(
                Measure("play", label_of("play"), limit, measure_value(bore, drawn, "play", gone), unread)
            )
        elif is_read(alone, {"gap": 1.0, "wear.mouth": 1.0}, limit.limit_mm):
            found.append(Measure("push", label_of("push"), limit, measure_value(bore, drawn, "push")))
    return found


def questions(bore: Bore) -> dict[str, Mapping[str, float]]:
    """What is to be known. Coefficients by source, without unit."""
    found: dict[str, Mapping[str, float]] = {}
    for d in DEPTHS:
        found[f"wear@{d}"] = {f"wear.{d}": 1.0}
        found[f"oval@{d}"] = {f"oval.{d}.x": 1.0}
        found[f"play@{d}"] = {f"wear.{d}": 1.0, "gap": 1.0}
    return found


def reason(most: str, sd_before: float, sd_after: float, system: UnitSystem) -> str:
    """Why a set-up is worth taking. Standard deviations in mm."""
    what, _, depth = most.partition("@")
    words = {"wear": "wear", "oval": "out-of-round", "play": "play"}[what]
    return suggestion_words(f"{words} at the {depth}", sd_before, sd_after, system, little=0.9)


class BoreShape(Struct, frozen=True):
    """What the gauge says, depth by depth: mean, oval and its long axis; taper and barrel over the depths,
    mm. `widest` is the largest reading.
    """

    means_mm: Mapping[str, float]
    ovals_mm: Mapping[str, float]
    long_deg: Mapping[str, float]
    taper_mm: float | None
    barrel_mm: float | None
    widest_mm: float
    smallest_mm: float


def shape_of(bore: Bore, taken: Sequence[PlaceReadings]) -> BoreShape | None:
    """The shape by the gauge's readings; None where there are none."""
    read = {p.place: sum(p.values) / len(p.values) for p in taken if p.values}
    means, ovals, longs, all_ = {}, {}, {}, []
    for depth in DEPTHS:
        at = [(a, read[f"{depth}, {angle_words(a)}"]) for a in ANGLES if f"{depth}, {angle_words(a)}" in read]
        if at:
            found = section([a for a, _ in at], [d for _, d in at])
            means[depth], ovals[depth], longs[depth] = found.mean_mm, found.oval_mm, found.long_deg
            all_ += [d for _, d in at]
    if not all_:
        return None
    depths = [bore.depth_mm(d) for d in means]
    values = list(means.values())
    taper = taper_per_mm(depths, values) * bore.length_mm if len(values) > 1 else None
    barrel = barrel_mm(depths, values) if len(values) > 2 else None
    return BoreShape(means, ovals, longs, taper, barrel, max(all_), min(all_))


def bore_findings(
    bore: Bore,
    alone: ReadingsOnly,
    measures: Mapping[str, Measure],
    shape: BoreShape | None,
    system: UnitSystem,
) -> list[Finding]:
    """Verdicts, the heaviest first."""
    found = [_say(bore, key, m, shape, system) for key, m in measures.items()]
    found = hedged(found, measures, system)
    if shape is not None and shape.taper_mm is not None and measures:
        found.append(_form(shape, measures, system))
    return sorted(found, key=lambda f: -f.weight_mm)


def _say(bore: Bore, key: str, m: Measure, shape: BoreShape | None, system: UnitSystem) -> Finding:
    size, inside = size_words(m, system), m.state is State.WITHIN
    fine = "Inside its limit."
    how = (
        "A bush is in it already: ask what it was made of before it is bored."
        if bore.has_repair
        else "Fit to the bore as it is, or clean it up and bush it."
    )
    if key == "wear":
        half = show_small(m.value.value / 2, system)
        return Finding(
            key, m.state, f"The bore is worn by {size}.", "gauge against the unworn ridge",
            fine if inside else f"That is {half} a side if both sides wore, all of it on one if one "
            f"did. {how}",
            m.value.value,
        )  # fmt: skip
    if key == "oval":
        depth = max(shape.ovals_mm, key=lambda d: shape.ovals_mm[d]) if shape is not None else "mouth"
        long_ = f", longest at {shape.long_deg[depth]:.0f}°," if shape is not None else ""
        return Finding(
            key, m.state, f"At the {depth}{long_} the bore is out of round by "
            f"{size}.", "gauge in four directions",
            fine if inside else f"Three lobes would not show: turn an indicator in it if it matters. {how}",
            0.9 * m.value.value,
        )  # fmt: skip
    if key == "play":
        speed = bushes.speed_m_s(bore.dia_mm, bore.rpm)
        usual = bushes.running_clearance_um(
            min(bore.dia_mm, 120.0), bushes.running_fit(speed, by_hand=bore.rpm == 0)
        )
        return Finding(
            key, m.state, f"Where the bore is widest its mate plays by {size}.", "bore and mate by size",
            fine if inside
            else f"New it would have {show_small(usual[0] / 1000, system)} to "
            f"{show_small(usual[1] / 1000, system)}; "
            f"part of the play was always there. {how}",
            1.1 * m.value.value,
        )  # fmt: skip
    return Finding(
        key, m.state, f"Pushed at the mouth, its mate gives {size}.", "push in place",
        fine if inside else "Gauge the bore and its mate: it tells which of them wore.", 1.1 * m.value.value,
        () if inside else (("Go to: bore gauge", "bore_gauge"), ("Go to: what goes in it", "bore_mate")),
    )  # fmt: skip


def _form(shape: BoreShape, measures: Mapping[str, Measure], system: UnitSystem) -> Finding:
    taper = shape.taper_mm or 0.0
    parts = [
        f"{show_small(abs(taper), system)} {'wider inside' if taper > 0 else 'wider at the mouth'} over "
        f"its length"
    ]
    if shape.barrel_mm is not None and abs(shape.barrel_mm) > 0.004:
        parts.append(
            f"{'wide in the middle' if shape.barrel_mm > 0 else 'bell-mouthed'} by "
            f"{show_small(abs(shape.barrel_mm), system)}"
        )
    limit = next((m.limit.limit_mm for m in measures.values() if m.key == "wear"), 0.03)
    worst = max(abs(taper), abs(shape.barrel_mm or 0.0))
    state = State.WITHIN if worst <= 0.8 * limit else State.NEAR if worst <= limit else State.BEYOND
    return Finding(
        "form", state, f"It is {' and '.join(parts)}.", "means of the depths",
        f"It cleans up at {show_size(shape.widest_mm, system)} or more: all depths, about one "
        f"axis.", 0.3 * worst,
    )  # fmt: skip
