"""Spur pairs out of centre, with teeth cut unevenly, rocked tooth by tooth: lash by the exact involute."""

from __future__ import annotations

import math

import numpy as np

from tests.independent.instruments import is_sound
from tests.independent.job import TypedJob
from tests.independent.scores import Played, Score, all_of_it

STEP = 0.002


def inv(angle: float) -> float:
    """Involute function, radians."""
    return math.tan(angle) - angle


class CutPair:
    """A gear and its pinion on shafts that are not where they should be."""

    def __init__(self, seed: int) -> None:
        rng = self.rng = np.random.default_rng(seed)
        self.teeth, self.mate = int(rng.integers(18, 44)), int(rng.integers(13, 30))
        self.module = 2.0
        self.spread = float(rng.uniform(0.02, 0.35))
        self.thin = float(rng.uniform(0.02, 0.20))
        self.off = float(np.exp(rng.normal(math.log(0.03), 0.8)))
        self.off_at = float(rng.uniform(0, 2 * math.pi))
        self.pinion_off = float(abs(rng.normal(0, 0.015)))
        scale = float(np.exp(rng.normal(math.log(0.006), 0.6)))
        self.own = rng.standard_t(4, self.teeth) * scale
        if rng.random() < 0.2:
            self.own[int(rng.integers(self.teeth))] += float(rng.uniform(0.03, 0.08))
        # In whole ratios the pinion's turn cannot be told from a lobed gear: no pair of ours has one.
        if self.teeth % self.mate == 0 or self.mate % self.teeth == 0:
            self.mate += 1
        if is_sound(seed):
            self.off = self.pinion_off = 0.0
            self.own = 0.0 * self.own
        self.play = float(rng.uniform(0.0, 0.01))

    def geometric(self, tooth: float) -> float:
        """Lash at a tooth by the centres as they stand then, at the pitch circle."""
        nominal = self.module * (self.teeth + self.mate) / 2
        turn = 2 * math.pi * tooth / self.teeth
        centres = (
            nominal
            + self.spread
            + self.off * math.cos(turn - self.off_at)
            + self.pinion_off * math.cos(turn * self.teeth / self.mate)
        )
        worked = math.acos(nominal * math.cos(math.radians(20)) / centres)
        return 2 * centres * (inv(worked) - inv(math.radians(20))) + self.thin * centres / nominal

    def read(self, tooth: int) -> float:
        """What the indicator says."""
        value = self.geometric(tooth) + self.own[tooth] + float(self.rng.normal(0, 0.002))
        return max(0.0, round(value / STEP) * STEP)

    def truths(self) -> dict[str, float]:
        """Mean lash; what goes once a turn, most less least; the teeth's own spread."""
        every = np.array([self.geometric(k) for k in range(self.teeth)])
        turn = 2 * np.pi * np.arange(self.teeth) / self.teeth
        still = CutPairStill(self)
        alone = np.array([still.geometric(k) for k in range(self.teeth)])
        once = 2 / self.teeth * abs(np.sum((alone + self.own) * np.exp(1j * turn)))
        left = self.own - self.own.mean()
        v = 2 / self.teeth * np.sum(left * np.exp(1j * turn))
        left = left - (v * np.exp(-1j * turn)).real
        return {
            "lash": float((every + self.own).mean()),
            "runout": 2 * float(once),
            "own": float(np.ptp(left)),
        }

    def typed(self) -> TypedJob:
        """A job with every tooth read."""
        from trebb.logbook.log.entries import AssemblyAdded

        job = TypedJob("mill")
        job.record(AssemblyAdded(assembly="gear", label="Feed gear", family="gear", under="table"))
        job.state(
            "gear", teeth=float(self.teeth), mate_teeth=float(self.mate), name="m2 20 full", every="yes"
        )
        for k in range(self.teeth):
            job.read("gear", "gear_teeth", f"tooth {k + 1}", self.read(k))
        return job


class CutPairStill(CutPair):
    """The same pair with its pinion centred: what the gear alone makes."""

    def __init__(self, pair: CutPair) -> None:
        self.__dict__.update(pair.__dict__)
        self.pinion_off = 0.0


def score_gears(seeds: range, *, played: Played = all_of_it, score: Score | None = None) -> Score:
    """Lash, what goes once a turn, and the teeth's own differences of each."""
    score = score or Score()
    for seed in seeds:
        pair = CutPair(seed)
        case = played(pair.typed()).of("gear")
        truth = pair.truths()
        for m in case.figures:
            if m.key in truth:
                score.figure(m, truth[m.key])
    return score
