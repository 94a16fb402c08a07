"""Decimal commas, typed and shown."""

from __future__ import annotations

import datetime
import re

import pytest
from PySide6.QtCore import QLocale, Qt
from PySide6.QtWidgets import QComboBox, QLabel, QLineEdit, QPushButton

from tests.app.conftest import press
from tests.app.cut_text import shown
from trebb.app.look import numerals, painting
from trebb.app.papers.of_job import paper_of
from trebb.app.shell.walk import take_what_is_left
from trebb.app.stops.register import ALL_STOPS
from trebb.core.dates import date_typed
from trebb.core.errors import InputError, TrebbError
from trebb.core.facts import Choice, Words
from trebb.core.register import FAMILIES
from trebb.core.stating import card_schema, schema_of
from trebb.core.stating.matters import MATTERS, Date
from trebb.core.units import UnitSystem

METRIC = UnitSystem.METRIC


@pytest.fixture
def commas(qapp):
    numerals.follow(QLocale(QLocale.Language.German))
    yield
    numerals.follow(QLocale(QLocale.Language.C))


@pytest.mark.parametrize(
    ("text", "shown"),
    [
        ("12.5 ± 0.6 thou", "12,5 ± 0,6 thou"),
        ("−0.02 to +0.10 mm", "−0,02 to +0,10 mm"),
        ("Ø12.70, 3 × 1.5", "Ø12.70, 3 × 1,5"),
        (".0021", "0,0021"),
        ("version 0.10.0", "version 0.10.0"),
        ("job1.5.trebb", "job1.5.trebb"),
        ("file 1.5.trebb", "file 1.5.trebb"),
        ("No. 2. Then 3.", "No. 2. Then 3."),
        ("1.5, 2.5 and 3.5.", "1,5, 2,5 and 3,5."),
        ("(0.4 mm)", "(0,4 mm)"),
        ("2026-11-26", "2026-11-26"),
        ("last on Sat 5 Dec", "last on Sat 5 Dec"),
        ("Sun 1 Mar 2027, 3.5 h", "Sun 1 Mar 2027, 3,5 h"),
        ("Saturn 5 December", "Saturn 5 December"),
        ("", ""),
    ],
)
def test_only_numbers_change_their_mark(commas, text, shown):
    assert numerals.shown(text) == shown


@pytest.mark.parametrize(
    "typed", ["5 Dez", "Sa. 5. Dez.", "5. Dezember", "5 dec", "Samstag 5.12.", "Samstag"]
)
def test_a_day_may_be_typed_in_the_shops_own_language(commas, typed):
    today = datetime.date(2026, 11, 30)
    assert date_typed(typed, today) == datetime.date(2026, 12, 5)


def test_without_that_language_its_days_are_refused(qapp):
    numerals.follow(QLocale(QLocale.Language.English))
    assert numerals.shown("Sat 5 Dec") == "Sat 5 Dec"
    with pytest.raises(InputError, match="write a date such as"):
        date_typed("5 Dez", datetime.date(2026, 11, 30))


def test_where_the_point_is_written_nothing_changes(qapp):
    numerals.follow(QLocale(QLocale.Language.English))
    assert numerals.shown("12.5") == "12.5"


def test_words_in_a_field_stay_as_they_were_written(commas):
    assert numerals.shown_field("12.70 mm") == "12,70 mm"
    assert numerals.shown_field("58.5  64.2") == "58,5  64,2"
    assert numerals.shown_field("swings 7.5 over the bed") == "swings 7.5 over the bed"


def pointed(window) -> list[str]:
    """Numbers with a point that stand on the screen."""
    found = []
    for widget in shown(window):
        if isinstance(widget, QLabel | QPushButton):
            found.append(widget.text())
        elif isinstance(widget, QComboBox):
            found.append(widget.currentText())
        elif isinstance(widget, QLineEdit) and re.fullmatch(numerals._FIELD, widget.text()):
            found.append(widget.text())
        if isinstance(widget, painting.Painted):
            found += [one.text for one in widget.said]
    return [text for text in found if numerals.shown(text) != text]


@pytest.mark.parametrize("machine", ["lathe", "mill"])
def test_no_stop_shows_a_decimal_point_where_the_language_has_a_comma(commas, make_window, machine):
    window = make_window(machine)
    frame = window.frame
    for case in (frame.session.cases.first(), frame.session.cases.of("spindle")):
        take_what_is_left(case, "before", frame.session.record)
        frame.session.choose(case.assembly_key)
        for stop in ALL_STOPS:
            frame.go_to(stop.key)
            window.grab()
            assert not pointed(window), stop.key
    assert not painting.TROUBLES


def test_a_field_shows_a_comma_and_takes_one(commas, window):
    frame = window.frame
    frame.session.show_in(METRIC)
    frame.go_to("parts")
    field = frame.findChild(QLineEdit, "major_mm")
    assert "," in field.text()
    field.setFocus()
    field.selectAll()
    field.insert("19,25 mm")
    field.setModified(True)
    press(field, Qt.Key.Key_Return)
    fact = next(f for f in schema_of("screw_drive").facts if f.key == "major_mm")
    assert frame.session.case.stated(fact) == pytest.approx(19.25)
    assert field.text() == "19,250 mm"


def numeric_facts():
    seen = set()
    schemas = [schema_of(family) for family in FAMILIES] + [card_schema(), *MATTERS.values()]
    for schema in schemas:
        for fact in schema.facts:
            if not isinstance(fact, Choice | Words | Date) and (type(fact), fact.key) not in seen:
                seen.add((type(fact), fact.key))
                yield fact


def test_every_fact_that_takes_a_fraction_takes_it_with_a_comma():
    """Found by trying: whatever is taken with a point is taken alike with a comma."""
    tried = 0
    for fact in numeric_facts():
        for text in ("1.5", "12.7", "0.25", "1.5 mm", "45.5 mm", "250.5 mm", "0.25 mm", "2.5 kN"):
            try:
                with_point = fact.typed(text, METRIC)
            except TrebbError:
                continue
            assert fact.typed(text.replace(".", ","), METRIC) == with_point, (fact.key, text)
            tried += 1
    assert tried > 100


def test_papers_have_the_languages_mark(commas, window):
    session = window.frame.session
    take_what_is_left(session.case, "before", session.record)
    html = paper_of(session.cases, session.case, "acceptance", "", METRIC).sheets[0].html
    body = html.split("</style>")[1]
    assert numerals.shown(body) == body
    assert "," in body
