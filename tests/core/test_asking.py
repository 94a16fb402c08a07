"""What is asked about a reading before it counts: units, signs and figures lost, by hand-made readings."""

from __future__ import annotations

import pytest

from trebb.core.survey import readings_typed, set_up
from trebb.core.survey.admitting import bare_mm
from trebb.core.survey.asking import question_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import JobStarted
from trebb.logbook.log.fold import Job

INCH, METRIC = UnitSystem.INCH, UnitSystem.METRIC
THOU = 0.0254


@pytest.fixture
def cases(tmp_path):
    with JobFile.create(tmp_path / "job.trebb") as job_file:
        job_file.append([JobStarted(shop="s", machine="m", machine_kind="lathe")])
        return Cases(Job(job_file.entries()))


def asked(cases, assembly, key, place, raw, at_places=None, *, signed=True):
    case = cases.of(assembly)
    return question_of(
        set_up(key), case.read_as("before"), place, raw,
        at_places=at_places or {}, is_signed_as_typed=signed, system=INCH,
    )  # fmt: skip


@pytest.mark.parametrize(
    ("text", "system", "mm"),
    [
        ("3", INCH, 3 * THOU), ("0.3", INCH, 0.3 * THOU), ("2.25", INCH, 2.25 * THOU),
        (".0021", INCH, 0.0021 * 25.4), ("0.0500", INCH, 0.05 * 25.4), ("-.003", INCH, -0.003 * 25.4),
        ("50", METRIC, 0.05), ("2.5", METRIC, 0.0025), ("0.05", METRIC, 0.05), ("-0,012", METRIC, -0.012),
        ("0.3 mm", INCH, 0.3), ("3 thou", METRIC, 3 * THOU),
    ],
)  # fmt: skip
def test_a_bare_number_is_of_the_unit_beside_the_field(cases, text, system, mm):
    case = cases.of("spindle")
    s = set_up("push_test")
    ((_, raw),) = readings_typed(s, case.read_as("before"), "nose, pushed full", text, system)
    assert raw == pytest.approx(mm, abs=1e-9)


def test_a_size_is_in_inches_or_millimetres(cases):
    assert bare_mm(set_up("thread_size"), "0.25", INCH) is None


def test_far_from_what_the_instrument_can_show(cases):
    assert "whole range" in asked(cases, "cross_slide", "end_float", "collar", 76.2)
    assert "far less" in asked(cases, "spindle", "push_test", "nose, pushed full", 1e-5)
    assert asked(cases, "cross_slide", "end_float", "collar", 0.0) == ""
    assert asked(cases, "cross_slide", "end_float", "collar", 12 * THOU) == ""


def test_a_lost_sign_and_a_lost_figure(cases):
    place = "nose, pulled full"
    for repeats in ([-12 * THOU], [-12 * THOU, -12.2 * THOU]):
        assert "is a sign lost" in asked(cases, "spindle", "push_test", place, 12 * THOU, {place: repeats})
        assert asked(cases, "spindle", "push_test", place, -12.1 * THOU, {place: repeats}) == ""
    key = next(p.key for p in cases.of("cross_slide").places("thread_size") if p.key.endswith("unworn"))
    assert "is a figure lost" in asked(cases, "cross_slide", "thread_size", key, 1.345, {key: [12.345]})
    assert asked(cases, "cross_slide", "thread_size", key, 12.347, {key: [12.345, 12.346]}) == ""


def test_twenty_times_its_repeats_or_the_others(cases):
    lash = {f"station {i}": [5.0] for i in (1, 2, 4)}
    assert "the others read about" in asked(cases, "cross_slide", "lash", "station 3", 120.0, lash)
    assert asked(cases, "cross_slide", "lash", "station 3", 60.0, lash) == ""
    assert asked(cases, "cross_slide", "lash", "station 3", 0.0, lash) == ""  # nothing at all is a reading
    one = {"station 1": [5.0]}
    assert asked(cases, "cross_slide", "lash", "station 3", 120.0, one) == ""  # one other says too little
    assert "here before" in asked(cases, "cross_slide", "lash", "station 1", 120.0, one)


def test_pulls_without_their_signs_and_an_indicator_the_other_way_round(cases):
    before = {"nose, pulled full": [5 * THOU], "nose, pulled half": [4.5 * THOU]}
    why = asked(cases, "spindle", "push_test", "nose, pushed half", 4.5 * THOU, before, signed=False)
    assert "toward the indicator is +" in why
    # An indicator zeroed elsewhere, its signs written: nothing is wrong with it.
    assert asked(cases, "spindle", "push_test", "nose, pushed half", 9 * THOU, before) == ""
    turned = {"nose, pulled full": [4 * THOU], "nose, pulled half": [3 * THOU]}
    assert "exchanged" in asked(cases, "spindle", "push_test", "nose, pushed full", -4 * THOU, turned)
    right = {"nose, pulled full": [-4 * THOU]}
    assert asked(cases, "spindle", "push_test", "nose, pushed full", 4 * THOU, right, signed=False) == ""


def test_a_gauge_lower_than_the_stack_reads_more_and_higher_less(cases):
    from trebb.core.errors import InputError
    from trebb.core.stating import schema_of
    from trebb.core.survey.admitting import admit_reading

    teeth = set_up("gear_teeth")
    schema = schema_of("gear")
    gauge = schema.subject("lathe", "g", {"teeth": 24, "read_as": "gauge"})
    rocked = schema.subject("lathe", "g", {"teeth": 24})
    place = teeth.places(gauge)[0].key
    admit_reading(teeth, gauge, place, -0.0127, given="-.5 thou")
    with pytest.raises(InputError, match="not less than nothing"):
        admit_reading(teeth, rocked, place, -0.0127, given="-.5 thou")
