"""What is stamped on a tap, what it would do, and threads in section, between balls, and with their tools."""

from __future__ import annotations

import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from trebb.core.errors import InputError
from trebb.core.threads import Form, Hand, ThreadSpec, ThreadSpecError, WireError, best_wire_mm, thread_limits
from trebb.core.threads.marking import parse_marking
from trebb.core.threads.naming import TRIALS, Seen, name_thread
from trebb.core.threads.offered import Offered, ThreadThere, bought_against_made, hybrid_advice, will_fit
from trebb.core.threads.section import nut_outline, screw_outline
from trebb.core.threads.series import SERIES, hybrids, series_of, weighted_threads
from trebb.core.threads.tooling import (
    flank_shift_mm,
    follower_relief_mm,
    largest_shank_mm,
    pick_up_words,
    rest_words,
    roughing_flat_mm,
    tap_or_cut,
    threading_bar,
    work_spring_mm,
)
from trebb.core.threads.wires import pitch_dia_from_balls_mm, size_between_balls_mm, wires_for
from trebb.core.units import INCH_MM, UnitSystem

INCH, METRIC = UnitSystem.INCH, UnitSystem.METRIC
SCREW = ThreadSpec(Form.ACME, 0.75 * INCH_MM, INCH_MM / 8, 1, Hand.LEFT)
THERE = ThreadThere(SCREW, 0.6768 * INCH_MM, 0.30)
SPECS = st.sampled_from([s for s, _, _ in weighted_threads()])


# what is stamped ----------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "designation"),
    [
        ("3/4-8 Acme LH", "3/4-8 Acme left hand"),
        ("Tr 20 x 4 LH", "Tr 20 × 4 left hand"),
        ("Tr20x8 (P4)", "Tr 20 × 8 (P4)"),
        ("M12 × 1.75", "M12 × 1.75"),
        ("M12", "M12 × 1.75"),
        ("5/8-11 BSW", "5/8-11 Whitworth"),
        ("20 mm × 8 tpi Acme", "20 mm × 8 tpi Acme"),
        ("1-1/8-5 Acme 2G tap", "1-1/8-5 Acme"),
        ("3/4 x 2.5 mm trap", "3/4 in × 2.5 mm trapezoidal"),
        ("16 x 4 square", "16 × 4 square"),
        ("1/2-13 UNC", "1/2-13 Unified"),
        ("1/2-10 Acme, 2 starts", "1/2-10 Acme, 2 starts"),
    ],
)
def test_a_marking_is_read_as_it_is_stamped(text, designation):
    assert parse_marking(text).designation == designation


@given(SPECS, st.sampled_from(Hand))
def test_every_thread_s_own_designation_is_read_back(spec, hand):
    spec = replace(spec, hand=hand)
    again = parse_marking(spec.designation)
    assert (again.form, again.hand, again.starts) == (spec.form, spec.hand, spec.starts)
    assert again.major_mm == pytest.approx(spec.major_mm, abs=2e-3)
    assert again.pitch_mm == pytest.approx(spec.pitch_mm, rel=2e-3)


@pytest.mark.parametrize("text", ["", "big", "3/4-8", "Tr x 4", "3/0-8 Acme", "3/4 Whitney-9"])
def test_a_marking_that_cannot_be_read_says_what_can(text):
    with pytest.raises(InputError, match=r"write it as stamped|form is missing|pitch is missing"):
        parse_marking(text)


def test_an_impossible_thread_is_refused():
    with pytest.raises(ThreadSpecError, match="nearly through"):
        parse_marking("1/4-4 Acme")


# what it would do ---------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("marking", "kind", "verdict", "said"),
    [
        ("3/4-8 Acme LH", Offered.NUT, "fits", "of play on unworn thread"),
        ("3/4-8 Acme", Offered.TAP, "never", "never starts"),
        ("3/4-10 Acme LH", Offered.NUT, "never", "Another pitch"),
        ("20 mm × 8 tpi Acme LH", Offered.TAP, "loose", "Right pitch, wrong diameter"),
        ("5/8-8 Acme LH", Offered.NUT, "cuts", "have to lose"),
        ("5/8-8 Acme LH", Offered.TAP, "binds", "too tight"),
        ("3/4-8 Whitworth LH", Offered.NUT, "never", "the form is not"),
        ("3/4-8 Acme LH, 2 starts", Offered.NUT, "never", "starts against 1"),
        ("7/8-8 Acme LH", Offered.NUT, "loose", "in mesh"),
        ("3/4-8 Acme LH", Offered.BAR, "fits", "enters this nut"),
        ("7/8-8 Acme LH", Offered.BAR, "never", "Too thick"),
    ],
)
def test_what_a_bought_thing_would_do(marking, kind, verdict, said):
    found = will_fit(THERE, parse_marking(marking), kind, INCH)
    assert found.verdict == verdict
    assert said in found.head


