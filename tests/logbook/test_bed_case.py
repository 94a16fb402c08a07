"""Four assemblies of one lathe in space: what they share, what sets readings aside, shims logged and undone,
repairs made together.
"""

from __future__ import annotations

import pytest

from trebb.app.shell.walk import choose_least_work, cut_parts, fit_together
from trebb.core.errors import InputError
from trebb.core.families.bed.facts import shim_from
from trebb.core.machine import State
from trebb.core.stating import schema_of
from trebb.core.units import UnitSystem
from trebb.logbook.cases.verdict import proof_verdict
from trebb.logbook.demo.machines import LATHE_BED
from trebb.logbook.exchange.readings_csv import readings_from_csv, readings_to_csv
from trebb.logbook.log.entries import ReadingStruck, RemedyChosen, Undone

METRIC = UnitSystem.METRIC
FOUR = ("stand", "ways", "headstock", "tailstock")


# facts --------------------------------------------------------------------------------------------


SHIMS = schema_of("ways").fact("stock_mm")


@pytest.mark.parametrize(
    ("text", "system", "found"),
    [
        ("0.05 0.1, 0.5", UnitSystem.METRIC, (0.05, 0.1, 0.5)),
        ("2 5 thou", UnitSystem.METRIC, (0.0508, 0.127)),
        ("5 2", UnitSystem.INCH, (0.0508, 0.127)),
        ("50 µm", UnitSystem.METRIC, (0.05,)),
        ("0,1;0,1 mm", UnitSystem.INCH, (0.1,)),
    ],
)
def test_shims_at_hand_are_a_list_with_or_without_a_unit(text, system, found):
    assert SHIMS.admitted(SHIMS.typed(text, system)) == pytest.approx(found)


@pytest.mark.parametrize("text", ["", "0", "9 mm", "-0.1"])
def test_shims_that_are_none_are_refused(text):
    with pytest.raises(InputError):
        SHIMS.typed(text, UnitSystem.METRIC)


def test_a_logged_shim_names_a_foot_there_is():
    assert shim_from("tail_front -0.10") == ("tail_front", -0.10)
    with pytest.raises(InputError, match="the feet are tail_front"):
        shim_from("middle 0.1")


def test_facts_make_the_bed_in_the_order_of_its_shims():
    bed = schema_of("ways").subject(
        "lathe",
        "ways",
        {
            "base_mm": 200.0,
            "steps": 6.0,
            "shim.10": "tail_rear 0.02",
            "shim.2": "tail_front 0.05",
            "stock_mm": "0.1 0.2",
        },
    )
    assert bed.shims == (("tail_front", 0.05), ("tail_rear", 0.02))
    assert (bed.steps, bed.stock_mm, bed.base_mm) == (6, (0.1, 0.2), 200.0)


# one condition ------------------------------------------------------------------------------------


def test_the_four_share_one_condition_and_each_has_its_own_measures(machine):
    lathe = machine().take(*FOUR)
    assert len({id(lathe.of(a).estimate) for a in FOUR}) == 1
    shown = {a: {m.key for m in lathe.of(a).figures} for a in FOUR}
    assert "twist" in shown["ways"]
    assert "taper" in shown["headstock"]
    assert shown["tailstock"] >= {"tail_side", "tail_high", "tail_wander", "tail_key"}
    assert shown["stand"] == {"soft_foot", "stand_flex"}


def test_what_was_planted_is_found(machine):
    now = machine().take(*FOUR).of("ways").estimate
    for key in ("twist", "tail_side", "tail_high", "front.2", "foot.tail_rear", "tail_key", "cross"):
        q = now.source(key)
        assert q.low - q.half_width <= LATHE_BED[key] <= q.high + q.half_width, key


def test_the_level_across_changes_what_the_headstock_says(machine):
    lathe = machine()
    lathe.record(
        *[ReadingStruck(reading=r.id, reason="test") for r in lathe.job.readings("ways", "level_across")]
    )
    lathe.take("headstock")
    before = lathe.of("headstock").findings(METRIC)[0]
    lathe.take("ways")
    after = lathe.of("headstock").findings(METRIC)[0]
    assert "not told apart yet" in before.next_move
    assert "shim the feet" in after.next_move


