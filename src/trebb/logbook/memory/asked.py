"""The shop's memory as it is asked: what its jobs taught, how what was foretold came out, what may be found
again. Every figure knows where it comes from.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence

from msgspec import Struct, field

from trebb.core.memory.blending import CLEAR, Learned, Seen, Usual, cover, gain, learned, widening
from trebb.core.memory.taught import Taught
from trebb.logbook.log.entries import Entry
from trebb.logbook.memory.instrument_checks import Check, check_of
from trebb.logbook.memory.lessons import DELIVERIES, KINDS_OF_WORK
from trebb.logbook.memory.searching import asked_for
from trebb.logbook.memory.shop import InstrumentChecked, JobGiven, JobLeftOut, LessonKept, ThingKept

# Usual figures and how they differ: from shop to shop, and from job to job in one shop (practice).
USUAL: Mapping[str, Usual] = {
    "noise": Usual(0.0, 0.40, 0.15, is_ratio=True),
    "answer": Usual(0.80, 0.17, 0.10),
    "hours": Usual(math.log(1.15), 0.45, 0.20, is_ratio=True),
    "wait": Usual(math.log(1.05), 0.30, 0.20, is_ratio=True),
    "price": Usual(0.0, 0.30, 0.15, is_ratio=True),
}
TOPICS = {
    "noise": "How readings repeat",
    "answer": "How beds answer",
    "hours": "How long work takes",
    "wait": "How long deliveries take",
    "price": "What it costs",
    "wear": "What machines here are like",
}
WEAR_JOBS = 2  # machines below which a shop's own wear says nothing of the next
FEW_FORETOLD = 6
USUAL_PARTS_SD = 0.0015  # of an indicator's own, mm, that the usual noise holds already


class Known(Struct, frozen=True):
    """One figure: its topic, of what, in words, as it is now believed, and as usual."""

    topic: str
    of: str
    words: str
    now: Learned
    unit: str
    gain: float = 0.0

    @property
    def is_used(self) -> bool:
        """Whether the next job is foretold by it: only while it foretells better than the usual figure does,
        each job left out in turn.
        """
        return self.gain >= 0

    @property
    def source(self) -> str:
        """Where it comes from, in words; and that it is not used, where it foretells worse than the usual."""
        worse = "; shown and not used: left one job out, the usual figure foretells better"
        return self.now.source + ("" if self.is_used else worse)

    @property
    def usual_words(self) -> str:
        """The usual figure."""
        usual = self.now.usual
        return self._said(math.exp(usual.mean) if usual.is_ratio else usual.mean)

    @property
    def now_words(self) -> str:
        """As it is believed, with its ±."""
        half = (self.now.high - self.now.low) / 2
        return f"{self._said(self.now.value)} ± {self._said(half).removeprefix('× ')}"

    def _said(self, value: float) -> str:
        return (
            f"{value:.3f} mm"
            if self.unit == "mm"
            else f"× {value:.2f}"
            if self.unit == "×"
            else f"{value:.2f}"
        )


class GivenJob(Struct, frozen=True):
    """A job that taught something: when, how many lines, whether it counts."""

    given: JobGiven
    at: str
    lines: int
    is_out: bool


class Foretold(Struct, frozen=True):
    """What was foretold in one family, each as how many standard deviations it came out away."""

    family: str
    z: tuple[float, ...]

    @property
    def cover(self) -> float:
        """Share inside the 95 % interval."""
        return cover(self.z)

    @property
    def wider(self) -> float:
        """How many times wider what is foretold is made; 1 while too few came, or where it is right."""
        return widening(self.z) if len(self.z) >= FEW_FORETOLD else 1.0


class Memory(Struct):
    """The memory folded from its entries."""

    jobs: dict[str, GivenJob] = field(default_factory=dict)
    lessons: list[LessonKept] = field(default_factory=list)
    things: list[ThingKept] = field(default_factory=list)
    checks: list[tuple[str, Check]] = field(default_factory=list)

    def counted(self, without: Iterable[str] = ()) -> list[LessonKept]:
        """Lessons of the jobs that count."""
        out = {name for name, job in self.jobs.items() if job.is_out} | set(without)
        return [one for one in self.lessons if one.job not in out]

    def figures(self, without: Iterable[str] = ()) -> list[Known]:
        """Every figure that some job taught, by topic."""
        by: dict[tuple[str, str], list[LessonKept]] = {}
        for one in self.counted(without):
            if one.topic != "left":
                by.setdefault((one.topic, one.of), []).append(one)
        found = []
        for topic in TOPICS:
            for (kind, of), taught in sorted(by.items()):
                if kind == topic:
                    found.append(_known(topic, of, taught))
        return found

    def foretold(self, without: Iterable[str] = ()) -> list[Foretold]:
        """What was foretold, by family."""
        by: dict[str, list[float]] = {}
        for one in self.counted(without):
            if one.topic == "left":
                by.setdefault(one.of, []).append(one.value)
        return [Foretold(family, tuple(z)) for family, z in sorted(by.items())]

    def taught(self, without: Iterable[str] = ()) -> Taught:
        """All of it as the rest asks for it."""
        every = self.figures(without)
        known = [k for k in every if k.is_used]
        hours = {k.of: k.now.value for k in known if k.topic == "hours"}
        spreads = [k.now.next_sd for k in known if k.topic == "hours"]
        priors = {k.of: (k.now.mean, k.now.next_sd) for k in known if k.topic == "answer"}
        priors |= {
            k.of: (k.now.mean, k.now.next_sd) for k in known if k.topic == "wear" and k.now.jobs >= WEAR_JOBS
        }
        return Taught(
            noise={k.of: k.now.value for k in known if k.topic == "noise"},
            extra_mm=self._extra(),
            priors=priors,
            widen={f.family: f.wider for f in self.foretold(without) if f.wider > 1},
            hours=hours,
            waits={k.of: k.now.value for k in known if k.topic == "wait"},
            hours_spread=max(spreads) if spreads else None,
            sources={f"{k.topic}/{k.of}": k.source for k in every},
            prices=next((k.now.value for k in known if k.topic == "price"), 1.0),
        )

    def _extra(self) -> dict[str, float]:
        """What the instrument of each kind that was checked last adds to a reading."""
        newest: dict[str, Check] = {}
        for _, check in self.checks:
            newest[check.kind] = check
        found = {}
        for kind, check in newest.items():
            beyond = check.reading_sd_mm**2 - USUAL_PARTS_SD**2
            if beyond > 0:
                found[kind] = math.sqrt(beyond)
        return found

    def search(self, text: str) -> list[tuple[ThingKept, GivenJob | None]]:
        """Things with all of what a text asks for in them, or in their job's machine: words, and sizes in any
        unit; newest first.
        """
        asked = asked_for(text)
        if not asked.words and not asked.sizes:
            return []
        found = []
        for thing in reversed(self.things):
            job = self.jobs.get(thing.job)
            machine = f"{job.given.machine} {job.given.machine_kind}" if job else ""
            facts = " ".join(f"{k} {v}" for k, v in thing.facts.items())
            if asked.finds(f"{thing.what} {thing.words} {thing.of} {machine} {facts}", thing.facts):
                found.append((thing, job))
        return found


def _known(topic: str, of: str, taught: Sequence[LessonKept]) -> Known:
    seen = [Seen(one.job, one.value, one.sd) for one in taught]
    if topic == "wear":
        from trebb.logbook.memory.usual_wear import usual_wear

        usual = usual_wear(of)
        words = f"{taught[-1].words or of}, {of.split('/')[0]}"
        return Known(topic, of, words, learned(usual, seen), "mm", gain(usual, seen))
    words = {
        "noise": of,
        "answer": "a bed to a shim under its foot",
        "hours": KINDS_OF_WORK.get(of, of),
        "wait": DELIVERIES.get(of, of),
        "price": "remedies, paid against planned",
    }[topic]
    unit = "" if topic == "answer" else "×"
    return Known(topic, of, words, learned(USUAL[topic], seen), unit, gain(USUAL[topic], seen))


def memory_of(entries: Sequence[Entry]) -> Memory:
    """The memory from its entries: of a job that gave twice, what it gave last."""
    found = Memory()
    newest: dict[str, int] = {}
    out: dict[str, bool] = {}
    for e in entries:
        if isinstance(e.body, JobGiven):
            newest[e.body.job] = e.gesture
        elif isinstance(e.body, JobLeftOut):
            out[e.body.job] = e.body.out
    for e in entries:
        match e.body:
            case JobGiven() as given if newest[given.job] == e.gesture:
                found.jobs[given.job] = GivenJob(given, e.at, 0, out.get(given.job, False))
            case LessonKept() as lesson if newest.get(lesson.job) == e.gesture:
                found.lessons.append(lesson)
            case ThingKept() as thing if newest.get(thing.job) == e.gesture:
                found.things.append(thing)
            case InstrumentChecked() as checked:
                if checked.up and checked.down:  # another program may have written one without readings
                    found.checks.append((e.at, check_of(checked)))
    counts: dict[str, int] = {}
    for job in [*(x.job for x in found.lessons), *(x.job for x in found.things)]:
        counts[job] = counts.get(job, 0) + 1
    found.jobs = {
        name: GivenJob(one.given, one.at, counts.get(name, 0), one.is_out) for name, one in found.jobs.items()
    }
    return found


__all__ = ["CLEAR", "TOPICS", "USUAL", "Foretold", "GivenJob", "Known", "Memory", "memory_of"]
