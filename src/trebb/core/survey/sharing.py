"""Readings of a set-up that share an unknown: an indicator's zero, a level's, how a bar was laid."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from trebb.core.condition import Observation, Shared, grouped
from trebb.core.survey.base import AnySetUp, PlaceReadings
from trebb.core.survey.reduction import place_means

# Wider than any zero can be, narrow enough to keep the arithmetic sound.
ZERO_MM = 0.5
Unknowns = Mapping[str, tuple[float, float]]


def observe_sharing(
    set_up: Callable[[], AnySetUp], unknowns: Callable[[Any, str], Unknowns]
) -> Callable[[Any, Sequence[PlaceReadings]], list[Observation]]:
    """An `observe` for a set-up: `unknowns(subject, place)` names what a reading contains beside its row,
    each with its share and sd beforehand.
    """

    def observe(subject: Any, taken: Sequence[PlaceReadings]) -> list[Observation]:
        means = place_means(set_up(), subject, taken)
        if not means:
            return []
        found = [unknowns(subject, place) for place, _ in means]
        names = {name: sd for one in found for name, (_, sd) in one.items()}
        shared = [
            Shared(np.array([one.get(name, (0.0, 0.0))[0] for one in found]), sd)
            for name, sd in names.items()
        ]
        return grouped([o.row for _, o in means], [o.value for _, o in means], shared)

    return observe


def one_zero(subject: Any, place: str) -> Unknowns:
    """One zero for each group of places: what stands before the comma."""
    return {place.split(",")[0]: (1.0, ZERO_MM)}


def stirred_zero(
    subject: Any, condition: Mapping[str, float], place: str, rng_of: Callable[[str], np.random.Generator]
) -> float:
    """Where the indicator of a group happened to be zeroed. The condition by source, in mm."""
    return float(0.02 * rng_of(f"zero/{place.split(',')[0]}").standard_normal())
