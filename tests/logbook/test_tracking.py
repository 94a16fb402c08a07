"""Results that know what they rest on: kept exactly as long as they are true."""

from __future__ import annotations

import random
from collections.abc import Mapping

import msgspec
import numpy as np
import pytest

from trebb.core.errors import InputError, TrebbError
from trebb.core.facts import Choice, Length, Number
from trebb.core.units import UnitSystem
from trebb.logbook.cases.admitting import admit
from trebb.logbook.cases.casework import Cases
from trebb.logbook.demo.jobs import DEMOS, simulated_reading
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import (
    AssemblyAdded,
    CardChanged,
    ContactPainted,
    FactStated,
    JobStarted,
    LimitSet,
    NoteWritten,
    PartSet,
    ReadingStruck,
    Redone,
    RemedyChosen,
    SizeTaken,
    Undone,
)
from trebb.logbook.log.fold import Job
from trebb.logbook.log.tracking import Ledger, derived

INCH = UnitSystem.INCH


class Sums(Ledger):
    """A ledger of two numbers."""

    def __init__(self):
        super().__init__()
        self.numbers = {"a": 1, "b": 2}

    def put(self, key, value):
        self.version += 1
        self.numbers[key] = value
        self.touch((key,))

    def get(self, key):
        self.saw((key,))
        return self.numbers[key]


class Owner:
    def __init__(self, job):
        self.job, self.nodes, self.worked = job, {}, []

    @derived
    def sign(self, key):
        self.worked.append(f"sign {key}")
        return self.job.get(key) > 0

    @derived
    def words(self, key):
        self.worked.append(f"words {key}")
        if self.job.get("b") < 0:
            raise InputError("b", "not less than nothing")
        return "more" if self.sign(key) else "less"


def test_a_result_is_worked_out_again_only_when_what_it_read_changed():
    owner = Owner(Sums())
    assert owner.words("a") == owner.words("a") == "more"
    assert owner.worked == ["words a", "sign a"]
    owner.job.put("c", 5)
    assert owner.words("a") == "more"
    assert owner.worked == ["words a", "sign a"]
    owner.job.put("a", 7)  # another number of the same sign: what rests on the sign stands
    assert owner.words("a") == "more"
    assert owner.worked == ["words a", "sign a", "sign a"]
    owner.job.put("a", -7)
    assert owner.words("a") == "less"


def test_a_refusal_is_kept_like_a_result_and_goes_with_its_cause():
    owner = Owner(Sums())
    owner.job.put("b", -1)
    for _ in range(2):
        with pytest.raises(InputError, match="not less than nothing"):
            owner.words("a")
    assert owner.worked == ["words a"]
    owner.job.put("b", 1)
    assert owner.words("a") == "more"


def same(a, b) -> bool:
    """Equal through and through; figures to a billionth."""
    if isinstance(a, np.ndarray):
        return isinstance(b, np.ndarray) and a.shape == b.shape and np.allclose(a, b, rtol=1e-9, atol=1e-12)
    if isinstance(a, float) and isinstance(b, float):
        return a == b or abs(a - b) <= 1e-9 * max(1.0, abs(a))
    if isinstance(a, msgspec.Struct):
        names = [name for name in a.__struct_fields__ if not callable(getattr(a, name))]
        return type(a) is type(b) and all(same(getattr(a, n), getattr(b, n)) for n in names)
    if isinstance(a, Mapping):
        return set(a) == set(b) and all(same(a[k], b[k]) for k in a)
    if isinstance(a, list | tuple):
        return len(a) == len(b) and all(map(same, a, b))
    return bool(a == b)


LOOKS = ("findings", "figure_now", "suggestions", "predictions", "comparisons", "fit_order", "set_aside")


def look(case, rng) -> None:
    """Ask a case for one thing or another, as a screen would."""
    name = rng.choice(LOOKS)
    try:
        method = getattr(case, name)
        method(INCH) if name == "findings" else method()
        if case.part_keys():
            case.part(rng.choice(case.part_keys()), INCH)
            case.reminder(case.part_keys()[0])
    except TrebbError:
        pass


