"""Help on the screen, found by words; where a figure comes from."""

from __future__ import annotations

import contextlib
import re
from pathlib import Path

import pytest
from PySide6.QtCore import Qt, QUrl
from PySide6.QtGui import QShortcut

from tests.app.conftest import click, press, until
from trebb.app.cli import main
from trebb.app.help.cover import HelpCover
from trebb.app.help.declared import glossary
from trebb.app.help.figure_cover import FigureCover
from trebb.app.help.keys import keys_text
from trebb.app.help.topics import library, set_up_topic, written_topics
from trebb.app.shell.walk import take_what_is_left
from trebb.app.stops.register import ALL_STOPS
from trebb.core.survey import all_set_ups
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SCREW, Cases
from trebb.logbook.cases.where_from import chain_of, figure_words, without
from trebb.logbook.log.entries import ReadingTaken
from trebb.logbook.log.fold import Job
from trebb.logbook.lookup import Entry, TextIndex

INCH = UnitSystem.INCH


def opened(window) -> HelpCover:
    press(window, Qt.Key.Key_F1)
    return next(c for c in window.findChildren(HelpCover) if c.isVisible())


def current(cover) -> str:
    return cover.list.currentItem().data(Qt.ItemDataRole.UserRole)


@pytest.mark.parametrize("stop", [s.key for s in ALL_STOPS])
def test_f1_explains_the_stop_that_is_on_the_screen(window, stop):
    window.frame.session.choose("gearbox")  # nothing is read there: the stop itself is explained
    window.frame.go_to(stop)
    cover = opened(window)
    assert current(cover) == stop
    assert len(cover.text.toPlainText()) > 150
    press(cover, Qt.Key.Key_Escape)
    assert not any(c.isVisible() for c in window.findChildren(HelpCover))


def test_at_a_set_up_it_explains_that_with_its_picture_and_both_units(window):
    window.frame.go_to("survey")
    window.frame.stop.bench.choose_set_up("end_float")
    cover = opened(window)
    assert current(cover) == "set_up.end_float"
    assert cover.figure.isVisible()
    assert "Cannot tell" in cover.text.toPlainText()


def test_f1_closes_what_it_opened_and_takes_no_reading_meanwhile(window):
    frame = window.frame
    frame.go_to("survey")
    count = len(frame.session.job.all_readings())
    cover = opened(window)
    for key in (Qt.Key.Key_Space, Qt.Key.Key_5, Qt.Key.Key_Backspace):
        press(cover.list, key)
    assert len(frame.session.job.all_readings()) == count
    press(window, Qt.Key.Key_F1)
    assert not any(c.isVisible() for c in window.findChildren(HelpCover))


def test_help_on_the_start_page_begins_with_the_first_steps(make_window):
    window = make_window(None)
    cover = opened(window)
    assert current(cover) == "first_steps"
    assert "Space" in cover.text.toPlainText()


def asked_words() -> list[tuple[str, list[str]]]:
    """What is looked for, and pages of which one must be among the first three."""
    lines = (Path(__file__).parents[1] / "data" / "help_words.txt").read_text(encoding="utf-8").splitlines()
    pairs = (line.split(" => ") for line in lines if line and not line.startswith("#"))
    return [(words, pages.split()) for words, pages in pairs]


@pytest.fixture(autouse=True, scope="module")
def commands_said():
    """The shell says its commands before anything is shown."""
    with contextlib.suppress(SystemExit):
        main(["--version"])


def test_the_trade_s_words_find_their_page_among_the_first_three():
    asked = asked_words()
    assert len(asked) >= 300
    lost = [words for words, pages in asked if not set(library().index.found(words)[:3]) & set(pages)]
    assert lost == []


def test_every_page_of_the_glossary_goes_on_at_pages_that_there_are():
    topics = library().topics
    missing = [(word, key) for word, _, _, keys in glossary() for key in keys if key not in topics]
    assert missing == []
    for topic in topics.values():
        for key in re.findall(r"\]\(topic:([^)]+)\)", topic.text):
            assert key in topics, (topic.key, key)


def test_a_word_is_found_marked_and_gone_on_from(window):
    cover = opened(window)
    cover.search.setText("backlash")
    assert current(cover) == "word.lash"
    assert "moves before" not in cover.text.toPlainText()
    marked = {one.cursor.selectedText().casefold() for one in cover.text.extraSelections()}
    assert marked == {"backlash"}
    cover.text.anchorClicked.emit(QUrl("topic:set_up.lash"))
    assert current(cover) == "set_up.lash"
    assert "Cannot tell" in cover.text.toPlainText()
    assert cover.figure.isVisible()
    cover.search.setText("zeppelin <b>")
    assert cover.list.count() == 0
    assert "zeppelin <b>" in cover.text.toPlainText()


def test_on_the_start_page_every_set_up_of_every_machine_is_found(make_window):
    cover = opened(make_window(None))
    cover.search.setText("quill run out")
    assert current(cover) == "set_up.quill"


