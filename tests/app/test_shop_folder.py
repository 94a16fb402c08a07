"""What is the shop's and not a job's goes to another machine in one folder."""

from __future__ import annotations

import json

import pytest
from PySide6.QtCore import QSettings

from trebb.app.look import theme
from trebb.app.window import preferences
from trebb.core.errors import InputError
from trebb.logbook.cases.boxes import own_folder
from trebb.logbook.exchange.shop_folder import places, read_preferences, take_shop, write_shop
from trebb.logbook.memory.shop import JobGiven, LessonKept, read_shop, remember
from trebb.logbook.plan.rack import Bar, rack_path, read_rack, write_rack
from trebb.logbook.plan.suspicion import SHIPPED, own_table_path


@pytest.fixture
def home(tmp_path, monkeypatch):
    """Another user's home, by its name; each call moves there."""

    def move(name):
        for key in ("XDG_DATA_HOME", "XDG_CONFIG_HOME", "XDG_STATE_HOME"):
            monkeypatch.setenv(key, str(tmp_path / name / key))

    return move


def settings_of(tmp_path, name):
    return QSettings(str(tmp_path / f"{name}.ini"), QSettings.Format.IniFormat)


def fill(tmp_path):
    write_rack(read_rack(), [Bar("b1", "brass", "round", 25.4, 25.4, 300.0, "")])
    own_table_path().parent.mkdir(parents=True, exist_ok=True)
    own_table_path().write_bytes(SHIPPED.read_bytes())
    remember(
        [
            JobGiven(job="j1", machine="Lathe", machine_kind="lathe"),
            LessonKept(job="j1", topic="hours", of="pair", value=0.2, sd=0.1),
        ]
    )
    settings = settings_of(tmp_path, "old")
    settings.setValue("look", "evening")
    settings.setValue("preferences/touch", True)
    return settings


def test_all_of_it_goes_and_comes_to_another_home(home, tmp_path):
    home("old")
    went = write_shop(tmp_path / "out", preferences.told(fill(tmp_path)))
    assert [c.name for c in went] == ["preferences.json", "memory.json", "rack.json", "causes.json"]
    home("new")
    assert not rack_path().exists()
    came = take_shop(tmp_path / "out")
    assert not [c for c in came if c.trouble]
    assert [bar.size_mm for bar in read_rack().bars] == [25.4]
    assert own_table_path().read_bytes() == SHIPPED.read_bytes()
    assert [e.body.job for e in read_shop()[0]] == ["j1", "j1"]
    new = settings_of(tmp_path, "new")
    preferences.take(new, read_preferences(tmp_path / "out"))
    assert preferences.look_of(new) == "evening"
    assert preferences.kept(new).touch


def test_what_stood_there_is_kept_beside_and_what_will_not_do_leaves_it(home, tmp_path):
    home("old")
    write_shop(tmp_path / "out", preferences.told(fill(tmp_path)))
    home("new")
    write_rack(read_rack(), [Bar("b1", "brass", "round", 50.8, 50.8, 100.0, "")])
    before = rack_path().read_bytes()
    (tmp_path / "out" / "causes.json").write_text("[1, 2")
    came = {c.name: c for c in take_shop(tmp_path / "out")}
    assert "no table of causes" in came["causes.json"].trouble
    assert not own_table_path().exists()
    assert rack_path().with_name("rack.json.before").read_bytes() == before


def test_a_list_of_boxes_that_is_none_says_so_and_the_rest_comes(home, tmp_path):
    home("new")
    (tmp_path / "out" / "boxes").mkdir(parents=True)
    (tmp_path / "out" / "boxes" / "mine.toml").write_text("title = 3")
    (tmp_path / "out" / "rack.json").write_text(json.dumps({"format": "x"}))
    came = take_shop(tmp_path / "out")
    assert all(c.trouble for c in came)
    assert not own_folder().exists()


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("{", "no JSON"),
        ("[]", "format"),
        ('{"format": "trebb preferences", "version": 1, "preferences": 3}', "names"),
    ],
)
def test_preferences_that_are_none_are_refused_by_name(tmp_path, text, words):
    (tmp_path / "preferences.json").write_text(text)
    with pytest.raises(InputError, match=words):
        read_preferences(tmp_path)


def test_a_folder_with_nothing_of_a_shop_says_what_would_do(home, tmp_path):
    home("new")
    (tmp_path / "empty").mkdir()
    with pytest.raises(InputError, match=r"rack\.json"):
        take_shop(tmp_path / "empty")


def test_the_page_names_the_folder_writes_and_brings_in(home, make_window, tmp_path):
    home("old")
    fill(tmp_path)
    window = make_window()
    window.show_preferences()
    page = window._page
    assert str(places()["rack.json"].parent) in page.said.text()
    page.write_to(tmp_path / "out")
    assert "rack.json" in page.said.text()
    home("new")
    page.bring_in(tmp_path / "out")
    assert "1 bars" in page.said.text()
    assert len(read_rack().bars) == 1


def test_colours_follow_the_desktop_until_somebody_chooses(make_window, monkeypatch):
    window = make_window()
    monkeypatch.setattr(preferences, "desktop_look", lambda: "evening")
    window.follow_desktop()
    assert theme.roles() is theme.EVENING
    window.show_look("light")
    window.follow_desktop()
    assert theme.roles() is theme.LIGHT
    window.show_look("")
    assert theme.roles() is theme.EVENING
    monkeypatch.undo()
    window.follow_desktop()
