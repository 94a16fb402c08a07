"""What a command or a field refuses is nowhere: tried on the job as it would be, before it is stored."""

from __future__ import annotations

import pytest

from trebb.app.cli import main
from trebb.core.errors import InputError, TrebbError
from trebb.core.parts import all_families
from trebb.core.units import LengthError, UnitSystem, parse_length, parse_lengths
from trebb.logbook.cases.admitting import admit_together
from trebb.logbook.cases.casework import Cases
from trebb.logbook.demo.jobs import DEMOS, make_demo
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import FactStated, PartSet
from trebb.logbook.log.fold import Job

TEXTS = ("1 ft 2 in", "0.0", "0", "500 mm", "0.01 mm", "-1", "1 10", "9 in", "0.25", "60", "12 in 2 in")


@pytest.fixture
def demo(tmp_path):
    path = tmp_path / "job.trebb"
    make_demo(path).close()
    return path


def count(path) -> int:
    with JobFile.open(path) as job_file:
        return job_file.newest


@pytest.mark.parametrize("typed", ["housing=12 in 2 in", "housing=1 ft 2 in", "outside=1 in"])
def test_a_part_that_a_size_would_spoil_is_refused_and_stays_as_it_was(demo, typed, capsys):
    before = count(demo)
    assert main(["part", str(demo), "quill_bore", "bush", typed]) == 1
    assert "trebb:" in capsys.readouterr().err
    assert count(demo) == before
    assert main(["part", str(demo), "quill_bore", "bush"]) == 0
    assert main(["route", str(demo), "quill_bore", "bush"]) == 0


def test_sizes_that_go_together_are_judged_together(demo):
    both = ["housing=5 in", "outside=6 in"]
    assert main(["part", str(demo), "quill_bore", "bush", both[0]]) == 1
    assert main(["part", str(demo), "quill_bore", "bush", *both]) == 0
    assert main(["route", str(demo), "quill_bore", "bush"]) == 0


@pytest.mark.parametrize("machine", DEMOS)
def test_whatever_is_admitted_of_any_part_leaves_it_makeable(tmp_path, machine):
    with DEMOS[machine](tmp_path / "job.trebb") as job_file:
        entries = job_file.entries()
    job = Job(entries)
    cases = Cases(job)
    admitted = refused = 0
    for assembly in cases.kind.assemblies:
        case = cases.of(assembly.key)
        for key in [f.key for f in all_families() if assembly.family and case.makes(f.key)]:
            try:
                case.route(key, UnitSystem.INCH)
            except TrebbError:
                continue  # it hangs on what is not read yet
            for field in case.part_fields(key, UnitSystem.INCH):
                for text in TEXTS:
                    try:
                        body = PartSet(case.part_name(key), field.key, field.typed(text, UnitSystem.INCH))
                        admit_together(cases, [body])
                    except TrebbError:
                        refused += 1
                        continue
                    admitted += 1
    assert job.version == len(entries)  # nothing of it was kept
    assert admitted > 50
    assert refused > admitted


def test_facts_stated_in_one_breath_are_stored_together_or_not_at_all(demo):
    before = count(demo)
    assert main(["state", str(demo), "cross_slide", "travel_mm=12in", "nut_length_mm=0.0001in"]) == 1
    assert count(demo) == before


def test_two_assemblies_at_once_are_each_judged(demo):
    with JobFile.open(demo) as job_file:
        cases = Cases(Job(job_file.entries()))
    good = FactStated("cross_slide", "travel_mm", 200.0)
    with pytest.raises(InputError):
        admit_together(cases, [good, FactStated("cross_slide", "travel_mm", -5.0)])


@pytest.mark.parametrize(
    ("text", "inches"),
    [
        ("1 ft 2 in", 14), ("1ft 2in", 14), ("5' 6-1/2\"", 66.5), ("2 ft, 3.25 in", 27.25),
        ("1 foot 1/2 inch", 12.5), ("3′ 0″", 36), ("2 ft", 24), ("14 in", 14),
    ],
)  # fmt: skip
def test_feet_with_inches_behind_them_are_one_length(text, inches):
    assert parse_length(text, UnitSystem.METRIC) == pytest.approx(inches * 25.4, abs=1e-9)
    assert parse_lengths(text, UnitSystem.METRIC) == pytest.approx([inches * 25.4], abs=1e-9)


def test_two_lengths_stay_two():
    assert parse_lengths("1 ft 2 in 3 in", UnitSystem.INCH) == pytest.approx([14 * 25.4, 3 * 25.4])
    assert parse_lengths("12 in 2 in", UnitSystem.INCH) == pytest.approx([12 * 25.4, 2 * 25.4])
    with pytest.raises(LengthError):
        parse_length("1 ft 2 mm", UnitSystem.INCH)
