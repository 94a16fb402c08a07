"""The fold: last entry wins, undo and redo, one entry at a time."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from trebb.logbook.cases.casework import SCREW
from trebb.logbook.log.entries import (
    AssemblyAdded,
    CardChanged,
    Entry,
    Graded,
    LimitSet,
    NoteWritten,
    NumberOneNamed,
    ReadingKept,
    ReadingStruck,
    ReadingTaken,
    Redone,
    SizeStruck,
    SizeTaken,
    StepDone,
    Undone,
)
from trebb.logbook.log.fold import Job


def reading(value: float, place: str = "station 1", phase: str = "before") -> ReadingTaken:
    return ReadingTaken(assembly=SCREW, set_up="lash", place=place, phase=phase, value=value, unit="div")


def fold(*gestures) -> Job:
    job, number = Job(), 0
    for gesture in gestures:
        bodies = gesture if isinstance(gesture, list) else [gesture]
        first = number + 1
        for body in bodies:
            number += 1
            job.apply(Entry(number, "2026-01-01T00:00:00Z", first, body))
    return job


def values(job: Job) -> list[float]:
    return [v for p in job.standing(SCREW, "lash") for v in p.values]


def test_the_last_of_a_kind_stands():
    job = fold(
        CardChanged(field="year", value="1957"),
        CardChanged(field="year", value="1958"),
        CardChanged(field="make", value="x"),
    )
    assert (job.card("year"), job.card("make"), job.card("none", "-")) == ("1958", "x", "-")


def test_undo_brings_back_what_stood_before_and_redo_restores_it():
    first, second = Graded(assembly="ways", grade="good"), Graded(assembly="ways", grade="works")
    job = fold(first, second)
    assert job.undoable == 2
    job.apply(Entry(3, "", 3, Undone(gesture_id=2)))
    assert job.grade("ways").grade == "good"
    assert job.redoable == 2
    job.apply(Entry(4, "", 4, Redone(gesture_id=2)))
    assert job.grade("ways").grade == "works"
    assert job.redoable is None


def test_a_new_gesture_ends_what_could_be_redone():
    job = fold(reading(1), reading(2), Undone(gesture_id=2), reading(3))
    assert job.redoable is None
    assert values(job) == [1, 3]


def test_the_first_gesture_of_a_job_cannot_be_undone():
    assert fold(CardChanged(field="year", value="1")).undoable is None


def test_a_gesture_of_several_entries_is_undone_whole():
    job = fold(reading(1), [reading(2), reading(3)], Undone(gesture_id=2))
    assert values(job) == [1]


def test_a_struck_reading_stays_readable_with_its_reason_and_no_longer_counts():
    job = fold(reading(27), reading(28), ReadingStruck(reading=1, reason="bumped"))
    assert values(job) == [28]
    assert [(r.taken.value, r.struck) for r in job.readings(SCREW, "lash")] == [(27, "bumped"), (28, None)]


def test_undoing_a_strike_out_counts_the_reading_again():
    job = fold(reading(27), reading(28), ReadingStruck(reading=1, reason="bumped"), Undone(gesture_id=3))
    assert values(job) == [27, 28]


def test_a_reading_taken_back_is_still_shown_as_such():
    job = fold(reading(27), reading(28), Undone(gesture_id=2))
    assert job.readings(SCREW, "lash")[1].struck == "taken back"
    assert job.last_reading(SCREW, "before") is None


def test_before_and_after_do_not_mix():
    job = fold(reading(27), reading(2, phase="after"))
    assert values(job) == [27]
    assert job.standing(SCREW, "lash", "after")[0].values == (2,)


def test_a_step_may_be_taken_back():
    job = fold(
        StepDone(plan="fit", step="clean"),
        StepDone(plan="fit", step="marks"),
        StepDone(plan="fit", step="clean", done=False),
    )
    assert job.steps_done("fit") == {"marks"}


def test_a_struck_size_stays_readable():
    size = SizeTaken(part="screw", operation="thread", what="over wires", value_mm=19.3)
    job = fold(size, SizeStruck(size=1, reason="wire fell"))
    assert [s.struck for s in job.sizes("screw", "thread")] == ["wire fell"]


def test_a_limit_is_the_class_default_until_it_is_set():
    job = fold(NumberOneNamed(assembly=SCREW))
    assert "class default" in job.limit("cross_lash").source
    job = fold(LimitSet(key="cross_lash", limit_mm=0.05, source="from this machine's own card"))
    assert job.limit("cross_lash").limit_mm == 0.05


def test_a_topic_changes_only_when_one_of_its_entries_comes_or_goes():
    job = fold(reading(1))
    topic = ("readings", SCREW, "lash", "before")
    assert job.changed_at(topic) == 1
    job.apply(Entry(2, "", 2, NoteWritten(topic="left", text="x")))
    assert job.changed_at(topic) == 1
    job.apply(Entry(3, "", 3, ReadingKept(reading=1)))
    assert job.changed_at(topic) == 3
    job.apply(Entry(4, "", 4, Undone(gesture_id=3)))
    assert job.changed_at(topic) == 4


def test_a_gesture_is_named_in_words():
    job = fold(reading(1), ReadingStruck(reading=1, reason="x"))
    assert job.gesture_words(2) == "strike-out"


BODIES = st.one_of(
    st.builds(reading, st.floats(0, 99), st.sampled_from(["station 1", "station 2"])),
    st.builds(ReadingStruck, reading=st.integers(1, 12), reason=st.just("x")),
    st.builds(CardChanged, field=st.sampled_from(["a", "b"]), value=st.text(max_size=3)),
    st.builds(StepDone, plan=st.just("fit"), step=st.sampled_from(["a", "b"]), done=st.booleans()),
    st.builds(Undone, gesture_id=st.integers(1, 12)),
    st.builds(Redone, gesture_id=st.integers(1, 12)),
)


def seen(job: Job):
    return values(job), job.card("a"), job.card("b"), job.steps_done("fit"), job.undoable, job.redoable


@settings(max_examples=120)
@given(st.lists(BODIES, max_size=14))
def test_folding_one_at_a_time_is_folding_all_at_once(bodies):
    entries = [Entry(i + 1, "", i + 1, body) for i, body in enumerate(bodies)]
    step_by_step = Job()
    for entry in entries:
        step_by_step.apply(entry)
        seen(step_by_step)
    assert seen(step_by_step) == seen(Job(entries))


@pytest.mark.parametrize("kind", [0, 1])
def test_undo_of_something_that_is_not_there_changes_nothing(kind):
    job = fold(reading(1), Undone(gesture_id=99) if kind else Redone(gesture_id=99))
    assert values(job) == [1]


def test_a_piece_taken_off_may_come_back_under_an_assembly_that_came_meanwhile():
    piece = {"assembly": "gear", "label": "Gear", "family": "gear"}
    job = fold(
        AssemblyAdded(**piece, under="apron"),
        AssemblyAdded(**piece, under="apron", gone=True),
        AssemblyAdded(assembly="change_box", label="Change box"),
        AssemblyAdded(**piece, under="change_box"),
    )
    assert job.machine.assembly("gear").under == "change_box"
    job = fold(
        AssemblyAdded(**piece, under="apron"),
        Undone(gesture_id=1),
        AssemblyAdded(assembly="change_box", label="Change box"),
        AssemblyAdded(**piece, under="change_box"),
    )
    assert job.machine.assembly("gear").under == "change_box"
    job = fold(AssemblyAdded(**piece, under="apron"), AssemblyAdded(**piece, under="apron", gone=True))
    assert not job.machine.has("gear")
