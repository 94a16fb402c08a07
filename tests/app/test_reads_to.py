"""What an instrument reads to is chosen in the pod; readings are taken as people say them."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QComboBox

from tests.app.hand import Hand
from trebb.core.units import THOU_MM, UnitSystem


@pytest.fixture
def hand(make_window):
    return Hand(make_window, "lathe", UnitSystem.INCH)


def test_a_step_chosen_in_the_pod_is_kept_with_the_readings_and_widens_them(hand):
    hand.read("cross_slide", "end_float", "collar", 2.3)
    pod = hand.frame.stop.pod
    pod._toggle_sources()
    steps = pod.sources.findChild(QComboBox, "reads_to")
    assert steps.itemText(0).startswith("Reads to: as its figures fall")
    at = next(i for i in range(steps.count()) if steps.itemData(i) == pytest.approx(0.5 * THOU_MM))
    steps.setCurrentIndex(at)
    steps.activated.emit(at)
    assert "to 0.5 thou" in pod.source.text()
    pod._toggle_sources()
    hand.read("cross_slide", "end_float", "collar", 2.5, 2.5)
    taken = hand.session.job.readings("cross_slide", "end_float")
    assert [r.taken.resolution_mm for r in taken] == [0.0, *[pytest.approx(0.5 * THOU_MM)] * 2]
    hand.session.undo()
    hand.session.undo()
    assert hand.session.step_mm(hand.frame.stop.bench.current) == pytest.approx(0.5 * THOU_MM)


def test_what_lies_between_two_is_taken_and_shown_as_it_was_said(hand):
    hand.read("cross_slide", "end_float", "collar", "1 to 2 tenths")
    (taken,) = (r.taken for r in hand.session.job.readings("cross_slide", "end_float"))
    assert taken.value == pytest.approx(0.15 * THOU_MM)
    assert taken.resolution_mm == pytest.approx(0.1 * THOU_MM)
    (row,) = hand.frame.stop.bench.view().places._rows
    assert row.figures[0].text == "1 to 2 tenths"
    hand.read("cross_slide", "push_pull", "station 1", "under 2 thou", "half a thou")
    values = hand.session.job.standing("cross_slide", "push_pull")[0].values
    assert values == (pytest.approx(1.0 * THOU_MM), pytest.approx(0.5 * THOU_MM))
    pod = hand.frame.stop.pod
    pod.take_typed("2 to 1 tenths")
    assert "the smaller first" in pod.refusal.text()


def test_the_button_beside_what_is_to_be_read_first_goes_there(hand):
    hand.state("cross_slide", pitch_mm="8 tpi", divisions="125")
    hand.read("cross_slide", "lash", "station 3", "12 div", "12 div")
    stop = hand.frame.go_to("remedies")
    assert stop.first.text().startswith("Read first: ")
    lot = hand.session.case.advice_now().lot
    stop.read_it.click()
    assert hand.frame.stop_key == "survey"
    assert hand.frame.stop.bench.current.key == lot.split("/")[0]
