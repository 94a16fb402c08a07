"""A shop's own figures, typed in the window on new jobs: believed as far as they are read, no further."""

from __future__ import annotations

import math

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.app.conftest import click
from tests.app.hand import ANGLES, Hand
from trebb.app.look.typed import LengthEdit
from trebb.core.machine import State
from trebb.core.units import THOU_MM, UnitSystem
from trebb.logbook.log.entries import RemedyChosen

METRIC = UnitSystem.METRIC


@pytest.fixture
def hand(make_window):
    return lambda kind="lathe", system=UnitSystem.INCH: Hand(make_window, kind, system)


def thou(q) -> tuple[float, float]:
    return q.value / THOU_MM, q.half_width / THOU_MM


# repeats ------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("assembly", "key", "place", "typed", "source", "value", "half"),
    [
        ("cross_slide", "end_float", "collar", (20, 20, 20, 22), "float", 20.5, 1.5),
        ("cross_slide", "end_float", "collar", (9, 9, 9, 10), "float", 9.2, 1.0),
        ("tailstock", "tail_key", "key", (33, 33, 33, 36), "tail_key", 33.7, 2.0),
    ],
)
def test_uneven_repeats_come_to_their_mean(hand, assembly, key, place, typed, source, value, half):
    h = hand().read(assembly, key, place, *typed)
    found, width = thou(h.case(assembly).alone.source(source))
    assert found == pytest.approx(value, abs=0.1)
    assert width <= half
    assert f"{found:.1f}" in h.said(assembly)


def test_a_fourth_equal_repeat_changes_nothing_but_the_doubt(hand):
    h = hand().read("cross_slide", "end_float", "collar", 20, 20, 20)
    value, width = thou(h.case("cross_slide").alone.source("float"))
    h.read("cross_slide", "end_float", "collar", 20)
    again, narrower = thou(h.case("cross_slide").alone.source("float"))
    assert again == pytest.approx(value, abs=0.02)
    assert narrower < width


def test_a_blunder_among_repeats_is_named_and_may_be_kept_or_struck_out(hand):
    h = hand(system=METRIC).read("cross_slide", "end_float", "collar", "0.5 mm", "0.5 mm", "0.5 mm", "1.0 mm")
    said = h.said("cross_slide")
    assert "1000 µm disagrees with its repeats, 500 µm" in said
    assert h.case("cross_slide").alone.source("float").value == pytest.approx(0.5, abs=0.01)
    assert "End float" in said
    h.session.choose("cross_slide")
    stop = h.frame.go_to("survey")
    stop.bench.choose_set_up("end_float")
    QApplication.processEvents()
    click(h.frame, "strike_odd")
    assert "disagrees" not in h.said("cross_slide")
    assert len(h.session.job.standing("cross_slide", "end_float")[0].values) == 3
    assert len(h.session.job.readings("cross_slide", "end_float")) == 4


def test_a_fifth_repeat_keeps_the_answer_within_the_repeats(hand):
    h = hand()
    for value in (12, 13, 12, 40, 12):
        h.read("cross_slide", "end_float", "collar", value)
        taken = [v / THOU_MM for p in h.session.job.standing("cross_slide", "end_float") for v in p.values]
        found, _ = thou(h.case("cross_slide").alone.source("float"))
        assert min(taken) - 0.1 <= found <= max(taken) + 0.1


def test_a_station_that_disagrees_with_its_neighbours_is_asked_about(hand):
    h = hand().state("cross_slide", reads="radius")
    for k, typed in enumerate((14, 14, 60, 14, 14), start=1):
        h.read("cross_slide", "lash", f"station {k}", typed, typed)
    assert "Station 3: 60.0 div disagrees with its neighbours" in h.said("cross_slide")


# lash ---------------------------------------------------------------------------------------------


def test_lash_alone_is_a_sum_until_end_float_and_one_more_are_read(hand):
    h = hand().state("cross_slide", reads="radius")
    for k in range(1, 6):
        h.read("cross_slide", "lash", f"station {k}", 14, 15)
    head = h.head("cross_slide")
    assert "loses 14" in head
    assert "the nut has" not in head
    case = h.case("cross_slide")
    assert not {"nut", "screw", "float", "key"} & set(case.split.told)
    assert "cannot be told apart" in h.said("cross_slide")
    assert case.figures[0].state is State.BEYOND


