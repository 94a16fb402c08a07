"""A slide's and a head's case: the question asked, what is set aside, each slide its own gib, repairs made
and proven.
"""

from __future__ import annotations

import pytest

from trebb.app.shell.walk import cut_parts, fit_together, take_what_is_left
from trebb.core.errors import InputError, UnreadError
from trebb.core.stating import schema_of
from trebb.core.survey.contact import COLUMNS, ROWS, text_of
from trebb.core.units import UnitSystem
from trebb.logbook.demo.machines import LATHE_SADDLE, MILL_HEAD, MILL_TABLE
from trebb.logbook.log.entries import ContactPainted, PartSet, RemedyChosen

METRIC = UnitSystem.METRIC


def feelers(case):
    return next(s for s in case.set_ups if s.key == "feelers")


def answer(machine, case, key):
    question = case.question(feelers(case), "before", UnitSystem.INCH)
    machine.record(*next(a for a in question.answers if a.key == key).bodies)


def felt_home(machine, assembly):
    """Said to be home, felt, and everything else read."""
    case = machine.of(assembly)
    question = case.question(feelers(case), "before", UnitSystem.INCH)
    if question is not None:
        machine.record(*question.answers[0].bodies)
    take_what_is_left(case, "before", machine.record)
    return case


def test_a_gib_with_a_taper_that_cannot_be_is_refused():
    with pytest.raises(InputError, match="from 20 to 300"):
        schema_of("gib").subject("mill", "table", {"ratio": 0.5})


def test_the_demo_s_gib_was_not_home_and_its_feelers_do_not_count(machine):
    case = machine("lathe").of("saddle")
    assert "feelers" in case.distrusted("before")
    assert case.estimate.readings == 0
    assert case.is_measured
    assert case.findings(METRIC)[0].key == "not_home"
    assert case.question(feelers(case), "before", UnitSystem.INCH).key == "not_home"


def test_felt_again_with_the_gib_home_the_old_ones_stay_readable_and_struck(machine):
    lathe = machine("lathe")
    case = lathe.of("saddle")
    answer(lathe, case, "feel_again")
    struck = [r for r in lathe.job.readings("saddle", "feelers") if r.struck]
    assert len(struck) == 2
    assert {r.struck for r in struck} == {"gib was not home"}
    assert case.question(feelers(case), "before", UnitSystem.INCH) is None
    take_what_is_left(case, "before", lathe.record)
    assert case.distrusted("before") == {}
    for key in ("gap.thin", "gap.thick", "worn.left"):
        q = case.estimate.source(key)
        assert q.low - q.half_width <= LATHE_SADDLE[key] <= q.high + q.half_width


def test_it_is_asked_before_and_after_the_first_reading(machine):
    mill = machine("mill")
    case = mill.of("knee")
    assert case.question(feelers(case), "before", UnitSystem.INCH).key == "home"
    mill.read("knee", "feelers", "thin end", 0.05)
    assert case.question(feelers(case), "before", UnitSystem.INCH).key == "was_home"
    answer(mill, case, "home_no")
    assert case.felt() is None
    answer(mill, case, "home_yes")
    assert case.question(feelers(case), "before", UnitSystem.INCH) is None
    assert case.question(next(s for s in case.set_ups if s.key == "rock"), "before", UnitSystem.INCH) is None
    assert case.question(feelers(case), "after", UnitSystem.INCH) is None


def test_each_slide_has_its_own_gib(machine):
    mill = machine("mill")
    mill.record(PartSet(part="gib.table", field="scrape", value=0.2))
    assert mill.of("table").part_inputs("gib").facts["scrape"] == 0.2
    assert "scrape" not in mill.of("knee").part_inputs("gib").facts
    assert mill.of("table").part_name("gib") != mill.of("knee").part_name("gib")


def test_only_a_lathe_s_saddle_drops(machine):
    assert machine("lathe").of("saddle").subject.is_saddle
    assert not machine("mill").of("saddle").subject.is_saddle


