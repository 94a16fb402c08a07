"""A spindle in the real window: turns, pushes, paint, chain, clocking, sizes, proof and every refusal."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication

from tests.app.conftest import cable, click, press, until
from trebb.app.look.widgets import FigureView
from trebb.app.shell.walk import cut_parts, take_what_is_left
from trebb.app.stops.register import STOPS
from trebb.core.survey import set_up
from trebb.core.units import UnitSystem
from trebb.logbook.cases.casework import SPINDLE
from trebb.logbook.demo.jobs import readings_left
from trebb.logbook.log.entries import FactStated, JobStarted, RemedyChosen

MACHINES = ("lathe", "mill", "drill")


@pytest.fixture
def mill(make_window):
    frame = make_window("mill").frame
    frame.go_to("survey")
    return frame


@pytest.fixture
def lathe(make_window):
    frame = make_window("lathe").frame
    frame.session.choose(SPINDLE)
    frame.go_to("survey")
    return frame


def take(frame, *keys, phase="before"):
    """Take what is left of some set-ups, or of all, from the simulated machine."""
    bodies = [r for r in readings_left(frame.session.case, phase) if not keys or r.set_up in keys]
    frame.session.record(*bodies)
    QApplication.processEvents()


def bench(frame, key):
    stop = frame.stop
    stop.bench.choose_set_up(key)
    QApplication.processEvents()
    return stop.bench


def last(frame):
    return frame.session.job.last_reading(SPINDLE, "before").taken


# turns ----------------------------------------------------------------------------------------


def test_space_takes_the_turn_angle_by_angle(mill):
    b = bench(mill, "taper_bore/deep")
    assert b.place().key == "deep, 0°"
    expected = mill.session.case.practice("before").reading(set_up("taper_bore"), "deep, 0°", 0)
    assert until(lambda: mill.stop.pod._raw is not None and abs(mill.stop.pod._raw - expected) < 0.006)
    press(mill, Qt.Key.Key_Space)
    assert (last(mill).place, b.place().key) == ("deep, 0°", "deep, 45°")
    assert last(mill).value == pytest.approx(expected, abs=0.006)


def test_a_reading_below_nothing_is_a_reading_here(mill):
    bench(mill, "taper_bore/deep")
    cable(mill, mill.stop.pod.entry, "-.0003")
    assert last(mill).value == pytest.approx(-0.0003 * 25.4)
    assert mill.stop.pod.refusal.text() == ""


def test_three_inches_on_a_tenths_indicator_are_refused_where_they_were_typed(mill):
    bench(mill, "taper_bore/deep")
    count = len(mill.session.job.all_readings())
    cable(mill, mill.stop.pod.entry, "3 in")
    assert "beyond what this indicator reads" in mill.stop.pod.refusal.text()
    assert mill.stop.pod.entry.text() == "3 in"
    assert len(mill.session.job.all_readings()) == count
    mill.stop.pod.entry.setText("3")  # the label beside it says thou
    press(mill.stop.pod.entry, Qt.Key.Key_Return)
    assert [r.taken.value for r in mill.session.job.all_readings()][-1] == pytest.approx(0.0762)


def test_left_and_right_turn_the_spindle_up_and_down_choose_the_turn(mill):
    b = bench(mill, "test_bar")
    press(mill, Qt.Key.Key_Right)
    assert b.place().label == "45°"
    press(mill, Qt.Key.Key_Left)
    press(mill, Qt.Key.Key_Left)
    assert b.place().label == "315°"
    press(mill, Qt.Key.Key_Down)
    assert b.place().group == "seat 1 at 0°, far"


def test_turned_by_hand_the_needle_follows_between_the_marks(mill):
    b = bench(mill, "chuck_pin")
    polar = b.view().polar
    shown = mill.frame_shown if hasattr(mill, "frame_shown") else b.shown(b.place())
    assert shown.angle_deg == 0.0
    wheel = QWheelEvent(
        QPointF(50, 50),
        polar.mapToGlobal(QPointF(50, 50)),
        QPoint(),
        QPoint(0, 480),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(polar, wheel)
    assert b.angle_deg is None  # in passing it is not turned
    QTest.mouseClick(polar, Qt.MouseButton.LeftButton, pos=QPoint(polar.width() // 2, 8))
    QApplication.sendEvent(polar, wheel)
    assert b.angle_deg == pytest.approx(20.0)
    assert b.place().label == "0°"
    machine = mill.session.case.practice("before")
    between = machine.exact(set_up("chuck_pin"), "pin near, 20°", 0)
    assert until(lambda: mill.stop.pod._raw is not None and abs(mill.stop.pod._raw - between) < 0.006)
    QApplication.sendEvent(polar, wheel)
    assert b.place().label == "45°"


def test_a_click_on_the_circle_chooses_the_angle_and_on_a_dot_asks_to_strike(mill):
    b = bench(mill, "nose/register")
    b.choose_place("register, 90°")
    polar = b.view().polar
    QTest.mouseClick(polar, Qt.MouseButton.LeftButton, pos=polar._at(225, 0.97 * polar._radius()).toPoint())
    assert b.place().key == "register, 225°"
    points = dict(polar._group.points)
    spot = polar._at(
        45, 0.56 * polar._radius() + polar._px_per_mm() * (points[45.0] - polar._group.turn.mean)
    )
    QTest.mouseClick(polar, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    assert "Strike out" in b.banner.head.text()
    click(mill, "strike_out")
    assert [r.struck for r in mill.session.job.readings(SPINDLE, "nose", place="register, 45°")] == ["bumped"]


def test_the_list_of_turns_says_how_far_each_is_and_leads_to_it(mill):
    b = bench(mill, "taper_bore")
    turns = b.view().list
    QTest.mouseClick(turns, Qt.MouseButton.LeftButton, pos=QPoint(20, int(turns._height() * 1.5)))
    assert b.place().key == "deep, 0°"


def test_the_axis_in_space_is_turned_by_keys_and_mouse(mill):
    take(mill, "test_bar")
    b = bench(mill, "test_bar")
    click(mill, "leaf_axis")
    axis = b.aside._leaves["axis"]
    yaw, pitch = axis._yaw, axis._pitch
    press(axis, Qt.Key.Key_Right)
    press(axis, Qt.Key.Key_Up)
    assert (axis._yaw, axis._pitch) != (yaw, pitch)
    QTest.mousePress(axis, Qt.MouseButton.LeftButton, pos=QPoint(40, 40))
    QTest.mouseMove(axis, QPoint(90, 60))
    QTest.mouseRelease(axis, Qt.MouseButton.LeftButton, pos=QPoint(90, 60))
    assert len(axis._axes) == 4


# trust ----------------------------------------------------------------------------------------


def test_a_seat_that_does_not_repeat_is_said_at_once_with_two_ways_on(lathe):
    take(lathe, "test_bar")
    b = bench(lathe, "test_bar")
    assert "The seat does not repeat" in b.banner.head.text()
    assert b.shown(b.place()).aside
    click(lathe, "way_taper_bore")
    assert b.current.key == "taper_bore"
    click(lathe, "way_contact")
    assert b.current.key == "contact"


def test_what_is_set_aside_stands_in_the_findings(lathe):
    take(lathe)
    stop = lathe.go_to("findings")
    assert "does not repeat" in stop.banner.head.text()
    assert "set aside" in stop.aside.text()
    stop.pictures.picture().reach.holder.setCurrentIndex(1)
    stop.pictures.picture().reach.refresh()
    assert "set aside" in stop.pictures.picture().reach.said.text()
    assert not stop.pictures.picture().reach.scribe.isEnabled()


# paint, warm, push ----------------------------------------------------------------------------


def test_the_taper_is_painted_with_keys_and_mouse_and_taken_back(lathe):
    b = bench(lathe, "contact")
    paint = b.view().paint
    paint.setFocus()
    for key in (Qt.Key.Key_Down, Qt.Key.Key_Right, Qt.Key.Key_Return):
        press(paint, key)
    assert lathe.session.job.contact(SPINDLE, "before").count("1") == 1
    area = paint._area()
    start, end = (
        QPoint(int(area.left()) + 4, int(area.bottom()) - 4),
        QPoint(int(area.center().x()), int(area.bottom()) - 4),
    )
    QTest.mousePress(paint, Qt.MouseButton.LeftButton, pos=start)
    for k in range(1, 11):
        QTest.mouseMove(paint, start + (end - start) * (k / 10))
    QTest.mouseRelease(paint, Qt.MouseButton.LeftButton, pos=end)
    QApplication.processEvents()
    assert lathe.session.job.contact(SPINDLE, "before").count("1") > 6
    lathe.session.undo()
    assert lathe.session.job.contact(SPINDLE, "before").count("1") == 1


def test_the_simulated_bar_shows_its_pattern_in_words(lathe):
    b = bench(lathe, "contact")
    click(lathe, "contact_look")
    assert "rubbed" in b.view().share.text()
    assert b.view().words.text().startswith("The back only")
    click(lathe, "contact_clear")
    assert b.view().share.text() == "Nothing painted yet"


def test_a_temperature_is_typed_in_either_degree(mill):
    bench(mill, "warm_run")
    cable(mill, mill.stop.pod.entry, "68 F")
    assert (last(mill).value, last(mill).unit) == (pytest.approx(20.0), "C")
    cable(mill, mill.stop.pod.entry, "240")
    assert "a bearing stands between" in mill.stop.pod.refusal.text()


def test_noise_is_graded_in_a_word(mill):
    bench(mill, "warm_run")
    click(mill, "noise_growls")
    assert mill.session.case.noise("before") == "growls"


def test_a_click_beside_the_curve_chooses_pull_or_time(mill):
    take(mill, "push_test", "warm_run")
    b = bench(mill, "push_test")
    curve = b.view().curve
    QTest.mouseClick(curve, Qt.MouseButton.LeftButton, pos=QPoint(curve.width() - 20, 90))
    assert b.place().label == "Pushed full"
    b = bench(mill, "warm_run")
    curve = b.view().curve
    QTest.mouseClick(curve, Qt.MouseButton.LeftButton, pos=QPoint(50, 90))
    assert b.place().key == "0 min"


# what is stated -------------------------------------------------------------------------------


def test_angles_are_stated_where_they_are_read_and_nonsense_is_refused_there(mill):
    b = bench(mill, "nose")
    click(mill, "leaf_stated")
    field = b.aside.fields.fields_of("angles")._lines["angles"]
    field.edit.setFocus()
    field.edit.selectAll()
    QTest.keyClicks(field.edit, "12")
    press(field.edit, Qt.Key.Key_Return)
    assert len(mill.session.case.spindle.angles) == 12
    field.edit.selectAll()
    QTest.keyClicks(field.edit, "3")
    press(field.edit, Qt.Key.Key_Return)
    assert "from 5 to 36 angles" in field.refusal.text()
    assert len(mill.session.case.spindle.angles) == 12


def test_the_limit_of_each_measure_is_set_with_its_source(mill):
    stop = mill.go_to("intake")
    stop._look_at_limit("mill_slack")
    stop._set_limit("6 tenths")
    stop._set_source("the machine's own test card")
    limit = mill.session.job.limit("mill_slack")
    assert limit.limit_mm == pytest.approx(0.0006 * 25.4)
    assert limit.source == "the machine's own test card"


# findings, remedies ---------------------------------------------------------------------------


def test_the_mark_to_scribe_is_recorded_and_reminded_of(mill):
    take(mill)
    stop = mill.go_to("findings")
    best = mill.session.case.clocking(mill.session.case.spindle.pin_near_mm).turn_deg
    click(mill, "clock_best")
    assert abs(stop.pictures.picture().reach.slider.value() * 5 - best) <= 2.5
    click(mill, "scribe_mark")
    (mark,) = mill.session.job.marks(SPINDLE)
    assert mark.angle_deg == stop.pictures.picture().reach.slider.value() * 5
    fit = mill.go_to("fit_up")
    fit.show_step("marks" if any(s.key == "marks" for s in mill.session.case.fit_order()) else "mark")
    assert f"mark at {mark.angle_deg:.0f}°" in fit.remind.text()


def test_repairs_are_compared_by_any_measure(mill):
    take(mill)
    stop = mill.go_to("remedies")
    assert "Error at the work" in stop.foot.text()
    click(mill, "figure_slack")
    assert stop.foot.text().startswith("Slack")
    assert {r.label for r in stop.pictures.picture().outcome.rows()} >= {"Error at the work", "Slack", "Seat"}


def test_reaming_asks_for_the_file_first(lathe):
    take(lathe, "nose", "taper_bore")
    stop = lathe.go_to("remedies")
    stop.look_at("ream")
    assert not stop.choose_button.isEnabled()
    press(lathe, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
    assert lathe.session.job.chosen(SPINDLE) is None
    click(lathe, "hardness_soft")
    assert stop.choose_button.isEnabled()
    lathe.session.undo()
    click(lathe, "hardness_hard")
    assert "a reamer would be ruined" in stop.hinder.text.text()


# parts, making --------------------------------------------------------------------------------


@pytest.fixture
def sleeved(mill):
    take(mill)
    mill.session.record(RemedyChosen(assembly=SPINDLE, remedy="sleeve", reason=""))
    return mill


def test_a_part_follows_its_fields_and_is_drawn_to_a_file(sleeved, tmp_path):
    stop = sleeved.go_to("parts")
    assert list(stop.tabs.tabs) == ["sleeve", "spacer", "stepped_spacer"]
    field = next(f for name, f in stop._part_fields.items() if name.startswith("sleeve/"))._lines[
        "sleeve_interference"
    ]
    field.edit.setFocus()
    field.edit.selectAll()
    QTest.keyClicks(field.edit, "1")
    press(field.edit, Qt.Key.Key_Return)
    assert sleeved.session.job.part_facts("sleeve")["interference"] == pytest.approx(0.0254)
    stop.save_to(tmp_path / "sleeve.dxf")
    assert (tmp_path / "sleeve.dxf").stat().st_size > 5000


def test_the_sleeve_s_bore_follows_the_seat_taken_at_the_lathe(sleeved):
    stop = sleeved.go_to("make")
    stop.show_step("seat")
    planned = next(o.target.band.middle_mm for o in sleeved.session.case.route("sleeve") if o.key == "fit")
    press(sleeved, Qt.Key.Key_Space)
    assert "still to take off" in stop.banner.head.text()
    stop.take_typed("1.2385")
    assert "too small" in stop.banner.head.text()
    assert (
        next(o.target.band.middle_mm for o in sleeved.session.case.route("sleeve") if o.key == "fit")
        < planned
    )
    stop.take_typed("31.5 in")
    assert "is expected here" in stop.refusal.text()
    press(sleeved, Qt.Key.Key_Backspace)
    assert "still to take off" in stop.banner.head.text()


# proof ----------------------------------------------------------------------------------------


@pytest.fixture
def proven(sleeved):
    cut_parts(sleeved.session.case, sleeved.session.record)
    take_what_is_left(sleeved.session.case, "after", sleeved.session.record)
    return sleeved


def test_the_proof_sets_measures_first_and_readings_below(proven, tmp_path):
    stop = proven.go_to("prove")
    labels = [r.label for r in stop.plot.rows()]
    assert labels[0] == "Error at the work"
    assert any(label.startswith("nose register") for label in labels)
    assert "Error at the work" in stop.banner.head.text()
    stop.write_to(tmp_path / "sheet.pdf")
    assert (tmp_path / "sheet.pdf").read_bytes().startswith(b"%PDF")


def test_a_tool_table_is_shifted_and_written_beside_the_original(proven, tmp_path):
    stop = proven.go_to("prove")
    click(proven, "shift_table")
    path = tmp_path / "tools.csv"
    path.write_text("Tool,Length\nT1,4.2510\nT2,\n", encoding="utf-8")
    stop.table.open_table(path)
    shift = proven.session.case.length_shift().value / 25.4
    assert [r.new for r in stop.table.list.rows()] == [f"{4.2510 + shift:.4f}", ""]
    click(proven, "write_table")
    click(proven, "write_table")
    assert path.read_text(encoding="utf-8").startswith("Tool,Length\nT1,4.2510")
    assert (tmp_path / "tools-shifted.csv").read_text(encoding="utf-8") == (
        tmp_path / "tools-shifted-2.csv"
    ).read_text(encoding="utf-8")
    click(proven, "table_back")
    assert stop.pages.currentIndex() == 0


def test_columns_are_matched_once(proven, tmp_path):
    stop = proven.go_to("prove")
    click(proven, "shift_table")
    (tmp_path / "a.csv").write_text("nr;what;height\n1;drill;80\n", encoding="utf-8")
    stop.table.open_table(tmp_path / "a.csv")
    stop.table.tool.setCurrentIndex(1)
    stop.table.unit.setCurrentIndex(1)
    stop.table._match()
    stop.table.open_table(tmp_path / "a.csv")
    assert (
        stop.table.tool.currentIndex(),
        stop.table.length.currentIndex(),
        stop.table.unit.currentData(),
    ) == (1, 2, "mm")


@pytest.mark.parametrize(
    ("content", "said"), [(b"only one line", "without rows"), (b"\xff\xfe\x00bad\n\xff", "no text in UTF-8")]
)
def test_what_is_no_tool_table_is_said_there(proven, tmp_path, content, said):
    stop = proven.go_to("prove")
    click(proven, "shift_table")
    (tmp_path / "b.csv").write_bytes(content)
    stop.table.open_table(tmp_path / "b.csv")
    assert said in stop.table.said.text()
    stop.table.open_table(tmp_path / "none.csv")
    assert "cannot be read" in stop.table.said.text()


# every stop, every machine --------------------------------------------------------------------


@pytest.mark.parametrize("kind", MACHINES)
def test_every_stop_stands_at_every_stage_in_both_units(make_window, kind):
    frame = make_window(kind).frame
    frame.session.choose(SPINDLE)
    case = frame.session.case
    for stage in ("begun", "surveyed", "repaired"):
        if stage == "surveyed":
            take(frame)
        elif stage == "repaired":
            frame.session.record(FactStated(assembly=SPINDLE, field="cleaned", value="yes"))
            frame.session.record(RemedyChosen(assembly=SPINDLE, remedy=case.advised().key, reason=""))
            cut_parts(case, frame.session.record)
            take_what_is_left(case, "after", frame.session.record)
        for system in (UnitSystem.METRIC, UnitSystem.INCH):
            frame.session.show_in(system)
            for stop in STOPS:
                frame.go_to(stop.key)
                frame.grab()
    assert case.figure_now().share_of_limit < 0.7 * case.judged.share_of_limit


@pytest.mark.parametrize("kind", ["mill", "drill"])
def test_a_new_machine_of_each_kind_is_surveyed_from_nothing(make_window, kind):
    frame = make_window("new", machine_kind=kind).frame
    assert frame.session.assembly == SPINDLE
    assert isinstance(frame.session.job.started, JobStarted)
    stop = frame.go_to("survey")
    assert stop.bench.findChild(FigureView) is not None
    cable(frame, stop.pod.entry, ".0004")
    assert last(frame).value == pytest.approx(0.0004 * 25.4)
    assert "Nothing" not in stop.pod.refusal.text()


def test_choosing_another_part_brings_its_own_set_ups(make_window):
    frame = make_window("lathe").frame
    stop = frame.go_to("survey")
    assert "lash" in stop.bench.chips
    frame.session.choose(SPINDLE)
    assert "test_bar" in stop.bench.chips
    assert "lash" not in stop.bench.chips
    frame.session.choose("cross_slide")
    assert stop.bench.current.key == "lash"