def test_a_reading_of_the_cross_slide_works_nothing_out_again(machine):
    lathe = machine().take("ways")
    before = lathe.of("ways").estimate
    lathe.read("cross_slide", "lash", "station 1", 30.0)
    assert lathe.of("headstock").estimate is before
    lathe.read("tailstock", "tail_key", "key", 0.1)
    assert lathe.of("headstock").estimate is not before


# trust --------------------------------------------------------------------------------------------


def test_the_test_bar_counts_only_where_the_spindle_s_survey_says_that_it_repeats(machine):
    lathe = machine()
    lathe.take("headstock")
    head = lathe.of("headstock")
    assert "was not tried" in head.distrusted("before")["bar_sweep"]
    assert any("Carriage along a test bar" in words for words in head.set_aside())
    lathe.take("spindle")
    assert "does not repeat" in head.distrusted("before")["bar_sweep"]
    assert "The test bar's sweep is set aside." in [f.sentence for f in head.findings(METRIC)]
    sound = machine("mill")
    assert sound.of("spindle").distrusted("before") == {}


def test_a_bar_set_aside_does_not_move_the_headstock_found(machine):
    lathe = machine().take("ways", "headstock")
    now = lathe.of("headstock").estimate.source("pitch")
    prior = lathe.of("headstock").before_any.source("pitch")
    assert now.sd == pytest.approx(prior.sd, rel=0.05)


def test_lands_exchanged_are_asked_about(machine):
    lathe = machine()
    lathe.record(
        *[ReadingStruck(reading=r.id, reason="test") for r in lathe.job.readings("headstock", "two_collar")]
    )
    lathe.take("ways")
    lathe.read("headstock", "facing", "rim past the centre", 0.0)
    told = lathe.of("headstock").foretold_cut(0)
    lathe.read("headstock", "two_collar", "cut, near land", *[30.0 + told.value] * 3)
    lathe.read("headstock", "two_collar", "cut, far land", *[30.0] * 3)
    found = {f.key: f for f in lathe.of("headstock").findings(METRIC)}
    assert ("exchanged" in found) == (abs(told.value) > 2 * told.sd)


# shims --------------------------------------------------------------------------------------------


def test_following_the_shims_makes_the_demo_lathe_parallel_and_its_answer_is_learned(machine):
    lathe = machine().take("ways", "headstock")
    head = lathe.of("headstock")
    for number in (1, 2):
        advice = head.advice()
        if advice.is_done:
            break
        told = advice.next
        lathe.shim(number, advice.foot, advice.mm)
        lathe.take("headstock")
        cut = head.cuts()[-1]
        assert cut.number == number
        assert told.low - 0.004 <= cut.difference_mm <= told.high + 0.004
    assert head.advice().is_done
    assert abs(head.cuts()[-1].difference_mm) < head.advice().limit_mm
    assert head.estimate.source("answer").value == pytest.approx(LATHE_BED["answer"], abs=0.12)


def test_a_shim_on_the_wrong_foot_is_recognised_and_logging_it_there_mends_it(machine):
    lathe = machine().take("ways", "headstock")
    head = lathe.of("headstock")
    right = head.advice()
    lathe.shim(1, right.foot, right.mm)  # where it really lies
    lathe.take("headstock")
    other = {"tail_front": "tail_rear", "tail_rear": "tail_front"}[right.foot]
    lathe.shim(1, other, right.mm)  # where it is said to lie
    assert head.wrong_foot() == 1
    assert head.findings(METRIC)[0].key == "wrong_foot"
    lathe.shim(1, right.foot, right.mm)
    assert head.wrong_foot() is None


def test_an_undone_shim_is_out_again_and_its_cuts_say_why_they_do_not_count(machine):
    lathe = machine().take("ways", "headstock")
    head = lathe.of("headstock")
    entry = lathe.shim(1, "tail_rear", 0.08)[0]
    lathe.take("headstock")
    assert len(head.subject.shims) == 1
    lathe.record(Undone(gesture_id=entry.gesture))
    assert head.subject.shims == ()
    assert any("not read this way as things are stated now" in words for words in head.set_aside())


