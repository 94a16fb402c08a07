"""The spindle's model: what a turn of the dial, a unit, an axis or a plane may and may not change; known
inputs recovered.
"""

from __future__ import annotations

import itertools
import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.test_spindle_survey import SOUND, known, taken
from trebb.core.condition import Change, Shared, Shift, apply_change, estimate, grouped, total_doubt
from trebb.core.condition.model import ErrorModel, Row, Source
from trebb.core.errors import InputError
from trebb.core.families.spindle.findings import draw, questions, runout_along
from trebb.core.families.spindle.sizes import (
    cause_draws,
    measure_limits,
    measure_value,
    slack_at,
    vector_at,
    work_draws,
)
from trebb.core.families.spindle.subject import (
    LEAN_MM,
    ONE_BEARING_LEVER,
    REAR_SHARE,
    USUAL,
    slack_shares,
    spindle_model,
)
from trebb.core.families.spindle.test_bar import seating_of, seating_words
from trebb.core.families.spindle.turning import vector_row
from trebb.core.machine import class_limit
from trebb.core.practice import PracticeMachine
from trebb.core.survey import PlaceReadings, set_up, set_ups_of
from trebb.core.survey.angles import split_place
from trebb.core.survey.turns import turn_of

LATHE, MILL, DRILL = USUAL["lathe"], USUAL["mill"], USUAL["drill"]
EVERY = pytest.mark.parametrize("spindle", list(USUAL.values()), ids=list(USUAL))
angles = st.floats(0, 360)


def exact(spindle, condition):
    return {
        key: np.array([value])
        for key, value in {
            **dict.fromkeys((s.key for s in spindle_model(spindle).sources), 0.0),
            **condition,
        }.items()
    }


# rows -----------------------------------------------------------------------------------------


@given(angles, st.floats(-0.05, 0.05), st.floats(-0.05, 0.05))
def test_a_vector_reads_plus_where_it_points_and_minus_opposite(theta, x, y):
    row = vector_row((("taper", 0.0),), {}, theta)
    opposite = vector_row((("taper", 0.0),), {}, theta + 180)
    value = row["taper.x"] * x + row["taper.y"] * y
    assert value == pytest.approx(
        x * math.cos(math.radians(theta)) + y * math.sin(math.radians(theta)), abs=1e-12
    )
    assert opposite["taper.x"] * x + opposite["taper.y"] * y == pytest.approx(-value, abs=1e-12)


@given(angles, angles)
def test_what_is_seated_turned_has_its_vector_turned(theta, index):
    turned = vector_row((("bar", 100.0),), {"bar": index}, theta)
    plain = vector_row((("bar", 100.0),), {}, theta - index)
    for key, value in plain.items():
        assert turned.get(key, 0.0) == pytest.approx(value, abs=1e-12)


@pytest.mark.parametrize("axis", ["x", "y"])
def test_a_lean_counts_with_the_distance_and_turns_sign_inside_the_taper(axis):
    theta = 0.0 if axis == "x" else 90.0
    out, inside = (vector_row((("taper", z),), {}, theta)[f"taper_lean.{axis}"] for z in (150.0, -50.0))
    assert out == pytest.approx(150.0 / LEAN_MM)
    assert inside == pytest.approx(-50.0 / LEAN_MM)


def test_the_face_is_read_along_the_axis_at_its_radius():
    row = vector_row((("face", 0.0),), {}, 0.0, axial_mm=38.0)
    assert row["face_lean.x"] == pytest.approx(0.38)
    assert "face.x" not in row


@pytest.mark.parametrize(
    ("number", "angle", "plane"), [(1, 0.0, "near"), (2, 180.0, "far"), (11, 22.5, "far")]
)
def test_a_seating_is_read_back_from_its_words(number, angle, plane):
    assert seating_of(f"{seating_words(number, angle)}, {plane}") == (number, angle, plane)
    assert split_place(f"{seating_words(number, angle)}, {plane}, 67.5°") == (
        f"{seating_words(number, angle)}, {plane}",
        67.5,
    )


@pytest.mark.parametrize(
    "points",
    [(), ((0.0, 1.0),), ((0.0, 1.0), (180.0, 2.0)), ((0.0, 1.0), (1.0, 1.0), (2.0, 1.1), (3.0, 1.0))],
)
def test_too_little_of_a_turn_has_no_fit_and_raises_nothing(points):
    assert turn_of(points) is None


