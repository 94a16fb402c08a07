"""Verdicts and predictions on machines whose fault is known."""

from __future__ import annotations

import numpy as np
import pytest

from trebb.core.condition import estimate
from trebb.core.families.screw_drive.changes import made_as
from trebb.core.families.screw_drive.lash_split import split_lash
from trebb.core.families.screw_drive.screw_lash import lash_findings
from trebb.core.families.screw_drive.subject import ScrewDrive, drive_model
from trebb.core.machine import State, class_limit, state_of
from trebb.core.practice import PracticeMachine
from trebb.core.remedies import predict, remedies_of, remedy
from trebb.core.survey import PlaceReadings, observations, set_ups_of
from trebb.core.units import THOU_MM, UnitSystem
from trebb.logbook.demo.machines import PLANTED

DRIVE = ScrewDrive()
LIMIT = class_limit("ordinary", "cross_lash")
LIMITS = LIMIT, class_limit("ordinary", "lead_error")
INCH = UnitSystem.INCH


def observed(condition, *, upto: int = 5, drive: ScrewDrive = DRIVE):
    model = drive_model(drive)
    machine = PracticeMachine(drive, model, {**{s.key: 0.0 for s in model.sources}, **condition}, 11)
    found = []
    for s in set_ups_of("screw_drive")[:upto]:
        found += observations(
            s,
            drive,
            [
                PlaceReadings(p.key, tuple(machine.reading(s, p.key, i) for i in range(s.wanted)))
                for p in s.places(drive)
            ],
        )
    return found


def surveyed(condition, *, drive: ScrewDrive = DRIVE, **how):
    return estimate(drive_model(drive), observed(condition, drive=drive, **how))


def verdicts(condition, system=INCH, **how):
    found = observed(condition, **how)
    model = drive_model(DRIVE)
    return lash_findings(DRIVE, estimate(model, found), estimate(model.loosened, found), *LIMITS, system)


def sound(**changes):
    return {
        **PLANTED,
        **{f"wear.{k}": 0.0 for k in range(1, 6)},
        "nut": 0.5 * THOU_MM,
        "float": 0.5 * THOU_MM,
        **changes,
    }


def sentences(condition, **how):
    return [f.sentence for f in verdicts(condition, **how)]


def test_a_worn_screw_nut_and_thrust_are_named_with_their_figures():
    first = sentences(PLANTED)[0]
    for words in ("The screw is worn 12", "at the middle", "The dial will lie by up to", "limit 6.0 thou"):
        assert words in first.replace("11.9", "12").replace("11.8", "12").replace("12.1", "12")


def test_before_the_end_float_is_read_it_stays_with_nut_and_screw():
    said = sentences(PLANTED, upto=2)
    assert any("cannot be told apart yet" in s for s in said)
    assert not any(s.startswith("Nut:") for s in said)


def test_a_sound_machine_is_left_alone_and_said_to_be_inside():
    found = verdicts(sound())
    assert found[0].state is State.WITHIN
    assert "inside the limit" in found[0].sentence
    assert found[0].next_move.startswith("Leave it")


def test_play_smaller_than_the_instruments_is_not_shown_rather_than_none():
    assert any("not shown; less than" in s for s in sentences(sound(float=0.0)))


def test_a_screw_of_another_lead_is_found_out():
    assert any("not the 0.1250 in stated" in s for s in sentences({**PLANTED, "lead": 0.1 * 25.4}))


def test_nothing_read_gives_no_verdict():
    model = drive_model(DRIVE)
    assert lash_findings(DRIVE, estimate(model, []), estimate(model.loosened, []), *LIMITS, INCH) == []


def test_figures_follow_the_unit_system():
    said = verdicts(PLANTED, UnitSystem.METRIC)[0].sentence
    assert "µm" in said
    assert "thou" not in said


