"""The rooms: core imports nothing of the others, at any depth."""

from __future__ import annotations

import ast
import subprocess
import sys
from pathlib import Path

import networkx as nx
import pytest

from trebb.core import safety


@pytest.mark.parametrize(
    ("module", "forbidden"),
    [
        (
            "trebb.core.practice, trebb.core.proof, trebb.core.parts, trebb.core.making.routes",
            ("PySide6", "sqlite3", "serial", "trebb.logbook", "trebb.app"),
        ),
        (
            "trebb.logbook.cases.casework, trebb.logbook.exchange.readings_csv",
            ("PySide6", "serial", "trebb.app"),
        ),
        ("trebb.instruments", ("PySide6", "sqlite3", "trebb.app", "trebb.logbook")),
        ("trebb.app.cli", ("PySide6", "pyqtgraph", "ezdxf", "scipy", "pint")),
    ],
)
def test_a_room_loads_without_what_it_may_not_know(module, forbidden):
    script = f"import sys, {module}; print(*[name for name in {forbidden!r} if name in sys.modules])"
    done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == ""


def test_no_module_imports_in_a_circle():
    source = Path(__file__).parents[2] / "src"
    modules = {}
    for path in source.rglob("*.py"):
        name = ".".join(path.relative_to(source).with_suffix("").parts).removesuffix(".__init__")
        modules[name] = ast.parse(path.read_text(encoding="utf-8"))
    graph = nx.DiGraph()
    for name, tree in modules.items():
        for node in ast.walk(tree):
            if isinstance(node, ast.ImportFrom) and node.module:
                named = (f"{node.module}.{alias.name}" for alias in node.names)
                graph.add_edges_from((name, n if n in modules else node.module) for n in named)
    circles = [sorted(c) for c in nx.strongly_connected_components(graph) if len(c) > 1]
    assert circles == []


def test_nothing_paints_but_what_never_raises():
    app = Path(__file__).parents[2] / "src" / "trebb" / "app"
    painters = [p.name for p in app.rglob("*.py") if "def paintEvent" in p.read_text(encoding="utf-8")]
    assert painters == ["painting.py"]


def test_what_can_hurt_is_said_in_one_set_of_texts():
    said = {name: text for name, text in vars(safety).items() if name.isupper()}
    assert len(said) > 25
    for path in sorted(Path(safety.__file__).parents[1].rglob("*.py")):
        if path.name == "safety.py":
            continue
        words = path.read_text(encoding="utf-8")
        assert [name for name, text in said.items() if text[:24] in words] == [], path


MOST_LINES, MOST_IN_FILE = 60, 500


def test_no_function_and_no_file_is_too_long_to_be_read_at_once():
    source = Path(__file__).parents[2] / "src"
    long = []
    for path in source.rglob("*.py"):
        text = path.read_text(encoding="utf-8")
        if text.count("\n") > MOST_IN_FILE:
            long.append(path.name)
        long += [
            f"{path.name}: {node.name}"
            for node in ast.walk(ast.parse(text))
            if isinstance(node, ast.FunctionDef) and node.end_lineno - node.lineno >= MOST_LINES
        ]
    assert long == []
