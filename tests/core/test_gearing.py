"""Change gears against every certified row, by brute force, and by what a banjo allows; starts indexed."""

from __future__ import annotations

import itertools
import math
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.reference import Row, misses, number, rows
from trebb.core.errors import InputError
from trebb.core.gears.trains import (
    Banjo,
    error_ppm,
    exact_lead,
    feed_mm,
    find_trains,
    finer_feeds,
    meshes,
    pitch_cut_mm,
    train_ratio,
    trains_for,
    transposing,
)
from trebb.core.machine.workshop import Workshop, banjo_of, ratio_from, wheels_from
from trebb.core.making.indexing import indexings
from trebb.core.making.operations import dial_of
from trebb.core.making.thread_dial import ThreadDial
from trebb.core.units import INCH_MM, UnitSystem

FILE = "10_change_gears.csv"
WHEELS = Workshop().wheels
EIGHT_TPI = Fraction(254, 80)


def teeth(row: Row, key: str) -> list[int]:
    return [int(t) for t in row[key].split(";")]


def lead_screw(row: Row) -> Fraction:
    return (
        Fraction(254, 10) / Fraction(row["leadscrew_tpi"])
        if row["leadscrew_tpi"]
        else Fraction(row["leadscrew_pitch_mm"])
    )


def cut(row: Row) -> float:
    return pitch_cut_mm(lead_screw(row), teeth(row, "drivers"), teeth(row, "driven"))


def ppm(row: Row) -> float:
    wanted = float(row["target_pitch_mm"]) if row["target_pitch_mm"] else INCH_MM / float(row["target_tpi"])
    return error_ppm(cut(row), wanted)


QUANTITIES = {
    "train_ratio": lambda r: float(train_ratio(teeth(r, "drivers"), teeth(r, "driven"))),
    "pitch_cut": cut,
    "tpi_cut": lambda r: INCH_MM / cut(r),
    "pitch_error_ppm": ppm,
    "accumulated_error_per_25_4mm": lambda r: ppm(r) * 1e-6 * 25.4 * 1000,
    "longitudinal_feed_per_rev": lambda r: feed_mm(
        train_ratio(teeth(r, "drivers"), teeth(r, "driven")),
        Fraction(1),
        train_ratio(teeth(r, "feed_train_drivers"), teeth(r, "feed_train_driven")),
        number(r, "rack_module_mm"),
        int(r["rack_pinion_teeth"]),
    ),
}


@pytest.mark.parametrize("quantity", QUANTITIES)
def test_gearing_agrees_with_the_certified_rows(quantity):
    assert not misses(FILE, quantity, QUANTITIES[quantity])


def test_every_row_of_the_file_is_tested():
    assert {r["quantity"] for r in rows(FILE)} == set(QUANTITIES)


@settings(max_examples=12, deadline=None)
@given(
    st.lists(st.sampled_from(WHEELS), min_size=4, max_size=7, unique=True),
    st.sampled_from([1.0, 1.25, 1.5, 2.0, 25.4 / 13, 25.4 / 11, 3.0]),
)
def test_the_search_finds_every_train_that_trying_them_all_does(wheels, wanted):
    found = {
        (tuple(sorted(t.drivers)), tuple(sorted(t.driven)))
        for t in find_trains(EIGHT_TPI, wanted, wheels, most_ppm=2000)
    }
    tried = set()
    for a, b in itertools.permutations(wheels, 2):
        if abs(error_ppm(pitch_cut_mm(EIGHT_TPI, [a], [b]), wanted)) <= 2000:
            tried.add(((a,), (b,)))
    for a, b, c, d in itertools.permutations(wheels, 4):
        if abs(error_ppm(pitch_cut_mm(EIGHT_TPI, [a, b], [c, d]), wanted)) <= 2000:
            tried.add((tuple(sorted((a, b))), tuple(sorted((c, d)))))
    assert found == tried


def test_a_metric_thread_is_exact_through_the_127_and_near_through_the_63():
    trains, allowed = trains_for(EIGHT_TPI, Fraction(3, 2), WHEELS)
    assert allowed == 0
    assert trains[0].error_ppm == 0
    assert 127 in trains[0].drivers + trains[0].driven
    without = tuple(w for w in WHEELS if w != 127)
    near, allowed = trains_for(EIGHT_TPI, Fraction(3, 2), without)
    assert allowed > 0
    assert abs(near[0].error_ppm) < 130
    assert "63" in transposing(without, inch_screw=True, found_exact=False)
    assert "exact" in transposing(WHEELS, inch_screw=True, found_exact=True)


def test_a_gearbox_brings_a_thread_within_reach_that_the_wheels_alone_do_not():
    plain, four = (
        trains_for(EIGHT_TPI, Fraction(10), WHEELS, banjo_of(replace(Workshop(), gear_ratio=ratio)))[0][0]
        for ratio in (Fraction(1), Fraction(4))
    )
    assert abs(plain.error_ppm) > 10
    assert four.error_ppm == 0
    assert four.pitch_mm == pytest.approx(10.0)


