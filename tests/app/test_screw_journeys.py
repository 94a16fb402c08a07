"""Three screws by hand in the window, each from readings to drawings, route and proof; and what cannot be,
refused where it is typed.
"""

from __future__ import annotations

import msgspec
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QComboBox, QLineEdit

from tests.app.conftest import click, keys, press, until
from trebb.app.making.gears import GearsView, TrainRows
from trebb.app.making.nut import NutThreadView
from trebb.app.making.starts import StartsView
from trebb.app.making.tool import ToolView
from trebb.app.parts.thread_section import SectionCanvas
from trebb.app.shell.walk import take_what_is_left
from trebb.app.views.lead import LeadView
from trebb.app.views.naming import NamingView, _Candidates
from trebb.core.threads import Form
from trebb.core.units import UnitSystem
from trebb.logbook.demo.jobs import simulated_reading
from trebb.logbook.demo.machines import CROSS_THREAD
from trebb.logbook.log.entries import PartSet, RemedyChosen

SPACE = Qt.Key.Key_Space


def at(window, assembly, stop):
    window.frame.session.choose(assembly)
    return window.frame.go_to(stop)


def type_in(frame, name, text):
    """Type in the visible field of that name and press Enter."""
    field = next(f for f in frame.findChildren(QLineEdit, name) if f.isVisible())
    field.setFocus()
    field.selectAll()
    keys(field, text)
    press(field, Qt.Key.Key_Return)
    return field


def take_all(window, assembly, set_up, phase="before"):
    """Space until every place of a set-up is read."""
    stop = at(window, assembly, "prove" if phase == "after" else "survey")
    stop.bench.choose_set_up(set_up)
    s, frame = stop.bench.current, window.frame
    for _ in range(60):
        if frame.session.case.next_place(s, phase) is None:
            return stop
        until(lambda: stop.pod._raw is not None)
        press(frame, SPACE)
    raise AssertionError(f"{set_up} is never read through")


