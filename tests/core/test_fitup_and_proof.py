"""Order of assembly, and before against after."""

from __future__ import annotations

import pytest

from tests.subjects import SUBJECTS
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.fitup import FitStep, FitUpError, assembly_order, blocked_by, fit_steps
from trebb.core.proof import compare
from trebb.core.proof.comparing import mean_change_mm
from trebb.core.remedies import all_remedies
from trebb.core.survey import PlaceReadings, results, set_up

DRIVE = ScrewDrive()


@pytest.mark.parametrize(("remedy", "family"), [(r.key, r.family) for r in all_remedies()])
def test_no_step_comes_before_what_it_needs(remedy, family):
    order = assembly_order(fit_steps(remedy, family, SUBJECTS[family]))
    place = {step.key: i for i, step in enumerate(order)}
    assert all(place[needed] < place[step.key] for step in order for needed in step.after)
    assert order[-1].key == "prove"


def test_the_thrust_is_set_before_the_dial_hides_it():
    order = [s.key for s in assembly_order(fit_steps("pair_thrust"))]
    assert order.index("thrust_set") < order.index("dial") < order.index("covers")


def test_a_step_is_blocked_by_what_is_not_done():
    steps = assembly_order(fit_steps("new_pair"))
    oil = next(s for s in steps if s.key == "oil")
    assert [s.key for s in blocked_by(oil, steps, set())] == ["align"]
    assert blocked_by(oil, steps, {"align"}) == []


def test_an_order_that_goes_in_a_circle_is_named():
    with pytest.raises(FitUpError, match=r"goes in a circle: [ab] → [ab]"):
        assembly_order([FitStep("a", "A", ("b",), ""), FitStep("b", "B", ("a",), "")])


def test_a_step_that_waits_for_nothing_known_is_named():
    with pytest.raises(FitUpError, match="“ghost”, which is not a step here"):
        assembly_order([FitStep("a", "A", ("ghost",), "")])


def readings(**values):
    return [PlaceReadings(f"station {k[1:]}", tuple(v)) for k, v in values.items()]


BOTH = (DRIVE, DRIVE)


def test_only_places_read_both_times_are_compared():
    rows = compare(set_up("push_pull"), BOTH, readings(s1=[0.4, 0.41], s2=[0.5]), readings(s1=[0.05]), None)
    assert [r.place for r in rows] == ["station 1"]
    assert rows[0].change_mm == pytest.approx(0.05 - 0.405)
    assert rows[0].is_shown
    assert rows[0].as_predicted is None
    assert mean_change_mm(rows) == rows[0].change_mm


def test_a_difference_smaller_than_the_measuring_is_not_shown():
    (row,) = compare(set_up("lash"), BOTH, readings(s1=[5.0]), readings(s1=[4.5]), None)
    assert not row.is_shown


# what shares an unknown zero is proven by its differences ------------------------------------------


@pytest.mark.parametrize("zero", [0.0, 0.4])
def test_an_indicator_s_zero_does_not_matter_to_the_proof(zero):
    bed = SUBJECTS["headstock"]
    taken = [
        PlaceReadings("top, bar at 0°, near", (zero,)),
        PlaceReadings("top, bar at 0°, far", (zero + 0.02,)),
    ]
    found = results(set_up("bar_sweep"), bed, taken)
    assert [(r.place, round(r.value_mm, 9)) for r in found] == [("top, bar at 0°", 0.02)]
    assert found[0].row.coefficients["pitch"] == pytest.approx(0.25)
    tram = SUBJECTS["tram"]
    swept = [
        PlaceReadings(f"near, {corner}", (zero + value,))
        for corner, value in (("left", 0.0), ("right", 0.03), ("front", 0.01), ("back", 0.0))
    ]
    assert {r.place: round(r.value_mm, 9) for r in results(set_up("tram_sweep"), tram, swept)} == {
        "near, left to right": 0.03,
        "near, front to back": -0.01,
    }
