"""Two shops at one computer keep two memories: chosen by name, nothing of one in the other."""

from __future__ import annotations

import json

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QPushButton

from trebb.app.cli import main
from trebb.core.errors import InputError
from trebb.logbook.memory.shop import InstrumentChecked, JobGiven, LessonKept, read_shop, remember
from trebb.logbook.memory.shop_place import in_use, memories, shop_path, use


def checked(serial):
    return InstrumentChecked(name=serial, kind_of="dial", block_mm=1.0, up=[1.0, 1.001], down=[1.0, 1.0])


def serials():
    return [entry.body.name for entry in read_shop()[0]]


def test_what_one_remembers_the_other_does_not_know():
    remember([checked("A")])
    assert (in_use(), memories()) == ("shop", ["shop"])
    assert use("  Gear   boxes ") == "Gear boxes"
    assert not shop_path().exists()
    assert memories() == ["shop", "Gear boxes"]
    assert serials() == []
    remember([checked("B")])
    assert serials() == ["B"]
    assert use("SHOP") == "shop"
    assert serials() == ["A"]
    assert use("gear BOXES") == "Gear boxes"
    assert serials() == ["B"]


@pytest.mark.parametrize("name", ["", "   ", "../other", ".hidden", "a/b", "x" * 41, "a\nb/c"])
def test_a_name_that_will_not_do_says_what_would_and_changes_nothing(name):
    with pytest.raises(InputError, match="a name"):
        use(name)
    assert in_use() == "shop"


@pytest.mark.parametrize("kept", [b"", b"\xff\xfe", b"../../etc/passwd"])
def test_a_choice_that_cannot_be_read_is_the_first(kept):
    use("other")
    (shop_path().parent / "memory-in-use").write_bytes(kept)
    assert in_use() == "shop"


def test_in_the_window_one_is_begun_and_another_chosen(window):
    remember([checked("A")])
    window.show_shop()
    page = window.pages.currentWidget()
    page.show_page("jobs")
    QTest.keyClicks(page.which.name, "a/b")
    QTest.keyClick(page.which.name, Qt.Key.Key_Return)
    assert "a name is of letters" in page.which.refusal.text()
    page.which.name.clear()
    QTest.keyClicks(page.which.name, "mills")
    QTest.keyClick(page.which.name, Qt.Key.Key_Return)
    assert page.which.refusal.text() == ""
    assert "goes by it too" in page.which.said.text()
    assert page.title.text() == "Memory: mills"
    assert not page.memory.checks
    page.which.box.setCurrentText("shop")
    page.which.box.activated.emit(page.which.box.currentIndex())
    assert page.title.text() == "The shop's memory"
    assert page.memory.checks


def test_from_the_shell(capsys):
    assert main(["shop", "--use", "mills"]) == 0
    assert "In use: mills; there are shop, mills" in capsys.readouterr().out
    assert main(["shop", "--json"]) == 0
    told = json.loads(capsys.readouterr().out)
    assert (told["memory"], told["memories"]) == ("mills", ["shop", "mills"])
    assert main(["shop", "--use", "../x"]) == 1
    assert "a name begins with" in capsys.readouterr().err


def test_the_job_that_is_open_goes_by_the_memory_chosen(make_window):
    window = make_window("new")

    def hours_after(does):
        window.show_shop()
        does(window.pages.currentWidget())
        window.pages.currentWidget().findChild(QPushButton, "shop_back").click()
        assert window.pages.currentWidget() is window.frame
        return window.frame.session.case.taught.hours.get("make", 1.0)

    for job in ("a", "b", "c"):
        lesson = LessonKept(job=job, topic="hours", of="make", value=0.7, sd=0.05)
        remember([JobGiven(job=job, machine="L", machine_kind="lathe"), lesson])
    assert hours_after(lambda page: None) > 1.2
    assert hours_after(lambda page: page.which._use("mills")) == 1.0
    assert hours_after(lambda page: page.which._use("shop")) > 1.2
    assert hours_after(lambda page: [page._leave_out(job, True) for job in "abc"]) == 1.0
