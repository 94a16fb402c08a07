"""What lathes, heads and spindles make of work, and whether the repairs that are called enough are: the same
machines, their work by geometry, mended as a fitter would.
"""

from __future__ import annotations

import copy
import math
from collections.abc import Iterable

import numpy as np

from tests.independent.beds import BASE, CENTRE, CENTRES, FAR_LAND, GAUGE, NEAR_LAND, NOSE, STEPS, Lathe
from tests.independent.heads import Head
from tests.independent.job import TypedJob
from tests.independent.rigid import leaning
from tests.independent.spindles import SpindleAtBench
from trebb.logbook.log.entries import MatterStated, ReadingTaken
from trebb.logbook.plan.made_work import SURE, MadeWork, made_work
from trebb.logbook.plan.work_first import choices_asked, read_to_choose

JAWS = 25.0
# Work of a worn lathe: held, length, what its diameter may vary by, mm.
PIECES = {
    "journal": ("chuck", 60.0, 0.010),
    "bush": ("chuck", 150.0, 0.020),
    "shaft": ("centres", 500.0, 0.030),
}
CUT, LEVELLED, SCRAPED, SET = 0.004, 0.020, 0.003, 0.004
NEW_KEY = 0.003  # what a tailstock lands within on a key that fits (practice)


def profile(lathe: Lathe, held: str, length: float) -> float:
    """Largest less smallest diameter along a piece, by where the tool goes and the axis lies."""
    begin = 0.0 if held == "centres" else JAWS
    at = np.linspace(begin, begin + length, 201)
    out = lathe.tool_out(NOSE + at)
    dia = 2 * (out - out[0])
    dia += 2 * lathe.tail * at / length if held == "centres" else 2 * lathe.yaw * (at - begin) / 1000
    return float(dia.max() - dia.min())


def mended(lathe: Lathe, remedies: dict[str, str]) -> None:
    """What a fitter does, in the order it is done."""
    rng, span = lathe.rng, (FAR_LAND - NEAR_LAND) / 1000
    ways, head, tail = (remedies.get(key, "") for key in ("ways", "headstock", "tailstock"))
    if ways == "scrape":
        lathe.front, lathe.rear, lathe.side = (SCRAPED * rng.standard_normal(STEPS + 1) for _ in range(3))
        lathe.side[0] = lathe.side[-1] = 0.0
    if ways or head == "level_over":
        lathe.twist = LEVELLED * float(rng.standard_normal())
    if head in ("set_over", "level_over"):
        lathe.yaw += (CUT * float(rng.standard_normal()) - lathe.taper()) / (2 * span)
    if head == "shim":
        now = lathe.taper()
        lathe.twist += 1.0
        per_mrad = lathe.taper() - now
        lathe.twist += (CUT * float(rng.standard_normal()) - now) / per_mrad - 1.0
    if tail in ("key", "all"):
        lathe.wander = NEW_KEY
    if tail in ("set_over", "key", "all"):
        left = math.hypot(SET, lathe.wander) * float(rng.standard_normal())
        lathe.tail += left - lathe.set_over()


class WorkScore:
    """Counts over lathes: figures inside what was said, the right side of the tolerance, sets that did."""

    def __init__(self) -> None:
        self.said = self.covered = self.sides = self.right = self.sets = self.did = 0
        self.foretold = 0.0

    def __str__(self) -> str:
        return (
            f"figures {self.said}: cover {self.covered / max(1, self.said):.1%}, right side "
            f"{self.right / max(1, self.sides):.1%} of {self.sides}; sets {self.sets}: did "
            f"{self.did / max(1, self.sets):.1%}, foretold {self.foretold / max(1, self.sets):.1%}"
        )


