"""Practice machines: codes, conditions drawn, set-ups that lie, scores."""

from __future__ import annotations

import math

import numpy as np
import pytest

from trebb.core.condition.draws import draw
from trebb.core.errors import InputError
from trebb.core.practice.ground_records import GROUNDS, NOTHING, ground
from trebb.core.practice.grounds import chief, exact, is_told, planted, sound_condition
from trebb.core.practice.lies import LIES, PREPARATIONS, lie, lying, preparations_of
from trebb.core.practice.piece import LEVELS, MOST_NUMBER, code_of, drawn, piece_as, piece_from, read_code
from trebb.core.practice.scoring import (
    DAMAGE,
    Score,
    hint_points,
    minutes_points,
    money_points,
    quadratic_loss,
    verdict_points,
    weakest,
)
from trebb.core.survey import all_set_ups
from trebb.logbook.cases.casework import Cases
from trebb.logbook.log.fold import Job
from trebb.logbook.practice.begun import as_entries, beginning, limits_of

CAUSES = ("nut", "wear", "float", NOTHING)


def case_of(piece):
    """The case of a piece just begun."""
    job, first = Job(), 1
    for gesture in beginning(piece):
        for entry in as_entries(gesture, first):
            job.apply(entry)
        first += len(gesture)
    return Cases(job).of(piece.ground.assembly)


# codes ----------------------------------------------------------------------------------------


def test_a_code_is_read_back_for_every_level_and_many_numbers():
    for level in LEVELS:
        for number in (0, 1, 31, 32, 1023, MOST_NUMBER - 1):
            assert read_code(code_of(level, number).lower()) == (level, number)


def test_one_letter_misread_is_noticed():
    code = code_of(2, 777)
    wrong = [code[:i] + c + code[i + 1 :] for i in (2, 3, 4) for c in "ABCDEFGH" if c != code[i]]
    noticed = 0
    for other in wrong:
        with pytest.raises(InputError, match="misread"):
            read_code(other)
        noticed += 1
    assert noticed == len(wrong)


@pytest.mark.parametrize("text", ["", "5-AAAA", "2AAAA", "2-AAA", "2-AA0I", "two-ABCD"])
def test_a_code_that_is_none_is_refused_with_what_one_is(text):
    with pytest.raises(InputError, match="level from 1 to 4"):
        read_code(text)


def test_the_same_code_is_the_same_machine_and_another_is_not():
    one, same, other = drawn(2, 40), drawn(2, 40), drawn(2, 50)
    assert piece_as(one) == piece_as(same)
    assert piece_as(one) != piece_as(other)


def test_a_ground_wished_for_is_drawn():
    for key in GROUNDS:
        assert drawn(1, 3, key).ground.key == key


# what is drawn --------------------------------------------------------------------------------


@pytest.mark.parametrize("key", list(GROUNDS))
def test_a_sound_machine_has_nothing_beyond_and_a_planted_cause_comes_to_its_size(key):
    on = ground(key)
    case = case_of(drawn(1, 5, key))
    subject, model, limits = case.subject_for("before"), case.model_for("before"), limits_of(case, on)
    rng = np.random.default_rng(9)
    sound = sound_condition(on, subject, model, limits, rng)
    assert chief(on, subject, sound, limits) == NOTHING
    for cause in on.causes:
        hurt = planted(on, subject, sound, limits, cause, 2.5, rng)
        share = cause.share(subject, {k: np.array([v]) for k, v in hurt.items()}, limits)[0]
        assert share == pytest.approx(2.5, abs=0.01)
        assert chief(on, subject, hurt, limits) == cause.key
        assert all(hurt[s.key] >= 0 for s in model.sources if s.is_clearance)


def test_levels_plant_what_they_say():
    for number in range(40):
        assert len(drawn(1, number).causes) <= 1
        assert len(drawn(2, number).causes) == 2
        assert drawn(3, number).lies
        four = drawn(4, number)
        assert len(four.causes) == 2
        assert four.minutes > 0
        assert four.money > 0
        for key in four.lies:
            assert four.ground.family in lie(key).families


def test_what_nobody_read_is_told_of_nothing():
    on = ground("saddle")
    case = case_of(drawn(1, 4, "saddle"))
    limits, subject = limits_of(case, on), case.subject_for("before")
    unread = draw(case.alone)
    assert not is_told({c.key: c.share(subject, unread, limits) for c in on.causes})
    known = draw(exact(case.model_for("before"), case.planted().condition))
    assert is_told({c.key: c.share(subject, known, limits) for c in on.causes})


# lies -----------------------------------------------------------------------------------------


def test_every_lie_is_cured_at_every_set_up_that_it_touches():
    keys = {s.key for s in all_set_ups()}
    for one in LIES.values():
        assert set(one.set_ups) <= keys
        for set_up in one.set_ups:
            assert one.cured_by in {p.key for p in preparations_of(set_up)}
    for p in PREPARATIONS.values():
        assert set(p.set_ups) <= keys


