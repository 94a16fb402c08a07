"""Practice jobs played in memory: the best order to read a hidden machine in."""

from __future__ import annotations

import heapq
from collections.abc import Sequence

from msgspec import Struct

from trebb.core.practice.grounds import belief, is_told
from trebb.core.practice.lies import PREPARATIONS, lying, preparations_of
from trebb.core.practice.piece import Piece
from trebb.core.practice.scoring import (
    SURENESS,
)
from trebb.core.survey import AnySetUp, Lot
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.entries import Body, Entry, FactStated, ReadingTaken
from trebb.logbook.log.fold import Job
from trebb.logbook.practice.begun import Truth, as_entries, beginning, doing, limits_of, used
from trebb.logbook.practice.told import advised_of

NEAR_LEAST = 1.25  # the best order must end in a remedy that costs at most this much more than the least
MOST_TRIED = 150  # sets of readings looked at for one that is cheaper


def whole_minutes(s: AnySetUp, lot: Lot) -> float:
    """Minutes of setting a lot up and reading all of it."""
    return s.setting_of(lot) + s.minutes * len(lot.places)


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

    @classmethod
    def after(cls, piece: Piece, entries: Sequence[Entry]) -> Trial:
        """A job as it was played so far, to be gone on with in memory."""
        made = cls.__new__(cls)
        made.piece, made.job = piece, Job(entries)
        made._next = max((e.id for e in entries), default=0) + 1
        made.cases = Cases(made.job)
        made.case = made.cases.of(piece.ground.assembly)
        return made

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

    def lots(self) -> list[tuple[Case, AnySetUp, Lot]]:
        """Every lot that may be read and tells something, with its case."""
        subject = self.case.subject_for("before")
        return [
            (case, s, lot)
            for case in self.all_cases()
            for s in case.set_ups
            for lot in s.all_lots(subject)
            if lot.places and case.rows_of(s, lot.places)
        ]

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


class BestOrder(Struct, frozen=True):
    """The quickest set of readings after which the advice is right, in the order to take them; `each` their
    minutes. `is_proven` : no cheaper set does; `is_own` : it is the player's, quicker than any found.
    """

    minutes: float
    titles: tuple[str, ...]
    is_found: bool
    each: tuple[float, ...] = ()
    is_proven: bool = False
    is_own: bool = False


class Asked(Struct, frozen=True):
    """What a set of readings must come to: what all readings together come to, be it the remedy, the verdict,
    or each cause told.
    """

    remedy: bool
    verdict: bool
    told: bool

    def is_met(self, trial: Trial, truth: Truth) -> bool:
        """Whether what a job has read comes to it."""
        found = came_to(trial, truth)
        return (
            (found.remedy or not self.remedy)
            and (found.verdict or not self.verdict)
            and (found.told or not self.told)
        )


def came_to(trial: Trial, truth: Truth) -> Asked:
    """What a job has read comes to."""
    chosen = advised_of(trial.case)
    is_right = (
        chosen is not None
        and truth.mends(chosen.key)
        and truth.worth[chosen.key] <= NEAR_LEAST * truth.worth[truth.least] + 1.0
    )
    return Asked(
        is_right, verdict_of(trial.case, trial.piece)[0] == truth.chief, is_settled(trial.case, trial.piece)
    )


class _Lots:
    """The lots that may be read of a piece, and what reading some of them takes and comes to."""

    def __init__(self, piece: Piece, truth: Truth) -> None:
        self._piece, self._truth, self._gestures = piece, truth, beginning(piece)
        plain = Trial(piece, self._gestures)
        self.lots = [(case.assembly_key, s, lot) for case, s, lot in plain.lots() if not s.is_optional]
        self.cost = [whole_minutes(s, lot) for _, s, lot in self.lots]
        self._ready = [
            frozenset(p.key for p in preparations_of(s.key) if _needed(piece, p.key)) for _, s, _ in self.lots
        ]
        self.every = tuple(range(len(self.lots)))
        self.asked = came_to(self._read(self.every), truth)

    def _read(self, chosen: Sequence[int]) -> Trial:
        trial = Trial(self._piece, self._gestures)
        for i in chosen:
            assembly, s, lot = self.lots[i]
            trial.prepare(s)
            trial.read(trial.cases.of(assembly), s, lot)
        return trial

    def minutes(self, chosen: Sequence[int]) -> float:
        """Of a set, what must be done before it included."""
        done = frozenset[str]().union(*(self._ready[i] for i in chosen))
        return sum(self.cost[i] for i in chosen) + sum(PREPARATIONS[p].minutes for p in done)

    def are_enough(self, chosen: Sequence[int]) -> bool:
        """Whether a set comes to what all of them come to."""
        return self.asked.is_met(self._read(chosen), self._truth)

    def order(self, chosen: Sequence[int], *, is_proven: bool) -> BestOrder:
        """A set as an order."""
        titles = tuple(self.lots[i][2].title for i in chosen)
        each = tuple(self.cost[i] for i in chosen)
        return BestOrder(self.minutes(chosen), titles, is_found=True, each=each, is_proven=is_proven)


def best_order(piece: Piece, truth: Truth, *, most_tried: int = MOST_TRIED) -> BestOrder:
    """The fewest minutes after which what is said of this very machine is right, as far as reading everything
    makes it right.

    What no set can do without is found by leaving each lot out of all; the dearest of the others are left out
    while the rest is enough; then cheaper sets are tried, cheapest first, each holding what none can do
    without. It is proven where all cheaper ones were tried. More readings are taken never to unsettle.
    """
    all_of = _Lots(piece, truth)
    needed = tuple(i for i in all_of.every if not all_of.are_enough([j for j in all_of.every if j != i]))
    kept = list(all_of.every)
    for i in sorted(set(kept) - set(needed), key=lambda i: -all_of.cost[i]):
        fewer = [j for j in kept if j != i]
        if fewer and all_of.are_enough(fewer):
            kept = fewer
    most = all_of.minutes(kept)
    rest = [i for i in all_of.every if i not in needed]
    waiting = [(all_of.minutes(needed), needed, -1)]
    for _ in range(most_tried):
        if not waiting or waiting[0][0] >= most:
            return all_of.order(kept, is_proven=True)
        _, chosen, last = heapq.heappop(waiting)
        if chosen and all_of.are_enough(chosen):
            return all_of.order(sorted(chosen), is_proven=True)
        for at in range(last + 1, len(rest)):
            more = (*chosen, rest[at])
            if all_of.minutes(more) < most:
                heapq.heappush(waiting, (all_of.minutes(more), more, at))
    return all_of.order(kept, is_proven=False)


def or_own(entries: Sequence[Entry], piece: Piece, truth: Truth, best: BestOrder) -> BestOrder:
    """The best order, or the player's own where it came to as much in less."""
    own = Trial.after(piece, entries)
    spent = used(own.case).minutes
    if not 0 < spent < best.minutes or not _Lots(piece, truth).asked.is_met(own, truth):
        return best
    return BestOrder(spent, ("your own",), is_found=True, each=(spent,), is_own=True)


def _needed(piece: Piece, preparation: str) -> bool:
    return any(one.lie.cured_by == preparation for one in lying(piece.lies))
