"""More of a shop's own figures on new jobs: side figures, sharp wear, dirty seatings, bent bars, parts and
their cuts.
"""

from __future__ import annotations

import math

import pytest
from PySide6.QtWidgets import QApplication

from tests.app.hand import ANGLES, Hand, add, choose, set_part, wrong
from trebb.app.window.machine_panel import assembly_figure
from trebb.core.machine import State
from trebb.core.units import THOU_MM, UnitSystem
from trebb.logbook.log.entries import PartSet

INCH = UnitSystem.INCH


@pytest.fixture
def hand(make_window):
    return lambda kind="lathe", system=INCH: Hand(make_window, kind, system)


def surveyed(h: Hand) -> Hand:
    """A worn cross slide with everything read."""
    h.state(
        "cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", hand="left", reads="radius",
        nut_length_mm="1.5 in", travel_mm="8 in",
    )  # fmt: skip
    for k, lash in enumerate((9, 14, 16, 12, 8), start=1):
        h.read("cross_slide", "lash", f"station {k}", lash, lash)
    return h.read("cross_slide", "end_float", "collar", "0.5 thou", "0.5 thou", "0.6 thou")


# side figures ---------------------------------------------------------------------------------------


def test_a_spindle_is_not_within_for_its_end_play_alone(hand):
    h = hand().read("spindle", "spindle_float", "nose face", "0.2 thou", "0.2 thou", "0.2 thou")
    assert h.figure("spindle", "float").state is State.WITHIN
    assert h.case("spindle").state is State.UNKNOWN
    assert h.case("spindle").figure_now().state is State.UNKNOWN
    assert h.head("spindle") == "Error at the work cannot be said yet."
    assert "Not read: slack and its runout." in h.said("spindle")
    assert h.case("spindle").advised() is None
    assert assembly_figure(h.session, h.case("spindle").assembly)[1] == "not told yet"


def test_end_play_over_its_limit_is_said_whatever_else_is_unread(hand):
    h = hand().read("spindle", "spindle_float", "nose face", 2, 2, 2)
    assert h.case("spindle").state is State.BEYOND


def test_a_stand_out_alone_never_judges_the_play(hand):
    h = hand().state("saddle", home="yes")
    h.read("saddle", "stand_out", "stand-out", "0.20 in").read("saddle", "stand_out", "as it ran", "0.20 in")
    assert h.case("saddle").state is State.UNKNOWN
    assert h.case("saddle").suggestions()[0].key.startswith("rock")


def test_the_first_advice_on_a_screw_is_what_its_verdict_hangs_on(hand):
    assert hand().case("cross_slide").suggestions()[0].key == "lash"


def test_a_figure_at_its_limit_with_a_wide_doubt_is_left_open(hand):
    h = hand()
    for place, value in (
        ("pulled full", -6.6),
        ("pulled half", -6.2),
        ("pushed half", 6.2),
        ("pushed full", 6.6),
    ):
        h.read("spindle", "push_test", f"nose, {place}", f"{value} µm", f"{value} µm")
    slack = h.figure("spindle", "slack")
    assert abs(slack.value.value - slack.limit.limit_mm) < 0.25 * slack.value.half_width
    assert slack.state is State.UNKNOWN
    assert "it may be on either side of its limit" in h.said("spindle")


# wear, seats and bars -------------------------------------------------------------------------------


def test_wear_sharper_than_the_stations_are_apart_asks_for_one_reading_between(hand):
    h = hand().state("cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", reads="radius")
    for k, lash in enumerate((8, 9, 30, 12, 8), start=1):
        h.read("cross_slide", "lash", f"station {k}", lash, lash)
    for k, play in enumerate((7, 8, 29, 11, 7), start=1):
        h.read("cross_slide", "push_pull", f"station {k}", play, play)
    h.read("cross_slide", "end_float", "collar", 1, 1, 1)
    for place, inches in zip(
        ("wires, unworn", *(f"wires, station {k}" for k in range(1, 6))),
        (0.7755, 0.7748, 0.7715, 0.6950, 0.7600, 0.7750),
        strict=True,
    ):
        h.read("cross_slide", "thread_size", place, f"{inches:.4f} in")
    assert "It may be deeper between stations 3 and 4: one reading there." in h.said("cross_slide")


