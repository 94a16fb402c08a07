"""A random user finds nothing that raises, and leaves a file that folds to what was shown."""

from __future__ import annotations

import pytest

from trebb.app.monkey import on_demo
from trebb.logbook.demo.jobs import DEMOS

GESTURES = 150  # `make monkey` makes ten thousand


@pytest.mark.timeout(600)
@pytest.mark.parametrize("machine", sorted(DEMOS))
def test_a_random_user_ends_no_window(qapp, tmp_path, monkeypatch, machine):
    for name in ("getOpenFileName", "getSaveFileName"):
        monkeypatch.setattr(f"PySide6.QtWidgets.QFileDialog.{name}", lambda *_, **__: ("", ""))
    monkeypatch.setattr("PySide6.QtWidgets.QFileDialog.getExistingDirectory", lambda *_, **__: "")
    report = on_demo(machine, 7, GESTURES, tmp_path)
    assert report.gestures == GESTURES
    assert report.is_well, report.words()
