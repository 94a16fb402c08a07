"""A lathe in space against the plain formulas, and against physical sense: signs, limits, what a change of
one thing does.
"""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from trebb.core.alignment import Feet, TwoCollar, taper_from_levels
from trebb.core.condition import Observation, Row, estimate
from trebb.core.condition.draws import draw
from trebb.core.errors import InputError
from trebb.core.families.bed.centres import wander
from trebb.core.families.bed.cuts import TRIALS, TWO_COLLAR, taper_row
from trebb.core.families.bed.findings import bed_measures, closing_findings, questions, ways_findings
from trebb.core.families.bed.headstock import headstock_findings
from trebb.core.families.bed.levels import ACROSS, ALONG, chain_results, profiles
from trebb.core.families.bed.shims import Cut, exchanged_lands, shim_advice, wrong_foot
from trebb.core.families.bed.subject import FEET, FOOT_SIGN, USUAL_BED, Bed, bed_model
from trebb.core.families.bed.tailstock import is_habit, tailstock_findings
from trebb.core.families.bed.work import bed_shape, work_error
from trebb.core.machine import class_limit
from trebb.core.remedies import predict, remedies_of
from trebb.core.survey import PlaceReadings, observations, set_ups_of
from trebb.core.units import UnitSystem

METRIC = UnitSystem.METRIC
LIMITS = {
    key: class_limit("ordinary", key)
    for key in (
        "twist",
        "straight_up",
        "straight_side",
        "way_wear",
        "taper_chuck",
        "axis_rise",
        "facing",
        "tail_side",
        "tail_high",
        "tail_wander",
        "tail_key",
        "quill",
        "soft_foot",
        "stand_flex",
    )
}

STRAIGHT = {f"{way}__{k}": 0.0 for way in ("front", "rear") for k in range(9)} | {
    f"side__{k}": 0.0 for k in range(1, 8)
}


def knowing(bed=USUAL_BED, *, alone=True, **truth):
    """An estimate, by readings alone or with what is usual, that knows these sources almost exactly."""
    return estimate(
        bed_model(bed).loosened if alone else bed_model(bed),
        [Observation(Row({key.replace("__", "."): 1.0}, 1e-4), value) for key, value in truth.items()],
    )


def cut(bed, near, far, trial=0):
    name = "cut" if trial == 0 else f"trial {trial}"
    s = TRIALS if trial else TWO_COLLAR
    return observations(
        s,
        bed,
        [PlaceReadings(f"{name}, near land", (near,) * 3), PlaceReadings(f"{name}, far land", (far,) * 3)],
    )


# the model against the formulas -------------------------------------------------------------------


def test_twist_makes_the_taper_that_levels_at_the_lands_foretell():
    bed = USUAL_BED
    row = taper_row(bed, 0)
    twist = 0.2
    near, far = (twist * (bed.nose_mm + x) / bed.along_mm for x in (bed.near_mm, bed.far_mm))
    assert row.coefficients["twist"] * twist == pytest.approx(
        taper_from_levels(near, far, bed.tool_height_mm), abs=1e-12
    )


def test_a_headstock_across_makes_twice_its_lean_on_diameter():
    collar = TwoCollar(30.0, 30.0 + 2 * 0.05e-3 * USUAL_BED.apart_mm, USUAL_BED.apart_mm)
    assert taper_row(USUAL_BED, 0).coefficients["yaw"] * collar.yaw_mrad() == pytest.approx(
        collar.difference_mm
    )


@pytest.mark.parametrize("foot", FEET)
def test_a_shim_does_to_the_cut_what_its_foot_and_the_feet_s_formula_say(foot):
    bed = replace(USUAL_BED, shims=((foot, 0.10),))
    done = taper_row(bed, 1).coefficients["answer"] - taper_row(bed, 0).coefficients.get("answer", 0.0)
    assert done == pytest.approx(-FOOT_SIGN[foot] * 0.10 * bed.feet.taper_per_shim(bed.apart_mm))
    assert (done < 0) == (foot in ("tail_front", "head_rear"))


