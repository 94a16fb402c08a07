"""Slides on taper gibs: felt with blades of half a thou, some of them backed off as they ran."""

from __future__ import annotations

import math

import numpy as np

from tests.independent.instruments import is_sound
from tests.independent.job import TypedJob
from tests.independent.scores import Played, Score, all_of_it

RATIO = 60.0
BLADE, STEP = 0.0127, 0.00254


class GibAtBench:
    """Gaps where the ways are least worn, with the gib home; wear of the ways; how far it was backed off."""

    def __init__(self, seed: int, off_mm: float = 0.0) -> None:
        rng = self.rng = np.random.default_rng(30_000 + seed)
        thin = float(np.exp(rng.normal(math.log(0.03), 0.8)))
        self.gap = {"thin": thin, "thick": max(0.002, thin + float(rng.normal(0, 0.012)))}
        depth = float(np.exp(rng.normal(math.log(0.015), 0.9)))
        self.worn = dict(zip(("left", "mid", "right"), depth * rng.uniform(0, 1, 3), strict=True))
        if is_sound(seed):
            self.gap = {"thin": 0.012, "thick": 0.012}
            self.worn = dict.fromkeys(self.worn, 0.0)
        self.home, self.off = float(rng.uniform(-5, 4)), off_mm

    def type_all(self, job: TypedJob, assembly: str = "saddle") -> TypedJob:
        """Stand-out twice, rock as it ran, blades with the gib home."""
        for place, at in (("as it ran", self.home + self.off), ("stand-out", self.home)):
            taken = [round((at + 0.08 * self.rng.standard_normal()) / 0.02) * 0.02 for _ in range(2)]
            job.read(assembly, "stand_out", place, *taken)
        for spot, worn in self.worn.items():
            for end, gap in self.gap.items():
                play = gap + worn + self.off / RATIO
                taken = [
                    max(0.0, round((play + 0.004 * self.rng.standard_normal()) / STEP) * STEP)
                    for _ in range(2)
                ]
                job.read(assembly, "rock", f"{spot}, {end} end", *taken)
        for end, gap in self.gap.items():
            goes = gap + self.worn["mid"]
            taken = [
                math.floor(max(0.0, goes + 0.004 * self.rng.standard_normal()) / BLADE) * BLADE
                for _ in range(2)
            ]
            job.read(assembly, "feelers", f"{end} end", *taken)
        return job.state(assembly, home="yes")


def score_gibs(seeds: range, *, played: Played = all_of_it, score: Score | None = None) -> Score:
    """Gibs at home: play, how uneven it is, and no gib said to be backed off."""
    score = score or Score()
    for seed in seeds:
        gib = GibAtBench(seed)
        case = played(gib.type_all(TypedJob())).of("saddle")
        true = {
            "play": max(gib.gap.values()) + max(gib.worn.values()),
            "even": max(gib.worn.values()) - min(gib.worn.values()),
        }
        for m in case.figures:
            if m.key in true:
                score.figure(m, true[m.key])
        score.count("false alarm", bool(case.backed_off()))
    return score


def recognised(seeds: range) -> float:
    """Share of gibs 0.6 to 8 mm out of home that are said to be so."""
    hits = 0
    for seed in seeds:
        off = float(np.random.default_rng(seed).uniform(0.6, 8.0))
        case = GibAtBench(seed, off).type_all(TypedJob()).of("saddle")
        hits += any(f.key == "backed_off" for f in case.findings(_metric()))
    return hits / len(seeds)


def _metric():
    from trebb.core.units import UnitSystem

    return UnitSystem.METRIC
