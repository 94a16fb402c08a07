"""The wheel holds everything that the sources hold."""

from __future__ import annotations

import subprocess
import sys
import zipfile
from pathlib import Path

ROOT = Path(__file__).parents[2]


def test_a_wheel_has_every_module_and_every_file_of_data(tmp_path):
    copy = tmp_path / "copy"
    copy.mkdir()
    for name in ("src", "pyproject.toml", "README.md", "LICENSE"):
        subprocess.run(["cp", "-r", str(ROOT / name), str(copy)], check=True)
    for left in (*copy.rglob("__pycache__"), *copy.rglob("*.egg-info")):
        subprocess.run(["rm", "-r", str(left)], check=True)
    subprocess.run(
        [
            sys.executable, "-m", "pip", "wheel", "--quiet", "--no-deps", "--no-build-isolation",
            "--wheel-dir", str(tmp_path), str(copy),
        ],
        check=True, capture_output=True,
    )  # fmt: skip
    (wheel,) = tmp_path.glob("*.whl")
    with zipfile.ZipFile(wheel) as held:
        there = {name for name in held.namelist() if name.startswith("trebb/")}
        told = held.read(next(n for n in held.namelist() if n.endswith("entry_points.txt"))).decode()
    wanted = {
        str(path.relative_to(ROOT / "src")) for path in (ROOT / "src" / "trebb").rglob("*") if path.is_file()
    }
    wanted = {name for name in wanted if "__pycache__" not in name}
    assert there == wanted
    assert "trebb = trebb.app.cli:main" in told
