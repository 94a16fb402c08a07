"""What stands behind the strip's button, keys that a desktop knows, and what is dropped on the window."""

from __future__ import annotations

import json

import pytest
from openpyxl import load_workbook
from PySide6.QtCore import QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QDragEnterEvent, QDropEvent, QGuiApplication, QImage, QKeySequence, QShortcut
from PySide6.QtWidgets import QFileDialog, QMenu

from tests.app.conftest import picture, press
from trebb.app.help.cover import HelpCover
from trebb.app.window.bring_in import BringIn
from trebb.app.window.menu import WRITTEN_AS, write_out
from trebb.logbook.exchange.readings_csv import readings_from_csv, readings_to_csv
from trebb.logbook.exchange.spreadsheet import readings_text
from trebb.logbook.log.entries import NumberOneNamed


def shown_menu(frame) -> QMenu:
    frame.strip.menu.click()
    return frame.findChild(QMenu)


def drop(window, *paths) -> bool:
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path)) for path in paths])
    keys, buttons = Qt.KeyboardModifier.NoModifier, Qt.MouseButton.LeftButton
    entered = QDragEnterEvent(QPoint(9, 9), Qt.DropAction.CopyAction, data, buttons, keys)
    entered.ignore()
    window.dragEnterEvent(entered)
    if entered.isAccepted():
        window.dropEvent(QDropEvent(QPointF(9, 9), Qt.DropAction.CopyAction, data, buttons, keys))
    return entered.isAccepted()


def test_every_key_of_the_menu_is_a_key_of_the_window(make_window):
    window = make_window("demo")
    menu = shown_menu(window.frame)
    answered = {
        QKeySequence(s.key()).toString() for s in window.findChildren(QShortcut) if s.parent() is not None
    }
    actions = [a for a in menu.actions() if not a.isSeparator()]
    assert len(actions) >= 14
    for action in actions:
        assert action.shortcut().isEmpty() or action.shortcut().toString() in answered, action.text()
    asked = next(a for a in actions if a.text() == "Help")
    asked.trigger()
    menu.close()
    assert window.findChild(HelpCover) is not None


@pytest.mark.parametrize("key", [one[0] for one in WRITTEN_AS])
def test_a_job_is_written_out_and_what_is_written_is_whole(make_window, tmp_path, key):
    window = make_window("demo")
    session = window.frame.session
    out = tmp_path / f"out.{key}"
    write_out(session, key, out, window)
    assert str(out) in window.frame.trouble.head.text()
    readings = len([r for r in session.job.all_readings() if not r.struck])
    if key == "json":
        assert json.loads(out.read_text(encoding="utf-8"))["entries"]
    elif key == "csv":
        assert out.read_text(encoding="utf-8") == readings_to_csv(session.job)
    else:
        assert "To bring in" in load_workbook(out).sheetnames
        assert len(readings_from_csv(readings_text(out), session.cases).readings) == readings
    write_out(session, key, tmp_path / "nowhere" / "x", window)
    assert "Not written" in window.frame.trouble.head.text()


def test_keys_that_a_desktop_knows_are_answered(make_window, monkeypatch):
    window = make_window("demo")
    frame = window.frame
    press(frame, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert "Nothing needs saving" in frame.trouble.head.text()
    frame.session.choose("ways")
    frame.session.record(NumberOneNamed(assembly="ways"))
    frame.session.undo()
    assert frame.session.job.number_one != "ways"
    press(frame, Qt.Key.Key_Y, Qt.KeyboardModifier.ControlModifier)
    assert frame.session.job.number_one == "ways"
    press(window, Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    cover = next(c for c in window.findChildren(HelpCover) if c.isVisible())
    press(cover, Qt.Key.Key_Escape)
    asked = []
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a: asked.append(a) or ("", ""))
    press(frame, Qt.Key.Key_O, Qt.KeyboardModifier.ControlModifier)
    assert len(asked) == 1
    assert window.frame is frame


def test_a_job_readings_and_a_picture_are_dropped_where_they_belong(make_window, tmp_path):
    window = make_window("demo")
    session = window.frame.session
    assert not drop(window, tmp_path / "letter.odt")
    listed = tmp_path / "readings.csv"
    listed.write_text(readings_to_csv(session.job), encoding="utf-8")
    assert drop(window, listed)
    page = window.frame.findChild(BringIn)
    assert "set_up" in page.text.toPlainText()
    page.close()
    kept = len(session.job.photos(session.assembly))
    assert drop(window, picture(tmp_path))
    assert window.frame.stop_key == "intake"
    assert len(session.job.photos(session.assembly)) == kept + 1
    other = make_window("mill")
    path = other.frame.session.path
    other.leave_job()
    assert drop(window, path)
    assert window.frame.session.path == path


def test_a_copied_picture_is_pasted_at_intake(make_window):
    frame = make_window("demo").frame
    stop = frame.go_to("intake")
    kept = len(frame.session.job.photos(frame.session.assembly))
    QGuiApplication.clipboard().setText("no picture")
    stop.paste_photo()
    assert "is a picture" in stop.photo_refusal.text()
    image = QImage(30, 20, QImage.Format.Format_RGB32)
    image.fill(0x808080)
    QGuiApplication.clipboard().setImage(image)
    press(frame, Qt.Key.Key_V, Qt.KeyboardModifier.ControlModifier)
    assert len(frame.session.job.photos(frame.session.assembly)) == kept + 1
    assert not stop.photo_refusal.text()
