"""Spindle set-ups: seat, contact, journals, push, warm; what their readings say and what they refuse."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from trebb.core.condition import draw_condition, estimate, simulate
from trebb.core.families.spindle.journals import seat_states
from trebb.core.families.spindle.push_test import push_fits
from trebb.core.families.spindle.seat import seat_information, seat_scatter, with_scatter
from trebb.core.families.spindle.subject import USUAL, Spindle, spindle_model
from trebb.core.practice import PracticeMachine
from trebb.core.survey import PlaceReadings, information, observations, results, set_up, set_ups_of
from trebb.core.survey.contact import COLUMNS, ROWS, cells_of, contact_of, text_of
from trebb.core.units import UnitSystem

LATHE, MILL, DRILL = USUAL["lathe"], USUAL["mill"], USUAL["drill"]
INCH = UnitSystem.INCH
SOUND = {s.key: 0.0 for s in spindle_model(MILL).sources}
BAR = set_up("test_bar")


def taken(key, spindle, condition, seed=3, only=lambda place: True):
    s = set_up(key)
    machine = PracticeMachine(spindle, spindle_model(spindle), {**SOUND, **condition}, seed)
    return [
        PlaceReadings(p.key, tuple(machine.reading(s, p.key, i) for i in range(s.wanted)))
        for p in s.places(spindle)
        if only(p.key)
    ]


def known(spindle, *readings):
    spindle = replace(spindle, journals_read="journals" in dict(readings))
    seated = with_scatter(spindle, seat_scatter(spindle, dict(readings).get("test_bar", ())))
    return estimate(
        spindle_model(seated), [o for key, r in readings for o in observations(set_up(key), seated, r)]
    )


# seat -----------------------------------------------------------------------------------------


def test_a_seat_that_does_not_repeat_is_found_and_one_that_does_is_not_accused():
    loose = seat_scatter(LATHE, taken("test_bar", LATHE, {"seat": 0.006}))
    sound = seat_scatter(LATHE, taken("test_bar", LATHE, {"seat": 0.0}))
    assert loose.low_mm > 0.002 > sound.mean_mm
    assert loose.between_mm > 0.02 > sound.between_mm
    assert loose.seatings == sound.seatings == 4


def test_turning_the_bar_is_not_taken_for_a_seat_that_moves():
    crooked = seat_scatter(LATHE, taken("test_bar", LATHE, {"bar.x": 0.008, "bar_lean.y": 0.004}))
    assert crooked.mean_mm < 0.002


def test_one_seating_says_nothing_of_the_next():
    one = seat_scatter(LATHE, taken("test_bar", LATHE, {}, only=lambda p: p.startswith("seat 1")))
    assert one.seatings == 1
    assert one.between_mm == 0.0
    assert seat_information(LATHE, seat_scatter(LATHE, [])) == ()
    assert seat_information(LATHE, one)[0].coefficients == {"seat": 1.0}


def test_reversal_takes_the_bar_from_the_taper():
    truth = {"taper.x": 0.006, "taper.y": -0.004, "bar.x": 0.005, "bar.y": 0.003}
    readings = taken("test_bar", LATHE, truth)
    both = known(LATHE, ("test_bar", readings))
    once = known(LATHE, ("test_bar", [p for p in readings if p.place.startswith("seat 1")]))
    assert abs(both.source("bar.x").value - 0.005) < 0.0015
    assert both.source("bar.x").sd < 0.6 * once.source("bar.x").sd


@settings(max_examples=12, deadline=None)
@given(st.floats(-0.3, 0.3))
def test_two_operators_zeros_change_nothing(zero):
    readings = taken("test_bar", LATHE, {"taper.x": 0.006})
    shifted = [
        PlaceReadings(p.place, tuple(v + zero for v in p.values)) if ", far" in p.place else p
        for p in readings
    ]
    first, second = (known(LATHE, ("test_bar", r)) for r in (readings, shifted))
    assert second.source("taper.x").value == pytest.approx(first.source("taper.x").value, abs=2e-5)


@settings(max_examples=10, deadline=None)
@given(st.sets(st.integers(0, 7), max_size=3))
def test_struck_angles_leave_the_direction(missing):
    readings = taken(
        "nose",
        LATHE,
        {"bearing.x": 0.006, "bearing.y": 0.006},
        only=lambda p: p.startswith("register") and int(p.split(", ")[1][:-1]) // 45 not in missing,
    )
    now = known(LATHE, ("nose", readings))
    assert now.combination({"bearing.x": 1.0, "register.x": 1.0}).value == pytest.approx(0.006, abs=0.0025)
    assert now.combination({"bearing.y": 1.0, "register.y": 1.0}).value == pytest.approx(0.006, abs=0.0025)


def test_unequal_angles_do_as_well():
    uneven = replace(LATHE, angles=(0.0, 50.0, 80.0, 150.0, 200.0, 260.0, 310.0))
    now = known(uneven, ("nose", taken("nose", uneven, {"bearing.x": 0.008})))
    assert now.combination({"bearing.x": 1.0, "register.x": 1.0}).value == pytest.approx(0.008, abs=0.002)


def test_the_face_tells_a_lean_the_register_an_offset():
    now = known(LATHE, ("nose", taken("nose", LATHE, {"face_lean.x": 0.01})))
    both = now.combination({"face_lean.x": 1.0, "bearing_lean.x": 1.0})
    assert both.value == pytest.approx(0.01, abs=0.004)
    assert abs(now.source("bearing.x").value) < 0.002


# push, float, coupler -------------------------------------------------------------------------


def test_drawing_the_quill_in_tells_its_play_from_the_bearing():
    now = known(
        DRILL, ("push_test", taken("push_test", DRILL, {"quill": 0.03, "slack": 0.004, "flex": 0.03}))
    )
    assert now.source("quill").value == pytest.approx(0.03, abs=0.006)
    assert now.source("slack").value < 0.012


def test_a_step_is_slack_and_a_slope_is_flex():
    fits = push_fits(LATHE, taken("push_test", LATHE, {"slack": 0.02, "flex": 0.05}))
    assert fits["nose"].slack_mm == pytest.approx(0.02, abs=0.004)
    assert fits["nose"].flex_mm_n * 1000 == pytest.approx(0.05, abs=0.02)


def test_loose_on_its_journal_and_slack_in_the_bearing_come_apart_by_the_micrometer():
    push = ("push_test", taken("push_test", MILL, {"loose.front": 0.02}))
    before, after = (
        known(MILL, push),
        known(MILL, push, ("journals", taken("journals", MILL, {"loose.front": 0.02}))),
    )
    # Nobody blames a journal that was not measured.
    assert before.source("slack").value > 10 * before.source("loose.front").value
    assert after.source("loose.front").value == pytest.approx(0.02, abs=0.004)


# journals -------------------------------------------------------------------------------------


def sizes(*values, seat="front journal", ridge=None):
    spots = ("0°, out", "90°, out", "0°, in", "90°, in")
    found = [PlaceReadings(f"{seat}, {spot}", (v,)) for spot, v in zip(spots, values, strict=False)]
    return found + ([PlaceReadings(f"{seat}, ridge", (ridge,))] if ridge else [])


@pytest.mark.parametrize(
    ("size", "said"),
    [
        (34.980, "no new bearing will hold truth"),
        (35.012, "interference left"),
        (34.997, "not shown either way"),
    ],
)
def test_the_fit_that_is_left_is_said_in_words(size, said):
    (state,) = seat_states(MILL, sizes(size, size, size, size))
    assert said in state.words(INCH)


def test_out_of_round_taper_and_ridge_are_told_from_the_sizes():
    (state,) = seat_states(MILL, sizes(34.980, 34.960, 34.990, 34.970, ridge=35.010))
    assert state.out_of_round_mm == pytest.approx(0.020)
    assert state.taper_mm == pytest.approx(-0.010)
    assert state.worn_mm == pytest.approx(0.035)
    assert "out of round" in state.words(INCH)
    assert "below its ridge" in state.words(INCH)


def test_a_housing_is_loose_the_other_way():
    (state,) = seat_states(MILL, sizes(62.02, 62.02, seat="front housing"))
    assert state.loose_mm > 0
    assert "drops into" in state.words(INCH)


# contact --------------------------------------------------------------------------------------


def cells(rows, columns):
    return frozenset(r * COLUMNS + c for r in rows for c in columns)


@pytest.mark.parametrize(
    ("painted", "pattern"),
    [
        (cells(range(ROWS), range(COLUMNS)), "all round and along"),
        (cells(range(5, ROWS), range(COLUMNS)), "the back only"),
        (cells(range(3), range(COLUMNS)), "the mouth only"),
        (cells(range(ROWS), range(6)), "one side"),
        (cells(range(0, ROWS, 2), range(COLUMNS)), "patches"),
        (frozenset(), "nothing painted"),
    ],
)
def test_a_pattern_is_named(painted, pattern):
    found = contact_of(painted)
    assert found.pattern == pattern
    assert found.meaning


def test_one_side_points_to_its_dial_angle():
    assert contact_of(cells(range(ROWS), range(5, 7))).toward_deg == pytest.approx(90, abs=8)


@given(st.frozensets(st.integers(0, ROWS * COLUMNS - 1)))
def test_painted_cells_survive_being_stored(painted):
    assert cells_of(text_of(painted)) == painted
    assert contact_of(painted).share == pytest.approx(len(painted) / (ROWS * COLUMNS))


def test_the_simulated_taper_shows_what_its_seat_is():
    worn, sound = (
        PracticeMachine(LATHE, spindle_model(LATHE), {**SOUND, "seat": s}, 2).contact()
        for s in (0.006, 0.0005)
    )
    assert contact_of(worn).pattern == "the back only"
    assert contact_of(sound).pattern == "all round and along"


# what every set-up must do --------------------------------------------------------------------


@pytest.mark.parametrize("kind", list(USUAL))
def test_noise_as_stated_is_noise_as_found(kind):
    spindle = USUAL[kind]
    model = spindle_model(spindle)
    rng = np.random.default_rng(5)
    truth = draw_condition(model, rng)
    for s in set_ups_of("spindle"):
        if s.key in ("nose", "taper_bore", "chuck_pin") and s.applies(spindle):
            place = s.places(spindle)[0].key
            values = simulate([s.row(spindle, place)] * 400, truth, rng)
            assert np.std(values) == pytest.approx(s.row(spindle, place).noise_sd, rel=0.12)


@pytest.mark.parametrize(
    ("key", "place", "raw"),
    [
        ("nose", "register, 0°", 3.0),
        ("push_test", "nose, pulled full", -2.5),
        ("warm_run", "4 min", 240.0),
        ("journals", "front journal, 0°, out", 2.36),
        ("coupler", "arm", 25.0),
    ],
)
def test_what_cannot_be_is_refused_with_what_would_do(key, place, raw):
    spindle = DRILL if key == "coupler" else LATHE
    sentence = set_up(key).refusal(spindle, place, raw, INCH)
    assert "unit right" in sentence or "degrees F" in sentence


def test_what_one_reading_would_tell_is_known_before_it_is_taken():
    bar = [p.key for p in BAR.places(LATHE)][:16]
    assert len(information(BAR, LATHE, bar)) == 16
    assert information(set_up("warm_run"), LATHE, ["0 min"]) == ()


@pytest.mark.parametrize("spindle", [LATHE, MILL, DRILL], ids=lambda s: s.kind)
def test_figures_before_and_after_come_from_the_readings(spindle):
    turned = results(set_up("nose"), spindle, taken("nose", spindle, {"bearing.x": 0.01}))
    assert turned[0].place == "register"
    assert turned[0].value_mm == pytest.approx(0.02, abs=0.004)
    assert 0 < turned[0].half_mm < 0.006


def test_a_quill_tilts_more_the_further_it_is_out():
    assert Spindle(kind="drill", quill_guided_mm=100).quill_share(50) == 2.0
    assert MILL.seat_spread(0.0) == 1.0
    assert MILL.seat_spread(MILL.seat_length_mm) == pytest.approx(math.sqrt(2))
