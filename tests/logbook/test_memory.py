"""The shop's memory: what jobs teach, what it changes in the next one, and that no job needs it."""

from __future__ import annotations

import json
import sqlite3

import msgspec
import numpy as np
import pytest

from tests.demo import demo_at
from tests.independent.job import TypedJob
from tests.independent.shop import ANSWER, NOISY, NOW, ShopJob, foretold, years_of
from trebb.app.cli import main
from trebb.core.errors import InputError
from trebb.core.memory.blending import Seen, Usual, gain
from trebb.core.memory.taught import USUAL, Taught
from trebb.logbook.cases.casework import Cases
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import Entry, JobStarted, ReadingTaken
from trebb.logbook.log.fold import Job
from trebb.logbook.memory.asked import memory_of
from trebb.logbook.memory.instrument_checks import admitted_check, check_of
from trebb.logbook.memory.joining import bring_in
from trebb.logbook.memory.lessons import given, job_name, lessons
from trebb.logbook.memory.shop import (
    InstrumentChecked,
    JobGiven,
    JobLeftOut,
    LessonKept,
    ShopFile,
    ThingKept,
    export_shop,
    open_shop,
    read_shop,
    remember,
)
from trebb.logbook.memory.shop_place import has_memory, shop_path
from trebb.logbook.memory.taught_for import taught_for


@pytest.fixture(scope="module")
def memory():
    """Twenty jobs of a shop whose indicators repeat twice as badly and whose beds answer half as much."""
    return years_of(20)


def figure(memory, topic, of):
    return next(k for k in memory.figures() if (k.topic, k.of) == (topic, of))


# what it learns -------------------------------------------------------------------------------


def test_it_learns_the_shops_own_noise_and_answer(memory):
    noise = figure(memory, "noise", "dial indicator").now
    assert noise.low <= NOISY <= noise.high
    assert noise.source == "yours, from 20 jobs"
    micrometer = figure(memory, "noise", "micrometer").now
    assert micrometer.low <= 1.0 <= micrometer.high
    answer = figure(memory, "answer", "lathe/ways/answer").now
    assert answer.mean == pytest.approx(ANSWER, abs=0.03)


def test_what_it_then_foretells_is_right(memory):
    with_it, without = (foretold(range(1000, 1030), t) for t in (memory.taught(), USUAL))
    assert 0.90 <= with_it.cover <= 0.99
    assert np.mean(with_it.hours) == pytest.approx(1.0, abs=0.1)
    assert np.mean(without.hours) < 0.7
    assert np.mean(with_it.answers) >= 0.9
    assert np.mean(without.answers) == 0.0


def test_over_sure_families_are_made_wider_and_say_so(memory):
    gib = next(f for f in memory.foretold() if f.family == "gib")
    assert gib.cover < 0.95
    assert gib.wider > 1.1
    assert memory.taught().widen["gib"] == gib.wider


def test_a_job_left_out_counts_no_longer_and_again(memory):
    taken = memory.figures(("job 3",))
    whole = memory.figures()
    assert next(k.now.jobs for k in taken if k.topic == "noise") == 19
    assert next(k.now.jobs for k in whole if k.topic == "noise") == 20


def test_a_later_job_differs_by_what_was_taught(memory):
    usual, own = ShopJob(77), ShopJob(77, memory.taught())
    for job in (usual, own):
        job.rock("before")
    wide = [job.of("saddle").estimate.source("worn.mid").sd for job in (usual, own)]
    assert wide[1] > 1.1 * wide[0]
    assert usual.of("ways").before_any.source("answer").value == pytest.approx(0.8, abs=0.02)
    assert own.of("ways").before_any.source("answer").value == pytest.approx(ANSWER, abs=0.05)


# what a job teaches ---------------------------------------------------------------------------


def test_repeats_by_hand():
    """Three at 10, 12, 14 µm: variance 4 µm², two degrees of freedom; with three such places six."""
    job = TypedJob()
    for spot in ("left", "mid", "right"):
        job.read("saddle", "rock", f"{spot}, thin end", 0.010, 0.012, 0.014)
    line = next(x for x in lessons("a", job.job, NOW) if x.lesson and x.lesson.topic == "noise")
    usual = job.of("saddle").set_ups[2].row(job.of("saddle").subject, "mid, thin end").noise_sd
    assert line.lesson.value == pytest.approx(np.log(0.002 / usual))
    assert line.lesson.sd == pytest.approx(0.5 * np.sqrt(2 / 6))


