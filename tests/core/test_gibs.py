"""Taper gibs: every certified row, then the limits."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import Row, misses, number, rows
from trebb.core.errors import InputError
from trebb.core.gibs import Gaps, TaperGib, not_home, sine_bar_height_mm

FILE = "08_taper_gib.csv"


def gib(r: Row) -> TaperGib:
    return TaperGib(number(r, "ratio_N"), number(r, "gib_length_mm"), number(r, "thin_end_thickness_mm"))


def gaps(r: Row) -> Gaps:
    return Gaps(number(r, "gap_thin_mm"), number(r, "gap_thick_mm"), number(r, "running_clearance_mm"))


def advanced(r: Row) -> Gaps:
    return gaps(r).after_advance(gib(r), gaps(r).advance_mm(gib(r)))


def new(r: Row):
    return gaps(r).new_gib(gib(r), number(r, "scrape_allowance_mm"))


QUANTITIES = {
    "thick_end_thickness": lambda r: gib(r).thick_mm,
    "taper_error": lambda r: gaps(r).taper_error(gib(r)),
    "slot_taper": lambda r: gaps(r).slot_taper(gib(r)),
    "slot_ratio_N": lambda r: 1 / gaps(r).slot_taper(gib(r)),
    "extra_thickness_thin_end": lambda r: gaps(r).extra()[0],
    "extra_thickness_thick_end": lambda r: gaps(r).extra()[1],
    "extra_thickness_mid": lambda r: sum(gaps(r).extra()) / 2,
    "axial_advance_no_rework": lambda r: gaps(r).advance_mm(gib(r)),
    "adjust_screw_turns_no_rework": lambda r: gaps(r).advance_mm(gib(r)) / number(r, "adjust_screw_pitch_mm"),
    "gap_thin_after_advance": lambda r: advanced(r).thin_mm,
    "gap_thick_after_advance": lambda r: advanced(r).thick_mm,
    "advance_per_0.01mm_clearance": lambda r: 0.01 * gib(r).ratio,
    "scrape_removal_thin_end": lambda r: gaps(r).scrape()[0],
    "scrape_removal_thick_end": lambda r: gaps(r).scrape()[1],
    "shim_for_original_position": lambda r: gaps(r).shim_mm(),
    "advance_with_given_shim": lambda r: gaps(r).advance_with_shim_mm(gib(r), number(r, "shim_mm")),
    "new_gib_thin_end": lambda r: new(r).thin_mm,
    "new_gib_thick_end": lambda r: new(r).thick_mm,
    "new_gib_taper": lambda r: new(r).taper,
    "new_gib_standout_before_scraping": lambda r: new(r).stand_out_mm,
}


@pytest.mark.parametrize("quantity", QUANTITIES)
def test_gib_rows(quantity: str) -> None:
    assert not misses(FILE, quantity, QUANTITIES[quantity])


def test_every_quantity_of_the_table_is_checked() -> None:
    assert {r["quantity"] for r in rows(FILE)} == set(QUANTITIES)


OLD = TaperGib(60, 300, 8)


@given(st.floats(0.0, 0.3), st.floats(0.0, 0.3))
def test_scraping_the_tighter_end_makes_both_gaps_the_larger(thin: float, thick: float) -> None:
    found = Gaps(thin, thick, 0.015)
    taken = found.scrape()
    assert thin + taken[0] == pytest.approx(found.most)
    assert thick + taken[1] == pytest.approx(found.most)


@given(st.floats(0.0, 0.2), st.floats(0.0, 0.2), st.floats(0.02, 0.3))
def test_a_new_gib_scraped_down_by_its_allowance_runs_at_both_ends(
    thin: float, thick: float, scrape: float
) -> None:
    made = Gaps(thin, thick, 0.015).new_gib(OLD, scrape)
    assert OLD.thin_mm + thin - (made.thin_mm - scrape) == pytest.approx(0.015)
    assert OLD.thick_mm + thick - (made.thick_mm - scrape) == pytest.approx(0.015)


def test_a_gib_not_home_is_told_from_a_worn_one() -> None:
    assert not_home(OLD, Gaps(0.04, 0.09, 0.015)) == ""
    assert not_home(OLD, Gaps(0.30, 0.02, 0.015)) == "", "a thin end that is loose is wear"
    assert "not home" in not_home(OLD, Gaps(0.02, 0.75, 0.015))


def test_the_sine_bar_takes_the_whole_angle() -> None:
    assert sine_bar_height_mm(1 / 60, 127) == pytest.approx(127 * math.sin(math.atan(1 / 60)))


@pytest.mark.parametrize(
    ("act", "words"),
    [
        (lambda: TaperGib(0.5, 300, 8), "from about 1 : 40"),
        (lambda: TaperGib(60, 0, 8), "more than nothing"),
        (lambda: Gaps(5.5, 0.1, 0.015).new_gib(OLD, 0.1), "fully home"),
    ],
)
def test_what_cannot_be_is_refused_in_a_sentence(act, words: str) -> None:
    with pytest.raises(InputError, match=words):
        act()