def test_taper_per_shim_is_the_feet_s():
    feet = Feet(320, 1100, 620)
    assert USUAL_BED.feet.taper_per_shim(250) == pytest.approx(feet.taper_per_shim(250))


def test_wear_of_the_front_way_near_the_chuck_makes_the_work_larger_there():
    bed = USUAL_BED
    worn = knowing(bed, front__1=0.1, twist=0.0, yaw=0.0)
    plain = knowing(bed, front__1=0.0, twist=0.0, yaw=0.0)
    at = bed.stations[1] - bed.nose_mm
    more = worn.combination(bed.work(0.0, at)).value - plain.combination(bed.work(0.0, at)).value
    assert more > 0


def test_between_centres_the_tailstock_stands_in_for_the_headstock():
    row = USUAL_BED.work(0.0, USUAL_BED.centres_mm, between_centres=True)
    assert row["tail_side"] == pytest.approx(2.0)
    assert "yaw" not in row


def test_twist_is_what_the_bed_does_over_its_feet():
    assert USUAL_BED.roll(USUAL_BED.along_mm)["twist"] == pytest.approx(1.0)
    assert USUAL_BED.roll(0.0)["twist"] == 0.0


# bad input ----------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("changes", "said"),
    [
        ({"near_mm": 275.0, "far_mm": 25.0}, "the far land lies further from the chuck"),
        ({"shims": (("tail_front", 3.2),)}, "its bolt takes 3 mm in all"),
        ({"shims": (("tail_front", 0.1), ("tail_front", -0.2))}, "only 0.10 mm lie there"),
    ],
)
def test_what_cannot_be_under_a_foot_or_between_lands_is_refused(changes, said):
    with pytest.raises(InputError, match=said):
        replace(USUAL_BED, **changes)


def level_run(slopes, back=None):
    back = slopes if back is None else back
    return [
        PlaceReadings(f"front way, step {k}", (a, b))
        for k, (a, b) in enumerate(zip(slopes, back, strict=True), start=1)
    ]


def test_a_level_run_that_does_not_close_says_where_to_begin_again():
    found = closing_findings(
        USUAL_BED, level_run([0.0] * 8, [0.0, 0.0, 0.0, 0.30, 0.0, 0.0, 0.0, 0.0]), METRIC
    )
    assert [f.key for f in found] == ["closing.front"]
    assert "does not close" in found[0].sentence
    assert "take step 4 again" in found[0].next_move


def test_a_run_that_closes_says_nothing():
    assert closing_findings(USUAL_BED, level_run([0.1, -0.1] * 4), METRIC) == []


def test_a_station_left_out_is_named():
    found = closing_findings(
        USUAL_BED, [p for p in level_run([0.1] * 8) if not p.place.endswith("step 3")], METRIC
    )
    assert "Step 3 of the front way was left out" in found[0].sentence


def test_near_and_far_exchanged_is_seen_only_where_all_else_is_sure():
    sure, guess = knowing(twist=0.3, yaw=0.0, **STRAIGHT), knowing()
    row = taper_row(USUAL_BED, 0)
    foretold = sure.combination(row.coefficients)
    swapped = Cut(0, -foretold.value, 0.002)
    assert exchanged_lands(swapped, foretold)
    assert not exchanged_lands(Cut(0, foretold.value, 0.002), foretold)
    assert not exchanged_lands(swapped, guess.combination(row.coefficients))


# shims --------------------------------------------------------------------------------------------


def test_the_first_shim_goes_under_the_foot_that_makes_the_work_parallel():
    bed = USUAL_BED
    large_far = estimate(bed_model(bed), cut(bed, 30.0, 30.060))
    advice = shim_advice(bed, large_far, 0.020)
    assert (advice.foot, advice.mm > 0) == ("tail_front", True)
    large_near = estimate(bed_model(bed), cut(bed, 30.060, 30.0))
    assert shim_advice(bed, large_near, 0.020).foot == "tail_rear"
    assert abs(advice.next.value) < 0.25 * 0.060
    assert advice.now.value == pytest.approx(0.060, abs=0.004)


