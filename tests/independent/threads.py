"""Screws to be named by caliper, gauge and count: crests worn, calipers that slip, a turn lost in ten."""

from __future__ import annotations

import math

import numpy as np

from tests.independent.job import TypedJob
from tests.independent.scores import Score

FORMS = {"Acme": 29.0, "trapezoidal": 30.0}


class ScrewToName:
    """A screw of inch or metric size, Acme or trapezoidal, one to three starts."""

    def __init__(self, seed: int, *, miscounted: bool = False) -> None:
        rng = self.rng = np.random.default_rng(40_000 + seed)
        if rng.random() < 0.6:
            self.form = "Acme"
            self.major = 25.4 * float(rng.choice([8, 10, 12, 14, 16, 18, 20, 24])) / 16
            self.pitch = 25.4 / float(rng.choice([5, 6, 8, 10]))
        else:
            self.form = "trapezoidal"
            self.major, self.pitch = (
                float(v) for v in rng.choice([(16, 4), (20, 4), (24, 5), (28, 5), (30, 6), (36, 6), (40, 7)])
            )
        self.starts = int(rng.choice([1, 1, 1, 1, 2]))
        if self.starts * self.pitch > 0.45 * self.major:
            self.starts = 1
        self.counted = int(rng.choice([9, 11])) if miscounted else 10

    def type_all(self, job: TypedJob) -> TypedJob:
        """What is read at the set-up, and what is seen."""
        rng, at = self.rng, ("cross_slide", "which_thread")
        lead = self.starts * self.pitch
        job.read(*at, "turns", round(self.counted * lead + 0.03 * rng.standard_normal(), 2))
        job.read(*at, "crests", round(10 * self.pitch + 0.02 * rng.standard_normal(), 2))
        below = float(rng.uniform(0.0, max(0.05 * self.pitch, 0.127)))
        job.read(*at, "major", round(self.major - below + 0.015 * rng.standard_normal(), 2))
        gauge = 29.0 if abs(FORMS[self.form] + 0.8 * rng.standard_normal() - 29.0) < 0.5 else 30.0
        return job.state("cross_slide", seen_gauge=gauge, seen_starts=float(self.starts))


def score_threads(seeds: range, *, miscounted: bool = False, score: Score | None = None) -> Score:
    """Right when the first named has the screw's pitch, lead and diameter."""
    score = score or Score()
    for seed in seeds:
        screw = ScrewToName(seed, miscounted=miscounted)
        naming = screw.type_all(TypedJob()).of("cross_slide").naming
        first = naming.candidates[0].spec
        right = (
            math.isclose(first.pitch_mm, screw.pitch, rel_tol=1e-3)
            and math.isclose(first.lead_mm, screw.starts * screw.pitch, rel_tol=1e-3)
            and abs(first.major_mm - screw.major) < 0.02
        )
        score.count("cause", right)
        if naming.is_sure:
            score.count("sure and wrong", not right)
    return score