def test_a_preparation_puts_its_lie_right_and_no_other():
    both = {"gib_not_home": 3.0, "coarse": 0.01}
    assert {x.lie.key for x in lying(both)} == set(both)
    assert {x.lie.key for x in lying(both, frozenset({"push_home"}))} == {"coarse"}


def test_a_coarse_indicator_shows_whole_steps_and_a_turn_too_many_stretches_the_lead():
    coarse = LIES["coarse"]
    assert coarse.raw(None, 0.0138, 0.01) == pytest.approx(0.01)
    assert coarse.raw(None, 0.0151, 0.01) == pytest.approx(0.02)
    case = case_of(drawn(1, 0, "cross_screw"))
    subject = case.subject_for("before")
    true = subject.turns * subject.thread.lead_mm
    assert LIES["miscounted"].raw(subject, true, 1.0) == pytest.approx(true + subject.thread.lead_mm)


# a piece as text ------------------------------------------------------------------------------

GOOD = {"format": 1, "title": "x", "ground": "saddle", "causes": {"gib": 2.0}, "lies": {"gib_not_home": 3}}


def test_a_piece_is_read_back_from_what_it_says_of_itself():
    piece = piece_from(
        {**GOOD, "budget": {"minutes": 30}, "teaching": {"trap": "t"}, "offer": {"words": "w"}}
    )
    assert piece_as(piece_from(piece_as(piece))) == piece_as(piece)
    assert piece.trap == "t"
    assert piece.minutes == 30


@pytest.mark.parametrize(
    ("change", "names"),
    [
        ({"ground": "boat"}, "boat"),
        ({"causes": {"taper": 2.0}}, "taper"),
        ({"causes": {"gib": -1}}, "gib"),
        ({"causes": {"gib": math.inf}}, "number"),
        ({"causes": {"gib": "much"}}, "number"),
        ({"lies": {"miscounted": 1}}, "miscounted"),
        ({"lies": {"gib_not_home": 500}}, "gib_not_home"),
        ({"format": 9}, "format"),
        ({"colour": "red"}, "colour"),
        ({"level": 7}, "level"),
        ({"hard": True}, "bore"),
        ({"title": 5}, "title"),
        ({"budget": 3}, "budget"),
    ],
)
def test_a_piece_with_what_its_machine_cannot_have_is_refused_and_named(change, names):
    with pytest.raises(InputError, match=names):
        piece_from({**GOOD, **change})


def test_a_source_that_no_such_machine_has_is_named():
    with pytest.raises(InputError, match="propeller"):
        beginning(piece_from({**GOOD, "sources": {"propeller": 1.0}}))


# scores ---------------------------------------------------------------------------------------


def test_the_verdict_rule_is_proper():
    """Whatever one believes, saying it costs least: checked by expectation over a grid."""
    for belief in (0.5, 0.7, 0.9):
        rest = (1 - belief) / (len(CAUSES) - 1)

        def expected(sure, belief=belief, rest=rest):
            right = belief * quadratic_loss("nut", sure, "nut", CAUSES)
            return right + sum(rest * quadratic_loss("nut", sure, c, CAUSES) for c in CAUSES if c != "nut")

        grid = np.linspace(0.3, 0.99, 70)
        best = grid[int(np.argmin([expected(s) for s in grid]))]
        assert best == pytest.approx(belief, abs=0.01)


def test_sure_and_wrong_costs_most_and_a_figure_by_hand():
    assert verdict_points("nut", 0.99, "nut", CAUSES) > 39.9
    assert verdict_points("nut", 0.99, "wear", CAUSES) < -38
    assert verdict_points("nut", 0.5, "wear", CAUSES) > verdict_points("nut", 0.9, "wear", CAUSES)
    # 0.7 on the right one of four, 0.1 on each other: loss 0.09 + 3 × 0.01 = 0.12.
    assert quadratic_loss("nut", 0.7, "nut", CAUSES) == pytest.approx(0.12)


def test_minutes_and_money_by_hand():
    assert minutes_points(25, 10) == 30
    assert minutes_points(50, 10) == pytest.approx(15)
    assert money_points(90, 90, mends=True) == 30
    assert money_points(190, 90, mends=True) == pytest.approx(15)
    assert money_points(0, 90, mends=False) == 0


def test_hints_and_damage_come_off_and_nothing_goes_under_nothing():
    assert hint_points({"trust": 2, "next": 1}) == 11
    score = Score(30, 40, 30, 8, ("a tool went",), ())
    assert score.total == 100 - 8 - DAMAGE
    assert Score(0, -39, 0, 0).total == 0


def test_the_weakest_trap_goes_by_the_last_five():
    played = [("a", 10.0)] * 3 + [("a", 95.0)] * 5 + [("b", 60.0)]
    assert weakest(played) == "b"
    assert weakest([]) == ""