def test_equal_repeats_teach_no_more_than_the_step_hides():
    job = TypedJob()
    for spot in ("left", "mid", "right"):
        job.read("saddle", "rock", f"{spot}, thin end", 0.010, 0.010, 0.010)
    line = next(x for x in lessons("a", job.job, NOW) if x.lesson and x.lesson.topic == "noise")
    assert np.isfinite(line.lesson.value)
    assert line.lesson.value > np.log(0.1)


def test_one_reading_teaches_nothing_and_a_simulated_machine_neither(tmp_path):
    job = TypedJob().read("saddle", "rock", "mid, thin end", 0.02)
    assert not [x for x in lessons("a", job.job, NOW) if x.lesson]
    with make_demo(tmp_path / "demo.trebb") as demo:
        assert lessons("demo", Job(demo.entries()), NOW) == []
        assert taught_for(Job(demo.entries())) == (USUAL, "")


def test_parts_threads_and_symptoms_are_found_again():
    job = TypedJob()
    job.state("cross_slide", form="Acme", major_mm=19.05, pitch_mm=3.175, hand="left")
    things = [x.thing for x in lessons("a", job.job, NOW) if x.thing]
    assert any(t.what == "thread" and "cross" in t.words.lower() for t in things)


# the file -------------------------------------------------------------------------------------

LESSON = LessonKept(job="a", topic="noise", of="dial indicator", value=0.7, sd=0.1)
GIVEN = JobGiven(job="a", machine="Lathe 9", machine_kind="lathe", path="/nowhere")


def test_what_a_job_gave_last_stands(tmp_path):
    remember([GIVEN, LESSON, LessonKept(job="a", topic="noise", of="micrometer", value=0.7, sd=0.1)])
    remember([GIVEN, LESSON])
    memory = memory_of(read_shop()[0])
    assert [k.of for k in memory.figures()] == ["dial indicator"]
    remember([JobLeftOut(job="a", out=True)])
    assert memory_of(read_shop()[0]).figures() == []
    remember([JobLeftOut(job="a", out=False)])
    assert len(memory_of(read_shop()[0]).figures()) == 1


def test_a_job_keeps_its_name_wherever_its_file_goes(tmp_path):
    with JobFile.create(tmp_path / "a.trebb") as job_file:
        job_file.append([JobStarted(shop="s", machine="Lathe 9", machine_kind="lathe")])
        name = job_name(job_file)
        assert given(job_file, Job(job_file.entries())).machine == "Lathe 9"
    (tmp_path / "a.trebb").rename(tmp_path / "b.trebb")
    with JobFile.open(tmp_path / "b.trebb") as job_file:
        assert job_name(job_file) == name


def test_a_job_opens_by_usual_figures_where_the_memory_is_no_memory(tmp_path):
    job = TypedJob().job
    assert not has_memory()
    assert taught_for(job) == (USUAL, "")
    remember([GIVEN, LESSON])
    assert taught_for(job)[0].noise
    shop_path().write_bytes(b"not a database at all" * 10)
    taught, why = taught_for(job)
    assert taught == USUAL
    assert "not a Trebb shop’s memory" in why


def test_a_memory_of_a_newer_trebb_is_named_and_left_alone():
    remember([GIVEN])
    with sqlite3.connect(shop_path()) as db:
        db.execute("PRAGMA user_version = 9")
    db.close()
    before = shop_path().read_bytes()
    entries, why = read_shop()
    assert entries == []
    assert "newer Trebb" in why
    assert shop_path().read_bytes() == before


def test_a_memory_open_elsewhere_is_said():
    with open_shop():
        entries, why = read_shop()
        assert entries == []
        assert "open in another Trebb" in why
        with pytest.raises(JobFileError):
            remember([GIVEN])


def test_a_job_is_no_memory_and_a_memory_no_job(tmp_path):
    remember([GIVEN])
    with pytest.raises(JobFileError, match="not a Trebb job"):
        JobFile.open(shop_path())
    with JobFile.create(tmp_path / "a.trebb"):
        pass
    with pytest.raises(JobFileError, match="memory"):
        ShopFile.open(tmp_path / "a.trebb")


def test_the_memory_as_json(tmp_path):
    remember([GIVEN, LESSON])
    assert export_shop(tmp_path / "m.json") == 2
    told = json.loads((tmp_path / "m.json").read_text())
    assert told["entries"][1]["value"] == 0.7
    with pytest.raises(InputError, match="there already"):
        export_shop(tmp_path / "m.json")


