"""Whatever is given, a sentence comes back, and never a traceback."""

from __future__ import annotations

import io
import os
import random
import sqlite3
import subprocess
import sys
import zipfile
from pathlib import Path

import pytest

from trebb.app.cli import main
from trebb.core.errors import InputError, echoed
from trebb.logbook.cases.practice_piece import read_piece
from trebb.logbook.demo.jobs import make_demo
from trebb.logbook.exchange.readings_csv import ExchangeError
from trebb.logbook.exchange.spreadsheet import readings_text
from trebb.logbook.file.backups import can_be_salvaged, salvage
from trebb.logbook.file.drafts import Drafts
from trebb.logbook.file.file_trouble import JobFileError
from trebb.logbook.file.photographs import PhotographError, read_photograph
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import JobStarted, NoteWritten
from trebb.logbook.plan.rack import RackError, rack_path, read_rack
from trebb.logbook.plan.suspicion import causes_table, own_table_path


@pytest.fixture
def path(tmp_path):
    made = tmp_path / "job.trebb"
    make_demo(made).close()
    return made


@pytest.fixture(scope="module")
def sheet(tmp_path_factory):
    """A good spreadsheet of readings."""
    from openpyxl import Workbook

    book = Workbook()
    book.active.append(["assembly", "set_up", "place", "phase", "value_mm"])
    for n in range(40):
        book.active.append(["cross_slide", "push_pull", f"station {n % 5 + 1}", "before", 0.1 + n / 1000])
    book.save(tmp_path_factory.mktemp("sheet") / "good.xlsx")
    return (tmp_path_factory.getbasetemp() / "sheet0" / "good.xlsx").read_bytes()


def test_a_good_spreadsheet_is_read(sheet, tmp_path):
    (tmp_path / "good.xlsx").write_bytes(sheet)
    assert "set_up" in readings_text(tmp_path / "good.xlsx")


def test_a_spreadsheet_damaged_anywhere_is_a_sentence(sheet, tmp_path):
    rng = random.Random(1)
    damaged = tmp_path / "damaged.xlsx"
    refused = 0
    for n in range(120):
        data = bytearray(sheet)
        for _ in range(rng.choice([1, 3, 40])):
            data[rng.randrange(len(data))] = rng.randrange(256)
        damaged.write_bytes(data[: rng.randrange(len(data))] if n % 5 == 0 else data)
        try:
            readings_text(damaged)
        except (ExchangeError, InputError):
            refused += 1
    assert refused > 30


def test_one_byte_in_its_styles_is_enough_and_is_a_sentence(sheet, tmp_path):
    for name in ("xl/styles.xml", "xl/workbook.xml", "xl/worksheets/sheet1.xml", "[Content_Types].xml"):
        out = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(sheet)) as held, zipfile.ZipFile(out, "w") as made:
            for one in held.infolist():
                data = held.read(one)
                if one.filename == name:
                    data = data[:60] + b"<" + data[60:]
                made.writestr(one, data)
        (tmp_path / "x.xlsx").write_bytes(out.getvalue())
        with pytest.raises(InputError, match="damaged"):
            readings_text(tmp_path / "x.xlsx")


def test_an_encrypted_spreadsheet_and_a_bomb_are_said(tmp_path):
    (tmp_path / "locked.xlsx").write_bytes(bytes.fromhex("d0cf11e0a1b11ae1") + b"\0" * 5000)
    with pytest.raises(InputError, match="encrypted"):
        readings_text(tmp_path / "locked.xlsx")
    with zipfile.ZipFile(tmp_path / "bomb.xlsx", "w", zipfile.ZIP_DEFLATED) as made:
        made.writestr("xl/styles.xml", b"0" * 200_000_000)
    with pytest.raises(InputError, match="unpacks to more"):
        readings_text(tmp_path / "bomb.xlsx")


@pytest.fixture
def endless(tmp_path):
    """A pipe that nobody writes to, a device that never ends, a folder."""
    os.mkfifo(tmp_path / "pipe")
    return [tmp_path / "pipe", Path("/dev/zero"), tmp_path]


def test_what_never_ends_is_refused_before_it_is_read(endless, path, tmp_path, capsys):
    for place in endless:
        for read in (read_photograph, read_piece):
            with pytest.raises((PhotographError, InputError), match="no file but"):
                read(place)
        link = tmp_path / "x.json"
        for kind in ("json", "csv", "xlsx"):
            link = tmp_path / f"x.{kind}"
            link.unlink(missing_ok=True)
            link.symlink_to(place)
            target = path if kind != "json" else tmp_path / "new.trebb"
            assert main(["import", str(link), str(target)]) == 1
            assert "no file but" in capsys.readouterr().err
    assert not (tmp_path / "new.trebb").exists()


NESTED = "[" * 200_000


def test_nesting_without_end_is_a_sentence(tmp_path, capsys):
    (tmp_path / "deep.json").write_text(NESTED)
    assert main(["import", str(tmp_path / "deep.json"), str(tmp_path / "new.trebb")]) == 1
    assert "trebb:" in capsys.readouterr().err
    (tmp_path / "deep.toml").write_text("x = " + NESTED[:20_000])
    with pytest.raises(InputError, match="set piece is a TOML file"):
        read_piece(tmp_path / "deep.toml")
    rack_path().parent.mkdir(parents=True, exist_ok=True)
    rack_path().write_text(NESTED)
    with pytest.raises(RackError, match="no rack"):
        read_rack()
    own_table_path().parent.mkdir(parents=True, exist_ok=True)
    own_table_path().write_text(NESTED)
    assert "came with Trebb is used" in causes_table()[1]
    drafts = Drafts("x")
    drafts.path.parent.mkdir(parents=True, exist_ok=True)
    drafts.path.write_text(NESTED)
    assert drafts.of("y") == ""


