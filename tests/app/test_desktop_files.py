"""Installed like other programs: what the desktop is told, and that all of it goes away again."""

from __future__ import annotations

import configparser
import shutil
import sqlite3
import subprocess
import sys
from pathlib import Path
from xml.etree import ElementTree

import pytest

import trebb
from trebb.app.cli import command_words, main
from trebb.app.desktop.files import APP_ID, SIZES, as_exec, files, install, uninstall
from trebb.logbook.file.store import APPLICATION_ID, JobFile
from trebb.logbook.log.entries import JobStarted


@pytest.fixture(scope="module")
def installed(tmp_path_factory, qapp_of_module):
    """A prefix with everything in it."""
    prefix = tmp_path_factory.mktemp("prefix")
    install(prefix, command_words())
    return prefix


@pytest.fixture(scope="module")
def qapp_of_module():
    from trebb.app.window.gui import application

    return application()


def test_the_command_that_is_installed_runs(installed):
    out = subprocess.run([installed / "bin/trebb", "--version"], capture_output=True, text=True, check=True)
    assert out.stdout.strip() == f"trebb {trebb.__version__}"


def test_the_menu_entry_opens_a_job_and_names_its_kind(installed):
    entry = configparser.ConfigParser(interpolation=None)
    entry.optionxform = str
    entry.read(installed / f"share/applications/{APP_ID}.desktop")
    told = entry["Desktop Entry"]
    assert told["Type"] == "Application"
    assert told["Exec"] == f'"{installed}/bin/trebb" %f', "found before the next login, whatever the PATH"
    assert told["MimeType"] == "application/x-trebb-job;"
    assert (installed / f"share/icons/hicolor/48x48/apps/{told['Icon']}.png").exists()
    assert all(value.endswith(";") for key, value in told.items() if key in ("Categories", "Keywords"))


def test_a_place_with_odd_signs_is_masked_for_the_menu():
    assert as_exec(Path("/home/me/my apps/trebb")) == '"/home/me/my apps/trebb"'
    assert as_exec(Path("/opt/100%/$x")) == r'"/opt/100%%/\\$x"'


def test_every_icon_has_its_size_and_something_on_it(installed):
    from PIL import Image

    for folder in ("apps", "mimetypes"):
        for size in SIZES:
            path = next((installed / f"share/icons/hicolor/{size}x{size}/{folder}").iterdir())
            with Image.open(path) as image:
                assert image.size == (size, size)
                assert len(set(image.convert("RGBA").tobytes()[::4])) > 3


def test_the_kind_of_file_is_known_by_what_a_job_begins_with(installed, tmp_path):
    tree = ElementTree.parse(installed / "share/mime/packages/trebb.xml")
    space = {"m": "http://www.freedesktop.org/standards/shared-mime-info"}
    inner = tree.find(".//m:match/m:match", space)
    assert int(inner.get("value"), 16) == APPLICATION_ID
    with JobFile.create(tmp_path / "a.trebb") as job_file:
        job_file.append([JobStarted(shop="s", machine="m", machine_kind="lathe")])
    at = int(inner.get("offset"))
    assert (tmp_path / "a.trebb").read_bytes()[at : at + 4] == APPLICATION_ID.to_bytes(4, "big")
    sqlite3.connect(tmp_path / "plain.db").close()


def test_the_catalogue_entry_is_sound(installed):
    path = installed / f"share/metainfo/{APP_ID}.metainfo.xml"
    tree = ElementTree.parse(path)
    assert tree.find("id").text == APP_ID
    assert tree.find("releases/release").get("version") == trebb.__version__
    if shutil.which("appstreamcli"):
        out = subprocess.run(
            ["appstreamcli", "validate", "--no-net", str(path)], capture_output=True, text=True, check=False
        )
        assert out.returncode == 0, out.stdout


def test_the_manual_names_every_command_and_its_exit_codes(installed):
    page = (installed / "share/man/man1/trebb.1").read_text()
    words = (installed / "share/bash-completion/completions/trebb").read_text()
    assert len(command_words()) > 25
    for name in command_words():
        assert name.replace("-", "\\-") in page
    assert "trebb" in words
    assert ".SH EXIT STATUS" in page
    if shutil.which("man"):
        out = subprocess.run(
            ["man", "--warnings", "-l", str(installed / "share/man/man1/trebb.1")],
            capture_output=True,
            text=True,
            check=True,
            env={"MANPAGER": "cat", "PATH": "/usr/bin:/bin", "LC_ALL": "C.UTF-8"},
        )
        assert "rebuilding worn machine" in out.stdout
    subprocess.run(["bash", "-n", installed / "share/bash-completion/completions/trebb"], check=True)


def test_what_was_installed_goes_and_jobs_stay(tmp_path, qapp_of_module):
    job = tmp_path / "share/trebb/mine.trebb"
    job.parent.mkdir(parents=True)
    job.write_text("a job")
    written = install(tmp_path, command_words())
    assert len(written) == len(list(files({}, tmp_path))) + 1
    assert set(uninstall(tmp_path)) == set(written)
    assert job.exists()
    assert not [p for p in tmp_path.rglob("*") if p.is_file() and "trebb" in p.name and p != job]


def test_a_double_click_opens_the_job(tmp_path, monkeypatch):
    seen = []
    monkeypatch.setattr("trebb.app.cli._show", lambda job_file: seen.append(job_file) or 0)
    with JobFile.create(tmp_path / "a.trebb") as job_file:
        job_file.append([JobStarted(shop="s", machine="m", machine_kind="lathe")])
    assert main([str(tmp_path / "a.trebb")]) == 0
    assert seen[0].path == tmp_path / "a.trebb"
    seen[0].close()
    assert main([str(tmp_path / "none.trebb")]) == 1


def test_the_folder_may_be_any_and_it_is_said_how_to_start_it(tmp_path, capsys, monkeypatch, qapp_of_module):
    monkeypatch.setenv("PATH", "/usr/bin")
    assert main(["install", str(tmp_path / "x")]) == 0
    said = capsys.readouterr().out
    assert "files written" in said
    assert str(tmp_path / "x" / "bin") in said
    assert sys.executable in (tmp_path / "x/bin/trebb").read_text()
    assert main(["uninstall", str(tmp_path / "x")]) == 0
    assert not (tmp_path / "x/bin/trebb").exists()