def test_search_wants_all_the_words():
    remember(
        [GIVEN, ThingKept(job="a", what="part", of="x/nut", words="Nut, 3/4-8 Acme", facts={"length": 38})]
    )
    memory = memory_of(read_shop()[0])
    assert [t.words for t, _ in memory.search("acme LATHE 38")] == ["Nut, 3/4-8 Acme"]
    assert memory.search("acme mill") == []
    assert memory.search("  ") == []


@pytest.mark.parametrize(
    ("text", "is_found"),
    [
        ("8 tpi", True),
        ("3.175 mm", True),
        (".75", True),
        ("3/4 in acme", True),
        ("19.05", True),
        ("1.5 in nut", True),
        ("9 tpi", False),
        ("2 in", False),
        ("acme 10 tpi", False),
        ("8 tpi mill", False),
    ],
)
def test_things_are_found_by_their_sizes_as_a_shop_says_them(text, is_found):
    facts = {"pitch_mm": 3.175, "major_mm": 19.05, "length": 38.1}
    remember([GIVEN, ThingKept(job="a", what="part", of="x/nut", words="Nut, Acme", facts=facts)])
    assert bool(memory_of(read_shop()[0]).search(text)) is is_found


# instruments ----------------------------------------------------------------------------------


def test_a_check_by_hand():
    """Up 0, 2, 0, 2 and down 6, 8, 6, 8 µm: sd of each way √(4/3), hysteresis 6; 4 off the block."""
    check = check_of(InstrumentChecked("a", "dial indicator", 0.0, [0, 0.002] * 2, [0.006, 0.008] * 2))
    assert check.step_mm == pytest.approx(0.002)
    assert check.repeat_mm == pytest.approx(np.sqrt(8e-6 / 6))
    assert check.hysteresis_mm == pytest.approx(0.006)
    assert check.off_mm == pytest.approx(0.004)
    assert check.reading_sd_mm == pytest.approx(np.sqrt(8e-6 / 6 + 0.003**2 / 3))


def test_a_cheap_indicator_widens_what_it_reads_and_a_fine_one_nothing():
    fine = InstrumentChecked("fine", "dial indicator", 0.0, [0.0, 0.001, 0.0], [0.001, 0.0, 0.001])
    cheap = InstrumentChecked("cheap", "dial indicator", 0.0, [0.0, 0.01, 0.0], [0.02, 0.02, 0.01])
    remember([fine])
    assert memory_of(read_shop()[0]).taught() == Taught()
    remember([cheap])
    taught = memory_of(read_shop()[0]).taught()
    assert taught.extra_mm["dial indicator"] > 0.004
    job = TypedJob()
    job.cases.taught = taught
    job.read("saddle", "rock", "mid, thin end", 0.02, 0.02)
    plain = TypedJob().read("saddle", "rock", "mid, thin end", 0.02, 0.02)
    assert job.of("saddle").figures[0].value.half_width > 1.3 * plain.of("saddle").figures[0].value.half_width


@pytest.mark.parametrize(
    ("name", "up", "down", "names"),
    [("", [0] * 3, [0] * 3, "name"), ("a", [0, 0], [0] * 3, "up"), ("a", [0] * 3, [1e9] * 3, "down")],
)
def test_a_check_that_will_not_do_is_refused(name, up, down, names):
    with pytest.raises(InputError, match=names):
        admitted_check(name, "dial indicator", 0.0, up, down)


def test_a_later_reading_of_a_deleted_job_changes_nothing_of_the_memory(tmp_path):
    """The memory holds what a job taught, not the job: its file may go."""
    path = tmp_path / "a.trebb"
    with JobFile.create(path) as job_file:
        job_file.append([JobStarted(shop="s", machine="Lathe 9", machine_kind="lathe")])
        for value in (0.010, 0.012, 0.016, 0.011, 0.013):
            job_file.append([ReadingTaken("saddle", "rock", "mid, thin end", "before", value, "mm")])
        name, job = job_name(job_file), Job(job_file.entries())
        remember([given(job_file, job), *(x.lesson for x in lessons(name, job, NOW) if x.lesson)])
    path.unlink()
    memory = memory_of(read_shop()[0])
    assert memory.figures()
    assert not memory.jobs[name].is_out


def their_memory(tmp_path, *bodies):
    path = tmp_path / "theirs.trebb-memory"
    with ShopFile.create(path) as theirs:
        for each in bodies:
            theirs.append(each)
    return path


