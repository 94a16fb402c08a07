"""Thread-dial rules in exact fractions, against every certified row and by trying it out."""

from __future__ import annotations

from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import Row, misses, rows
from trebb.core.families.screw_drive.subject import ScrewDrive
from trebb.core.families.screw_drive.thread_rows import lathe_dial_rule
from trebb.core.machine.workshop import Workshop
from trebb.core.making.thread_dial import DialRule, ThreadDial, dial_rule

FILE = "10_threading_dial.csv"
INCH = Fraction(254, 10)


def rule(row: Row) -> DialRule:
    pitch = (
        INCH / Fraction(row["leadscrew_tpi"]) if row["leadscrew_tpi"] else Fraction(row["leadscrew_pitch_mm"])
    )
    thread = INCH / Fraction(row["thread_tpi"]) if row["thread_tpi"] else Fraction(row["thread_pitch_mm"])
    return dial_rule(
        ThreadDial(pitch, int(row["dial_gear_teeth"]), int(row["dial_marks"])), thread * int(row["starts"])
    )


def length(row: Row, mm: Fraction) -> float:
    return float(mm / INCH if row["unit"] == "in" else mm)


QUANTITIES = {
    "any_half_nut_position_ok": lambda r: rule(r).any_position,
    "carriage_travel_per_dial_rev": lambda r: length(r, rule(r).travel_per_turn),
    "carriage_travel_per_mark": lambda r: length(r, rule(r).travel_per_mark),
    "dial_repeatable_every_rev": lambda r: rule(r).repeats_each_turn,
    "mark_step_between_valid_engagements": lambda r: rule(r).step,
    "smallest_engagement_step_leadscrew_threads": lambda r: rule(r).screw_threads,
    "valid_lines_from_starting_line": lambda r: ";".join(map(str, rule(r).lines)) or "NONE",
}


@pytest.mark.parametrize("quantity", QUANTITIES)
def test_dial_rules_agree_with_the_certified_rows(quantity):
    assert not misses(FILE, quantity, QUANTITIES[quantity])


def test_every_row_of_the_file_is_tested():
    assert {r["quantity"] for r in rows(FILE)} == set(QUANTITIES)


@given(st.integers(2, 12), st.sampled_from([(16, 4), (16, 8), (32, 8), (24, 4)]), st.integers(3, 60))
def test_safe_lines_land_on_whole_leads(screw_tpi, gear, half_tpi):
    found = dial_rule(ThreadDial(Fraction(1, screw_tpi), *gear), Fraction(2, half_tpi))
    for line in found.lines:
        assert (line * found.travel_per_mark / Fraction(2, half_tpi)).denominator == 1


def test_the_demo_lathe_may_close_its_half_nuts_anywhere():
    found = lathe_dial_rule(Workshop(), ScrewDrive())
    assert found.any_position
    assert "anywhere" in found.sentence


def test_a_metric_thread_on_an_inch_lathe_has_no_safe_line():
    found = dial_rule(ThreadDial(INCH / 8, 32, 8), Fraction(3, 2))
    assert not found.lines
    assert "keep the half nuts closed" in found.sentence


def test_a_dial_without_teeth_is_refused():
    with pytest.raises(ValueError, match="count the teeth"):
        ThreadDial(Fraction(1, 8), 0, 4)