def test_one_station_speaks_for_itself_and_the_others_are_not_read(hand):
    h = hand().state("cross_slide", reads="radius").read("cross_slide", "lash", "station 1", 14, 15, 14.5)
    said = h.said("cross_slide")
    assert "at station 1" in h.head("cross_slide")
    assert "Not read: stations 2, 3, 4 and 5" in said
    h = hand().state("cross_slide", reads="radius").read("cross_slide", "lash", "station 1", 3, 3)
    assert h.figure("cross_slide", "lash").state is State.UNKNOWN
    assert "cannot be said yet" in h.head("cross_slide")


def test_end_float_alone_says_what_it_is_and_that_the_rest_is_not_read(hand):
    h = hand().read("cross_slide", "end_float", "collar", 2, 2, 2)
    assert h.figure("cross_slide", "lash").state is State.UNKNOWN
    said = h.said("cross_slide")
    assert "Not read: nut, screw and key" in said
    assert "The screw is worn" not in said
    assert h.case("cross_slide").advised() is None
    h = hand().read("cross_slide", "end_float", "collar", 20, 20, 20)
    assert h.figure("cross_slide", "lash").state is State.BEYOND
    assert "End float alone" in h.head("cross_slide")


def test_only_the_dial_over_the_keyway_says_not_a_word_of_lash(hand):
    h = hand().read("lead_screw", "half_nuts", "dial, over the keyway", 2, 2)
    said = h.said("lead_screw").lower()
    assert "worn" not in said
    assert "nut has" not in said
    assert h.figure("lead_screw", "lash") is None


def test_lash_of_more_than_a_pitch_is_a_nut_without_a_thread(hand):
    h = hand().state("cross_slide", reads="radius")
    for k in range(1, 6):
        h.read("cross_slide", "lash", f"station {k}", 140, 140)
    assert "it jumps" in h.head("cross_slide")


def test_a_ridge_worn_past_sharp_is_legal_and_the_worst_station(hand):
    h = hand().state("cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", gauge="thickness")
    for place, inches in (("unworn", 0.0625), ("station 1", 0.050), ("station 3", 0.010)):
        h.read("cross_slide", "thread_size", f"thickness, {place}", f"{inches} in", f"{inches} in")
    worst = h.case("cross_slide").split.most_worn
    assert worst.station == 3
    assert thou(worst.wear)[0] == pytest.approx(52.5, abs=1.5)


# spindle ------------------------------------------------------------------------------------------


def one_seating(h, number: int, mark: int, tir: float):
    for plane in ("near", "far"):
        h.turn("test_bar", f"seat {number} at {mark}°, {plane}", tir)
    return h


def test_a_whole_turn_is_typed_as_one_figure_with_where_it_is_high(hand):
    h = hand()
    h.read("spindle", "nose", "register, 0°", "6 thou TIR at 90")
    job = h.session.job
    taken = job.standing("spindle", "nose")
    assert len(taken) == len(ANGLES)
    values = {p.place: p.values[0] for p in taken}
    assert values["register, 90°"] == pytest.approx(3 * THOU_MM)
    assert values["register, 270°"] == pytest.approx(-3 * THOU_MM)
    assert max(values.values()) - min(values.values()) == pytest.approx(6 * THOU_MM)
    assert {r.taken.typed for r in job.readings("spindle", "nose")} == {"6 thou TIR at 90"}
    h.session.undo()
    assert not job.standing("spindle", "nose")
    pod = h.frame.stop.pod
    pod.take_typed("-6 thou TIR at 90")
    assert "not less than nothing" in pod.refusal.text()
    assert not job.standing("spindle", "nose")


def test_a_runout_whose_angle_nobody_noted_has_its_verdict_a_before_and_an_after(hand):
    h = hand()
    h.read("spindle", "nose", "register, 0°", "6 thou TIR")
    (taken,) = h.session.job.standing("spindle", "nose")
    assert (taken.place, taken.values) == ("register, TIR", (pytest.approx(6 * THOU_MM),))
    assert h.case("spindle").state is State.BEYOND
    said = h.said("spindle")
    assert "register: 6.0 ± " in said
    assert "how much, not whither" in said
    assert "Chuck" not in said
    h.read("spindle", "nose", "register, 0°", "2 tenths TIR", phase="after")
    (row,) = h.case("spindle").comparisons()
    assert row.before_mm == pytest.approx(6 * THOU_MM)
    assert row.after_mm == pytest.approx(0.2 * THOU_MM)


def test_a_sound_spindle_is_never_beyond_and_its_slack_is_not_read(hand):
    h = hand().turn("nose", "register", 0.3).turn("nose", "face", 0.2)
    one_seating(h, 1, 0, 0.3)
    work = h.figure("spindle", "work")
    assert work.state is State.UNKNOWN
    assert "Not read: slack" in h.said("spindle")
    assert all(m.state is not State.BEYOND for m in h.case("spindle").figures)


