"""Screws, nuts, thrusts and dials of every construction: joints, stacks, knurls, castings, and what would
spoil them.
"""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import misses, number, rows
from trebb.core.errors import InputError
from trebb.core.families.screw_drive.correction import nut_band_mm, nut_sentence, state_sentence, thread_state
from trebb.core.families.screw_drive.dial import ring_for
from trebb.core.families.screw_drive.subject import USUAL_DRIVES, ScrewDrive
from trebb.core.fits.bond import SHEAR_MPA, bond_thrust_n, gap_share
from trebb.core.fits.joint import (
    bonded,
    knurl_for,
    knurl_raise_mm,
    pinned,
    pressed,
    reamed_bore_mm,
)
from trebb.core.fits.stack import StackItem, stack_up
from trebb.core.machine.workshop import Workshop
from trebb.core.making.routes import route
from trebb.core.metals import MATERIALS
from trebb.core.parts import PartInputs, drawing_of, family
from trebb.core.parts.casting import cast_blank, charge_g, cold_volume_cm3, foundry_request, pattern_mm
from trebb.core.threads import Form, ThreadSpec, best_wire_mm, size_between_balls_mm
from trebb.core.units import INCH_MM, UnitSystem

DRIVE, SHOP = ScrewDrive(), Workshop(is_bore_known=True)
SQUARE = ScrewDrive(ThreadSpec(Form.SQUARE, 25.4, 5.08))
CASTING = "12_thermal_casting.csv"
JOINTS = "13_drive_joints.csv"
METRIC = UnitSystem.METRIC


def made(key, drive=DRIVE, **facts):
    return family(key).build(PartInputs(drive, SHOP, facts, {}))


def failed(part):
    return [c.sentence for c in part.checks if not c.is_ok]


def row(part, label):
    return next(r for r in part.rows if r.label == label)


# casting ------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("quantity", "value"),
    [
        (
            "cold_casting_volume",
            lambda r: cold_volume_cm3(number(r, "mould_volume_cm3"), number(r, "linear_contraction")),
        ),
        (
            "casting_mass",
            lambda r: (
                number(r, "density_g_cm3")
                * cold_volume_cm3(number(r, "mould_volume_cm3"), number(r, "linear_contraction"))
            ),
        ),
        (
            "melt_mass_to_charge",
            lambda r: charge_g(
                number(r, "density_g_cm3")
                * cold_volume_cm3(number(r, "mould_volume_cm3"), number(r, "linear_contraction")),
                number(r, "riser_gate_fraction"),
                number(r, "melt_loss_fraction"),
            ),
        ),
        (
            "pattern_dimension",
            lambda r: pattern_mm(number(r, "pattern_dim_mm"), number(r, "linear_contraction")),
        ),
    ],
)
def test_castings_agree_with_the_certified_rows(quantity, value):
    assert not misses(CASTING, quantity, value)


def test_a_blank_is_larger_than_its_nut_by_stock_and_shrink_and_knocks_out_of_its_base():
    blank = cast_blank("bronze", 40, 50, 16, stock_mm=3)
    assert blank.base_mm == pytest.approx(46 * 1.0156)
    assert blank.mouth_mm > blank.base_mm
    assert blank.charge_g > blank.casting_g
    assert "cored Ø 10 mm" in foundry_request(blank, "a nut")
    assert cast_blank("bronze", 40, 50, 10).core_mm == 0  # too thin a core burns in


@pytest.mark.parametrize(
    ("call", "said"),
    [
        (lambda: cast_blank("gold", 40, 50, 16), "cast tin"),
        (lambda: cast_blank("brass", 40, 50, 45), "leave a wall"),
        (lambda: charge_g(100, 0.3, 1.0), "melt loss"),
    ],
)
def test_a_casting_that_cannot_be_is_refused(call, said):
    with pytest.raises(InputError, match=said):
        call()


def test_a_cast_nut_says_what_to_melt_and_warns_before_the_metal_is_poured():
    part = made("nut", blank="cast", style="flanged")
    assert row(part, "Charge to melt").is_key
    pour = next(o for o in route(part, DRIVE, SHOP) if o.key == "melt")
    assert "dry mould" in pour.caution
    assert "foundry" in pour.caution


# stacks -------------------------------------------------------------------------------------------


def items(*rows):
    return [StackItem(name, readings, side) for name, readings, side in rows]


