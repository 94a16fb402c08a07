"""Back-ups at close, ten kept; a damaged job as far as it is sound."""

from __future__ import annotations

import datetime

import pytest

from trebb.core.errors import InputError
from trebb.logbook.file.backups import (
    KEPT,
    back_up,
    backup_folder,
    backups,
    can_be_salvaged,
    restore,
    salvage,
    saved_name,
)
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile, sha256_of
from trebb.logbook.log.entries import JobStarted, NoteWritten, PhotoAdded

NOW = datetime.datetime(2026, 12, 1, 20, tzinfo=datetime.UTC)


def job_of(path, notes: int = 3):
    """A job with so many notes."""
    job_file = JobFile.create(path)
    job_file.append([JobStarted(shop="s", machine="Lathe 9", machine_kind="lathe")])
    for i in range(notes):
        job_file.append([NoteWritten(topic=f"t{i}", text="x" * 300)])
    return job_file


def test_a_copy_is_made_verified_and_restored_under_a_new_name(tmp_path):
    with job_of(tmp_path / "a.trebb") as job_file:
        assert back_up(job_file, NOW) is not None
        before = job_file.entries()
    one = backups()[0]
    assert (one.machine, one.entries, one.at) == ("Lathe 9", 4, NOW)
    restore(one, tmp_path / "b.trebb")
    with JobFile.open(tmp_path / "b.trebb") as again:
        assert again.entries() == before
        again.append([NoteWritten(topic="more", text="goes on")])
    with pytest.raises(JobFileError, match="there already"):
        restore(one, tmp_path / "b.trebb")


def test_ten_are_kept_of_each_job_and_an_empty_one_has_none(tmp_path):
    with job_of(tmp_path / "a.trebb") as job_file:
        for i in range(KEPT + 3):
            back_up(job_file, NOW + datetime.timedelta(minutes=i))
    with job_of(tmp_path / "b.trebb") as other:
        back_up(other, NOW)
    found = backups()
    assert len(found) == KEPT + 1
    assert min(b.at for b in found if b.entries) == NOW  # the other job's; of the first the oldest went
    with JobFile.create(tmp_path / "c.trebb") as empty:
        assert back_up(empty) is None


def test_a_job_keeps_its_back_ups_wherever_its_file_goes(tmp_path):
    with job_of(tmp_path / "a.trebb") as job_file:
        back_up(job_file, NOW)
    (tmp_path / "a.trebb").rename(tmp_path / "moved.trebb")
    with JobFile.open(tmp_path / "moved.trebb") as job_file:
        back_up(job_file, NOW + datetime.timedelta(days=1))
    assert len(list(backup_folder().iterdir())) == 1


def test_what_is_no_back_up_is_passed_over(tmp_path):
    folder = backup_folder() / "x"
    folder.mkdir(parents=True)
    (folder / "20261201T200000000000.trebb").write_bytes(b"words")
    assert backups() == []


def test_a_folder_that_cannot_be_written_is_said(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_DATA_HOME", "/proc/nowhere")
    with job_of(tmp_path / "a.trebb") as job_file, pytest.raises(JobFileError, match="no back-up"):
        back_up(job_file)


def test_a_damaged_job_is_read_as_far_as_it_is_sound(tmp_path):
    path = tmp_path / "a.trebb"
    data = b"\x89PNG not shown"
    with job_of(path, 400) as job_file:
        sha = sha256_of(data)
        photo = PhotoAdded(assembly="saddle", sha256=sha, media_type="image/png", file_name="a.png")
        job_file.append([photo], {sha: ("image/png", data)})
        entries = {e.id: e for e in job_file.entries()}
    whole = bytearray(path.read_bytes())
    middle = len(whole) // 2 // 4096 * 4096
    whole[middle : middle + 4096] = b"\xff" * 4096  # a page gone
    path.write_bytes(whole)
    assert can_be_salvaged(path)
    target = saved_name(path)
    saved = salvage(path, target)
    assert 300 < saved.entries < 402
    assert saved.lost
    assert "could be read" in saved.words
    assert path.read_bytes() == bytes(whole)
    with JobFile.open(target) as again:
        assert all(entries[e.id] == e for e in again.entries())
    assert saved_name(path) != target


def test_nothing_is_made_of_what_is_no_job(tmp_path):
    path = tmp_path / "a.trebb"
    path.write_bytes(b"SQLite format 3\0" + b"\0" * 4000)
    assert not can_be_salvaged(path)
    assert not can_be_salvaged(tmp_path / "none.trebb")
    with pytest.raises(InputError, match="read"):
        salvage(path, tmp_path / "b.trebb")
    assert not (tmp_path / "b.trebb").exists()
