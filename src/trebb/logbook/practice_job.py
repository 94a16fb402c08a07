"""A practice job: begun from a piece, played in the stops, and opened at the end.

Everything is worked out from the job's entries: what was used, what was believed after each reading, what
the hidden machine really was, and what would have been enough.
"""

from __future__ import annotations

import heapq
import json
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import numpy as np

from trebb.core.errors import InputError, TrebbError
from trebb.core.machine import State
from trebb.core.practice.grounds import NOTHING, Ground, belief, chief, exact, is_told
from trebb.core.practice.lies import PREPARATIONS, Lie, lying, preparations_of
from trebb.core.practice.lies import lie as lie_of
from trebb.core.practice.piece import Piece
from trebb.core.practice.scoring import (
    HINTS,
    SURENESS,
    Score,
    hint_points,
    minutes_points,
    money_points,
    verdict_points,
    worth,
)
from trebb.core.remedies import Remedy, predict, remedies_of
from trebb.core.survey import AnySetUp, Lot, set_up
from trebb.core.units import UnitSystem, show_minutes
from trebb.logbook.case import Case
from trebb.logbook.casework import Cases
from trebb.logbook.entries import (
    AssemblyAdded,
    Body,
    Entry,
    FactStated,
    JobStarted,
    NumberOneNamed,
    Planted,
    PracticeMarked,
    ReadingTaken,
    RemedyChosen,
    gesture_of,
)
from trebb.logbook.fold import Job
from trebb.logbook.practice_piece import piece_mark, piece_of
from trebb.logbook.store import JobFile

SURE = 0.8  # of the chief cause: until then what is worth reading is read
APART = 60.0  # minutes from which a set-up means taking it apart: not done on no advice
LITTLE = 0.01  # of the doubt: what settles less is not worth setting up
MOST_TRIED = 160  # sets of readings looked at for the best order
MOST_READ = 4  # set-ups that the best order may hold
SLACK = 1.15  # where nothing mends it, what leaves this much more than the least still counts
NEAR_LEAST = 1.25  # the best order must end in a remedy that costs at most this much more than the least
SHOP = "Practice bench"


# begin ----------------------------------------------------------------------------------------


def beginning(piece: Piece) -> list[list[Body]]:
    """The gestures that a practice job begins with; raises InputError where the machine cannot have that."""
    on = piece.ground
    first: list[Body] = [
        JobStarted(shop=SHOP, machine=piece.title, machine_kind=on.kind, machine_class="ordinary")  # type: ignore[arg-type]
    ]
    if on.under:
        first.append(AssemblyAdded(on.assembly, on.label, on.family, on.under))
    first += [FactStated(on.assembly, key, value) for key, value in {**on.facts, **piece.facts}.items()]
    first.append(NumberOneNamed(assembly=on.assembly))
    job = Job()
    for entry in as_entries(first):
        job.apply(entry)
    case = Cases(job).of(on.assembly)
    condition = piece.condition(case.subject_for("before"), case.model_for("before"), limits_of(case, on))
    hidden = Planted(assembly=case.holder, seed=piece.seed, condition=condition)
    return [first, [piece_mark(piece), hidden]]


def begin(path: Path, piece: Piece) -> JobFile:
    """A new job file to practise in. Raises JobFileError, or InputError where the piece will not do."""
    gestures = beginning(piece)
    job_file = JobFile.create(path)
    for gesture in gestures:
        job_file.append(gesture)
    return job_file


def as_entries(bodies: Sequence[Body], first: int = 1) -> list[Entry]:
    """Bodies as the entries of one gesture that is in no file."""
    return gesture_of(bodies, first, "2000-01-01T00:00:00.000Z")


# the machine as it really is ------------------------------------------------------------------


def limits_of(case: Case, on: Ground) -> dict[str, float]:
    """The limits of a ground, mm."""
    return {key: case.job.limit(key).limit_mm for key in on.limits}