@pytest.mark.parametrize(
    ("text", "ratio"),
    [("2", Fraction(2)), ("1/2", Fraction(1, 2)), ("1:4", Fraction(1, 4)), ("0.25", Fraction(1, 4))],
)
def test_a_gearbox_s_ratio_is_read_as_it_is_written(text, ratio):
    assert ratio_from(text) == ratio


@pytest.mark.parametrize("text", ["", "fast", "1/0", "-2"])
def test_a_ratio_that_is_none_is_refused(text):
    with pytest.raises(InputError, match="lead screw's turns for one of the spindle"):
        ratio_from(text)


def test_only_one_of_each_wheel_is_used_unless_it_is_owned_twice():
    assert not find_trains(EIGHT_TPI, Fraction(254, 80), (40, 60))
    assert next(t.words for t in find_trains(EIGHT_TPI, Fraction(254, 80), (40, 40, 60))) == "40/40"


@pytest.mark.parametrize(
    ("drivers", "driven", "said"),
    [
        ((20, 60), (24, 40), "rubs the stud"),
        ((60, 20), (64, 24), "rubs the lead screw"),
        ((20, 20), (24, 24), "do not reach"),
        ((127,), (120,), "foul each other"),
    ],
)
def test_a_train_that_will_not_mesh_or_clear_says_why(drivers, driven, said):
    assert said in meshes(drivers, driven, Banjo())


def test_the_drawn_triangle_closes_for_every_train_that_goes_on():
    banjo = banjo_of(Workshop())
    for t in find_trains(EIGHT_TPI, Fraction(254, 130), WHEELS, banjo):
        if not t.trouble and not t.is_simple:
            first, second = (
                banjo.module_mm * (a + c) / 2
                for a, c in ((t.drivers[0], t.driven[0]), (t.drivers[1], t.driven[1]))
            )
            assert abs(first - second) <= banjo.span_mm <= first + second


def test_finer_feeds_are_finer_and_go_down_in_steps():
    feeds = [f for f, _ in finer_feeds(0.10, Fraction(1, 2), WHEELS)]
    assert feeds
    assert all(f < 0.08 for f in feeds)
    assert feeds == sorted(feeds, reverse=True)


def test_leads_are_exact_fractions():
    assert exact_lead(25.4 / 8) == Fraction(254, 80)
    assert exact_lead(25.4 / 5.5) == Fraction(254, 55)
    assert exact_lead(10.0) == 10


@pytest.mark.parametrize("text", ["20 24 x", "8 24", "20 300"])
def test_a_wheel_that_is_none_is_refused_in_words(text):
    with pytest.raises(InputError, match="list the wheels"):
        wheels_from(text)


def test_a_list_of_one_wheel_and_a_lead_of_nothing_are_refused():
    with pytest.raises(InputError, match="list the change gears"):
        find_trains(EIGHT_TPI, Fraction(1), (40,))
    with pytest.raises(InputError, match="lead"):
        find_trains(EIGHT_TPI, Fraction(0), WHEELS)


# starts -------------------------------------------------------------------------------------------


def test_half_nuts_index_a_double_thread_only_where_it_comes_out_whole():
    quarter = {i.key: i for i in indexings(Fraction(254, 40), 2, dial_of(Workshop()), None, UnitSystem.INCH)}
    assert quarter["dial"].is_possible
    assert "1 lead screw thread" in quarter["dial"].how
    metric = {i.key: i for i in indexings(Fraction(10), 2, dial_of(Workshop()), None, UnitSystem.METRIC)}
    assert not metric["dial"].is_possible


@given(st.integers(2, 6), st.integers(2, 12), st.integers(4, 12))
def test_the_half_nuts_shift_lands_exactly_on_the_next_start(starts, tpi, screw):
    lead = Fraction(starts, tpi)
    for way in indexings(lead, starts, ThreadDial(Fraction(1, screw), 32, 8), None, UnitSystem.INCH):
        if way.key == "dial" and way.is_possible:
            n = int(way.how.split("move ")[1].split()[0])
            assert ((Fraction(n, screw) - lead / starts) / lead).denominator == 1


def test_the_first_wheel_indexes_where_its_teeth_divide():
    train = next(t for t in find_trains(EIGHT_TPI, Fraction(254, 130), WHEELS) if t.drivers[0] % 2 == 0)
    ways = {i.key: i for i in indexings(Fraction(254, 65), 2, dial_of(Workshop()), train, UnitSystem.INCH)}
    assert ways["wheel"].is_possible
    assert f"{train.drivers[0] // 2} teeth" in ways["wheel"].how
    assert indexings(Fraction(5), 1, dial_of(Workshop()), train, UnitSystem.INCH) == ()
    with pytest.raises(InputError):
        indexings(Fraction(5), 0, dial_of(Workshop()), train, UnitSystem.INCH)
    assert math.isclose(float(Fraction(254, 65)), 25.4 / 6.5)
