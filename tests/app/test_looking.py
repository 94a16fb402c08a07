"""Whoever only reads is never in a writer's way, and never needs to write."""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import threading
import time
from pathlib import Path

import pytest

from trebb.app.cli import main
from trebb.app.window.one_window import Bell, name_of, ring
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.file.backups import AT_ONCE_BYTES, backups
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.looking import JobLookedAt, open_or_look
from trebb.logbook.file.store import JobFile, sha256_of
from trebb.logbook.log.entries import NoteWritten

READING = (
    ("findings",), ("remedies", "--part", "cross_slide"), ("part", "cross_slide", "nut"),
    ("route", "cross_slide", "nut"), ("card",), ("plan",), ("stock",), ("suspects",), ("set-ups",),
    ("teach",), ("will-it-fit", "cross_slide", "3/4-8 Acme"),
)  # fmt: skip
WRITING = (
    ("state", "cross_slide", "travel_mm=8.5in"), ("matter", "plan", "-", "ready_by=in 3 weeks"),
    ("add", "shaft", "Feed rod", "--under", "cross_slide"),
    ("read", "cross_slide", "lash", "station 1", "12 thou"),
    ("part", "quill_bore", "bush", "length=1.5in"),
)  # fmt: skip


@pytest.fixture
def path(tmp_path):
    made = tmp_path / "job.trebb"
    make_demo(made).close()
    return made


def run(path: Path, command: tuple[str, ...]) -> int:
    return main([command[0], str(path), *command[1:]])


@pytest.mark.parametrize("command", READING)
def test_a_reading_command_works_while_a_window_has_the_job(path, command, capsys):
    with JobFile.open(path):
        assert run(path, command) == 0
    assert capsys.readouterr().out.strip()


def test_exports_and_calendar_work_while_a_window_has_the_job(path, tmp_path):
    with JobFile.open(path):
        assert run(path, ("calendar", str(tmp_path / "plan.ics"))) == 0
        out = [str(tmp_path / f"out.{kind}") for kind in ("json", "csv", "xlsx")]
        assert run(path, ("export", "--json", out[0], "--csv", out[1], "--xlsx", out[2])) == 0
    assert all(Path(name).stat().st_size for name in out)


@pytest.mark.parametrize("command", WRITING)
def test_a_writing_command_waits_for_its_turn_and_then_says_who_has_the_job(path, command, capsys):
    with JobFile.open(path):
        assert run(path, command) == 1
    assert "open in another Trebb" in capsys.readouterr().err
    held = JobFile.open(path)
    letting = threading.Timer(0.3, held.close)
    letting.start()
    assert run(path, command) == 0
    letting.join()


@pytest.fixture
def stick(path):
    """A folder that nobody can write to, root neither: a file system mounted to be read."""
    place = path.parent / "stick"
    place.mkdir()
    shutil.copy(path, place / "job.trebb")
    bound = subprocess.run(["mount", "--bind", str(place), str(place)], check=False, capture_output=True)
    if bound.returncode:
        pytest.skip("nothing can be mounted here")
    subprocess.run(["mount", "-o", "remount,ro,bind", str(place)], check=True)
    yield place / "job.trebb"
    subprocess.run(["umount", str(place)], check=True)


@pytest.mark.parametrize("command", READING)
def test_a_reading_command_works_on_a_stick_that_is_write_protected(stick, command):
    assert run(stick, command) == 0


def test_a_stick_that_is_write_protected_is_looked_at(stick, make_window, capsys):
    assert run(stick, WRITING[0]) == 1
    assert "cannot be written to" in capsys.readouterr().err
    window = make_window(None)
    assert window.open_path(stick)
    assert window.frame.session.file.is_looked_at
    assert window.frame.session.record(NoteWritten(topic="left", text="x")) == []
    assert "it lies where nothing can be written" in window.frame.trouble.head.text()


def test_a_job_without_write_permission_is_looked_at(path, monkeypatch):
    real = os.open

    def refused(name, flags, *more, **named):
        if str(name) == str(path) and flags & os.O_RDWR:
            raise PermissionError(13, "Permission denied")
        return real(name, flags, *more, **named)

    monkeypatch.setattr(os, "open", refused)
    with open_or_look(path) as looked:
        assert isinstance(looked, JobLookedAt)
        with pytest.raises(JobFileError, match="nothing can be added"):
            looked.append([NoteWritten(topic="left", text="x")])


def test_what_is_no_job_is_not_looked_at_either(tmp_path):
    (tmp_path / "x.trebb").write_text("words")
    with pytest.raises(JobFileError, match="not a Trebb job"):
        JobLookedAt.look(tmp_path / "x.trebb")
    with pytest.raises(JobFileError, match="no such file"):
        JobLookedAt.look(tmp_path / "y.trebb")


def test_a_new_job_on_a_full_disk_leaves_nothing_behind(tiny_disk, capsys):
    assert main(["new", str(tiny_disk / "job.trebb"), "--no-window"]) == 1
    assert "disk is full" in capsys.readouterr().err
    assert list(tiny_disk.iterdir()) == []


