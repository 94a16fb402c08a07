"""What to read before repairs are chosen, against the exact value of a reading of one source."""

from __future__ import annotations

import pytest

from trebb.core.belief.deciding import Doubt, Matter, Repair, ToRead
from trebb.core.condition import Candidate, Change, ErrorModel, Row, Shift, Source, estimate
from trebb.core.work import WorkRow
from trebb.core.work.reading import LOST, Way, first_read

HOUR = 15.0
MEND = Change({"x": Shift(0.0, 0.002)})


def believed(mean: float, sd: float):
    return estimate(ErrorModel((Source("x", "x", mean, sd), Source("idle", "idle", 0.0, 1.0))), [])


def exact(mean: float, sd: float, limit: float, reading_sd: float, worth: float, minutes: float) -> Matter:
    return Matter(
        limit,
        LOST * worth,
        HOUR,
        {"x": Doubt(1.0, mean, sd)},
        {"leave": Repair(0.0, 0.0, 1e-9, {}), "mend": Repair(worth, 0.0, 0.002, {"x": 0.0})},
        {"x": ToRead(minutes, reading_sd)},
    )


@pytest.mark.parametrize(
    ("mean", "sd", "limit", "reading_sd"),
    [(0.0, 0.02, 0.02, 0.003), (0.015, 0.02, 0.02, 0.005), (0.03, 0.015, 0.02, 0.002)],
)
def test_a_reading_of_one_source_is_worth_what_the_exact_integral_says(mean, sd, limit, reading_sd):
    minutes, worth = 10.0, 900.0
    rows = (WorkRow("taper", ({"x": 1.0},), {"x": "x"}, {"x": "bar"}),)
    bar = Candidate("bar", (Row({"x": 1.0}, reading_sd),), minutes)
    idle = Candidate("idle", (Row({"idle": 1.0}, 0.1),), 1.0)
    found = first_read(
        believed(mean, sd), [Way((), 0.0), Way((MEND,), worth)], rows, (limit,), [idle, bar], HOUR
    )
    assert found is not None
    assert found.lots == ("bar",)
    gain = exact(mean, sd, limit, reading_sd, worth, minutes).gain("x")
    assert found.saves == pytest.approx(gain, rel=0.25)
    assert {found.now, found.then} == {0, 1}


def test_nothing_is_read_first_where_the_choice_cannot_change():
    rows = (WorkRow("taper", ({"x": 1.0},), {"x": "x"}, {"x": "bar"}),)
    bar = Candidate("bar", (Row({"x": 1.0}, 0.002),), 10.0)
    ways = [Way((), 0.0), Way((MEND,), 900.0)]
    assert first_read(believed(0.0, 0.002), ways, rows, (0.05,), [bar], HOUR) is None
    assert first_read(believed(0.2, 0.002), ways, rows, (0.05,), [bar], HOUR) is None
    assert first_read(believed(0.0, 0.05), ways[:1], rows, (0.05,), [bar], HOUR) is None


def test_two_that_only_together_decide_are_read_together():
    model = ErrorModel((Source("x", "x", 0.0, 0.05), Source("y", "y", 0.0, 0.05)))
    rows = (
        WorkRow("taper", ({"x": 1.0},), {"x": "x"}, {"x": "bar"}),
        WorkRow("face", ({"y": 1.0},), {"y": "y"}, {"y": "cross"}),
    )
    both = Change({"x": Shift(0.0, 0.002), "y": Shift(0.0, 0.002)})
    lots = [Candidate(k, (Row({s: 1.0}, 0.001),), 5.0) for k, s in (("bar", "x"), ("cross", "y"))]
    ways = [Way((), 0.0), Way((both,), 600.0)]
    found = first_read(estimate(model, []), ways, rows, (0.03, 0.03), lots, HOUR)
    assert found is not None
    assert set(found.lots) == {"bar", "cross"}