@pytest.mark.parametrize("memory", [False, True])
def test_a_schema_that_is_no_text_is_damage_and_what_is_sound_is_offered(path, tmp_path, capsys, memory):
    if memory:
        from trebb.logbook.memory.shop import open_shop, read_shop
        from trebb.logbook.memory.shop_place import shop_path

        open_shop().close()
        broken = shop_path()
    else:
        broken = path
    data = bytearray(broken.read_bytes())
    at = data.index(b"entries are never changed")
    data[at : at + 3] = b"\xff\xfe\xff"
    broken.write_bytes(data)
    if memory:
        assert read_shop()[0] == []
        assert read_shop()[1]
        return
    with pytest.raises(JobFileError) as refused:
        JobFile.open(path)
    assert refused.value.is_damaged
    assert can_be_salvaged(path)
    assert salvage(path, tmp_path / "saved.trebb").entries > 50
    assert main(["findings", str(path)]) == 1
    assert "it is damaged" in capsys.readouterr().err


def test_an_entry_numbered_at_the_end_of_all_numbers_takes_no_more(path):
    with sqlite3.connect(path) as db:
        row = (
            2**63 - 1,
            "2026-01-01T00:00:00.000Z",
            2**63 - 1,
            "note.written",
            '{"topic":"left","text":"x"}',
        )
        db.execute("INSERT INTO entry VALUES (?, ?, ?, ?, ?)", row)
    db.close()
    with JobFile.open(path) as job_file:
        count = len(job_file.entries())
        with pytest.raises(JobFileError, match="as JSON"):
            job_file.append([NoteWritten(topic="left", text="y")])
        assert len(job_file.entries()) == count


def test_a_line_end_in_a_name_does_not_break_the_calendar(tmp_path):
    path = tmp_path / "job.trebb"
    with JobFile.create(path) as job_file:
        job_file.append([JobStarted(shop="s", machine="Lathe\r\n2\nBEGIN:X", machine_kind="lathe")])
    assert main(["matter", str(path), "again", "a1", "what=oil\nit", "due=in 2 days"]) == 0
    assert main(["calendar", str(path), str(tmp_path / "x.ics")]) == 0
    text = (tmp_path / "x.ics").read_text()
    assert "\nBEGIN:X" not in text
    assert "SUMMARY:Lathe 2 BEGIN:X" in text.replace("\r\n ", "")


@pytest.mark.parametrize("value", ["--5", "-nan", "-inf", "---5thou", "nan", "1e999", "-5"])
def test_a_value_that_looks_like_an_option_is_refused_as_a_value(path, capsys, value):
    assert main(["read", str(path), "cross_slide", "lash", "station 1", value]) == 1
    assert capsys.readouterr().err.startswith("trebb: ")


def test_preferences_of_another_kind_keep_no_job_closed(make_window, settings):
    for key, value in (
        ("units", "furlong"), ("look", "plaid"), ("text_size", "huge"), ("geometry", "x"),
        ("recent", 5), ("first_steps", "?"), ("sounds", "loud"), ("wedge_prefix", 3),
    ):  # fmt: skip
        settings.setValue(key, value)
    window = make_window("lathe")
    assert window.frame is not None
    window.leave_job()


def test_a_terminal_of_ascii_is_told_all_the_same(path):
    done = subprocess.run(
        [sys.executable, "-m", "trebb.app.cli", "findings", str(path)],
        env={**os.environ, "PYTHONIOENCODING": "ascii"}, capture_output=True, check=False,
    )  # fmt: skip
    assert done.returncode == 0
    assert b"+/-" in done.stdout
    assert b"Traceback" not in done.stderr


def test_a_spreadsheet_written_on_a_full_disk_is_a_sentence(path, tiny_disk):
    done = subprocess.run(
        [sys.executable, "-m", "trebb.app.cli", "export", str(path), "--xlsx", str(tiny_disk / "x.xlsx")],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert done.returncode == 1
    assert "not written" in done.stderr
    assert "Traceback" not in done.stderr
    assert "Exception ignored" not in done.stderr
    assert list(tiny_disk.iterdir()) == []


def test_a_refusal_repeats_sixty_letters_without_control_characters(path, capsys):
    long = "x" * 500 + "\x1b[31m\x07\u202e"
    assert main(["state", str(path), "cross_slide", f"travel_mm={long}"]) == 1
    said = capsys.readouterr().err
    assert "\x1b" not in said
    assert "\u202e" not in said
    assert "x" * 61 not in said
    assert echoed("“a\nb”: no") == "“a b”: no"


def test_a_memory_with_an_empty_check_opens(tmp_path):
    from trebb.logbook.memory.asked import memory_of
    from trebb.logbook.memory.shop import InstrumentChecked, open_shop, read_shop

    empty = InstrumentChecked(name="red", kind_of="indicator", block_mm=0.0, up=[], down=[])
    whole = InstrumentChecked(name="blue", kind_of="indicator", block_mm=0.0, up=[0.0] * 5, down=[0.0] * 5)
    with open_shop() as shop:
        shop.append([empty, whole])
    found = memory_of(read_shop()[0])
    assert found.taught() is not None