@dataclass(frozen=True)
class Truth:
    """A hidden machine opened: its condition, what each cause comes to in limits, which is the chief one;
    what each remedy would really leave of the worst figure, in limits.
    """

    condition: Mapping[str, float]
    shares: Mapping[str, float]
    chief: str
    left: Mapping[str, float]
    worth: Mapping[str, float]

    @property
    def enough(self) -> float:
        """What a remedy may leave, in limits, to count as mending."""
        return max(1.0, SLACK * min(self.left.values()))

    def mends(self, key: str) -> bool:
        """Whether a remedy brings it within limit (or, where none does, leaves next to the least)."""
        return self.left.get(key, 1e9) <= self.enough

    @property
    def least(self) -> str:
        """The remedy that mends for least."""
        return min((k for k in self.left if self.mends(k)), key=lambda k: (self.worth[k], self.left[k]))


def truth_of(case: Case, piece: Piece) -> Truth:
    """What a practice machine really is; raises InputError where the job holds none."""
    on = piece.ground
    hidden = case.planted()
    if hidden is None:
        raise InputError("this job", "it has no hidden machine: begin one on the practice bench")
    subject, limits = case.subject_for("before"), limits_of(case, on)
    model = case.model_for("before")
    now = exact(model, {**{s.key: 0.0 for s in model.sources}, **hidden.condition})
    left, costs = {}, {}
    for r in _possible(case, piece):
        left[r.key] = _left(case, on, predict(r, subject, now), limits)
        costs[r.key] = worth(r.cost, r.hours)
    return Truth(
        hidden.condition,
        piece.comes_to(subject, hidden.condition, limits),
        chief(on, subject, hidden.condition, limits),
        left,
        costs,
    )


def _possible(case: Case, piece: Piece) -> Iterator[Remedy]:
    """What can be done to the machine as it really is: a hard one takes no reamer."""
    subject = case.subject_for("before")
    for r in remedies_of(case.family):
        if r.applies(subject) and not r.hides and not (piece.is_hard and r.hinder(_filed(case))):
            yield case.quoted(r)


def _left(case: Case, on: Ground, prediction: Any, limits: Mapping[str, float]) -> float:
    """The worst figure that a remedy leaves, in limits."""
    measures = getattr(prediction, "measures", None)
    if measures is None:
        return float(prediction.worst.value / limits[on.limits[0]])
    found = []
    for key, value in measures.items():
        try:
            limit = case.limit_by(key)
        except KeyError:  # a figure that is shown but not judged
            continue
        if limit.key in limits:
            found.append(value.value / limit.limit_mm)
    return float(max(found))


# what was used --------------------------------------------------------------------------------


@dataclass(frozen=True)
class Used:
    """Minutes at the bench, readings, and hints by kind."""

    minutes: float
    readings: int
    hints: Mapping[str, int]


def lot_of_place(s: AnySetUp, subject: Any, place: str) -> Lot | None:
    """The lot that a place is read in."""
    return next((lot for lot in s.all_lots(subject) if place in lot.places), None)


def used(case: Case) -> Used:
    """What was used so far: setting each lot up once, each reading its share of its place's minutes, what
    was done beforehand.
    """
    subject = case.subject_for("before")
    piece = piece_of(case.job)
    mine = (case.assembly_key, *(piece.ground.also if piece is not None else ()))
    minutes, count, seen = 0.0, 0, set()
    for reading in case.job.all_readings():
        taken = reading.taken
        if taken.assembly not in mine or taken.phase != "before":
            continue
        s = set_up(taken.set_up)
        lot = lot_of_place(s, subject, taken.place)
        key = (s.key, lot.key if lot else "")
        if key not in seen:
            seen.add(key)
            minutes += s.setting_minutes if lot is None else s.setting_of(lot)
        minutes += s.minutes / max(s.wanted, 1)
        count += 1
    minutes += sum(PREPARATIONS[m.of].minutes for m in case.job.practice_marks("did") if m.of in PREPARATIONS)
    asked: dict[str, int] = {}
    for mark in case.job.practice_marks("hint"):
        asked[mark.of] = asked.get(mark.of, 0) + 1
    return Used(minutes, count, {k: n for k, n in asked.items() if k in HINTS})


FILED = "try_file"


