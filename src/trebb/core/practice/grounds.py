"""Practice machines drawn and judged: how much each cause truly adds, and what is believed of it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from trebb.core.condition import ErrorModel, Estimate
from trebb.core.condition.draws import Array, draw, quantiles
from trebb.core.errors import InputError
from trebb.core.practice.ground_records import NOTHING, Cause, Condition, Drawn, Ground

SIZE_MM = 0.05  # or mrad: what a maker leaves
SOUND_SD = 0.15  # of the spread of its prior
SOUND_SUM = 0.75  # and of what they add up to
SOUND = 0.55  # of every limit, at the most, on a machine before anything is planted
EXACT_SD = 1e-9


def exact(model: ErrorModel, condition: Mapping[str, float]) -> Estimate:
    """A condition as if it were known, mm: an estimate with no doubt to speak of."""
    mean = np.array([condition.get(s.key, 0.0) for s in model.sources])
    return Estimate(model, mean, EXACT_SD**2 * np.eye(len(mean)), {}, 1)


def as_draws(condition: Mapping[str, float]) -> Drawn:
    """A condition as a single draw. The condition by source, in mm."""
    return {key: np.array([value]) for key, value in condition.items()}


def shares(
    on: Ground, subject: Any, condition: Mapping[str, float], limits: Mapping[str, float]
) -> dict[str, float]:
    """What each cause of a condition comes to, in limits."""
    drawn = as_draws(condition)
    return {c.key: float(c.share(subject, drawn, limits)[0]) for c in on.causes}


def chief(on: Ground, subject: Any, condition: Mapping[str, float], limits: Mapping[str, float]) -> str:
    """The cause that comes to most; NOTHING where neither one nor their sum is beyond its limit. Condition
    and limits in mm.
    """
    drawn = as_draws(condition)
    top, beyond = _chief(on, subject, drawn, limits)
    return on.causes[int(top[0])].key if beyond[0] else NOTHING


def _chief(
    on: Ground, subject: Any, drawn: Drawn, limits: Mapping[str, float]
) -> tuple[np.ndarray, np.ndarray]:
    """Which cause comes to most, and whether anything is beyond its limit, one a draw."""
    stacked = np.stack([c.share(subject, drawn, limits) for c in on.causes])
    most = stacked.max(axis=0)
    if on.whole is not None:
        most = np.maximum(most, on.whole(subject, drawn, limits))
    return stacked.argmax(axis=0), most > 1


def sound_condition(
    on: Ground, subject: Any, model: ErrorModel, limits: Mapping[str, float], rng: np.random.Generator
) -> Condition:
    """A machine in use with nothing wrong: every cause under about half its limit. Limits in mm."""
    found: Condition = {}
    for s in model.sources:
        if s.is_clearance:
            found[s.key] = s.mean * float(rng.uniform(0.05, 0.3))
        else:
            # A size is as its maker left it, however little is known of it.
            sd = min(SOUND_SD * s.sd, SIZE_MM) if s.loose > 1 else 0.0
            found[s.key] = s.mean + sd * float(rng.standard_normal())
    for cause in on.causes:
        made_of = [key for key in cause.shape(np.random.default_rng(0)) if key in found]
        for _ in range(30):
            if float(cause.share(subject, as_draws(found), limits)[0]) <= SOUND:
                break
            for key in made_of:
                found[key] *= 0.7
    every = [s.key for s in model.sources if s.loose > 1 and (s.is_clearance or s.mean == 0)]
    while on.whole is not None and float(on.whole(subject, as_draws(found), limits)[0]) > SOUND_SUM:
        for key in every:
            found[key] *= 0.7
    return found


def planted(
    on: Ground,
    subject: Any,
    condition: Mapping[str, float],
    limits: Mapping[str, float],
    cause: Cause,
    size: float,
    rng: np.random.Generator,
) -> Condition:
    """A condition with one cause planted until it comes to `size` limits. Raises InputError for a source it
    has not, or a size it cannot have.
    """
    shape = cause.shape(rng)
    unknown = [key for key in shape if key not in condition]
    if unknown:
        raise InputError(f"{on.label}: {', '.join(unknown)}", "it has no such source of error")

    def at(much: float) -> Condition:
        return {**condition, **{key: condition[key] + much * part for key, part in shape.items()}}

    low, high = 0.0, 1e-3
    while float(cause.share(subject, as_draws(at(high)), limits)[0]) < size:
        high *= 2
        if high > 1e3:
            raise InputError(f"{cause.label}, {size:g} limits", "it cannot be made as large")
    for _ in range(40):
        middle = (low + high) / 2
        if float(cause.share(subject, as_draws(at(middle)), limits)[0]) < size:
            low = middle
        else:
            high = middle
    return at(high)


EDGE, FOLD = 0.1, 4.0  # how far past its limit still counts as at it; read: known to so many times over


def is_told(each: Mapping[str, Array]) -> bool:
    """Whether of every cause, by readings alone, it is told on which side of its limit it is. What nobody
    read may be anything, and is told of nothing. `each` in limits.
    """
    return all(told(value) for value in each.values())


def told(value: Array) -> bool:
    """Whether of one cause it is told; `value` in limits, one a draw."""
    low, high = quantiles(value, (0.05, 0.95))
    return high <= 1 + EDGE or (low >= 1 - EDGE and high <= FOLD * low)


def belief(
    on: Ground, subject: Any, now: Estimate, limits: Mapping[str, float]
) -> tuple[dict[str, Array], dict[str, float]]:
    """What readings allow each cause to come to, in limits, one a draw; and how likely each is the chief
    one, NOTHING included.
    """
    drawn = draw(now)
    each = {c.key: c.share(subject, drawn, limits) for c in on.causes}
    top, beyond = _chief(on, subject, drawn, limits)
    likely = {key: float(((top == i) & beyond).mean()) for i, key in enumerate(each)}
    likely[NOTHING] = float((~beyond).mean())
    return each, likely
