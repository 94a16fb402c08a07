"""Trials: by hand, on drawn machines with a fault, and the table that ships."""

from __future__ import annotations

import numpy as np
import pytest

from trebb.core.machine import KINDS
from trebb.core.suspects.trials import FALSE_ALARM, SHARE, SHOWS, Trial, told_by
from trebb.logbook.plan.trials import trials_table

TABLE = trials_table()
LINE = [t for t in TABLE.trials if t.about == "line" and "lathe" in t.kinds]
TWO = (
    Trial("both", "Both", 5, "line", ("a", "b"), "good", "bad"),
    Trial("one", "One", 5, "line", ("a",), "good", "bad"),
)


def test_two_parts_by_hand():
    assert told_by(TWO, {}) is None
    # Sets a, b, ab, as their odds; the first trial bad says nothing between them, the second clears a.
    odds = SHARE / (1 - SHARE)
    told = told_by(TWO, {"both": False, "one": True})
    clean, shown = 1 - FALSE_ALARM, 1 - SHOWS
    a, b, ab = odds * SHOWS * shown, odds * SHOWS * clean, odds**2 * SHOWS * shown
    assert told.chances["a"] == pytest.approx((a + ab) / (a + b + ab))
    assert told.chances["b"] == pytest.approx((b + ab) / (a + b + ab))
    assert told.chances["a"] < 0.15
    assert told.left == ("b",)
    assert told_by(TWO, {"both": False}).following.key == "one"


def test_two_straight_lands_and_a_bar_that_is_off_leave_bar_or_taper_and_a_second_bar_decides():
    told = told_by(LINE, {"two_lands": True, "bar_swept": False})
    assert {"head", "bed", "gib"} <= set(told.cleared)
    assert set(told.left) == {"bar", "taper"}
    assert told_by(LINE, {"two_lands": True, "bar_swept": False, "second_bar": True}).left == ("bar",)
    assert told_by(LINE, {"two_lands": True, "bar_swept": False, "second_bar": False}).left == ("taper",)


def test_trials_that_deny_each_other_say_so():
    told = told_by(LINE, {"two_lands": True, "bar_swept": False, "bar_half": True})
    assert told.is_denied
    assert not told.left
    assert not told_by(LINE, {"two_lands": True, "bar_swept": False}).is_denied


@pytest.mark.parametrize(("kind", "about"), [("lathe", "line"), ("lathe", "finish"), ("mill", "finish")])
def test_drawn_machines_are_found_by_the_trials_it_asks_for(kind, about):
    rng = np.random.default_rng(4)
    trials = [t for t in TABLE.trials if t.about == about and kind in t.kinds]
    parts = sorted({p for t in trials for p in t.hangs_on})
    named = cleared_wrongly = count = 0
    for _ in range(100):
        fault = str(rng.choice(parts))
        if not any(fault in t.hangs_on for t in trials):
            continue
        came: dict[str, bool] = {}
        trial = next(t for t in trials if fault in t.hangs_on)  # what complains: it came bad
        while trial is not None and len(came) < len(trials):
            shows = (1.0 if not came else 0.93) if fault in trial.hangs_on else 0.05
            came[trial.key] = bool(rng.random() >= shows)
            told = told_by(trials, came)
            trial = told.following
        count += 1
        named += bool(told.left) and told.left[0] == fault
        cleared_wrongly += fault in told.cleared
    assert named / count >= 0.6  # of some the table has no trial that parts them
    assert cleared_wrongly / count <= 0.05


def test_every_row_of_the_table_stands():
    assert len({t.key for t in TABLE.trials}) == len(TABLE.trials)
    for t in TABLE.trials:
        assert set(t.hangs_on) <= set(TABLE.parts), t.key
        assert t.about in TABLE.complaints
        assert set(t.kinds) <= set(KINDS)
    for kind in KINDS:
        assert any(kind in t.kinds for t in TABLE.trials)
