"""A short run of what `make calibrate` prints at length; the simulators know nothing of the model."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest

from tests.independent.advice import FAMILIES, by_advice, minutes_against_best
from tests.independent.beds import score_beds
from tests.independent.bores import score_bores
from tests.independent.enough import advised_on_screws
from tests.independent.gears import score_gears
from tests.independent.gibs import recognised, score_gibs
from tests.independent.instruments import reading
from tests.independent.screws import score_screws
from tests.independent.shafts import score_shafts
from tests.independent.spindles import score_spindles
from tests.independent.threads import score_threads
from tests.independent.work import score_choice, score_heads, score_spindles_work, score_work

FORBIDDEN = (
    "trebb.core.survey",
    "trebb.core.machine",
    "trebb.core.practice",
    "trebb.core.condition",
    "trebb.core.families",
)


def test_no_simulator_imports_the_product_s_model():
    for path in Path(__file__).parent.glob("*.py"):
        for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
            names = (
                [alias.name for alias in node.names]
                if isinstance(node, ast.Import)
                else [node.module or ""]
                if isinstance(node, ast.ImportFrom)
                else []
            )
            assert not any(name.startswith(FORBIDDEN) for name in names), path


@pytest.mark.parametrize(
    "run",
    [
        lambda seeds: score_screws(seeds),
        lambda seeds: score_screws(seeds, only=("lash",)),
        lambda seeds: score_spindles(seeds),
        lambda seeds: score_spindles(seeds, only=("test_bar",), seatings=2),
        lambda seeds: score_beds(seeds),
        lambda seeds: score_beds(seeds, only=("two_collar", "level_across")),
        lambda seeds: score_gibs(seeds),
        lambda seeds: score_shafts(seeds),
        lambda seeds: score_bores(seeds),
        lambda seeds: score_gears(seeds),
    ],
    ids=[
        "screws",
        "lash alone",
        "spindles",
        "two seatings",
        "beds",
        "lands and level",
        "gibs",
        "shafts",
        "bores",
        "gears",
    ],
)
def test_intervals_hold_and_verdicts_are_right_on_machines_of_another_making(run):
    score = run(range(40))
    assert score.share("cover") >= 0.88  # of 40 machines; the long run asks for 0.90 to 0.99
    assert score.share("state") >= 0.92
    assert score.hits["sure and wrong"] <= 0.02 * max(score.tries["sure and wrong"], 50)
    if score.tries["cause"]:
        assert score.hits["cause"] >= score.tries["cause"] - 1


@pytest.mark.parametrize(
    "run",
    [
        lambda seeds: score_screws(seeds, only=("end_float",)),
        lambda seeds: score_spindles(seeds, only=("nose", "test_bar"), seatings=1),
        lambda seeds: score_spindles(seeds, only=("push_test",)),
        lambda seeds: score_beds(seeds, only=("long_piece",)),
    ],
    ids=["end float alone", "one seating", "push test alone", "long piece alone"],
)
def test_with_little_read_it_rather_says_that_it_cannot_be_said(run):
    score = run(range(40))
    said = score.tries["state"]
    wrong = said - score.hits["state"]
    assert wrong <= max(1, 0.02 * score.tries["not said"])
    assert score.hits["sure and wrong"] <= 1


@pytest.mark.parametrize(
    ("bench", "least"),
    [
        ({"step_mm": 0.01}, 0.86),
        ({"sound": True}, 0.88),
        ({"step_mm": 0.0127, "slips": 0.2, "sound": True}, 0.86),
    ],
    ids=["hundredths", "half sound", "all together"],
)
@pytest.mark.parametrize(
    "run",
    [score_screws, score_spindles, score_beds, score_gibs, score_shafts, score_bores],
    ids=["screws", "spindles", "beds", "gibs", "shafts", "bores"],
)
def test_a_shop_s_own_indicators_are_believed_for_what_they_are(run, bench, least):
    with reading(**bench):
        score = run(range(30))
    assert score.share("cover") >= least
    assert score.share("state") >= 0.92
    assert score.hits["sure and wrong"] <= 0.04 * max(score.tries["sure and wrong"], 50)
    if "sound" in bench:
        assert score.share("false alarm") <= 0.04


def test_what_is_advised_of_a_screw_is_enough_and_no_more():
    found = advised_on_screws(range(20))
    assert found.tries > 30
    assert found.wrong <= 0.05


def test_a_gib_backed_off_is_recognised_and_one_at_home_is_not_accused():
    assert recognised(range(40)) >= 0.90
    assert score_gibs(range(40)).hits["false alarm"] <= 2


@pytest.mark.parametrize("miscounted", [False, True])
def test_threads_are_named_right_and_miscounts_thought_of(miscounted):
    score = score_threads(range(60), miscounted=miscounted)
    assert score.share("cause") >= 0.90
    assert score.hits["sure and wrong"] <= 1


@pytest.mark.parametrize(
    ("score", "assemblies"),
    [
        (score_screws, ("cross_slide",)),
        (score_spindles, ("spindle",)),
        (score_beds, ("headstock", "ways", "tailstock")),
        (score_gibs, ("saddle",)),
        (score_bores, ("hole",)),
    ],
    ids=["screws", "spindles", "beds", "gibs", "bores"],
)
def test_with_a_tenth_read_by_its_own_advice_it_is_hardly_ever_wrong(score, assemblies):
    found = score(range(40), played=by_advice(*assemblies))
    assert found.share("cover") >= 0.88 or not found.tries["cover"]
    wrong = found.tries["state"] - found.hits["state"]
    assert wrong <= max(1, 0.02 * found.tries["not said"])
    assert found.hits["sure and wrong"] <= 1


@pytest.mark.parametrize("family", [f for f in FAMILIES if f != "spindles"])  # whose orders take minutes
def test_what_is_advised_first_reaches_the_verdict_about_as_soon_as_the_best_order(family):
    assert minutes_against_best(family, range(12)) <= 1.25


def test_what_is_said_of_the_work_holds_and_the_least_set_mostly_does():
    """Eight lathes; the longer run is `make calibrate`."""
    score = score_work(range(8))
    assert score.said >= 8
    assert score.covered >= 0.9 * score.said
    assert score.right == score.sides
    assert score.did >= 0.75 * score.sets


@pytest.mark.parametrize("scored", [score_heads, score_spindles_work])
def test_what_heads_and_spindles_make_lies_in_what_is_said(scored):
    score = scored(range(20))
    assert score.said >= 15, score
    assert score.covered >= 0.9 * score.said, score
    assert score.right >= 0.95 * score.sides, score


def test_to_begin_with_what_is_cheap_and_may_do_costs_less_what_follows_counted():
    """Twelve lathes read as advised; the longer run is `make calibrate`."""
    score = score_choice(range(24, 36), advised=True)
    assert score.sets >= 4, score
    assert score.begun < 0.8 * score.spent, score