def test_the_play_promised_is_the_pitch_diameters_difference_by_the_flank():
    found = will_fit(THERE, SCREW, Offered.NUT, INCH)
    band = thread_limits(SCREW).nut_pitch
    slope = math.tan(math.radians(14.5))
    assert found.least_mm == pytest.approx((band.low_mm - THERE.unworn_mm) * slope)
    assert found.worn_mm == pytest.approx((band.high_mm - THERE.unworn_mm) * slope + 0.30)


@given(st.floats(0.0, 0.5))
def test_more_wear_never_means_less_play(worn):
    more = will_fit(replace(THERE, worn_play_mm=worn + 0.05), SCREW, Offered.NUT, INCH).worn_mm
    assert more > will_fit(replace(THERE, worn_play_mm=worn), SCREW, Offered.NUT, INCH).worn_mm


def test_what_it_costs_is_set_against_what_it_gains():
    assert "gains nothing" in bought_against_made(35, 0.30, 0.29, 0.05, METRIC, "£")
    said = bought_against_made(35, 0.50, 0.25, 0.05, METRIC, "£")
    assert "£1.4 a 0.01 mm" in said
    assert "made to suit" in said


def test_a_hybrid_has_no_series_and_is_told_what_can_be_done():
    mixed = ThreadSpec(Form.ACME, 22.0, INCH_MM / 6)
    assert mixed.is_mixed
    assert series_of(mixed) is None
    assert "No nut, tap or bar is sold as 22 mm × 6 tpi Acme" in hybrid_advice(mixed)
    assert series_of(ThreadSpec(Form.TRAPEZOIDAL, 28, 5, 2)).key == "trapezoidal"
    assert all(h.is_mixed for h in hybrids())
    assert not any(ThreadSpec(s.form, d, p).is_mixed for s in SERIES for d, p in s.pairs if p < 0.4 * d)


# naming -------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("outcome", "falls"), [(TRIALS[0], True), (TRIALS[2], False)])
def test_what_was_tried_speaks_for_or_against(outcome, falls):
    # A pitch alone does not say how many starts; a single-start nut that goes on, or does not, says much.
    seen = Seen(pitch_mm=4.24, pitch_sd_mm=0.02, major_mm=22.02)

    def several(tried):
        found = name_thread(replace(seen, tried=tried), 200).candidates
        return sum(c.likelihood for c in found if c.spec.starts > 1)

    plain, then = several(()), several(((parse_marking("7/8-6 Acme"), outcome),))
    assert plain > 0.001
    assert then < 0.02 * plain if falls else then > 2 * plain


def test_nothing_measured_is_refused_and_the_one_measurement_is_named():
    with pytest.raises(InputError, match="over several crests"):
        name_thread(Seen(major_mm=20.0))
    naming = name_thread(Seen(lead_mm=5.08, pitch_mm=5.08, major_mm=25.3))
    assert naming.telling is not None
    assert naming.telling.words(INCH, "a", "b").endswith(".")
    stub = name_thread(Seen(lead_mm=5.08, pitch_mm=5.08, major_mm=25.3, angle_deg=29.0))
    assert {c.spec.form for c in stub.candidates[:2]} == {Form.ACME, Form.ACME_STUB}
    assert stub.telling.key in ("depth", "flat")


def test_a_thread_no_list_has_is_named_as_measured():
    naming = name_thread(Seen(lead_mm=7.3, pitch_mm=7.3, major_mm=33.3, angle_deg=29.0, depth_mm=3.9))
    assert naming.candidates[0].series is None
    assert naming.candidates[0].spec.major_mm == pytest.approx(33.3)
    assert naming.candidates[0].spec.pitch_mm == pytest.approx(7.3, abs=0.05)


# sections and balls -------------------------------------------------------------------------------


@given(SPECS, st.floats(0.0, 0.2))
def test_a_groove_is_half_a_pitch_wide_at_the_pitch_line_and_wider_by_its_wear(spec, wear):
    depth = (spec.major_mm - spec.pitch_dia_mm) / 2
    points = screw_outline(spec, spec.pitch_dia_mm, wear, 0.0, 1)
    left = [p for p in points if p[0] <= spec.pitch_mm / 2]
    inside = next(
        ((a, b) for a, b in itertools.pairwise(left) if a[1] <= depth <= b[1] and b[1] > a[1]), None
    )
    if inside is None or (spec.form is Form.SQUARE):
        return
    (x0, d0), (x1, d1) = inside
    x = x0 + (depth - d0) / (d1 - d0) * (x1 - x0)
    assert 2 * (spec.pitch_mm / 2 - x) == pytest.approx(spec.pitch_mm / 2 + wear, abs=1e-6)


