"""A disk that is full, read-only or gone while the job is open, on a small file system of its own."""

from __future__ import annotations

import os
import shutil
import sqlite3
import subprocess
from datetime import UTC, datetime, timedelta

import pytest
from PySide6.QtTest import QTest

from trebb.logbook.cases.casework import SCREW
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.exchange.job_json import export_job
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile
from trebb.logbook.file.writing import WriteError
from trebb.logbook.log.entries import NoteWritten
from trebb.logbook.log.fold import Job

MEGABYTES = 2
CAN_MOUNT = os.geteuid() == 0 and shutil.which("mount") is not None


@pytest.fixture
def disk(tmp_path):
    """A small file system: its folder, and a function that runs mount with it."""
    place = tmp_path / "disk"
    place.mkdir()
    made = subprocess.run(
        ["mount", "-t", "tmpfs", "-o", f"size={MEGABYTES}m", "none", str(place)],
        check=False, capture_output=True,
    ) if CAN_MOUNT else None  # fmt: skip
    if made is None or made.returncode:
        pytest.skip("no file system can be mounted here")
    yield place
    subprocess.run(["umount", "-l", str(place)], check=False, capture_output=True)


def fill(folder) -> None:
    """Leave no room at all."""
    with (folder / "filler").open("wb", buffering=0) as out:
        try:
            while True:
                out.write(b"x" * 65_536)
        except OSError:
            pass
        try:
            while True:
                out.write(b"x")
        except OSError:
            pass


@pytest.fixture
def on_disk(make_window, disk):
    """The window on a job on that disk, its screw under survey."""
    window = make_window(None)
    window.open_file(make_demo(disk / "job.trebb"))
    window.frame.session.choose(SCREW)
    window.frame.go_to("survey")
    window.frame.stop.bench.choose_set_up("end_float")
    return window


def taken(window) -> int:
    return len(window.frame.session.job.readings(SCREW, "end_float"))


def test_a_full_disk_is_said_and_the_reading_is_not_shown_as_taken(on_disk, disk):
    frame = on_disk.frame
    frame.stop.pod.take_typed("6 thou")
    assert taken(on_disk) == 1
    fill(disk)
    for _ in range(40):  # what fits into the file's own slack is taken all the same
        before = taken(on_disk)
        frame.stop.pod.take_typed("6.5 thou")
        if taken(on_disk) == before:
            break
    assert frame.trouble.isVisible()
    assert "full" in frame.trouble.head.text()
    shown = taken(on_disk)
    (disk / "filler").unlink()
    frame.stop.pod.take_typed("7 thou")
    assert taken(on_disk) == shown + 1
    on_disk.leave_job()
    with JobFile.open(disk / "job.trebb") as again:
        assert len(Job(again.entries()).readings(SCREW, "end_float")) == shown + 1


def test_an_export_without_room_leaves_the_older_one_whole(disk):
    with make_demo(disk / "job.trebb") as job_file:
        out = disk / "export.json"
        export_job(job_file, out)
        before = out.read_bytes()
        fill(disk)
        with pytest.raises(WriteError, match="not written"):
            export_job(job_file, out)
        assert out.read_bytes() == before
        left = {p.name for p in disk.iterdir()} - {"job.trebb-journal"}
        assert left == {"export.json", "filler", "job.trebb"}


def test_a_disk_that_may_only_be_read_is_said_as_such(disk):
    make_demo(disk / "job.trebb").close()
    subprocess.run(["mount", "-o", "remount,ro", str(disk)], check=True)
    with pytest.raises(JobFileError, match="cannot be written to") as refused:
        JobFile.open(disk / "job.trebb")
    assert not refused.value.is_damaged


def test_a_disk_that_goes_while_the_job_is_open_is_said_and_nothing_is_pretended(on_disk, disk):
    frame = on_disk.frame
    frame.stop.pod.take_typed("6 thou")
    shown = taken(on_disk)
    subprocess.run(["umount", "-l", str(disk)], check=True)
    frame.look_at_file()
    assert frame.trouble.isVisible()
    frame.stop.pod.take_typed("6.5 thou")
    assert taken(on_disk) == shown
    QTest.qWait(20)
    assert frame.isVisible()


def test_a_clock_set_back_changes_neither_order_nor_what_stands(tmp_path, set_clock):
    path = tmp_path / "job.trebb"
    make_demo(path).close()
    with JobFile.open(path) as job_file:
        job_file.append([NoteWritten(topic="left", text="today")])
        past = datetime.now(UTC) - timedelta(days=4000)
        set_clock(past)
        job_file.append([NoteWritten(topic="left", text="set back")])
        entries = job_file.entries()
    assert entries[-1].at < entries[-2].at
    assert Job(entries).note("left") == "set back"
    with JobFile.open(path) as again:
        assert again.entries() == entries


def test_a_text_of_a_hundred_megabytes_is_set_aside_and_the_rest_opens(tmp_path):
    path = tmp_path / "job.trebb"
    make_demo(path).close()
    with sqlite3.connect(path) as db:
        last = db.execute("SELECT max(id) FROM entry").fetchone()[0]
        body = '{"topic":"left","text":"' + "x" * 100_000_000 + '"}'
        row = (last + 1, "2026-01-01T00:00:00.000Z", last + 1, "note.written", body)
        db.execute("INSERT INTO entry VALUES (?, ?, ?, ?, ?)", row)
    db.close()
    with JobFile.open(path) as job_file:
        job = Job(job_file.entries())
        (aside,) = job.set_aside()
        assert "length" in aside.reason
        assert len(aside.reason) < 300
        assert job.started is not None
        job_file.append([NoteWritten(topic="left", text="goes on")])
