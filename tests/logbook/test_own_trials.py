"""Trials that stand in no table, and recordings of how a machine sounds."""

from __future__ import annotations

import wave

import pytest

from tests.demo import JobAtHand
from trebb.core.errors import InputError
from trebb.logbook.exchange.job_json import job_from_json, job_to_json, make_job
from trebb.logbook.file.recordings import RecordingError, read_recording
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import JobStarted, MatterStated, PhotoAdded
from trebb.logbook.log.fold import Job
from trebb.logbook.plan.trials import hangs_on, own_trial, told_of_trials, told_words, trials_of


@pytest.fixture
def at(tmp_path):
    file = JobFile.create(tmp_path / "trials.trebb")
    at = JobAtHand(file)
    at.record(JobStarted("Shop", "Lathe", "lathe"))
    yield at
    file.close()


def own(at):
    return next(t for t in trials_of(at.cases)["line"] if t.key == "own1")


def test_a_trial_of_one_s_own_clears_what_it_is_said_to_hang_on(at):
    at.record(*own_trial(at.cases, "Skimmed a bar in the collet, no centre", "line"))
    at.record(MatterStated("trial", "own1", "came", "good"))
    assert "line" not in told_of_trials(at.cases)  # it hangs on nothing that was said: it says nothing
    for part in ("collet", "head", "bed"):
        at.record(hangs_on(at.cases, own(at), part))
    told = told_of_trials(at.cases)["line"]
    assert {"collet", "head", "bed"} <= set(told.cleared)
    at.record(MatterStated("trial", "bar_swept", "came", "bad"))
    left = told_of_trials(at.cases)["line"].left
    assert set(left) <= {"bar", "taper"}
    at.record(hangs_on(at.cases, own(at), "bed"))  # again takes it back
    assert own(at).hangs_on == ("collet", "head")
    at.record(MatterStated("trial", "own1", "gone", "yes"))
    assert not any(t.key == "own1" for t in trials_of(at.cases)["line"])


def test_a_trial_that_denies_the_rest_is_said(at):
    at.record(*own_trial(at.cases, "The same again", "line"))
    for part in ("bar", "taper", "head", "bed"):
        at.record(hangs_on(at.cases, own(at), part))
    for key, came in (("bar_half", "good"), ("second_bar", "good"), ("own1", "bad")):
        at.record(MatterStated("trial", key, "came", came))
    assert "deny each other" in told_words(told_of_trials(at.cases)["line"])


def test_what_will_not_do_is_named_with_what_would(at):
    with pytest.raises(InputError, match="say what was tried"):
        own_trial(at.cases, "  ", "line")
    with pytest.raises(InputError, match=r"complaint “noise”.*finish"):
        own_trial(at.cases, "Belt off", "noise")
    at.record(*own_trial(at.cases, "Belt off", "line"))
    with pytest.raises(InputError, match=r"hangs on .*bar"):
        hangs_on(at.cases, own(at), "moon")
    # Of another program, about what there is none of: it stands with the first, and is not lost.
    at.record(MatterStated("trial", "own9", "words", "Turned it off and on"))
    at.record(MatterStated("trial", "own9", "about", "humour"))
    assert any(t.key == "own9" for each in trials_of(at.cases).values() for t in each)


def sound(path, seconds=0.1):
    with wave.open(str(path), "wb") as made:
        made.setnchannels(1)
        made.setsampwidth(2)
        made.setframerate(8000)
        made.writeframes(b"\0\1" * int(8000 * seconds))
    return path


def test_a_recording_is_kept_as_it_was_given_and_is_no_photograph(at, tmp_path):
    sha, media, data = read_recording(sound(tmp_path / "growl.wav"))
    assert media == "audio/wav"
    at.file.append(
        [PhotoAdded("spindle", sha, media, "growl.wav", "before")], photographs={sha: (media, data)}
    )
    make_job(tmp_path / "again.trebb", job_from_json(job_to_json(at.file)))
    with JobFile.open(tmp_path / "again.trebb") as again:
        job = Job(again.entries())
        assert [r.file_name for r in job.recordings()] == ["growl.wav"]
        assert not job.photos()
        assert again.photograph(sha) == (media, data)


@pytest.mark.parametrize(
    ("head", "media"),
    [
        (b"OggS\0\2", "audio/ogg"),
        (b"fLaC\0\0", "audio/flac"),
        (b"\0\0\0\x1cftypM4A ", "audio/mp4"),
        (b"ID3\4", "audio/mpeg"),
    ],
)
def test_what_telephones_record_is_known_by_its_head(tmp_path, head, media):
    (tmp_path / "one").write_bytes(head + bytes(100))
    assert read_recording(tmp_path / "one")[1] == media


def test_what_is_no_recording_or_cut_off_is_named(tmp_path):
    (tmp_path / "words.wav").write_text("not a sound")
    with pytest.raises(RecordingError, match="no recording"):
        read_recording(tmp_path / "words.wav")
    whole = sound(tmp_path / "whole.wav").read_bytes()
    (tmp_path / "half.wav").write_bytes(whole[: len(whole) // 2])
    with pytest.raises(RecordingError, match="cut off"):
        read_recording(tmp_path / "half.wav")
    with pytest.raises(RecordingError):
        read_recording(tmp_path / "none.wav")