def test_a_slip_of_a_letter_and_two_words_in_one_are_understood():
    pages = [Entry("a", "Cross slide", "crossfeed", "moves across"), Entry("b", "Grease", "", "of bearings")]
    index = TextIndex(pages, [["oil", "grease"]])
    assert index.found("crosfeed")[0] == "a"
    assert index.found("slidecross") == ["a"]
    assert index.found("baerings") == ["b"]
    assert index.found("oil") == ["b"]
    assert index.found("the") == []
    assert index.found("?!") == []


@pytest.mark.parametrize("s", all_set_ups(), ids=lambda s: f"{s.family}.{s.key}")
def test_every_set_up_has_a_page_that_says_what_it_cannot_tell(s):
    text = set_up_topic(s).text
    assert s.tells.split()[0] in text
    assert "Cannot tell" in text


def test_help_names_no_key_that_nothing_answers(window):
    """Every key named in our texts is a shortcut of the window, a bench key or on a button."""
    text = keys_text(None, window)
    bench = {"Space", "Enter", "Backspace", "Up", "Down", "Left", "Right", "Esc", "Alt", "F1"}
    for topic in written_topics():
        for key in re.findall(r"\b(?:Ctrl|Shift|Alt)\+[A-Z0-9]+\b|\bF\d+\b", topic.text):
            assert key in text or key in bench, (topic.key, key)


def test_the_keys_listed_are_those_that_the_stop_answers(window):
    frame = window.frame
    frame.go_to("survey")
    text = keys_text(frame.stop, window)
    assert "take the reading" in text
    assert "Alt+Z" in text
    for shortcut in frame.findChildren(QShortcut, options=Qt.FindChildOption.FindDirectChildrenOnly):
        assert shortcut.whatsThis(), shortcut.key().toString()
        assert shortcut.whatsThis() in text
    frame.go_to("findings")
    assert "take the reading" not in keys_text(frame.stop, window)


# where a figure comes from ---------------------------------------------------------------------


def test_a_figure_names_its_readings_and_what_each_is_made_of(surveyed):
    case = surveyed.session.case
    chain = chain_of(case, case.figure_now(), INCH)
    read = {s.key for s in case.set_ups if case.observations_of(s.key)}
    assert {rest.key for rest in chain.rests} == read
    lash = next(rest for rest in chain.rests if rest.key == "lash")
    assert len(lash.places) == 5
    assert "nut" in lash.places[0].made_of
    assert "end float" in lash.places[0].made_of
    float_ = next(rest for rest in chain.rests if rest.key == "end_float")
    assert "nut" not in float_.places[0].made_of


def test_without_a_set_up_is_what_stands_where_nobody_read_it(surveyed):
    session = surveyed.session
    case, entries = session.case, session.file.entries()
    measure = case.figure_now()
    for key in ("end_float", "lash"):
        kept = [e for e in entries if not (isinstance(e.body, ReadingTaken) and e.body.set_up == key)]
        other = Cases(Job(kept)).of(SCREW)
        said = without(entries, session.cases.taught, case, measure.key, key, INCH)
        assert said == figure_words(next((m for m in other.figures if m.key == measure.key), None), INCH)
    assert without(entries, session.cases.taught, case, measure.key, "lash", INCH) != figure_words(
        measure, INCH
    )


def test_the_page_is_opened_from_findings_and_worked_out_behind_it(surveyed):
    surveyed.go_to("findings")
    click(surveyed, "where_from")
    cover = surveyed.findChild(FigureCover)
    assert cover.key == surveyed.session.case.figure_now().key
    assert until(lambda: not cover._waiting)
    words = [effect.text() for effect in cover._without.values()]
    assert all("…" not in text for text in words)
    assert any("at least" in text or "±" in text for text in words)
    press(cover, Qt.Key.Key_Escape)


@pytest.mark.parametrize("machine", ["lathe", "mill", "drill"])
def test_every_measured_part_has_such_a_page(make_window, machine):
    window = make_window(machine)
    session = window.frame.session
    for assembly in session.cases.kind.assemblies:
        case = session.cases.of(assembly.key)
        if case.has_set_ups:
            take_what_is_left(case, "before", session.record)
        session.choose(assembly.key)
        window.frame.show_where_from()
        cover = next(c for c in window.findChildren(FigureCover) if c.isVisible())
        for key in cover.figures:
            cover.choose(key)
            assert cover.banner.head.text()
        cover._waiting.clear()
        cover.close()


def test_where_nothing_was_read_it_says_so(make_window):
    window = make_window("new")
    window.frame.session.choose(SCREW)
    window.frame.show_where_from()
    cover = window.frame.findChild(FigureCover)
    assert "No figure here yet" in cover.banner.head.text()


def test_a_page_is_saved_as_pdf_whose_words_can_be_copied(window, tmp_path):
    from pypdf import PdfReader

    cover = opened(window)
    cover.choose("units")
    cover.save_to(tmp_path / "units.pdf")
    said = " ".join(PdfReader(tmp_path / "units.pdf").pages[0].extract_text().split())
    assert "thou" in said
    cover.save_to(tmp_path)
    assert "folder" in cover.text.toPlainText()
