"""How a figure with its interval stands to its limit."""

from __future__ import annotations

import pytest

from trebb.core.condition import Quantity
from trebb.core.findings import Measure
from trebb.core.machine import RatedLimit, State
from trebb.core.machine.limits import judged

LIMIT = RatedLimit("slack", "Slack", 10.0, "by hand")


@pytest.mark.parametrize(
    ("value", "half", "state"),
    [
        (5.0, 1.0, State.WITHIN),
        (9.5, 0.4, State.NEAR),
        (10.5, 0.4, State.BEYOND),
        (9.8, 3.0, State.NEAR),  # a third of the limit: it is near, whichever side
        (10.4, 3.0, State.BEYOND),
        (9.0, 5.0, State.UNKNOWN),  # half the limit, and hardly likelier under it than over
        (10.9, 5.0, State.UNKNOWN),
        (13.0, 5.0, State.BEYOND),  # three in four and more
        (7.0, 5.0, State.NEAR),
        (13.0, 6.5, State.UNKNOWN),  # too wide for either
        (20.0, 6.5, State.BEYOND),  # wide, but all of it over
    ],
)
def test_the_interval_decides_and_an_even_chance_is_left_open(value, half, state):
    assert judged(value, value - half, value + half, 10.0) is state


def test_what_is_expected_is_never_judged_and_what_is_read_in_part_only_where_it_is_over():
    over, under = (Quantity(v, 1.0, v - 2.0, v + 2.0) for v in (20.0, 3.0))
    unread = (("slack", "push_test"),)
    assert Measure("slack", "Slack", LIMIT, over, unread, is_expected=True).state is State.UNKNOWN
    assert Measure("slack", "Slack", LIMIT, over, unread).state is State.BEYOND
    assert Measure("slack", "Slack", LIMIT, under, unread).state is State.UNKNOWN
    assert Measure("slack", "Slack", LIMIT, under).state is State.WITHIN
