"""Blanks, cut lists and the rack; grease and a pump's lines: worked by hand."""

from __future__ import annotations

import math

import pytest

from tests.subjects import SUBJECTS
from trebb.core.bars import bar_size_mm
from trebb.core.errors import InputError
from trebb.core.lubrication import (
    OIL_DENSITY,
    Pipe,
    by_pipe,
    grease_packed_cm3,
    grease_renewed_g,
    metered,
    meters_for,
    tray,
    usual_points,
)
from trebb.core.machine.workshop import Workshop
from trebb.core.making.stock import Bar, Blank, after_cutting, blank_of, cutting
from trebb.core.parts import PartInputs, family


def bar(key, length, size=25.0, metal="carbon"):
    return Bar(key, metal, "round", size, length)


def blank(length, size=20.0, name="shaft"):
    return Blank(name, name, "carbon", "round", size, length)


def test_the_remnants_of_least_length_are_cut_and_the_rest_is_bought():
    rack = [bar("a", 300), bar("b", 520), bar("c", 340)]
    found = cutting([blank(250), blank(210)], rack, kerf_mm=3, waste_mm=25)
    (cut,) = found.cuts
    # 250 + 210 + 2 × 3 + 25 = 491: of the one bar of 520, not of two that are 640 together.
    assert [b.key for b in cut.bars] == ["b"]
    assert cut.cuts.left == (pytest.approx(520 - 25 - 466),)
    left = {b.key: b.length_mm for b in after_cutting(rack, cut, waste_mm=25)}
    assert left == {"a": 300, "b": pytest.approx(520 - 466), "c": 340}
    with pytest.raises(InputError, match="not in the rack"):
        after_cutting([bar("a", 300)], cut, waste_mm=25)


def test_a_section_must_hold_the_part_and_not_waste_the_bar():
    rack = [bar("thin", 900, 18), bar("thick", 900, 80), bar("other", 900, 25, "brass")]
    (cut,) = cutting([blank(250)], rack).cuts
    assert not cut.bars
    assert cut.to_buy == 1
    assert cut.size_mm == 20
    assert bar_size_mm(23.7, inch=False) == 25
    assert bar_size_mm(23.7, inch=True) == pytest.approx(15 / 16 * 25.4)
    assert bar_size_mm(25.5, inch=True) == pytest.approx(1.125 * 25.4)
    assert bar_size_mm(400.0, inch=False) == 400.0, "larger than any: as it is"
    flat = Blank("nut", "nut", "bronze", "flat", 30, 60, 50)
    assert Bar("f", "bronze", "flat", 32, 400, 50).does(flat)
    assert not Bar("f", "bronze", "flat", 32, 400, 40).does(flat)


def test_a_bar_shorter_than_every_piece_is_said():
    found = cutting([blank(1200)], [bar("a", 300)], buy_mm=1000)
    assert not found.cuts
    assert "a longer bar would do" in found.refused[0]
    some = cutting([blank(250), blank(210), blank(900)], [bar("a", 520)], kerf_mm=3, waste_mm=25)
    assert len(some.cuts) == 2  # the two short ones of the remnant, the long one of a bar to buy
    assert some.cuts[1].to_buy == 1


def test_a_blank_has_its_skin_and_faces():
    screw = family("screw").build(PartInputs(SUBJECTS["screw_drive"], Workshop(), {}))
    found = blank_of("screw", "screw", screw)
    assert found.size_mm == pytest.approx(screw.largest_mm + 1.5)
    assert found.length_mm == pytest.approx(screw.length_mm + 4)
    assert found.metal == screw.metal.key


def test_grease_of_a_bearing_by_hand():
    # 25 × 52 × 15: ring π/4 × 15 × (52² − 25²) = 24.49 cm³, of it 0.28 free, of that three tenths.
    assert grease_packed_cm3(25, 52, 15) == pytest.approx(0.3 * 0.28 * math.pi / 4 * 15 * 2079 / 1000)
    assert grease_packed_cm3(25, 52, 15) == pytest.approx(2.06, abs=0.01)
    assert grease_renewed_g(52, 15) == pytest.approx(3.9)
    for sizes in ((52, 25, 15), (25, 52, 0), (0, 52, 15)):
        with pytest.raises(InputError):
            grease_packed_cm3(*sizes)


