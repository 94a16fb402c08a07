"""A slide on its gib and a head over its table: what readings tell of them, what is said, what repairs
leave.
"""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from trebb.core.condition import Observation, Row, draw_condition, estimate
from trebb.core.families.gib.findings import gaps_of, gib_findings, home_finding, screw_bend, slide_measures
from trebb.core.families.gib.gaps import FEELERS
from trebb.core.families.gib.subject import Slide, play, slide_model
from trebb.core.families.tram.findings import tram_findings, tram_measures
from trebb.core.families.tram.subject import Tram, tram_model
from trebb.core.families.tram.sweep import SWEEP
from trebb.core.gibs import Gaps
from trebb.core.machine import State, class_limit
from trebb.core.practice import PracticeMachine
from trebb.core.remedies import predict, remedies_of
from trebb.core.survey import PlaceReadings, observations, set_up, set_ups_of
from trebb.core.survey.contact import COLUMNS, ROWS, gib_contact_of
from trebb.core.units import UnitSystem

METRIC = UnitSystem.METRIC
SADDLE = Slide(is_saddle=True)
GIB_LIMITS = {key: class_limit("ordinary", key) for key in ("gib_play", "gib_even", "saddle_drop")}
TRAM_LIMITS = {
    key: class_limit("ordinary", key)
    for key in ("tram", "drill_tram", "travel_square", "drill_travel", "table_flat")
}
WORN = {
    "gap.thin": 0.11,
    "gap.thick": 0.13,
    "worn.left": 0.05,
    "worn.mid": 0.02,
    "worn.right": 0.0,
    "stand": -4.0,
    "drop": 0.3,
}


def knowing(model, **truth):
    return estimate(
        model, [Observation(Row({key.replace("__", "."): 1.0}, 1e-4), value) for key, value in truth.items()]
    )


def worn(slide=SADDLE, **changes):
    return knowing(
        slide_model(slide),
        **{k.replace(".", "__"): v for k, v in {**WORN, **changes}.items() if k in slide_model(slide)},
    )


def told(slide, now, **how):
    slide = replace(slide, home="yes")
    measures = {m.key: m for m in slide_measures(slide, now, GIB_LIMITS)}
    given = {"felt": None, "stand_mm": None, "contact": None, "spots": (), **how}
    return measures, {f.key: f for f in gib_findings(slide, now, measures, METRIC, **given)}


# intervals ----------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("family", "subject", "model"),
    [
        ("gib", SADDLE, slide_model(SADDLE)),
        ("tram", Tram(), tram_model(Tram())),
        ("tram", Tram("drill"), tram_model(Tram("drill"))),
    ],
)
def test_every_source_lies_inside_its_stated_interval(family, subject, model):
    hits = []
    for seed in range(150):
        truth = draw_condition(model, np.random.default_rng(seed))
        machine = PracticeMachine(subject, model, truth, seed)
        found = []
        for s in set_ups_of(family):
            if s.applies(subject):
                found += observations(
                    s,
                    subject,
                    [
                        PlaceReadings(p.key, tuple(machine.reading(s, p.key, i) for i in range(s.wanted)))
                        for p in s.places(subject)
                    ],
                )
        now = estimate(model, found)
        hits += [now.source(key).low <= truth[key] <= now.source(key).high for key in truth]
    assert 0.90 <= np.mean(hits) <= 0.99


# a slide ------------------------------------------------------------------------------------------


def test_play_is_the_gap_at_an_end_and_the_wear_where_the_slide_stands():
    now = worn()
    measures, said = told(SADDLE, now)
    assert measures["play"].value.value == pytest.approx(0.13 + 0.05, abs=2e-3)
    assert measures["even"].value.value == pytest.approx(0.05, abs=2e-3)
    assert "at the thick end, left end" in said["play"].sentence
    assert gaps_of(SADDLE, now).thin_mm == pytest.approx(0.11, abs=1e-3)


def test_a_gib_with_no_adjustment_left_is_too_thin_and_another_is_turned_in():
    _, said = told(replace(SADDLE, travel_mm=2.0), worn())
    assert "it is too thin" in said["play"].next_move
    _, said = told(replace(SADDLE, travel_mm=20.0), worn())
    assert "turns of its screw" in said["play"].next_move


def test_the_tighter_end_is_scraped():
    _, said = told(SADDLE, worn(**{"gap.thick": 0.18}))
    assert "off the thin end, where the gap is smaller" in said["taper"].next_move
    _, said = told(SADDLE, worn(**{"gap.thin": 0.18}))
    assert "off the thick end, where the gap is smaller" in said["taper"].next_move


