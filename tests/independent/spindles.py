"""Lathe spindles on a bench: bent bars, chips at a seating, indicators that drift, lean and read in steps."""

from __future__ import annotations

import cmath
import math

import numpy as np

from tests.independent.instruments import is_sound
from tests.independent.job import TypedJob
from tests.independent.scores import Played, Score, all_of_it

ANGLES = tuple(range(0, 360, 45))
NEAR, FAR, MOUTH, DEEP, WORK = 12.7, 254.0, -5.0, -70.0, 254.0
FACE_RADIUS, SEAT_LENGTH, PULL = 38.0, 90.0, 178.0
MARKS = (0, 0, 180, 90)
STEP = 0.00254
# What a scattered seat adds to runout on the mean: twice the mean length of a vector of unit sd an axis.
SEAT_TIR = 2 * math.sqrt(math.pi / 2)


class SpindleAtBench:
    """What is wrong with it, and how it is read. Vectors in mm, complex; leans in mm for 100 mm."""

    def __init__(self, seed: int) -> None:
        rng = self.rng = np.random.default_rng(10_000 + seed)

        def vector(size: float) -> complex:
            return complex(*(size * rng.standard_normal(2)))

        worse = float(np.exp(rng.normal(0.0, 0.8)))
        self.bearing, self.bearing_lean = vector(0.003 * worse), vector(0.0012 * worse)
        self.register, self.face = vector(0.002), vector(0.003)
        taper = float(np.exp(rng.normal(0.0, 1.0)))
        self.taper, self.taper_lean = vector(0.005 * taper), vector(0.003 * taper)
        bent = rng.random() < 0.25
        lean = float(rng.uniform(0.010, 0.040)) / (FAR / 100) if bent else 0.003
        self.bar = vector(0.002)
        self.bar_lean = cmath.rect(lean, float(rng.uniform(0, 2 * math.pi))) if bent else vector(lean)
        self.seat = float(rng.choice([0.0003, 0.0008, 0.0012, 0.006, 0.012]))
        self.chip = int(rng.integers(1, 5)) if self.seat < 0.001 and rng.random() < 0.25 else 0
        self.slack = float(np.exp(rng.normal(math.log(0.006), 1.1)))
        self.flex = float(rng.uniform(0.01, 0.06))
        self.float = float(np.exp(rng.normal(math.log(0.006), 1.0)))
        self.lobes = [float(abs(rng.normal(0, 0.0006))), float(abs(rng.normal(0, 0.0006)))]
        self.phases = rng.uniform(0, 2 * math.pi, 2)
        if is_sound(seed):
            self.bearing = self.bearing_lean = self.taper = self.taper_lean = 0j
            self.seat, self.chip, self.slack, self.float = 0.0003, 0, 0.001, 0.002
        self.cosine = 1 - float(rng.uniform(0.0, 0.03))  # the lever stands a little aslant

    def turn(self, vector: complex, noise: float = 0.0012) -> list[float]:
        """Readings round a turn: zeroed anywhere, drifting, in steps."""
        zero, drift = 0.02 * self.rng.standard_normal(), 0.0015 * self.rng.standard_normal()
        found = []
        for i, degrees in enumerate(ANGLES):
            t = math.radians(degrees)
            value = vector.real * math.cos(t) + vector.imag * math.sin(t)
            value += self.lobes[0] * math.cos(2 * t - self.phases[0])
            value += self.lobes[1] * math.cos(3 * t - self.phases[1])
            value = self.cosine * value + zero + drift * i / len(ANGLES) + noise * self.rng.standard_normal()
            found.append(round(value / STEP) * STEP)
        return found

    def type_turn(
        self, job: TypedJob, set_up: str, plane: str, vector: complex, noise: float = 0.0012
    ) -> None:
        """A turn at its places."""
        for degrees, value in zip(ANGLES, self.turn(vector, noise), strict=True):
            job.read("spindle", set_up, f"{plane}, {degrees}°", value)

    def seating(self, number: int) -> tuple[complex, complex]:
        """Shift at the mouth and tilt that a seating gives the bar."""
        shift, tilt = (complex(*(self.seat * self.rng.standard_normal(2))) for _ in range(2))
        if number == self.chip:
            shift += cmath.rect(0.012, float(self.rng.uniform(0, 2 * math.pi)))
            tilt += cmath.rect(0.012, float(self.rng.uniform(0, 2 * math.pi)))
        return shift, tilt

    def type_all(self, job: TypedJob, only: tuple[str, ...] = (), seatings: int = 4) -> TypedJob:
        """Every set-up, or some."""

        def wanted(name: str) -> bool:
            return not only or name in only

        if wanted("nose"):
            self.type_turn(job, "nose", "register", self.bearing + self.register)
            self.type_turn(job, "nose", "face", (self.bearing_lean + self.face) * FACE_RADIUS / 100)
        if wanted("taper_bore"):
            for plane, z in (("mouth", MOUTH), ("deep", DEEP)):
                at = self.bearing + self.taper + (self.bearing_lean + self.taper_lean) * z / 100
                self.type_turn(job, "taper_bore", plane, at, 0.002)
        if wanted("test_bar"):
            for i, mark in enumerate(MARKS[:seatings], start=1):
                shift, tilt = self.seating(i)
                turned = cmath.rect(1, math.radians(mark))
                for plane, z in (("near", NEAR), ("far", FAR)):
                    at = self.bearing + self.taper + (self.bearing_lean + self.taper_lean) * z / 100
                    at += turned * (self.bar + self.bar_lean * z / 100) + shift + tilt * z / SEAT_LENGTH
                    self.type_turn(job, "test_bar", f"seat {i} at {mark}°, {plane}", at)
        if wanted("push_test"):
            for words, share in (
                ("pulled full", -1.0), ("pulled half", -0.5), ("pushed half", 0.5), ("pushed full", 1.0)
            ):  # fmt: skip
                value = math.copysign(self.slack / 2, share) + self.flex * share * PULL / 1000
                taken = [round((value + 0.0016 * self.rng.standard_normal()) / STEP) * STEP for _ in range(2)]
                job.read("spindle", "push_test", f"nose, {words}", *taken)
        if wanted("spindle_float"):
            taken = [
                max(0.0, round((self.float + 0.002 * self.rng.standard_normal()) / STEP) * STEP)
                for _ in range(3)
            ]
            job.read("spindle", "spindle_float", "nose face", *taken)
        return job

    def causes(self) -> dict[str, float]:
        """What each link adds at the work, runout or play."""
        z = WORK / 100
        return {
            "bearings": 2 * abs(self.bearing + self.bearing_lean * z),
            "taper": 2 * abs(self.taper + self.taper_lean * z),
            "slack": self.slack,
            "seat": self.seat_tir(),
            "bar": 2 * abs(self.bar + self.bar_lean * z),
        }

    def seat_tir(self) -> float:
        """What a seating typically adds at the work."""
        return SEAT_TIR * math.hypot(1, WORK / SEAT_LENGTH) * self.seat

    def runout(self) -> float:
        """What turns with the spindle at the work."""
        z = WORK / 100
        return 2 * abs(self.bearing + self.taper + (self.bearing_lean + self.taper_lean) * z)


