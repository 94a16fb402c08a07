"""Readings from a spreadsheet: seen before they are taken, taken in one gesture."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QLabel

from trebb.app.window.bring_in import BringIn

GOOD = "set_up\tplace\tvalue_thou\nend_float\tcollar\t12,5\nend_float\tcollar\t13\n"


@pytest.fixture
def page(make_window):
    window = make_window("new")
    window.frame.session.choose("cross_slide")
    window.frame.go_to("survey")
    QGuiApplication.clipboard().setText("nothing of ours")
    window.frame.bring_in()
    QApplication.processEvents()
    return next(w for w in window.frame.children() if isinstance(w, BringIn))


def said(page) -> str:
    QApplication.processEvents()
    return " ".join(w.text() for w in page.findChildren(QLabel) if w.isVisible())


def test_what_is_pasted_is_shown_and_taken_whole_and_undone_whole(page):
    session = page._session
    assert page.text.toPlainText() == ""
    page.text.setPlainText(GOOD)
    assert "2 readings are understood." in said(page)
    assert "12.5 thou" in said(page)
    assert session.job.readings("cross_slide", "end_float") == []
    page.take()
    assert [round(r.taken.value / 0.0254, 2) for r in session.job.readings("cross_slide", "end_float")] == [
        12.5,
        13,
    ]
    session.undo()
    assert all(r.struck for r in session.job.readings("cross_slide", "end_float"))


def test_lines_that_will_not_do_are_named_and_left_out(page):
    page.text.setPlainText(GOOD + "end_float\tnose\t3\nboat\tcollar\t3\n")
    assert "2 lines would be left out" in said(page)
    assert "left out: line 4" in said(page)
    page.take()
    assert len(page._session.job.readings("cross_slide", "end_float")) == 2


def test_what_is_no_list_is_said_and_cannot_be_taken(page):
    page.text.setPlainText("dear fitter,\nplease find")
    assert "Nothing of this can be taken" in said(page)
    assert not page.take_button.isEnabled()
    page.take()
    assert page._session.job.all_readings() == []


def test_files_by_their_content(page, tmp_path):
    path = tmp_path / "a.csv"
    path.write_bytes(b"\xef\xbb\xbf" + GOOD.replace("\t", ";").encode())
    page.read(path)
    assert "2 readings" in said(page)
    path.write_bytes(b"\xff\xfe\x00")
    page.read(path)
    assert "no text in UTF-8" in said(page)
    page.read(tmp_path / "none.csv")
    assert "cannot be read" in said(page)


def test_the_clipboard_is_looked_at_first_and_escape_takes_nothing(make_window):
    window = make_window("new")
    window.frame.session.choose("cross_slide")
    QGuiApplication.clipboard().setText(GOOD)
    window.frame.bring_in()
    page = next(w for w in window.frame.children() if isinstance(w, BringIn))
    assert "2 readings" in said(page)
    QTest.keyClick(page, Qt.Key.Key_Escape)
    QApplication.processEvents()
    assert window.frame.session.job.all_readings() == []


def test_it_covers_the_job_whatever_size_the_window_takes(page):
    frame = page.parentWidget()
    frame.window().resize(1400, 900)
    QApplication.processEvents()
    assert page.geometry() == frame.rect()