@given(SPECS, st.floats(0.0, 0.3))
def test_the_nut_in_section_clears_the_screw_by_its_play(spec, play):
    half_nut = [p for p in nut_outline(spec, spec.pitch_dia_mm, play, 1) if 0 <= p[0] <= spec.pitch_mm / 2]
    tip = max(half_nut, key=lambda p: p[1])
    groove = spec.pitch_mm / 4 + ((spec.major_mm - spec.pitch_dia_mm) / 2 - tip[1]) * math.tan(
        spec.form.half_angle
    )
    width = spec.pitch_mm / 2 - min(p[0] for p in half_nut if p[1] == tip[1])
    if width > 0:
        assert groove - width == pytest.approx(play / 2, abs=1e-6)


def test_a_worn_crest_goes_sharp():
    points = screw_outline(SCREW, SCREW.pitch_dia_mm, 1.4, 0.0, 2)
    assert min(d for _, d in points) > 0


@given(
    st.sampled_from([s for s, _, _ in weighted_threads() if s.form is not Form.SQUARE]), st.floats(-0.1, 0.4)
)
def test_balls_in_a_nut_measure_it_back(spec, more):
    ball, nut = best_wire_mm(spec), spec.pitch_dia_mm + more
    assert pitch_dia_from_balls_mm(spec, size_between_balls_mm(spec, nut, ball), ball) == pytest.approx(
        nut, abs=1e-7
    )


def test_balls_come_to_the_simple_formula_where_there_is_hardly_any_lead():
    spec = ThreadSpec(Form.TRAPEZOIDAL, 200.0, 4.0)
    ball, a = best_wire_mm(spec), math.radians(15)
    centres = spec.pitch_dia_mm - ball / math.sin(a) + spec.pitch_mm / 2 / math.tan(a)
    assert size_between_balls_mm(spec, spec.pitch_dia_mm, ball) == pytest.approx(
        math.hypot(centres, 2.0) - ball, abs=2e-3
    )


def test_even_starts_put_the_balls_straight_across():
    one, two = (ThreadSpec(Form.TRAPEZOIDAL, 28, 5, n) for n in (1, 2))
    assert size_between_balls_mm(one, 25.5, 2.588) > size_between_balls_mm(two, 25.5, 2.588)


def test_a_ball_that_cannot_be_is_refused():
    with pytest.raises(WireError, match="more than nothing"):
        size_between_balls_mm(SCREW, 17.0, 0.0)
    with pytest.raises(WireError, match="this nut reads about"):
        pitch_dia_from_balls_mm(SCREW, 90.0, 1.6)
    with pytest.raises(WireError, match="groove and ridge"):
        size_between_balls_mm(ThreadSpec(Form.SQUARE, 25.4, 6.35), 20.0, 2.0)


def test_three_wires_until_the_anvil_no_longer_spans_them():
    assert wires_for(SCREW) == "three wires"
    assert wires_for(ThreadSpec(Form.ACME, 50.0, 8.0)).startswith("one wire")


# tools --------------------------------------------------------------------------------------------


def test_the_bar_springs_with_the_cube_of_its_reach_and_the_fourth_power_of_its_shank():
    short, long_ = (
        threading_bar(SCREW, 30, "bronze", shank_mm=8.0),
        threading_bar(SCREW, 60, "bronze", shank_mm=8.0),
    )
    assert long_.spring_mm / short.spring_mm == pytest.approx((long_.overhang_mm / short.overhang_mm) ** 3)
    thin = threading_bar(SCREW, 30, "bronze", shank_mm=4.0)
    assert thin.spring_mm / short.spring_mm == pytest.approx(16)
    assert "tap from both sides" in tap_or_cut(
        threading_bar(SCREW, 60, "bronze", shank_mm=4.0), SCREW, 60, INCH
    )
    assert "Cut it" in tap_or_cut(threading_bar(SCREW, 38, "bronze"), SCREW, 38, INCH)


def test_a_bar_that_does_not_enter_is_refused():
    with pytest.raises(InputError, match="enters the bore"):
        threading_bar(SCREW, 38, "bronze", shank_mm=largest_shank_mm(SCREW) + 0.1)
    with pytest.raises(InputError, match="tap it"):
        threading_bar(ThreadSpec(Form.ACME, 5.5, 25.4 / 16), 12, "bronze")


def test_bar_and_tip_fit_the_bore_they_work_in():
    bar = threading_bar(SCREW, 38, "bronze")
    assert bar.swing_mm < bar.bore_mm


def test_a_rougher_is_narrower_and_a_slender_screw_wants_a_rest():
    assert roughing_flat_mm(SCREW) < roughing_flat_mm(SCREW, 0.05)
    assert "no rest" in rest_words(work_spring_mm(30, 200, SCREW, "carbon", 0.05), 200, METRIC)
    assert "follower" in rest_words(work_spring_mm(12, 300, SCREW, "alloy_ht", 0.05), 300, METRIC)
    assert follower_relief_mm(12, 10, 4) == pytest.approx(19)
    assert flank_shift_mm(0.05, math.radians(15)) == pytest.approx(0.05 / math.cos(math.radians(15)))
    assert "slack is out" in pick_up_words(SCREW, 0.05, INCH)
