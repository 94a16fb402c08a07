"""Lash by hand: every certified row of the chain and of wear to play."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import Row, in_unit, millimetres, misses, number, rows
from trebb.core.threads.wear import (
    LashChain,
    axial_from_flank_wear_mm,
    axial_play_mm,
    lash_chain,
    lost_motion_mm,
    lost_motion_shown_mm,
    pitch_dia_loss_mm,
)
from trebb.core.units import DialScale

FILE = "09_backlash.csv"


def dial(row: Row) -> DialScale:
    return DialScale(
        int(row["dial_divisions"]), millimetres(row, "screw_lead"), row["dial_reads_diameter"] == "true"
    )


def chain(row: Row) -> LashChain:
    return lash_chain(
        number(row, "lost_motion_divisions"),
        dial(row),
        *(millimetres(row, k) for k in ("push_pull_float", "screw_axial_float", "nut_axial_clearance")),
    )


def half_angle(row: Row) -> float:
    return math.radians(number(row, "half_angle_deg"))


def play(row: Row) -> float:
    sag = millimetres(row, "radial_offset") if row["radial_offset"] else 0.0
    return axial_play_mm(
        millimetres(row, "pitch_dia_nut"), millimetres(row, "pitch_dia_screw"), half_angle(row), sag
    )


def flank(row: Row) -> float:
    lead_angle = math.atan(millimetres(row, "lead") / (math.pi * millimetres(row, "pitch_dia_screw")))
    return axial_from_flank_wear_mm(millimetres(row, "normal_flank_wear"), half_angle(row), lead_angle)


QUANTITIES = {
    "lost_motion_slide_travel": lambda r: in_unit(
        r, lost_motion_mm(number(r, "lost_motion_divisions"), dial(r))
    ),
    "lost_motion_dial_value": lambda r: in_unit(
        r, lost_motion_shown_mm(number(r, "lost_motion_divisions"), dial(r))
    ),
    "lost_motion_angle": lambda r: 360 * number(r, "lost_motion_divisions") / dial(r).divisions,
    "implied_nut_clearance": lambda r: in_unit(r, chain(r).implied_nut_mm),
    "predicted_lost_motion": lambda r: in_unit(r, chain(r).predicted_mm),
    "residual_dial_minus_predicted": lambda r: in_unit(r, chain(r).dial_minus_predicted_mm),
    "residual_nut": lambda r: in_unit(r, chain(r).nut_mm),
    "residual_dial_minus_push_pull": lambda r: in_unit(r, chain(r).dial_minus_push_pull_mm),
    "consistent": lambda r: chain(r).is_consistent(millimetres(r, "consistency_tol")),
    "thrust_share_of_lost_motion": lambda r: millimetres(r, "screw_axial_float") / chain(r).lost_motion_mm,
    "axial_backlash_total": lambda r: in_unit(r, play(r)),
    "axial_clearance_per_flank": lambda r: in_unit(r, play(r)) / 2,
    "axial_backlash_with_radial_offset": lambda r: in_unit(r, play(r)),
    "delta_pitch_dia_from_axial_backlash": lambda r: in_unit(
        r, pitch_dia_loss_mm(millimetres(r, "axial_backlash"), half_angle(r))
    ),
    "axial_from_normal_flank_wear_one_flank": lambda r: in_unit(r, flank(r)),
}


@pytest.mark.parametrize("quantity", QUANTITIES)
def test_lash_agrees_with_the_certified_rows(quantity):
    assert not misses(FILE, quantity, QUANTITIES[quantity])


def test_every_row_of_the_file_is_tested():
    assert {r["quantity"] for r in rows(FILE)} == set(QUANTITIES)


@given(st.floats(0, 1), st.floats(0.1, 0.5))
def test_play_and_loss_of_pitch_diameter_are_inverse(axial, angle):
    assert axial_play_mm(20 + pitch_dia_loss_mm(axial, angle), 20, angle) == pytest.approx(axial, abs=1e-12)


def test_play_is_never_less_than_nothing():
    assert axial_play_mm(17.0, 17.5, math.radians(14.5)) == 0.0


def test_a_square_thread_hides_its_play_from_the_wires():
    with pytest.raises(ValueError, match="does not show in the pitch diameter"):
        pitch_dia_loss_mm(0.1, 0.0)