def test_a_name_that_is_no_text_is_refused_and_leaves_nothing_behind(tmp_path, capsys):
    name = os.fsdecode(bytes(tmp_path) + b"/l\xe4the.trebb")
    assert main(["new", name, "--no-window"]) == 1
    assert "UTF-8" in capsys.readouterr().err
    assert list(tmp_path.iterdir()) == []
    assert main(["new", str(tmp_path / "job.trebb"), "--no-window", "--machine", "l\udce4the"]) == 1
    assert list(tmp_path.iterdir()) == []


# the back-up of a large job ---------------------------------------------------------------------


def test_a_large_job_is_backed_up_beside_the_closed_window(make_window, path, monkeypatch):
    from trebb.logbook.file import backups as module

    picture = os.urandom(AT_ONCE_BYTES + 1)
    sha = sha256_of(picture)
    with JobFile.open(path) as job_file:
        job_file.append([NoteWritten(topic="left", text="large")], {sha: ("image/png", picture)})
    window = make_window(None)
    assert window.open_path(path)
    window.frame.session.record(NoteWritten(topic="left", text="last"))
    begun, goes_on = threading.Event(), threading.Event()
    real = module.back_up

    def slowly(job_file, *more):
        begun.set()
        assert goes_on.wait(600)
        return real(job_file, *more)

    monkeypatch.setattr(module, "back_up", slowly)
    window.leave_job()
    assert window.frame is None
    assert begun.wait(600)
    assert backups() == []  # not yet, and nobody waits for it
    assert window.open_path(path)
    window.frame.session.record(NoteWritten(topic="left", text="meanwhile"))
    goes_on.set()
    for thread in threading.enumerate():
        if thread.name.startswith("back-up"):
            thread.join()
    (copy,) = backups()
    with JobFile.open(copy.path) as copied:
        assert copied.photograph(sha)[1] == picture
        assert copied.newest >= window.frame.session.file.newest - 1


# the socket by which a window is called ---------------------------------------------------------


@pytest.fixture
def short():
    """A folder of a short name: sockets' names may not be long."""
    import tempfile

    with tempfile.TemporaryDirectory(dir="/tmp") as name:
        yield Path(name)


def test_the_window_is_called_in_a_place_of_this_user_alone(path, short, qapp, monkeypatch):
    run_dir = short / "r"
    run_dir.mkdir(mode=0o700)
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(run_dir))
    assert Path(name_of(path)).parent == run_dir
    run_dir.chmod(0o777)  # anybody could have put it there
    assert Path(name_of(path)).parent != run_dir


@pytest.mark.parametrize("taken", ["open to all", "a link", "a file"])
def test_a_place_taken_by_somebody_else_is_not_used_and_the_job_opens(path, short, qapp, monkeypatch, taken):
    import tempfile

    monkeypatch.delenv("XDG_RUNTIME_DIR", raising=False)
    monkeypatch.setattr(tempfile, "gettempdir", lambda: str(short))
    place = short / f"trebb-{os.getuid()}"
    if taken == "open to all":
        place.mkdir()
        place.chmod(0o777)
    elif taken == "a link":
        (short / "theirs").mkdir(mode=0o700)
        place.symlink_to(short / "theirs")
    else:
        place.write_text("")
    assert name_of(path) == ""
    bell = Bell(path, lambda: None, qapp)
    assert not ring(path)
    bell.close()


def test_a_socket_that_nobody_answers_holds_up_nothing(path, short, qapp, monkeypatch):
    monkeypatch.setenv("XDG_RUNTIME_DIR", str(short / "r"))
    (short / "r").mkdir(mode=0o700)
    with socket.socket(socket.AF_UNIX) as left:
        left.bind(name_of(path))  # bound, and never listened to
    begun = time.monotonic()
    assert not ring(path)
    assert time.monotonic() - begun < 60
    heard = []
    bell = Bell(path, lambda: heard.append(1), qapp)
    assert ring(path)
    qapp.processEvents()
    assert heard
    bell.close()


@pytest.mark.parametrize("trigger", ["entry_no_update", "entry_no_overwrite", "photograph_no_delete"])
def test_a_job_whose_guard_was_taken_away_says_so_wherever_it_is_opened(path, make_window, capsys, trigger):
    import sqlite3

    with sqlite3.connect(path) as db:
        db.execute(f"DROP TRIGGER {trigger}")
    db.close()
    assert main(["findings", str(path)]) == 0
    assert trigger in capsys.readouterr().err
    window = make_window(None)
    assert window.open_path(path)
    assert window.frame.trouble.isVisible()
    assert trigger in window.frame.trouble.text.text()


def test_a_machine_without_pseudo_terminals_opens_the_demo_and_readings_are_typed(make_window, monkeypatch):
    def none():
        raise OSError(19, "No such device")

    monkeypatch.setattr(os, "openpty", none)
    frame = make_window("lathe").frame
    assert frame.link.kind == "keys"
    assert frame.session.cases.first().is_measured
