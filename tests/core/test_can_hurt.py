"""What can hurt, or spoil a day's work: heat, running, grease, where a cut ends, what a rest reaches."""

from __future__ import annotations

import itertools

import pytest

from trebb.core.families.spindle.fitup import spindle_steps
from trebb.core.families.spindle.subject import Spindle
from trebb.core.fits.joint import pressed
from trebb.core.fits.warming import CEILINGS, instead, of_hardness, warming
from trebb.core.fitup.order import FitStep, assembly_order
from trebb.core.fitup.stripped import Came, Rule, with_came
from trebb.core.safety import SLING, UNDER_POWER
from trebb.core.units import UnitSystem, parse_length, parse_lengths, show_small, show_uncertain
from trebb.logbook.cases.casework import Cases
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.log.entries import FactStated, PartSet, ReadingTaken, RemedyChosen
from trebb.logbook.log.fold import Job

INCH = UnitSystem.INCH


# heat -------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("what", "most"),
    # DIN 7190-1 and makers' sheets: what each may have, from the mildest to the most delicate.
    [
        ("plain_steel", 350),
        ("alloy_ht", 300),
        ("iron", 200),
        ("hardened", 180),
        ("bearing", 110),
        ("sealed", 80),
    ],
)  # fmt: skip
def test_each_thing_has_its_ceiling(what, most):
    assert CEILINGS[what][0] == most
    assert warming(most, what).is_allowed
    over = warming(most + 1, what)
    assert not over.is_allowed
    assert over.words(-60.0).startswith(f"Not warmed to {most + 1} °C")
    assert "press it" in over.words(-60.0)


def test_what_nobody_tried_a_file_on_counts_as_hard():
    assert of_hardness("carbon", "") == "untested"
    assert of_hardness("carbon", "hard") == "hardened"
    assert of_hardness("carbon", "soft") == "carbon"
    assert CEILINGS["untested"][0] == CEILINGS["hardened"][0]


def test_instead_of_heat_only_what_can_be_had_is_offered():
    assert "dry ice" in instead(-80)
    assert "only liquid nitrogen" in instead(-180)
    assert "no cooling" in instead(-400)


def test_a_press_too_small_is_not_told_to_burn_the_part():
    joint = pressed(8.0, 12.0, 20.0, "carbon", wanted_mm=0.012, press_n=10.0, heated="untested")
    # Steel, 11.7e-6 a degree: (0.012 + 0.03 of slip) / (11.7e-6 · 8) = 449 °C over the room.
    assert joint.warm_to_c == pytest.approx(20 + 449, abs=2)
    assert "Not warmed to" in joint.words
    assert "temper" in joint.words


@pytest.fixture
def lathe(tmp_path):
    with make_demo(tmp_path / "job.trebb") as job_file:

        def cases(*bodies) -> Cases:
            job_file.append(bodies)
            return Cases(Job(job_file.entries()))

        yield cases


def test_the_old_shaft_of_a_stub_is_not_warmed_out_of_its_temper(lathe):
    case = lathe().of("dial_shaft")
    part = case.part("stub", INCH)
    row = next(r for r in part.rows if r.label.startswith("Warm the old shaft"))
    assert "at most 180 °C" in str(row.value)
    assert any("Not warmed to" in c.sentence and "temper" in c.sentence for c in part.checks)
    press = next(o for o in case.route("stub", INCH) if o.key == "press")
    assert "cold" in press.title
    assert "Warm" not in press.title


# running, lifting, grease -----------------------------------------------------------------------


def all_steps():
    for remedy in ("leave", "preload", "bearings", "grind", "overhaul", "cartridge", "coupler", "clock"):
        for spindle in (Spindle(), Spindle(kind="mill"), Spindle(kind="drill")):
            yield remedy, spindle_steps(remedy, spindle)


def test_whatever_runs_or_lifts_says_so_with_its_caution():
    ran = 0
    for _, steps in all_steps():
        for s in steps:
            if s.act == "runs":
                ran += 1
                assert UNDER_POWER in s.caution
            if s.act == "lifts":
                assert SLING in s.caution
            assert s.act == "runs" or not s.title.startswith("Run ")
    assert ran > 8


@pytest.mark.parametrize("remedy", ["preload", "bearings", "grind", "cartridge"])
def test_the_guard_and_whatever_came_off_is_back_before_it_runs(remedy):
    came = [
        Came("c1", "spindle nut"), Came("c2", "belt guard"), Came("c3", "gear cover"),
        Came("c4", "drawbar lock"),
    ]  # fmt: skip
    for order in itertools.permutations(came):
        steps, said = with_came(spindle_steps(remedy, Spindle(kind="mill")), order)
        assert not said
        keys = [s.key for s in assembly_order(steps)]
        for one in came:
            assert keys.index(f"came_{one.key}") < keys.index("warm"), one.what