def test_a_stack_is_the_sum_of_its_means_and_rounds_up_so_that_a_facing_cut_stays():
    found = stack_up(
        items(("shoulder", (50.02, 50.00, 49.98), 1), ("bracket", (30.01, 29.99), -1), ("ring", (6.0,), -1)),
        0.02,
    )
    assert found.left_mm == pytest.approx(13.98)
    assert found.worst_high_mm - found.left_mm == pytest.approx(0.03)
    assert found.make_mm >= found.worst_high_mm - 1e-9
    assert found.make_mm / 0.05 == pytest.approx(round(found.make_mm / 0.05))
    assert found.facing_mm >= 0


@given(st.lists(st.floats(4.9, 5.1), min_size=3, max_size=6), st.floats(-0.02, 0.05))
def test_the_statistical_band_is_never_wider_than_the_worst_case(readings, wanted):
    found = stack_up(
        [StackItem("room", (40.0, 40.01, 39.99), 1), StackItem("width", tuple(readings), -1)], wanted
    )
    assert found.statistical_mm <= 2.6 * (found.worst_high_mm - found.worst_low_mm) + 1e-9
    assert found.worst_low_mm <= found.left_mm <= found.worst_high_mm <= found.make_mm + 1e-9


def test_a_face_not_read_and_a_stack_that_leaves_nothing_are_refused():
    with pytest.raises(InputError, match="three places"):
        stack_up([StackItem("bracket", (), 1)], 0)
    with pytest.raises(InputError, match="wrong side"):
        stack_up(items(("shoulder", (10.0,), 1), ("bracket", (12.0,), -1)), 0)


def test_the_thrust_ring_follows_the_readings_of_its_stack():
    part = made(
        "thrust_collar",
        room="40.00 40.02 39.98",
        bracket="20.0 20.0 20.0",
        first="3.0 3.0 3.0",
        second="3.0 3.0 3.0",
        width=14.0,
    )
    assert row(part, "The stack leaves").value == pytest.approx(14.0)
    assert "three places or more" in " ".join(c.sentence for c in part.checks)
    assert any("wider than the stack leaves" in s for s in failed(made("thrust_collar", width=30.0)))
    assert any("breaks out at a face" in s for s in failed(made("thrust_collar", set_screw=0.5)))


# joints -------------------------------------------------------------------------------------------


def test_a_press_fit_goes_by_the_bore_as_measured():
    small, large = (pressed(bore, 25, 26, "alloy_ht", wanted_mm=0.02) for bore in (12.000, 12.015))
    assert large.spigot_mm - small.spigot_mm == pytest.approx(0.015)
    assert small.verdict == "holds"
    assert small.force_n == pytest.approx(small.thrust_n)


@pytest.mark.parametrize(
    ("more", "verdict", "said"),
    [
        ({"spigot_mm": 11.99}, "too loose", "knurl it, sleeve it"),
        ({"wanted_mm": 0.15}, "splits", "split the wall"),
        ({"wanted_mm": 0.02, "press_n": 500.0}, "press too small", "Not warmed to"),
    ],
)
def test_a_press_that_came_out_wrong_says_what_would_do(more, verdict, said):
    found = pressed(12.0, 25, 26, "alloy_ht", **more)
    assert found.verdict == verdict
    assert said in found.words


@given(st.floats(6, 30), st.floats(0.005, 0.03))
def test_hoop_stress_grows_with_interference_and_stays_told(bore, wanted):
    found = pressed(bore, 2 * bore, 2.2 * bore, "carbon", wanted_mm=wanted)
    assert (found.verdict == "splits") == (found.hoop_mpa > MATERIALS["carbon"].allowed_mpa)
    assert pressed(bore, 2 * bore, 2.2 * bore, "carbon", wanted_mm=2 * wanted).hoop_mpa == pytest.approx(
        2 * found.hoop_mpa
    )


@given(st.floats(6, 40), st.floats(1.15, 3.0), st.sampled_from(sorted(MATERIALS)))
def test_the_interference_proposed_never_splits_the_wall(bore, ratio, metal):
    assert pressed(bore, bore, max(ratio * bore, bore + 1.1), metal).verdict == "holds"


@given(st.floats(0.5, 2.0), st.floats(0.05, 0.95))
def test_a_knurl_raises_no_more_than_it_displaces(pitch, share):
    assert knurl_raise_mm(pitch, share) < knurl_raise_mm(pitch, 1.0) == pytest.approx(pitch / 2)
    assert knurl_raise_mm(pitch, share) >= share * pitch / 2 * 0.7


def test_bonded_and_pinned_joints_hold_by_area_and_by_shear():
    assert bonded(12, 30).torque_nm == pytest.approx(15.0 * math.pi * 12**2 * 30 / 2000)
    assert bonded(12, 30, 0.3).verdict == "weak"
    assert pinned(12, 25, 4).torque_nm == pytest.approx(2 * 180 * math.pi / 4 * 16 * 12 / 2000)
    with pytest.raises(InputError, match="a third of what it goes through"):
        pinned(12, 25, 6)
    with pytest.raises(InputError, match="leave a wall"):
        pressed(12, 25, 12.5, "carbon")


