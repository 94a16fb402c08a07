"""A part typed feature by feature in the window, on a new job, from its first line to its route."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QApplication, QPlainTextEdit

from tests.app.hand import Hand
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import AssemblyAdded, FactStated

BUSHING = (
    "shoulder 40 x 6\nholes 3 x 4 on 32\nseat 30 h6 x 8\nthread M24x1.5 x 14\nbore 10 H7\npocket 16 H7 x 8"
)


@pytest.fixture
def bench(make_window) -> Hand:
    hand = Hand(make_window, system=UnitSystem.METRIC)
    hand.session.record(AssemblyAdded(assembly="bush", label="Dial bushing", family="copied", under="apron"))
    hand.session.choose("bush")
    hand.session.record(FactStated(assembly="bush", field="what", value="built"))
    hand.frame.go_to("parts")
    QApplication.processEvents()
    return hand


def type_list(bench, text: str) -> QPlainTextEdit:
    """Type over the list, and rest."""
    edit = bench.window.findChild(QPlainTextEdit, "built_lines")
    edit.setPlainText(text)
    edit.settle()
    QApplication.processEvents()
    return edit


def test_a_list_is_drawn_made_and_kept_as_it_was_typed(bench):
    edit = type_list(bench, BUSHING)
    case = bench.session.case
    part = case.part("built", UnitSystem.METRIC)
    assert part.length_mm == pytest.approx(28.0)
    assert "pocket 16 H7 x 8" in edit.toPlainText()
    assert not bench.frame.stop.trouble.isVisible()
    assert bench.frame.stop.drawing.isVisible()
    assert case.route("built")[0].key == "blank"
    for stop in ("make", "fit_up", "plan", "parts"):
        bench.frame.go_to(stop)
        QApplication.processEvents()
    bench.session.show_in(UnitSystem.INCH)
    assert "pocket 0.6299 H7 x 0.315" in edit.toPlainText()
    bench.session.show_in(UnitSystem.METRIC)
    assert "pocket 16 H7 x 8" in edit.toPlainText()


def test_a_line_that_will_not_do_is_said_below_and_what_stood_stays(bench):
    type_list(bench, BUSHING)
    newest = bench.session.file.newest
    edit = type_list(bench, "plain 20 x 30\nkeyway 6 x 40")
    lists = edit.parent()
    assert "line 2, keyway 40 mm long" in lists.refusal.text()
    assert lists.refusal.isVisible()
    assert bench.session.file.newest == newest
    assert bench.session.case.part("built").length_mm == pytest.approx(28.0)
    edit = type_list(bench, "plain 20 x 30\nkeyway 6 x 20")
    assert not lists.refusal.isVisible()
    assert bench.session.case.part("built").length_mm == pytest.approx(30.0)


def test_the_shell_takes_the_same_lines(bench, capsys):
    from trebb.app.cli import main

    path = str(bench.session.file.path)
    bench.window.close()
    assert (
        main(["part", path, "bush", "built", "lines=plain 20 x 30; thread M16 x 20", "--units", "metric"])
        == 0
    )
    assert "bar 22 mm × 56 mm" in capsys.readouterr().out
    assert main(["part", path, "bush", "built", "lines=wheel 3", "--units", "metric"]) == 1
    assert "a line begins with plain" in capsys.readouterr().err
