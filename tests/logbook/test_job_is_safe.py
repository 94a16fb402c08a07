"""A job is not lost: held against a second writer, whole in its one file, never written over."""

from __future__ import annotations

import os
import shutil
import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path

import pytest

from trebb.app.cli import main
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.exchange.job_json import job_from_json, job_to_json, make_job
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile
from trebb.logbook.file.writing import WriteError, write_whole
from trebb.logbook.log.entries import NoteWritten


@pytest.fixture
def job_file(tmp_path):
    with JobFile.create(tmp_path / "job.trebb") as made:
        made.append([note("first")])
        yield made


def note(text: str) -> NoteWritten:
    return NoteWritten(topic="left", text=text)


def texts(path: Path) -> list[str]:
    """What another program reads in the file as it lies there."""
    with closing(sqlite3.connect(f"file:{path}?immutable=1", uri=True)) as db:
        return [body for (body,) in db.execute("SELECT body FROM entry ORDER BY id")]


OPENS = "from pathlib import Path; from trebb.logbook.file.store import JobFile; JobFile.open(Path({!r}))"


def test_a_second_writer_stays_out_though_the_file_was_opened_and_closed_in_between(job_file):
    for _ in range(3):  # as a file dialog does that shows the folder
        with job_file.path.open("rb") as stream:
            stream.read(16)
    other = subprocess.run(
        [sys.executable, "-c", OPENS.format(str(job_file.path))], capture_output=True, text=True, check=False
    )
    assert other.returncode == 1
    assert "open in another Trebb" in other.stderr
    with pytest.raises(JobFileError, match="open in another Trebb"):
        JobFile.open(job_file.path)


def test_the_file_alone_is_the_whole_job_while_it_is_open(job_file, tmp_path):
    for i in range(50):
        job_file.append([note(str(i))])
    shutil.copy(job_file.path, tmp_path / "copy.trebb")
    with JobFile.open(tmp_path / "copy.trebb") as copy:
        assert len(copy.entries()) == 51
    assert len(texts(job_file.path)) == 51


def test_nothing_but_the_job_is_left_in_the_folder(tmp_path):
    with JobFile.create(tmp_path / "job.trebb") as made:
        made.append([note("a")])
    assert [p.name for p in tmp_path.iterdir()] == ["job.trebb"]


def test_a_job_of_before_is_opened_with_what_still_stands_in_its_log(tmp_path):
    path = tmp_path / "old.trebb"
    JobFile.create(path).close()
    db = sqlite3.connect(path, isolation_level=None)
    db.execute("PRAGMA journal_mode = WAL")
    db.execute("""INSERT INTO entry VALUES (1, '', 1, 'note.written', '{"topic":"left","text":"kept"}')""")
    for name in ("old.trebb", "old.trebb-wal"):  # as a crash leaves them
        shutil.copy(tmp_path / name, tmp_path / name.replace("old", "crashed"))
    db.close()
    with JobFile.open(tmp_path / "crashed.trebb") as job_file:
        assert job_file.entries()[0].body == note("kept")


@pytest.mark.parametrize(
    ("happens", "said"),
    [
        (lambda path: path.rename(path.with_name("other.trebb")), "renamed or moved while it was open"),
        (lambda path: path.unlink(), "deleted while it was open"),
        (lambda path: (path.unlink(), path.write_bytes(b"x")), "another stands in its place"),
    ],
)
def test_a_file_that_goes_while_open_is_said_and_takes_nothing_more(job_file, happens, said):
    assert job_file.trouble() == ""
    happens(job_file.path)
    assert said in job_file.trouble()
    with pytest.raises(JobFileError, match=f"not recorded: .*{said}"):
        job_file.append([note("lost")])
    assert [e.body.text for e in job_file.entries()] == ["first"]


def test_a_deleted_job_is_saved_anew_whole_and_goes_on(job_file):
    job_file.path.unlink()
    job_file.save_anew()
    assert job_file.trouble() == ""
    job_file.append([note("second")])
    assert len(texts(job_file.path)) == 2
    with pytest.raises(JobFileError, match="there already"):
        job_file.save_anew()


def test_an_entry_from_elsewhere_is_noticed_before_anything_is_put_on_top(job_file):
    with closing(sqlite3.connect(job_file.path, isolation_level=None)) as db:
        db.execute("""INSERT INTO entry VALUES (2, '', 2, 'note.written', '{"topic":"left","text":"x"}')""")
    with pytest.raises(JobFileError, match="another program wrote 1 entry into this job meanwhile"):
        job_file.append([note("mine")])
    assert len(texts(job_file.path)) == 2


# what is written for others --------------------------------------------------------------------


@pytest.mark.parametrize("what", ["export --csv", "export --json", "report --pdf"])
def test_nothing_is_written_over_a_job(tmp_path, capsys, what):
    path = tmp_path / "demo.trebb"
    make_demo(path).close()
    before = path.read_bytes()
    command, option = what.split()
    assert main([command, str(path), option, str(path)]) == 1
    assert "this is a job" in capsys.readouterr().err
    assert path.read_bytes() == before


def full(path: Path, data: bytes) -> None:
    raise OSError(28, "No space left")


def test_an_older_export_stays_until_the_new_one_is_whole(tmp_path, monkeypatch):
    path = tmp_path / "out.json"
    write_whole(path, b"old")
    monkeypatch.setattr(
        Path, "write_bytes", lambda self, data: (_ for _ in ()).throw(OSError(28, "No space left"))
    )
    with pytest.raises(WriteError, match="No space left"):
        write_whole(path, b"new")
    monkeypatch.undo()
    assert path.read_bytes() == b"old"
    assert [p.name for p in tmp_path.iterdir()] == ["out.json"]


def test_what_was_cut_short_is_not_said_to_be_written(tmp_path, monkeypatch):
    monkeypatch.setattr(Path, "write_bytes", lambda self, data: self.open("wb").close())
    with pytest.raises(WriteError, match="could not be read back whole"):
        write_whole(tmp_path / "out.csv", b"x" * 1000)
    assert list(tmp_path.iterdir()) == []


def test_a_killed_import_leaves_no_empty_job_behind(job_file, tmp_path, monkeypatch):
    brought = job_from_json(job_to_json(job_file).replace("note.written", "card.eaten"))
    assert brought.entries == []
    text = job_to_json(job_file)

    class Killed(BaseException):
        pass

    def killed(*_):
        raise Killed

    monkeypatch.setattr(JobFile, "restore", killed)
    with pytest.raises(Killed):
        make_job(tmp_path / "new.trebb", brought)
    monkeypatch.undo()
    assert not (tmp_path / "new.trebb").exists()
    assert text.count("note.written") == 1
    os.sync()
