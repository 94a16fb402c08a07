"""Usual figures blended with a shop's own: by hand, at the limits, against draws."""

from __future__ import annotations

import math

import numpy as np
import pytest

from trebb.core.condition import ErrorModel, Quantity, Row, Source
from trebb.core.memory.blending import Seen, Usual, cover, learned, pooled_ratio, widening
from trebb.core.memory.taught import USUAL, Taught

ANSWER = Usual(0.80, 0.17, 0.10)


def jobs(values, sd=0.03):
    return [Seen(str(i), v, sd) for i, v in enumerate(values)]


def test_nothing_seen_is_as_usual():
    now = learned(ANSWER, [])
    assert (now.mean, now.sd, now.jobs, now.source) == (0.80, 0.17, 0, "usual")


def test_one_job_moves_it_part_of_the_way_by_the_normal_rule():
    """One job at 0.6 ± 0.03 with 0.1 between jobs: weights 1/0.17² and about 1/(0.03² + 0.1²)."""
    now = learned(ANSWER, jobs([0.7]))
    before, seen = 1 / 0.17**2, 1 / (0.03**2 + 0.1**2)
    by_hand = (0.8 * before + 0.7 * seen) / (before + seen)
    assert now.mean == pytest.approx(by_hand, abs=0.01)
    assert now.source == "usual, moved by 1 job"


def test_many_jobs_are_the_shops_own_with_a_narrow_interval():
    now = learned(ANSWER, jobs([0.40, 0.42, 0.38, 0.41, 0.39] * 4))
    assert now.mean == pytest.approx(0.40, abs=0.02)
    assert now.sd < 0.03
    assert now.source == "yours, from 20 jobs"


def test_one_strange_job_moves_little():
    plain = jobs([0.8] * 6)
    assert learned(ANSWER, [*plain, Seen("odd", 6.0, 0.03)]).mean == pytest.approx(0.8, abs=0.03)
    assert abs(learned(ANSWER, [Seen("odd", 6.0, 0.03)]).mean - 0.8) < 0.1


def test_a_ratio_is_shown_as_one_and_its_interval_is_uneven():
    now = learned(Usual(0.0, 0.4, 0.15, is_ratio=True), [Seen(str(i), math.log(2.0), 0.1) for i in range(12)])
    assert now.value == pytest.approx(2.0, rel=0.08)
    assert now.high - now.value > now.value - now.low


def test_the_interval_covers_the_shops_own_figure():
    """Shops drawn from the usual spread, six jobs each: 95 % of 400 within."""
    rng = np.random.default_rng(3)
    inside = 0
    for _ in range(400):
        shop = rng.normal(0.8, 0.17)
        now = learned(ANSWER, jobs(rng.normal(shop, np.hypot(0.1, 0.03), 6)))
        inside += now.low <= shop <= now.high
    assert 0.90 <= inside / 400 <= 0.99


def test_a_pooled_scatter_against_the_usual():
    value, sd = pooled_ratio(4.0, 50, 1.0)
    assert math.exp(value) == pytest.approx(2.0)
    assert sd == pytest.approx(0.5 * math.sqrt(2 / 50))


def test_widening_by_hand_and_never_under_one():
    assert widening([0.1] * 30) == 1.0
    assert widening([2.0] * 24) == pytest.approx(math.sqrt((8 + 24 * 4) / 32))
    assert widening([100.0]) < 2.0  # one strange outcome counts to four sds


def test_cover():
    assert cover([0.0, 1.9, -2.5, 3.0]) == 0.5
    assert math.isnan(cover([]))


def test_taught_noise_widens_a_row_and_leaves_others():
    taught = Taught(noise={"dial indicator": 2.0}, extra_mm={"dial indicator": 0.003})
    row = Row({"a": 1.0}, 0.002)
    assert taught.row("dial indicator", row).noise_sd == pytest.approx(0.005)
    assert taught.row("micrometer", row) is row
    assert USUAL.row("dial indicator", row) is row
    assert Taught(noise={"dial indicator": 1000.0}).row("dial indicator", row).noise_sd == pytest.approx(
        0.012
    )


def test_taught_priors_move_what_is_expected_and_nothing_else():
    model = ErrorModel((Source("nut", "nut", 0.15, 0.16, True), Source("float", "float", 0.08, 0.12, True)))
    taught = Taught(priors={"lathe/screw_drive/nut": (0.3, 0.05)})
    moved = taught.model("lathe", "screw_drive", model)
    assert (moved.source("nut").mean, moved.source("nut").sd) == (0.3, 0.05)
    assert moved.source("float") == model.source("float")
    assert taught.model("mill", "screw_drive", model) is model


def test_widened_keeps_the_value_and_never_goes_under_nothing():
    taught = Taught(widen={"gib": 2.0})
    wide = taught.widened("gib", Quantity(0.03, 0.01, 0.012, 0.05))
    assert (wide.value, wide.low, wide.high) == (0.03, 0.0, pytest.approx(0.07))
    q = Quantity(0.03, 0.01, 0.012, 0.05)
    assert taught.widened("spindle", q) is q


def test_what_counts_other_than_usual_is_said_with_where_it_comes_from():
    taught = Taught(
        noise={"dial indicator": 1.8, "micrometer": 1.01},
        extra_mm={"feeler blades": 0.006},
        widen={"gib": 1.4},
        sources={"noise/dial indicator": "yours, from 7 jobs"},
    )
    words = taught.noise_words(["dial indicator", "micrometer", "feeler blades"])
    assert "× 1.8 the usual (yours, from 7 jobs)" in words
    assert "micrometer" not in words
    assert "12 µm more" in words
    assert "1.4 ×" in taught.wider_words("gib")
    assert USUAL.noise_words(["dial indicator"]) == taught.wider_words("spindle") == ""
