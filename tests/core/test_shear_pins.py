"""A pin weak on purpose: worked by hand, refused where nothing does, drawn with its necks, found in words."""

from __future__ import annotations

import math

import pytest

from trebb.core.errors import InputError
from trebb.core.families.shaft.findings import stated_findings
from trebb.core.families.shaft.shear_pins import fuse, guarded, shear_pin_fields, shear_pin_part
from trebb.core.families.shaft.subject import Shaft
from trebb.core.machine import State
from trebb.core.machine.workshop import Workshop
from trebb.core.making.routes import route
from trebb.core.parts import PartInputs, family
from trebb.core.parts.drawing import Title, laid_out
from trebb.core.parts.goes_with import items_of
from trebb.core.units import UnitSystem

LEAD_SCREW = Shaft(dia_mm=22.0, drive="shear_pin", hub_mm=44.0, torque_nm=25.0, guards_nm=90.0)


def pin(shaft=LEAD_SCREW, **facts):
    return shear_pin_part(PartInputs(shaft, Workshop(), facts, system=UnitSystem.METRIC))


def breaks_nm(dia_mm, shaft_mm, mpa, walls):
    """By hand: the force of each wall's area at the shaft's surface."""
    return walls * mpa * math.pi * dia_mm**2 / 4 * (shaft_mm / 2) / 1000


@pytest.mark.parametrize(("metal", "mpa"), [("free_cutting", 380.0), ("brass", 240.0)])
@pytest.mark.parametrize(("walls", "count"), [("two", 2), ("one", 1)])
def test_its_sizes_hold_the_work_half_again_and_leave_as_much_under_what_it_guards(metal, mpa, walls, count):
    found = fuse(LEAD_SCREW, 22.0, metal, walls, inch=False)
    assert breaks_nm(found.smallest_mm, 22.0, mpa, count) == pytest.approx(1.5 * 25.0)
    assert breaks_nm(found.largest_mm, 22.0, mpa, count) == pytest.approx(90.0 / 1.5)
    if found.choice_mm is not None:
        assert found.smallest_mm <= found.choice_mm <= found.largest_mm


def test_the_weakest_is_the_shaft_where_that_is_weaker_or_nothing_is_stated():
    own = 45.0 * math.pi * 22.0**3 / 16 / 1000
    assert guarded(LEAD_SCREW, 22.0) == ("what it guards", 90.0)
    for stands in (0.0, 200.0):
        name, nm = guarded(Shaft(dia_mm=22.0, guards_nm=stands), 22.0)
        assert (name, nm) == ("the shaft itself", pytest.approx(own))


def test_what_nobody_stated_is_asked_for_and_never_green():
    part = pin(Shaft(dia_mm=22.0, drive="shear_pin", hub_mm=44.0))
    bad = [c.sentence for c in part.checks if not c.is_ok]
    assert any("at work is not stated" in words for words in bad)
    assert any("guards is not stated" in words for words in bad)


def test_a_plain_pin_too_strong_is_necked_to_go_in_time():
    plain, necked = pin(dia=4.0), pin(dia=4.0, neck=2.6)
    assert any("too near the 90" in c.sentence for c in plain.checks if not c.is_ok)
    assert all(c.is_ok for c in necked.checks)
    row = next(r for r in necked.rows if r.label == "It goes at")
    assert row.value == f"{breaks_nm(2.6, 22.0, 380.0, 2):.3g} N·m"


def test_its_necks_lie_where_the_hub_meets_the_shaft_and_are_drawn_to_their_ground():
    part = pin(dia=4.0, neck=2.6)
    necks = [f for f in part.features if f.kind == "groove"]
    assert [f.at_mm + f.length_mm / 2 for f in necks] == [pytest.approx(11.0), pytest.approx(33.0)]
    page, scale = laid_out(part, UnitSystem.METRIC, Title())
    outline = [line.points for line in page.lines if line.layer == "OUTLINE" and len(line.points) > 6]
    highs = sorted({round(y, 6) for _, y in outline[0]})
    axis = highs[0]
    assert [(y - axis) / scale for y in highs[1:]] == [
        pytest.approx(1.3, abs=0.01),
        pytest.approx(part.sections[0].diameter_mm / 2),
    ]


def test_no_neck_no_walls_no_room_is_said():
    with pytest.raises(InputError, match="smaller than the pin"):
        pin(dia=3.0, neck=3.0)
    for facts, words in (
        ({"dia": 8.0}, "more than a third"),
        ({"length": 60.0}, "not out of the hub"),
        ({"length": 20.0}, "past where it goes"),
    ):
        assert any(words in c.sentence for c in pin(**facts).checks if not c.is_ok), facts
    weak = Shaft(dia_mm=22.0, drive="shear_pin", hub_mm=44.0, torque_nm=25.0, guards_nm=40.0)
    assert any("No size of this metal" in c.sentence for c in pin(weak).checks if not c.is_ok)


def test_what_is_stated_is_found_without_a_reading():
    def first(**stated):
        return stated_findings(Shaft(dia_mm=22.0, drive="shear_pin", **stated), 22.0, UnitSystem.METRIC)[0]

    assert first().state is State.UNKNOWN
    assert "what it carries at work and what" in first().next_move
    assert first(torque_nm=25.0, guards_nm=90.0).state is State.WITHIN
    assert "2.390 mm and 3.023 mm" in first(torque_nm=25.0, guards_nm=90.0).sentence
    assert first(torque_nm=25.0, guards_nm=40.0).state is State.BEYOND
    assert stated_findings(Shaft(drive="key", torque_nm=25.0), 22.0, UnitSystem.METRIC) == []


def test_it_is_made_with_two_to_spare_and_not_bought_with_its_shaft():
    part = pin(dia=4.0, neck=2.6)
    assert part.number_words == "1, and 2 spares"
    steps = [s.key for s in route(part, LEAD_SCREW, Workshop())]
    assert steps.index("dia") < steps.index("neck") < steps.index("knurl") < steps.index("drive")
    shaft = family("stepped_shaft").build(PartInputs(LEAD_SCREW, Workshop(), {"hold": "shear_pin"}))
    assert any(f.kind == "cross_hole" for f in shaft.features)
    assert not any("shear" in item.what.lower() for item in items_of(shaft))


def test_its_usual_size_is_the_hole_or_the_largest_that_goes_in_time():
    fields = {f.key: f.default for f in shear_pin_fields(PartInputs(LEAD_SCREW, Workshop(), {}))}
    assert fields["dia"] == 3.0
    own = Shaft(dia_mm=22.0, drive="shear_pin", pin_mm=4.1)
    assert next(f for f in shear_pin_fields(PartInputs(own, Workshop(), {})) if f.key == "dia").default == 4.1


def test_a_diameter_nobody_stated_or_measured_judges_no_pin():
    shaft = Shaft(drive="shear_pin", torque_nm=25.0, guards_nm=40.0)
    (said,) = stated_findings(shaft, None, UnitSystem.METRIC)
    assert said.state is State.UNKNOWN
    assert "the diameter under its hub" in said.next_move