def test_lands_exchanged_after_a_shim_are_seen_at_the_ladder_s_cut(machine):
    lathe = machine().take("ways", "headstock")
    head = lathe.of("headstock")
    lathe.shim(1, "tail_rear", 0.02)
    told = head.foretold_cut(1)
    lathe.read("headstock", "trials", "trial 1, near land", *[29.0 + told.value] * 3)
    lathe.read("headstock", "trials", "trial 1, far land", *[29.0] * 3)
    assert head.exchanged().number == 1
    assert head.findings(METRIC)[0].key == "exchanged"
    assert "Measure both lands again" in head.findings(METRIC)[0].next_move


# repairs ------------------------------------------------------------------------------------------


def test_what_is_done_to_one_shows_at_the_others(machine):
    lathe = machine().take(*FOUR)
    head = lathe.of("headstock")
    before = next(p for r, p in head.predictions() if r.key == "leave").measures["taper"].value
    lathe.record(RemedyChosen(assembly="ways", remedy="scrape", reason=""))
    after = next(p for r, p in head.predictions() if r.key == "leave").measures
    assert after["taper"].value < 0.6 * before
    assert after["way_wear"].value < 0.02


def test_the_lathe_goes_from_survey_to_proof(machine):
    lathe = machine().take(*FOUR)
    was = {a: {m.key: m.value.value for m in lathe.of(a).figures} for a in FOUR}
    for assembly, remedy in (
        ("stand", "feet"),
        ("ways", "scrape"),
        ("headstock", "level_over"),
        ("tailstock", "all"),
    ):
        lathe.record(RemedyChosen(assembly=assembly, remedy=remedy, reason="test"))
        cut_parts(lathe.of(assembly), lathe.record)
        fit_together(lathe.of(assembly), lathe.record)
    lathe.take(*FOUR, phase="after")
    for assembly in FOUR:
        case = lathe.of(assembly)
        assert case.proof_estimate.readings
        for m in case.measures_of("after"):
            if m.key not in ("quill", "stand_flex", "axis_rise", "facing"):
                assert m.value.value < max(0.6 * was[assembly].get(m.key, m.value.value), m.limit.limit_mm), (
                    m.key
                )
        assert proof_verdict(case, METRIC)[0] in ("within", "near", "beyond", "soft")
        rows = case.comparisons()
        assert rows
        judged = [r.as_predicted for r in rows if r.as_predicted is not None]
        assert sum(judged) >= 0.6 * len(judged), assembly
    assert lathe.of("ways").figure_now().state in (State.WITHIN, State.NEAR)
    assert lathe.of("tailstock").figure_now().key in {
        m.key for m in lathe.of("tailstock").measures_of("after")
    }


def test_shims_tried_stay_under_the_feet_when_the_work_is_proven(machine):
    lathe = machine().take("ways", "headstock")
    head = lathe.of("headstock")
    advice = head.advice()
    lathe.shim(1, advice.foot, advice.mm)
    lathe.take("headstock")
    lathe.record(RemedyChosen(assembly="headstock", remedy="shim", reason=""))
    lathe.take("ways", "headstock", phase="after")
    proof = {m.key: m for m in head.measures_of("after")}
    assert (
        proof["taper"].value.value
        < 0.35 * {m.key: m for m in head.measures_of("before")}["taper"].value.value
    )


def test_every_part_of_every_remedy_can_be_drawn_and_made(machine):
    lathe = machine().take(*FOUR)
    for assembly in FOUR:
        case = lathe.of(assembly)
        for remedy, _ in case.predictions():
            for key in remedy.parts:
                assert case.part(key, METRIC).rows
                assert case.route(key)


def test_the_advised_remedy_is_one_that_could_be_chosen(machine):
    lathe = machine().take(*FOUR)
    for assembly in FOUR:
        assert choose_least_work(lathe.of(assembly), lathe.record, "test") == lathe.of(assembly).chosen.key