@pytest.mark.parametrize(
    ("home", "felt", "aside"),
    [
        ("", Gaps(0.1, 0.4, 0.015), True),
        ("yes", Gaps(0.1, 0.4, 0.015), True),
        ("", Gaps(0.1, 0.12, 0.015), False),
        ("no", Gaps(0.1, 0.12, 0.015), True),
        ("yes", None, False),
    ],
)
def test_a_gib_that_was_not_home_is_known_by_what_was_said_or_felt(home, felt, aside):
    finding = home_finding(replace(SADDLE, home=home), felt)
    assert (finding is not None) == aside
    if finding is not None:
        assert "push it in" in finding.next_move or "push the gib in" in finding.next_move


def test_the_lead_screw_bends_as_a_beam_on_two_bearings():
    slide = Slide(bearing_mm=1000, apron_mm=500, screw_mm=20, is_saddle=True)
    bend = screw_bend(slide, 0.5)
    # 48·E·I·d/L³ at the middle
    assert bend.press_n == pytest.approx(48 * 207e3 * np.pi * 20**4 / 64 * 0.5 / 1000**3)
    assert screw_bend(slide, 0.0).press_n == 0
    assert screw_bend(replace(slide, apron_mm=100), 0.5).press_n > bend.press_n
    assert screw_bend(replace(slide, thread_depth_mm=0.4), 0.5).share_left == 0


def test_stand_out_blue_and_spots_are_said():
    all_blue = gib_contact_of(frozenset(range(ROWS * COLUMNS)))
    _, said = told(SADDLE, worn(), stand_mm=-4.0, contact=all_blue, spots=(2.0, 6.0))
    assert "has gone in 7.000 mm" in said["stand"].sentence
    assert said["contact"].state is State.WITHIN
    assert said["spots"].state is State.NEAR


@pytest.mark.parametrize(
    ("cells", "pattern"),
    [
        (range(0), "nothing painted"),
        (range(ROWS * COLUMNS), "all along"),
        ([r * COLUMNS + c for r in range(ROWS) for c in range(8)], "the thin end only"),
        ([r * COLUMNS + c for r in range(ROWS) for c in range(16, 24)], "the thick end only"),
        ([r * COLUMNS + c for r in range(ROWS) for c in range(9, 15)], "the middle only"),
        ([r * COLUMNS + c for r in range(ROWS) for c in (*range(5), *range(19, 24))], "both ends"),
        ([r * COLUMNS + c for r in range(3) for c in range(COLUMNS)], "one edge"),
        ([r * COLUMNS + c for r in range(ROWS) for c in range(0, COLUMNS, 4)], "patches"),
    ],
)
def test_where_a_gib_bears_has_a_name_and_a_meaning(cells, pattern):
    found = gib_contact_of(frozenset(cells))
    assert found.pattern == pattern
    assert found.meaning


@pytest.mark.parametrize(
    ("key", "play_left", "even_left"),
    [("tighten", 0.086, 0.05), ("line", 0.065, 0.05), ("new", 0.065, 0.05), ("scrape", 0.017, 0.0)],
)
def test_what_a_gib_s_repair_leaves(key, play_left, even_left):
    prediction = next(predict(r, SADDLE, worn()) for r in remedies_of("gib") if r.key == key)
    assert prediction.measures["play"].value == pytest.approx(play_left, abs=0.012)
    assert prediction.measures["even"].value == pytest.approx(even_left, abs=0.008)


def test_only_lining_the_saddle_up_brings_its_height_back():
    by_key = {
        r.key: predict(r, SADDLE, worn()).measures["drop"].value
        for r in remedies_of("gib")
        if r.applies(SADDLE)
    }
    assert by_key["lift"] < 0.06 < 0.25 < by_key["scrape"]
    assert not next(r for r in remedies_of("gib") if r.key == "lift").applies(Slide())


def test_a_gib_is_never_turned_in_further_than_its_screw_goes():
    short = replace(SADDLE, travel_mm=1.2)
    then = next(predict(r, short, worn(short)) for r in remedies_of("gib") if r.key == "tighten")
    closed = (
        worn(short).combination(play("thin", "mid")).value - then.after.combination(play("thin", "mid")).value
    )
    assert closed == pytest.approx(1.2 / 60, abs=1e-3)