def test_another_shop_s_memory_comes_in_once_and_the_newer_of_a_job_stands(tmp_path):
    remember([GIVEN, LESSON])
    other = msgspec.structs.replace(GIVEN, job="b", machine="Their mill")
    lesson = msgspec.structs.replace(LESSON, job="b")
    check = InstrumentChecked(name="mic", kind_of="micrometer", block_mm=25.0, up=[25.0], down=[25.001])
    path = their_memory(tmp_path, [other, lesson], [JobLeftOut(job="b", out=True)], [check])
    found = bring_in(path)
    assert (found.jobs, found.checks, found.known) == (1, 1, 0)
    memory = memory_of(read_shop()[0])
    assert set(memory.jobs) == {"a", "b"}
    assert memory.jobs["b"].is_out
    assert len(memory.checks) == 1
    count = len(read_shop()[0])
    assert "Nothing new" in bring_in(path).words
    assert len(read_shop()[0]) == count
    # Of a job that both know, what was given last stands; an older one brings nothing.
    later = msgspec.structs.replace(LESSON, value=LESSON.value + 0.5)
    path.unlink()
    assert bring_in(their_memory(tmp_path, [GIVEN, later])).jobs == 1
    assert [one.value for one in memory_of(read_shop()[0]).lessons if one.job == "a"] == [later.value]


def test_a_memory_comes_in_from_json_and_what_is_none_is_named(tmp_path, capsys):
    remember([GIVEN, LESSON])
    told = tmp_path / "theirs.json"
    assert main(["shop-json", str(told)]) == 0
    shop_path().unlink()
    assert main(["shop-join", str(told)]) == 0
    assert "It brings 1 job" in capsys.readouterr().out
    assert memory_of(read_shop()[0]).lessons == [LESSON]
    for text, said in (
        ("{", "no JSON"),
        ("{}", "format"),
        (told.read_text().replace('"version": 1', '"version": 9'), "newer Trebb"),
        (told.read_text().replace('"topic"', '"topik"'), "entry 2"),
    ):
        (tmp_path / "bad.json").write_text(text)
        assert main(["shop-join", str(tmp_path / "bad.json")]) == 1
        assert said in capsys.readouterr().err
    job = tmp_path / "job.trebb"
    demo_at(job).close()
    assert main(["shop-join", str(job)]) == 1


NOISE = Usual(0.0, 0.40, 0.15, is_ratio=True)


@pytest.mark.parametrize(
    ("values", "is_better"),
    [((0.6, -0.6), False), ((0.7, 0.65, 0.72, 0.6), True), ((0.7,), None)],
    ids=["jobs that deny each other", "a shop that is so", "one job"],
)
def test_a_figure_is_used_while_it_foretells_better_left_one_job_out(values, is_better):
    seen = [Seen(f"job {i}", value, 0.05) for i, value in enumerate(values)]
    found = gain(NOISE, seen)
    assert found == 0 if is_better is None else (found > 0) is is_better


def test_what_foretells_worse_is_shown_and_not_used():
    entries, number = [], 0
    for job, value in (("a", 0.6), ("b", -0.6)):
        bodies = (
            JobGiven(job=job, machine="L", machine_kind="lathe"),
            LessonKept(job=job, topic="noise", of="dial indicator", value=value, sd=0.05),
        )
        entries += [Entry(number + i, "2026-01-01T00:00:00Z", number, b) for i, b in enumerate(bodies, 1)]
        number += len(bodies)
    memory = memory_of(entries)
    (known,) = memory.figures()
    assert not known.is_used
    assert "not used" in known.source
    assert memory.taught().noise == {}
    assert "not used" in memory.taught().sources["noise/dial indicator"]


def test_hours_days_and_money_of_the_shop_stand_in_remedies_too(tmp_path):
    with demo_at(tmp_path / "job.trebb") as job_file:
        job = Job(job_file.entries())
        usual = Cases(job).of("cross_slide")
        taught = Taught(hours={"make": 2.0, "fit": 2.0}, waits={"comes": 1.5}, prices=1.25)
        own = Cases(job, taught).of("cross_slide")
        for key in ("thrust", "pair_thrust"):
            plain, priced = usual.foretold(key)[0], own.foretold(key)[0]
            assert priced.hours == pytest.approx(2.0 * plain.hours)
            assert priced.cost == pytest.approx(1.25 * plain.cost)
            assert priced.wait_days == pytest.approx(1.5 * plain.wait_days)