def test_suggestions_settle_and_name_what_they_settle(machine):
    lathe = machine()
    for assembly in FOUR:
        case = lathe.of(assembly)
        best = case.suggestions()
        assert best
        assert case.reason(best[0], METRIC)
        assert case.lot_of(best[0].key)[1].title
    assert sum(s.key.startswith("centres/tight") for s in lathe.of("tailstock").suggestions()) <= 1


@pytest.mark.parametrize("assembly", ["ways", "saddle"])
def test_slopes_and_counts_come_back_from_csv_as_they_went(machine, assembly):
    lathe = machine().take(assembly)
    again = readings_from_csv(readings_to_csv(lathe.job), lathe.cases).readings
    went = [r.taken for r in lathe.job.all_readings() if r.taken.assembly == assembly and r.struck is None]
    again = [r for r in again if r.assembly == assembly]
    assert [(r.set_up, r.place, r.unit) for r in again] == [(r.set_up, r.place, r.unit) for r in went]
    assert [r.value for r in again] == pytest.approx([r.value for r in went], abs=1e-6)


def test_with_shims_in_pictures_predictions_and_the_list_show_the_machine_as_it_stands(machine):
    lathe = machine().take("ways", "headstock")
    head = lathe.of("headstock")
    before = head.judged.value.value
    advice = head.advice()
    lathe.shim(1, advice.foot, advice.mm)
    lathe.take("headstock")
    assert abs(head.shape().work[-1]) < 0.3 * before
    assert next(p for r, p in head.predictions() if r.key == "leave").measures["taper"].value < 0.3 * before
    assert {m.key: m for m in head.figures}["taper"].value.value == pytest.approx(before, rel=0.15)
    taper = next(f for f in head.findings(METRIC) if f.key == "taper")
    assert taper.state is State.WITHIN
    assert taper.sentence.startswith("With the shims in")
    assert "Leave the feet." in taper.next_move


def test_a_test_bar_is_not_offered_while_its_seat_is_not_trusted(machine):
    lathe = machine()
    assert not any(s.key.startswith("bar_sweep") for s in lathe.of("headstock").suggestions())
    assert "bar_sweep" in lathe.of("headstock").distrusted("before")


def test_a_level_taken_with_a_shim_in_knows_it_and_counts(machine):
    lathe = machine().take("ways")
    ways = lathe.of("ways")
    before, answer = (ways.estimate.source(key) for key in ("twist", "answer"))
    # A bed that answers in full: 0.2 mm under a foot of two 320 mm apart rolls that end by 0.2/320.
    entry = lathe.shim(1, "tail_rear", 0.20)[0]
    rolled = 1000 * 0.20 / ways.subject.across_mm
    for k, x in enumerate(ways.subject.stations):
        place = f"across, station {k}"
        was = [v for p in ways.known_at("level_across", "before") for v in p.values if p.place == place]
        shown = round(sum(was) / len(was) + rolled * x / ways.subject.along_mm, 3)
        lathe.read("ways", "level_across", place, shown, shown)
    assert ways.set_aside() == []
    assert ways.estimate.source("twist").value == pytest.approx(before.value, abs=0.02)
    now = ways.estimate.source("answer")
    assert now.sd < 0.5 * answer.sd
    assert now.value == pytest.approx(1.0, abs=3 * now.sd)
    lathe.record(Undone(gesture_id=entry.gesture))
    assert ways.estimate.source("twist").value != pytest.approx(before.value, abs=0.02)


def test_the_sheet_s_shares_of_the_taper_have_their_doubt_and_add_up(machine):
    lathe = machine().take("ways", "headstock")
    head = lathe.of("headstock")
    causes = {
        name: q for name, q in head.shares() if name.endswith("in 300 mm") and name != "taper in 300 mm"
    }
    assert set(causes) == {
        "twist, in 300 mm",
        "wear, in 300 mm",
        "side bend, in 300 mm",
        "headstock, in 300 mm",
    }
    assert all(q.sd > 1e-4 for q in causes.values())
    assert abs(sum(q.value for q in causes.values())) == pytest.approx(
        next(m.value.value for m in head.figures if m.key == "taper"), abs=0.004
    )
