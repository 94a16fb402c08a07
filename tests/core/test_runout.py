"""Runout as vectors: every certified row, then the limits."""

from __future__ import annotations

import cmath
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import Row, misses, number, rows
from trebb.core.errors import InputError
from trebb.core.runout import (
    Turn,
    degrees_of,
    extrapolated,
    fit_push,
    fit_turn,
    high_spot_deg,
    residual_tir,
    reversal,
    settle,
    tilt,
    whole_degrees,
)

FILE = "05_runout_expected.csv"


def group(dataset: str, plane: str, insertion: str) -> tuple[list[float], list[float]]:
    found = [
        r
        for r in rows("05_runout_readings.csv")
        if (r["dataset"], r["plane"], r["insertion_deg"]) == (dataset, plane, insertion)
    ]
    return [number(r, "angle_deg") for r in found], [number(r, "expected") for r in found]


def turn(r: Row) -> Turn:
    return fit_turn(*group(r["dataset"], r["plane"], r["insertion_deg"]))


def split(dataset: str, plane: str) -> tuple[complex, complex]:
    return reversal(*(fit_turn(*group(dataset, plane, i)).eccentricity for i in ("0", "180")))


def z_of(dataset: str, plane: str) -> float:
    return next(
        number(r, "plane_z_mm") for r in rows(FILE) if r["dataset"] == dataset and r["plane"] == plane
    )


def lean(r: Row, which: int) -> complex:
    return tilt(
        split(r["dataset"], "near")[which], split(r["dataset"], "far")[which], number(r, "plane_spacing_mm")
    )


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        ("mean", lambda r: turn(r).mean),
        ("TIR_sampled", lambda r: turn(r).tir_sampled),
        ("TIR_continuous_reconstructed", lambda r: turn(r).tir),
        ("h1_amplitude", lambda r: abs(turn(r).vectors[0])),
        ("h2_amplitude", lambda r: abs(turn(r).vectors[1])),
        ("h3_amplitude", lambda r: abs(turn(r).vectors[2])),
        (
            "residual_TIR_after_h1",
            lambda r: residual_tir(*group(r["dataset"], r["plane"], r["insertion_deg"]), turn(r)),
        ),
        ("spindle_ecc_amplitude", lambda r: abs(split(r["dataset"], r["plane"])[0])),
        ("bar_ecc_amplitude", lambda r: abs(split(r["dataset"], r["plane"])[1])),
        ("spindle_axis_tilt", lambda r: 1000 * abs(lean(r, 0))),
        ("bar_axis_tilt", lambda r: 1000 * abs(lean(r, 1))),
        ("spindle_tilt_um_per_300mm", lambda r: 300 * abs(lean(r, 0))),
        ("bar_tilt_um_per_300mm", lambda r: 300 * abs(lean(r, 1))),
        (
            "spindle_ecc_extrapolated_to_z0",
            lambda r: abs(
                extrapolated(split(r["dataset"], "near")[0], lean(r, 0), z_of(r["dataset"], "near"))
            ),
        ),
        (
            "bar_ecc_extrapolated_to_z0",
            lambda r: abs(
                extrapolated(split(r["dataset"], "near")[1], lean(r, 1), z_of(r["dataset"], "near"))
            ),
        ),
    ],
)
def test_every_row(quantity, value):
    assert not misses(FILE, quantity, value)


@pytest.mark.parametrize(
    ("quantity", "period", "value"),
    [
        ("h1_phase_highspot", 360, lambda r: degrees_of(turn(r).vectors[0])),
        ("h2_phase_highspot", 180, lambda r: high_spot_deg(turn(r).vectors[1], 2)),
        ("h3_phase_highspot", 120, lambda r: high_spot_deg(turn(r).vectors[2], 3)),
        ("spindle_ecc_phase", 360, lambda r: degrees_of(split(r["dataset"], r["plane"])[0])),
        ("bar_ecc_phase", 360, lambda r: degrees_of(split(r["dataset"], r["plane"])[1])),
        ("spindle_axis_tilt_direction", 360, lambda r: degrees_of(lean(r, 0))),
        ("bar_axis_tilt_direction", 360, lambda r: degrees_of(lean(r, 1))),
    ],
)
def test_every_direction(quantity, period, value):
    found = rows(FILE, quantity)
    assert found
    for r in found:
        if "tilt" in quantity and abs(lean(r, 0 if "spindle" in quantity else 1)) < 1e-8:
            continue  # no tilt: it has no direction
        off = (value(r) - number(r, "expected") + period / 2) % period - period / 2
        assert abs(off) <= float(r["tolerance"]), r


