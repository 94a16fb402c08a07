"""Two copies of a job that went apart are one again: nothing lost, nothing twice, what clashes is chosen."""

from __future__ import annotations

import json
import shutil

import pytest

from tests.demo import demo_at
from trebb.app.cli import main
from trebb.core.errors import InputError
from trebb.logbook.cases.casework import SCREW
from trebb.logbook.file.joining import chosen, joined
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import (
    FactStated,
    NoteWritten,
    PhotoAdded,
    ReadingStruck,
    ReadingTaken,
    RemedyChosen,
    Undone,
)
from trebb.logbook.log.fold import Job


def reading(value):
    return ReadingTaken(SCREW, "end_float", "bearing", "before", value, "mm")


def values(entries):
    return [
        (r.taken.value, r.struck is not None)
        for r in Job(entries).readings(SCREW, "end_float")
        if r.taken.place == "bearing"
    ]


@pytest.fixture
def copies(tmp_path):
    first, second = tmp_path / "bench.trebb", tmp_path / "office.trebb"
    demo_at(first).close()
    shutil.copy(first, second)
    with JobFile.open(first) as bench:
        begun = len(bench.entries())
        bench.append([reading(0.11)])
        bench.append([FactStated(SCREW, "travel_mm", 200.0)])
        taken_back = bench.append([reading(0.12)])[0].gesture
        bench.append([Undone(gesture_id=taken_back)])
    with JobFile.open(second) as office:
        wrong = office.append([reading(0.91)])[0].id
        office.append([ReadingStruck(reading=wrong, reason="bumped")])
        office.append([FactStated(SCREW, "travel_mm", 210.0), NoteWritten("left", "oil cap")])
        office.append([RemedyChosen(assembly=SCREW, remedy="made_nut", reason="")])
    return first, second, begun


def entries(path):
    with JobFile.open(path) as file:
        return file.entries()


def test_what_each_did_is_there_once_and_what_was_taken_back_or_struck_stays_so(copies):
    first, second, begun = copies
    before = values(entries(first)[:begun])
    found = joined(entries(first), entries(second))
    assert (found.of_both, found.of_first, found.of_second) == (begun, 4, 5)
    assert [e.id for e in found.entries] == list(range(1, begun + 10))
    assert [v for v in values(found.entries) if v not in before] == [
        (0.11, False),
        (0.12, True),  # taken back in its own copy
        (0.91, True),
    ]
    (clash,) = found.clashes
    assert clash.about.endswith(f"{SCREW} travel_mm")
    assert (clash.words("first"), clash.words("second")) == ("value 200.0", "value 210.0")
    for side, travel in (("first", 200.0), ("second", 210.0)):
        job = Job(chosen(found, [side], "2030-01-01T00:00:00.000+00:00"))
        assert job.facts_of(SCREW)["travel_mm"] == travel
        assert job.chosen(SCREW).remedy == "made_nut"
        assert job.note("left") == "oil cap"
    # Joined again with either copy nothing is new.
    again = joined(found.entries, entries(second))
    assert (again.of_second, again.entries) == (0, found.entries)
    assert joined(entries(first), entries(first)).entries == tuple(entries(first))


def test_the_other_way_round_the_same_stands(copies):
    first, second, _ = copies
    one, other = joined(entries(first), entries(second)), joined(entries(second), entries(first))
    assert sorted(values(one.entries)) == sorted(values(other.entries))
    assert one.clashes[0].of(one.clashes[0].newer) == other.clashes[0].of(other.clashes[0].newer)


def test_copies_of_two_jobs_are_refused_and_a_clash_asks(copies, tmp_path, capsys):
    first, second, _ = copies
    demo_at(tmp_path / "mill.trebb", "mill").close()
    with pytest.raises(InputError, match="different jobs"):
        joined(entries(first), entries(tmp_path / "mill.trebb"))
    out = tmp_path / "one.trebb"
    assert main(["join", str(first), str(second), str(out)]) == 1
    said = capsys.readouterr().err
    assert "Cross-slide screw: Travel: 7.8740 in in the first, 8.2677 in in the second" in said
    assert "--keep newer" in said
    assert not out.exists()
    with JobFile.open(second) as office:
        office.append(
            [PhotoAdded(SCREW, "a" * 64, "image/png", "nut.png", "the nut")],
            {"a" * 64: ("image/png", b"picture")},
        )
    assert main(["join", str(first), str(second), str(out), "--keep", "first", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["clashes"][0]["stands"] == "first"
    with JobFile.open(out) as one:
        assert Job(one.entries()).facts_of(SCREW)["travel_mm"] == 200.0
        assert one.photograph("a" * 64) == ("image/png", b"picture")
    assert main(["join", str(first), str(second), str(out), "--keep", "newer"]) == 1  # nothing is overwritten
