"""The example of every command is there, and runs."""

from __future__ import annotations

import shlex

import pytest

from trebb.app.cli import command_words, examples, main

NOT_RUN = ("open", "demo", "install", "uninstall")  # a window, or this user's desktop


def test_every_command_has_an_example_that_runs_in_an_empty_folder(tmp_path, monkeypatch, capsys):
    monkeypatch.chdir(tmp_path)
    shown = examples()
    assert set(shown) == set(command_words())
    for name, line in shown.items():
        if name not in NOT_RUN:
            assert main(shlex.split(line)[1:]) == 0, (line, capsys.readouterr())
            assert not capsys.readouterr().err, line
    with pytest.raises(SystemExit) as asked:
        main(["work", "--help"])
    assert asked.value.code == 0
    assert shown["work"] in capsys.readouterr().out


def test_what_can_be_stated_is_listed_with_what_it_takes_and_is(tmp_path, capsys):
    path = str(tmp_path / "a.trebb")
    assert main(["new", path, "--kind", "mill"]) == 0
    assert main(["state", path, "table_screw", "divisions=250"]) == 0
    capsys.readouterr()
    assert main(["facts", path]) == 0
    said = capsys.readouterr().out
    assert "table_screw:" in said
    assert "divisions = 250" in said
    assert "head:" in said
