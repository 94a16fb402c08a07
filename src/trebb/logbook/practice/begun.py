"""A practice job begun: the hidden machine written, what it really is, and what was used on it."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

from msgspec import Struct
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.practice.ground_records import Ground
from trebb.core.practice.grounds import chief, exact
from trebb.core.practice.lies import PREPARATIONS
from trebb.core.practice.piece import Piece
from trebb.core.practice.scoring import (
    HINTS,
    worth,
)
from trebb.core.remedies import Remedy, predict, remedies_of, sets_of, together
from trebb.core.survey import AnySetUp, Lot, set_up
from trebb.logbook.cases.case import Case
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.practice_piece import piece_mark, piece_of
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import (
    AssemblyAdded,
    Body,
    Entry,
    FactStated,
    JobStarted,
    NumberOneNamed,
    Planted,
    PracticeMarked,
    gesture_of,
)
from trebb.logbook.log.fold import Job
from trebb.logbook.practice.state import stood

SLACK = 1.15  # where nothing mends it, what leaves this much more than the least still counts
SHOP = "Practice bench"


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
    return JobFile.begin(path, *beginning(piece))


def as_entries(bodies: Sequence[Body], first: int = 1) -> list[Entry]:
    """Bodies as the entries of one gesture that is in no file."""
    return gesture_of(bodies, first, "2000-01-01T00:00:00.000Z")


def limits_of(case: Case, on: Ground) -> dict[str, float]:
    """The limits of a ground, mm."""
    return {key: case.job.limit(key).limit_mm for key in on.limits}


class Truth(Struct, frozen=True):
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
    """What can be done to the machine as it really is, alone or together: a hard one takes no reamer."""
    subject = case.subject_for("before")
    can = [
        case.quoted(r)
        for r in remedies_of(case.family)
        if r.applies(subject) and not r.hides and not (piece.is_hard and r.hinder(filed(case)))
    ]
    yield from can
    yield from (together(members) for members in sets_of(can, subject, case.mended_from))


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


class Used(Struct, frozen=True):
    """Minutes at the bench, readings, and hints by kind."""

    minutes: float
    readings: int
    hints: Mapping[str, int]


def lot_of_place(s: AnySetUp, subject: Any, place: str) -> Lot | None:
    """The lot that a place is read in."""
    return next((lot for lot in s.all_lots(subject) if place in lot.places), None)


def used(case: Case) -> Used:
    """What was used so far: setting each lot up once, each reading its share of its place's minutes, a place
    that the indicator was seen at as much as one reading, what was done beforehand.
    """
    subject = case.subject_for("before")
    piece = piece_of(case.job)
    mine = (case.assembly_key, *(piece.ground.also if piece is not None else ()))
    times: Counter[tuple[str, str, str]] = Counter()
    for reading in case.job.all_readings():
        taken = reading.taken
        if taken.assembly in mine and taken.phase == "before":
            times[taken.assembly, taken.set_up, taken.place] += 1
    count = times.total()
    times.update(at for at in stood(case.job) - times.keys() if at[0] in mine)
    minutes, seen = 0.0, set()
    for (_, key, place), often in times.items():
        s = set_up(key)
        lot = lot_of_place(s, subject, place)
        if (key, lot.key if lot else "") not in seen:
            seen.add((key, lot.key if lot else ""))
            minutes += s.setting_minutes if lot is None else s.setting_of(lot)
        minutes += often * s.minutes / max(s.wanted, 1)
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


def filed(case: Case) -> Any:
    return replace(case.subject_for("before"), file="skates")
