"""Set-ups: places, rows, reduction, outliers, figures."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from trebb.core.families.screw_drive.subject import STATIONS, ScrewDrive, drive_model
from trebb.core.families.spindle.subject import USUAL, spindle_model
from trebb.core.figure import Circle, Shape
from trebb.core.machine import KINDS
from trebb.core.survey import (
    PlaceReadings,
    all_set_ups,
    observations,
    outlier,
    pooled_sd,
    set_up,
    set_ups_of,
    spread,
)
from trebb.core.threads import Form, ThreadSpec

DRIVE = ScrewDrive()
SQUARE = ScrewDrive(ThreadSpec(Form.SQUARE, 25.4, 6.35))
SUBJECTS = {"screw": (DRIVE, drive_model(DRIVE)), **{k: (s, spindle_model(s)) for k, s in USUAL.items()}}
EVERY_PLACE = [
    pytest.param(s, subject, model, p.key, id=f"{name}, {s.key}: {p.key}")
    for name, (subject, model) in SUBJECTS.items()
    for s in set_ups_of("screw_drive" if name == "screw" else "spindle")
    if s.applies(subject)
    for p in s.places(subject)[:: 1 if name == "screw" else 5]
]


@pytest.mark.parametrize(("s", "subject", "model", "place"), EVERY_PLACE)
def test_every_place_has_a_row_of_known_sources_a_figure_and_a_way_back(s, subject, model, place):
    row = s.row(subject, place)
    assert row.noise_sd > 0
    assert all(key in model for key in row.coefficients)
    assert s.figure(subject, place).items
    if s.key != "journals":  # where unworn metal has a looseness of its own
        assert s.restore(subject, place, s.reduce(subject, place, 19.0)) == pytest.approx(19.0, abs=1e-9)


@pytest.mark.parametrize("s", all_set_ups(), ids=lambda s: s.key)
def test_every_set_up_says_how_what_it_tells_and_what_it_cannot(s):
    assert len(s.steps) >= 3
    assert s.cautions or not s.is_signed
    assert s.tells
    assert s.cannot_tell
    assert s.minutes > 0


def test_wear_shows_four_times_larger_over_wires_than_as_play():
    row = set_up("thread_size").row(DRIVE, "wires, station 3")
    assert -row.coefficients["wear.3"] == pytest.approx(1 / math.tan(math.radians(14.5)))


def test_a_square_screw_is_read_by_its_ridge():
    places = [p.key for p in set_up("thread_size").places(SQUARE)]
    assert "thickness, station 1" in places
    assert not any(p.startswith("wires") for p in places)


def test_lash_is_read_in_divisions_and_reduced_by_the_lead():
    assert set_up("lash").reduce(DRIVE, "station 1", 27.0) == pytest.approx(27 * 0.0254)


@given(st.lists(st.integers(40, 200), min_size=1, max_size=9))
def test_repeats_narrow_the_noise_but_never_below_what_the_step_leaves(counted):
    s = set_up("push_pull")
    values = tuple(0.00254 * n for n in counted)
    (one,) = observations(s, DRIVE, [PlaceReadings("station 1", values, 0.0254)])
    assert min(values) - 1e-3 <= one.value <= max(values) + 1e-3
    if len(set(values)) == 1:  # equal readings of a coarse needle say one thing, however many
        assert one.row.noise_sd > 0.3 * 0.0254 / math.sqrt(12)


def test_ten_equal_readings_of_a_half_thou_needle_are_not_known_to_a_tenth():
    s = set_up("push_pull")
    half = 0.0127
    (few,) = observations(s, DRIVE, [PlaceReadings("station 1", (half,) * 3, half)])
    (many,) = observations(s, DRIVE, [PlaceReadings("station 1", (half,) * 10, half)])
    assert 1.96 * few.row.noise_sd > 0.35 * half
    assert 1.96 * many.row.noise_sd > 0.25 * half


def test_a_spread_larger_than_the_set_up_is_known_for_is_believed():
    s = set_up("push_pull")
    wild = [PlaceReadings(f"station {k}", (0.2, 0.3)) for k in range(1, STATIONS + 1)]
    assert (
        observations(s, DRIVE, wild)[0].row.noise_sd
        > 3 * observations(s, DRIVE, [PlaceReadings("station 1", (0.2, 0.2))])[0].row.noise_sd
    )


def test_pooled_scatter_and_spread_of_nothing_are_nothing():
    assert pooled_sd([[1.0], []]) == (0.0, 0)
    assert spread([]) == 0.0
    assert pooled_sd([[1.0, 3.0], [5.0, 7.0]]) == (pytest.approx(math.sqrt(2)), 2)


@pytest.mark.parametrize(
    ("value", "others", "odd"),
    [
        (27.0, [0.5, 0.6, 0.6], True),
        (0.5, [27.0, 26.0, 28.0], True),
        (27.0, [25.0, 19.0, 23.0], False),
        (0.5, [1.0, 0.5, 0.0], False),
        (27.0, [0.6], False),
    ],
)
def test_a_reading_out_of_all_proportion_is_asked_about(value, others, odd):
    assert (outlier(set_up("lash"), DRIVE, value, others) is not None) is odd


def test_a_size_is_judged_by_its_difference_not_its_ratio():
    s = set_up("thread_size")
    assert outlier(s, DRIVE, 21.9, [19.3, 19.2, 19.3]) is not None
    assert outlier(s, DRIVE, 18.4, [19.3, 19.2, 19.3]) is None


@pytest.mark.parametrize("kind", KINDS.values(), ids=lambda k: k.key)
def test_every_assembly_can_be_pointed_at_on_the_elevation(kind):
    drawn = {item.part for item in kind.elevation.items if isinstance(item, Shape | Circle)}
    assert {a.key for a in kind.assemblies} <= drawn