def make_all(window, assembly):
    """Every operation of every part: sizes by Space until they stand, then ticked."""
    stop = at(window, assembly, "make")
    case = window.frame.session.case
    for key in case.part_keys():
        stop.show_part(key)
        for operation in case.route(key):
            stop.show_step(operation.key)
            for _ in range(
                8
                if operation.kind == "thread"
                else 3
                if operation.target or operation.kind == "nut_thread"
                else 0
            ):
                press(window.frame, SPACE)
            press(window.frame, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
        assert len(window.frame.session.job.steps_done(case.part_name(key))) == len(case.route(key))


def prove(window, assembly):
    at(window, assembly, "fit_up")
    for _ in window.frame.session.case.fit_order():
        press(window.frame, Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    take_what_is_left(window.frame.session.case, "after", window.frame.session.record)
    return at(window, assembly, "prove")


@pytest.fixture
def mill(make_window):
    window = make_window("mill")
    window.frame.session.show_in(UnitSystem.METRIC)
    return window


def view_of(window, assembly, set_up):
    stop = at(window, assembly, "survey")
    stop.bench.choose_set_up(set_up)
    QTest.qWait(20)
    return stop.bench.view()


# the mill's cross screw: two starts, left hand, metric ---------------------------------------------


def test_the_mill_s_cross_screw_from_a_name_to_its_proof(mill, tmp_path):
    frame = mill.frame
    take_all(mill, "cross_screw", "which_thread")
    view = frame.stop.bench.view()
    assert isinstance(view, NamingView)
    assert view.name_button.text() == "Name it Tr 28 × 10 (P5) left hand"
    click(frame, "name_thread")
    assert frame.session.case.drive.thread == CROSS_THREAD
    take_all(mill, "cross_screw", "lead_error")
    take_what_is_left(frame.session.case, "before", frame.session.record)
    assert isinstance(frame.stop.bench.view(), LeadView)
    assert "The screw is worn" in at(mill, "cross_screw", "findings").banner.head.text()
    stop = at(mill, "cross_screw", "remedies")
    stop.look_at("pair_thrust")
    click(frame, "choose_remedy")
    stop = at(mill, "cross_screw", "parts")
    for key in ("screw", "nut", "thrust_collar"):
        stop.show_part(key)
        stop.save_to(tmp_path / f"{key}.dxf")
        assert (tmp_path / f"{key}.dxf").stat().st_size > 2000
    make_all(mill, "cross_screw")
    stop = prove(mill, "cross_screw")
    assert "limit 120 µm" in stop.banner.head.text()
    assert frame.session.case.figure_now().value.value < 0.13


# the lathe's lead screw ----------------------------------------------------------------------------


def test_the_lathe_s_lead_screw_with_its_half_nuts(make_window):
    window = make_window("lathe")
    frame = window.frame
    for key in ("half_nuts", "screw_bend"):
        take_all(window, "lead_screw", key)
    take_what_is_left(frame.session.case, "before", frame.session.record)
    stop = at(window, "lead_screw", "findings")
    assert "the half nuts have" in stop.banner.head.text()
    stop = at(window, "lead_screw", "remedies")
    assert stop.current in ("new_pair", "pair_thrust")
    press(frame, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    assert frame.session.case.chosen is not None
    make_all(window, "lead_screw")
    stop = prove(window, "lead_screw")
    assert "The carriage still shifts by up to" in stop.banner.head.text()
    assert frame.session.case.figure_now().state.value in ("within", "near")


# the drill's hybrid --------------------------------------------------------------------------------


def test_the_drill_s_hybrid_is_named_by_its_angle_and_gets_a_nut_to_suit(make_window):
    window = make_window("drill")
    frame = window.frame
    take_all(window, "table_screw", "which_thread")
    view = frame.stop.bench.view()
    assert "To tell the first two apart: flank angle" in view.telling.text()
    type_in(frame, "seen_angle", "29")
    assert "No nut, tap or bar is sold" in view.telling.text()
    click(frame, "name_thread")
    assert frame.session.case.drive.thread.is_mixed
    take_what_is_left(frame.session.case, "before", frame.session.record)
    stop = at(window, "table_screw", "remedies")
    stop.look_at("bought_nut")
    assert not stop.choose_button.isEnabled()
    stop.look_at("split_nut")
    click(frame, "choose_remedy")
    make_all(window, "table_screw")
    stop = prove(window, "table_screw")
    assert "The table still shifts by up to" in stop.banner.head.text()
    assert frame.session.case.figure_now().value.value < 0.5


# naming by hand ------------------------------------------------------------------------------------


def test_a_bought_thing_is_tried_before_it_is_paid_for(mill):
    frame = mill.frame
    view = view_of(mill, "table_screw", "which_thread")
    type_in(frame, "offered_marking", "Tr 30 × 6")
    assert "never starts" in view.fit_head.text()
    type_in(frame, "offered_marking", "Tr 30 × 6 LH")
    assert "of play on unworn thread" in view.fit_head.text()
    take_what_is_left(frame.session.case, "before", frame.session.record)
    type_in(frame, "offered_price", "40")
    assert "For £40" in view.fit_text.text()
    combo = next(c for c in frame.findChildren(QComboBox, "offered_kind") if c.isVisible())
    combo.setCurrentIndex(2)
    combo.activated.emit(2)
    assert "enters this nut" in view.fit_head.text()


@pytest.mark.parametrize(
    ("field", "text", "said"),
    [
        ("offered_marking", "large", "write it as stamped"),
        ("seen_angle", "140", "degrees, included, from 0 to 90"),
        ("tried", "3/4-8 Acme", "write the marking, a colon"),
    ],
)
def test_what_cannot_be_read_is_refused_where_it_is_typed(mill, field, text, said):
    view_of(mill, "table_screw", "which_thread")
    before = len(mill.frame.session.job.readings("table_screw", "which_thread"))
    typed = type_in(mill.frame, field, text)
    refused = [
        w.text()
        for w in mill.frame.findChildren(type(mill.frame.stop.bench.title))
        if w.isVisible() and said in w.text()
    ]
    assert refused
    assert typed.text() == text  # nothing typed is lost
    assert len(mill.frame.session.job.readings("table_screw", "which_thread")) == before


def test_another_candidate_can_be_looked_at_and_named(mill):
    for p in next(
        s for s in mill.frame.session.cases.of("cross_screw").set_ups if s.key == "which_thread"
    ).places(None):
        mill.frame.session.choose("cross_screw")
        mill.frame.session.record(simulated_reading(mill.frame.session.case, "which_thread", p.key, "before"))
    view = view_of(mill, "cross_screw", "which_thread")
    candidates = view.findChild(_Candidates)
    candidates.setFocus()
    press(candidates, Qt.Key.Key_Down)
    second = mill.frame.session.case.naming.candidates[1].spec
    assert view.name_button.text().endswith(second.designation)
    QTest.mouseClick(candidates, Qt.MouseButton.LeftButton, pos=QPoint(20, 8))
    assert "Tr 28" in view.name_button.text()


# pictures -------------------------------------------------------------------------------------------


def test_the_section_is_dragged_along_the_travel_and_the_gap_follows(mill):
    frame = mill.frame
    frame.session.choose("table_screw")
    take_what_is_left(frame.session.case, "before", frame.session.record)
    stop = at(mill, "table_screw", "findings")
    click(frame, "picture_section")
    picture = stop.pictures.picture()
    canvas = picture.findChild(SectionCanvas)
    middle = canvas.gap().value
    QTest.mouseClick(canvas, Qt.MouseButton.LeftButton, pos=QPoint(30, canvas.height() - 30))
    assert canvas.gap().value < middle
    assert "the gap is" in picture.said.text()
    canvas.setFocus()
    was = canvas.at_mm
    press(canvas, Qt.Key.Key_Right)
    assert canvas.at_mm > was
    click(frame, "picture_wear")
    assert picture.wear.isVisible()
    assert any(
        "±" in item.toPlainText() for item in picture.wear.getPlotItem().items if hasattr(item, "toPlainText")
    )
    click(frame, "picture_error")
    assert picture.error.isVisible()


# making ---------------------------------------------------------------------------------------------


def making(window, assembly, remedy):
    window.frame.session.choose(assembly)
    window.frame.session.record(RemedyChosen(assembly=assembly, remedy=remedy, reason=""))
    return at(window, assembly, "make")


def test_the_train_is_drawn_and_another_is_chosen_by_hand(mill):
    stop = making(mill, "table_screw", "new_pair")
    stop.show_step("gears")
    view = stop.views["gears"]
    assert isinstance(view, GearsView)
    case = mill.frame.session.case
    wheels = view.picture.wheels()
    assert {w[2] for w in wheels if w[2] != "idler"} == {
        str(t) for t in case.train().drivers + case.train().driven
    }
    rows = view.findChild(TrainRows)
    second = case.trains()[0][1]
    QTest.mouseClick(rows, Qt.MouseButton.LeftButton, pos=QPoint(30, 26 + 10))
    assert case.train() == second
    rows.setFocus()
    press(rows, Qt.Key.Key_Up)
    assert case.train() == case.trains()[0][0]
    assert "Finer feeds" in view.feeds.text()


def test_starts_tool_and_nut_have_their_pictures(mill):
    mill.frame.session.choose("cross_screw")
    mill.frame.session.record(*mill.frame.session.case.name_bodies(CROSS_THREAD))
    stop = making(mill, "cross_screw", "new_pair")
    for step, kind in (("index", StartsView), ("thread_rough", ToolView)):
        stop.show_step(step)
        assert isinstance(stop.op_box.currentWidget(), kind)
        assert stop.op_box.isVisible()
    assert "slack is out" in stop.views["tool"].pick_up.text()
    stop.show_part("nut")
    stop.show_step("nut_thread")
    assert isinstance(stop.op_box.currentWidget(), NutThreadView)
    click(mill.frame, "check_balls")
    type_in(mill.frame, "typed_size", "90 mm")
    assert "this nut reads about" in stop.refusal.text()
    stop.entry.clear()
    stop.keys_back()
    press(mill.frame, SPACE)
    assert "still to come off" in stop.banner.head.text()
    press(mill.frame, SPACE)
    press(mill.frame, SPACE)
    assert "Inside" in stop.banner.head.text()


def test_a_square_thread_is_cut_by_the_depth_of_its_groove(mill):
    frame = mill.frame
    frame.session.choose("table_screw")
    frame.session.record(
        *[
            msgspec.structs.replace(b, value=Form.SQUARE.value) if b.field == "form" else b
            for b in frame.session.case.name_bodies(frame.session.case.drive.thread)
        ]
    )
    stop = making(mill, "table_screw", "new_pair")
    stop.show_step("thread")
    assert "depth of the groove" in stop.size_what.text()
    type_in(frame, "typed_size", "20")
    assert "measure from the crest" in stop.refusal.text()
    stop.entry.clear()
    stop.keys_back()
    for _ in range(8):
        press(frame, SPACE)
    assert "Deep enough" in stop.banner.head.text()


def test_a_part_s_fields_follow_its_construction(mill):
    frame = mill.frame
    frame.session.choose("table_screw")
    frame.session.record(RemedyChosen(assembly="table_screw", remedy="new_thread", reason=""))
    stop = at(mill, "table_screw", "parts")
    assert frame.findChild(QLineEdit, "screw_socket_measured").isVisible()
    type_in(frame, "screw_socket_measured", "14.02")
    assert frame.session.case.part_inputs("screw").facts["socket_measured"] == pytest.approx(14.02)
    frame.session.record(
        PartSet(part=frame.session.case.part_name("screw"), field="construction", value="solid")
    )
    assert not any(f.isVisible() for f in frame.findChildren(QLineEdit, "screw_socket_measured"))
    frame.session.record(RemedyChosen(assembly="table_screw", remedy="thrust", reason=""))
    stop.show_part("thrust_collar")
    type_in(frame, "thrust_collar_bracket", "20.01 19.99 20.00")
    assert frame.session.case.part_inputs("thrust_collar").facts["bracket"] == "20.0100 19.9900 20.0000"


def test_wheels_at_hand_are_listed_at_intake(mill):
    frame = mill.frame
    at(mill, "table_screw", "intake")
    type_in(frame, "wheels", "20 24 big")
    assert any(
        "list the wheels by their teeth" in w.text()
        for w in frame.findChildren(type(frame.stop.title))
        if w.isVisible()
    )
    type_in(frame, "gear_ratio", "1:2")
    assert frame.session.case.workshop.gear_ratio * 2 == 1
    type_in(frame, "wheels", "20, 40, 40, 60 127")
    assert frame.session.case.workshop.wheels == (20, 40, 40, 60, 127)