def test_a_parallel_cut_wants_no_shim():
    advice = shim_advice(USUAL_BED, estimate(bed_model(USUAL_BED), cut(USUAL_BED, 30.0, 30.001)), 0.020)
    assert advice.is_done


def test_the_bed_s_answer_is_learned_from_what_a_trial_did():
    bed = replace(USUAL_BED, shims=(("tail_front", 0.20),))
    full = 0.20 * -bed.feet.taper_per_shim(bed.apart_mm)
    for share in (0.5, 1.0):
        found = [*cut(bed, 30.0, 30.100), *cut(bed, 29.6, 29.6 + 0.100 - share * full, trial=1)]
        now = estimate(bed_model(bed), found)
        assert now.source("answer").value == pytest.approx(share, abs=0.06)
        assert now.source("answer").sd < 0.5 * bed_model(bed).source("answer").sd


def test_a_shim_too_much_comes_out_from_where_it_lies():
    bed = replace(USUAL_BED, shims=(("tail_front", 0.20),))
    now = estimate(bed_model(bed), [*cut(bed, 30.0, 30.040), *cut(bed, 29.6, 29.540, trial=1)])
    advice = shim_advice(bed, now, 0.020)
    assert advice.foot == "tail_front"
    assert -0.20 <= advice.mm < 0


def test_advice_never_asks_for_more_than_the_foot_s_bolt_takes():
    bed = replace(USUAL_BED, travel_mm=0.05)
    advice = shim_advice(bed, estimate(bed_model(bed), cut(bed, 30.0, 30.5)), 0.020)
    assert 0 < advice.mm <= 0.05 + 1e-9


@pytest.mark.parametrize(("answer", "wrong"), [(0.8, None), (0.5, None), (-0.8, 1), (-0.5, 1), (0.0, None)])
def test_a_shim_under_the_wrong_foot_is_seen_from_the_first_cut(answer, wrong):
    bed = replace(USUAL_BED, shims=(("tail_front", 0.20),))
    did = answer * 0.20 * bed.feet.taper_per_shim(bed.apart_mm)
    assert wrong_foot(bed, [Cut(0, 0.08, 0.002), Cut(1, 0.08 + did, 0.002)]) == wrong


# what is said -------------------------------------------------------------------------------------


def measured(assembly, now, bed=USUAL_BED, times=4):
    return {m.key: m for m in bed_measures(bed, assembly, now, draw(now, cut=False), LIMITS, times)}


def test_nothing_is_shown_that_was_not_read():
    nothing = estimate(bed_model(USUAL_BED), [])
    for assembly in ("ways", "headstock", "tailstock", "stand"):
        assert measured(assembly, nothing, times=0) == {}


def test_the_cut_alone_does_not_say_whether_twist_or_headstock():
    now = estimate(bed_model(USUAL_BED).loosened, cut(USUAL_BED, 30.0, 30.060))
    found = headstock_findings(
        USUAL_BED,
        now,
        measured("headstock", now),
        shim_advice(USUAL_BED, now, 0.02),
        METRIC,
    )
    assert "large at the far end" in found[0].sentence
    assert "not told apart yet" in found[0].next_move
    assert found[0].set_ups == (("Level across", "level_across"),)
    assert "next cut will read" in found[0].next_move


def test_with_the_level_the_headstock_is_named_or_the_bed():
    for truth, said in (
        ({"twist": 0.3, "yaw": 0.0}, "shim the feet"),
        ({"twist": 0.0, "yaw": 0.1}, "set the headstock over"),
    ):
        now = knowing(**truth, **STRAIGHT)
        found = headstock_findings(USUAL_BED, now, measured("headstock", now), None, METRIC)
        assert said in found[0].next_move


