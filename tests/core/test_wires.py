"""Size over wires against every certified row, and against itself."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.test_thread_forms import FORMS
from tests.reference import Row, in_unit, millimetres, misses, rows
from trebb.core.threads import (
    Form,
    ThreadSpec,
    WireError,
    best_wire_exact_mm,
    best_wire_mm,
    pitch_dia_from_wires_mm,
    size_over_wires_mm,
    size_over_wires_simple_mm,
    wire_range_mm,
)
from trebb.core.threads.wires import (
    contact_dia_mm,
    lead_correction_first_order_mm,
    one_wire_mm,
    pitch_dia_from_wires_simple_mm,
)

FILE = "02_three_wire.csv"


def spec_of(row: Row) -> ThreadSpec:
    return ThreadSpec(
        FORMS[row["form"]], millimetres(row, "major_dia"), millimetres(row, "pitch"), int(row["starts"])
    )


def e(row: Row) -> float:
    return millimetres(row, "pitch_dia")


def w(row: Row) -> float:
    return millimetres(row, "wire_dia")


def m(row: Row) -> float:
    return millimetres(row, "measured_M")


QUANTITIES = {
    "best_wire_simple": lambda s, r: best_wire_mm(s),
    "best_wire_exact": lambda s, r: best_wire_exact_mm(s, e(r)),
    "wire_max_simple": lambda s, r: wire_range_mm(s, e(r))[1],
    "wire_min_simple": lambda s, r: wire_range_mm(s, e(r))[0],
    "M_simple": lambda s, r: size_over_wires_simple_mm(s, e(r), w(r)),
    "M_exact_3d": lambda s, r: size_over_wires_mm(s, e(r), w(r)),
    "lead_correction_exact": lambda s, r: (
        size_over_wires_mm(s, e(r), w(r)) - size_over_wires_simple_mm(s, e(r), w(r))
    ),
    "M_lead_approx": lambda s, r: (
        size_over_wires_simple_mm(s, e(r), w(r)) + lead_correction_first_order_mm(s, e(r), w(r))
    ),
    "lead_approx_residual": lambda s, r: (
        size_over_wires_simple_mm(s, e(r), w(r))
        + lead_correction_first_order_mm(s, e(r), w(r))
        - size_over_wires_mm(s, e(r), w(r))
    ),
    "contact_dia_exact": lambda s, r: contact_dia_mm(s, e(r), w(r)),
    "pitch_dia_from_M_simple": lambda s, r: pitch_dia_from_wires_simple_mm(s, m(r), w(r)),
    "pitch_dia_from_M_exact": lambda s, r: pitch_dia_from_wires_mm(s, m(r), w(r)),
    "M_one_wire": lambda s, r: one_wire_mm(m(r), millimetres(r, "major_dia_actual")),
}


@pytest.mark.parametrize("quantity", QUANTITIES)
def test_wires_agree_with_the_certified_rows(quantity):
    assert not misses(FILE, quantity, lambda r: in_unit(r, QUANTITIES[quantity](spec_of(r), r)))


def test_every_row_of_the_file_is_tested():
    assert {r["quantity"] for r in rows(FILE)} == set(QUANTITIES)


@given(st.floats(-0.4, 0.1), st.integers(1, 4), st.floats(0.97, 1.2))
def test_size_over_wires_and_back_is_the_same_pitch_diameter(off, starts, wire_share):
    spec = ThreadSpec(Form.ACME, 25.4, 5.08, starts)
    wire = wire_share * best_wire_mm(spec)
    pitch_dia = spec.pitch_dia_mm + off
    assert pitch_dia_from_wires_mm(spec, size_over_wires_mm(spec, pitch_dia, wire), wire) == pytest.approx(
        pitch_dia, abs=1e-9
    )


def test_without_lead_the_exact_size_is_the_simple_one():
    spec = ThreadSpec(Form.ACME, 1000.0, 3.175)  # so large that the lead angle all but vanishes
    wire = best_wire_mm(spec)
    assert size_over_wires_mm(spec, 998.0, wire) == pytest.approx(
        size_over_wires_simple_mm(spec, 998.0, wire), abs=1e-5
    )


@given(st.floats(0.5, 2.0))
def test_scaling_the_thread_scales_the_size(scale):
    small, large = ThreadSpec(Form.ACME, 20.0, 4.0), ThreadSpec(Form.ACME, 20.0 * scale, 4.0 * scale)
    wire = best_wire_mm(small)
    assert size_over_wires_mm(large, 18.0 * scale, wire * scale) == pytest.approx(
        scale * size_over_wires_mm(small, 18.0, wire), rel=1e-9
    )


def test_a_square_thread_holds_no_wire():
    with pytest.raises(WireError, match="measure groove and ridge"):
        best_wire_mm(ThreadSpec(Form.SQUARE, 25.4, 6.35))


def test_a_size_of_another_thread_is_refused_with_what_is_expected():
    spec = ThreadSpec(Form.ACME, 19.05, 3.175)
    with pytest.raises(WireError, match=r"reads about 19\.\d+ mm"):
        pitch_dia_from_wires_mm(spec, 76.2, best_wire_mm(spec))


def test_a_wire_of_nothing_is_refused():
    with pytest.raises(WireError, match="more than nothing"):
        size_over_wires_mm(ThreadSpec(Form.ACME, 19.05, 3.175), 17.0, 0.0)