def doing(case: Case, piece: Piece, preparation: str) -> list[Body]:
    """What is recorded when a preparation is done: a file that is tried says what it did."""
    found: list[Body] = [PracticeMarked(what="did", of=preparation)]
    if preparation == FILED:
        found.append(FactStated(case.holder, "file", "skates" if piece.is_hard else "bites"))
    if preparation == "push_home":
        found.append(FactStated(case.assembly_key, "home", "yes"))
    return found


# what is told while it is played --------------------------------------------------------------


def lied_readings(case: Case, piece: Piece) -> dict[int, Lie]:
    """Readings that stand and were taken while their set-up lied, by number, each with the lie."""
    done = [(e.id, e.body.of) for e in case.job.practice_entries("did") if isinstance(e.body, PracticeMarked)]
    found = {}
    for reading in case.job.all_readings():
        if reading.struck is not None:
            continue
        before = frozenset(key for number, key in done if number < reading.id)
        for one in lying(piece.lies, before):
            if one.touches(reading.taken.set_up):
                found[reading.id] = one.lie
    return found


def trust_words(case: Case, piece: Piece, s: AnySetUp) -> str:
    """Whether the readings of a set-up are to be trusted, in a sentence."""
    taken = [r for r in case.job.all_readings() if r.taken.set_up == s.key and r.struck is None]
    if not taken:
        return "Nothing stands here yet: ask when something is read."
    lied = lied_readings(case, piece)
    bad = [lied[r.id] for r in taken if r.id in lied]
    if bad:
        put_right = PREPARATIONS[bad[0].cured_by].words
        return (
            f"No: {len(bad)} of {len(taken)} are not. {bad[0].why} {put_right}, strike them out, read again."
        )
    aside = case.distrusted("before").get(s.key)
    if aside:
        return f"No: {aside}."
    return "Yes: nothing is amiss with how they were read."


def advised_of(case: Case) -> Remedy | None:
    """What Trebb would do by what is read; None while it cannot say."""
    try:
        return case.advised() if case.is_measured else None
    except TrebbError:
        return None


def expert_words(case: Case, system: UnitSystem) -> str:
    """What an expert would say by what is read so far."""
    if not case.is_measured:
        return "Nothing is read yet: I would say nothing."
    first, advised = case.findings(system)[0], advised_of(case)
    do = f" I would: {advised.title.lower()}." if advised is not None else " I would not mend anything yet."
    return f"{first.sentence} {first.next_move}{do}"


# in memory: to look for the best order, and to follow the advice --------------------------------


class Trial:
    """A practice job in memory, read by the program instead of a hand."""

    def __init__(self, piece: Piece, gestures: Sequence[Sequence[Body]] | None = None) -> None:
        self.piece = piece
        self.job = Job()
        self._next = 1
        for gesture in beginning(piece) if gestures is None else gestures:
            self.record(gesture)
        self.cases = Cases(self.job)
        self.case = self.cases.of(piece.ground.assembly)

    def record(self, bodies: Sequence[Body]) -> None:
        """Take in one gesture."""
        for entry in as_entries(bodies, self._next):
            self.job.apply(entry)
        self._next += len(bodies)

    def prepare(self, s: AnySetUp) -> None:
        """Everything that may be done before a set-up is read, once."""
        done = {m.of for m in self.job.practice_marks("did")}
        for p in preparations_of(s.key):
            if p.key not in done:
                self.record(doing(self.case, self.piece, p.key))

    def all_cases(self) -> list[Case]:
        """The case that is played, and those whose set-ups tell of it too."""
        return [self.case, *(self.cases.of(key) for key in self.piece.ground.also)]

    def read(self, case: Case, s: AnySetUp, lot: Lot) -> None:
        """Read a lot, each place as often as wanted, and answer what is asked before it counts."""
        machine = case.practice("before")
        assert machine is not None
        if s.key in ("feelers", "stand_out", "rock") and case.facts.get("home") != "yes":
            self.record([FactStated(case.assembly_key, "home", "yes")])
        have = {p.place: len(p.values) for p in self.job.standing(case.assembly_key, s.key)}
        bodies: list[Body] = []
        for place in lot.places:
            for i in range(have.get(place, 0), max(1, s.wanted)):
                bodies.append(
                    ReadingTaken(
                        assembly=case.assembly_key,
                        set_up=s.key,
                        place=place,
                        phase="before",
                        value=machine.reading(s, place, i),
                        unit=s.unit,
                        resolution_mm=s.resolution_mm,
                    )
                )
        if bodies:
            self.record(bodies)


