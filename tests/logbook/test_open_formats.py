"""What goes out fits its schema; a long job goes through piece by piece; spreadsheets run nothing."""

from __future__ import annotations

import csv
import io
import json
import tracemalloc
import zipfile
from pathlib import Path

import jsonschema
import pytest
from openpyxl import Workbook, load_workbook

from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import Cases
from trebb.logbook.cases.telling import machine_told, set_ups_told
from trebb.logbook.demo.jobs import DEMOS, readings_left
from trebb.logbook.exchange import job_json, schemas
from trebb.logbook.exchange.job_json import export_job, job_from_json, job_to_json, make_job, read_job_json
from trebb.logbook.exchange.readings_csv import ExchangeError, readings_from_csv, readings_to_csv
from trebb.logbook.exchange.spreadsheet import readings_text, write_xlsx
from trebb.logbook.file.store import JobFile, sha256_of
from trebb.logbook.log.entries import NoteWritten, PhotoAdded, ReadingStruck
from trebb.logbook.log.fold import Job

INCH = UnitSystem.INCH
DOCS = Path(__file__).parents[2] / "docs" / "schemas"


@pytest.fixture(params=["lathe", "mill", "drill"])
def job_file(request, tmp_path):
    """A demo job surveyed in part, with a photograph and words that mean mischief."""
    with DEMOS[request.param](tmp_path / "job.trebb") as made:
        cases = Cases(Job(made.entries()))
        made.append(readings_left(cases.first(), "before")[:40])
        data = b"a picture"
        sha = sha256_of(data)
        photo = PhotoAdded(assembly="spindle", sha256=sha, media_type="image/png", file_name="=cmd|x.png")
        made.append([photo, NoteWritten(topic="left", text="=1+1 “é”\n<b>")], {sha: ("image/png", data)})
        yield made


@pytest.mark.parametrize("key", schemas.SCHEMAS)
def test_the_schema_files_are_current_and_are_schemas(key):
    text = (DOCS / f"{key}.schema.json").read_text(encoding="utf-8")
    assert text == schemas.schema_text(key), "run make formats"
    jsonschema.Draft202012Validator.check_schema(json.loads(text))


def test_an_exported_job_fits_its_schema(job_file):
    jsonschema.validate(json.loads(job_to_json(job_file)), schemas.job_schema())


@pytest.mark.parametrize(
    "spoil",
    [
        lambda d: d["entries"][0].update(kind="job.eaten"),
        lambda d: d["entries"][0].pop("id"),
        lambda d: d.update(format="other"),
        lambda d: d["photographs"][0].update(sha256="short"),
    ],
)
def test_a_spoilt_one_does_not(job_file, spoil):
    document = json.loads(job_to_json(job_file))
    spoil(document)
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(document, schemas.job_schema())


def test_every_row_of_readings_fits_its_schema(job_file):
    rows = list(csv.DictReader(io.StringIO(readings_to_csv(Job(job_file.entries())))))
    assert rows
    for row in rows:
        jsonschema.validate(row, schemas.readings_schema())


def test_what_the_shell_prints_fits_its_schemas(job_file):
    cases = Cases(Job(job_file.entries()))
    jsonschema.validate(machine_told(cases, INCH), schemas.findings_schema())
    jsonschema.validate(set_ups_told(cases, ""), schemas.set_ups_schema())


# long jobs -------------------------------------------------------------------------------------


def test_written_piece_by_piece_it_is_the_same_text(job_file):
    text = job_to_json(job_file)
    assert text == json.dumps(json.loads(text), indent=1, ensure_ascii=False) + "\n"


def same(one, other) -> bool:
    return (
        one.entries == other.entries
        and one.set_aside == other.set_aside
        and dict(one.photographs) == dict(other.photographs)
    )


@pytest.mark.parametrize(
    "spoil",
    [
        lambda d: None,
        lambda d: d["entries"].insert(3, "not an entry"),
        lambda d: d["entries"][2].update(kind="job.eaten"),
        lambda d: d["photographs"].append("not a photograph"),
        lambda d: d["photographs"][0].update(base64="AAAA"),
        lambda d: d["photographs"].clear(),
        lambda d: d.update(more={"entries": [1, {"a": []}]}),
    ],
)
def test_read_piece_by_piece_it_brings_the_same(job_file, tmp_path, monkeypatch, spoil):
    document = json.loads(job_to_json(job_file))
    spoil(document)
    path = tmp_path / "export.json"
    path.write_text(json.dumps(document), encoding="utf-8")
    whole = read_job_json(path)
    monkeypatch.setattr(job_json, "STREAMED_BYTES", 0)
    assert same(read_job_json(path), whole)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "it cannot be read"),
        ('{"format": "trebb-job", "version": 1, "entries": [', "it cannot be read"),
        ('{"format": "other", "version": 1, "entries": []}', "it is not an exported job"),
        ('{"format": "trebb-job", "version": 9, "entries": []}', "this Trebb reads version 1"),
        ("[1, 2]", "it is not an exported job"),
    ],
)
def test_a_long_document_that_is_no_job_is_refused_in_a_sentence(tmp_path, monkeypatch, text, said):
    monkeypatch.setattr(job_json, "STREAMED_BYTES", 0 if text else -1)
    path = tmp_path / "export.json"
    path.write_text(text, encoding="utf-8")
    with pytest.raises(ExchangeError, match=said):
        read_job_json(path)


