"""The demo job as each version from 0.4.0 to 0.14.0 wrote it still opens, whole and unchanged."""

from __future__ import annotations

import gzip
from pathlib import Path

import pytest

from trebb.core.machine import State
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.file.looking import JobLookedAt
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import NoteWritten
from trebb.logbook.log.fold import Job

JOBS = Path(__file__).parent.parent / "data" / "jobs"
# Entries, readings, and the dial's error before the repair, thou, as that version's own sheet has it or as
# the readings alone say since (the early ones said 27.5 of it with what was expected of such a screw).
WRITTEN = {
    **dict.fromkeys(("0.4.0", "0.5.0"), (194, 99, 27.6)),
    "0.6.0": (194, 99, 26.8),
    "0.7.0": (239, 121, 26.8),
    **dict.fromkeys(("0.8.0", "0.9.0", *(f"0.{n}.0" for n in range(10, 15))), (251, 122, 26.8)),
}


@pytest.fixture
def old(tmp_path):
    def unpacked(version):
        path = tmp_path / "job.trebb"
        path.write_bytes(gzip.decompress((JOBS / f"{version}.trebb.gz").read_bytes()))
        return path

    return unpacked


def test_each_version_has_its_job():
    assert {p.name.removesuffix(".trebb.gz") for p in JOBS.iterdir()} == set(WRITTEN)


@pytest.mark.parametrize("version", WRITTEN)
def test_a_job_of_an_earlier_version_opens_whole_and_unchanged(old, version):
    path = old(version)
    bytes_before = path.read_bytes()
    count, readings, thou = WRITTEN[version]
    with JobLookedAt.look(path) as job_file:
        entries = list(job_file.entries())
        job = Job(entries)
    assert path.read_bytes() == bytes_before
    assert len(entries) == count
    assert not job.set_aside()
    assert len(list(job.all_readings())) == readings
    case = Cases(job).of("cross_slide")
    assert case.figures[0].value.value / 0.0254 == pytest.approx(thou, abs=0.05)
    assert case.chosen.key == "pair_thrust"
    assert case.figure_now().state is State.WITHIN
    assert f"up to {thou:.1f} thou" in case.findings(UnitSystem.INCH)[0].sentence


@pytest.mark.parametrize("version", ["0.4.0", "0.14.0"])
def test_it_goes_on_being_written_in_after_what_was_there(old, version):
    path = old(version)
    with JobFile.open(path) as job_file:
        before = list(job_file.entries())
        job_file.append([NoteWritten(topic="left", text="oil it")])
    with JobFile.open(path) as job_file:
        after = list(job_file.entries())
    assert after[: len(before)] == before
    assert after[-1].body.text == "oil it"