def verdict_of(case: Case, piece: Piece) -> tuple[str, float]:
    """The chief cause by what is read and expected, and how sure that is: the nearest sureness on offer."""
    on = piece.ground
    _, likely = belief(on, case.subject_for("before"), case.estimate, limits_of(case, on))
    key = max(likely, key=lambda k: likely[k])
    return key, max((s for s in SURENESS if s <= likely[key] + 0.025), default=SURENESS[0])


def is_settled(case: Case, piece: Piece) -> bool:
    """Whether a remedy is advised, and of every cause it is told whether it is beyond its limit."""
    on = piece.ground
    if advised_of(case) is None:
        return False
    # By readings alone: what nobody read is not told, however unlikely it usually is.
    return is_told(belief(on, case.subject_for("before"), case.alone, limits_of(case, on))[0])


def follow_advice(piece: Piece, *, most: int = 16) -> Trial:
    """A job played by Trebb's own advice from the first reading: each set-up made ready as its card says,
    read, the next one as advised, until a remedy is advised and the cause is told; then that remedy.
    """
    trial = Trial(piece)
    for _ in range(most):
        is_clear = is_settled(trial.case, piece)
        if is_clear and not _cheaper_open(trial.case) and verdict_of(trial.case, piece)[1] >= SURE:
            break
        wanted = _wanted(trial)
        if wanted is None:
            break
        case, s, lot = wanted
        trial.prepare(s)
        trial.read(case, s, lot)
    finish(trial)
    return trial


def beginner(piece: Piece, rng: np.random.Generator) -> Trial:
    """A job played without advice: set-ups in any order, none made ready, until something is advised or six
    are read.
    """
    trial = Trial(piece)
    case = trial.case
    lots = [(s, lot) for s in case.set_ups for lot in s.all_lots(case.subject_for("before")) if lot.places]
    for i in rng.permutation(len(lots))[:6]:
        trial.read(case, *lots[int(i)])
        if advised_of(trial.case) is not None:
            break
    finish(trial)
    return trial


def _wanted(trial: Trial) -> tuple[Case, AnySetUp, Lot] | None:
    """What Trebb says is worth reading next; where it says nothing and a cause is still open, what is left of
    the list, in order. None where nothing is left.
    """
    for case in trial.all_cases():
        for suggestion in case.suggestions():
            if suggestion.settles > LITTLE:
                return (case, *case.lot_of(suggestion.key))
    if is_settled(trial.case, trial.piece):
        return None
    case = trial.case
    for s in case.set_ups:
        read = {p.place for p in trial.job.standing(case.assembly_key, s.key)}
        for lot in s.all_lots(case.subject_for("before")):
            unread = lot.places and not s.is_optional and not set(lot.places) <= read
            if unread and s.setting_of(lot) < APART and case.rows_of(s, lot.places):
                return case, s, lot
    return None


def _cheaper_open(case: Case) -> bool:
    """Whether of a remedy that costs less than the one advised it cannot be said yet what it leaves."""
    advised = case.advised()
    if advised is None:
        return False
    price = worth(advised.cost, advised.hours)
    return any(
        worth(r.cost, r.hours) < price
        and not r.hides
        and any(case.left_state(r.key, m.key) is State.UNKNOWN for m in case.figures)
        for r, _ in case.predictions()
    )


def finish(trial: Trial) -> None:
    """Choose by what is read, and say the verdict with its sureness."""
    chosen = advised_of(trial.case) or trial.case.least_left()
    said, sure = verdict_of(trial.case, trial.piece)
    bodies: list[Body] = [RemedyChosen(trial.case.assembly_key, chosen.key, "")]
    if trial.piece.offer.words:
        bodies.append(PracticeMarked(what="offer", of="left"))
    trial.record([*bodies, PracticeMarked(what="verdict", of=said, share=sure)])


