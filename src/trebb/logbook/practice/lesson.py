"""The lesson of an opened machine: what was never read that would have told it, what was believed on nothing,
one's own way beside the shortest.
"""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from trebb.core.condition.draws import Array, quantiles
from trebb.core.practice.ground_records import NOTHING
from trebb.core.practice.grounds import belief, told
from trebb.core.practice.piece import Piece
from trebb.core.survey import set_up
from trebb.core.units import show_minutes
from trebb.core.words import small
from trebb.logbook.cases.case import Case
from trebb.logbook.log.entries import Entry, PracticeMarked, ReadingTaken
from trebb.logbook.practice.begun import Truth, limits_of, lot_of_place
from trebb.logbook.practice.trial import BestOrder, Trial, whole_minutes

MOST_TRIED = 10  # lots that were not read, cheapest first, looked at for the one that tells
SAYS = 0.8  # of the chief cause, from which a reading would have told it
NARROWED = 0.7  # of the width it had before anything was read: more, and nothing read speaks of it
SLIGHT = 0.02  # of a cause: less was hardly believed at all


class Step(Struct, frozen=True):
    """A lot that was set up, and its minutes."""

    title: str
    minutes: float


class Lesson(Struct, frozen=True):
    """`own` the way that was gone, `best` the shortest; `never` what was never read and would have told it,
    `on_nothing` what was believed though nothing read tells of it: a sentence each.
    """

    own: tuple[Step, ...]
    best: tuple[Step, ...]
    never: str
    on_nothing: tuple[str, ...]


def lesson_of(entries: Sequence[Entry], piece: Piece, truth: Truth, said: str, best: BestOrder) -> Lesson:
    """The lesson of a job whose machine is opened."""
    trial = Trial.after(piece, entries)
    return Lesson(
        _own_way(trial, entries),
        tuple(Step(title, minutes) for title, minutes in zip(best.titles, best.each, strict=False)),
        _never_read(entries, trial, piece, truth),
        tuple(_on_nothing(trial.case, piece, truth, said)),
    )


def earned(case: Case, piece: Piece, said: str, minutes: float, best_minutes: float) -> float:
    """How much of what was saved in minutes and money was earned, 0 to 1: all of it where what was read tells
    what was said; of a guess at most half, and none where nothing was read.
    """
    each, _ = belief(piece.ground, case.subject_for("before"), case.alone, limits_of(case, piece.ground))
    is_told = all(map(told, each.values())) if said == NOTHING else said in each and told(each[said])
    return 1.0 if is_told else 0.5 * min(1.0, minutes / max(best_minutes, 1e-9))


def _own_way(trial: Trial, entries: Sequence[Entry]) -> tuple[Step, ...]:
    """Lots in the order they were set up, with the minutes of what was read or seen of each."""
    subject, found = trial.case.subject_for("before"), dict[tuple[str, str], Step]()
    for entry in entries:
        body = entry.body
        if isinstance(body, ReadingTaken) and body.phase == "before":
            key, place = body.set_up, body.place
        elif isinstance(body, PracticeMarked) and body.what == "stood":
            key, place = body.of.rpartition(".")[2], body.text
        else:
            continue
        s = set_up(key)
        lot = lot_of_place(s, subject, place)
        name = (key, lot.key if lot is not None else "")
        had = found.get(name)
        title = lot.title if lot is not None else s.title
        setting = 0.0 if had is not None else s.setting_of(lot) if lot is not None else s.setting_minutes
        is_seen = isinstance(body, PracticeMarked)
        each = 0.0 if is_seen and had is not None else s.minutes / max(s.wanted, 1)
        found[name] = Step(title, (had.minutes if had is not None else 0.0) + setting + each)
    return tuple(found.values())


def _never_read(entries: Sequence[Entry], trial: Trial, piece: Piece, truth: Truth) -> str:
    """The cheapest lot nobody read that would have told the chief cause; "" where it was told, or none."""
    if truth.chief == NOTHING:
        return ""
    case, chief = trial.case, truth.chief
    each, _ = belief(piece.ground, case.subject_for("before"), case.alone, limits_of(case, piece.ground))
    if told(each[chief]):
        return ""
    unread = [
        (one, s, lot)
        for one, s, lot in trial.lots()
        if not {p.place for p in trial.job.standing(one.assembly_key, s.key)} & set(lot.places)
    ]
    for one, s, lot in sorted(unread, key=lambda x: whole_minutes(x[1], x[2]))[:MOST_TRIED]:
        again = Trial.after(piece, entries)
        again.prepare(s)
        again.read(again.cases.of(one.assembly_key), s, lot)
        after = again.case
        subject, limits = after.subject_for("before"), limits_of(after, piece.ground)
        alone, _ = belief(piece.ground, subject, after.alone, limits)
        _, likely = belief(piece.ground, subject, after.estimate, limits)
        if told(alone[chief]) or likely[chief] >= SAYS:
            return (
                f"Never read: {small(lot.title)}. It takes {show_minutes(whole_minutes(s, lot))}, and with "
                f"it {small(piece.ground.label_of(chief))} would have stood at {likely[chief]:.0%}."
            )
    return ""


def _on_nothing(case: Case, piece: Piece, truth: Truth, said: str) -> list[str]:
    """Causes, the chief one and the one named first, that were believed though what was read does not settle
    them, or says nothing of them at all.
    """
    on = piece.ground
    subject, limits = case.subject_for("before"), limits_of(case, on)
    alone, _ = belief(on, subject, case.alone, limits)
    each, likely = belief(on, subject, case.estimate, limits)
    before, _ = belief(on, subject, Trial(piece).case.estimate, limits)
    asked = dict.fromkeys((said, truth.chief, *sorted(likely, key=lambda k: -likely[k])))
    found = []
    for key in asked:
        if key == NOTHING or key not in each or likely[key] < SLIGHT or told(alone[key]):
            continue
        head = f"{on.label_of(key)} was believed with {likely[key]:.0%}"
        if _width(each[key]) > NARROWED * _width(before[key]):
            found.append(f"{head}, by nothing that was read: that is how often such machines have it.")
        else:
            found.append(f"{head}; what was read speaks of it and does not settle it.")
    return found[:2]


def _width(values: Array) -> float:
    low, high = quantiles(values, (0.05, 0.95))
    return float(high - low)