def test_a_knurl_recovers_what_is_loose_and_no_more_than_it_can():
    pitch, raised = knurl_for(0.05, 0.03)
    assert raised >= 0.08
    assert raised == knurl_raise_mm(pitch)
    with pytest.raises(InputError, match="sleeve it"):
        knurl_for(0.5, 0.03)
    knurled = made("nut", style="flanged", holds="knurl", hole=30.55, body_dia=30.5)
    assert row(knurled, "Knurl, straight").is_key
    assert reamed_bore_mm(12.0) > 12.0


# screws -------------------------------------------------------------------------------------------


@pytest.mark.parametrize("joint", ["pressed", "bonded", "pinned"])
def test_a_new_thread_in_the_old_end_is_drawn_made_and_holds(joint):
    part = made("screw", construction="joined", joint=joint)
    spigot = part.sections[0]
    assert spigot.size.holds(row(part, "Spigot, to turn").value)
    operations = [o.key for o in route(part, DRIVE, SHOP)]
    assert (
        operations.index("look")
        < operations.index("socket")
        < operations.index("spigot")
        < operations.index("join")
        < operations.index("pin")
    )
    assert next(o for o in route(part, DRIVE, SHOP) if o.key == "spigot").target.band == spigot.size
    assert drawing_of(part, METRIC).modelspace().query("DIMENSION")


def test_a_joint_too_short_or_too_weak_is_refused_or_told():
    with pytest.raises(InputError, match="half its diameter"):
        made("screw", construction="joined", socket_depth=5.0)
    assert any(
        "hold only" in s for s in failed(made("screw", construction="joined", joint="pinned", pin_dia=1.6))
    )


def test_bought_bar_is_only_for_ends_below_its_root():
    part = made("screw", construction="bar")
    assert part.stock.startswith("threaded bar 3/4-8 Acme left hand")
    assert failed(part) == []
    assert any("does not clean up" in s for s in failed(made("screw", construction="bar", journal_dia=18.0)))
    assert "thread" not in [o.kind for o in route(part, DRIVE, SHOP)]


def test_a_worn_journal_is_sleeved_from_what_it_stands_at():
    part = made("screw", construction="sleeved")
    assert failed(part) == []
    assert any("worn below" in s for s in failed(made("screw", construction="sleeved", worn_to=12.0)))
    with pytest.raises(InputError, match="three fifths"):
        made("screw", construction="sleeved", sleeve_wall=6.0)
    assert [o.key for o in route(part, DRIVE, SHOP)][:3] == ["bore", "journal", "press"]


@pytest.mark.parametrize("drive", USUAL_DRIVES.values(), ids=["-".join(k) for k in USUAL_DRIVES])
@pytest.mark.parametrize("construction", ["solid", "bar"])
def test_every_drive_s_screw_and_nut_can_be_made_as_first_worked_out(drive, construction):
    part = made("screw", drive, construction=construction)
    if construction == "solid":
        assert [s for s in failed(part) if "pass the spindle" not in s] == []
    assert route(part, drive, SHOP)
    assert failed(made("nut", drive)) == []


def test_a_journal_has_its_iso_fit():
    part = made("screw", journal_fit="h6", journal_dia=16.0)
    journal = next(s for s in part.sections if s.label == "bearing journal")
    assert journal.size.high_mm == pytest.approx(16.0)
    assert journal.size.width_mm == pytest.approx(0.011)


def test_a_bar_shorter_than_the_part_is_told():
    assert any("too short" in s for s in failed(made("screw", bar_length=200.0)))
    assert failed(made("screw", bar_length=900.0)) == []
    assert any("blocks an oil way" in c.sentence for c in made("screw", fastening="cross_pin").checks)


def test_two_starts_are_indexed_before_any_depth_is_cut():
    drive = ScrewDrive(ThreadSpec(Form.TRAPEZOIDAL, 28, 5, 2))
    keys = [o.key for o in route(made("screw", drive), drive, SHOP)]
    assert keys.index("gears") < keys.index("index") < keys.index("thread_rough") < keys.index("thread")


# nuts and dials -----------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("style", "said", "step"),
    [
        ("split", "split", "slit"),
        ("two_piece", "two-piece", "part"),
        ("half", "half nuts", "halve"),
        ("flanged", "flanged", "holes"),
    ],
)
def test_every_style_of_nut_has_its_drawing_and_its_step(style, said, step):
    part = made("nut", style=style)
    assert said in part.title
    assert step in [o.key for o in route(part, DRIVE, SHOP)]
    assert failed(part) == []
    assert len(drawing_of(part, UnitSystem.INCH).modelspace()) > 10