@dataclass(frozen=True)
class BestOrder:
    """The quickest set of readings after which the advice is right, in the order to take them."""

    minutes: float
    titles: tuple[str, ...]
    is_found: bool


def best_order(piece: Piece, truth: Truth, *, most_tried: int = MOST_TRIED) -> BestOrder:
    """The fewest minutes after which Trebb's advice on this very machine is right, looked for over sets of
    lots by their minutes, cheapest first; what following the advice took, where none of those tried is.
    """
    gestures = beginning(piece)
    plain = Trial(piece, gestures)
    subject = plain.case.subject_for("before")
    lots = [
        (case.assembly_key, s, lot)
        for case in plain.all_cases()
        for s in case.set_ups
        for lot in s.all_lots(subject)
        if lot.places and not s.is_optional and case.rows_of(s, lot.places)
    ]
    cost = [s.setting_of(lot) + s.minutes * len(lot.places) for _, s, lot in lots]
    ready = [frozenset(p.key for p in preparations_of(s.key) if _needed(piece, p.key)) for _, s, _ in lots]

    def minutes(chosen: tuple[int, ...]) -> float:
        done = frozenset().union(*(ready[i] for i in chosen))
        return sum(cost[i] for i in chosen) + sum(PREPARATIONS[p].minutes for p in done)

    waiting: list[tuple[float, tuple[int, ...]]] = [(minutes((i,)), (i,)) for i in range(len(lots))]
    heapq.heapify(waiting)
    for _ in range(most_tried):
        if not waiting:
            break
        total, chosen = heapq.heappop(waiting)
        if _settled(Trial(piece, gestures), truth, [lots[i] for i in chosen]):
            return BestOrder(total, tuple(lots[i][2].title for i in chosen), is_found=True)
        if len(chosen) < MOST_READ:
            for i in range(chosen[-1] + 1, len(lots)):
                heapq.heappush(waiting, (minutes((*chosen, i)), (*chosen, i)))
    follower = follow_advice(piece)
    return BestOrder(used(follower.case).minutes, ("as Trebb advised",), is_found=False)


def _needed(piece: Piece, preparation: str) -> bool:
    return any(one.lie.cured_by == preparation for one in lying(piece.lies))


def _settled(trial: Trial, truth: Truth, lots: Sequence[tuple[str, AnySetUp, Lot]]) -> bool:
    piece = trial.piece
    for assembly, s, lot in lots:
        trial.prepare(s)
        trial.read(trial.cases.of(assembly), s, lot)
    chosen = advised_of(trial.case)
    if chosen is None or not truth.mends(chosen.key) or not is_settled(trial.case, piece):
        return False
    if verdict_of(trial.case, piece)[0] != truth.chief:
        return False
    return truth.worth[chosen.key] <= NEAR_LEAST * truth.worth[truth.least] + 1.0


# opened ---------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Believed:
    """What was believed after a reading: of each cause its middle and 95 % interval, in limits; how likely
    each was the chief one.
    """

    reading: int
    set_up: str
    place: str
    each: Mapping[str, tuple[float, float, float]]
    likely: Mapping[str, float]
    lied: tuple[str, ...]


@dataclass(frozen=True)
class Opened:
    """A practice job opened: the truth, the score, what was believed on the way, where it went wrong."""

    piece: Piece
    truth: Truth
    score: Score
    used: Used
    best: BestOrder
    said: str
    sure: float
    chosen: str
    believed: tuple[Believed, ...]
    wrong_at: int
    wrong_why: str


EDGE = 0.05  # limits by which a belief must be past a limit to be on a side of it
MOST_STEPS = 60  # of the replay; a survey of more readings is shown at every so many-th


