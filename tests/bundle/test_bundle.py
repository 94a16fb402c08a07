"""The bundle on a machine without Python or a compiler: `make bundle` builds it and runs this."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
from pathlib import Path

import pytest

BUNDLE = os.environ.get("TREBB_BUNDLE", "")
pytestmark = pytest.mark.skipif(not BUNDLE, reason="made by “make bundle”")


@pytest.fixture(scope="module")
def home(tmp_path_factory):
    """The bundle unpacked away from the sources, in a home of its own."""
    place = tmp_path_factory.mktemp("home")
    subprocess.run(["tar", "-C", str(place), "-xzf", BUNDLE], check=True)
    return place


@pytest.fixture
def run(home):
    """A function that runs a program there, with every Python and compiler of this machine out of sight."""
    hidden = {
        str(Path(found).resolve().parent)
        for name in ("python3", "gcc", "cc", "ld")
        if (found := shutil.which(name))
    }
    hidden |= {str(Path(__file__).parents[2]), str(Path("~/.pyenv").expanduser())}
    mounts = [place for place in hidden if Path(place).is_dir() and place not in ("/usr/bin", "/bin")]
    can_hide = os.geteuid() == 0 and shutil.which("unshare")

    def started(*words: str, given: str = "", **more: str) -> subprocess.CompletedProcess:
        command = [str(word) for word in words]
        if can_hide:
            hide = "; ".join(f"/usr/bin/mount -t tmpfs none '{place}'" for place in mounts)
            command = ["/usr/bin/unshare", "-m", "/bin/sh", "-c", f'{hide}; exec "$@"', "sh", *command]
        environment = {
            "HOME": str(home), "PATH": str(home / "none"), "QT_QPA_PLATFORM": "offscreen",
            "LC_ALL": "C.UTF-8", **more,
        }  # fmt: skip
        return subprocess.run(
            command, capture_output=True, text=True, env=environment, input=given, cwd=home, check=False
        )

    return started


@pytest.fixture
def trebb(run, home):
    def started(*words: str, **more) -> str:
        done = run(home / "trebb" / "trebb", *words, **more)
        assert done.returncode == 0, done.stdout + done.stderr
        return done.stdout

    return started


def test_python_is_out_of_sight(run):
    done = run("/bin/sh", "-c", "command -v python3 || command -v gcc || echo none")
    assert done.stdout.strip() == "none"


def test_it_says_its_version_and_does_the_main_job(trebb, home):
    assert trebb("--version").startswith("trebb ")
    trebb("demo", "--headless", "--out", str(home / "out"))
    assert {p.suffix for p in (home / "out").iterdir()} >= {".pdf", ".dxf", ".svg", ".json"}


def test_the_window_opens_on_the_demo_and_closes(trebb):
    trebb("demo", TREBB_QUIT_AFTER_MS="1500")


def test_every_way_out_and_in_works_there(trebb, home):
    trebb("demo", "--headless", "--out", str(home / "out2"))
    job = next((home / "out2").glob("*.trebb"))
    trebb(
        "export",
        str(job),
        "--json",
        str(home / "j.json"),
        "--csv",
        str(home / "r.csv"),
        "--xlsx",
        str(home / "s.xlsx"),
    )
    trebb("import", str(home / "j.json"), str(home / "again.trebb"))
    trebb("paper", str(job), "part", "cross_slide", str(home / "part.pdf"), "--part", "screw")
    trebb("calendar", str(job), str(home / "plan.ics"))
    assert json.loads(trebb("findings", str(job), "--json"))["parts"]


def test_the_solver_of_plans_runs_as_a_process_of_its_own(trebb):
    asked = {
        "tasks": [
            {"key": "a", "hours": 2.0, "after": [], "only": []},
            {"key": "b", "hours": 1.0, "after": ["a"], "only": []},
        ],
        "hours": [3.0] * 5, "due": None, "seconds": 5, "known": None, "known_days": None,
    }  # fmt: skip
    lines = trebb("--solve", given=json.dumps(asked)).splitlines()
    assert json.loads(lines[-1])["is_last"]


def test_a_long_export_is_read_by_pieces_there_too(trebb, home):
    from trebb.logbook.demo.jobs import make_demo
    from trebb.logbook.exchange.job_json import export_job
    from trebb.logbook.file.store import sha256_of
    from trebb.logbook.log.entries import PhotoAdded

    with make_demo(home / "long.trebb") as job_file:
        for i in range(30):
            data = bytes([i]) * 1_000_000
            sha = sha256_of(data)
            photo = PhotoAdded(assembly="ways", sha256=sha, media_type="image/png", file_name="x.png")
            job_file.append([photo], {sha: ("image/png", data)})
        export_job(job_file, home / "long.json")
    assert "restored" in trebb("import", str(home / "long.json"), str(home / "long-again.trebb"))


def test_installed_it_is_in_the_menu_and_uninstalled_it_leaves_jobs_alone(run, trebb, home):
    prefix = home / ".local"
    trebb("install", str(prefix))
    entry = (prefix / "share/applications/org.example.Trebb.desktop").read_text()
    assert f'Exec="{prefix}/bin/trebb" %f' in entry
    started = run(prefix / "bin" / "trebb", "--version")
    assert started.stdout.startswith("trebb ")
    job = home / "mine.trebb"
    trebb("new", str(job), "--no-window")
    trebb("uninstall", str(prefix))
    assert not (prefix / "bin" / "trebb").exists()
    assert job.is_file()