# the model ------------------------------------------------------------------------------------


@EVERY
def test_every_row_of_every_set_up_names_sources_of_its_own_model(spindle):
    model = spindle_model(spindle)
    for s in set_ups_of("spindle"):
        if s.applies(spindle):
            for place in s.places(spindle):
                assert all(key in model for key in s.row(spindle, place.key).coefficients)


@EVERY
def test_every_question_and_measure_is_made_of_its_own_sources(spindle):
    model = spindle_model(spindle)
    assert all(key in model for q in questions(spindle).values() for key in q)
    for _, limit in measure_limits(spindle).values():
        assert (
            class_limit("toolroom", limit).limit_mm
            < class_limit("ordinary", limit).limit_mm
            < class_limit("rough", limit).limit_mm
        )


def test_slack_grows_by_the_lever_and_shows_less_from_behind():
    one = replace(DRILL, bearing_count=1)
    assert slack_shares(one)["slack"] == ONE_BEARING_LEVER
    assert slack_shares(LATHE)["loose.rear"] == REAR_SHARE
    found = slack_at(LATHE, exact(LATHE, {"slack": 0.01, "loose.front": 0.02, "loose.rear": 0.1}))
    assert found[0] == pytest.approx(0.01 + 0.02 + REAR_SHARE * 0.1)


@settings(max_examples=20, deadline=None)
@given(angles)
def test_turning_every_vector_of_the_spindle_changes_no_measure(turn):
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    condition = {
        "bearing.x": 0.004,
        "taper.y": 0.006,
        "taper_lean.x": 0.003,
        "chuck.x": 0.02,
        "chuck_lean.y": 0.005,
        "seat": 0.002,
        "slack": 0.004,
    }
    turned = dict(condition)
    for name in ("bearing", "taper", "taper_lean", "chuck", "chuck_lean"):
        x, y = condition.get(f"{name}.x", 0.0), condition.get(f"{name}.y", 0.0)
        turned[f"{name}.x"], turned[f"{name}.y"] = c * x - s * y, s * x + c * y
    before, after = exact(DRILL, condition), exact(DRILL, turned)
    for key in measure_limits(DRILL):
        assert measure_value(DRILL, after, key).value == pytest.approx(
            measure_value(DRILL, before, key).value, abs=1e-12
        )


@pytest.mark.parametrize("axis", ["x", "y"])
def test_runout_is_twice_the_vector_at_any_distance(axis):
    drawn = exact(LATHE, {f"taper.{axis}": 0.010, f"taper_lean.{axis}": -0.010})
    at = [q.value for q in runout_along(LATHE, drawn, [0.0, 50.0, 100.0, 200.0])]
    assert at == pytest.approx([0.020, 0.010, 0.0, 0.020], abs=1e-12)


def test_opposite_vectors_take_each_other_out_and_like_ones_add():
    drawn = exact(MILL, {"bearing.x": 0.01, "chuck.x": 0.01})
    like, opposite = (
        runout_along(MILL, drawn, [0.0], holder="chuck", turned_deg=d)[0].value for d in (0.0, 180.0)
    )
    assert like == pytest.approx(0.04)
    assert opposite == pytest.approx(0.0, abs=1e-12)


def test_the_bar_s_own_error_is_not_the_machine_s():
    assert work_draws(LATHE, exact(LATHE, {"bar.x": 0.05}), 254.0)[0] == 0.0
    assert cause_draws(LATHE, exact(LATHE, {"bar.x": 0.05}), 0.0)["bar"][0] == pytest.approx(0.1)


def test_a_lathe_has_no_quill_and_a_drill_s_chuck_counts():
    assert "quill" not in spindle_model(LATHE)
    assert "chuck" in cause_draws(DRILL, exact(DRILL, {}), 50.0)
    assert "chuck" not in cause_draws(MILL, exact(MILL, {}), 50.0)


def test_draws_are_the_same_each_time_and_never_less_than_nothing():
    now = estimate(spindle_model(LATHE), [])
    first, again = draw(now), draw(now)
    assert all((first[k] == again[k]).all() for k in first)
    assert all((first[s.key] >= 0).all() for s in now.model.sources if s.is_clearance)
    assert abs(vector_at(first, "bearing", 0.0).mean()) < 0.0005


