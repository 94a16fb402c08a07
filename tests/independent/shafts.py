"""Bent shafts with journals that are not round, turned in V-blocks: what an indicator on top of them reads.

Each journal is a lobed disc resting on two planes, so that its middle moves as
it turns; the shaft between and beyond them follows. Nothing of it is taken
from Trebb.
"""

from __future__ import annotations

import cmath
import math

import numpy as np

from tests.independent.instruments import is_sound
from tests.independent.job import TypedJob
from tests.independent.scores import Played, Score, all_of_it

LENGTH, A, B = 240.0, 45.0, 175.0
STATIONS = (10.0, 60.0, 90.0, 110.0, 140.0, 200.0, 230.0)
ANGLES = [45.0 * i for i in range(8)]
STEP = 0.01


class BentShaft:
    """A shaft: kinked or bowed or straight, its journals oval and lobed, its finish rough."""

    def __init__(self, seed: int) -> None:
        rng = self.rng = np.random.default_rng(seed)
        self.kind = ("kink", "bow", "straight")[int(rng.integers(3))]
        self.toward = cmath.exp(1j * float(rng.uniform(0, 2 * math.pi)))
        size = float(np.exp(rng.normal(math.log(0.06), 1.0)))
        self.size = size if self.kind != "straight" else 0.004 * float(rng.random())
        self.knee = float(rng.uniform(70.0, 150.0))
        self.lobes = {
            at: [(n, float(abs(rng.normal(0, 0.004))), float(rng.uniform(0, 6.3))) for n in (2, 3)]
            for at in (A, B, *STATIONS)
        }
        self.zero = float(rng.uniform(-0.3, 0.3))
        if is_sound(seed):
            self.kind, self.size = "straight", 0.0
            self.lobes = {at: [] for at in self.lobes}

    def _raw(self, z: float) -> float:
        if self.kind == "kink":
            return max(0.0, z - self.knee)
        return -((z - LENGTH / 2) ** 2)

    def off(self, z: float) -> complex:
        """Where the middle is, off the line through the journals."""
        line = self._raw(A) + (self._raw(B) - self._raw(A)) * (z - A) / (B - A)
        scale = max(
            abs(self._raw(s) - (self._raw(A) + (self._raw(B) - self._raw(A)) * (s - A) / (B - A)))
            for s in STATIONS
        )
        return self.size * (self._raw(z) - line) / scale * self.toward

    def _lobed(self, at: float, angle: float) -> float:
        """How much larger than its mean the radius is there."""
        return sum(a * math.cos(n * angle + p) for n, a, p in self.lobes[at])

    def _rides(self, at: float, turned: float) -> float:
        """How high a journal's middle rides in a V of 90°, its mark at that angle from the top."""
        left, right = (self._lobed(at, turned + way * 3 * math.pi / 4) for way in (1, -1))
        return (left + right) / (2 * math.cos(math.pi / 4))

    def reads(self, z: float, degrees: float) -> float:
        """An indicator on top, its mark at that angle under it."""
        t = math.radians(degrees)
        share = (z - A) / (B - A)
        ride = self._rides(A, t) * (1 - share) + self._rides(B, t) * share
        value = (self.off(z) * cmath.exp(-1j * t)).real + ride + self._lobed(z, t) + self.zero
        return round((value + 0.002 * float(self.rng.standard_normal())) / STEP) * STEP

    @property
    def tir(self) -> float:
        """Twice the largest distance of the middle from the journals' line."""
        return 2 * max(abs(self.off(z)) for z in STATIONS)

    def typed(self) -> TypedJob:
        """A job with every reading."""
        job = TypedJob()
        from trebb.logbook.log.entries import AssemblyAdded

        job.record(AssemblyAdded(assembly="bar", label="Feed shaft", family="shaft", under="apron"))
        job.state(
            "bar", length_mm=LENGTH, a_mm=A, b_mm=B, at_mm=" ".join(f"{z:g}" for z in STATIONS), dia_mm=18.0
        )
        for z in STATIONS:
            for angle in ANGLES:
                job.read("bar", "shaft_turn", f"{z:g} mm, {angle:g}°", self.reads(z, angle))
        return job


def score_shafts(seeds: range, *, played: Played = all_of_it, score: Score | None = None) -> Score:
    """The bend of each, and whether kink and bow are told apart where either is said."""
    score = score or Score()
    for seed in seeds:
        shaft = BentShaft(seed)
        case = played(shaft.typed()).of("bar")
        bend = next(m for m in case.figures if m.key == "bend")
        score.figure(bend, shaft.tir)
        shape = case.bend("before").shape
        if bend.state.name == "BEYOND" and shape in ("kink", "curve"):
            score.count("cause", shape == {"kink": "kink", "bow": "curve"}.get(shaft.kind))
    return score
