"""Thread forms, limits and tools against every certified row."""

from __future__ import annotations

import math

import pytest

from tests.reference import Row, in_unit, millimetres, misses, number, rows
from trebb.core.threads import (
    Form,
    Hand,
    ThreadSpec,
    ThreadSpecError,
    compound_infeed_mm,
    flank_clearance,
    thread_limits,
    tool_flat_mm,
)
from trebb.core.threads.tool import normal_plane_tool, nut_root_flat_mm

FILE = "01_thread_forms.csv"
FORMS = {
    "acme_gp": Form.ACME,
    "acme_stub": Form.ACME_STUB,
    "trapezoidal_metric": Form.TRAPEZOIDAL,
    "square": Form.SQUARE,
    "iso_metric": Form.METRIC,
    "un": Form.UNIFIED,
}


def spec_of(row: Row) -> ThreadSpec:
    return ThreadSpec(
        FORMS[row["form"]], millimetres(row, "major_dia"), millimetres(row, "pitch"), int(row["starts"]),
        Hand.LEFT if row["hand"] == "LH" else Hand.RIGHT, row["tol_class"] or "2G",
    )  # fmt: skip


def side(row: Row):
    return flank_clearance(spec_of(row), math.radians(number(row, "working_clearance_deg")))


LENGTHS = {
    "pitch_dia_basic": lambda s, r: s.pitch_dia_mm,
    "basic_height_5H8": lambda s, r: s.basic_height_mm,
    "basic_thread_height": lambda s, r: s.basic_height_mm,
    "basic_root_flat_at_D1": lambda s, r: (
        s.pitch_mm / 2 - (s.pitch_dia_mm - s.nut_minor_mm) * math.tan(s.form.half_angle)
    ),
    "compound_infeed_full_depth": lambda s, r: compound_infeed_mm(
        s.depth_mm, math.radians(number(r, "compound_angle_deg"))
    ),
    "crest_flat_basic": lambda s, r: s.crest_flat_mm,
    "lead": lambda s, r: s.lead_mm,
    "nut_major_max": lambda s, r: thread_limits(s).nut_major.high_mm,
    "nut_major_min": lambda s, r: thread_limits(s).nut_major.low_mm,
    "nut_minor_basic": lambda s, r: s.nut_minor_mm,
    "nut_minor_max": lambda s, r: thread_limits(s).nut_minor.high_mm,
    "nut_minor_min": lambda s, r: thread_limits(s).nut_minor.low_mm,
    "nut_pitch_dia_max": lambda s, r: thread_limits(s).nut_pitch.high_mm,
    "nut_root_flat_zero_pd_allow": lambda s, r: nut_root_flat_mm(s),
    "screw_major_min": lambda s, r: thread_limits(s).screw_major.low_mm,
    "screw_minor_d3": lambda s, r: s.screw_minor_max_mm,
    "screw_minor_max": lambda s, r: s.screw_minor_max_mm,
    "screw_minor_min": lambda s, r: thread_limits(s).screw_minor.low_mm,
    "screw_pitch_dia_max": lambda s, r: thread_limits(s).screw_pitch.high_mm,
    "screw_pitch_dia_min": lambda s, r: thread_limits(s).screw_pitch.low_mm,
    "screw_root_flat_zero_pd_allow": lambda s, r: tool_flat_mm(s),
    "screw_thread_depth_incl_clearance": lambda s, r: s.depth_mm,
    "sharp_v_height_H": lambda s, r: s.sharp_height_mm,
    "tool_flat_for_pd_allowance": lambda s, r: tool_flat_mm(s, millimetres(r, "pd_allow_dia")),
    "tool_flat_for_side_clearance": lambda s, r: tool_flat_mm(s, axial_play_mm=millimetres(r, "axial_play")),
    "tool_flat_in_normal_plane": lambda s, r: normal_plane_tool(s)[1],
}
ANGLES = {
    "lead_angle_at_major_dia": lambda s, r: s.lead_angle(s.major_mm),
    "lead_angle_at_minor_dia": lambda s, r: s.lead_angle(s.screw_minor_max_mm),
    "lead_angle_at_pitch_dia": lambda s, r: s.lead_angle(s.pitch_dia_mm),
    "tool_flank_clearance_leading": lambda s, r: side(r).leading,
    "tool_flank_clearance_trailing": lambda s, r: side(r).trailing,
    "tool_half_angle_in_normal_plane": lambda s, r: normal_plane_tool(s)[0],
}