def score_work(seeds: Iterable[int]) -> WorkScore:
    """Lathes read by level, ridge, two lands and a long piece; what they make, and after the least set."""
    score = WorkScore()
    for seed in seeds:
        lathe = Lathe(seed)
        job = lathe.type_all(TypedJob())
        stated = {"base_mm": BASE, "gauge_mm": GAUGE, "centre_mm": CENTRE, "centres_mm": CENTRES}
        job.state("ways", **stated)
        for key, (held, length, may) in PIECES.items():
            told = {"kind": held, "dia_mm": 30.0, "length_mm": length, "tol_dia": may}
            job.record(*[MatterStated("work", key, k, v) for k, v in told.items()])
        work = made_work(job.cases)
        for piece in work.pieces:
            held, length, may = PIECES[piece.piece.key]
            true = profile(lathe, held, length)
            for m in piece.told:
                score.said += 1
                score.covered += m.value.low <= true <= m.value.high
                if m.chance >= SURE or m.chance <= 1 - SURE:
                    score.sides += 1
                    score.right += (true <= may) is (m.chance >= SURE)
        if work.least is None:
            continue
        mended(lathe, dict(work.least.remedies))
        of = {key.split(".")[0] for key in work.least.ratios}
        score.sets += 1
        score.foretold += work.least.chance
        score.did += all(profile(lathe, h, long) <= may for k, (h, long, may) in PIECES.items() if k in of)
    return score


# reading first ---------------------------------------------------------------------------------

HOUR, FIRST, TRIES, ENOUGH = 15.0, ("two_collar", "long_piece"), 24, 0.85
CAN_READ = ("level_across", "ridge", "reference_bar", "centres")


def does(lathe: Lathe, remedies: dict[str, str]) -> bool:
    """Whether all of the work comes inside after these, done once."""
    one = copy.deepcopy(lathe)
    mended(one, remedies)
    return all(profile(one, held, long) <= may for held, long, may in PIECES.values())


def known_least(lathe: Lathe, work: MadeWork) -> float | None:
    """What one who knows the truth would spend on the cheapest set that does; None where none does."""
    for one in sorted(work.choice.options, key=lambda o: o.money + HOUR * o.hours):
        missed = 0
        for again in range(TRIES):
            lathe.rng = np.random.default_rng(again)
            missed += not does(lathe, dict(one.remedies))
            if missed > (1 - ENOUGH) * TRIES:
                break
        else:
            return one.money + HOUR * one.hours
    return None


class Chosen:
    """Over lathes: what was spent, what one who knows would have, how often it did, how many minutes."""

    def __init__(self) -> None:
        self.sets = self.did = self.lathes = self.none = 0
        self.spent = self.known = self.begun = 0.0

    def __str__(self) -> str:
        return (
            f"{self.lathes} lathes: {self.sets} sets, did {self.did / max(1, self.sets):.1%}; spent "
            f"{self.spent / max(1e-9, self.known):.2f} of the least, "
            f"{self.begun / max(1e-9, self.known):.2f} begun with; none {self.none}"
        )


def score_choice(seeds: Iterable[int], *, advised: bool) -> Chosen:
    """Lathes of which two pieces were cut; then read as advised before choosing, or only what nobody told."""
    score = Chosen()
    for seed in seeds:
        lathe = Lathe(seed)
        job = lathe.type_all(TypedJob(), FIRST)
        job.state("ways", base_mm=BASE, gauge_mm=GAUGE, centre_mm=CENTRE, centres_mm=CENTRES)
        for key, (held, length, may) in PIECES.items():
            told = {"kind": held, "dia_mm": 30.0, "length_mm": length, "tol_dia": may}
            job.record(*[MatterStated("work", key, k, v) for k, v in told.items()])
        read: list[str] = []
        while True:
            work = made_work(job.cases)
            first = [s for one in read_to_choose(choices_asked(work)) for s in one.set_ups] if advised else []
            wanted = first if first or not work.untold else [s for _, s in work.unread]
            now = [s for s in wanted if s in CAN_READ and s not in read]
            if not now:
                break
            read.append(now[0])
            lathe.type_all(job, (now[0],))
        if work.untold:
            continue
        score.lathes += 1
        known = known_least(lathe, work)
        if work.least is None or known is None:
            score.none += 1
            continue
        score.sets += 1
        lathe.rng = np.random.default_rng(50_000 + seed)
        score.did += does(lathe, dict(work.least.remedies))
        least = work.least.money + HOUR * work.least.hours
        score.spent += least
        if work.begin is not None:
            did = does(lathe, dict(work.begin.remedies))
            score.begun += work.begin.money + HOUR * work.begin.hours + (0.0 if did else least)
        else:
            score.begun += least
        score.known += known
    return score


# heads and spindles ----------------------------------------------------------------------------

STEP = 0.00254
MILLED = {"dia_mm": 80.0, "length_mm": 60.0, "high_mm": 40.0}
HOLE, MAY_LEAN, MAY_LOBE = 50.0, 0.010, 0.006


