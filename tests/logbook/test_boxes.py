"""What arrived in boxes: lists that can be put together, what goes in without what is missing, what that
waits for in the plan and on the list to buy."""

from __future__ import annotations

import itertools

import pytest

from tests.demo import JobAtHand
from trebb.core import clock
from trebb.core.errors import InputError
from trebb.core.fitup import assembly_order, fit_steps
from trebb.core.fitup.boxed import Boxed, Looked, with_boxed
from trebb.core.machine import KINDS
from trebb.core.units import UnitSystem
from trebb.logbook.cases.boxes import (
    all_lists,
    arrived_as,
    boxed_of,
    looked_at,
    own_folder,
    state_words,
    usual_lists,
)
from trebb.logbook.exchange.job_json import job_from_json, job_to_json, make_job
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import AssemblyAdded, JobStarted, MatterStated
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.job_plan import job_plan
from trebb.logbook.plan.shopping import shopping_list

OWN_LIST = """
title = "Steady"
about = "A three-point steady."
fits = ["apron"]
[[things]]
key = "ring"
what = "ring"
do = "Ring on the bed"
[[things]]
key = "finger"
what = "finger"
many = 3
do = "Fingers in"
after = ["ring"]
"""


@pytest.fixture(autouse=True)
def no_lists_of_mine(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))


@pytest.fixture
def at(tmp_path):
    file = JobFile.create(tmp_path / "boxes.trebb")
    at = JobAtHand(file)
    at.record(JobStarted("Shop", "Old lathe", "lathe"))
    yield at
    file.close()


@pytest.mark.parametrize("key", sorted(usual_lists()))
def test_each_list_names_assemblies_there_are_and_goes_together(key):
    boxes = usual_lists()[key]
    kinds = boxes.kinds or tuple(KINDS)
    assert set(kinds) <= set(KINDS)
    there = {a.key for kind in kinds for a in KINDS[kind].assemblies} | {"vise"}
    assert boxes.fits
    assert set(boxes.fits) <= there
    boxed = Boxed(boxes, {})
    order = [s.key for s in assembly_order(with_boxed(fit_steps("leave", ""), boxed))]
    place = {k.removeprefix("box_"): i for i, k in enumerate(order)}
    assert order[-1] == "prove"
    for thing in boxes.things:
        assert all(place[before] < place[thing.key] for before in thing.after)


@pytest.mark.parametrize("key", sorted(usual_lists()))
def test_what_goes_in_without_a_thing_is_all_that_does_not_stand_on_it(key):
    boxes = usual_lists()[key]
    below = {t.key: set(t.after) for t in boxes.things}
    for lost, hurt in itertools.product(boxes.things, boxes.things[:3]):
        stopped = {lost.key, hurt.key}
        while more := {k for k, after in below.items() if after & stopped} - stopped:
            stopped |= more
        boxed = Boxed(boxes, {hurt.key: Looked("hurt"), lost.key: Looked("no")})
        can, waits = boxed.goes_in_without()
        assert {t.key for t in waits} == stopped - {lost.key, hurt.key}
        assert {t.key for t in can} == set(below) - stopped


def test_a_spindle_from_boxes_keeps_its_own_steps_behind_what_goes_in():
    boxed = Boxed(usual_lists()["headstock_rolling"], {"nut": Looked("no", "1.750-20 LH", "thread hurt")})
    own = fit_steps("preload", "spindle")
    steps = with_boxed(own, boxed)
    assert {s.key for s in own} <= {s.key for s in steps}
    nut = next(s for s in steps if s.key == "box_nut")
    assert "missing" in nut.title
    assert "1.750-20 LH" in nut.remind
    assert "thread hurt" in nut.remind
    heavy = next(s for s in steps if s.key == "box_spindle")
    assert heavy.act == "lifts"
    assert "30 kg" in heavy.caution
    assert "missing" not in next(s for s in with_boxed(own, boxed, {"box_nut"}) if s.key == "box_nut").title


