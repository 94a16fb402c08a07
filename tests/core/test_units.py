"""Lengths as people write them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from trebb.core.units import (
    DialScale,
    LengthError,
    UnitSystem,
    parse_count,
    parse_length,
    show_minutes,
    show_size,
    show_sizes,
    show_small,
    show_uncertain,
)

INCH, METRIC = UnitSystem.INCH, UnitSystem.METRIC
DIAL = DialScale(125, 3.175)


@pytest.mark.parametrize(
    ("text", "mm"),
    [
        ("2 thou", 0.0508),
        ("6 tenths", 0.01524),
        (".0006", 0.01524),
        ("1-1/8", 28.575),
        ("1 1/8", 28.575),
        ("27/64", 10.715625),
        ("0.05 mm", 0.05),
        ("0,05 mm", 0.05),
        ("5 µm", 0.005),
        ("5 um", 0.005),
        ("12 div", 0.3048),
        ("−3 thou", -0.0762),
        ('3/4"', 19.05),
        ("2.5 cm", 25.0),
        ("1 ft", 304.8),
        (" 0.75in ", 19.05),
        ("7.", 177.8),
    ],
)
def test_a_length_is_read_as_written(text, mm):
    assert parse_length(text, INCH, dial=DIAL) == pytest.approx(mm, rel=1e-12)


def test_a_bare_number_takes_the_shop_unit_or_the_field_unit():
    assert parse_length("2", METRIC) == 2.0
    assert parse_length("2", INCH) == 50.8
    assert parse_length("2", INCH, bare_mm=0.0254) == 0.0508


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "nothing: write a length"),
        ("a bit", "write a length"),
        ("3 kg", "“kg” is not a length"),
        ("3 flurbs", "no unit of length known"),
        ("1,250", r"write 1\.250 or 1250"),
        ("1/0", "over nothing"),
        ("12 thou 3", "write a length"),
        ("2 °C", "not a length|no unit|write a length"),
    ],
)
def test_what_is_no_length_is_refused_with_what_would_do(text, said):
    with pytest.raises(LengthError, match=said):
        parse_length(text, INCH)


def test_divisions_need_a_dial():
    with pytest.raises(LengthError, match="no dial is known here"):
        parse_length("12 div", INCH)


def test_a_dial_that_reads_diameter_moves_the_slide_no_further():
    assert DialScale(100, 2.54, True).division_mm == DialScale(100, 2.54, False).division_mm


def test_a_dial_without_divisions_or_lead_is_refused():
    with pytest.raises(ValueError, match="at least one division"):
        DialScale(0, 2.54)
    with pytest.raises(ValueError, match="more than nothing"):
        DialScale(100, 0.0)


@pytest.mark.parametrize(
    ("shown", "text"),
    [
        (show_small(0.305, INCH), "12.0 thou"),
        (show_small(0.305, METRIC), "305 µm"),
        (show_small(-0.0254, INCH, signed=True), "−1.0 thou"),
        (show_size(19.05, INCH), "0.7500 in"),
        (show_size(19.05, METRIC), "19.050 mm"),
        (show_uncertain(0.305, 0.0001, INCH), "12.0 ± 0.1 thou"),
        (show_uncertain(0.305, 0.015, METRIC), "305 ± 15 µm"),
        (show_minutes(25), "25 min"),
        (show_minutes(200), "3 h 20"),
        (show_small(0.305, INCH, resolution_mm=0.0254), "12 thou"),
        (show_small(-0.00001, INCH), "0.0 thou"),
    ],
)
def test_a_length_is_shown_in_the_shop_unit(shown, text):
    assert shown == text


@given(st.floats(-50, 50, allow_nan=False), st.sampled_from(UnitSystem))
def test_what_is_shown_reads_back_to_its_last_place(mm, system):
    assert parse_length(show_size(mm, system), system) == pytest.approx(
        mm, abs=0.00128 if system is INCH else 0.00051
    )
    assert parse_length(show_small(mm, system), system) == pytest.approx(
        mm, abs=0.00128 if system is INCH else 0.00051
    )


def test_a_count_is_whole_and_in_range():
    assert parse_count(" 125 ", "the dial") == 125
    with pytest.raises(ValueError, match="the dial is a whole number from 1"):
        parse_count("12.5", "the dial")
    with pytest.raises(ValueError, match="from 1 to 12"):
        parse_count("0", "starts", high=12)


@pytest.mark.parametrize(
    ("low", "high", "system", "shown"),
    [
        (35.007, 35.032, INCH, "1.3782 to 1.3792 in"),
        (19.9892, 19.9908, INCH, "0.78698 to 0.78704 in"),
        (35.007, 35.032, METRIC, "35.007 to 35.032 mm"),
        (19.99984, 20.00032, METRIC, "19.9998 to 20.0003 mm"),
    ],
)
def test_two_limits_of_a_size_never_read_alike(low, high, system, shown):
    assert show_sizes(low, high, system) == shown
