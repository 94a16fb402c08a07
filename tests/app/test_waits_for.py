"""What a stop says while nothing of a part is read, and where it leads."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QPushButton

from trebb.core.machine import State
from trebb.logbook.log.entries import ReadingTaken

STOPS = ("remedies", "parts", "make")


@pytest.mark.parametrize("stop", STOPS)
def test_a_stop_of_an_unread_part_says_what_it_waits_for_and_goes_there(make_window, stop):
    frame = make_window("new").frame
    frame.session.choose("cross_slide")
    shown = frame.go_to(stop)
    assert shown.waiting.isVisible()
    assert "nothing is read yet" in shown.waiting.head.text()
    shown.findChild(QPushButton, "begin").click()
    assert frame.stop_key == "survey"
    assert frame.stop.bench.current.key == "lash"
    (place, *_) = frame.session.case.places("lash")
    frame.session.record(ReadingTaken("cross_slide", "lash", place.key, "before", 3.0, "div"))
    assert not frame.go_to(stop).waiting.isVisible()


def test_of_an_unread_part_no_remedy_has_a_figure_a_risk_or_a_mark(make_window):
    frame = make_window("new").frame
    frame.session.choose("cross_slide")
    shown = frame.go_to("remedies")
    assert all(r.state is State.UNKNOWN for r in shown.rows.rows)
    assert "thou" not in shown.left.text() + shown.risk.text()
    assert not shown.pictures.isVisible()


def test_a_part_with_stated_facts_is_not_called_unread(make_window):
    frame = make_window("demo").frame
    frame.session.choose("cross_slide")
    assert not frame.go_to("parts").waiting.isVisible()
