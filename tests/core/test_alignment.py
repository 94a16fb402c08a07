"""Levels, the two-collar cut, shims and scraping: every certified row, then the limits."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import Row, misses, number, rows
from trebb.core.alignment import (
    ARCSEC_MM_M,
    Feet,
    TwoCollar,
    closing_error,
    endpoint_residuals,
    heights_from_slopes,
    least_squares_residuals,
    level_zero,
    liner_thickness_mm,
    scraping_plan,
    shim_pack,
    straightness,
    taper_from_levels,
    twist,
)
from trebb.core.alignment.levels import minimum_zone, minimum_zones
from trebb.core.errors import InputError

COLLAR, LEVEL = "06_two_collar.csv", "07_level_expected.csv"


def cut(r: Row) -> TwoCollar:
    return TwoCollar(number(r, "dia_near_mm"), number(r, "dia_far_mm"), number(r, "collar_spacing_mm"))


def feet(r: Row) -> Feet:
    return Feet(
        number(r, "foot_span_across_mm"),
        number(r, "foot_span_along_mm"),
        number(r, "tool_height_above_foot_plane_mm"),
    )


@pytest.mark.parametrize(
    ("quantity", "compute"),
    [
        ("taper_on_dia_per_length", lambda r: cut(r).taper),
        ("taper_on_dia_um_per_300mm", lambda r: cut(r).taper * 300e3),
        ("bed_roll_between_collars", lambda r: 1000 * cut(r).roll_mrad(feet(r).tool_height_mm)),
        ("bed_roll_between_collars_mm_per_m", lambda r: cut(r).roll_mrad(feet(r).tool_height_mm)),
        ("bed_twist_rate", lambda r: 1000 * cut(r).roll_mrad(feet(r).tool_height_mm) / cut(r).apart_mm),
        ("tailstock_end_front_foot_shim", lambda r: cut(r).front_shim_mm(feet(r))),
        ("dia_change_per_0.01mm_front_foot_shim", lambda r: 10 * feet(r).taper_per_shim(cut(r).apart_mm)),
        ("headstock_yaw_equivalent", lambda r: 1000 * cut(r).yaw_mrad()),
        ("headstock_jack_movement", lambda r: cut(r).jack_mm(number(r, "headstock_lever_mm"))),
        (
            "predicted_taper_from_levels",
            lambda r: taper_from_levels(
                number(r, "level_near_mm_per_m"), number(r, "level_far_mm_per_m"), feet(r).tool_height_mm
            ),
        ),
        (
            "taper_left_after_removing_level_twist",
            lambda r: (
                cut(r).difference_mm
                - taper_from_levels(
                    number(r, "level_near_mm_per_m"), number(r, "level_far_mm_per_m"), feet(r).tool_height_mm
                )
            ),
        ),
        ("tailstock_offset_correction", lambda r: cut(r).tailstock_mm(number(r, "centers_distance_mm"))),
    ],
)
def test_two_collar_rows(quantity: str, compute) -> None:
    assert not misses(COLLAR, quantity, compute)


def readings(dataset: str, kind: str) -> tuple[list[float], list[float], float]:
    found = [r for r in rows("07_level_readings.csv") if r["dataset"] == dataset and r["kind"] == kind]
    unit = {"arcsec": ARCSEC_MM_M, "um/m": 0.001, "mm/m": 1.0}[found[0]["unit"]]
    return (
        [number(r, "station_mm") for r in found],
        [number(r, "expected") * unit for r in found],
        number(found[0], "base_mm"),
    )


def profile(r: Row) -> tuple[np.ndarray, np.ndarray]:
    _, slopes, base = readings(r["dataset"], "longitudinal")
    return np.arange(len(slopes) + 1) * base, heights_from_slopes(slopes, base)


def rolls(r: Row) -> tuple[np.ndarray, np.ndarray]:
    stations, cross, _ = readings(r["dataset"], "cross")
    return np.array(stations), np.array(cross)


@pytest.mark.parametrize(
    ("quantity", "compute"),
    [
        ("cumulative_height", lambda r: 1000 * profile(r)[1][int(r["point"])]),
        ("endpoint_residual", lambda r: 1000 * endpoint_residuals(*profile(r))[int(r["point"])]),
        ("lsq_residual", lambda r: 1000 * least_squares_residuals(*profile(r))[int(r["point"])]),
        ("straightness_endpoint_total", lambda r: 1000 * straightness(*profile(r)).endpoint_total),
        ("straightness_endpoint_max_abs", lambda r: 1000 * straightness(*profile(r)).endpoint_most),
        ("straightness_lsq", lambda r: 1000 * straightness(*profile(r)).least_squares),
        ("straightness_min_zone", lambda r: 1000 * straightness(*profile(r)).minimum_zone),
        ("lsq_slope", lambda r: straightness(*profile(r)).slope_mm_m),
        ("roll_relative_to_station0", lambda r: 1000 * (rolls(r)[1][int(r["point"])] - rolls(r)[1][0])),
        (
            "tool_lateral_shift",
            lambda r: (rolls(r)[1][int(r["point"])] - rolls(r)[1][0]) * number(r, "tool_height_mm"),
        ),
        (
            "rear_way_height",
            lambda r: (
                1000 * profile(r)[1][int(r["point"])]
                + rolls(r)[1][int(r["point"])] * number(r, "gauge_width_mm")
            ),
        ),
        ("twist_total_range", lambda r: 1000 * twist(*rolls(r)).range_mrad),
        ("twist_rate_lsq", lambda r: twist(*rolls(r)).rate_mrad_m),
        ("twist_end_to_end", lambda r: 1000 * twist(*rolls(r)).end_to_end_mrad),
        ("way_parallelism_range", lambda r: twist(*rolls(r)).range_mrad * number(r, "gauge_width_mm")),
    ],
)
def test_level_rows(quantity: str, compute) -> None:
    assert not misses(LEVEL, quantity, compute)


def test_every_quantity_of_the_tables_is_checked() -> None:
    names = {r["quantity"] for f in (COLLAR, LEVEL) for r in rows(f)}
    assert len(names) == 12 + 15


@given(st.lists(st.floats(-0.2, 0.2), min_size=3, max_size=12), st.floats(-1, 1))
def test_a_level_zero_error_changes_no_straightness(slopes: list[float], zero: float) -> None:
    x = np.arange(len(slopes) + 1) * 150.0
    plain = straightness(x, heights_from_slopes(slopes, 150))
    shifted = straightness(x, heights_from_slopes(np.array(slopes) + zero, 150))
    assert shifted.minimum_zone == pytest.approx(plain.minimum_zone, abs=1e-9)
    assert shifted.endpoint_total == pytest.approx(plain.endpoint_total, abs=1e-9)


def test_many_minimum_zones_are_those_of_every_pair_of_points_tried_by_hand():
    rng = np.random.default_rng(4)
    x = np.cumsum(rng.uniform(20, 200, 7))
    profiles = rng.normal(0, 0.02, (40, 7))

    def by_hand(h):
        pairs = [(i, j) for i in range(7) for j in range(i + 1, 7)]
        return min(np.ptp(h - (h[j] - h[i]) / (x[j] - x[i]) * x) for i, j in pairs)

    assert minimum_zones(profiles, x) == pytest.approx([by_hand(h) for h in profiles])
    assert minimum_zone(x, profiles[0]) == pytest.approx(by_hand(profiles[0]))
    assert minimum_zone([0, 100], [0.0, 0.3]) == 0.0


@given(st.lists(st.floats(-0.05, 0.05), min_size=2, max_size=12))
def test_the_minimum_zone_is_the_smallest_of_the_three(heights: list[float]) -> None:
    found = straightness(np.arange(len(heights)) * 100.0, heights)
    assert found.minimum_zone <= min(found.least_squares, found.endpoint_total) + 1e-12


def test_turning_the_level_round_finds_its_zero() -> None:
    slope, zero = level_zero(0.05, -0.01)
    assert (slope, zero) == (pytest.approx(0.03), pytest.approx(0.02))


def test_a_run_that_closes_closes() -> None:
    assert closing_error([0.02, 0.03], [0.02, 0.03], 200) == 0
    assert closing_error([0.02, 0.05], [0.02, 0.03], 200) == pytest.approx(0.004)


def test_a_shim_of_the_stated_thickness_takes_the_taper_out() -> None:
    stand, made = Feet(240, 1000, 300), TwoCollar(30, 30.024, 250)
    assert made.difference_mm + stand.taper_per_shim(250) * made.front_shim_mm(stand) == pytest.approx(0)
    assert made.front_shim_mm(stand) > 0, "large at the far end: raise the front foot"


@pytest.mark.parametrize(
    ("act", "words"),
    [
        (lambda: TwoCollar(30, 30, 0), "further from the chuck"),
        (lambda: heights_from_slopes([], 100), "step the level"),
        (lambda: heights_from_slopes([0.1], 0), "some distance apart"),
        (lambda: heights_from_slopes([float("nan")], 100), "take it again"),
        (lambda: straightness([0], [0]), "two stations at least"),
        (lambda: straightness([0, 0], [0, 1]), "somewhere else"),
        (lambda: closing_error([1], [1, 2], 100), "same places both ways"),
        (lambda: shim_pack(-0.1, [0.05]), "raise the other foot"),
        (lambda: shim_pack(0.1, []), "no shim stock"),
        (lambda: shim_pack(9, [0.05]), "use a plate"),
        (lambda: scraping_plan([0, 100], np.zeros((2, 3)), 180, 0.005), "front and of the rear"),
        (lambda: scraping_plan([0, 100], np.zeros((2, 2)), 180, 0), "takes something"),
        (lambda: liner_thickness_mm(-0.1, 0), "more than nothing"),
    ],
)
def test_what_cannot_be_is_refused_in_a_sentence(act, words: str) -> None:
    with pytest.raises(InputError, match=words):
        act()


STOCK = (0.02, 0.03, 0.05, 0.10, 0.25, 0.50)


def test_a_pack_has_the_fewest_leaves_and_the_largest_first() -> None:
    assert shim_pack(0.13, STOCK).leaves_mm == (pytest.approx(0.10), pytest.approx(0.03))
    assert shim_pack(0.0, STOCK).leaves_mm == ()


@given(st.integers(0, 120))
def test_a_pack_is_never_further_off_than_half_the_thinnest_leaf(steps: int) -> None:
    pack = shim_pack(steps * 0.01, STOCK)
    assert abs(pack.miss_mm) <= 0.0101
    assert list(pack.leaves_mm) == sorted(pack.leaves_mm, reverse=True)


def test_no_pack_of_as_few_leaves_comes_nearer() -> None:
    from itertools import combinations_with_replacement

    for wanted in (0.04, 0.07, 0.17, 0.33, 0.58):
        pack = shim_pack(wanted, STOCK)
        nearest = min(
            (abs(sum(c) - wanted), n) for n in range(5) for c in combinations_with_replacement(STOCK, n)
        )
        assert (abs(pack.miss_mm), len(pack.leaves_mm)) == (pytest.approx(nearest[0], abs=1e-9), nearest[1])


def test_scraping_takes_nothing_from_a_plane_however_it_lies() -> None:
    x = np.arange(5) * 200.0
    tilted = np.stack([0.01 + 1e-4 * x, 0.03 + 1e-4 * x])
    assert scraping_plan(x, tilted, 180, 0.005).deepest_mm == pytest.approx(0, abs=1e-9)


def test_scraping_comes_down_to_the_worn_middle_and_takes_the_ends() -> None:
    x = np.arange(5) * 200.0
    worn = np.array([[0.0, -0.02, -0.04, -0.02, 0.0], [0.0] * 5])
    plan = scraping_plan(x, worn, 180, 0.01)
    after = worn - plan.remove_mm
    assert (
        np.linalg.matrix_rank(
            np.stack([np.repeat([0, 1], 5), np.tile(x, 2), np.ones(10), after.ravel()], axis=1), tol=1e-6
        )
        == 3
    )
    assert (plan.remove_mm >= 0).all()
    assert plan.passes.max() == plan.most_passes == round(plan.deepest_mm / 0.01)
    # No other plane below all points takes less: try a few hundred.
    rng = np.random.default_rng(3)
    for _ in range(300):
        slope, roll = rng.uniform(-1e-4, 1e-4), rng.uniform(-0.05, 0.05)
        above = worn - np.stack([slope * x, slope * x + roll])
        assert (above - above.min()).sum() >= plan.remove_mm.sum() - 1e-9


def test_a_liner_makes_up_for_all_that_was_taken() -> None:
    assert liner_thickness_mm(0.05, 0.12, 1.0) == pytest.approx(1.17)