@pytest.mark.parametrize("quantity", LENGTHS)
def test_lengths_agree_with_the_certified_rows(quantity):
    assert not misses(FILE, quantity, lambda r: in_unit(r, LENGTHS[quantity](spec_of(r), r)))


@pytest.mark.parametrize("quantity", ANGLES)
def test_angles_agree_with_the_certified_rows(quantity):
    assert not misses(FILE, quantity, lambda r: math.degrees(ANGLES[quantity](spec_of(r), r)))


def test_every_row_of_the_file_is_tested():
    assert {r["quantity"] for r in rows(FILE)} == set(LENGTHS) | set(ANGLES)


@pytest.mark.parametrize("quantity", ["tool_flank_clearance_leading", "tool_flank_clearance_trailing"])
def test_flanks_face_the_side_that_the_rows_name(quantity):
    name = "leading_side" if "leading" in quantity else "trailing_side"
    assert all(getattr(side(r), name) == r["side"] for r in rows(FILE, quantity))


def test_exactly_ten_threads_an_inch_takes_the_larger_clearance():
    assert ThreadSpec(Form.ACME, 12.7, 2.54).clearance_dia_mm == pytest.approx(0.020 * 25.4)
    assert ThreadSpec(Form.ACME, 12.7, 25.4 / 12).clearance_dia_mm == pytest.approx(0.010 * 25.4)


def test_lead_angle_is_steepest_at_the_root():
    spec = ThreadSpec(Form.ACME, 25.4, 5.08, 2)
    assert (
        spec.lead_angle(spec.screw_minor_max_mm)
        > spec.lead_angle(spec.pitch_dia_mm)
        > spec.lead_angle(spec.major_mm)
    )


def test_a_larger_allowance_needs_a_wider_tool():
    spec = ThreadSpec(Form.ACME, 19.05, 3.175)
    assert tool_flat_mm(spec, 0.2) > tool_flat_mm(spec, 0.1) > tool_flat_mm(spec)


def test_the_demo_thread_has_its_name():
    assert ThreadSpec(Form.ACME, 19.05, 3.175, 1, Hand.LEFT).designation == "3/4-8 Acme left hand"
    assert ThreadSpec(Form.TRAPEZOIDAL, 24, 5, 2).designation == "Tr 24 × 10 (P5)"


@pytest.mark.parametrize(("arguments", "said"), [
    ((Form.ACME, 19.05, 0.0), "the pitch must be more than nothing"),
    ((Form.ACME, 5.0, 6.0), "cut the screw nearly through"),
    ((Form.ACME, 19.05, 3.175, 0), "from 1 to 12 starts"),
    ((Form.ACME, 19.05, 3.175, 1, Hand.RIGHT, "9Z"), "2G, 3G or 4G"),
])  # fmt: skip
def test_a_thread_that_cannot_be_is_refused(arguments, said):
    with pytest.raises(ThreadSpecError, match=said):
        ThreadSpec(*arguments)


def test_an_absurd_clearance_or_compound_angle_is_refused():
    spec = ThreadSpec(Form.ACME, 19.05, 3.175)
    with pytest.raises(ValueError, match="3° to 5° is usual"):
        flank_clearance(spec, 1.0)
    with pytest.raises(ValueError, match="0° to 60°"):
        compound_infeed_mm(1.0, 1.5)


@pytest.mark.parametrize("clears", [0.254, 0.508])
def test_a_square_thread_clears_by_what_is_stated_of_it(clears):
    usual = ThreadSpec(Form.SQUARE, 25.4, 6.35)
    assert usual.clearance_dia_mm == pytest.approx(0.254)
    spec = ThreadSpec(Form.SQUARE, 25.4, 6.35, square_clearance_mm=clears)
    assert spec.nut_minor_mm == pytest.approx(25.4 - 6.35)
    assert spec.screw_minor_max_mm == pytest.approx(25.4 - 6.35 - clears)
    assert spec.nut_major_min_mm == pytest.approx(25.4 + clears)
    assert spec.depth_mm == pytest.approx((6.35 + clears) / 2)
    acme = ThreadSpec(Form.ACME, 25.4, 6.35, square_clearance_mm=clears)
    assert acme.clearance_dia_mm == pytest.approx(0.508)  # by its standard, whatever is said of a square one
