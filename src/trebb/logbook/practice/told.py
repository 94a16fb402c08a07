"""What is told while a hidden machine is played."""

from __future__ import annotations

from trebb.core.errors import TrebbError
from trebb.core.practice.lies import PREPARATIONS, Lie, lying
from trebb.core.practice.piece import Piece
from trebb.core.remedies import Remedy
from trebb.core.survey import AnySetUp
from trebb.core.units import UnitSystem
from trebb.logbook.cases.case import Case
from trebb.logbook.log.entries import PracticeMarked


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
