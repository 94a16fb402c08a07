"""Players of a practice machine: one who follows the advice, one who does not."""

from __future__ import annotations

import numpy as np

from trebb.core.machine import State
from trebb.core.practice.piece import Piece
from trebb.core.practice.scoring import worth
from trebb.core.survey import AnySetUp, Lot
from trebb.logbook.cases.case import Case
from trebb.logbook.log.entries import Body, PracticeMarked, RemedyChosen
from trebb.logbook.practice.told import advised_of
from trebb.logbook.practice.trial import Trial, is_settled, verdict_of

LITTLE = 0.01  # of the doubt: what settles less is not worth setting up
APART = 60.0  # minutes from which a set-up means taking it apart: not done on no advice
SURE = 0.8  # of the chief cause: until then what is worth reading is read


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
