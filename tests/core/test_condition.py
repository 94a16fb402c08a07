"""The error model: estimate, separate, suggest, predict."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from trebb.core.condition import (
    Candidate,
    Change,
    ErrorModel,
    Observation,
    Row,
    Shift,
    Source,
    apply_change,
    draw_condition,
    estimate,
    simulate,
    suggest,
    tangles,
)
from trebb.core.condition.draws import combined, draw, profile_draws
from trebb.core.condition.estimating import _estimated
from trebb.core.condition.fixing import are_touched, is_touched
from trebb.core.condition.grouping import Shared, grouped
from trebb.core.condition.leaving_out import foretold
from trebb.core.condition.normal import hazard, truncated_moments, truncated_quantile

FREE = ErrorModel((Source("a", "a", 0, 10), Source("b", "b", 0, 10)))
PLAY = ErrorModel(
    (Source("a", "a", 0.1, 0.2, True), Source("b", "b", 0.1, 0.2, True), Source("z", "zero", 0, 1))
)


@given(st.floats(-5, 5), st.floats(-5, 5))
def test_precise_readings_recover_what_was_put_in(a, b):
    rows = [Row({"a": 1}, 1e-4), Row({"a": 1, "b": 2}, 1e-4)]
    now = estimate(FREE, [Observation(rows[0], a), Observation(rows[1], a + 2 * b)])
    assert now.source("a").value == pytest.approx(a, abs=1e-3)
    assert now.source("b").value == pytest.approx(b, abs=1e-3)


def test_the_unbounded_estimate_is_weighted_least_squares_with_the_prior():
    rng = np.random.default_rng(3)
    design, noise, values = rng.normal(size=(12, 2)), rng.uniform(0.1, 2, 12), rng.normal(size=12)
    now = estimate(
        FREE,
        [
            Observation(Row({"a": r[0], "b": r[1]}, s), v)
            for r, s, v in zip(design, noise, values, strict=True)
        ],
    )
    stacked = np.vstack([design / noise[:, None], np.eye(2) / 10])
    expected, *_ = np.linalg.lstsq(stacked, np.concatenate([values / noise, [0, 0]]), rcond=None)
    assert now.mean == pytest.approx(expected)
    assert now.covariance == pytest.approx(np.linalg.inv(stacked.T @ stacked))


@given(st.floats(-1, 1))
def test_a_clearance_is_never_less_than_nothing(reading):
    q = estimate(PLAY, [Observation(Row({"a": 1}, 0.05), reading)]).source("a")
    assert 0 <= q.low <= q.value <= q.high


def test_an_offset_is_taken_off_before_estimating():
    now = estimate(FREE, [Observation(Row({"a": 1}, 1e-3, offset=5.0), 7.0)])
    assert now.source("a").value == pytest.approx(2.0, abs=1e-3)


def test_a_source_that_no_reading_touches_keeps_its_prior():
    now = estimate(PLAY, [Observation(Row({"z": 1}, 0.01), 0.5)])
    untouched = estimate(PLAY, [])
    assert now.source("a").value == pytest.approx(untouched.source("a").value)
    assert untouched.readings == 0


def _whole(model: ErrorModel, observations: list[Observation]):
    """The estimate with what is read and what is not in one."""
    noise = np.array([o.row.noise_sd for o in observations])
    design = model.matrix([o.row for o in observations]) / noise[:, None]
    return _estimated(model, design, np.array([o.value - o.row.offset for o in observations]) / noise)


@pytest.mark.parametrize("seed", range(6))
def test_what_no_reading_touches_stands_beside_the_rest_as_if_all_were_one(seed):
    rng = np.random.default_rng(seed)
    sources = tuple(
        Source(
            f"s{i}", f"s{i}", 0.05 * (i % 3), 0.1 + 0.05 * (i % 4), i % 2 == 0, group="pair" * (i in (4, 5))
        )
        for i in range(12)
    )
    model = ErrorModel(sources, {("s0", "s2"): 0.5, ("s8", "s10"): -0.3})
    read = rng.permutation(7)[:4]
    observations = [
        Observation(
            Row({f"s{i}": float(rng.normal()) for i in rng.choice(read, 2, replace=False)}, 0.02, 0.01),
            float(rng.normal(0, 0.1)),
        )
        for _ in range(5)
    ]
    found, whole = estimate(model, observations), _whole(model, observations)
    sd = np.sqrt(whole.covariance.diagonal())
    assert np.abs((found.mean - whole.mean) / sd).max() < 5e-3
    assert np.abs(found.covariance - whole.covariance).max() < 5e-3 * np.outer(sd, sd).max()
    assert set(found.cavity) == set(whole.cavity)
    assert found.readings == len(observations) == len(found.trust)
    for source in sources:
        q, w = found.source(source.key), whole.source(source.key)
        assert (q.low, q.high) == pytest.approx((w.low, w.high), abs=5e-3 * w.sd)


def test_a_part_of_a_model_has_its_own_ties_and_is_worked_out_once():
    model = ErrorModel(
        (Source("a", "a", 0, 1), Source("b", "b", 0, 2), Source("c", "c", 0, 3)), {("a", "c"): 0.5}
    )
    at, part = model.part((0,))
    assert at.tolist() == [0, 2]
    assert part.prior_covariance == pytest.approx(model.prior_covariance[np.ix_(at, at)])
    assert model.part((0,))[1] is part
    assert model.part((1,))[1].correlation == {}


def test_correlated_sources_teach_about_each_other():
    tied = ErrorModel((Source("a", "a", 0, 1), Source("b", "b", 0, 1)), {("a", "b"): 0.9})
    now = estimate(tied, [Observation(Row({"a": 1}, 1e-3), 1.0)])
    assert now.source("b").value == pytest.approx(0.9, abs=1e-3)
    assert now.source("b").sd == pytest.approx(math.sqrt(1 - 0.81), abs=1e-3)


@pytest.mark.parametrize(("observation", "said"), [
    (Observation(Row({"a": 1}, 0.0), 1.0), "uncertainty greater than nothing"),
    (Observation(Row({"a": 1}, 1.0), float("nan")), "strike it out"),
])  # fmt: skip
def test_a_reading_that_cannot_be_used_is_refused(observation, said):
    with pytest.raises(ValueError, match=said):
        estimate(FREE, [observation])


def test_an_unknown_source_is_named():
    with pytest.raises(ValueError, match="this model has a, b"):
        FREE.vector({"c": 1.0})


def test_repeating_a_sum_leaves_its_parts_tangled_and_one_part_alone_parts_them():
    both, one = Row({"a": 1, "b": 1}, 0.01), Row({"a": 1}, 0.01)
    parts = {"a": {"a": 1.0}, "b": {"b": 1.0}}
    tied = estimate(PLAY, [Observation(both, 0.4)] * 5)
    assert [t.keys for t in tangles(tied, parts, 0.02)] == [("a", "b")]
    assert tangles(tied, parts, 0.02)[0].total.value == pytest.approx(0.4, abs=0.02)
    assert not tangles(estimate(PLAY, [Observation(both, 0.4), Observation(one, 0.1)]), parts, 0.02)


def test_suggest_prefers_what_parts_the_tangle_and_says_what_it_settles():
    both, one = Row({"a": 1, "b": 1}, 0.01), Row({"a": 1}, 0.01)
    now = estimate(PLAY, [Observation(both, 0.4)])
    ranked = suggest(
        now,
        [Candidate("again", (both,), 2), Candidate("alone", (one,), 3)],
        {"a": {"a": 1}, "b": {"b": 1}},
        0.01,
    )
    assert ranked[0].key == "alone"
    assert ranked[0].sd_after < 0.2 * ranked[0].sd_before
    assert ranked[1].settles < 0.05


def test_half_the_time_doubles_what_is_gained_a_minute():
    now = estimate(PLAY, [])
    one = (Row({"a": 1}, 0.01),)
    fast, slow = suggest(now, [Candidate("slow", one, 4), Candidate("fast", one, 2)], {"a": {"a": 1}}, 0.01)
    assert (fast.key, slow.key) == ("fast", "slow")
    assert fast.per_minute == pytest.approx(2 * slow.per_minute)


def test_a_replaced_source_forgets_and_a_moved_one_shifts():
    now = estimate(FREE, [Observation(Row({"a": 1}, 0.1), 3.0), Observation(Row({"b": 1}, 0.1), 1.0)])
    after = apply_change(now, Change({"a": Shift(0.5, 0.2), "b": Shift(-0.4, 0.0, {"b": 1.0})}))
    assert after.source("a").value == pytest.approx(0.5)
    assert after.source("a").sd == pytest.approx(0.2)
    assert after.source("b").value == pytest.approx(now.source("b").value - 0.4)
    assert after.covariance[0, 1] == 0


def test_no_change_leaves_the_estimate_as_it_was():
    now = estimate(PLAY, [Observation(Row({"a": 1}, 0.02), 0.01)])
    after = apply_change(now, Change())
    assert after.mean == pytest.approx(now.mean)
    assert after.source("a").high == pytest.approx(now.source("a").high)


def test_the_later_of_two_changes_wins():
    change = Change({"a": Shift(1, 0)}).then(Change({"a": Shift(2, 0), "b": Shift(3, 0)}))
    assert change.shifts["a"].amount == 2
    assert change.apply_to({"a": 9.0, "b": 9.0}, FREE, np.random.default_rng(0)) == {"a": 2.0, "b": 3.0}


def test_simulated_readings_scatter_as_stated():
    rng = np.random.default_rng(5)
    got = simulate([Row({"a": 2.0}, 0.1, offset=1.0)] * 4000, {"a": 3.0}, rng)
    assert got.mean() == pytest.approx(7.0, abs=0.01)
    assert got.std() == pytest.approx(0.1, rel=0.05)


@settings(max_examples=20)
@given(st.integers(0, 10_000))
def test_a_drawn_condition_has_no_negative_clearance(seed):
    drawn = draw_condition(PLAY, np.random.default_rng(seed))
    assert drawn["a"] >= 0
    assert drawn["b"] >= 0


@given(st.floats(-30, 30), st.floats(0.01, 5))
def test_a_cut_normal_stays_above_its_cut(mean, sd):
    centre, variance = truncated_moments(mean, sd, 0.0)
    assert centre > 0
    assert 0 < variance <= sd * sd
    quantiles = [truncated_quantile(mean, sd, 0.0, p) for p in (0.025, 0.5, 0.975)]
    assert 0 <= quantiles[0] <= quantiles[1] <= quantiles[2]


def test_the_hazard_is_smooth_where_its_formula_changes():
    assert hazard(-12.0001) == pytest.approx(hazard(-11.9999), rel=1e-4)


def test_points_of_a_profile_are_drawn_as_each_by_itself():
    now = estimate(PLAY, [Observation(Row({"a": 1.0, "z": 1.0}, 0.05), 0.3)])
    drawn = draw(now)
    points = [{"a": 1.0}, {"b": -2.0, "z": 0.5}, {"z": 1.0, "a": 3.0}]
    many = profile_draws(drawn, points, 100)
    for i, point in enumerate(points):
        assert many[:, i] == pytest.approx(combined(drawn, point)[:100])
    assert min(drawn["a"].min(), drawn["b"].min()) == 0.0
    assert drawn["z"].min() < 0


def test_one_source_is_touched_as_in_a_list_of_them():
    now = estimate(PLAY, [Observation(Row({"a": 1.0}, 0.01), 0.3), Observation(Row({"z": 1.0}, 0.05), 0.3)])
    for key in ("a", "b", "z"):
        assert is_touched(now, {key: -2.0}) == are_touched(now, [{key: -2.0}])[0] == (key != "b")
    assert not is_touched(now, {"a": 0.0})


def test_readings_of_a_group_may_name_their_sources_in_any_order():
    same, other = Row({"a": 1.0, "b": 2.0}, 0.1, 0.5), Row({"b": 2.0, "a": 1.0}, 0.1, 0.5)
    third = Row({"a": -1.0}, 0.2)
    shared = [Shared(np.ones(3), 0.3)]

    def told(rows):
        now = estimate(FREE, grouped(rows, [1.0, 1.2, -0.4], shared))
        return now.mean, now.covariance

    for one, two in zip(told([same, same, third]), told([other, same, third]), strict=True):
        assert one == pytest.approx(two)


def _stations(unworn: float, *worn: float) -> list[Observation]:
    """An unworn size, and the size at each of five stations, each ± 0.01."""
    return [Observation(Row({"size": 1.0}, 0.01), unworn)] + [
        Observation(Row({"size": 1.0, f"wear.{k}": -1.0}, 0.01), size) for k, size in enumerate(worn)
    ]


def test_how_far_neighbours_differ_is_known_and_how_much_there_is_of_them_is_not():
    sources = (
        Source("size", "size", 20.0, 1.0),
        *(Source(f"wear.{k}", "wear", 0.02, 0.05, True) for k in range(5)),
    )
    ties = {(f"wear.{i}", f"wear.{j}"): 0.9 ** (j - i) for i in range(5) for j in range(i + 1, 5)}
    model = ErrorModel(sources, ties)
    worn_out = foretold(model.by_neighbours, _stations(20.0, 19.2, 19.2, 19.2, 19.2, 19.2))
    assert all(told.off < 1 for told in worn_out)  # 0.8 mm of wear all along is as good as none
    assert foretold(model, _stations(20.0, 19.2, 19.2, 19.2, 19.2, 19.2))[0].off > 4  # an expectation would
    slip = foretold(model.by_neighbours, _stations(20.0, 19.2, 19.2, 18.7, 19.2, 19.2))
    assert slip[3].is_told
    assert slip[3].off > 4
    assert slip[3].value == pytest.approx(19.2, abs=0.02)


def test_a_source_that_moves_with_no_other_is_left_to_the_readings():
    model = ErrorModel((Source("a", "a", 0.3, 0.1, True), Source("b", "b", 0.3, 0.1, loose=1.0)))
    assert [(s.mean, s.sd) for s in model.by_neighbours.sources] == [(0.0, 2.5), (0.3, 0.1)]
