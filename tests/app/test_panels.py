"""Panels moved with the mouse, fields that refuse, and the report's words."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QComboBox, QLabel

from tests.app.conftest import keys, press, until
from trebb.app.look.fields import Fields
from trebb.app.look.typed import LengthEdit
from trebb.app.parts.report import sheet_facts
from trebb.app.parts.sizes_panel import size_text
from trebb.app.shell.walk import choose_least_work, cut_parts, take_what_is_left
from trebb.app.stops.register import ALL_STOPS, STOPS
from trebb.core.errors import InputError
from trebb.core.parts import SizeRow
from trebb.core.threads import Band
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SCREW
from trebb.logbook.log.entries import (
    FactStated,
    NoteWritten,
    ReadingStruck,
    ReadingTaken,
    RemedyChosen,
    SizeTaken,
    StepDone,
)

INCH, METRIC = UnitSystem.INCH, UnitSystem.METRIC


def mouse(widget, x: float, y: float):
    QTest.mouseMove(widget, QPoint(int(x), int(y)))
    QTest.mouseClick(widget, Qt.MouseButton.LeftButton, pos=QPoint(int(x), int(y)))
    QApplication.processEvents()


def test_a_click_on_the_elevation_chooses_the_part(frame):
    elevation = frame.machine.elevation
    mouse(elevation, elevation.width() * 0.87, 60)
    assert frame.session.assembly == "tailstock"


def test_a_click_in_the_list_chooses_the_part(frame):
    names = [a.key for a in frame.session.case.kind.assemblies]
    rows = frame.machine.list
    mouse(rows, 60, rows.height() / len(names) * 1.5)
    assert frame.session.assembly == names[1]


def test_a_click_on_the_rail_moves_the_carriage(frame):
    mouse(frame.rail, frame.rail.width() * 5.5 / 8, 30)
    assert STOPS[frame.index].key == "make"


def test_a_click_on_what_is_worth_next_goes_there(frame):
    mouse(frame.stop.worth, 60, 24 + 44 * 1.5)
    assert frame.stop.bench.current.key == "thread_size"


def test_a_click_on_a_remedy_looks_at_it(surveyed):
    stop = surveyed.go_to("remedies")
    mouse(stop.rows, 100, 24 + 41 * 0.5)
    assert stop.current == "leave"
    assert "goes on lying" in stop.risk.text()


def test_a_click_in_the_walk_round_chooses_the_part_to_grade(frame):
    stop = frame.go_to("intake")
    mouse(stop.walk, 60, 15)
    assert frame.session.assembly == "spindle"
    assert stop.part.text() == "Walk-round: Spindle & taper"


def test_a_set_up_is_chosen_by_its_letter(frame):
    press(frame, Qt.Key.Key_C, Qt.KeyboardModifier.AltModifier)
    assert frame.stop.bench.current.key == "end_float"


def test_the_figure_follows_the_place(frame):
    frame.stop.bench.choose_place("station 1")
    first = frame.stop.bench.figure._figure
    frame.stop.bench.choose_place("station 5")
    assert frame.stop.bench.figure._figure != first


def test_the_instrument_is_chosen_in_the_pod(frame):
    pod = frame.stop.pod
    press(frame, Qt.Key.Key_I, Qt.KeyboardModifier.ControlModifier)
    assert pod.sources.isVisible()
    pod.use("keys")
    assert not pod.sources.isVisible()
    assert pod.source.text() == "typed"
    assert pod.numeral.text() == "–"
    pod.use("simulated")
    assert frame.link.kind == "simulated"


def test_zero_is_sent_to_the_instrument_and_the_next_place_counts_from_nothing(frame):
    pod = frame.stop.pod
    press(frame, Qt.Key.Key_B, Qt.KeyboardModifier.AltModifier)
    stands_at = frame.session.case.practice("before").reading(frame.stop.bench.current, "station 3", 0)
    assert until(lambda: pod._raw is not None and abs(pod._raw - stands_at) < 0.006)
    press(frame, Qt.Key.Key_Z, Qt.KeyboardModifier.AltModifier)
    assert until(lambda: pod._raw is not None and abs(pod._raw) < 0.012)
    frame.stop.step(1)
    assert until(lambda: pod._raw is not None and pod._raw > 0.3)


@pytest.mark.parametrize("stop", [s.key for s in ALL_STOPS])
def test_moving_about_never_takes_the_keys_from_the_window(surveyed, stop):
    surveyed.go_to(stop)
    for assembly in ("spindle", SCREW):
        surveyed.session.choose(assembly)
    QTest.qWait(60)
    assert QApplication.focusWidget() is surveyed
    assert QApplication.activeWindow() is surveyed.window()


# fields -----------------------------------------------------------------------------------------


@pytest.fixture
def fields(qapp):
    state = {"value": "1", "refuse": False}

    def commit(text: str) -> None:
        if state["refuse"]:
            raise InputError(f"“{text}”", "no")
        state["value"] = text

    made = Fields()
    edit = made.add("size", "Size", lambda: state["value"], commit, "a size")
    made.add_choice(
        "kind", "Kind", {"a": "first", "b": "second"}, lambda: "b", lambda v: state.update(kind=v), "a kind"
    )
    made.refresh()
    made.show()
    yield made, edit, state
    made.close()


def test_a_field_shows_what_is_recorded_and_takes_what_is_typed(fields):
    _, edit, state = fields
    assert edit.text() == "1"
    edit.selectAll()
    keys(edit, "2 thou")
    press(edit, Qt.Key.Key_Return)
    assert state["value"] == "2 thou"


def test_a_refused_field_keeps_what_was_typed_until_it_is_mended(fields):
    made, edit, state = fields
    state["refuse"] = True
    edit.selectAll()
    keys(edit, "much")
    press(edit, Qt.Key.Key_Return)
    made.refresh()
    assert edit.text() == "much"
    assert edit.property("refused") == "true"
    state["refuse"] = False
    edit.selectAll()
    keys(edit, "3")
    press(edit, Qt.Key.Key_Return)
    assert (state["value"], edit.property("refused")) == ("3", "false")


def test_a_choice_shows_what_is_recorded(fields):
    made, _, _ = fields
    assert made.findChild(QComboBox, "kind").currentText() == "second"


def test_a_field_left_without_change_records_nothing(qapp):
    edit = LengthEdit("x", "x")
    said = []
    edit.committed.connect(said.append)
    edit.show_value("0.5 in")
    press(edit, Qt.Key.Key_Return)
    assert said == []


@pytest.mark.parametrize(
    ("line", "system", "text"),
    [
        (SizeRow("a", "size", 19.05), INCH, "0.7500"),
        (SizeRow("a", "size", 19.05), METRIC, "19.050"),
        (SizeRow("a", "small", 0.0254), INCH, "1.0 thou"),
        (SizeRow("a", "angle", -0.1), INCH, "−5.73°"),
        (SizeRow("a", "text", "any line"), INCH, "any line"),
        (SizeRow("a", "band", Band(19.0, 19.05)), METRIC, "19.000 to 19.050"),
        (SizeRow("a", "band", Band(0.05, 0.25)), METRIC, "50 to 250 µm"),
    ],
)
def test_a_size_is_written_as_its_kind_is(line, system, text):
    assert size_text(line, system) == text


# report -----------------------------------------------------------------------------------------


@pytest.fixture
def proven(surveyed):
    session = surveyed.session
    choose_least_work(session.case, session.record, "thirty years more")
    cut_parts(session.case, session.record)
    take_what_is_left(session.case, "after", session.record)
    session.record(NoteWritten(topic="left", text="oil cap to find"))
    session.record(ReadingStruck(reading=session.job.readings(SCREW, "lash")[0].id, reason="bumped"))
    return surveyed


def test_the_sheet_holds_machine_set_ups_before_and_after_parts_and_what_is_left(proven):
    facts = sheet_facts(proven.session.case, INCH)
    assert facts["machine"] == "Lathe 2, Ostrel 15-50, 1958"
    assert facts["reason"] == "thirty years more"
    assert facts["left"] == "oil cap to find"
    assert len(facts["rows"]) == 11
    assert [p["title"] for p in facts["parts"]] == [
        "Screw, 3/4-8 Acme left hand",
        "Nut, 3/4-8 Acme left hand",
        "Thrust ring, adjustable",
    ]
    assert "As finished: over wires 0.7" in facts["parts"][0]["measured"]
    assert facts["struck"].startswith("1 reading was struck out")


def test_the_sheet_says_nothing_that_nobody_read_stated_or_finished(make_window):
    session = make_window("new").frame.session
    session.choose("spindle")
    for value in (0.010, 0.011, 0.010):
        session.record(ReadingTaken("spindle", "spindle_float", "nose face", "before", value, "mm"))
    session.record(RemedyChosen(assembly="spindle", remedy="bearings", reason=""))
    facts = sheet_facts(session.case, METRIC)
    assert [name for name, _ in facts["split"]] == []  # of the links to the work nothing was read
    assert "bearing" not in facts["about"]
    assert all(part["measured"] == "Not made." for part in facts["parts"])
    assert "not known" in facts["tools"]
    name, route = session.case.part_name("spacer"), session.case.route("spacer")
    one = next(o for o in route if o.target is not None)
    session.record(SizeTaken(part=name, operation=one.key, what=one.target.what, value_mm=20.5))
    assert "Not finished, last measured" in sheet_facts(session.case, METRIC)["parts"][0]["measured"]
    session.record(StepDone(name, one.key))
    measured = sheet_facts(session.case, METRIC)["parts"][0]["measured"]
    assert measured.startswith("As finished: ")
    assert f"{len(route) - 1} operations are open" in measured
    session.record(FactStated("spindle", "front_bore_mm", 35.0))
    assert "front bearing" not in sheet_facts(session.case, METRIC)["about"]
    for field, value in (("front_outside_mm", 62.0), ("bearing_width_mm", 14.0)):
        session.record(FactStated("spindle", field, value))
    assert "front bearing 35 × 62 × 14 mm" in sheet_facts(session.case, METRIC)["about"]


def test_a_size_says_what_it_was_taken_with(make_window):
    frame = make_window("new").frame
    session = frame.session
    session.choose("spindle")
    session.record(RemedyChosen(assembly="spindle", remedy="bearings", reason=""))
    stop = frame.go_to("make")
    assert "No size yet" in stop.banner.head.text()  # nothing was set by hand: it is not red for that
    for value in (0.010, 0.011, 0.010):
        session.record(ReadingTaken("spindle", "spindle_float", "nose face", "before", value, "mm"))
    stop.show_part("spacer")
    route = session.case.route("spacer")
    targets = [o for o in route if o.target is not None]
    for o, key in zip(targets, ("micrometer", "micrometer"), strict=False):
        stop.show_step(o.key)
        stop.by.setCurrentIndex(stop.by.findData(key))
        stop.by.activated.emit(stop.by.currentIndex())
        stop.take_typed("20.5 mm")
        assert stop.by.key == key  # the next alike is taken with the same
    taken = [s.taken.instrument for s in session.job.all_sizes()]
    assert set(taken) == {"micrometer"}
    assert "by micrometer" in sheet_facts(session.case, METRIC)["parts"][0]["measured"]


def test_every_figure_of_the_sheet_follows_the_unit_system(proven):
    facts = sheet_facts(proven.session.case, METRIC)
    assert all("µm" in row[key] for row in facts["rows"] for key in ("before", "after", "predicted", "limit"))
    assert "thou" not in str(facts["split"]) + facts["verdict"]


@pytest.mark.parametrize("stop", [s.key for s in ALL_STOPS])
def test_a_stop_shown_twice_shows_the_same(proven, stop):
    shown = proven.go_to(stop)
    proven.rail.settle()
    QTest.qWait(60)
    first = proven.rail.words()
    proven.refresh()
    assert proven.rail.words() == first
    assert proven.stop is shown


def test_a_usual_size_is_drawn_hollow_until_somebody_types_it(frame):
    frame.go_to("parts")
    field = next(e for e in frame.findChildren(LengthEdit) if e.objectName() == "screw_journal_dia")
    assert field.property("usual") == "true"
    assert "nobody" in field.accessibleDescription()
    said = [w.text() for w in frame.findChildren(QLabel)]
    assert any(
        words.startswith("Usual, measured by nobody:") and "Bearing journal" in words for words in said
    )
    field.setFocus()
    field.selectAll()
    keys(field, "0.5625")
    press(field, Qt.Key.Key_Return)
    assert field.property("usual") == "false"
    assert field.accessibleDescription() == ""
    assert "Bearing journal" not in frame.session.case.part("screw", INCH).usual


def test_intake_shows_no_lead_screw_that_nobody_stated(make_window):
    frame = make_window("new", machine="Lathe 3", machine_class="ordinary").frame
    frame.go_to("intake")
    for name in ("lead_screw", "spindle_bore_mm", "wheels"):
        fields = [e for e in frame.findChildren(LengthEdit) if e.objectName() == name]
        assert [e.text() for e in fields] == [""] * len(fields), name
