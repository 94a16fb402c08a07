"""The job file: append only, one writer, nothing lost."""

from __future__ import annotations

import contextlib
import os
import signal
import sqlite3
import subprocess
import sys
import time
from pathlib import Path

import pytest

from trebb.logbook.file import store
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import CardChanged, NoteWritten
from trebb.logbook.log.fold import Job


@pytest.fixture
def job_file(tmp_path):
    with JobFile.create(tmp_path / "job.trebb") as made:
        yield made


def note(text: str) -> NoteWritten:
    return NoteWritten(topic="left", text=text)


def raw(path: Path):
    return contextlib.closing(sqlite3.connect(path, isolation_level=None))


def test_entries_come_back_in_order_with_their_gesture(tmp_path):
    path = tmp_path / "job.trebb"
    with JobFile.create(path) as made:
        made.append([note("a"), note("b")])
        made.append([note("c")])
    with JobFile.open(path) as again:
        assert [(e.id, e.gesture, e.body.text) for e in again.entries()] == [
            (1, 1, "a"),
            (2, 1, "b"),
            (3, 3, "c"),
        ]
        assert again.append([note("d")])[0].id == 4


@pytest.mark.parametrize("attack", [
    "UPDATE entry SET body = '{}' WHERE id = 1", "DELETE FROM entry", "INSERT INTO entry VALUES (1, '', 1, "
                                                                      "'x', '{}')",
    "INSERT OR REPLACE INTO entry VALUES (1, '', "
    "1, 'note.written', '{}')", "UPDATE photograph SET media_type = 'x'",
])  # fmt: skip
def test_sqlite_itself_refuses_to_change_what_is_written(tmp_path, attack):
    path = tmp_path / "job.trebb"
    with JobFile.create(path) as made:
        made.append([note("kept")], {"abc": ("image/png", b"x")})
    with raw(path) as db, pytest.raises(sqlite3.IntegrityError, match="never changed"):
        db.execute(attack)
    with JobFile.open(path) as again:
        assert again.entries()[0].body.text == "kept"


def test_a_column_of_another_type_is_refused(tmp_path):
    JobFile.create(tmp_path / "job.trebb").close()
    with raw(tmp_path / "job.trebb") as db, pytest.raises(sqlite3.IntegrityError):
        db.execute("INSERT INTO entry VALUES ('one', '', 1, 'x', '{}')")


def test_a_second_writer_is_told_that_the_job_is_open(job_file):
    with pytest.raises(JobFileError, match="open in another Trebb; close it there first"):
        JobFile.open(job_file.path)


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"not a job at all, only words " * 9, "not a Trebb job"),
        (b"SQLite format 3\0" + b"\0" * 100, "not a Trebb job"),
    ],
)
def test_a_file_that_is_no_job_is_named(tmp_path, content, said):
    path = tmp_path / "letter.trebb"
    path.write_bytes(content)
    with pytest.raises(JobFileError, match=said):
        JobFile.open(path)
    assert path.read_bytes() == content


def test_another_program_s_database_is_no_job(tmp_path):
    with raw(tmp_path / "other.db") as db:
        db.execute("CREATE TABLE t (x)")
    with pytest.raises(JobFileError, match="not a Trebb job"):
        JobFile.open(tmp_path / "other.db")


def test_a_job_from_a_newer_trebb_is_left_alone(tmp_path):
    path = tmp_path / "job.trebb"
    JobFile.create(path).close()
    with raw(path) as db:
        db.execute("PRAGMA user_version = 99")
    with pytest.raises(JobFileError, match=r"from a newer Trebb .its format is 99.*update Trebb"):
        JobFile.open(path)


def test_an_older_job_is_migrated_and_the_step_recorded(tmp_path, monkeypatch):
    path = tmp_path / "job.trebb"
    with JobFile.create(path) as made:
        made.append([note("old")])
    monkeypatch.setattr(store, "MIGRATIONS", (*store.MIGRATIONS, (2, "CREATE TABLE extra (x TEXT) STRICT;")))
    with JobFile.open(path) as again:
        assert again.entries()[0].body.text == "old"
    with raw(path) as db:
        assert [v for (v,) in db.execute("SELECT version FROM migration ORDER BY version")] == [1, 2]


def test_a_missing_file_a_taken_name_and_a_missing_folder_are_named(tmp_path):
    with pytest.raises(JobFileError, match="there is no such file"):
        JobFile.open(tmp_path / "none.trebb")
    JobFile.create(tmp_path / "job.trebb").close()
    with pytest.raises(JobFileError, match="choose another name"):
        JobFile.create(tmp_path / "job.trebb")
    with pytest.raises(JobFileError, match="there is no folder"):
        JobFile.create(tmp_path / "nowhere" / "job.trebb")