def test_a_line_without_a_meter_starves_the_others():
    all_of = metered({"bed": 30.0, "nut": 20.0, "gears": 50.0})
    assert all_of.shares == {"bed": 0.3, "nut": 0.2, "gears": 0.5}
    assert not all_of.starved
    assert metered({"bed": 99.0, "nut": 1.0}).starved == ("nut",)
    open_one = metered({"bed": 30.0, "nut": None})
    assert open_one.open_ones == ("nut",)
    assert open_one.starved == ("bed",)
    assert [p.key for _, p in usual_points([("spindle", "spindle")])] == ["front", "rear"]


@pytest.mark.parametrize(
    ("key", "count"), [("screw", 2), ("nut", 2), ("pin_spanner", 1), ("stepped_spacer", 1)]
)
def test_sheet_list_and_stock_count_the_same_blanks(key, count):
    from trebb.core.parts.drawing import Title, laid_out
    from trebb.core.units import UnitSystem

    f = family(key)
    part = f.build(PartInputs(SUBJECTS[f.assembly], Workshop(), {}))
    assert part.blanks == count
    page, _ = laid_out(part, UnitSystem.METRIC, Title())
    said = [t.words for t in page.texts]
    assert ("1, and one spare" in said) == (count == 2)
    assert any("and one spare" in words for words in said) == (count == 2)


def test_open_lines_share_by_bore_length_and_height():
    # Hagen and Poiseuille: twice the bore sixteen times, half the length twice the oil.
    shares = by_pipe({"wide": Pipe(4.0, 500.0), "narrow": Pipe(2.0, 500.0), "short": Pipe(2.0, 250.0)})
    assert shares["wide"] / shares["narrow"] == pytest.approx(16)
    assert shares["short"] / shares["narrow"] == pytest.approx(2)
    assert sum(shares.values()) == pytest.approx(1)
    # Half a metre up takes 0.88 × 9.81 × 0.5 = 4.3 kPa of the 100: by hand.
    lifted = by_pipe({"up": Pipe(3.0, 500.0, 500.0), "level": Pipe(3.0, 500.0)})
    assert lifted["up"] / lifted["level"] == pytest.approx(1 - OIL_DENSITY * 9.81 * 0.5 / 1e5)
    assert by_pipe({"sky": Pipe(3.0, 500.0, 20_000.0), "level": Pipe(3.0, 500.0)})["sky"] == 0
    # A meter on each line but the least, so that all get alike.
    meters = meters_for(shares, dict.fromkeys(shares, 1.0))
    assert meters == pytest.approx({"wide": 1 / 16, "narrow": 1.0, "short": 0.5})
    throttled = {name: shares[name] * meters[name] for name in shares}
    assert max(throttled.values()) == pytest.approx(min(throttled.values()))
    assert "sky" not in meters_for({"sky": 0.0, "level": 1.0}, {"sky": 1.0, "level": 1.0})
    with pytest.raises(InputError, match="bore and length"):
        by_pipe({"none": Pipe(0.0, 500.0)})


def test_a_tray_holds_what_drips_until_it_is_emptied():
    """300 × 120 × 25 mm to two thirds is 600 cm³; 40 drops an hour at 20 to the cm³ are 2 cm³: 300 hours."""
    found = tray(300.0, 120.0, 25.0, 40.0)
    assert found.holds_cm3 == pytest.approx(600.0)
    assert found.hours == pytest.approx(300.0)
    assert found.blank_mm == (350.0, 170.0)
    assert tray(300.0, 120.0, 25.0).hours is None
    with pytest.raises(InputError, match="above nothing"):
        tray(300.0, 0.0, 25.0)
