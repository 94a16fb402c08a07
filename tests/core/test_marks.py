"""Marks that must meet, by what is said of them."""

from __future__ import annotations

import pytest

from trebb.core.errors import InputError
from trebb.core.fitup.marks import Apart, apart_read, judged, refuse_unread
from trebb.core.machine import State


@pytest.mark.parametrize(
    ("text", "read"),
    [
        ("2 div late", Apart(2.0, "div")),
        ("half a line", Apart(0.5, "")),
        ("half a", None),
        ("−1.5°", Apart(-1.5, "°")),
        ("0,5 div", Apart(0.5, "div")),
        ("5 thou", Apart(0.127, "mm")),
        ("1 tooth early", Apart(1.0, "teeth")),
        ("meets", Apart(0.0, "")),
        ("0", Apart(0.0, "")),
        ("3", None),
        ("late by two", None),
        ("", None),
    ],
)
def test_figures_as_they_are_said(text, read):
    found = apart_read(text)
    if read is None or found is None:
        assert found is read
    else:
        assert found.value == pytest.approx(read.value)
        assert found.unit == (read.unit or found.unit)


@pytest.mark.parametrize(
    ("again", "allowed", "state"),
    [
        ("0.5 div", "0.5 div", State.WITHIN),
        ("-0.6 div", "0.5 div", State.BEYOND),
        ("meets", "2°", State.WITHIN),
        ("1 tooth", "2°", State.UNKNOWN),  # of other units: nothing is said
        ("3 thou", "0.1 mm", State.WITHIN),
        ("5 thou", "0.1 mm", State.BEYOND),
        ("looks right", "1 div", State.UNKNOWN),
        ("2 div", "", State.UNKNOWN),
    ],
)
def test_marks_meet_by_what_may_be_left(again, allowed, state):
    assert judged(again, allowed) is state


def test_what_is_no_figure_is_refused():
    refuse_unread("")
    refuse_unread("1 div")
    with pytest.raises(InputError, match="with its unit"):
        refuse_unread("a bit")