def score_spindles(
    seeds: range,
    *,
    only: tuple[str, ...] = (),
    seatings: int = 4,
    played: Played = all_of_it,
    score: Score | None = None,
) -> Score:
    """Spindles read whole, or in part."""
    score = score or Score()
    for seed in seeds:
        spindle = SpindleAtBench(seed)
        case = played(spindle.type_all(TypedJob(), only, seatings)).of("spindle")
        read = len({p.place.split(",")[0] for p in case.job.standing("spindle", "test_bar")})
        true = {
            "work": spindle.runout() + spindle.slack + spindle.seat_tir(),
            "slack": spindle.slack,
            "seat": spindle.seat_tir(),
            "float": spindle.float,
        }
        for m in case.figures:
            if m.key in ("seat", "work") and 0 < spindle.chip <= read < 4:
                continue  # with a chip among so few, what a seating typically adds is nobody's to say
            if m.key in true:
                score.figure(m, true[m.key])
        split, causes = case.split, spindle.causes()
        said = [k for k in split.named if k in causes]
        if said and split.trusts_seat:
            score.count("cause", any(causes[k] > 0.6 * max(causes.values()) for k in said))
        if not 0 < spindle.chip <= read:  # a chip among those read does not repeat: that is said rightly
            sound = spindle.seat_tir() <= case.job.limit("seat_repeat").limit_mm
            if sound:
                score.count("false alarm", "test_bar" in case.distrusted("before"))
    return score