def test_identical_seatings_half_a_turn_apart_do_not_blame_the_seat(hand):
    h = hand().state("spindle", seatings="0, 180")
    one_seating(h, 1, 0, 6.0)
    one_seating(h, 2, 180, 6.0)
    case = h.case("spindle")
    assert "test_bar" not in case.distrusted("before")
    assert "seat does not repeat" not in h.said("spindle")
    assert h.figure("spindle", "work").state is State.BEYOND


def test_two_seatings_at_one_mark_come_first_then_the_half_turn(hand):
    case = hand().case("spindle")
    marks = list(dict.fromkeys(p.group.rsplit(", ", 1)[0] for p in case.places("test_bar")))
    assert marks[:3] == ["seat 1 at 0°", "seat 2 at 0°", "seat 3 at 180°"]


def test_a_step_of_nine_thou_is_slack_whatever_else_is_unread(hand):
    h = hand("drill")
    for place, value in (
        ("pulled full", -5), ("pulled half", -4.75), ("pushed half", 4.75), ("pushed full", 5)
    ):  # fmt: skip
        h.read("spindle", "push_test", f"quill in, {place}", value, value)
    slack = h.figure("spindle", "slack")
    assert slack.state is State.BEYOND
    assert thou(slack.value)[0] == pytest.approx(9.0, abs=0.2)
    assert "Slack: 9" in h.head("spindle")
    assert h.case("spindle").left_state("leave", "slack") is State.BEYOND


def push(h, set_up: str, spot: str, thou_each_way: float):
    for place, share in (
        ("pulled full", -1),
        ("pulled half", -0.97),
        ("pushed half", 0.97),
        ("pushed full", 1),
    ):
        value = f"{share * thou_each_way:.2f} thou"
        h.read("spindle", set_up, f"{spot}, {place}", value, value)


def test_a_push_at_the_pin_is_the_sum_until_the_quill_is_pushed_too(hand):
    h = hand("drill")
    push(h, "pin_push", "pin", 6)
    said = h.said("spindle")
    assert h.figure("spindle", "slack").state is State.BEYOND
    assert thou(h.figure("spindle", "slack").value)[0] == pytest.approx(11.3, abs=0.4)
    assert "Not read: what of it is the chuck's grip" in said
    assert h.figure("spindle", "grip") is None
    push(h, "push_test", "quill in", 2)
    push(h, "push_test", "quill out", 2)
    assert "Chuck's grip: 7." in h.said("spindle")
    assert thou(h.figure("spindle", "slack").value)[0] < 4


def test_a_coupler_loose_sideways_is_read_where_it_is_felt(hand):
    h = hand("drill").read("spindle", "coupler", "side", 12, 12, 12)
    assert "Coupler, sideways: 12.0" in h.said("spindle")
    assert h.figure("spindle", "coupler") is None


def test_a_proof_says_what_the_bar_reads_and_what_was_not_read_again(hand):
    h = hand()
    for n, mark in enumerate((0, 0, 180, 90), start=1):
        one_seating(h, n, mark, 3.0)
    h.read("spindle", "spindle_float", "nose face", 0.2, 0.2, 0.2)
    h.session.record(RemedyChosen(assembly="spindle", remedy="grind", reason=""))
    stop = h.frame.go_to("prove")
    assert stop.bench is not None
    for plane in ("near", "far"):
        for angle in range(0, 360, 45):
            value = 0.2 * math.cos(math.radians(angle))  # as read between the lines of a tenths dial
            place = f"seat 1 at 0°, {plane}, {angle}°"
            h.read("spindle", "test_bar", place, f"{value:.2f} thou", phase="after")
    from trebb.logbook.cases.verdict import proof_verdict

    _, head, text = proof_verdict(h.case("spindle"), UnitSystem.INCH)
    assert "the bar runs out 0.4 thou at both planes" in head
    assert "Not read" in text


# bed and tailstock --------------------------------------------------------------------------------


def test_one_number_sets_the_tailstock_over(hand):
    h = hand().state("tailstock", centres_mm="10 in")
    h.read("tailstock", "long_piece", "long piece, near land", "1.0000", "1.0000")
    h.read("tailstock", "long_piece", "long piece, far land", "1.0008", "1.0008")
    said = h.said("tailstock")
    assert "Set it over 0.4 thou toward the front" in said
    assert "larger at the tailstock's end by 0.8 thou" in said