def test_a_folder_that_cannot_be_written_is_said_plainly():
    with pytest.raises(JobFileError, match="cannot be written to; copy the job to one that can"):
        JobFile.create(Path("/proc/job.trebb"))  # even root cannot write there


def test_a_full_disk_loses_nothing_recorded_before(tmp_path):
    path = tmp_path / "job.trebb"
    with JobFile.create(path) as made:
        made.append([note("safe")])
        many = [note("x" * 15_000)] * 20
        pages = made._db.execute("PRAGMA page_count").fetchone()[0]
        made._db.execute(f"PRAGMA max_page_count = {pages + 1}")
        with pytest.raises(JobFileError, match="not recorded: the disk is full; make room"):
            made.append(many)
        made._db.execute("PRAGMA max_page_count = 1000000")
        made.append([note("after")])
    with JobFile.open(path) as again:
        assert [e.body.text for e in again.entries()] == ["safe", "after"]


def test_an_entry_that_cannot_be_understood_is_set_aside_and_the_rest_opens(tmp_path):
    path = tmp_path / "job.trebb"
    JobFile.create(path).close()
    with raw(path) as db:
        db.execute("INSERT INTO entry VALUES (7, '', 7, 'note.written', '{\"topic\": 3}')")
        db.execute("INSERT INTO entry VALUES (8, '', 8, 'note.sung', '{}')")
        db.execute(
            'INSERT INTO entry VALUES (9, \'\', 9, \'note.written\', \'{"topic": "left", "text": "y"}\')'
        )
    with JobFile.open(path) as again:
        job = Job(again.entries())
        assert job.note("left") == "y"
        assert [(a.entry, a.reason) for a in job.set_aside()] == [
            (7, "field “topic”: expected text, got a whole number"),
            (8, "its kind is “note.sung”, which this Trebb does not know; update Trebb"),
        ]
        again.append([note("z")])


def test_photographs_are_kept_once_and_missing_ones_named(job_file):
    sha = store.sha256_of(b"picture")
    for _ in range(2):
        job_file.append([note("p")], {sha: ("image/png", b"picture")})
    assert job_file.photograph(sha) == ("image/png", b"picture")
    with pytest.raises(JobFileError, match="not in this job"):
        job_file.photograph("0" * 64)


WRITER = """
import trebb.app
import sys
from pathlib import Path
from trebb.logbook.log.entries import NoteWritten
from trebb.logbook.file.store import JobFile
made = JobFile.create(Path(sys.argv[1]))
for n in range(100_000):
    made.append([NoteWritten(topic="left", text=str(n))])
    print(n, flush=True)
"""


def test_kill_9_in_the_middle_of_a_run_loses_no_entry_shown_as_taken(tmp_path):
    path = tmp_path / "job.trebb"
    process = subprocess.Popen([sys.executable, "-c", WRITER, str(path)], stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    shown = [process.stdout.readline() for _ in range(25)]
    time.sleep(0.05)
    os.kill(process.pid, signal.SIGKILL)
    shown += process.stdout.read().splitlines()
    process.wait()
    process.stdout.close()
    last = int(shown[-1])
    with JobFile.open(path) as again:
        kept = [int(e.body.text) for e in again.entries()]
    assert kept == list(range(len(kept)))
    assert len(kept) > last


def test_an_unknown_field_is_not_written(job_file):
    with pytest.raises(TypeError, match="colour"):
        CardChanged(field="x", value="y", colour="red")


@pytest.mark.parametrize(
    "sql",
    [
        "CREATE VIEW entry_view AS SELECT load_extension('x')",
        "CREATE TRIGGER evil AFTER INSERT ON entry BEGIN SELECT 1; END",
        "CREATE TABLE more (a)",
        "CREATE INDEX by_kind ON entry (kind, hex(body))",
    ],
)
def test_a_file_with_what_trebb_does_not_make_is_refused_by_name(tmp_path, sql):
    path = tmp_path / "a.trebb"
    with JobFile.create(path):
        pass
    with contextlib.closing(sqlite3.connect(path)) as db:
        db.execute(sql)
        db.commit()
    before = path.read_bytes()
    with pytest.raises(JobFileError, match="did not make"):
        JobFile.open(path)
    assert path.read_bytes() == before


def test_a_trigger_of_ours_that_was_changed_is_refused(tmp_path):
    path = tmp_path / "a.trebb"
    with JobFile.create(path):
        pass
    with contextlib.closing(sqlite3.connect(path)) as db:
        db.execute("DROP TRIGGER entry_no_update")
        db.execute("CREATE TRIGGER entry_no_update BEFORE UPDATE ON entry BEGIN SELECT 1; END")
        db.commit()
    with pytest.raises(JobFileError, match="entry_no_update"):
        JobFile.open(path)
