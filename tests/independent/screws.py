"""Feed screws with worn threads: nuts that tip, floats that differ by direction, wear in one place."""

from __future__ import annotations

import math

import numpy as np

from tests.independent.instruments import is_sound
from tests.independent.job import TypedJob
from tests.independent.scores import Played, Score, all_of_it

THOU = 0.0254
TRAVEL, NUT, PITCH, DIVISION, WIRE = 203.2, 38.1, 25.4 / 8, 25.4 / 8 / 125, 1.635
STATIONS = [TRAVEL * (2 * k - 1) / 10 for k in range(1, 6)]


class Screw:
    """One cross slide: what is worn, and what its instruments and its fitter do."""

    def __init__(self, seed: int) -> None:
        rng = self.rng = np.random.default_rng(seed)
        self.nut = float(np.exp(rng.normal(math.log(0.12), 0.9)))
        self.float = float(np.exp(rng.normal(math.log(0.07), 1.0)))
        self.turned = self.float * float(rng.uniform(0.85, 1.12))  # it is another when turned than pushed
        self.key = float(abs(rng.normal(0.0, 0.03)))
        self.tip = float(abs(rng.normal(0.0, 0.015)))
        self.give = float(rng.uniform(0.0, 0.012))
        depth = float(np.exp(rng.normal(math.log(0.12), 0.8)))
        self.bumps = [
            (float(rng.uniform(0.1, 0.8)) * TRAVEL, float(rng.uniform(25, 80)), depth),
            (
                float(rng.uniform(0.0, 1.0)) * TRAVEL,
                float(rng.uniform(40, 120)),
                depth * float(rng.uniform(0, 0.4)),
            ),
        ]
        if is_sound(seed):
            self.nut, self.float, self.key, self.tip = 0.02, 0.005, 0.0, 0.0
            self.turned, self.bumps = self.float, []
        self.unworn = 17.2 + float(rng.normal(0.0, 0.05))

    def wear(self, way: float) -> float:
        """Play worn off the thread at a way along the travel."""
        return sum(d * math.exp(-0.5 * ((way - at) / wide) ** 2) for at, wide, d in self.bumps)

    def under_nut(self, way: float) -> float:
        """Mean wear under the nut."""
        ways = np.linspace(max(0.0, way - NUT / 2), min(TRAVEL, way + NUT / 2), 31)
        return float(np.mean([self.wear(w) for w in ways]))

    def lash(self, way: float) -> float:
        """What the hand loses at the wheel."""
        return self.nut + self.under_nut(way) + self.turned + self.key + 0.4 * self.tip

    def indicator(self, value: float, sd: float, count: int, step: float = 0.1 * THOU) -> list[float]:
        """Repeats on an indicator; now and then one slips by a turn of its hand."""
        found = [
            max(0.0, round((value + sd * self.rng.standard_normal()) / step) * step) for _ in range(count)
        ]
        if count > 2 and self.rng.random() < 0.02:
            found[int(self.rng.integers(count))] += 0.5
        return found

    def type_all(self, job: TypedJob, only: tuple[str, ...] = ()) -> TypedJob:
        """Every set-up, or some, as its readings come."""
        for k, way in enumerate(STATIONS, start=1):
            if not only or "lash" in only:
                felt = [
                    max(0.0, round((self.lash(way) / DIVISION + 0.6 * self.rng.standard_normal()) * 2) / 2)
                    for _ in range(2)
                ]
                job.read("cross_slide", "lash", f"station {k}", *felt, unit="div")
            if not only or "push_pull" in only:
                play = self.nut + self.under_nut(way) + self.float + self.tip + self.give
                job.read("cross_slide", "push_pull", f"station {k}", *self.indicator(play, 0.007, 2))
        if not only or "end_float" in only:
            job.read("cross_slide", "end_float", "collar", *self.indicator(self.float, 0.005, 3))
        if not only or "thread_size" in only:
            slope = math.tan(math.radians(14.5))
            over = 1 + 1 / math.sin(math.radians(14.5))
            for place, wear in (
                ("wires, unworn", 0.0),
                *((f"wires, station {k}", self.wear(w)) for k, w in enumerate(STATIONS, start=1)),
            ):
                size = self.unworn - wear / slope + over * WIRE - PITCH / 2 / slope
                size += 0.005 * self.rng.standard_normal()
                job.read("cross_slide", "thread_size", place, round(size / 0.00254) * 0.00254)
        return job


def facts(job: TypedJob) -> TypedJob:
    """What the shop states of the slide."""
    return job.state(
        "cross_slide",
        form="Acme",
        major_mm=19.05,
        pitch_mm=PITCH,
        starts=1.0,
        hand="left",
        divisions=125.0,
        reads="radius",
        travel_mm=TRAVEL,
        nut_length_mm=NUT,
        wire_mm=WIRE,
    )


def score_screws(
    seeds: range, *, only: tuple[str, ...] = (), played: Played = all_of_it, score: Score | None = None
) -> Score:
    """Screws read whole, or by some set-ups only."""
    score = score or Score()
    for seed in seeds:
        screw = Screw(seed)
        case = played(screw.type_all(facts(TypedJob()), only)).of("cross_slide")
        truth = max(screw.lash(w) for w in STATIONS)
        lash = next((m for m in case.figures if m.key == "lash"), None)
        if lash is not None:
            score.figure(lash, truth)
        told = case.split.told
        at = case.split.most_worn.station
        true = {
            "nut": screw.nut,
            "screw": screw.wear(STATIONS[at - 1]),
            "float": screw.float,
            "key": screw.key,
        }
        for key, q in told.items():
            score.interval(q, true[key])
        if {"nut", "screw", "float"} <= set(told):
            found = max(("nut", "screw", "float"), key=lambda k: told[k].value)
            others = [true[k] for k in ("nut", "screw", "float") if k != found]
            if told[found].low > max(told[k].high for k in ("nut", "screw", "float") if k != found):
                score.count("cause", true[found] >= max(others))
    return score