def test_the_new_gib_is_worked_out_from_what_was_felt(machine):
    mill = machine("mill")
    case = felt_home(mill, "table")
    mill.record(RemedyChosen(assembly="table", remedy="new", reason=""))
    part = case.part("gib", METRIC)
    sizes = {r.label: r.value for r in part.rows}
    slide = case.subject
    tight = min(MILL_TABLE[f"worn.{s}"] for s in ("left", "mid", "right"))
    gone = (slide.stand_out_mm - MILL_TABLE["stand"]) / slide.ratio  # the old gib went in by so much
    wanted = slide.thin_mm + MILL_TABLE["gap.thin"] + tight + gone - slide.running_mm + slide.scrape_mm
    assert sizes["Thickness, thin end"].middle_mm == pytest.approx(wanted, abs=0.012)
    assert sizes["Thickness, thick end"].middle_mm - sizes["Thickness, thin end"].middle_mm == pytest.approx(
        slide.length_mm / float(sizes["Taper, 1 :"]), abs=1e-3
    )
    assert all(c.is_ok for c in part.checks)


def test_what_is_not_felt_with_the_gib_home_says_so_at_its_parts(machine):
    case = machine("mill").of("table")
    for key in ("gib", "gib_shim", "gib_liner"):
        with pytest.raises(UnreadError, match="felt with the gib fully home"):
            case.part(key, METRIC)


@pytest.mark.parametrize(
    ("assembly", "remedy"), [("table", "scrape"), ("knee", "tighten"), ("saddle", "new")]
)
def test_a_mill_s_gib_goes_from_survey_to_proof(machine, assembly, remedy):
    mill = machine("mill")
    case = felt_home(mill, assembly)
    was = case.judged.value.value
    mill.record(RemedyChosen(assembly=assembly, remedy=remedy, reason="test"))
    cut_parts(case, mill.record)
    fit_together(case, mill.record)
    take_what_is_left(case, "after", mill.record)
    proof = {m.key: m for m in case.measures_of("after")}
    assert proof["play"].value.value < was
    rows = case.comparisons()
    assert sum(bool(r.as_predicted) for r in rows) >= 0.6 * len(rows)
    if remedy == "scrape":
        assert proof["play"].value.value < proof["play"].limit.limit_mm
        assert case.proof_head(rows, METRIC)[0].value == "within"


def test_a_painted_gib_is_a_finding_of_its_own(machine):
    mill = machine("mill")
    mill.record(
        ContactPainted(
            assembly="knee",
            phase="before",
            cells=text_of(frozenset(r * COLUMNS + c for r in range(ROWS) for c in range(8))),
        )
    )
    found = {f.key: f for f in mill.of("knee").findings(METRIC)}
    assert "the thin end only" in found["contact"].sentence


def test_a_head_is_swept_set_and_swept_again(machine):
    mill = machine("mill")
    case = mill.of("head")
    take_what_is_left(case, "before", mill.record)
    assert case.figures[0].key == "tram_x"
    assert case.estimate.source("tilt_x").value == pytest.approx(MILL_HEAD["tilt_x"], abs=0.03)
    assert case.advised().key in ("set", "knee")
    mill.record(RemedyChosen(assembly="head", remedy="set", reason=""))
    fit_together(case, mill.record)
    take_what_is_left(case, "after", mill.record)
    proof = {m.key: m for m in case.measures_of("after")}
    assert proof["tram_x"].value.value < 0.02
    assert proof["run_out"].value.value == pytest.approx(0.3 * MILL_HEAD["droop"], abs=0.015)
    assert all(case.limit_of(r).limit_mm > 0 for r in case.comparisons())


def test_a_drill_s_table_is_shimmed_square(machine):
    drill = machine("drill")
    case = drill.of("table")
    take_what_is_left(case, "before", drill.record)
    drill.record(RemedyChosen(assembly="table", remedy="shim", reason=""))
    cut_parts(case, drill.record)
    rise = next(r.value for r in case.part("table_shim").rows if r.label == "Rise between bolts")
    assert rise == pytest.approx(
        abs(case.alone.source("tilt_x").value) * case.subject.bolts_mm / 1000, rel=1e-6
    )
    take_what_is_left(case, "after", drill.record)
    assert (
        max(m.value.value / m.limit.limit_mm for m in case.measures_of("after") if m.key.startswith("tram"))
        < 1
    )
