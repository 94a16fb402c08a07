"""Limits, fits, press fits and heat: every certified row that is used."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import Row, misses, number, rows
from trebb.core.errors import InputError
from trebb.core.fits import (
    Elastic,
    PressFit,
    cool_shaft_to_slip_c,
    fit,
    heat_hub_to_slip_c,
    hole_limits,
    it_formula_um,
    it_um,
    press_fit,
    shaft_limits,
    slip_at_limit_mm,
)

ISO, PRESS, HEAT = "03_iso286.csv", "04_press_fit.csv", "12_thermal_casting.csv"


def grade(row: Row) -> int:
    return int(row["grade"][2:])


def test_every_tolerance_is_the_tables():
    assert not misses(ISO, "IT_table", lambda r: it_um(number(r, "size_mm"), grade(r)))
    assert not misses(ISO, "IT_formula_unrounded", lambda r: it_formula_um(number(r, "size_mm"), grade(r)))


@pytest.mark.parametrize(("quantity", "end"), [("shaft_es", "high_um"), ("shaft_ei", "low_um")])
def test_every_shaft_deviation(quantity, end):
    assert not misses(ISO, quantity, lambda r: getattr(shaft_limits(number(r, "size_mm"), r["shaft"]), end))


@pytest.mark.parametrize(("quantity", "end"), [("hole_ES", "high_um"), ("hole_EI", "low_um")])
def test_every_hole_deviation(quantity, end):
    assert not misses(ISO, quantity, lambda r: getattr(hole_limits(number(r, "size_mm"), r["hole"]), end))


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("fit_class", lambda f: f.kind),
        ("fit_max_clearance", lambda f: f.max_clearance_um),
        ("fit_min_clearance", lambda f: f.min_clearance_um),
        ("fit_mean_clearance", lambda f: f.mean_clearance_um),
        ("hole_max_size", lambda f: f.hole.high_mm),
        ("hole_min_size", lambda f: f.hole.low_mm),
        ("shaft_max_size", lambda f: f.shaft.high_mm),
        ("shaft_min_size", lambda f: f.shaft.low_mm),
    ],
)
def test_every_fit(quantity, value):
    assert not misses(ISO, quantity, lambda r: value(fit(number(r, "size_mm"), r["hole"], r["shaft"])))


def test_a_range_includes_its_upper_end():
    assert it_um(30, 7) == 21
    assert it_um(30.001, 7) == 25


@pytest.mark.parametrize(
    "call",
    [
        lambda: it_um(130, 7),
        lambda: shaft_limits(20, "q6"),
        lambda: hole_limits(20, "H"),
        lambda: it_um(20, 14),
    ],
)
def test_what_the_tables_do_not_hold_is_refused_with_what_they_do(call):
    with pytest.raises(InputError, match=r"tables go|letters here|write a letter|grades here"):
        call()


def pressed(r: Row) -> PressFit:
    def mm(key: str) -> float:
        return number(r, key)

    return press_fit(
        dia_mm=mm("fit_dia_mm"),
        shaft_bore_mm=mm("shaft_bore_mm"),
        hub_outside_mm=mm("hub_od_mm"),
        length_mm=mm("length_mm"),
        interference_mm=mm("interference_um") / 1000,
        friction=mm("mu"),
        shaft=Elastic(mm("E_shaft_GPa") * 1000, mm("nu_shaft"), mm("alpha_shaft_1e6") * 1e-6),
        hub=Elastic(mm("E_hub_GPa") * 1000, mm("nu_hub"), mm("alpha_hub_1e6") * 1e-6),
    )


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("interface_pressure", lambda f: f.pressure_mpa),
        ("hub_hoop_at_bore", lambda f: f.hub_hoop_mpa),
        ("hub_hoop_at_od", lambda f: f.hub_hoop_outside_mpa),
        ("shaft_hoop_at_interface", lambda f: f.shaft_hoop_mpa),
        ("shaft_hoop_at_bore", lambda f: f.shaft_hoop_inside_mpa),
        ("shaft_hoop_at_centre", lambda f: f.shaft_hoop_inside_mpa),
        ("hub_von_mises_at_bore", lambda f: f.von_mises_mpa),
        ("axial_force", lambda f: f.force_n),
        ("torque_capacity", lambda f: f.torque_nm),
        ("hub_od_growth_dia", lambda f: 1000 * f.outside_growth_mm),
        ("shaft_bore_closure_dia", lambda f: 1000 * f.bore_closure_mm),
    ],
)
def test_every_press_fit(quantity, value):
    assert not misses(PRESS, quantity, lambda r: value(pressed(r)))


def heat(r: Row) -> float:
    return heat_hub_to_slip_c(
        number(r, "fit_dia_mm"),
        number(r, "interference_um") / 1000,
        number(r, "slip_clearance_um") / 1000,
        number(r, "alpha_hub_1e6") * 1e-6,
    )


def test_every_heat_to_slip():
    assert not misses(PRESS, "hub_temp_rise_for_slip", heat)
    assert not misses(PRESS, "hub_temp_for_slip", lambda r: number(r, "ambient_C") + heat(r))
    assert not misses(
        PRESS,
        "shaft_temp_change_for_slip",
        lambda r: cool_shaft_to_slip_c(
            number(r, "fit_dia_mm"),
            number(r, "interference_um") / 1000,
            number(r, "slip_clearance_um") / 1000,
            number(r, "alpha_shaft_1e6") * 1e-6,
        ),
    )


def test_every_bearing_warmed():
    def of(r: Row) -> tuple[float, float, float, float]:
        return (
            number(r, "bore_mm"),
            number(r, "interference_um") / 1000,
            number(r, "slip_clearance_um") / 1000,
            number(r, "alpha_1e6") * 1e-6,
        )

    assert not misses(HEAT, "heat_temp_rise", lambda r: heat_hub_to_slip_c(*of(r)))
    assert not misses(
        HEAT, "heat_to_temperature", lambda r: number(r, "ambient_C") + heat_hub_to_slip_c(*of(r))
    )
    assert not misses(HEAT, "shaft_cooling_alternative", lambda r: cool_shaft_to_slip_c(*of(r)))
    assert not misses(
        HEAT,
        "within_limit",
        lambda r: number(r, "ambient_C") + heat_hub_to_slip_c(*of(r)) <= number(r, "max_part_temp_C"),
    )
    assert not misses(
        HEAT,
        "clearance_available_at_limit",
        lambda r: (
            1000
            * slip_at_limit_mm(
                of(r)[0], of(r)[1], of(r)[3], number(r, "max_part_temp_C") - number(r, "ambient_C")
            )
        ),
    )


@given(st.floats(5, 60), st.floats(0.2, 0.9), st.floats(1.2, 4), st.floats(0.002, 0.05))
def test_a_press_fit_in_the_limits(d, inner, outer, delta):
    base = {"dia_mm": d, "hub_outside_mm": outer * d, "length_mm": d, "interference_mm": delta}
    solid, hollow = press_fit(shaft_bore_mm=0.0, **base), press_fit(shaft_bore_mm=inner * d, **base)
    assert hollow.pressure_mpa < solid.pressure_mpa
    assert 0 < hollow.bore_closure_mm < 2 * delta
    twice = press_fit(shaft_bore_mm=inner * d, **{**base, "interference_mm": 2 * delta})
    assert twice.force_n == pytest.approx(2 * hollow.force_n)


def test_the_rows_are_there():
    assert len(rows(ISO)) > 1000
