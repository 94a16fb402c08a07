"""Several readings typed at once land a place each, or all at one, and what is one reading stays one."""

from __future__ import annotations

import pytest

from tests.subjects import SUBJECTS
from trebb.core.errors import InputError
from trebb.core.survey import set_up
from trebb.core.survey.several import several_typed
from trebb.core.units import THOU_MM, UnitSystem

INCH = UnitSystem.INCH


def landed(key, places, text, subject=None):
    s = set_up(key)
    return [
        (x.place, x.raw) for x in several_typed(s, subject or SUBJECTS["screw_drive"], places, text, INCH)
    ]


STATIONS = [f"station {i}" for i in range(2, 6)]


@pytest.mark.parametrize(
    ("text", "thou"),
    [
        ("12 13 14", (12, 13, 14)),
        ("12 thou 13 thou 14.5", (12, 13, 14.5)),
        (".012, .013, .0145", (12, 13, 14.5)),
        ("12 6 tenths .014", (12, 0.6, 14)),
    ],
)
def test_they_go_onward_a_place_each(text, thou):
    found = landed("push_pull", STATIONS, text)
    assert [place for place, _ in found] == STATIONS[:3]
    assert [raw / THOU_MM for _, raw in found] == pytest.approx(thou)


@pytest.mark.parametrize(("places", "text"), [(STATIONS, "12; 13; 14"), (["collar"], "12 13 14")])
def test_with_semicolons_or_one_place_they_are_all_of_it(places, text):
    key = "push_pull" if len(places) > 1 else "end_float"
    found = landed(key, places, text)
    assert [place for place, _ in found] == [places[0]] * 3
    assert [raw / THOU_MM for _, raw in found] == pytest.approx((12, 13, 14))


@pytest.mark.parametrize("text", ["12", "1 1/8 in", "1 ft 2 in", "", "12 thou", "½"])
def test_what_is_one_is_no_several(text):
    assert landed("push_pull", STATIONS, text) == []


@pytest.mark.parametrize("text", ["1 to 2 thou", "2 to 1 thou", "-6 thou at 45", "between 1 and 2"])
def test_what_a_word_joins_is_one_even_where_it_will_not_do(text):
    assert landed("push_pull", STATIONS, text) == []


def test_between_semicolons_stands_whatever_one_reading_may_be():
    found = landed("push_pull", STATIONS, "1 to 2 thou; 1 1/8 in;")
    assert [raw / THOU_MM for _, raw in found] == pytest.approx((1.5, 1125.0))


def test_more_than_there_are_places_says_what_would_do():
    with pytest.raises(InputError, match=r"5 readings.*4 places.*semicolons"):
        landed("push_pull", STATIONS, "1 2 3 4 5")


def test_one_of_them_that_will_not_do_is_named_and_none_lands():
    with pytest.raises(InputError, match="13 kg"):
        landed("push_pull", STATIONS, "12 13 kg 14")