def test_a_job_of_many_photographs_needs_the_memory_of_a_few(tmp_path, monkeypatch):
    size, count = 400_000, 60
    with DEMOS["lathe"](tmp_path / "job.trebb") as job_file:
        for i in range(count):
            data = bytes([i]) * size
            sha = sha256_of(data)
            photo = PhotoAdded(assembly="ways", sha256=sha, media_type="image/png", file_name=f"{i}.png")
            job_file.append([photo], {sha: ("image/png", data)})
        monkeypatch.setattr(job_json, "STREAMED_BYTES", 1_000_000)
        monkeypatch.setattr(job_json, "BUFFER", 1_000_000)
        out = tmp_path / "export.json"
        tracemalloc.start()
        export_job(job_file, out)
        brought = read_job_json(out)
        make_job(tmp_path / "again.trebb", brought)
        peak = tracemalloc.get_traced_memory()[1]
        tracemalloc.stop()
        assert len(brought.photographs) == count
        assert out.stat().st_size > count * size
        assert peak < 0.5 * count * size
        with JobFile.open(tmp_path / "again.trebb") as again:
            assert again.entries() == job_file.entries()
            assert again.photograph(sha)[1] == data


# spreadsheets ----------------------------------------------------------------------------------


def test_a_spreadsheet_has_every_reading_and_runs_nothing(job_file, tmp_path):
    job_file.append(
        [ReadingStruck(reading=Job(job_file.entries()).all_readings()[0].id, reason="=HYPERLINK()")]
    )
    cases = Cases(Job(job_file.entries()))
    write_xlsx(cases, INCH, tmp_path / "job.xlsx")
    book = load_workbook(tmp_path / "job.xlsx")
    assert book.sheetnames == ["Machine", "Readings", "Figures", "Sizes taken", "To bring in"]
    assert not any(c.data_type == "f" for sheet in book for line in sheet.iter_rows() for c in line)
    rows = list(book["Readings"].iter_rows(min_row=2, values_only=True))
    taken = cases.job.all_readings()
    assert [(row[0], row[5]) for row in rows] == [(r.at, pytest.approx(r.taken.value)) for r in taken]
    assert rows[0][-1] == "=HYPERLINK()"
    with zipfile.ZipFile(tmp_path / "job.xlsx") as held:
        assert not any("<f>" in held.read(n).decode("utf-8", "replace") for n in held.namelist())


def sheet_of(path: Path, rows) -> Path:
    book = Workbook()
    book.active.append(["a page before"])
    for row in rows:
        book.create_sheet("readings") if len(book.worksheets) < 2 else None
        book.worksheets[1].append(row)
    book.save(path)
    return path


def test_readings_come_out_of_a_spreadsheet_as_out_of_csv(tmp_path):
    rows = [("set_up", "place", "value_thou"), ("end_float", "collar", 12.5), ("end_float", "collar", "13,5")]
    text = readings_text(sheet_of(tmp_path / "in.xlsx", rows))
    with DEMOS["lathe"](tmp_path / "job.trebb") as job_file:
        cases = Cases(Job(job_file.entries()))
        found = readings_from_csv(
            text.replace("set_up", "assembly\tset_up").replace("end_f", "cross_slide\tend_f"), cases
        )
    assert [r.value for r in found.readings] == [pytest.approx(12.5 * 0.0254), pytest.approx(13.5 * 0.0254)]


def test_a_formula_in_a_spreadsheet_is_its_last_value_or_nothing(tmp_path):
    rows = [("set_up", "place", "value_thou"), ("end_float", "collar", "=1+1")]
    assert readings_text(sheet_of(tmp_path / "in.xlsx", rows)).splitlines()[1] == "end_float\tcollar\t"


@pytest.mark.parametrize("kind", ["text", "zip", "bomb", "other", "gone"])
def test_what_is_no_list_of_readings_is_refused_in_a_sentence(tmp_path, kind):
    path = tmp_path / "in.xlsx"
    if kind == "text":
        path.write_text("set_up,place\n")
    elif kind in ("zip", "bomb"):
        with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as held:
            held.writestr("xl/workbook.xml", b" " * (120_000_000 if kind == "bomb" else 10))
    elif kind == "other":
        sheet_of(path, [("name", "age"), ("x", 1)])
    with pytest.raises(ExchangeError, match=r"in\.xlsx"):
        readings_text(path)


def test_an_export_that_has_no_room_leaves_the_older_one(job_file, tmp_path, monkeypatch):
    out = tmp_path / "export.json"
    export_job(job_file, out)
    before = out.read_bytes()
    monkeypatch.setattr(job_json, "_ends_whole", lambda path: False)
    with pytest.raises(Exception, match="not written"):
        export_job(job_file, out)
    assert out.read_bytes() == before
    assert job_from_json(before.decode()).entries == job_file.entries()
