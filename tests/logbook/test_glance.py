"""A job at a glance on the start page."""

from __future__ import annotations

import datetime

import pytest

from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.glance import glance
from trebb.logbook.file.store import JobFile
from trebb.logbook.file.watching import watch
from trebb.logbook.log.entries import (
    JobStarted,
    MatterStated,
    ReadingStruck,
    ReadingTaken,
    Redone,
    RemedyChosen,
    StepDone,
    Undone,
)

TODAY = datetime.date(2026, 12, 1)


@pytest.fixture
def job(tmp_path):
    with JobFile.create(tmp_path / "a #1.trebb") as job_file:
        job_file.append([JobStarted(shop="Lock depot", machine="Lathe 9", machine_kind="lathe")])
        yield job_file


def reading(phase):
    return ReadingTaken("saddle", "rock", "mid, thin end", phase, 0.01, "mm")


@pytest.mark.parametrize(
    ("bodies", "far"),
    [
        ([], ""),
        ([reading("before")], "Survey"),
        ([reading("before"), RemedyChosen("saddle", "tighten", "")], "Remedies"),
        ([StepDone("nut", "face")], ""),
        ([StepDone("fit", "clean")], "Fit-up"),
        ([StepDone("fit", "clean"), reading("after")], "Prove"),
    ],
)
def test_how_far_it_is(job, bodies, far):
    for body in bodies:
        job.append([body])
    assert glance(job.path, TODAY).far == far


def test_what_was_taken_back_or_struck_out_counts_nowhere(job):
    due = job.append([MatterStated("plan", "", "ready_by", "2026-12-20")])[0].gesture
    first = job.append([reading("before")])[0].id
    after = job.append([reading("after")])[0].gesture
    job.append([StepDone("fit", "clean")])
    assert glance(job.path, TODAY).words().startswith("Prove, 2 readings")
    job.append([Undone(gesture_id=after)])
    assert glance(job.path, TODAY).words().startswith("Fit-up, 1 reading,")
    job.append([StepDone("fit", "clean", done=False)])
    assert glance(job.path, TODAY).words().startswith("Survey, 1 reading,")
    job.append([Redone(gesture_id=after)])
    assert glance(job.path, TODAY).words().startswith("Prove, 2 readings")
    job.append([ReadingStruck(reading=first, reason="bumped")])
    assert glance(job.path, TODAY).readings == 1
    assert "ready by" in glance(job.path, TODAY).due
    job.append([Undone(gesture_id=due)])
    assert glance(job.path, TODAY).due == ""
    job.append([Undone(gesture_id=due)])  # twice is once
    assert glance(job.path, TODAY).due == ""


def test_machine_shop_readings_and_words(job):
    job.append([reading("before")])
    one = glance(job.path, TODAY)
    assert (one.machine, one.shop, one.readings) == ("Lathe 9", "Lock depot", 1)
    assert "Survey, 1 reading, last on" in one.words()
    assert one.has("lathe DEPOT")
    assert not one.has("mill")


def test_the_nearest_date_is_due_and_one_past_says_so(job):
    for of, fields in (
        ("", {"ready_by": "2026-12-20"}),
        ("a1", {"what": "belt", "due": "2026-12-05"}),
        ("a2", {"what": "level", "due": "2026-11-01", "done": "2026-11-02"}),
    ):
        matter = "plan" if not of else "again"
        job.append([MatterStated(matter, of, field, value) for field, value in fields.items()])
    assert "look again: belt, Sat 5 Dec" in glance(job.path, TODAY).words()
    assert "(past)" in glance(job.path, datetime.date(2026, 12, 9)).words()


def test_a_file_that_is_gone_or_no_job_says_so(tmp_path):
    assert "not there" in glance(tmp_path / "none.trebb").words()
    (tmp_path / "b.trebb").write_bytes(b"words")
    assert "cannot be read" in glance(tmp_path / "b.trebb").words()


def test_a_job_is_watched_while_it_is_written(job):
    job.append([reading("before")])
    job.append([RemedyChosen("saddle", "leave", "")])

    def rest(seconds):
        job.append([reading("after")])

    feed = watch(job.path, after=0, rest=rest)
    first, second = next(feed), next(feed)
    assert (first["kind"], first["set_up"], first["phase"]) == ("reading.taken", "rock", "before")
    assert second["phase"] == "after"
    assert second["entry"] > first["entry"]
    from_now = watch(job.path, rest=rest)
    assert next(from_now)["entry"] > second["entry"]


def test_what_cannot_be_watched_is_said(tmp_path):
    with pytest.raises(JobFileError, match="no such file"):
        next(watch(tmp_path / "none.trebb"))
    (tmp_path / "b.trebb").write_bytes(b"words" * 100)
    with pytest.raises(JobFileError, match="cannot be watched"):
        next(watch(tmp_path / "b.trebb"))
