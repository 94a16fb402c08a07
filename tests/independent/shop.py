"""A shop that is not the usual one: its indicators repeat twice as badly, its beds answer half as much, its
work takes longer. Jobs are typed in raw figures; the memory learns from them as from any job.
"""

from __future__ import annotations

import datetime
import math
from dataclasses import dataclass, field

import numpy as np

from tests.independent.beds import FAR_LAND, NEAR_LAND, Lathe
from tests.independent.job import TypedJob
from trebb.core.memory.taught import USUAL, Taught
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import Entry, MatterStated, RemedyChosen, StepDone
from trebb.logbook.memory.asked import Memory, memory_of
from trebb.logbook.memory.lessons import lessons
from trebb.logbook.memory.shop import JobGiven
from trebb.logbook.plan.job_tasks import told_of
from trebb.logbook.plan.task_gathering import gather
from trebb.logbook.plan.work import PLAN

NOISY, ANSWER, SLOW = 2.0, 0.4, 1.7
ROCK_SD, STEP = 0.004, 0.00254
ALONG_MM, ACROSS_MM = 1100.0, 320.0
NOW = datetime.datetime(2026, 3, 1, 12, tzinfo=datetime.UTC)


class ShopJob(TypedJob):
    """A lathe's saddle on its gib and its feet, in that shop."""

    def __init__(self, seed: int, taught: Taught = USUAL) -> None:
        super().__init__()
        self.cases = Cases(self.job, taught)
        self.rng = np.random.default_rng(50_000 + seed)
        thin = float(self.rng.uniform(0.06, 0.14))
        self.gap = {"thin": thin, "thick": thin + float(self.rng.normal(0, 0.01))}
        self.worn = dict(zip(("left", "mid", "right"), self.rng.uniform(0, 0.012, 3), strict=True))
        self.answer = ANSWER + float(self.rng.normal(0, 0.04))

    def indicator(self, value: float, count: int = 3) -> list[float]:
        """Repeats by that shop's indicator."""
        sd = NOISY * ROCK_SD
        drawn = value + sd * self.rng.standard_normal(count)
        return [max(0.0, round(float(v) / STEP) * STEP) for v in drawn]

    def rock(self, phase: str) -> None:
        """The saddle rocked at three places and both ends."""
        for spot, worn in self.worn.items():
            for end, gap in self.gap.items():
                self.read("saddle", "rock", f"{spot}, {end} end", *self.indicator(gap + worn), phase=phase)

    def mended(self) -> list[tuple[float, float, float]]:
        """Tightened until its tightest place runs, and rocked again: foretold, its half width, what came."""
        self.rock("before")
        self.state("saddle", home="yes")
        self.record(RemedyChosen("saddle", "tighten", ""))
        tightest = min(self.gap.values()) + min(self.worn.values())
        closed = tightest - 0.015 + float(self.rng.normal(0, 0.002))
        self.gap = {end: gap - closed for end, gap in self.gap.items()}
        self.rock("after")
        rows = self.of("saddle").comparisons()
        return [(r.predicted_mm, r.predicted_half_mm, r.after_mm) for r in rows if r.predicted_mm is not None]

    def shimmed(self, seed: int) -> None:
        """Two trial shims under the feet, each with its cut."""
        lathe = Lathe(seed)
        self.state("ways", stub_mm=lathe.stub)

        def cut(set_up: str, name: str) -> None:
            near, far = lathe.give(NEAR_LAND), lathe.taper() + lathe.give(FAR_LAND)
            for land, size in (("near land", near), ("far land", far)):
                self.read("headstock", set_up, f"{name}, {land}", *lathe.micrometer(lathe.stub + size))

        cut("two_collar", "cut")
        for i, (foot, sign) in enumerate((("tail_rear", 1.0), ("tail_rear", 1.0)), start=1):
            self.state("ways", **{f"shim.{i}": f"{foot} 0.40"})
            lathe.twist += sign * self.answer * 0.40 / ACROSS_MM * 1000
            cut("trials", f"trial {i}")

    def worked(self) -> tuple[float, float]:
        """Every task of the plan done, in that shop's time: hours planned by the book, and spent."""
        planned = spent = 0.0
        for w in told_of(self.cases, gather(self.cases), NOW):
            if w.task.waits or w.planned <= 0:
                continue
            took = w.planned * SLOW * math.exp(float(self.rng.normal(0, 0.15)))
            if self.cases.taught.hours:  # planned as this shop takes it: back to what the book said
                took = w.planned / self.cases.taught.hours.get(w.kind, 1.0) * SLOW
            planned, spent = planned + w.planned, spent + took
            self.record(MatterStated("task", w.task.key, "spent", took))
            self.record(StepDone(PLAN, w.task.key, done=True))
        return planned, spent


@dataclass
class Outcome:
    """Figures foretold and what came, as share inside; hours foretold over hours spent; a bed's answer."""

    inside: list[bool] = field(default_factory=list)
    hours: list[float] = field(default_factory=list)
    answers: list[bool] = field(default_factory=list)

    @property
    def cover(self) -> float:
        """Share of figures inside their 95 %."""
        return float(np.mean(self.inside))


def years_of(count: int) -> Memory:
    """The memory of so many jobs of that shop."""
    entries: list[Entry] = []
    for seed in range(count):
        job = ShopJob(seed)
        job.mended()
        job.shimmed(seed)
        job.worked()
        name = f"job {seed}"
        bodies = [JobGiven(job=name, machine=f"Lathe {seed}", machine_kind="lathe")]
        bodies += [line.lesson for line in lessons(name, job.job, NOW) if line.lesson is not None]
        first = len(entries) + 1
        entries += [Entry(first + i, "2026-01-01T00:00:00Z", first, body) for i, body in enumerate(bodies)]
    return memory_of(entries)


def foretold(seeds: range, taught: Taught) -> Outcome:
    """New jobs of that shop, as they are foretold with what was taught."""
    found = Outcome()
    for seed in seeds:
        job = ShopJob(seed, taught)
        for predicted, half, came in job.mended():
            found.inside.append(abs(came - predicted) <= half)
        q = job.of("ways").before_any.source("answer")
        found.answers.append(q.low <= job.answer <= q.high)
        planned, spent = job.worked()
        found.hours.append(planned / spent)
    return found