def gesture(cases, rng):
    """Something a rebuilder might do next."""
    job = cases.job
    case = rng.choice(cases.measurable())
    s = rng.choice(case.set_ups)
    match rng.randrange(11):
        case 0 | 1 | 2:
            places = [p.key for p in case.places(s.key)]
            phase = rng.choice(("before", "before", "after")) if s.is_proof else "before"
            return [simulated_reading(case, s.key, rng.choice(places), phase)] if places else []
        case 3:
            taken = job.all_readings()
            return [ReadingStruck(rng.choice(taken).id, "bumped")] if taken else []
        case 4:
            fact = rng.choice(case.schema.facts)
            if isinstance(fact, Choice):
                return [FactStated(case.holder, fact.key, rng.choice([k for k in fact.choices if k] or [""]))]
            if isinstance(fact, Length | Number):
                value = case.stated(fact) or fact.low
                return [FactStated(case.holder, fact.key, float(round(value * rng.choice((0.9, 1.1)), 3)))]
            return []
        case 5:
            remedies = [r.key for r, _ in case.predictions()]
            return [RemedyChosen(case.assembly_key, rng.choice(remedies), "")]
        case 6:
            return [LimitSet(rng.choice(list(case.limit_keys())), round(rng.uniform(0.01, 0.3), 3), "own")]
        case 7:
            return [Undone(job.undoable)] if job.undoable else []
        case 8:
            return [Redone(job.redoable)] if job.redoable else []
        case 9:
            cells = "".join(rng.choice("01") for _ in range(192))
            return [ContactPainted("spindle", "before", cells), NoteWritten("noise.spindle.before", "growl")]
        case _:
            part = case.part_name("screw")
            return rng.choice((
                [CardChanged("worth", 900.0)], [CardChanged("wheels", "20 40 60 80 127")],
                [PartSet(part, "journal_dia", 15.0)], [SizeTaken(part, "thread", "over wires", 19.3)],
            ))  # fmt: skip


@pytest.mark.parametrize("seed", range(3))
@pytest.mark.parametrize("kind", sorted(DEMOS))
def test_every_kept_result_is_what_a_fresh_fold_gives(tmp_path, kind, seed):
    rng = random.Random(f"{kind} {seed}")
    with DEMOS[kind](tmp_path / "job.trebb") as job_file:
        cases = Cases(Job(job_file.entries()))
        for _ in range(45):
            bodies = gesture(cases, rng)
            try:
                for body in bodies:
                    admit(cases.job, cases, body)
            except InputError:
                continue
            for entry in job_file.append(bodies):
                cases.job.apply(entry)
            for case in rng.sample(cases.measurable(), 3):
                look(case, rng)
        fresh = Cases(Job(job_file.entries()))
        compared = 0
        for case in cases.measurable():
            for name, arguments in list(case.nodes):
                method = name.rsplit(".", 1)[-1]
                kept, anew = (asked(c.of(case.assembly_key), method, arguments) for c in (cases, fresh))
                assert same(kept, anew), (case.assembly_key, name, arguments)
                compared += 1
        assert compared > 60


def asked(case, method: str, arguments):
    """What a case answers, or why it does not."""
    found = getattr(type(case), method)
    try:
        return getattr(case, method) if isinstance(found, property) else found(case, *arguments)
    except TrebbError as error:
        return str(error)


@pytest.mark.parametrize("kind", sorted(DEMOS))
def test_a_job_of_an_older_version_opens_whole(tmp_path, kind):
    from pathlib import Path
    from shutil import copy

    old = Path(__file__).parents[1] / "data" / "jobs_0_4_0" / f"{kind}.trebb"
    copy(old, tmp_path / "old.trebb")
    with JobFile.open(tmp_path / "old.trebb") as job_file:
        cases = Cases(Job(job_file.entries()))
        assert cases.job.set_aside() == []
        assert all(case.findings(INCH) for case in cases.measurable() if case.is_measured)
        assert cases.first().chosen is not None


def test_keywords_tell_results_apart():
    class Doubled(Owner):
        @derived
        def times(self, key, *, by=2):
            return by * self.job.get(key)

    owner = Doubled(Sums())
    assert (owner.times("a"), owner.times("a", by=5), owner.times("a", by=3)) == (2, 5, 3)
    assert owner.times("a") == 2


def test_facts_found_before_are_asked_anew_when_their_assembly_goes(tmp_path):
    """Two results ask for the same facts: the second finds them kept, and rests on the machine too."""

    class Asks:
        def __init__(self, job):
            self.job, self.nodes = job, {}

        @derived
        def stated(self, who):
            return dict(self.job.facts_of("rod"))

        @derived
        def matters(self, who):
            return dict(self.job.matters("plan"))

    with JobFile.create(tmp_path / "job.trebb") as job_file:
        job_file.append([JobStarted(shop="s", machine="m", machine_kind="lathe")])
        job_file.append([AssemblyAdded(assembly="rod", label="Rod", family="shaft", under="cross_slide")])
        job_file.append([FactStated(assembly="rod", field="length_mm", value=200.0)])
        job = Job(job_file.entries())
        asks = Asks(job)
        assert asks.stated("first") == asks.stated("second") == {"length_mm": 200.0}
        gone = AssemblyAdded(assembly="rod", label="Rod", family="shaft", under="cross_slide", gone=True)
        for entry in job_file.append([gone]):
            job.apply(entry)
        assert asks.stated("first") == asks.stated("second") == {}
        again = AssemblyAdded(assembly="rod", label="Rod", family="bore", under="cross_slide")
        for entry in job_file.append([again]):
            job.apply(entry)
        assert asks.stated("second") == Job(job_file.entries()).facts_of("rod")
