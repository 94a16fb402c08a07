"""While one types nothing moves: what a field says of it stands over what is below."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QWidget

from tests.app.hand import Hand
from trebb.app.look.beneath import Beneath
from trebb.core.units import UnitSystem


@pytest.fixture
def hand(make_window):
    return Hand(make_window, "lathe", UnitSystem.INCH)


def _places(within):
    return {
        id(w): w.mapTo(within.window(), w.rect().topLeft())
        for w in within.window().findChildren(QWidget)
        if w.isVisible() and not isinstance(w, Beneath)
    }


def test_nothing_moves_while_several_readings_are_typed(hand):
    hand.session.choose("cross_slide")
    stop = hand.frame.go_to("survey")
    stop.bench.choose_set_up("push_pull")
    entry = stop.pod.entry
    entry.setFocus()
    QTest.keyClicks(entry, "12")
    QApplication.processEvents()
    before = _places(entry)
    QTest.keyClicks(entry, " 13 14 15")
    QApplication.processEvents()
    assert stop.pod.lands.isVisible()
    assert _places(entry) == before
    note, field = stop.pod.lands.geometry(), entry.mapTo(entry.window(), entry.rect().bottomLeft())
    assert note.top() > field.y()
    assert entry.window().rect().contains(note)
    QTest.keyClick(entry, Qt.Key.Key_Escape)
    QApplication.processEvents()
    hand.frame.go_to("intake")
    QApplication.processEvents()
    assert not stop.pod.lands.isVisible()


def test_at_the_end_of_the_window_it_stands_above_and_goes_with_its_field(qtbot):
    from PySide6.QtWidgets import QLineEdit

    window = QWidget()
    qtbot.addWidget(window)
    window.resize(300, 60)
    field = QLineEdit(window)
    field.setGeometry(10, 34, 120, 24)
    window.show()
    note = Beneath(field)
    note.say("read as 1, 2, 3")
    assert note.isVisible()
    assert note.geometry().bottom() < 34
    field.hide()
    assert not note.isVisible()
    field.show()
    note.say("read as 1")
    gone = []
    note.destroyed.connect(lambda: gone.append(True))
    field.deleteLater()
    qtbot.waitUntil(lambda: bool(gone))