def test_a_long_note_is_broken_so_that_the_part_stays_the_larger_part_of_its_drawing():
    words = [
        t.dxf.text
        for t in drawing_of(made("nut", blank="cast", style="flanged"), METRIC).modelspace().query("TEXT")
    ]
    assert max(len(w) for w in words) <= 92
    assert any("foundry" in w for w in words)


def test_half_nuts_are_bored_whole_and_halved_last():
    keys = [o.key for o in route(made("nut", style="half"), DRIVE, SHOP)]
    assert keys.index("pack") < keys.index("nut_thread") < keys.index("halve")


@pytest.mark.parametrize(
    ("facts", "said"),
    [
        ({"oil_hole": 2.0}, "runs out at the nut's end"),
        ({"shank": 15.0}, "does not enter and back out"),
        ({"shank": 4.0}, "tap from both sides"),
        ({"style": "flanged", "flange_dia": 35.0}, "cut into body or rim"),
    ],
)
def test_a_nut_that_would_spoil_the_job_says_so(facts, said):
    assert any(said in s for s in failed(made("nut", **facts)))


def test_a_ring_is_exact_where_its_divisions_go_whole_into_the_lead():
    inch, metric = (ring_for(INCH_MM / 8, False, s) for s in (UnitSystem.INCH, METRIC))
    assert (inch.lines, inch.error_share) == (125, pytest.approx(0))
    assert (metric.lines, metric.error_share) == (
        127,
        pytest.approx(0),
    )  # 127 × 0.025 mm is an eighth of an inch
    assert abs(ring_for(4.0, False, UnitSystem.INCH).error_share) > 1e-4
    both = made("dial", ScrewDrive(ThreadSpec(Form.TRAPEZOIDAL, 20, 4)), reads="both", width=30.0)
    assert any("good within a turn" in c.sentence for c in both.checks)
    assert any("the long form" in s for s in failed(made("dial", reads="both", width=12.0)))
    assert not any("the long form" in s for s in failed(made("dial", reads="both")))
    assert any("too close" in s for s in failed(made("dial", outside=30.0)))


def test_a_dial_that_counts_the_diameter_has_twice_the_lines():
    plain, twice = (ring_for(INCH_MM / 10, diameter, UnitSystem.INCH) for diameter in (False, True))
    assert (plain.lines, twice.lines) == (100, 200)
    assert twice.said_mm == pytest.approx(plain.said_mm / 2)


# sizes while cutting ------------------------------------------------------------------------------


def test_a_square_groove_comes_to_its_depth():
    spec = SQUARE.thread
    assert thread_state(SQUARE, 1.0).verdict == "large"
    assert "short of its depth" in state_sentence(SQUARE, thread_state(SQUARE, 1.0), 0.04, METRIC)
    assert thread_state(SQUARE, spec.depth_mm + 0.05).verdict == "within"
    assert "weaker" in state_sentence(SQUARE, thread_state(SQUARE, spec.depth_mm + 0.4), 0.04, METRIC)
    with pytest.raises(InputError, match="measure from the crest"):
        thread_state(SQUARE, 20.0)


def test_a_nut_between_balls_comes_out_to_its_band():
    ball, target = best_wire_mm(DRIVE.thread), 17.25
    band = nut_band_mm(DRIVE, target, ball)
    assert band.low_mm < size_between_balls_mm(DRIVE.thread, target, ball) < band.high_mm
    assert nut_sentence(DRIVE, band.middle_mm, ball, target, METRIC)[0] == "within"
    tone, head, _ = nut_sentence(DRIVE, band.low_mm - 0.2, ball, target, METRIC)
    assert (tone, "to come off" in head) == ("near", True)
    assert nut_sentence(DRIVE, band.high_mm + 0.2, ball, target, METRIC)[0] == "beyond"


def test_a_wide_gap_weakens_a_bond():
    cold = [r for r in rows(JOINTS, "bond_press_out_force") if float(r["temperature_C"] or 20) <= 40]
    assert cold
    for row in cold:
        size = (number(row, k) for k in ("shaft_dia_mm", "engaged_length_mm", "gap_dia_mm"))
        held = bond_thrust_n(*size) * number(row, "bond_MPa") / SHEAR_MPA / 1000
        assert held == pytest.approx(number(row, "expected"), abs=float(row["tolerance"]))
    assert misses(JOINTS, "bond_gap_factor", lambda row: gap_share(number(row, "gap_dia_mm"))) == []
