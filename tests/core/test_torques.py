"""Torques and cutting speeds as they are typed and said in either shop."""

from __future__ import annotations

import pytest

from trebb.core.dual_units import FT_LB_NM, in_units, show_cutting_speed, show_torque
from trebb.core.errors import InputError
from trebb.core.facts import Force, Torque
from trebb.core.units import UnitSystem

INCH, METRIC = UnitSystem.INCH, UnitSystem.METRIC
FACT = Torque("torque_nm", "Carries", low=0, high=5000)


def test_a_foot_pound_is_a_pound_force_at_a_foot():
    assert pytest.approx(1.3558179, rel=1e-7) == FT_LB_NM


@pytest.mark.parametrize(
    ("text", "nm"),
    [
        ("25 N·m", 25.0),
        ("25 Nm", 25.0),
        ("18.4 ft·lb", 24.947),
        ("18.4 ft-lb", 24.947),
        ("18.4 lbf ft", 24.947),
        ("220 in lb", 24.857),
        ("1/2 ft lb", 0.6779),
    ],
)
def test_it_is_typed_in_any_unit_in_either_shop(text, nm):
    for system in UnitSystem:
        assert FACT.typed(text, system) == pytest.approx(nm, rel=1e-3)


def test_a_bare_number_is_the_shop_s_own_and_shown_it_can_be_typed_back():
    assert FACT.typed("25", METRIC) == 25.0
    assert FACT.typed("25", INCH) == pytest.approx(33.895, rel=1e-4)
    for system in UnitSystem:
        assert FACT.typed(FACT.shown(25.0, system), system) == pytest.approx(25.0, rel=5e-3)


@pytest.mark.parametrize("text", ["25 N", "25 lb", "a lot", "6000 N·m", "-1 ft lb"])
def test_what_is_none_is_said_with_what_would_do(text):
    with pytest.raises(InputError, match=r"ft·lb|N·m"):
        FACT.typed(text, METRIC)
    force = Force("force_n", "Push", low=0, high=500)
    with pytest.raises(InputError, match="lbf or 178 N"):
        force.typed("3 ft lb", INCH)


def test_they_are_said_in_the_shop_s_own_also_in_words_that_know_no_system():
    assert show_torque(1355.8179, INCH) == "1000 ft·lb"
    assert show_torque(25.0, METRIC) == "25 N·m"
    assert show_cutting_speed(38.0, INCH) == "125 ft/min"
    assert show_cutting_speed(38.0, METRIC) == "38 m/min"
    assert (
        in_units("Holds 25 N·m at 38 m/min under 178 N.", INCH)
        == "Holds 18.4 ft·lb at 125 ft/min under 40 lbf."
    )
    assert in_units("Holds 25 N·m.", METRIC) == "Holds 25 N·m."