@pytest.mark.parametrize(
    ("value", "state"), [(None, State.UNKNOWN), (0.1, State.WITHIN), (0.13, State.NEAR), (0.16, State.BEYOND)]
)
def test_a_figure_stands_within_near_or_beyond(value, state):
    assert state_of(value, 0.1524) is state


def test_each_remedy_leaves_what_physics_allows():
    now = surveyed(PLANTED)
    worst = {
        r.key: predict(r, DRIVE, now).worst.value for r in remedies_of("screw_drive") if r.applies(DRIVE)
    }
    assert worst["leave"] == pytest.approx(split_lash(DRIVE, now).worst.total.value)
    assert worst["thrust"] == pytest.approx(
        worst["leave"] - now.source("float").value + 0.5 * THOU_MM, abs=0.01
    )
    assert worst["pair_thrust"] < worst["new_pair"] < worst["split_nut"] < worst["made_nut"] < worst["leave"]


def test_a_nut_leaves_the_wear_of_the_screw():
    lash = predict(remedy("made_nut"), DRIVE, surveyed(PLANTED)).lash
    spread = max(q.value for q in lash) - min(q.value for q in lash)
    # The nut spans nearly a station: it feels the mean of the wear under it, not the deepest place.
    felt = [sum(c * PLANTED[key] for key, c in DRIVE.wear_felt(k).items()) for k in range(1, 6)]
    assert spread == pytest.approx(max(felt) - min(felt), abs=1 * THOU_MM)
    assert max(felt) < max(PLANTED[f"wear.{k}"] for k in range(1, 6))


def test_a_new_pair_leaves_the_same_lash_everywhere():
    lash = predict(remedy("pair_thrust"), DRIVE, surveyed(PLANTED)).lash
    assert np.ptp([q.value for q in lash]) < 0.1 * THOU_MM


def test_the_end_float_alone_is_enough_where_it_is_all_there_is():
    now = surveyed(sound(float=9 * THOU_MM))
    assert predict(remedy("leave"), DRIVE, now).worst.value > LIMIT.limit_mm
    assert predict(remedy("thrust"), DRIVE, now).worst.high < LIMIT.limit_mm


def test_a_bought_nut_on_a_screw_never_measured_is_in_wide_doubt():
    known, unknown = surveyed(PLANTED), surveyed(PLANTED, upto=3)
    bought = remedy("bought_nut")
    assert (
        predict(bought, DRIVE, unknown).worst.half_width
        > 1.5 * predict(bought, DRIVE, known).worst.half_width
    )


@pytest.mark.parametrize(
    "r", [r for r in remedies_of("screw_drive") if r.applies(DRIVE)], ids=lambda r: r.key
)
def test_every_remedy_says_its_risk_and_its_needs(r):
    now = surveyed(PLANTED)
    words = r.risk(DRIVE, split_lash(DRIVE, now), predict(r, DRIVE, now), INCH)
    assert words.endswith(".")
    assert r.needs


def test_the_play_really_cut_takes_the_place_of_the_plan():
    plan = remedy("new_pair").change(DRIVE, surveyed(PLANTED))
    assert made_as(plan, 0.2).shifts["nut"].amount == 0.2
    assert made_as(plan, None) == plan
    thrust = remedy("thrust").change(DRIVE, surveyed(PLANTED))
    assert made_as(thrust, 0.2) == thrust


def test_a_practice_machine_repeats_itself_and_rounds_to_its_instrument():
    model = drive_model(DRIVE)
    machine = PracticeMachine(DRIVE, model, {**{s.key: 0.0 for s in model.sources}, **PLANTED}, 4)
    lash = set_ups_of("screw_drive")[0]
    assert machine.reading(lash, "station 3", 0) == machine.reading(lash, "station 3", 0)
    assert machine.reading(lash, "station 3", 0) % 0.5 == 0
    assert machine.reading(lash, "station 3", 0) == pytest.approx(27.8, abs=2.5)