def believed_on_the_way(entries: Sequence[Entry], piece: Piece) -> tuple[Believed, ...]:
    """What was believed after each reading, from the job's entries again."""
    on = piece.ground
    mine = (on.assembly, *on.also)
    job = Job()
    cases = Cases(job)

    def is_of_survey(body: Body) -> bool:
        return isinstance(body, ReadingTaken) and body.assembly in mine and body.phase == "before"

    count = sum(is_of_survey(e.body) for e in entries)
    every = max(1, -(-count // MOST_STEPS))
    found: list[Believed] = []
    number = 0
    done: set[str] = set()
    lied: set[str] = set()
    for entry in entries:
        job.apply(entry)
        body = entry.body
        if isinstance(body, PracticeMarked) and body.what == "did":
            done.add(body.of)
        if not isinstance(body, ReadingTaken) or not is_of_survey(body):
            continue
        number += 1
        lied |= {one.lie.key for one in lying(piece.lies, frozenset(done)) if one.touches(body.set_up)}
        if number % every and number != count:
            continue
        case = cases.of(on.assembly)
        each, likely = belief(on, case.subject_for("before"), case.estimate, limits_of(case, on))
        found.append(
            Believed(number, body.set_up, body.place, {k: _band(v) for k, v in each.items()}, likely,
                     tuple(sorted(lied)))
        )  # fmt: skip
        lied = set()
    return tuple(found)


def _band(values: Any) -> tuple[float, float, float]:
    from trebb.core.condition.draws import quantiles

    low, middle, high = quantiles(values, (0.025, 0.5, 0.975))
    return low, middle, high


def where_wrong(believed: Sequence[Believed], truth: Truth, piece: Piece, said: str) -> tuple[int, str]:
    """The reading at which what was believed left the truth, and the sentence why: the last stretch of it, or
    one that a lying set-up made; 0 and a sentence of the verdict, or "", where it never did.
    """
    on = piece.ground

    def misses(b: Believed) -> list[str]:
        """Causes believed to be on the other side of their limit than they are."""
        return [
            k
            for k, (low, _, high) in b.each.items()
            if (low > 1 + EDGE and truth.shares[k] <= 1) or (high < 1 - EDGE and truth.shares[k] > 1)
        ]

    wrong = [bool(misses(b)) for b in believed]
    at = len(believed)
    while at > 0 and wrong[at - 1]:
        at -= 1
    if at == len(believed):  # right at the end: was it wrong before, by a lie?
        lied_at = next((i for i, b in enumerate(believed) if b.lied), None)
        if lied_at is not None and True in wrong[lied_at:]:
            at = wrong.index(True, lied_at)
    if at == len(believed):
        if believed and said != truth.chief:
            likely = believed[-1].likely[truth.chief]
            return 0, (
                f"What was read said otherwise: {on.label_of(truth.chief).lower()}, with {likely:.0%}. The "
                "verdict went against it, or before it."
            )
        return 0, ""
    first = believed[at]
    key = misses(first)[0]
    until = next((i for i in range(at, len(believed)) if not wrong[i]), None)
    while_ = f" until reading {believed[until].reading}" if until is not None else ""
    label = on.cause(key).label
    head = (
        f"From reading {first.reading} ({set_up(first.set_up).title.lower()}, {first.place}){while_}: "
        f"{label[0].lower()}{label[1:]}, by {first.each[key][1]:.1f} limits, was believed; it is "
        f"{truth.shares[key]:.1f}."
    )
    lied = [name for b in believed[: at + 1] for name in b.lied]
    if lied:
        one = lie_of(lied[-1])
        return first.reading, f"{head} {one.why} {PREPARATIONS[one.cured_by].words} first."
    return (
        first.reading,
        f"{head} No set-up lied: one interval in twenty misses, and more readings bring it back.",
    )


def score_of(case: Case, piece: Piece, truth: Truth, best: BestOrder) -> Score:
    """The score of a job whose verdict is given. Raises InputError where it is not."""
    marks = case.job.practice_marks("verdict")
    if not marks:
        raise InputError("no verdict yet", "say what is wrong and how sure you are, then it is opened")
    spent = used(case)
    chosen = chosen_of(case)
    causes = [*(c.key for c in piece.ground.causes), NOTHING]
    money = truth.worth.get(chosen, 0.0)
    offers = case.job.practice_marks("offer")
    took = bool(offers) and offers[-1].of == "taken"
    if piece.offer.words and not piece.offer.spoils and not took:
        money += piece.offer.money
    over = []
    if piece.minutes and spent.minutes > piece.minutes:
        over.append(f"{show_minutes(spent.minutes)} used of {show_minutes(piece.minutes)}")
    if piece.money and money > piece.money:
        over.append(f"{money:.0f} spent of {piece.money:.0f}")
    return Score(
        minutes_points(spent.minutes, best.minutes) if spent.readings else 0.0,
        verdict_points(marks[-1].of, marks[-1].share, truth.chief, causes),
        money_points(money, truth.worth[truth.least], mends=truth.mends(chosen)),
        hint_points(spent.hints),
        damage_of(case, piece, truth),
        tuple(over),
    )


def chosen_of(case: Case) -> str:
    """Key of the remedy chosen; "leave" where none is."""
    return case.chosen.key if case.chosen is not None else "leave"


def damage_of(case: Case, piece: Piece, truth: Truth) -> tuple[str, ...]:
    """What was spoilt, each in a sentence."""
    found = []
    chosen = case.chosen
    tried = any(m.of == FILED for m in case.job.practice_marks("did"))
    if piece.is_hard and not tried and chosen is not None and chosen.hinder(_filed(case)):
        found.append("A tool went into hard metal and is ruined: try a file on it first.")
    marks = case.job.practice_marks("offer")
    if piece.offer.words and piece.offer.spoils and marks and marks[-1].of == "taken":
        found.append(piece.offer.why or "What was offered spoilt the work.")
    found += _shimmed_wrong(case)
    return tuple(found)


def _filed(case: Case) -> Any:
    return replace(case.subject_for("before"), file="skates")


def _shimmed_wrong(case: Case) -> list[str]:
    """Shims that twisted the bed more than it was."""
    hidden, bed = case.planted(), case.subject_for("before")
    if hidden is None or not getattr(bed, "shims", ()):  # only what stands on feet has shims
        return []
    was = hidden.condition.get("twist", 0.0)
    now = was + hidden.condition.get("answer", 0.8) * bed.shimmed(len(bed.shims))
    if abs(now) > abs(was) + 0.02:
        return ["A shim went under the wrong foot: the bed is twisted more than it was."]
    return []


def opening(best: BestOrder) -> PracticeMarked:
    """The entry that opens a machine: with the best order, which took long to find."""
    told = {"minutes": best.minutes, "titles": best.titles, "is_found": best.is_found}
    return PracticeMarked(what="opened", text=json.dumps(told))


def _best_kept(job: Job) -> BestOrder | None:
    marks = job.practice_marks("opened")
    try:
        told = json.loads(marks[-1].text) if marks else {}
        return BestOrder(float(told["minutes"]), tuple(map(str, told["titles"])), bool(told["is_found"]))
    except (ValueError, KeyError, TypeError):
        return None


def _piece_in(job: Job) -> Piece:
    piece = piece_of(job)
    if piece is None:
        raise InputError("this job", "it is no practice that this Trebb can read")
    return piece


def look_for_best(entries: Sequence[Entry]) -> BestOrder:
    """The best order of a practice job; raises InputError where it is none."""
    job = Job(entries)
    piece = _piece_in(job)
    return best_order(piece, truth_of(Cases(job).of(piece.ground.assembly), piece))


def opened(entries: Sequence[Entry]) -> Opened:
    """A practice job opened at the end. Raises InputError where it is none, or no verdict is given yet."""
    job = Job(entries)
    piece = _piece_in(job)
    marks = job.practice_marks("verdict")
    if not marks:
        raise InputError("no verdict yet", "say what is wrong and how sure you are, then it is opened")
    said, sure = marks[-1].of, marks[-1].share
    case = Cases(job).of(piece.ground.assembly)
    truth = truth_of(case, piece)
    best = _best_kept(job) or best_order(piece, truth)
    score = score_of(case, piece, truth, best)
    believed = believed_on_the_way(entries, piece)
    at, why = where_wrong(believed, truth, piece, said)
    return Opened(piece, truth, score, used(case), best, said, sure, chosen_of(case), believed, at, why)
