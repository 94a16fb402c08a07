"""The list to buy of a whole job: what is in it, how many, by which sizes, and what is not."""

from __future__ import annotations

import pytest

from tests.independent.job import TypedJob
from trebb.core.items import Item
from trebb.core.making.stock import Bar
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import AssemblyAdded, MatterStated, PartSet, RemedyChosen, StepDone
from trebb.logbook.plan.shopping import shopping_list

METRIC, INCH = UnitSystem.METRIC, UnitSystem.INCH


def listed(job: TypedJob, kind: str, system: UnitSystem = METRIC, bars=()) -> list:
    return [w for w in shopping_list(job.cases, bars, system) if w.kind == kind]


def choose(job: TypedJob, assembly: str, remedy: str) -> TypedJob:
    job.record(RemedyChosen(assembly, remedy, ""))
    return job


def shaft(**facts: str | float) -> TypedJob:
    job = TypedJob()
    job.record(AssemblyAdded(assembly="bar", label="Feed shaft", family="shaft", under="apron"))
    return choose(job.state("bar", dia_mm=20.0, length_mm=300.0, **facts), "bar", "new")


def test_bearings_are_asked_for_by_bore_outside_and_width_and_usual_ones_say_so():
    job = choose(TypedJob(), "spindle", "bearings")
    front, rear = listed(job, "standard")
    assert (front.count, rear.count) == (2, 1)
    assert front.usual
    assert rear.usual
    job.state("spindle", front_bore_mm=45.0, front_outside_mm=75.0, bearing_width_mm=16.0)
    front, rear = listed(job, "standard", INCH)
    assert "Front bearing 45 × 75 × 16 mm" in front.words  # so they are sold, in inches too
    assert not front.usual
    assert rear.usual


def test_a_set_of_repairs_is_bought_together():
    job = choose(TypedJob(), "cross_slide", "made_nut+thrust")
    assert len(listed(job, "bar")) == 2
    (thrusts,) = listed(job, "standard")
    assert thrusts.count == 2
    assert "needle washers" in thrusts.words
    choose(job, "cross_slide", "made_nut")
    assert len(listed(job, "bar")) == 1
    assert not listed(job, "standard")


@pytest.mark.parametrize(
    ("drive", "what"), [("key", "Key, "), ("woodruff", "Woodruff key "), ("taper_pin", "Taper pin ISO 2339 ")]
)
def test_a_shaft_s_key_or_pin_is_bought_with_it(drive, what):
    job = shaft(drive=drive)
    case = job.of("bar")
    field = next((f for f in case.part_fields("stepped_shaft") if f.key == "hold"), None)
    if field is not None:
        job.record(PartSet(part=case.part_name("stepped_shaft"), field="hold", value=drive))
    assert any(w.words.startswith(what) for w in listed(job, "standard"))


def test_what_is_bought_whole_is_asked_for_by_its_sizes_and_goes_when_it_has_come():
    job = choose(
        TypedJob().state("cross_slide", pitch_mm=25.4 / 8, major_mm=19.05), "cross_slide", "bought_nut"
    )
    (nut,) = listed(job, "part", INCH)
    assert nut.measure
    assert not listed(job, "bar", INCH)
    case = job.of("cross_slide")
    job.record(StepDone(plan=case.part_name("nut"), step=case.route("nut")[0].key))
    assert not listed(job, "part", INCH)


def test_what_the_rack_holds_is_not_bought():
    job = choose(TypedJob(), "cross_slide", "made_nut")
    (bar,) = listed(job, "bar")
    assert "39.37" not in listed(job, "bar", INCH)[0].words
    assert "36.00 in" in listed(job, "bar", INCH)[0].words
    rack = [Bar("b1", "bronze", "flat", 42.0, 400.0, 42.0)]
    assert not listed(job, "bar", METRIC, rack)
    assert bar.count == 1


def test_only_tools_said_to_be_missing_are_bought():
    from trebb.logbook.plan.bill import bill_of

    job = choose(TypedJob(), "cross_slide", "made_nut")
    assert not listed(job, "tool")
    tool = bill_of(job.cases, METRIC).tools[0].words
    job.record(MatterStated("tool", tool, "there", "no"))
    assert [w.words for w in listed(job, "tool")] == [tool]
    job.record(MatterStated("tool", tool, "there", "yes"))
    assert not listed(job, "tool")


def test_an_item_says_its_sizes_in_the_shop_s_units():
    item = Item("Key", (6.0, 25.4), 2, "ISO 773")
    assert item.words(METRIC) == "Key, 6.000 × 25.400 mm, ISO 773"
    assert item.words(INCH) == "Key, 0.2362 × 1.0000 in, ISO 773"
    assert Item("Front bearing 35 × 62 × 14 mm").words(INCH) == "Front bearing 35 × 62 × 14 mm"
