"""Lines as instruments write them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from trebb.instruments import FORMATS, LineFormat, ProtocolError, format_line, parse_line


@pytest.mark.parametrize(
    ("line", "key", "value", "unit"),
    [
        ("+0.123", "mm", 0.123, "mm"),
        ("-1.5 mm", "inch", -1.5, "mm"),
        ("+.0021", "inch", 0.05334, "mm"),
        ("-42", "micron", -0.042, "mm"),
        ("+00123", "implied", 0.123, "mm"),
        ("+1.230", "implied", 1.23, "mm"),
        ("D+0.123", "prefixed", 0.123, "mm"),
        ("  24.5 div\r", "mm", 24.5, "div"),
        ("0,125 in", "mm", 3.175, "mm"),
    ],
)
def test_a_line_is_read_in_its_format(line, key, value, unit):
    sample = parse_line(line, FORMATS[key])
    assert (sample.value, sample.unit) == (pytest.approx(value), unit)


def test_a_reversed_indicator_counts_the_other_way():
    assert parse_line("+1.0", LineFormat("r", "reversed", is_reversed=True)).value == -1.0


@pytest.mark.parametrize("line", ["", "OK", "1.2.3", "+-4", "12 lb", "\ufffd\ufffd1", "9" * 80, "1e5"])
def test_noise_is_refused_with_what_was_expected(line):
    with pytest.raises(ProtocolError, match="expected millimetres"):
        parse_line(line, FORMATS["mm"])


def test_a_missing_prefix_is_named():
    with pytest.raises(ProtocolError, match="does not begin with D"):
        parse_line("+0.123", FORMATS["prefixed"])


def test_a_reading_no_indicator_can_show_is_refused():
    with pytest.raises(ProtocolError, match="more than any instrument reads"):
        parse_line("999999", FORMATS["mm"])


@given(st.floats(-50, 50, allow_nan=False))
def test_what_the_simulated_indicator_writes_reads_back(value):
    assert parse_line(format_line(value, "mm", 5), FORMATS["inch"]).value == pytest.approx(value, abs=5.1e-6)
