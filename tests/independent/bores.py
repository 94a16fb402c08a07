"""Bores worn out of round and out of line, read by a gauge with two points that is rocked by hand."""

from __future__ import annotations

import math

import numpy as np

from tests.independent.instruments import is_sound
from tests.independent.job import TypedJob
from tests.independent.scores import Played, Score, all_of_it

DEPTHS = {"mouth": 6.0, "middle": 30.0, "inner end": 54.0}
ANGLES = (0.0, 45.0, 90.0, 135.0)
STEP = 0.002


class WornBore:
    """A bore: worn at one end, oval, with three lobes from the chuck that held it; its mate."""

    def __init__(self, seed: int) -> None:
        rng = self.rng = np.random.default_rng(seed)
        self.unworn = 30.0 + float(rng.normal(0, 0.02))
        self.mouth = float(np.exp(rng.normal(math.log(0.03), 0.9)))
        self.inner = self.mouth * float(rng.uniform(0.0, 0.8))
        self.lean = float(rng.uniform(0, math.pi))
        self.one_sided = float(rng.uniform(0.0, 0.7))
        self.three = float(abs(rng.normal(0, 0.003)))
        if is_sound(seed):
            self.mouth = self.inner = self.three = 0.0
        self.mate = self.unworn - float(rng.uniform(0.008, 0.035))

    def wear(self, z: float) -> float:
        """On diameter, mean round the turn."""
        return self.mouth + (self.inner - self.mouth) * z / 60.0

    def radius(self, z: float, angle: float) -> float:
        """From the bore's old axis."""
        worn = self.wear(z) / 2
        return (
            self.unworn / 2
            + worn * (1 + self.one_sided * math.cos(2 * (angle - self.lean)))
            + self.three * math.cos(3 * angle)
        )

    def across(self, z: float, angle: float) -> float:
        """Between two points."""
        return self.radius(z, angle) + self.radius(z, angle + math.pi)

    def gauge(self, true: float) -> float:
        """What the gauge says: rocked, it is never quite at its least."""
        value = true + abs(float(self.rng.normal(0, 0.0015))) + float(self.rng.normal(0, 0.0015))
        return round(value / STEP) * STEP

    def widest(self) -> float:
        """The largest diameter at the depths that are read."""
        return max(self.across(z, math.radians(t)) for z in DEPTHS.values() for t in range(180))

    def oval(self) -> float:
        """Largest less smallest diameter, at the worst of the depths that are read."""
        spans = []
        for z in DEPTHS.values():
            found = [self.across(z, math.radians(t)) for t in range(180)]
            spans.append(max(found) - min(found))
        return max(spans)

    def typed(self) -> TypedJob:
        """A job with every reading."""
        from trebb.logbook.log.entries import AssemblyAdded

        job = TypedJob()
        job.record(AssemblyAdded(assembly="hole", label="Lever bore", family="bore", under="apron"))
        job.state("hole", dia_mm=30.0, length_mm=60.0, outside_mm=60.0)
        for depth, z in DEPTHS.items():
            for t in ANGLES:
                job.read(
                    "hole", "bore_gauge", f"{depth}, {t:g}°", self.gauge(self.across(z, math.radians(t)))
                )
        job.read("hole", "bore_gauge", "ridge", self.gauge(self.unworn))
        for place in ("0°", "90°"):
            job.read(
                "hole",
                "bore_mate",
                place,
                *(round((self.mate + float(self.rng.normal(0, 0.0015))) / STEP) * STEP for _ in range(2)),
            )
        return job


def score_bores(seeds: range, *, played: Played = all_of_it, score: Score | None = None) -> Score:
    """Wear, oval and play of each."""
    score = score or Score()
    for seed in seeds:
        bore = WornBore(seed)
        case = played(bore.typed()).of("hole")
        truth = {"wear": bore.widest() - bore.unworn, "oval": bore.oval(), "play": bore.widest() - bore.mate}
        for m in case.figures:
            score.figure(m, truth[m.key])
    return score