def seating(h: Hand, number: int, mark: int, near: float, far: float, at_deg: float = 0.0) -> None:
    """One seating's two turns, thou TIR, on an indicator of tenths."""
    for plane, tir in (("near", near), ("far", far)):
        for angle in ANGLES:
            value = tir / 2 * math.cos(math.radians(angle - at_deg))
            h.read("spindle", "test_bar", f"seat {number} at {mark}°, {plane}, {angle}°", f"{value:.1f} thou")


def test_a_bent_bar_in_a_good_seat_is_named_and_the_seat_is_not(hand):
    h = hand()
    for number, mark in ((1, 0), (2, 0), (3, 180), (4, 90)):
        seating(h, number, mark, 0.2, 2.4, at_deg=mark)  # it is high where the bar's mark stands
    case = h.case("spindle")
    assert "test_bar" not in case.distrusted("before")
    said = h.said("spindle")
    assert "bar" in said
    assert "seat does not repeat" not in said
    assert h.figure("spindle", "work").value.low < 0.5 * THOU_MM  # none of it is the spindle's


def test_one_dirty_seating_among_four_is_named_by_its_number(hand):
    h = hand()
    for number, mark in ((1, 0), (2, 0), (3, 180), (4, 90)):
        odd = number == 3
        seating(h, number, mark, 1.6 if odd else 0.3, 4.0 if odd else 0.5, at_deg=140.0 if odd else 20.0)
    assert "eating 3" in h.said("spindle") or "seat 3" in h.said("spindle").lower()


# names ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("pitch", "gauge", "major", "name"),
    [
        ("8 tpi", "29", "1.2470 in", "1-1/4-8 Acme"),
        ("8 tpi", "29", "1.4970 in", "1-1/2-8 Acme"),
        ("5 mm", "30", "24.90 mm", "Tr 25 × 5"),
        ("4 mm", "30", "19.93 mm", "Tr 20 × 4"),
        ("5 mm", "30", "25.95 mm", "Tr 26 × 5"),
    ],
)
def test_bars_of_plain_sizes_are_candidates(hand, pitch, gauge, major, name):
    h = hand().state("cross_slide", seen_pitch_mm=pitch, seen_gauge=gauge)
    h.read("cross_slide", "which_thread", "major", major)
    designations = [c.spec.designation for c in h.case("cross_slide").naming.candidates]
    assert designations[0].replace("x", "×").startswith(name), designations[:3]


def test_a_tap_that_goes_on_outweighs_a_worn_crest(hand):
    h = hand().state("cross_slide", seen_pitch_mm="8 tpi", seen_gauge="29")
    h.read("cross_slide", "which_thread", "major", "0.7100 in")  # crests worn forty thou under
    h.state("cross_slide", tried="3/4-8 Acme: goes on")
    assert h.case("cross_slide").naming.candidates[0].spec.designation.startswith("3/4-8 Acme")


# parts and cuts -------------------------------------------------------------------------------------


