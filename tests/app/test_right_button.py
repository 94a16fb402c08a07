"""The right button offers what can be done and copied where it is pressed, and presses nothing itself."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QContextMenuEvent, QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QMenu

SCREW = "cross_slide"


@pytest.fixture
def frame(make_window):
    frame = make_window().frame
    frame.session.choose(SCREW)
    return frame


def menu_at(widget, at: QPoint) -> QMenu:
    QTest.mouseClick(widget, Qt.MouseButton.RightButton, pos=at)
    QApplication.sendEvent(
        widget, QContextMenuEvent(QContextMenuEvent.Reason.Mouse, at, widget.mapToGlobal(at))
    )
    return (widget.findChildren(QMenu) or widget.parentWidget().findChildren(QMenu))[-1]


def press(menu: QMenu, words: str) -> None:
    next(a for a in menu.actions() if a.text().startswith(words)).trigger()
    menu.close()


def test_a_list_s_line_and_all_of_it_are_copied_as_a_spreadsheet_takes_them(frame):
    rows = frame.machine.list
    rows.fill()
    QApplication.processEvents()
    press(menu_at(rows, QPoint(120, int(rows._row_height() / 2))), "Copy this line")
    assert QGuiApplication.clipboard().text() == "Spindle & taper\t0.6 ± 2.5 thou"
    press(menu_at(rows, QPoint(120, 10)), "Copy the words")
    lines = QGuiApplication.clipboard().text().split("\n")
    assert len(lines) == len(rows.listed())
    assert all(len(line.split("\t")) == 2 for line in lines)
    rows.setFocus()
    QGuiApplication.clipboard().setText("")
    QTest.keyClick(rows, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert QGuiApplication.clipboard().text().split("\n") == lines


def test_the_right_button_chooses_and_strikes_nothing_until_it_is_told(frame):
    bench = frame.go_to("survey").bench
    bench.choose_set_up("lash")
    QApplication.processEvents()
    view = bench.view().findChild(type(bench.view().places)) if hasattr(bench.view(), "places") else None
    places = view or next(w for w in bench.view().findChildren(object) if hasattr(w, "figure_chosen"))
    spot, reading = places._hits[0]
    menu = menu_at(places, spot.center().toPoint())
    assert bench._striking is None
    press(menu, "Strike out")
    assert bench._striking == reading


def test_a_piece_is_taken_off_from_its_row(frame):
    listed = frame.machine.list.listed()
    i = next(i for i, a in enumerate(listed) if a.under)
    rows = frame.machine.list
    QApplication.processEvents()
    before = frame.session.assembly
    menu = menu_at(rows, QPoint(100, int((i + 0.5) * rows._row_height())))
    assert frame.session.assembly == before
    press(menu, "Take")
    assert not frame.session.job.machine.has(listed[i].key)


@pytest.mark.parametrize("stop", ["findings", "parts"])
def test_a_picture_is_copied(frame, stop):
    frame.go_to(stop)
    QApplication.processEvents()
    drawing = getattr(frame.stop, "drawing", None)
    picture = frame.machine.elevation if drawing is None else drawing.viewport()
    QGuiApplication.clipboard().setText("")
    press(menu_at(picture, QPoint(20, 20)), "Copy the picture")
    assert not QGuiApplication.clipboard().image().isNull()
