"""The rooms: core imports nothing of the others, at any depth."""

from __future__ import annotations

import subprocess
import sys

import pytest


@pytest.mark.parametrize(
    ("module", "forbidden"),
    [
        (
            "trebb.core.practice, trebb.core.proof, trebb.core.parts, trebb.core.making.routes",
            ("PySide6", "sqlite3", "serial", "msgspec", "trebb.logbook", "trebb.app"),
        ),
        ("trebb.logbook.casework, trebb.logbook.exchange", ("PySide6", "serial", "trebb.app")),
        ("trebb.instruments", ("PySide6", "sqlite3", "trebb.app", "trebb.logbook")),
        ("trebb.app.cli", ("PySide6", "pyqtgraph", "ezdxf", "scipy", "pint")),
    ],
)
def test_a_room_loads_without_what_it_may_not_know(module, forbidden):
    script = f"import sys, {module}; print(*[name for name in {forbidden!r} if name in sys.modules])"
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == ""
