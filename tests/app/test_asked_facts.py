"""A sentence that asks for a fact goes to its field; fields stand by the question they answer."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QPushButton

from tests.app.hand import Hand, add, choose
from trebb.app.survey.stated import FactGroups
from trebb.core.register import FAMILIES
from trebb.core.stating import schema_of
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import FactStated


@pytest.fixture
def hand(make_window):
    return Hand(make_window, "lathe", UnitSystem.INCH)


def follow(h, key):
    """Press the link of a fact at the stop on the screen; the widget that has the keys then."""
    QApplication.processEvents()
    links = [b for b in h.frame.stop.findChildren(QPushButton, f"state_{key}") if not b.isHidden()]
    assert links, f"nothing asks for {key}"
    links[0].click()
    QApplication.processEvents()
    return h.window.focusWidget()


def take(stop, figure):
    """A figure typed in the pod."""
    stop.pod.entry.setText(figure)
    QTest.keyClick(stop.pod.entry, Qt.Key.Key_Return)
    QApplication.processEvents()


@pytest.mark.parametrize("stop", ["findings", "parts"])
def test_what_a_shear_pin_asks_for_is_stated_by_following_it(hand, stop):
    add(hand, "apron", "shaft", "Dial shaft")
    hand.session.record(FactStated(assembly="dial_shaft", field="drive", value="shear_pin"))
    hand.read("dial_shaft", "shaft_rock", "free", 3)
    hand.frame.go_to(stop)
    QApplication.processEvents()
    if stop == "parts":
        choose(hand, "dial_shaft", "shear_pin")
        hand.frame.go_to(stop)
        hand.frame.stop.show_part("shear_pin")
    field = follow(hand, "guards_nm")
    assert field.objectName() == "guards_nm"
    assert field.isVisible()
    assert hand.frame.stop_key == "survey"
    field.selectAll()
    QTest.keyClicks(field, "30 ft-lb")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert hand.session.case.facts["guards_nm"] == pytest.approx(30 * 1.3558, rel=1e-3)


def test_the_deciding_question_is_open_and_the_rest_say_in_a_line_what_is_in_them(hand):
    add(hand, "apron", "gear", "Wheel")
    hand.session.record(FactStated(assembly="wheel", field="bore_mm", value=12.7))
    hand.session.record(FactStated(assembly="wheel", field="metal", value="iron"))
    bench = hand.frame.go_to("survey").bench
    bench.aside.show_leaf("stated")
    groups = bench.aside.fields
    assert isinstance(groups, FactGroups)
    open_, lines = [f.is_open for f in groups._folds], [f.inside.text() for f in groups._folds]
    assert open_ == [True, *[False] * (len(open_) - 1)]
    assert "bore .500" in lines[3] or "bore 0.5000 in" in lines[3]
    assert any("made of" in line for line in lines)
    assert lines[2] == "nothing stated"
    assert groups._folds[-1].isHidden(), "a spur gear has no spacer to ask for"
    assert groups.field("hub_mm").isVisible(), "what is gone to is opened"


@pytest.mark.parametrize("family", FAMILIES)
def test_where_facts_are_many_each_stands_under_its_question(family):
    schema = schema_of(family)
    keys = [key for _, keys in schema.groups for key in keys]
    assert len(keys) == len(set(keys))
    if schema.groups:
        assert {f.key for f in schema.facts} == set(keys)


def test_what_a_reading_is_understood_by_stands_beside_its_steps(hand):
    hand.session.choose("cross_slide")
    stop = hand.frame.go_to("survey")
    stop.bench.choose_set_up("thread_size")
    QApplication.processEvents()
    fields = stop.bench.aside.notes._fields["thread_size"]
    wire = fields.field("wire_mm")
    assert wire.isVisible()
    wire.selectAll()
    QTest.keyClicks(wire, ".060")
    QTest.keyClick(wire, Qt.Key.Key_Return)
    assert hand.session.case.facts["wire_mm"] == pytest.approx(1.524)
    stop.bench.choose_set_up("lash")
    QApplication.processEvents()
    assert not wire.isVisible()
    assert stop.bench.aside.notes._fields["lash"].field("divisions").isVisible()


def test_after_a_station_is_left_out_the_next_one_comes_and_the_one_left_out_last(hand):
    hand.session.choose("cross_slide")
    stop = hand.frame.go_to("survey")
    bench = stop.bench
    bench.choose_set_up("lash")
    keys = [p.key for p in bench.current.places(hand.session.case.subject)]
    for figure in ("5", "6"):
        take(stop, figure)
    bench.step(1)  # the third is left out
    for figure in ("7", "8"):
        take(stop, figure)
    job = hand.session.job
    read = {p.place: len(p.values) for p in job.standing("cross_slide", "lash", "before")}
    assert read == dict.fromkeys((keys[0], keys[1], keys[3], keys[4]), 1)
    assert bench.place().key == keys[2]


def test_several_typed_at_once_say_where_they_land_and_go_in_one_gesture(hand):
    hand.session.choose("cross_slide")
    stop = hand.frame.go_to("survey")
    stop.bench.choose_set_up("push_pull")
    entry = stop.pod.entry
    entry.setFocus()
    QTest.keyClicks(entry, "12 13 14")
    QApplication.processEvents()
    assert stop.pod.lands.isVisible()
    assert stop.pod.lands.text() == "Station 1: 12; Station 2: 13; Station 3: 14"
    QTest.keyClick(entry, Qt.Key.Key_Return)
    QApplication.processEvents()
    assert not stop.pod.lands.isVisible()
    standing = hand.session.job.standing("cross_slide", "push_pull", "before")
    assert [p.place for p in standing] == ["station 1", "station 2", "station 3"]
    assert stop.bench.place().key == "station 4"
    hand.session.undo()
    assert not hand.session.job.standing("cross_slide", "push_pull", "before")
    take(stop, "12; 12.5; 13")
    (one,) = hand.session.job.standing("cross_slide", "push_pull", "before")
    assert len(one.values) == 3