def test_a_simulated_gib_leans_until_it_is_pushed_home():
    condition = {**WORN, "stopped": 1.0}
    for home, lean in (("", True), ("no", True), ("yes", False)):
        machine = PracticeMachine(replace(SADDLE, home=home), slide_model(SADDLE), condition, 5)
        thin, thick = (machine.exact(FEELERS, f"{end} end") for end in ("thin", "thick"))
        assert (thick - thin > 0.15) == lean


def test_a_blade_too_thick_to_be_a_gap_is_refused():
    assert "no gib is that loose" in FEELERS.refusal(SADDLE, "thin end", 2.0, METRIC)
    assert "a whole number" in set_up("spots").refusal(SADDLE, "spots, middle", 4.5, METRIC)


# a head -------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", ["mill", "drill"])
def test_a_lean_is_named_by_its_side_and_what_to_do(kind):
    tram = Tram(kind)
    now = knowing(tram_model(tram), tilt_x=0.4, tilt_y=-0.3, travel_x=0.01, travel_y=0.01, sag=0.01)
    measures = {m.key: m for m in tram_measures(tram, now, TRAM_LIMITS)}
    said = {f.key: f for f in tram_findings(tram, now, measures, METRIC)}
    assert measures["tram_x"].value.value == pytest.approx(0.12, abs=1e-3)
    assert "to the right by" in said["tram_x"].sentence
    assert "to the front by" in said["tram_y"].sentence
    assert ("head" in said["tram_x"].sentence) == (kind == "mill")
    assert "run_out" not in said


def test_a_drooping_table_drops_to_the_front():
    tram = Tram()
    now = knowing(tram_model(tram), droop=0.1)
    measures = {m.key: m for m in tram_measures(tram, now, TRAM_LIMITS)}
    assert "drops to the front" in tram_findings(tram, now, measures, METRIC)[0].sentence
    far = {
        corner: SWEEP.row(tram, f"far, {corner}").coefficients.get("droop", 0.0)
        for corner in ("front", "back")
    }
    assert far["front"] < 0 < far["back"]


@pytest.mark.parametrize(
    ("kind", "key", "cured"),
    [
        ("mill", "set", "tram_x"),
        ("mill", "knee", "run_out"),
        ("drill", "swing", "tram_x"),
        ("drill", "shim", "square_x"),
    ],
)
def test_what_setting_a_head_leaves(kind, key, cured):
    tram = Tram(kind)
    now = knowing(
        tram_model(tram),
        tilt_x=0.5,
        tilt_y=0.3,
        travel_x=0.3,
        travel_y=0.2,
        **({"droop": 0.2} if kind == "mill" else {}),
    )
    by_key = {r.key: predict(r, tram, now) for r in remedies_of("tram") if r.applies(tram)}
    assert by_key[key].measures[cured].value < 0.2 * by_key["leave"].measures[cured].value


@pytest.mark.parametrize(
    ("changes", "pattern"),
    [
        ({"gap.thick": 0.15}, "the thin end only"),
        ({"gap.thin": 0.17}, "the thick end only"),
        ({"gap.thick": 0.111}, "all along"),
    ],
)
def test_blue_rubs_a_simulated_gib_where_its_gap_is_smallest(changes, pattern):
    assert (
        gib_contact_of(PracticeMachine(SADDLE, slide_model(SADDLE), {**WORN, **changes}, 3).contact()).pattern
        == pattern
    )


def test_ends_that_droop_and_a_column_that_leans_are_told_from_the_head():
    for kind, truth, key, said in (
        ("mill", {"ends_x": 0.08}, "ends_x", "the table tips up under the spindle by"),
        ("mill", {"ends_x": -0.08}, "ends_x", "the table goes down under the spindle by"),
        ("drill", {"column_x": -0.5}, "column_x", "The column leans to the left"),
    ):
        tram = Tram(kind)
        now = knowing(tram_model(tram), tilt_x=0.0, tilt_y=0.0, **truth)
        measures = {m.key: m for m in tram_measures(tram, now, TRAM_LIMITS)}
        said_of = {f.key: f for f in tram_findings(tram, now, measures, METRIC)}
        assert said_of[key].state is State.BEYOND
        if key == "ends_x":  # a table whose ends droop lifts there: the face is high in the middle
            assert ("crowned" if truth[key] > 0 else "hollow") in said_of[key].next_move
        assert said in said_of[key].sentence
        assert {s.key for s in set_ups_of("tram") if s.applies(tram)} == {
            "tram_sweep",
            "square",
            "table_top",
            *(("travel", "table_edges") if kind == "mill" else ("column",)),
        }
