"""Lathes on their feet: twisted, worn near the chuck, their headstocks aside; stubs that spring under the
tool; tailstocks that stand off.
"""

from __future__ import annotations

import math

import numpy as np

from tests.independent.instruments import is_sound
from tests.independent.job import TypedJob
from tests.independent.scores import Played, Score, all_of_it

BASE, STEPS, GAUGE, CENTRE, TOOL, ALONG, NOSE = 152.4, 8, 180.0, 190.0, 620.0, 1100.0, 60.0
NEAR_LAND, FAR_LAND, CENTRES = 25.0, 275.0, 700.0


class Lathe:
    """A bed with its headstock and tailstock. mm and mrad; + toward the front and larger."""

    def __init__(self, seed: int) -> None:
        rng = self.rng = np.random.default_rng(20_000 + seed)
        self.twist = float(rng.standard_t(3) * 0.15)
        self.yaw = float(rng.standard_t(3) * 0.04)
        depth = float(np.exp(rng.normal(math.log(0.03), 0.9)))
        at, wide = float(rng.uniform(150, 450)), float(rng.uniform(120, 260))
        stations = np.arange(STEPS + 1) * BASE
        self.front = depth * np.exp(-0.5 * ((stations - at) / wide) ** 2)
        self.rear = float(rng.uniform(0.1, 0.8)) * self.front
        self.side = np.cumsum(rng.normal(0, 0.0025, STEPS + 1))
        self.side -= np.linspace(self.side[0], self.side[-1], STEPS + 1)
        if is_sound(seed):
            self.twist = self.yaw = 0.0
            self.front, self.rear = 0.0 * self.front, 0.0 * self.rear
        self.force = float(rng.uniform(4.0, 16.0))
        self.stub = float(rng.choice([30.0, 38.0, 50.0]))
        self.tail = float(rng.normal(0, 0.05))
        self.wander = float(rng.choice([0.002, 0.004, 0.015]))

    def _at(self, profile: np.ndarray, x: float | np.ndarray) -> np.ndarray:
        return np.interp(x, np.arange(STEPS + 1) * BASE, profile)

    def roll(self, x: float) -> float:
        """Roll of a carriage, mrad, + to the front."""
        return self.twist * x / ALONG + 1000 * (self._at(self.front, x) - self._at(self.rear, x)) / GAUGE

    def tool_out(self, x: float) -> float:
        """How far the tool stands to the front, mm."""
        wear = CENTRE * (self._at(self.front, x) - self._at(self.rear, x)) / GAUGE
        return TOOL * self.twist * x / ALONG / 1000 + wear + self._at(self.side, x)

    def taper(self) -> float:
        """Diameter at the far land less the near one, the stub rigid."""
        path = self.tool_out(NOSE + FAR_LAND) - self.tool_out(NOSE + NEAR_LAND)
        return 2 * path + 2 * self.yaw * (FAR_LAND - NEAR_LAND) / 1000

    def give(self, at: float) -> float:
        """What a land comes out larger for the stub giving way."""
        return 2 * self.force * at**3 / (3 * 205_000 * math.pi * self.stub**4 / 64)

    def set_over(self) -> float:
        """How far the tailstock stands off for a piece between centres, + to the rear."""
        return self.tool_out(NOSE + CENTRES) - self.tool_out(NOSE) + self.tail

    def micrometer(self, size: float, count: int = 3) -> list[float]:
        """Sizes of a land."""
        return [round((size + 0.0016 * self.rng.standard_normal()) / 0.00254) * 0.00254 for _ in range(count)]

    def type_all(self, job: TypedJob, only: tuple[str, ...] = ()) -> TypedJob:
        """The set-ups that tell taper, twist and tailstock."""

        def wanted(name: str) -> bool:
            return not only or name in only

        if wanted("two_collar"):
            job.state("ways", stub_mm=self.stub)
            job.read(
                "headstock",
                "two_collar",
                "cut, near land",
                *self.micrometer(self.stub + self.give(NEAR_LAND)),
            )
            far = self.stub + self.taper() + self.give(FAR_LAND)
            job.read("headstock", "two_collar", "cut, far land", *self.micrometer(far))
        if wanted("level_across"):
            zero = float(self.rng.normal(0, 0.2))
            for k in range(STEPS + 1):
                taken = [
                    round((self.roll(k * BASE) + zero + 0.008 * self.rng.standard_normal()) / 0.002) * 0.002
                    for _ in range(2)
                ]
                job.read("ways", "level_across", f"across, station {k}", *taken, unit="mm/m")
        if wanted("ridge"):
            for way, worn in (("front", self.front), ("rear", self.rear)):
                for k in range(STEPS + 1):
                    value = max(0.0, round((worn[k] + 0.004 * self.rng.standard_normal()) / 0.01) * 0.01)
                    job.read("ways", "ridge", f"{way} way, station {k}", value)
        if "reference_bar" in only:
            laid, slope = 0.02 * self.rng.standard_normal(), 0.03 * self.rng.standard_normal()
            for k in range(STEPS + 1):
                at = laid + slope * k / STEPS - self.tool_out(k * BASE)
                taken = [
                    round((at + 0.0015 * self.rng.standard_normal()) / 0.00254) * 0.00254 for _ in range(2)
                ]
                job.read("ways", "reference_bar", f"side, station {k}", *taken)
        if "centres" in only:
            aside = self.tool_out(NOSE + CENTRES) - self.tool_out(NOSE) + self.tail
            for state in ("loose", "tight 1", "tight 2", "tight 3", "tight 4", "after use"):
                landed = -aside - self.wander * self.rng.standard_normal()
                noise = 0.0015 * self.rng.standard_normal(2)
                taken = [round((landed + n) / 0.00254) * 0.00254 for n in noise]
                job.read("tailstock", "centres", f"{state}, front", *taken)
        if wanted("long_piece"):
            size = 32.0
            job.read("tailstock", "long_piece", "long piece, near land", *self.micrometer(size))
            landed = 2 * (self.set_over() + self.wander * self.rng.standard_normal())
            job.read("tailstock", "long_piece", "long piece, far land", *self.micrometer(size + landed))
        return job


def score_beds(
    seeds: range, *, only: tuple[str, ...] = (), played: Played = all_of_it, score: Score | None = None
) -> Score:
    """Lathes read whole, or in part."""
    score = score or Score()
    for seed in seeds:
        lathe = Lathe(seed)
        job = played(lathe.type_all(TypedJob(), only))
        length = STEPS * BASE
        true = {
            "taper": abs(lathe.taper()) * 300 / (FAR_LAND - NEAR_LAND),
            "twist": abs(lathe.roll(length) - lathe.roll(0.0)) * 1000 / length,
            "way_wear": float(max(lathe.front.max(), lathe.rear.max())),
            "tail_side": abs(lathe.set_over()),
        }
        for assembly in ("headstock", "ways", "tailstock"):
            for m in job.of(assembly).figures:
                if m.key in true:
                    score.figure(m, true[m.key])
        said = " ".join(f.next_move for f in job.of("headstock").findings(_metric()))
        head = 2 * lathe.yaw * 300 / 1000
        bed = true_signed(lathe) - head
        if "the bed stands well" in said:
            score.count("cause", abs(head) > abs(bed))
        elif "shim the feet" in said:
            score.count("cause", abs(bed) > abs(head))
    return score


def true_signed(lathe: Lathe) -> float:
    """The taper in 300 mm with its sign."""
    return lathe.taper() * 300 / (FAR_LAND - NEAR_LAND)


def _metric():
    from trebb.core.units import UnitSystem

    return UnitSystem.METRIC