def test_what_is_missing_waits_in_the_plan_and_is_bought(at):
    at.record(arrived_as(at.job, "apron", "apron"))
    at.record(*looked_at("apron", "pump", found="no", measured="bore .312"))
    at.record(*looked_at("apron", "worm", found="yes"))
    plan = job_plan(at.cases, clock.now())
    (line,) = [x for x in plan.lines if x.task.key == "fit.apron"]
    assert line.work.missing.startswith("oil plunger")
    assert plan.ready is None
    (wanted,) = [w for w in shopping_list(at.cases, (), UnitSystem.INCH) if w.kind == "missing"]
    assert wanted.words.startswith("oil plunger")
    assert "bore .312" in wanted.measure
    assert "1 of 13 found" in state_words(at.cases.of("apron").boxed)
    at.record(*looked_at("apron", "pump", found="yes"))
    assert job_plan(at.cases, clock.now()).ready is not None
    assert not shopping_list(at.cases, (), UnitSystem.INCH)


def test_boxes_of_another_machine_are_refused_by_name(at):
    with pytest.raises(InputError, match=r"Tailstock.*Apron.*apron"):
        arrived_as(at.job, "apron", "tailstock")
    with pytest.raises(InputError, match=r"there are .*apron"):
        arrived_as(at.job, "apron", "steady")
    with pytest.raises(InputError, match="by which list"):
        at.record(*looked_at("apron", "pump", found="no"))
    at.record(arrived_as(at.job, "apron", "apron"))
    with pytest.raises(InputError, match=r"half nuts.* has case, pump"):
        at.record(*looked_at("apron", "quill", found="no"))
    with pytest.raises(InputError, match="one of yes, no, hurt"):
        at.record(*looked_at("apron", "pump", found="perhaps"))
    # What the shop added may be anything.
    at.record(AssemblyAdded("vise", "Vise"))
    at.record(arrived_as(at.job, "vise", "vise"))
    assert boxed_of(at.job, "vise").of.title == "Machine vise"
    at.record(arrived_as(at.job, "vise", ""))
    assert boxed_of(at.job, "vise") is None


def test_a_list_of_the_shop_s_own_goes_with_the_job(at, tmp_path):
    own_folder().mkdir(parents=True)
    mine = own_folder() / "steady.toml"
    mine.write_text(OWN_LIST)
    at.record(arrived_as(at.job, "apron", "steady"))
    mine.unlink()  # the job is opened elsewhere
    kept = Job(at.file.entries())
    assert [t.words for t in boxed_of(kept, "apron").of.things] == ["ring", "3 × finger"]
    make_job(tmp_path / "again.trebb", job_from_json(job_to_json(at.file)))
    with JobFile.open(tmp_path / "again.trebb") as again:
        assert boxed_of(Job(again.entries()), "apron") == boxed_of(kept, "apron")


@pytest.mark.parametrize(
    ("was", "now", "said"),
    [
        ('after = ["ring"]', 'after = ["rim"]', "rim"),
        ('do = "Ring on the bed"', 'do = "Ring on the bed"\nafter = ["finger"]', "circle"),
        ('key = "finger"', 'key = "ring"', "two things called"),
        ("many = 3", "many = 0", "many"),
        ("many = 3", "meny = 3", "meny"),
        ('title = "Steady"', "title = Steady", "TOML"),
    ],
)
def test_a_list_that_will_not_do_is_named_with_its_line_and_the_rest_stands(was, now, said):
    own_folder().mkdir(parents=True)
    (own_folder() / "steady.toml").write_text(OWN_LIST.replace(was, now))
    lists, (wrong,) = all_lists()
    assert "steady" not in lists
    assert set(usual_lists()) <= set(lists)
    assert wrong.startswith("steady.toml")
    assert said in wrong


def test_what_is_said_of_a_thing_no_list_has_does_no_harm(at):
    at.record(arrived_as(at.job, "apron", "apron"))
    at.file.append([MatterStated("box", "apron.none", "found", "no")])  # as another program might
    job = Job(at.file.entries())
    assert not boxed_of(job, "apron").lacking
