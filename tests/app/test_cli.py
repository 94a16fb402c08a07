"""The commands of the shell."""

from __future__ import annotations

import csv
import json

import pytest

from trebb.app import cli
from trebb.app.shell.headless import run_headless
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.file.store import JobFile


@pytest.fixture
def demo_file(tmp_path):
    make_demo(tmp_path / "demo.trebb").close()
    return tmp_path / "demo.trebb"


def run(*arguments) -> int:
    return cli.main([str(a) for a in arguments])


def test_new_writes_a_job(tmp_path, capsys):
    assert run("new", tmp_path / "a.trebb", "--machine", "Mill 1", "--kind", "mill", "--no-window") == 0
    with JobFile.open(tmp_path / "a.trebb") as job_file:
        assert job_file.entries()[0].body.machine_kind == "mill"
    assert run("new", tmp_path / "a.trebb", "--no-window") == 1
    assert "choose another name" in capsys.readouterr().err


def test_export_and_import_restore_the_same_job(demo_file, tmp_path):
    assert run("export", demo_file, "--json", tmp_path / "a.json", "--csv", tmp_path / "a.csv") == 0
    assert run("import", tmp_path / "a.json", tmp_path / "b.trebb") == 0
    with JobFile.open(tmp_path / "b.trebb") as again, JobFile.open(demo_file) as first:
        assert again.entries() == first.entries()
    with (tmp_path / "a.csv").open() as stream:
        assert len(list(csv.DictReader(stream))) == 76


def test_readings_from_csv_are_added_to_a_job(demo_file, tmp_path, capsys):
    (tmp_path / "r.csv").write_text("set_up,place,value_thou\nend_float,collar,6.1\n")
    assert run("import", tmp_path / "r.csv", demo_file) == 0
    assert "1 readings added" in capsys.readouterr().out
    (tmp_path / "r.csv").write_text("set_up,place,value_thou\nend_float,attic,6.1\n")
    assert run("import", tmp_path / "r.csv", demo_file) == 1
    assert "line 2" in capsys.readouterr().err


@pytest.mark.parametrize(
    ("arguments", "said"),
    [
        (("export", "none.trebb", "--csv", "x"), "no such file"),
        (("export", "{job}"), "say --json OUT"),
        (("export", "{job}", "--csv", "/proc/x.csv"), "not written"),
        (("import", "none.json", "x.trebb"), "cannot be read"),
        (("report", "{job}", "--pdf", "/proc/x.pdf"), "not written"),
    ],
)
def test_what_cannot_be_done_is_one_plain_sentence(demo_file, capsys, arguments, said):
    assert run(*(a.format(job=demo_file) for a in arguments)) == 1
    error = capsys.readouterr().err
    assert said in error
    assert error.startswith("trebb: ")
    assert "Traceback" not in error


def test_a_report_needs_readings(tmp_path, capsys):
    run("new", tmp_path / "a.trebb", "--no-window")
    assert run("report", tmp_path / "a.trebb", "--pdf", tmp_path / "a.pdf") == 1
    assert "take readings first" in capsys.readouterr().err


def test_a_report_is_two_pages_at_most(demo_file, tmp_path, capsys):
    assert run("report", demo_file, "--pdf", tmp_path / "a.pdf", "--units", "metric") == 0
    assert (tmp_path / "a.pdf").stat().st_size > 5000
    assert "(1 page)" in capsys.readouterr().out


def test_without_a_display_open_says_what_works(demo_file, capsys, monkeypatch):
    for name in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"):
        monkeypatch.delenv(name, raising=False)
    assert run("open", demo_file) == 1
    assert "there is no display here" in capsys.readouterr().err


def test_the_demo_without_a_window_does_the_main_job(tmp_path, capsys, qapp):
    assert run_headless(tmp_path / "out") == 0
    said = capsys.readouterr().out
    for words in (
        "The screw is worn",
        "New screw, nut and thrust",
        "Over wires",
        "Proof: The dial still loses",
        str(tmp_path / "out"),
    ):
        assert words in said
    names = {p.name for p in (tmp_path / "out").iterdir()}
    assert {
        "screw.dxf",
        "screw.svg",
        "nut.pdf",
        "acceptance.pdf",
        "survey.png",
        "prove.png",
        "demo.json",
        "readings.csv",
    } <= names
    assert json.loads((tmp_path / "out" / "demo.json").read_text())["format"] == "trebb-job"


def test_a_folder_that_cannot_be_written_is_said(capsys):
    assert run("demo", "--headless", "--out", "/proc/out") == 1
    assert "name another with --out" in capsys.readouterr().err
