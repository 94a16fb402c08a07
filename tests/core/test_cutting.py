"""Speeds, passes and times against every certified row; plans of passes by their own rules."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import Row, in_unit, millimetres, misses, number, rows
from trebb.core.making.infeed import (
    InfeedScheme,
    cumulative_depths_mm,
    groove_area_mm2,
    infeed_plan,
    pass_count,
    run_out_mm,
    threading_seconds,
    turning_cut,
)

FILE = "12_cutting.csv"
HALF = math.radians(14.5)


def cut(row: Row):
    speed = number(row, "cutting_speed") * (0.3048 if row["length_unit"] == "in" else 1.0)
    keys = ("start_dia", "finish_dia", "max_depth_per_pass")
    return turning_cut(
        *(millimetres(row, k) for k in keys),
        speed,
        *(millimetres(row, k) for k in ("feed_per_rev", "cut_length", "approach_length")),
    )


def removal(row: Row) -> float:
    depth, feed = number(row, "max_depth_per_pass"), number(row, "feed_per_rev")
    actual = in_unit(row, cut(row).depth_mm)
    assert actual <= depth + 1e-9
    return actual * feed * number(row, "cutting_speed") * (12 if row["length_unit"] == "in" else 1)


def groove(row: Row) -> tuple[float, float, float]:
    return (
        millimetres(row, "total_depth"),
        millimetres(row, "tool_flat"),
        math.radians(number(row, "half_angle_deg")),
    )


def depths(row: Row) -> list[float]:
    depth, flat, half = groove(row)
    return [0.0, *cumulative_depths_mm(depth, int(row["passes"]), flat, half)]


def lead(row: Row) -> float:
    return millimetres(row, "pitch") * int(row["starts"])


QUANTITIES = {
    "spindle_rpm": lambda r: cut(r).rpm,
    "passes_turning": lambda r: cut(r).passes,
    "actual_depth_per_pass": lambda r: in_unit(r, cut(r).depth_mm),
    "time_per_pass": lambda r: cut(r).pass_seconds,
    "time_total_cutting": lambda r: cut(r).passes * cut(r).pass_seconds,
    "material_removal_rate_first_pass": removal,
    "profile_area": lambda r: groove_area_mm2(*groove(r)) / (645.16 if r["length_unit"] == "in" else 1),
    "threading_passes": lambda r: pass_count(
        groove(r)[0], millimetres(r, "first_pass_depth"), *groove(r)[1:]
    ),
    "passes_sqrt_rule_V": lambda r: pass_count(
        groove(r)[0], millimetres(r, "first_pass_depth"), 0.0, math.radians(30)
    ),
    "cumulative_depth": lambda r: in_unit(r, depths(r)[int(r["pass_index"])]),
    "depth_increment": lambda r: in_unit(
        r, depths(r)[int(r["pass_index"])] - depths(r)[int(r["pass_index"]) - 1]
    ),
    "threading_time_total": lambda r: threading_seconds(
        int(r["starts"]),
        int(r["passes"]),
        millimetres(r, "cut_length"),
        millimetres(r, "approach_length"),
        lead(r),
        number(r, "spindle_rpm"),
        number(r, "return_time_s"),
    ),
    "carriage_speed": lambda r: in_unit(r, lead(r)) * number(r, "spindle_rpm"),
    "run_out_travel_for_0.5s_reaction": lambda r: in_unit(r, run_out_mm(lead(r), number(r, "spindle_rpm"))),
}


def fill(row: Row) -> Row:
    return row if row["cut_length"] else {**row, "cut_length": row["approach_length"]}


@pytest.mark.parametrize("quantity", QUANTITIES)
def test_cutting_agrees_with_the_certified_rows(quantity):
    assert not misses(FILE, quantity, lambda r: QUANTITIES[quantity](fill(r)))


def test_every_row_of_the_file_is_tested():
    assert {r["quantity"] for r in rows(FILE)} == set(QUANTITIES)


@given(st.floats(0.8, 3.0), st.floats(0.3, 1.5), st.floats(0.0, 0.7), st.sampled_from(InfeedScheme))
def test_a_plan_goes_down_to_depth_and_never_back(depth, flat, done, scheme):
    plan = infeed_plan(depth, flat, HALF, scheme, first_mm=0.3, last_mm=0.05, start_mm=done * depth)
    reached = [p.cross_mm for p in plan]
    assert reached == sorted(reached)
    assert reached[-1] == pytest.approx(depth)
    assert sum(p.step_mm for p in plan) == pytest.approx(
        (depth - done * depth) / (math.cos(HALF) if scheme is InfeedScheme.COMPOUND else 1)
    )


@given(st.floats(0.8, 3.0), st.floats(0.3, 1.5))
def test_the_last_two_cuts_are_light_and_spring_passes_follow(depth, flat):
    plan = infeed_plan(depth, flat, HALF, InfeedScheme.STRAIGHT, first_mm=0.3, last_mm=0.05, spring_passes=2)
    cuts = [p for p in plan if not p.is_spring]
    assert all(p.step_mm <= 0.05 + 1e-9 for p in cuts[-2:])
    assert [p.is_spring for p in plan[-2:]] == [True, True]


def test_alternate_flanks_set_over_either_way_and_end_in_the_middle():
    plan = infeed_plan(1.8, 1.0, HALF, InfeedScheme.ALTERNATE, first_mm=0.3, last_mm=0.05)
    sides = [p.sideways_mm for p in plan if not p.is_spring]
    assert min(sides) < 0 < max(sides)
    assert sides[-1] == 0


def test_nothing_left_gives_no_passes():
    assert infeed_plan(1.8, 1.0, HALF, InfeedScheme.STRAIGHT, first_mm=0.3, last_mm=0.05, start_mm=1.8) == []


def test_a_first_pass_deeper_than_the_thread_is_refused():
    with pytest.raises(ValueError, match=r"at most 1\.000 mm"):
        pass_count(1.0, 2.0, 0.5, HALF)
