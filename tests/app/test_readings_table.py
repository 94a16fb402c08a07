"""Many readings at once: typed or pasted into a table, shown as they count, taken in one gesture."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLineEdit, QPushButton

from tests.app.conftest import press
from trebb.app.survey.readings_table import FIRST, ReadingsTable

CTRL = Qt.KeyboardModifier.ControlModifier


def opened(window, assembly="ways", key="ridge") -> ReadingsTable:
    frame = window.frame
    frame.session.choose(assembly)
    frame.go_to("survey").bench.choose_set_up(key)
    press(frame, Qt.Key.Key_K, CTRL)
    return next(p for p in frame.findChildren(ReadingsTable) if p.isVisible())


def counts(page: ReadingsTable) -> list[str]:
    last = page.grid.columnCount() - 1
    return [page.grid.item(row, last).text() for row in range(page.grid.rowCount())]


def test_a_sheet_is_pasted_shown_and_taken_whole(make_window):
    window = make_window("new")
    session = window.frame.session
    page = opened(window)
    QGuiApplication.clipboard().setText("0\t0\n.5\t.6\n1 tenth\n0.05 mm\n")
    press(page.grid, Qt.Key.Key_V, CTRL)
    assert counts(page)[:4] == ["0.0  0.0", "0.5  0.6", "0.1", "2.0"]
    assert page.take_button.text() == "Take 6"
    assert not session.job.all_readings()
    page.findChild(QPushButton, "table_take").click()
    taken = session.job.standing("ways", "ridge", "before")
    assert [len(p.values) for p in taken] == [2, 2, 1, 1]
    session.undo()  # one gesture
    assert not session.job.standing("ways", "ridge", "before")


def test_what_will_not_do_is_said_where_it_stands_and_the_rest_counts(make_window):
    page = opened(make_window("new"))
    page.grid.paste("1\nabc\n2\n1 ft")
    assert page.take_button.text() == "Take 2"
    assert "abc" in page.banner.text.text()
    assert page.grid.item(1, FIRST).toolTip()
    assert not page.grid.item(0, FIRST).toolTip()
    page.take()
    kept = page._session.job.standing("ways", "ridge", "before")
    assert [p.place for p in kept] == ["front way, station 0", "front way, station 2"]


def test_what_is_asked_about_counts_only_when_it_is_said(make_window):
    window = make_window("new")
    page = opened(window, "cross_slide", "end_float")
    page.grid.paste("2\t90")
    assert page.with_asked.isVisible()
    assert page.take_button.text() == "Take 1"
    page.with_asked.click()
    assert page.take_button.text() == "Take 2"


def test_enter_goes_down_and_from_the_last_place_to_the_next_column(make_window):
    page = opened(make_window("new"))
    grid = page.grid
    assert (grid.currentRow(), grid.currentColumn()) == (0, FIRST)
    QTest.keyClicks(grid, "3")
    press(grid.findChild(QLineEdit), Qt.Key.Key_Return)
    assert counts(page)[0] == "3.0"
    assert (grid.currentRow(), grid.currentColumn()) == (1, FIRST)
    grid.setCurrentCell(grid.rowCount() - 1, FIRST)
    press(grid, Qt.Key.Key_Return)
    assert (grid.currentRow(), grid.currentColumn()) == (0, FIRST + 1)


def test_what_was_read_before_is_shown_and_not_added_to(make_window):
    window = make_window("demo")
    page = opened(window, "cross_slide", "lash")
    read = [page.grid.item(row, 1).text() for row in range(page.grid.rowCount())]
    assert any(read)
    assert page.typed == []
    unread = next(row for row, words in enumerate(read) if not words) if "" in read else 0
    assert page.grid.currentRow() == unread
