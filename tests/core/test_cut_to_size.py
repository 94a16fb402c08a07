"""What is cut ends where it should: checked by plain geometry of the groove, worked here and not asked of the
core.
"""

from __future__ import annotations

import math

import pytest

from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.machine.workshop import Workshop
from trebb.core.making.routes import route
from trebb.core.parts import PartInputs, family
from trebb.core.threads import Form, ThreadSpec, thread_limits
from trebb.core.threads.tool import nut_cut_mm, touches_after_rough_mm
from trebb.core.units import INCH_MM, THOU_MM

SHOP = Workshop()
FIVE_EIGHTHS = ThreadSpec(Form.ACME, 0.625 * INCH_MM, INCH_MM / 10)
TAN = math.tan(math.radians(14.5))


def made(key, drive=None, **facts):
    return family(key).build(PartInputs(drive or ScrewDrive(), SHOP, facts, {}))


def failed(part):
    return " ".join(c.sentence for c in part.checks if not c.is_ok)


def steps(part, drive=None):
    return [o.key for o in route(part, drive or ScrewDrive(), SHOP)]


def groove_pitch_dia(minor_mm, depth_mm, flat_mm, pitch_mm):
    """A groove `flat` wide at its bottom, `depth` below the bore, is P/2 wide at this diameter."""
    return minor_mm + 2 * depth_mm - (pitch_mm / 2 - flat_mm) / TAN


@pytest.mark.parametrize("under_basic_mm", [0.35, 0.2, 0.1, 0.0, -0.1])
def test_the_nut_s_depth_and_tip_leave_just_the_play_that_was_wanted(under_basic_mm):
    spec, play = FIVE_EIGHTHS, 1.5 * THOU_MM
    screw = spec.pitch_dia_mm - under_basic_mm
    target = screw + play / TAN
    flat, depth = nut_cut_mm(spec, target)
    minor = 0.525 * INCH_MM
    nut = groove_pitch_dia(minor, depth, flat, INCH_MM / 10)
    assert (nut - screw) * TAN == pytest.approx(play, abs=1e-6)
    assert minor + 2 * depth >= 0.625 * INCH_MM  # the screw's crests clear the bottom


def test_parts_states_the_same_depth_and_tip():
    part = made("nut", ScrewDrive(FIVE_EIGHTHS), play=1.5 * THOU_MM)
    rows = {r.key: r.value for r in part.rows if r.key}
    screw = thread_limits(FIVE_EIGHTHS).screw_pitch.middle_mm
    nut = groove_pitch_dia(0.525 * INCH_MM, rows["depth"], rows["tip"], INCH_MM / 10)
    assert (nut - screw) * TAN == pytest.approx(1.5 * THOU_MM, abs=1e-6)


def test_the_finisher_first_touches_where_the_narrow_rougher_left_its_flanks():
    # 0.2 mm narrower leaves 0.1 mm on each flank; along the depth that is 0.1 / tan 14.5° = 0.387 mm.
    assert touches_after_rough_mm(1.3, 0.2, math.radians(14.5)) == pytest.approx(1.3 - 0.387, abs=0.001)
    assert touches_after_rough_mm(0.2, 0.2, math.radians(14.5)) == 0.0
    assert touches_after_rough_mm(1.3, 0.2, 0.0) == 1.3


def test_a_cast_block_holds_the_nut_s_diagonal():
    part = made("nut", blank="cast", width=30.0, height=40.0)
    base = next(r.value for r in part.rows if r.label == "Mould: base")
    assert base >= 50.0 + 2 * 3.0


def test_a_ring_of_an_absurd_width_is_said_to_be_so():
    wrong = made("thrust_collar", width=0.25 * INCH_MM, room="80", bracket="12", first="1.5", second="1.5")
    assert "is drawn 6.35 mm wide" in failed(wrong) or "is drawn 0.25 in wide" in failed(wrong)
    assert "Measure shoulder to seat, bracket and both thrusts again" in failed(wrong)
    assert "drawn" not in failed(made("thrust_collar"))


def test_a_bought_bar_s_ends_clean_up_below_its_smallest_root():
    least = thread_limits(ScrewDrive().thread).screw_minor.low_mm
    between = (least + ScrewDrive().thread.screw_minor_max_mm) / 2
    ends = dict.fromkeys(("journal_dia", "seat_dia", "end_dia"), least - 0.01)
    assert "does not clean up" not in failed(made("screw", construction="bar", **ends))
    assert "does not clean up" in failed(
        made("screw", construction="bar", **{**ends, "journal_dia": between})
    )


def test_the_old_screw_stays_whole_until_it_has_cut_the_new_length():
    own = steps(made("screw", construction="joined", cut_on="own"))
    assert own.index("thread") < own.index("socket") < own.index("spigot") < own.index("off")
    assert own.index("off") < own.index("socket_last") < own.index("join")
    other = steps(made("screw", construction="joined", cut_on="other"))
    assert other.index("off") < other.index("socket") < other.index("thread") < other.index("spigot")


def test_a_bought_bar_is_joined_without_a_thread_to_cut():
    bought = made("screw", construction="joined", new_length="bought", cut_on="own")
    assert "thread" not in steps(bought)
    assert steps(bought)[1] == "measure_bar"
    assert bought.stock.startswith("threaded bar")
    assert "cleans up below the bar's smallest root" in " ".join(c.sentence for c in bought.checks)