def needle(rng: np.random.Generator, value: float, noise: float = 0.0015) -> list[float]:
    """Two readings of a place."""
    return [round((value + n) / STEP) * STEP for n in noise * rng.standard_normal(2)]


def score_figures(score: WorkScore, job: TypedJob, true: dict[str, float]) -> None:
    """What is said of figures against what the machine really makes."""
    for piece in made_work(job.cases).pieces:
        for m in piece.told:
            size = true[f"{piece.piece.key}.{m.figure}"]
            score.said += 1
            score.covered += min(abs(m.value.value - size), abs(m.value.value + size)) <= m.value.half_width
            if m.chance >= SURE or m.chance <= 1 - SURE:
                score.sides += 1
                score.right += bool(size <= m.tolerance_mm) == (m.chance >= SURE)


def score_heads(seeds: Iterable[int]) -> WorkScore:
    """Heads and knees that lean, swept and squared; milled by the lowest tips, holes by where they go."""
    score = WorkScore()
    for seed in seeds:
        rng = np.random.default_rng(30_000 + seed)
        head = Head("mill")
        spindle, travel = 0.0002 * rng.standard_t(3, 2), 0.0002 * rng.standard_t(3, 2)
        head.spindle, head.travel = (
            leaning(np.array([*way, 0.0]) / math.hypot(*way), math.hypot(*way)) for way in (spindle, travel)
        )
        exact = head.squared(head.swept(TypedJob("mill")))
        job = TypedJob("mill")
        for body in exact.bodies:
            if isinstance(body, ReadingTaken):
                job.read(body.assembly, body.set_up, body.place, *needle(rng, body.value)[:1], unit=body.unit)
        may = dict.fromkeys(("tol_parallel", "tol_hollow", "tol_side"), MAY_LEAN)
        pieces = {
            "face": {"kind": "milled", **MILLED, **may},
            "bore": {"kind": "bored", "dia_mm": 40.0, "length_mm": HOLE, "tol_hole": MAY_LEAN},
            "drill": {"kind": "drilled", "dia_mm": 8.0, "length_mm": HOLE, "tol_hole": MAY_LEAN},
        }
        for key, told in pieces.items():
            job.record(*[MatterStated("work", key, k, v) for k, v in told.items()])
        across, low = milled(head.spindle)
        axis, way = head.spindle @ np.array([0, 0, 1.0]), head.travel @ np.array([0, 0, 1.0])
        true = {
            "face.parallel": abs(low[-1] - low[0]),
            "face.hollow": hollow(across, low),
            "face.side": MILLED["high_mm"] * abs(axis[1]),
            "bore.hole": HOLE * math.hypot(way[0], way[1]),
            "drill.hole": HOLE * math.hypot(axis[0], axis[1]),
        }
        score_figures(score, job, true)
    return score


def milled(spindle: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Places across a cut that is fed along the table, and the lowest that any tip comes there."""
    turn = np.linspace(0, 2 * math.pi, 7201)
    radius, half = MILLED["dia_mm"] / 2, MILLED["length_mm"] / 2
    tips = spindle @ np.array([radius * np.cos(turn), radius * np.sin(turn), np.zeros_like(turn)])
    across = np.linspace(-half, half, 61)
    low = [float(tips[2][np.abs(tips[1] - y) < 0.1].min()) for y in across]
    return across, np.array(low)


def hollow(across: np.ndarray, low: np.ndarray) -> float:
    """How far its middle lies from the line between its edges."""
    straight = np.interp(across, [across[0], across[-1]], [low[0], low[-1]])
    return float(np.abs(low - straight).max())


def score_spindles_work(seeds: Iterable[int]) -> WorkScore:
    """Spindles with lobes, read at the nose; round by the outline's own range."""
    score = WorkScore()
    turn = np.linspace(0, 2 * math.pi, 3601)
    for seed in seeds:
        bench = SpindleAtBench(seed)
        job = bench.type_all(TypedJob(), ("nose",))
        told = {"kind": "chuck", "dia_mm": 25.0, "length_mm": 40.0, "tol_round": MAY_LOBE}
        job.record(*[MatterStated("work", "journal", k, v) for k, v in told.items()])
        outline = sum(
            a * np.cos(k * turn - p) for k, a, p in zip((2, 3), bench.lobes, bench.phases, strict=True)
        )
        score_figures(score, job, {"journal.round": float(np.ptp(outline))})
    return score