def test_proud_is_told_from_hollow_and_not_from_noise():
    for cross, said in (
        (0.05, "Hollow is allowed"),
        (-0.05, "Proud is not allowed"),
        (0.0, "Flat as far as"),
    ):
        now = knowing(cross=cross, yaw=0.0)
        facing = next(
            f
            for f in headstock_findings(USUAL_BED, now, measured("headstock", now), None, METRIC)
            if f.key == "facing"
        )
        assert said in facing.next_move


def test_the_foot_to_raise_is_the_low_one():
    for twist, foot in ((0.3, "tailstock end, front"), (-0.3, "tailstock end, rear")):
        now = knowing(twist=twist, **STRAIGHT)
        finding = ways_findings(USUAL_BED, now, measured("ways", now), METRIC)[0]
        assert f"raise the foot at the {foot}" in finding.next_move


def tightened(*values):
    return [PlaceReadings(f"tight {i}, front", (v,)) for i, v in enumerate(values, start=1)]


def test_a_repeated_shift_is_a_habit_and_scatter_is_a_loose_key():
    steady, loose = (
        wander(tightened(0.050, 0.051, 0.049, 0.050)),
        wander(tightened(0.050, 0.012, 0.081, 0.030)),
    )
    assert steady.mean_mm < 0.004 < 0.015 < loose.mean_mm
    assert loose.low_mm <= np.std([0.050, 0.012, 0.081, 0.030], ddof=1) <= loose.high_mm
    shifted = knowing(tail_shift=0.030, tail_side=0.05)
    assert is_habit(shifted, steady)
    assert not is_habit(shifted, loose)
    words = {
        f.key: f.next_move
        for f in tailstock_findings(USUAL_BED, shifted, measured("tailstock", shifted), steady, METRIC)
    }
    assert "A habit: tightening takes it 30 µm to the rear" in words["habit"]
    bed = replace(USUAL_BED, wander_mm=loose.mean_mm, wander_sd_mm=loose.sd_mm)
    now = knowing(bed, tail_shift=0.030, tail_side=0.05, wander=loose.mean_mm)
    assert (
        "loose key"
        in {
            f.key: f.next_move
            for f in tailstock_findings(bed, now, measured("tailstock", now, bed), loose, METRIC)
        }["wander"]
    )


def test_one_tightening_tells_nothing_of_the_wander():
    assert replace(wander(tightened(0.05)), times=0) == wander([])


# pictures' numbers --------------------------------------------------------------------------------


def test_the_work_s_error_is_the_sum_of_what_each_source_gives():
    now = knowing(twist=0.2, yaw=0.03, front__2=0.08)
    error = work_error(USUAL_BED, now, 300.0, between_centres=False)
    assert error.total[0].value == 0
    for i, total in enumerate(error.total):
        assert sum(values[i] for values in error.parts.values()) == pytest.approx(total.value, abs=2e-6)


def test_a_shape_on_the_way_is_between_both():
    straight, bent = bed_shape(USUAL_BED, knowing(twist=0.0)), bed_shape(USUAL_BED, knowing(twist=0.4))
    half = straight.toward(bent, 0.5)
    assert half.rear[-1] == pytest.approx((straight.rear[-1] + bent.rear[-1]) / 2)
    assert straight.toward(bent, 0.0) == straight
    assert bent.twist_mrad == pytest.approx(0.4, abs=1e-3)
    assert bent.rear[-1] > straight.rear[-1]
    assert bent.front[-1] < straight.front[-1]


def test_a_profile_begins_and_ends_on_nothing_whatever_the_level_s_zero():
    for zero in (0.0, 0.25):
        found, is_roll = profiles(
            "level_along", USUAL_BED, level_run([v + zero for v in (0.1, 0.0, -0.1, 0.0, 0.0, 0.0, 0.0, 0.0)])
        )
        points = found[0][1]
        assert not is_roll
        assert points[0][1] == points[-1][1] == pytest.approx(0.0)
        assert max(v for _, v in points) == pytest.approx(0.1 * USUAL_BED.base_mm / 1000)
    rolls, is_roll = profiles(
        "level_across", USUAL_BED, [PlaceReadings(f"across, station {k}", (0.02 * k,)) for k in range(5)]
    )
    assert is_roll
    assert rolls[0][1][-1][1] == pytest.approx(0.08)


