"""One folder that runs on a machine without Python or a compiler, and its archive: `make bundle`."""

from __future__ import annotations

import shutil
import subprocess
import sys
from pathlib import Path

import PyInstaller.__main__

import trebb

ROOT = Path(__file__).parents[1]
README = """Trebb {version}

Start it:            ./trebb
The demo job:        ./trebb demo
Into the menu:       ./trebb install      (for this user; ./trebb uninstall takes it away again)

The folder may stand anywhere; after moving it, install once more. Jobs are files of your own and are
never touched by installing or uninstalling.
"""
# Modules of Qt and of others that nothing here uses.
LEFT_OUT = (
    "PySide6.QtQml", "PySide6.QtQuick", "PySide6.QtDesigner", "PySide6.QtSql", "PySide6.QtTest", "tkinter",
    "matplotlib", "IPython", "pytest", "hypothesis",
)  # fmt: skip


def make(folder: Path) -> Path:
    """Build it; returns the archive."""
    shutil.rmtree(folder, ignore_errors=True)
    work = folder / "work"
    entry = work / "trebb_start.py"
    work.mkdir(parents=True)
    entry.write_text("import sys\nfrom trebb.app.cli import main\nsys.exit(main())\n")
    PyInstaller.__main__.run(
        [
            str(entry), "--name", "trebb", "--onedir", "--noconfirm", "--log-level", "WARN",
            "--distpath", str(folder), "--workpath", str(work), "--specpath", str(work),
            "--collect-submodules", "trebb", "--collect-data", "trebb", "--collect-data", "ezdxf",
            "--collect-submodules", "ezdxf", "--collect-submodules", "ijson", "--collect-all", "ortools",
            *(word for name in LEFT_OUT for word in ("--exclude-module", name)),
        ]
    )  # fmt: skip
    made = folder / "trebb"
    (made / "README.txt").write_text(README.format(version=trebb.__version__), encoding="utf-8")
    shutil.rmtree(work)
    archive = folder / f"trebb-{trebb.__version__}-linux-{_machine()}.tar.gz"
    subprocess.run(["tar", "-C", str(folder), "-czf", str(archive), "trebb"], check=True)
    return archive


def _machine() -> str:
    return subprocess.run(["uname", "-m"], capture_output=True, text=True, check=True).stdout.strip()


if __name__ == "__main__":
    archive = make(Path(sys.argv[1]) if len(sys.argv) > 1 else ROOT / "dist")
    print(f"{archive} ({archive.stat().st_size / 1e6:.0f} MB)")
