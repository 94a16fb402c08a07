"""A practice job opened: what was believed on the way, where it went wrong, its score."""

from __future__ import annotations

import json
from collections.abc import Mapping, Sequence
from typing import Any

import msgspec
from msgspec import Struct, structs

from trebb.core.errors import InputError
from trebb.core.practice.ground_records import NOTHING
from trebb.core.practice.grounds import belief
from trebb.core.practice.lies import PREPARATIONS, lying
from trebb.core.practice.lies import lie as lie_of
from trebb.core.practice.piece import Piece
from trebb.core.practice.scoring import (
    Score,
    hint_points,
    minutes_points,
    money_points,
    verdict_points,
)
from trebb.core.survey import set_up
from trebb.core.units import show_minutes
from trebb.core.words import small
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.practice_piece import piece_of
from trebb.logbook.log.entries import Body, Entry, PracticeMarked, ReadingTaken
from trebb.logbook.log.fold import Job
from trebb.logbook.practice.begun import FILED, Truth, Used, filed, limits_of, truth_of, used
from trebb.logbook.practice.lesson import Lesson, earned, lesson_of
from trebb.logbook.practice.trial import BestOrder, best_order, or_own


class Believed(Struct, frozen=True):
    """What was believed after a reading: of each cause its middle and 95 % interval, in limits; how likely
    each was the chief one.
    """

    reading: int
    set_up: str
    place: str
    each: Mapping[str, tuple[float, float, float]]
    likely: Mapping[str, float]
    lied: tuple[str, ...]


class Opened(Struct, frozen=True):
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
    lesson: Lesson


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
            each = believed[-1].likely
            likely = each[truth.chief]
            if likely < max(each.values()):
                return 0, (
                    f"What was read did not tell it: {small(on.label_of(truth.chief))} stood at {likely:.0%}."
                )
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
        f"{small(label)}, by {first.each[key][1]:.1f} limits, was believed; it is "
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
    share = earned(case, piece, marks[-1].of, spent.minutes, best.minutes)
    return Score(
        share * minutes_points(spent.minutes, best.minutes) if spent.readings else 0.0,
        verdict_points(marks[-1].of, marks[-1].share, truth.chief, causes),
        share * money_points(money, truth.worth[truth.least], mends=truth.mends(chosen)),
        hint_points(spent.hints),
        damage_of(case, piece, truth),
        tuple(over),
        share,
    )


def chosen_of(case: Case) -> str:
    """Key of the remedy chosen; "leave" where none is."""
    return case.chosen.key if case.chosen is not None else "leave"


def damage_of(case: Case, piece: Piece, truth: Truth) -> tuple[str, ...]:
    """What was spoilt, each in a sentence."""
    found = []
    chosen = case.chosen
    tried = any(m.of == FILED for m in case.job.practice_marks("did"))
    if piece.is_hard and not tried and chosen is not None and chosen.hinder(filed(case)):
        found.append("A tool went into hard metal and is ruined: try a file on it first.")
    marks = case.job.practice_marks("offer")
    if piece.offer.words and piece.offer.spoils and marks and marks[-1].of == "taken":
        found.append(piece.offer.why or "What was offered spoilt the work.")
    found += _shimmed_wrong(case)
    return tuple(found)


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
    told = structs.asdict(best)
    return PracticeMarked(what="opened", text=json.dumps(told))


def _best_kept(job: Job) -> BestOrder | None:
    marks = job.practice_marks("opened")
    try:
        told = json.loads(marks[-1].text) if marks else {}
        return msgspec.convert(told, BestOrder)
    except (ValueError, msgspec.ValidationError):
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
    truth = truth_of(Cases(job).of(piece.ground.assembly), piece)
    return or_own(entries, piece, truth, best_order(piece, truth))


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
    lesson = lesson_of(entries, piece, truth, said, best)
    return Opened(
        piece, truth, score, used(case), best, said, sure, chosen_of(case), believed, at, why, lesson
    )
