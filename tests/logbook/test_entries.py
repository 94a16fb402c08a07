"""Every kind of entry, stored and read back."""

from __future__ import annotations

import json

import msgspec
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from trebb.logbook.exchange.job_json import job_to_json
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile
from trebb.logbook.log import entries as kinds
from trebb.logbook.log.entries import KINDS, Entry, JobStarted, LimitSet, ReadingTaken
from trebb.logbook.log.fold import Job

EXAMPLES = (
    kinds.JobStarted(shop="s", machine="m", machine_kind="lathe"),
    kinds.CardChanged(field="year", value="1958"),
    kinds.CardChanged(field="make", value="“x” \n"),
    kinds.Graded(assembly="ways", grade="works", note="é"),
    kinds.NumberOneNamed(assembly="ways"),
    kinds.LimitSet(key="cross_lash", limit_mm=0.1, source="card"),
    kinds.FactStated(assembly="cross_slide", field="pitch_mm", value=3.175),
    kinds.ReadingTaken(
        assembly="cross_slide", set_up="lash", place="station 1", phase="before", value=27.5, unit="div"
    ),
    kinds.ReadingStruck(reading=8, reason="bumped"),
    kinds.ReadingKept(reading=8),
    kinds.RemedyChosen(assembly="cross_slide", remedy="leave", reason=""),
    kinds.PartSet(part="nut", field="play", value=0.04),
    kinds.SizeTaken(part="screw", operation="thread", what="over wires", value_mm=19.3),
    kinds.SizeStruck(size=13, reason="x"),
    kinds.StepDone(plan="fit", step="clean"),
    kinds.PowerLocked(locked=True),
    kinds.NoteWritten(topic="left", text="t"),
    kinds.Planted(assembly="cross_slide", seed=3, condition={"nut": 0.1}),
    kinds.Undone(gesture_id=2),
    kinds.Redone(gesture_id=2),
    kinds.ContactPainted(assembly="spindle", phase="before", cells="01" * 96),
    kinds.MarkScribed(assembly="spindle", what="chuck", angle_deg=185.0),
    kinds.MatterStated(matter="task", of="make.cross_slide.screw", field="hours", value=6.5),
    kinds.PracticeMarked(what="verdict", of="nut", share=0.9),
    kinds.AssemblyAdded(assembly="dial_shaft", label="Dial shaft", family="shaft", under="apron"),
)


def test_every_kind_has_an_example_here():
    assert {type(e) for e in EXAMPLES} | {kinds.PhotoAdded} == set(KINDS.values())


def test_every_kind_is_stored_and_read_back_unchanged(tmp_path):
    with JobFile.create(tmp_path / "a.trebb") as job_file:
        for body in EXAMPLES:
            job_file.append([body])
        assert [e.body for e in job_file.entries()] == list(EXAMPLES)
        assert [{"kind": b.kind, **b.fields()} for b in EXAMPLES] == [
            {k: v for k, v in row.items() if k not in ("id", "at", "gesture")}
            for row in json.loads(job_to_json(job_file))["entries"]
        ]


def test_many_of_a_kind_are_read_in_their_order(tmp_path):
    with JobFile.create(tmp_path / "a.trebb") as job_file:
        for i in range(150):
            job_file.append([msgspec.structs.replace(EXAMPLES[7], value=float(i)), EXAMPLES[14]])
        bodies = [e.body for e in job_file.entries()]
    assert [b.value for b in bodies if isinstance(b, ReadingTaken)] == [float(i) for i in range(150)]
    assert bodies[1::2] == [EXAMPLES[14]] * 150


@pytest.mark.parametrize("body", EXAMPLES, ids=lambda b: b.kind)
def test_an_entry_cannot_be_changed_once_made(body):
    with pytest.raises(AttributeError, match="immutable"):
        setattr(body, body.__struct_fields__[0], "other")


@pytest.mark.parametrize(
    ("kind", "fields", "said"),
    [
        (JobStarted, {"shop": "s", "machine": "m", "machine_kind": "boat"}, "“machine_kind”: .*boat"),
        (LimitSet, {"key": "k", "limit_mm": -1, "source": "s"}, "“limit_mm”: .*> 0"),
        (
            ReadingTaken,
            {
                "assembly": "a",
                "set_up": "s",
                "place": "p",
                "phase": "before",
                "value": float("inf"),
                "unit": "mm",
            },
            "finite",
        ),
        (
            ReadingTaken,
            {"assembly": "a", "set_up": "s", "place": "p", "phase": "soon", "value": 1, "unit": "mm"},
            "“phase”: .*soon",
        ),
        (
            kinds.ContactPainted,
            {"assembly": "spindle", "phase": "before", "cells": "0110"},
            "“cells”: .*matching",
        ),
    ],
)
def test_a_body_that_could_not_be_read_back_is_not_written(tmp_path, kind, fields, said):
    with JobFile.create(tmp_path / "a.trebb") as job_file:
        with pytest.raises(JobFileError, match=said):
            job_file.append([kind(**fields)])
        assert job_file.entries() == []


@settings(max_examples=30, deadline=None)
@given(st.lists(st.sampled_from(EXAMPLES), min_size=1, max_size=25))
def test_any_run_of_entries_folds_the_same_from_file_and_from_memory(tmp_path_factory, bodies):
    path = tmp_path_factory.mktemp("fold") / "a.trebb"
    with JobFile.create(path) as job_file:
        live = Job()
        for body in bodies:
            for entry in job_file.append([body]):
                live.apply(entry)
        again = Job(job_file.entries())
    assert again.all_readings() == live.all_readings()
    assert (again.undoable, again.redoable, again.number_one) == (
        live.undoable,
        live.redoable,
        live.number_one,
    )
    assert again.steps_done("fit") == live.steps_done("fit")
    assert again.card("year") == live.card("year")


def test_an_entry_knows_its_number_time_and_gesture(tmp_path):
    with JobFile.create(tmp_path / "a.trebb") as job_file:
        first, second = job_file.append(EXAMPLES[:2])
    assert isinstance(first, Entry)
    assert (first.id, second.id, second.gesture) == (1, 2, 1)
    assert first.at.endswith("Z")