def test_a_thin_stub_springs_and_that_is_taken_out_and_said(hand):
    h = hand(system=METRIC).state("headstock", stub_mm="30 mm", far_mm="275 mm")
    h.read("headstock", "two_collar", "cut, near land", "30.000", "30.000")
    h.read("headstock", "two_collar", "cut, far land", "30.017", "30.017")
    taper = h.figure("headstock", "taper")
    assert taper.value.value < 0.006  # a 30 mm stub at 275 mm and 10 N gives 17 µm by itself
    assert "The stub's own give under the tool, 17 µm" in h.said("headstock")


def test_after_lands_and_level_the_ridge_is_asked_for_and_never_the_level_again(hand):
    h = hand(system=METRIC)
    h.read("headstock", "two_collar", "cut, near land", "50.000", "50.000", "50.000")
    h.read("headstock", "two_collar", "cut, far land", "50.060", "50.060", "50.060")
    assert "Level the bed across first" in h.said("headstock")
    for k in range(9):
        h.read("ways", "level_across", f"across, station {k}", "0.1", "0.1")
    said = h.said("headstock")
    assert "Level the bed across first" not in said
    assert "ridge" in said or "set the headstock over" in said
    assert not ("the bed stands well" in said and "Put " in said)


def test_shims_that_change_nothing_twice_are_a_foot_in_the_air(hand):
    h = hand(system=METRIC)
    cut, sizes = ("cut", "trial 1", "trial 2"), (50.060, 50.057, 50.055)
    for name, far in zip(cut, sizes, strict=True):
        if name != "cut":
            h.state("ways", **{f"shim.{name[-1]}": "tail_front 0.10"})
        key = "two_collar" if name == "cut" else "trials"
        h.read("headstock", key, f"{name}, near land", "50.000", "50.000", "50.000")
        h.read("headstock", key, f"{name}, far land", f"{far}", f"{far}", f"{far}")
    said = h.said("headstock")
    assert "a foot is in the air" in said
    assert "Slacken each bolt in turn" in said
    assert h.case("headstock").advice().is_done
    assert "Put " not in said


def test_shims_that_lie_there_already_can_be_stated_and_taken_out(hand):
    h = hand(system=METRIC).state("stand", lies_tail_rear="0.30 mm")
    h.read("headstock", "two_collar", "cut, near land", "50.000", "50.000", "50.000")
    h.read("headstock", "two_collar", "cut, far land", "50.060", "50.060", "50.060")
    advice = h.case("headstock").advice()
    assert advice.foot == "tail_rear"
    assert advice.mm < 0


# gib ----------------------------------------------------------------------------------------------


def test_until_it_is_said_that_the_gib_was_home_nothing_is_sized_or_scraped(hand):
    h = hand().read("saddle", "feelers", "thin end", 3, 3).read("saddle", "feelers", "thick end", 4, 4)
    assert "Was the gib fully home" in h.said("saddle")
    assert "Scrape" not in h.said("saddle")
    assert h.case("saddle").advised() is None
    stop = h.frame.go_to("parts")
    QApplication.processEvents()
    assert "No size yet" in stop.trouble.head.text()
    assert not stop.drawing.isVisible()
    h.session.choose("saddle")
    survey = h.frame.go_to("survey")
    survey.bench.choose_set_up("feelers")
    QApplication.processEvents()
    click(h.frame, "home_yes")
    assert h.frame.go_to("parts").drawing.isVisible()


def test_a_gib_backed_off_is_caught_by_two_stand_outs(hand):
    h = hand()
    h.read("saddle", "stand_out", "as it ran", "0.30 in", "0.30 in")
    h.read("saddle", "stand_out", "stand-out", "0.10 in", "0.10 in")
    h.read("saddle", "rock", "mid, thin end", 6, 6).read("saddle", "rock", "mid, thick end", 6, 6)
    said = h.said("saddle")
    assert "was not home as it ran: it stood 0.2000 in out" in said
    assert "both ends by 3.3 ± 0.3 thou" in said
    assert "Scrape" not in said


def test_a_new_gib_counts_gap_and_stand_out_together(hand):
    h = hand().state("saddle", home="yes", stand_out_mm="0.5 in", ratio="60", thin_mm="0.3 in")
    h.read("saddle", "stand_out", "stand-out", "-0.5 in", "-0.5 in")
    h.read("saddle", "feelers", "thin end", 2, 2).read("saddle", "feelers", "thick end", 2, 2)
    case = h.case("saddle")
    part = case.part("gib", UnitSystem.INCH)
    rows = {r.key: r.value for r in part.rows if r.key}
    slide = case.subject
    lacks = (
        1.0 * 25.4 / 60 + 2.5 * THOU_MM - slide.running_mm
    )  # an inch further in at 1 : 60, and a gap that two thou go into and three do not
    assert rows["thin"].middle_mm == pytest.approx(slide.thin_mm + lacks + slide.scrape_mm, abs=0.01)