# recovering what was put in -------------------------------------------------------------------

KNOWN = {
    "bearing.x": 0.004,
    "taper.x": -0.006,
    "taper.y": 0.005,
    "bar.y": 0.004,
    "slack": 0.012,
    "float": 0.02,
    "flex": 0.03,
}


@pytest.mark.parametrize("source", ["taper.x", "taper.y", "bar.y", "slack", "float", "flex"])
@EVERY
def test_what_was_put_in_is_found_within_four_of_its_deviations(spindle, source):
    sets = ("nose", "taper_bore", "test_bar", "push_test", "spindle_float", "journals")
    now = known(spindle, *[(key, taken(key, spindle, KNOWN)) for key in sets])
    q = now.source(source)
    assert abs(q.value - KNOWN[source]) < 4 * q.sd + 1e-6


@settings(max_examples=8, deadline=None)
@given(st.integers(0, 10_000))
def test_more_readings_never_leave_more_doubt(seed):
    condition = {**SOUND, "taper.x": 0.004, "slack": 0.01}
    machine = PracticeMachine(MILL, spindle_model(MILL), condition, seed)
    doubts, readings = [], []
    vectors = {key: q for key, q in questions(MILL).items() if key.split(".")[0] in ("bearings", "taper")}
    for key in ("nose", "taper_bore", "push_test", "journals"):
        s = set_up(key)
        readings.append(
            (
                key,
                [
                    PlaceReadings(p.key, tuple(machine.reading(s, p.key, i) for i in range(s.wanted)))
                    for p in s.places(MILL)
                ],
            )
        )
        doubts.append(total_doubt(known(MILL, *readings), vectors, 0.003))
    assert all(
        after <= 1.02 * before for before, after in itertools.pairwise(doubts)
    )  # noise is found from the readings too
    assert doubts[-1] < doubts[0]


# shared unknowns ------------------------------------------------------------------------------

PAIR = ErrorModel((Source("a", "a", 0.0, 1.0), Source("b", "b", 0.0, 1.0)))


def test_an_unknown_zero_leaves_only_differences():
    rows = [Row({"a": 1.0}, 0.01), Row({"b": 1.0}, 0.01)]
    now = estimate(PAIR, grouped(rows, [5.3, 5.1], [Shared(np.ones(2), 1e3)]))
    difference = now.combination({"a": 1.0, "b": -1.0})
    assert difference.value == pytest.approx(0.2, abs=1e-3)
    assert now.source("a").sd > 0.6


def test_without_anything_shared_the_readings_stay_as_they_are():
    rows = [Row({"a": 2.0}, 0.5), Row({"b": 1.0}, 0.25, offset=1.0)]
    plain = grouped(rows, [2.0, 3.0], [])
    assert [o.value for o in plain] == pytest.approx([4.0, 8.0])
    assert [o.row.noise_sd for o in plain] == [1.0, 1.0]


@given(st.floats(0.05, 5.0))
def test_the_more_is_shared_the_less_one_reading_says(sd):
    rows = [Row({"a": 1.0}, 0.1)]
    alone, shared = (
        estimate(PAIR, grouped(rows, [0.3], s)).source("a").sd for s in ([], [Shared(np.ones(1), sd)])
    )
    assert shared > alone


# changes --------------------------------------------------------------------------------------


def test_a_repair_that_turns_a_vector_keeps_its_length():
    now = known(
        MILL, ("chuck_pin", taken("chuck_pin", MILL, {"chuck.x": 0.02})), ("nose", taken("nose", MILL, {}))
    )
    c, s = math.cos(1.0), math.sin(1.0)
    change = Change(
        {
            "chuck.x": Shift(0.0, 0.0, {"chuck.x": c, "chuck.y": -s}),
            "chuck.y": Shift(0.0, 0.0, {"chuck.x": s, "chuck.y": c}),
        }
    )
    after = apply_change(now, change)
    before_length, after_length = (
        math.hypot(e.source("chuck.x").value, e.source("chuck.y").value) for e in (now, after)
    )
    assert after_length == pytest.approx(before_length, rel=1e-9)


def test_a_source_that_is_not_there_is_refused_by_name():
    with pytest.raises(InputError, match="chuck"):
        ErrorModel((Source("a", "a", 0, 1),)).position("chuck.x")