def test_after_roughing_is_ticked_the_list_starts_where_it_stopped(hand):
    h = surveyed(hand())
    choose(h, "cross_slide", "new_pair")
    case = h.case("cross_slide")
    fresh = case.passes(case.scheme)
    stop = h.frame.go_to("make")
    stop.show_part("screw")
    stop.show_step("thread_rough")
    QApplication.processEvents()
    stop.toggle_done()
    left = case.passes(case.scheme)
    assert left[0].cross_mm > fresh[len(fresh) // 3].cross_mm
    assert len(left) < len(fresh)


def test_a_ring_of_two_and_a_half_inches_where_a_quarter_is_drawn_is_said(hand):
    h = surveyed(hand())
    set_part(h, "cross_slide", "thrust_collar", width="0.25 in", room="3.15 in", bracket="0.47 in")
    set_part(h, "cross_slide", "thrust_collar", first="0.06 in", second="0.06 in")
    said = " ".join(wrong(h.case("cross_slide").part("thrust_collar", INCH)))
    assert "drawn 0.25 in wide" in said
    assert "2.56 in" in said


def test_a_cartridge_s_own_fit_up_stands_in_the_window(hand):
    h = hand("mill").read("spindle", "spindle_float", "nose face", 2, 2, 2)
    choose(h, "spindle", "cartridge")
    titles = " ".join(f"{s.title} {s.key}" for s in h.case("spindle").fit_order())
    stop = h.frame.go_to("fit_up")
    QApplication.processEvents()
    assert stop is not None
    assert "belt" in titles
    assert "box" in titles
    assert "tool" in titles
    assert "spacer" not in titles.lower()


def test_a_new_lead_is_proven_by_itself_and_the_old_screw_stays_as_it_was_read(hand):
    h = hand().state(
        "cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", reads="radius", divisions="125"
    )
    for k in range(1, 6):
        h.read("cross_slide", "lash", f"station {k}", 14, 14)  # of 0.001 in each
    choose(h, "cross_slide", "new_pair")
    h.state("cross_slide", make_pitch_mm="10 tpi")
    for k in range(1, 6):
        h.read("cross_slide", "lash", f"station {k}", 5, 5, phase="after")  # of 0.0008 in each
    rows = [r for r in h.case("cross_slide").comparisons() if r.set_up == "lash"]
    assert [r.before_mm / THOU_MM for r in rows] == pytest.approx([14.0] * 5)
    assert [r.after_mm / THOU_MM for r in rows] == pytest.approx([4.0] * 5)
    h.read("cross_slide", "lash", "station 3", "4 thou", phase="after")
    assert h.session.job.readings("cross_slide", "lash", "after", "station 3")[
        -1
    ].taken.value == pytest.approx(5)
    h.frame.go_to("prove")
    assert "4.0" in h.frame.stop.banner.head.text()


def test_a_remedy_without_a_screw_is_proven_by_the_old_lead(hand):
    h = hand().state(
        "cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", reads="radius", divisions="125"
    )
    h.read("cross_slide", "lash", "station 1", 14, 14)
    choose(h, "cross_slide", "made_nut")
    h.state("cross_slide", make_pitch_mm="10 tpi")
    h.read("cross_slide", "lash", "station 1", 5, 5, phase="after")
    (row,) = [r for r in h.case("cross_slide").comparisons() if r.set_up == "lash"]
    assert (row.before_mm / THOU_MM, row.after_mm / THOU_MM) == pytest.approx((14.0, 5.0))


def test_a_dial_made_for_the_new_screw_counts_in_its_own_lines(hand):
    h = hand().state(
        "cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", reads="radius", divisions="100"
    )
    h.read("cross_slide", "lash", "station 1", 12, 12)  # of 0.00125 in each
    choose(h, "cross_slide", "new_pair")
    h.session.record(PartSet(part=h.case("cross_slide").part_name("dial"), field="make", value="yes"))
    h.read("cross_slide", "lash", "station 1", 5, 5, phase="after")  # of 0.001 in each: 125 lines
    (row,) = [r for r in h.case("cross_slide").comparisons() if r.set_up == "lash"]
    assert (row.before_mm / THOU_MM, row.after_mm / THOU_MM) == pytest.approx((15.0, 5.0))


def test_what_is_worn_far_beyond_the_usual_is_not_asked_about(hand):
    h = hand()
    shaft = add(h, "apron", "shaft", "Dial shaft")
    h.state(shaft, dia_mm="0.750 in", length_mm="8 in")
    for place in ("left", "right"):
        for at, size in (("0°", "0.7440 in"), ("90°", "0.7442 in"), ("unworn", "0.7498 in")):
            h.read(shaft, "shaft_sizes", f"{place}, {at}", size)
    assert h.case(shaft).odd("before") == []
    bore = add(h, "apron", "bore", "Apron bore")
    h.state(bore, dia_mm="1.000 in", length_mm="2 in", outside_mm="1.75 in")
    for depth in ("mouth", "middle", "inner end"):
        for at, size in (("0°", "1.0060 in"), ("90°", "1.0065 in")):
            h.read(bore, "bore_gauge", f"{depth}, {at}", size)
    h.read(bore, "bore_gauge", "ridge", "1.0000 in")
    assert h.case(bore).odd("before") == []
    assert "disagrees" not in h.said(bore)


def _read_against_its_dial(h, off_thou: float, phase: str = "before"):
    """The slide goes off by so many thou at the end of eight inches of travel: five stations, three times."""
    for k in range(1, 6):
        thou = off_thou * h.case("cross_slide").drive.station_mm(k) / 203.2
        h.read("cross_slide", "lead_error", f"travel, station {k}", *[f"{thou:.2f} thou"] * 3, phase=phase)
    return h


def _screw_read_against_its_dial(hand, off_thou: float):
    h = hand().state("cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", reads="radius")
    return _read_against_its_dial(h, off_thou)


def test_a_screw_s_own_error_is_no_more_sure_than_it_was_read(hand):
    h = _screw_read_against_its_dial(hand, 0.0)
    error = h.figure("cross_slide", "lead_error")
    assert error.value.low == 0.0 <= error.value.value <= error.value.high
    assert error.value.high > error.limit.limit_mm
    assert error.state is State.UNKNOWN
    assert "Its limit is 1.2 thou" in h.said("cross_slide")


def test_a_screw_is_not_within_for_its_lead_alone(hand):
    h = _screw_read_against_its_dial(hand, 0.0)
    assert h.head("cross_slide") == "Lash at the worst cannot be said yet."
    assert assembly_figure(h.session, h.case("cross_slide").assembly) == (State.UNKNOWN, "not told yet")
    assert h.case("cross_slide").advised() is None


def test_a_screw_far_off_its_dial_is_beyond_though_its_lash_is_small(hand):
    h = _screw_read_against_its_dial(hand, 20.0)
    for k in range(1, 6):
        h.read("cross_slide", "lash", f"station {k}", 1, 1)
    assert h.figure("cross_slide", "lash").state is State.WITHIN
    judged = h.case("cross_slide").judged
    assert (judged.key, judged.state) == ("lead_error", State.BEYOND)
    assert judged.value.value / THOU_MM == pytest.approx(20.0 * 300 / 203.2, abs=2.0)


@pytest.mark.parametrize(("off", "state"), [(0.0, State.WITHIN), (20.0, State.BEYOND)])
def test_a_repaired_screw_is_judged_like_any_other(hand, off, state):
    h = hand().state("cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", reads="radius")
    h.read("cross_slide", "lash", "station 1", 14, 14)
    found = assembly_figure(h.session, h.case("cross_slide").assembly)
    choose(h, "cross_slide", "new_pair")
    _read_against_its_dial(h, off, phase="after")
    if not off:  # the lead alone proves nothing of the lash that was found
        assert assembly_figure(h.session, h.case("cross_slide").assembly) == found
    for k in range(1, 6):
        h.read("cross_slide", "lash", f"station {k}", 1, 1, phase="after")
    assert assembly_figure(h.session, h.case("cross_slide").assembly)[0] is state


def test_half_nuts_and_their_dial_are_judged_with_what_was_read(hand):
    h = hand().state("lead_screw", form="Acme", major_mm="1 in", pitch_mm="8 tpi")
    h.read("lead_screw", "half_nuts", "dial, over the keyway", 3, 4)
    said = h.said("lead_screw")
    assert (
        "drops 3.5 ± 1.7 thou into the keyway" in said
    )  # of the 3.9 that show: neither "none" nor "not to be trusted"
    assert "cannot be trusted" not in said
    assert "without a jump" not in said
    for _ in range(4):
        h.read("lead_screw", "half_nuts", "dial, over the keyway", 9, 9)
    assert "cannot be trusted" in h.said("lead_screw")
    h.read("lead_screw", "half_nuts", "standoff, upper", 10).read(
        "lead_screw", "half_nuts", "standoff, lower", 10
    )
    assert "They may stay." in h.said("lead_screw")


def test_of_a_train_rocked_as_a_whole_no_mesh_is_named(hand):
    h = hand()
    train = add(h, "apron", "train", "Feed train")
    h.state(train, positions="20-60 24-48")
    h.read(train, "train_rock", "whole", 5, 5, 5)
    assert "which it is, is not told" in h.said(train)
    assert "The widest mesh is" not in h.said(train)
    h.read(train, "train_rock", "mesh 1", 2, 2, 2).read(train, "train_rock", "mesh 2", 4, 4, 4)
    assert "The widest mesh is 24 with 48: " in h.said(train)
