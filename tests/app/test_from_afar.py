"""Every stop can be read from two metres, and the keys that matter there answer."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QImage
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from trebb.app.stops.register import ALL_STOPS
from trebb.app.window.far_cover import LEAST, FarCover, StopFromAfar
from trebb.logbook.log.entries import RemedyChosen

SCREW = "cross_slide"


@pytest.fixture
def frame(make_window):
    return make_window().frame


def afar(frame) -> FarCover:
    QTest.keyClick(frame, Qt.Key.Key_F11)
    QApplication.processEvents()
    (view,) = [v for v in frame.findChildren(FarCover) if v.isVisible()]
    return view


@pytest.mark.parametrize("stop", [s.key for s in ALL_STOPS])
def test_every_stop_says_something_large_and_escape_goes_back(frame, stop):
    frame.session.choose(SCREW)
    frame.go_to(stop)
    view = afar(frame)
    assert any(not w.is_shape and w.text for w in view.said)
    QTest.keyClick(view, Qt.Key.Key_Escape)
    assert not [v for v in frame.findChildren(FarCover) if v.isVisible()]


def test_words_are_as_large_as_they_can_be_and_none_is_cut(frame):
    frame.session.choose(SCREW)
    frame.go_to("findings")
    view = afar(frame)
    assert isinstance(view, StopFromAfar)
    assert not any(w.is_cut for w in view.said)
    assert LEAST >= 24


def test_at_the_bench_an_operation_is_ticked_and_the_next_one_comes(frame):
    frame.session.choose(SCREW)
    frame.session.record(RemedyChosen(assembly=SCREW, remedy="pair_thrust", reason=""))
    stop = frame.go_to("make")
    first = stop.operation().key
    view = afar(frame)
    QTest.keyClick(view, Qt.Key.Key_D)
    assert first in frame.session.job.steps_done("screw")
    assert stop.operation().key != first
    assert stop.far().head.startswith("20")
    QTest.keyClick(view, Qt.Key.Key_Down)
    assert stop.far().head.startswith("30")


def test_a_size_taken_from_afar_is_said_with_what_is_left(frame):
    frame.session.choose(SCREW)
    frame.session.record(RemedyChosen(assembly=SCREW, remedy="pair_thrust", reason=""))
    stop = frame.go_to("make")
    stop.show_step("thread")
    view = afar(frame)
    QTest.keyClick(view, Qt.Key.Key_Space)
    far = stop.far()
    assert far.numeral == stop.numeral.text() != "–"
    assert far.lines[0] == stop.view().verdict(stop.operation())[1]


def test_a_step_of_fit_up_that_waits_says_for_what(frame):
    frame.session.choose(SCREW)
    stop = frame.go_to("fit_up")
    last = frame.session.case.fit_order()[-1]
    stop.show_step(last.key)
    view = afar(frame)
    assert stop.far().role == "near"
    QTest.keyClick(view, Qt.Key.Key_D)
    assert last.key not in frame.session.job.steps_done(frame.session.case.fit_plan)
    assert any(line.startswith("First") for line in stop.far().lines)


def test_at_strip_down_one_key_keeps_the_newest_picture(frame, tmp_path):
    frame.session.choose("apron")
    stop = frame.go_to("strip_down")
    assert stop._add("Cover", "3 screws", "")
    picture = QImage(20, 20, QImage.Format.Format_RGB32)
    for shade, name in (("red", "old"), ("blue", "new")):
        picture.fill(QColor(shade))
        picture.save(str(tmp_path / f"{name}.png"))
    stop.pictures.watch(tmp_path)
    view = afar(frame)
    assert "no picture yet" in stop.far().lines
    QTest.keyClick(view, Qt.Key.Key_P)
    assert "photographed" in stop.far().lines