def test_before_and_after_of_a_level_run_is_its_minimum_zone():
    results = chain_results({"front way": "front"})(
        USUAL_BED, level_run([0.1, 0.1, 0.1, 0.1, -0.1, -0.1, -0.1, -0.1])
    )
    assert results[0].value_mm == pytest.approx(0.4 * USUAL_BED.base_mm / 1000, rel=1e-6)
    twisted = ACROSS.results(USUAL_BED, [PlaceReadings(f"across, station {k}", (0.1 * k,)) for k in range(9)])
    assert twisted[0].value_mm == pytest.approx(0.1 / USUAL_BED.base_mm * 1000)


def test_a_reading_out_of_all_reason_is_refused_with_the_unit_in_doubt():
    assert "is the unit right?" in ALONG.refusal(USUAL_BED, "front way, step 1", 9.0, METRIC)
    assert ALONG.refusal(USUAL_BED, "front way, step 1", 0.3, METRIC) == ""
    assert "a land is from" in TWO_COLLAR.refusal(USUAL_BED, "cut, near land", 1.18, METRIC)


# remedies -----------------------------------------------------------------------------------------

WORN = {
    "twist": 0.3,
    "yaw": 0.05,
    "front__2": 0.1,
    "tail_side": 0.05,
    "tail_high": -0.05,
    "tail_key": 0.12,
    "foot__tail_rear": 0.14,
    "stand_flex": 0.08,
}


@pytest.mark.parametrize(
    ("assembly", "key", "cures"),
    [
        ("ways", "level", ("twist",)),
        ("ways", "scrape", ("twist", "way_wear", "straight_up")),
        ("headstock", "shim", ("taper",)),
        ("headstock", "set_over", ("taper",)),
        ("headstock", "level_over", ("taper", "twist")),
        ("tailstock", "set_over", ("tail_side",)),
        ("tailstock", "raise", ("tail_high",)),
        ("tailstock", "key", ("tail_key", "tail_side")),
        ("tailstock", "all", ("tail_key", "tail_side", "tail_high")),
        ("stand", "feet", ("soft_foot",)),
        ("stand", "brace", ("soft_foot", "stand_flex")),
    ],
)
def test_a_remedy_takes_away_what_it_says_and_leaving_it_changes_nothing(assembly, key, cures):
    now = knowing(**WORN, alone=False)
    by_key = {r.key: predict(r, USUAL_BED, now) for r in remedies_of(assembly)}
    for measure in cures:
        assert by_key[key].measures[measure].value < 0.5 * by_key["leave"].measures[measure].value
    assert np.array_equal(by_key["leave"].after.mean, now.mean)


def test_shimming_for_a_crooked_headstock_leaves_the_bed_twisted_and_levelling_does_not():
    now = knowing(twist=0.0, yaw=0.1, alone=False)
    by_key = {r.key: predict(r, USUAL_BED, now) for r in remedies_of("headstock")}
    assert by_key["shim"].measures["twist"].value > 0.05
    assert by_key["level_over"].measures["twist"].value < 0.03


@pytest.mark.parametrize("assembly", ["ways", "headstock", "tailstock", "stand"])
def test_every_question_of_an_assembly_is_told_by_one_of_its_set_ups(assembly):
    bed = replace(USUAL_BED, shims=(("tail_front", 0.1),))
    model = bed_model(bed)
    rows = [
        s.row(bed, p.key)
        for family in ("ways", "headstock", "tailstock", "stand")
        for s in set_ups_of(family)
        for p in s.places(bed)
    ]
    told = {key for row in rows for key in row.coefficients}
    for combination in questions(bed, assembly).values():
        assert all(key in model for key in combination)
        assert set(combination) - {"wander"} <= told


def test_a_bed_is_what_it_is_stated_to_be():
    assert Bed(base_mm=200, steps=5).stations == (0.0, 200.0, 400.0, 600.0, 800.0, 1000.0)