vectors = st.tuples(st.floats(0.001, 0.1), st.floats(0, 6.28)).map(lambda p: cmath.rect(*p))


def curve(angles, mean, *parts):
    return [
        mean + sum((v * cmath.exp(-1j * k * math.radians(a))).real for k, v in enumerate(parts, 1))
        for a in angles
    ]


@given(vectors, vectors, st.floats(-1, 1), st.integers(0, 7))
def test_a_struck_angle_takes_nothing_from_the_eccentricity(first, second, mean, struck):
    angles = [45.0 * i for i in range(8) if i != struck]
    found = fit_turn(angles, curve(angles, mean, first, second))
    assert found.eccentricity == pytest.approx(first, abs=1e-9)
    assert found.mean == pytest.approx(mean, abs=1e-9)


@given(vectors, st.lists(st.floats(0, 40), min_size=9, max_size=9))
def test_unequal_angles_do_as_well(first, jitter):
    angles = [40.0 * i + j * 0.5 for i, j in enumerate(jitter)]
    assert fit_turn(angles, curve(angles, 0.2, first)).eccentricity == pytest.approx(first, abs=1e-8)


def test_lobes_are_claimed_only_where_the_angles_show_them():
    assert [len(fit_turn([360 / n * i for i in range(n)], [0.0] * n).vectors) for n in (3, 4, 6, 8, 12)] == [
        1,
        1,
        2,
        3,
        3,
    ]


@pytest.mark.parametrize("angles", [[0, 90], [0, 360, 720], [0, 3, 6, 9]])
def test_too_little_of_a_turn_is_refused(angles):
    with pytest.raises(InputError, match="turn"):
        fit_turn(angles, [0.0] * len(angles))


@given(vectors, vectors)
def test_reversal_takes_bar_from_spindle(spindle, bar):
    s, b = reversal(spindle + bar, spindle - bar)
    assert (s, b) == (pytest.approx(spindle), pytest.approx(bar))


@given(st.floats(0, 0.1), st.floats(0, 1e-4), st.floats(-0.1, 0.1))
def test_a_step_is_slack_and_a_slope_is_flex(slack, flex, zero):
    forces = [-180.0, -90.0, 90.0, 180.0]
    found = fit_push(forces, [zero + math.copysign(slack / 2, f) + flex * f for f in forces])
    assert found.slack_mm == pytest.approx(slack, abs=1e-9)
    assert found.flex_mm_n == pytest.approx(flex, abs=1e-11)
    assert found.slack_sd_mm == pytest.approx(0, abs=1e-9)


def test_one_pull_each_way_does_not_tell_slack_from_flex():
    with pytest.raises(InputError, match="two different pulls"):
        fit_push([-100.0, 100.0], [-0.01, 0.01])


@pytest.mark.parametrize("tau", [9.0, 20.0, 40.0])
def test_twenty_minutes_tell_where_it_settles(tau):
    rng = np.random.default_rng(4)
    minutes = [0, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20]
    off = []
    for _ in range(60):
        rise = rng.uniform(8, 40)
        found = settle(
            minutes, [19 + rise * (1 - math.exp(-t / tau)) + 0.4 * rng.standard_normal() for t in minutes]
        )
        off.append((found.rise_c - rise) / found.sd_c)
    assert np.mean(np.abs(off) < 1.96) >= 0.85


def test_early_minutes_promise_less():
    def run(until):
        minutes = list(range(0, until + 1, 2))
        return settle(minutes, [20 + 25 * (1 - math.exp(-t / 18)) for t in minutes])

    assert run(6).sd_c > 2 * run(20).sd_c
    with pytest.raises(InputError, match="three at least"):
        settle([0, 2], [20, 21])


@pytest.mark.parametrize(
    ("vector", "degrees"), [(1 + 0j, 0), (1 - 0.0001j, 0), (1j, 90), (-1 + 0j, 180), (-1j, 270)]
)
def test_a_direction_is_said_in_whole_degrees_below_a_turn(vector, degrees):
    assert whole_degrees(vector) == degrees
