"""What is advised first against the best order: minutes until the verdict on a screw's lash can be said."""

from __future__ import annotations

from itertools import permutations

import numpy as np

from tests.independent.job import TypedJob
from tests.independent.screws import Screw, facts

SET_UPS = ("lash", "push_pull", "end_float", "thread_size")


def minutes_of(case, set_up: str) -> float:
    """Bench minutes of a set-up, read whole."""
    s = next(s for s in case.set_ups if s.key == set_up)
    return s.setting_minutes + s.minutes * len(case.places(set_up))


def is_said(case) -> bool:
    """Whether the lash's verdict is said."""
    lash = next((m for m in case.figures if m.key == "lash"), None)
    return lash is not None and lash.state.name != "UNKNOWN"


def advised_minutes(screw: Screw) -> float:
    """Minutes until the verdict, taking what is advised first each time."""
    job, spent, left = facts(TypedJob()), 0.0, list(SET_UPS)
    while left:
        case = job.of("cross_slide")
        order = [s.key.split("/")[0] for s in case.suggestions()]
        chosen = next((key for key in order if key in left), left[0])
        spent += minutes_of(case, chosen)
        left.remove(chosen)
        screw.type_all(job, (chosen,))
        if is_said(job.of("cross_slide")):
            return spent
    return spent


def minutes_in(order: tuple[str, ...], seed: int) -> float:
    """Minutes until the verdict in an order of set-ups."""
    screw, job, spent = Screw(seed), facts(TypedJob()), 0.0
    for set_up in order:
        spent += minutes_of(job.of("cross_slide"), set_up)
        screw.type_all(job, (set_up,))
        if is_said(job.of("cross_slide")):
            break
    return spent


def minutes_against_best(seeds: range) -> float:
    """Advised over the order that, by search over all of them, is best on these machines; means."""
    advised = [advised_minutes(Screw(seed)) for seed in seeds]
    best = min(float(np.mean([minutes_in(order, seed) for seed in seeds])) for order in permutations(SET_UPS))
    return float(np.mean(advised)) / best