def test_what_was_learned_to_go_on_only_after_a_run_is_said():
    came = [Came("c1", "dust cover")]
    rule = Rule("warm", "came_c1", "it is felt with the hand")
    _, said = with_came(spindle_steps("preload", Spindle()), came, [rule])
    assert any("neither holds, guards nor locks" in sentence for sentence in said)


def test_any_step_that_runs_is_kept_last_whatever_else_was_added():
    steps = (
        FitStep("a", "A", (), ""),
        FitStep("run", "Run it", ("a",), "", act="runs"),
        FitStep("z", "Z", ("run",), ""),
    )
    found, _ = with_came(steps, [Came("c1", "lid")])
    keys = [s.key for s in assembly_order(found)]
    assert keys.index("came_c1") < keys.index("run")


def test_bearings_are_warmed_first_and_greased_when_cold():
    steps = spindle_steps("bearings", Spindle())
    keys = [s.key for s in assembly_order(steps)]
    assert keys.index("bearings_on") < keys.index("lubricate") < keys.index("bearings_in")
    assert "cold" in next(s.title for s in steps if s.key == "lubricate")


# where a cut ends, what a rest reaches ----------------------------------------------------------


def screw(lathe, **fields):
    bodies = [RemedyChosen("cross_slide", "pair", "")]
    return lathe(*bodies, *[PartSet("screw", k, v) for k, v in fields.items()]).of("cross_slide")


def test_half_nuts_come_out_before_what_stands_there_on_this_part(lathe):
    left = next(o for o in screw(lathe).route("screw", INCH) if o.key == "thread_rough")
    assert "tailstock" in left.caution  # the demo's screw is left hand: cut away from the headstock
    assert "collar" not in left.caution
    job = lathe(FactStated("cross_slide", "hand", "right"))
    right = next(o for o in job.of("cross_slide").route("screw", INCH) if o.key == "thread_rough")
    assert "before the thrust collar" in right.caution
    bar = lathe(PartSet("screw", "construction", "bar")).of("cross_slide")
    assert all("before the thrust collar" not in o.caution for o in bar.route("screw", INCH))


def test_a_follower_rest_is_held_against_the_pilot_that_is_drawn(lathe):
    def sentence(pilot):
        case = lathe(PartSet("screw", "pilot_length", pilot)).of("cross_slide")
        return next(c for c in case.part("screw", INCH).checks if "follower" in c.sentence)

    screw(lathe)
    long, short = sentence(40.0), sentence(2.0)
    assert "end on the pilot" in long.sentence
    assert "run behind it" in short.sentence or not short.is_ok
    assert long.sentence != short.sentence


# figures ----------------------------------------------------------------------------------------


def test_what_rounds_to_nothing_has_no_sign():
    assert show_uncertain(-0.0004, 0.002, INCH) == "0.0 ± 0.1 thou"
    assert show_uncertain(-0.0004, 0.002, UnitSystem.METRIC) == "0 ± 2 µm"
    assert show_small(-0.0004, INCH).startswith("0.0")
    assert show_uncertain(-0.1, 0.002, INCH).startswith("−3.9")


@pytest.mark.parametrize("text", ["5 Nm", "5 N m", "5Nm", "5 nM"])
def test_a_torque_is_no_length(text):
    from trebb.core.errors import InputError

    if text != "5 nM":
        with pytest.raises(InputError):
            parse_length(text, INCH)
        with pytest.raises(InputError):
            parse_lengths(text, INCH)
    assert parse_length("5 nm", INCH) == pytest.approx(5e-6)


def test_a_crack_that_draws_nothing_twice_is_nothing(tmp_path):
    from trebb.logbook.file.store import JobFile
    from trebb.logbook.log.entries import AssemblyAdded, JobStarted

    def crack(*readings):
        path = tmp_path / f"{len(list(tmp_path.iterdir()))}.trebb"
        with JobFile.create(path) as job_file:
            job_file.append([JobStarted(shop="s", machine="m", machine_kind="lathe")])
            job_file.append([AssemblyAdded("lug", "Lug", "casting", "apron")])
            job_file.append([ReadingTaken("lug", "crack", "length", "before", v, "mm") for v in readings])
            case = Cases(Job(job_file.entries())).of("lug")
            return next(m for m in case.figures if m.key == "crack").value

    assert crack(0.0, 0.0).value == 0.0
    assert crack(0.0, 0.0).low == 0.0
    assert crack(63.5, 63.5).value == pytest.approx(63.5, abs=0.5)