# naming -------------------------------------------------------------------------------------------


def test_a_pitch_is_typed_off_the_gauge_and_a_sixteenth_no_table_lists_is_named(hand):
    h = hand().state("cross_slide", seen_pitch_mm="9 tpi", seen_gauge="29")
    h.read("cross_slide", "which_thread", "major", "0.8100 in")
    naming = h.case("cross_slide").naming
    assert naming.candidates[0].spec.designation.startswith("13/16-9 Acme")


def test_a_turn_miscounted_is_thought_of_and_asked_about(hand):
    h = hand().state("cross_slide", seen_gauge="29")
    h.read("cross_slide", "which_thread", "turns", "1.1250 in")  # nine turns of an eighth counted for ten
    h.read("cross_slide", "which_thread", "crests", "1.2500 in").read(
        "cross_slide", "which_thread", "major", "0.7470 in"
    )
    naming = h.case("cross_slide").naming
    assert naming.candidates[0].spec.designation.startswith("3/4-8 Acme")
    assert "it was 9 turns, and 10 were counted" in naming.miscount()


def test_a_gauge_of_29_degrees_never_yields_a_thread_of_60(hand):
    h = hand().state("cross_slide", seen_gauge="29", seen_pitch_mm="8 tpi")
    h.read("cross_slide", "which_thread", "major", "0.9980 in")
    angles = {2 * math.degrees(c.spec.form.half_angle) for c in h.case("cross_slide").naming.candidates}
    assert max(angles) < 55


def test_will_it_fit_is_answered_from_the_readings_before_a_thread_is_named(hand):
    h = hand()
    case = h.case("cross_slide")
    assert case.thread_there is None
    h.state("cross_slide", seen_pitch_mm="10 tpi", seen_gauge="29")
    h.read("cross_slide", "which_thread", "major", "0.4970 in")
    there = h.case("cross_slide").thread_there
    assert there.spec.designation.startswith("1/2-10 Acme")


# forces -------------------------------------------------------------------------------------------


def test_forces_are_typed_in_pounds_newtons_or_tons(hand):
    h = hand("drill").state("spindle", pull_n="15 lbf")
    assert h.case("spindle").subject.pull_n == pytest.approx(66.7, abs=0.1)
    h.state("spindle", pull_n="15")  # bare, in an inch shop
    assert h.case("spindle").subject.pull_n == pytest.approx(66.7, abs=0.1)
    from trebb.core.stating import card_schema

    press = card_schema().fact("press_kn")
    assert press.typed("20 tons", UnitSystem.INCH) == pytest.approx(177.9, abs=0.1)
    assert press.typed("20", METRIC) == 20.0
    assert press.typed("5 t", METRIC) == pytest.approx(49.0, abs=0.1)


# a thread unlike the old ---------------------------------------------------------------------------


def test_a_new_thread_unlike_the_old_is_set_without_renaming_the_screw_that_was_surveyed(hand):
    h = hand().state("cross_slide", form="Acme", major_mm="0.75 in", pitch_mm="8 tpi", reads="radius")
    for k in range(1, 6):
        h.read("cross_slide", "lash", f"station {k}", 14, 15)
    case, system = h.case("cross_slide"), UnitSystem.INCH
    before = (case.drive.thread, thou(h.figure("cross_slide", "lash").value))
    h.frame.go_to("parts")
    QApplication.processEvents()
    field = h.window.findChild(LengthEdit, "make_pitch_mm")
    QTest.keyClicks(field, "10 tpi")
    QTest.keyClick(field, Qt.Key.Key_Return)
    h.state("cross_slide", make_hand="right")
    assert (case.drive.thread, thou(h.figure("cross_slide", "lash").value)) == before
    for part in ("screw", "nut"):
        assert "3/4-10 Acme" in case.part(part, system).title
    said = " ".join(c.sentence for c in case.part("screw", system).checks)
    assert "the old nut does not go on it" in said
    assert "A turn moves it 0.1 in, before 0.125 in: the dial no longer reads true" in said
    assert case.passes(case.scheme)[-1].cross_mm < 1.7  # a thread of 10; one of 8 is 1.84 deep
    h.session.record(RemedyChosen(assembly="cross_slide", remedy="split_nut", reason=""))
    assert "3/4-8 Acme" in case.part("nut", system).title  # a nut alone goes on the old screw
