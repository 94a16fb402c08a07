"""The lathe brought back in line by hand in the window: shims by trial, lands, ways, tailstock, gib; each
from survey to proof.
"""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QSlider

from tests.app.conftest import click, keys, press, until
from trebb.app.pictures.bed import BedPicture, MachineCanvas
from trebb.app.pictures.relief import paint_step
from trebb.app.shell.walk import take_what_is_left
from trebb.app.views.gib import GibView
from trebb.app.views.ladder import Ladder
from trebb.core.units import UnitSystem
from trebb.logbook.file.store import JobFile
from trebb.logbook.log.entries import FactStated, ReadingStruck, RemedyChosen
from trebb.logbook.log.fold import Job

SPACE = Qt.Key.Key_Space


@pytest.fixture
def lathe(make_window):
    return make_window("lathe")


def at(window, assembly, stop):
    window.frame.session.choose(assembly)
    return window.frame.go_to(stop)


def take_all(window, assembly, set_up, *, most=80):
    """Space until every place of a set-up is read."""
    stop = at(window, assembly, "survey")
    stop.bench.choose_set_up(set_up)
    s, frame = stop.bench.current, window.frame
    for _ in range(most):
        if frame.session.case.next_place(s, "before") is None:
            return stop
        until(lambda: stop.pod._raw is not None)  # the instrument has come to the new set-up
        press(frame, SPACE)
    raise AssertionError(f"{set_up} is never read through")


def survey(window, *assemblies):
    for assembly in assemblies:
        window.frame.session.choose(assembly)
        take_what_is_left(window.frame.session.case, "before", window.frame.session.record)


# shims --------------------------------------------------------------------------------------------


def test_the_work_is_made_parallel_shim_by_shim(lathe):
    take_all(lathe, "headstock", "two_collar")
    stop = at(lathe, "headstock", "survey")
    stop.bench.choose_set_up("trials")
    view, case = stop.bench.view(), lathe.frame.session.case
    assert "Put" in view.next.head.text()
    assert "The next cut will read" in view.next.text.text()
    for number in (1, 2, 3):
        if "Parallel" in view.next.head.text():
            break
        click(lathe.frame, "log_shim")
        assert len(case.subject.shims) == number
        assert "Cut the two lands again" in view.next.head.text()
        take_all(lathe, "headstock", "trials")
        rung = view.ladder.rungs()[number]
        assert rung.foretold.low - 0.004 <= rung.cut.difference_mm <= rung.foretold.high + 0.004
    assert "Parallel: leave the feet." in view.next.head.text()
    assert abs(case.cuts()[-1].difference_mm) <= case.advice().limit_mm


def test_a_shim_is_logged_by_hand_refused_where_the_foot_does_not_take_it_and_undone(lathe):
    take_all(lathe, "headstock", "two_collar")
    stop = at(lathe, "headstock", "survey")
    stop.bench.choose_set_up("trials")
    view, case = stop.bench.view(), lathe.frame.session.case
    keys(view.thickness, "5 mm")
    click(lathe.frame, "log_other_shim")
    assert "its bolt takes 3 mm in all" in view.refusal.text()
    assert view.thickness.text() == "5 mm"
    assert case.subject.shims == ()
    view.thickness.clear()
    keys(view.thickness, "-0.1 mm")
    click(lathe.frame, "log_other_shim")
    assert "taken out" in view.refusal.text()
    view.thickness.clear()
    keys(view.thickness, "thick")
    click(lathe.frame, "log_other_shim")
    assert view.refusal.isVisible()
    view.thickness.clear()
    view.foot.setCurrentIndex(view.foot.findData("tail_rear"))
    keys(view.thickness, "2 thou")
    press(view.thickness, Qt.Key.Key_Return)
    assert case.subject.shims == (("tail_rear", pytest.approx(0.0508)),)
    assert not view.refusal.isVisible()
    press(lathe.frame, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert case.subject.shims == ()


def test_a_shim_under_the_wrong_foot_is_asked_about_and_moved_there(lathe):
    take_all(lathe, "headstock", "two_collar")
    session = lathe.frame.session
    session.record(FactStated(assembly="ways", field="shim.1", value="tail_rear 0.15"))
    take_all(lathe, "headstock", "trials")
    session.record(FactStated(assembly="ways", field="shim.1", value="tail_front 0.15"))
    view = lathe.frame.stop.bench.view()
    assert "as if the shim lay under the other foot" in view.next.head.text()
    click(lathe.frame, "other_foot")
    assert session.case.subject.shims[0][0] == "tail_rear"
    assert "other foot" not in view.next.head.text()


def test_a_way_on_leads_to_another_part_s_set_up(lathe):
    session = lathe.frame.session
    session.record(
        *[ReadingStruck(reading=r.id, reason="test") for r in session.job.readings("ways", "level_across")]
    )
    stop = take_all(lathe, "headstock", "two_collar")
    assert "not told apart yet" in stop.bench.banner.text.text()
    click(lathe.frame, "way_level_across")
    assert session.assembly == "ways"
    assert stop.bench.current.key == "level_across"


def test_a_test_bar_whose_seat_was_not_tried_says_so_where_it_is_read(lathe):
    stop = at(lathe, "headstock", "survey")
    stop.bench.choose_set_up("bar_sweep")
    assert "set aside" in stop.bench.banner.head.text()
    assert "seat was not tried" in stop.bench.banner.text.text()
    click(lathe.frame, "way_test_bar")
    assert lathe.frame.session.assembly == "spindle"
    assert stop.bench.current.key == "test_bar"


def test_clicking_a_rung_chooses_its_land(lathe):
    take_all(lathe, "headstock", "two_collar")
    lathe.frame.session.record(FactStated(assembly="ways", field="shim.1", value="tail_rear 0.05"))
    stop = at(lathe, "headstock", "survey")
    stop.bench.choose_set_up("trials")
    ladder = stop.bench.view().findChild(Ladder)
    for x, land in ((30, "near land"), (110, "far land")):
        QTest.mouseClick(ladder, Qt.MouseButton.LeftButton, pos=QPoint(x, int(22 + 1.5 * ladder._high())))
        assert stop.bench.place().key == f"trial 1, {land}"


# facts --------------------------------------------------------------------------------------------


def test_lands_stated_the_wrong_way_round_are_refused_at_their_field(lathe):
    stop = at(lathe, "headstock", "survey")
    click(lathe.frame, "leaf_stated")
    field = stop.bench.aside.fields.fields_of("near_mm")._lines["near_mm"]
    field.edit.clear()
    keys(field.edit, "300 mm")
    press(field.edit, Qt.Key.Key_Return)
    assert "from" in field.refusal.text() or "further" in field.refusal.text()
    field.edit.clear()
    keys(field.edit, "280 mm")
    press(field.edit, Qt.Key.Key_Return)
    assert "the far land lies further from the chuck" in field.refusal.text()
    assert lathe.frame.session.case.subject.near_mm == 25.0


def test_shims_at_hand_are_stated_in_thou_or_millimetres(lathe):
    stop = at(lathe, "headstock", "survey")
    click(lathe.frame, "leaf_stated")
    field = stop.bench.aside.fields.fields_of("stock_mm")._lines["stock_mm"]
    assert field.edit.text().endswith("thou")
    field.edit.clear()
    keys(field.edit, "2 5 10")
    press(field.edit, Qt.Key.Key_Return)
    assert lathe.frame.session.case.subject.stock_mm == pytest.approx((0.0508, 0.127, 0.254))
    field.edit.clear()
    keys(field.edit, "none")
    press(field.edit, Qt.Key.Key_Return)
    assert field.refusal.text()


def test_a_slope_typed_in_any_unit_is_taken_and_an_absurd_one_refused(lathe):
    stop = at(lathe, "ways", "survey")
    stop.bench.choose_set_up("level_along")
    frame = lathe.frame
    before = len(frame.session.job.readings("ways", "level_along"))
    for text in ("0.02 mm/m", "8 arcsec", "-0.5"):
        keys(stop.pod.entry, text)
        press(stop.pod.entry, Qt.Key.Key_Return)
        assert stop.pod.refusal.text() == ""
    assert len(frame.session.job.readings("ways", "level_along")) == before + 3
    keys(stop.pod.entry, "40 mm/m")
    press(stop.pod.entry, Qt.Key.Key_Return)
    assert "is the unit right?" in stop.pod.refusal.text()
    assert stop.pod.entry.text() == "40 mm/m"


# the gib ------------------------------------------------------------------------------------------


def test_a_gib_measured_not_home_is_felt_again_and_its_pictures_follow(lathe):
    stop = at(lathe, "saddle", "survey")
    assert "was not home" in stop.bench.banner.head.text()
    view = stop.bench.view()
    assert isinstance(view, GibView)
    click(lathe.frame, "feel_again")
    assert not stop.bench.banner.isVisible()
    take_all(lathe, "saddle", "feelers")
    assert lathe.frame.session.case.distrusted("before") == {}
    thin, thick = (
        sum(p.values) / len(p.values) for p in lathe.frame.session.job.standing("saddle", "feelers")
    )
    assert abs(thick - thin) < 0.1


def test_the_drawn_gib_is_fed_in_by_dragging_by_keys_and_by_the_button(lathe):
    at(lathe, "saddle", "survey")
    click(lathe.frame, "feel_again")
    survey(lathe, "saddle")
    stop = at(lathe, "saddle", "findings")
    picture = stop.pictures.picture()
    wedge = picture.wedge
    middle = wedge.rect().center()
    QTest.mousePress(wedge, Qt.MouseButton.LeftButton, pos=middle)
    QTest.mouseMove(wedge, middle - QPoint(8, 0))
    QTest.mouseRelease(wedge, Qt.MouseButton.LeftButton, pos=middle - QPoint(8, 0))
    assert wedge.fed_mm == pytest.approx(8 / wedge._px(), rel=0.2)
    assert "turns" in picture.said.text()
    press(wedge, Qt.Key.Key_Home)
    assert wedge.fed_mm == 0
    press(wedge, Qt.Key.Key_Left)
    assert wedge.fed_mm == pytest.approx(0.25)
    click(stop, "feed_until")
    slide, gaps = wedge.gib()
    assert gaps.after_advance(slide.gib, wedge.fed_mm).least == pytest.approx(slide.running_mm, abs=1e-6)
    wedge.feed_to(28.0)
    assert "It binds." in picture.said.text()
    click(stop, "feed_back")
    assert wedge.fed_mm == 0


# pictures -----------------------------------------------------------------------------------------


def test_the_machine_is_drawn_bent_by_a_stated_factor_and_morphs_to_what_a_remedy_leaves(lathe):
    survey(lathe, "ways", "headstock", "tailstock")
    stop = at(lathe, "ways", "findings")
    picture = stop.pictures.picture()
    assert isinstance(picture, BedPicture)
    slider = picture.findChild(QSlider, "exaggeration")
    slider.setValue(0)
    assert picture.factor.text() == "× 50"
    slider.setValue(100)
    assert picture.factor.text() == "× 2000"
    stop = at(lathe, "ways", "remedies")
    picture = stop.pictures.picture()
    stop.look_at("leave")
    assert until(lambda: picture.machine.shape() == lathe.frame.session.case.shape())
    crooked = picture.machine.shape().twist_mrad
    stop.look_at("level")
    assert until(lambda: abs(picture.machine.shape().twist_mrad) < 0.1 * abs(crooked))
    assert {r.label for r in picture.outcome.rows()} >= {"Twist, in 40 in", "Wear of the ways"}


def test_the_work_s_length_and_holding_change_its_error(lathe):
    survey(lathe, "ways", "headstock", "tailstock")
    stop = at(lathe, "headstock", "findings")
    picture = stop.pictures.picture()
    click(stop, "picture_work")
    short = picture.work.length_mm()
    picture.work.slider.setValue(picture.work.slider.value() + 4)
    assert picture.work.length_mm() == pytest.approx(short + 100)
    chuck = picture.work.curve._now.total[-1].value
    click(stop, "held_centres")
    assert picture.work.curve._now.total[-1].value != chuck
    assert "tailstock" in picture.work.curve._now.parts


def test_steps_of_the_relief_carry_hatching(qapp):
    from PySide6.QtCore import QRectF
    from PySide6.QtGui import QPainter

    from tests.app.test_pictures import blank

    colours = []
    for step in range(4):
        image = blank(80, 60)
        painter = QPainter(image)
        paint_step(painter, QRectF(0, 0, 80, 60), step)
        painter.end()
        colours.append([image.pixelColor(x, 30).rgb() for x in range(80)])
    assert len(set(colours[0])) == 1
    grounds = [max(set(line), key=line.count) for line in colours]
    assert len(set(grounds)) == 4
    strokes = [sum(c != ground for c in line) for line, ground in zip(colours, grounds, strict=True)]
    assert strokes == sorted(strokes)
    assert strokes[1] > 0


@pytest.mark.parametrize("size", [(1100, 700), (1280, 800)])
def test_every_picture_paints_at_any_size(lathe, size):
    survey(lathe, "ways", "headstock", "tailstock", "stand")
    lathe.resize(*size)
    for assembly in ("ways", "stand"):
        stop = at(lathe, assembly, "findings")
        picture = stop.pictures.picture()
        for leaf in ("machine", "ways", "work"):
            picture.leaves.show_leaf(leaf)
            assert not picture.grab().isNull()
    assert picture.findChild(MachineCanvas).width() > 300


def test_the_trammed_head_is_pictured_and_its_remedy_needs_no_part(make_window):
    window = make_window("mill")
    survey(window, "head")
    stop = at(window, "head", "findings")
    assert stop.pictures.picture().head._lean["tilt_x"] == pytest.approx(0.13, abs=0.03)
    stop = at(window, "head", "remedies")
    stop.look_at("set")
    click(window.frame, "choose_remedy")
    stop = at(window, "head", "parts")
    assert "Nothing is made for this" in stop.other.text.text()
    stop = at(window, "head", "make")
    assert "makes no part" in stop.other.text.text()
    at(window, "head", "fit_up")


# the whole way ------------------------------------------------------------------------------------


def repair(window, assembly, remedy, tmp_path):
    """Remedy, parts, making and fit-up of one assembly, by clicks."""
    session = window.frame.session
    stop = at(window, assembly, "remedies")
    stop.look_at(remedy)
    click(window.frame, "choose_remedy")
    assert session.case.chosen.key == remedy
    if session.case.part_keys():
        stop = at(window, assembly, "parts")
        for key in session.case.part_keys():
            stop.show_part(key)
            assert not stop.trouble.isVisible()
            stop.save_to(tmp_path / f"{assembly}-{key}.dxf")
            assert (tmp_path / f"{assembly}-{key}.dxf").stat().st_size > 2000
        stop = at(window, assembly, "make")
        for key in session.case.part_keys():
            stop.show_part(key)
            for operation in session.case.route(key):
                stop.show_step(operation.key)
                if operation.target is not None:
                    press(window.frame, SPACE)
                    press(window.frame, SPACE)
                    assert len(session.job.sizes(session.case.part_name(key), operation.key)) == 2
                click(window.frame, "mark_done")
            assert len(session.job.steps_done(session.case.part_name(key))) == len(session.case.route(key))
    stop = at(window, assembly, "fit_up")
    for _ in session.case.fit_order():
        stop.step_key = ""
        stop.refresh()
        click(window.frame, "fit_done")
    assert len(session.job.steps_done(session.case.fit_plan)) == len(session.case.fit_order())


def prove(window, assembly, tmp_path):
    session = window.frame.session
    stop = at(window, assembly, "prove")
    take_what_is_left(session.case, "after", session.record)
    stop.refresh()
    assert stop.banner.head.text()
    stop.write_to(tmp_path / f"{assembly}.pdf")
    assert (tmp_path / f"{assembly}.pdf").read_bytes().startswith(b"%PDF")
    return {m.key: m for m in session.case.measures_of("after")}


def test_the_lathe_is_brought_back_in_line_from_survey_to_proof(lathe, tmp_path):
    session = lathe.frame.session
    click(at(lathe, "saddle", "survey"), "feel_again")
    survey(lathe, "stand", "ways", "headstock", "tailstock", "saddle")
    for assembly, remedy in (
        ("stand", "feet"),
        ("ways", "scrape"),
        ("headstock", "level_over"),
        ("tailstock", "all"),
        ("saddle", "lift"),
    ):
        assert at(lathe, assembly, "findings").banner.head.text()
        repair(lathe, assembly, remedy, tmp_path)
    proven = {
        assembly: prove(lathe, assembly, tmp_path)
        for assembly in ("stand", "ways", "headstock", "tailstock", "saddle")
    }
    for assembly, key in (
        ("stand", "soft_foot"),
        ("ways", "twist"),
        ("ways", "way_wear"),
        ("headstock", "taper"),
        ("tailstock", "tail_side"),
        ("tailstock", "tail_key"),
        ("saddle", "play"),
    ):
        m = proven[assembly][key]
        assert m.value.value < m.limit.limit_mm, key
    readings, path = len(session.job.all_readings()), session.path
    lathe.leave_job()
    with JobFile.open(path) as job_file:
        job = Job(job_file.entries())
        assert len(job.all_readings()) == readings
        assert {a: job.chosen(a).remedy for a in proven}["saddle"] == "lift"


def test_the_mill_s_gib_goes_from_survey_to_proof(make_window, tmp_path):
    window = make_window("mill")
    window.frame.session.show_in(UnitSystem.METRIC)
    stop = at(window, "table", "survey")
    click(stop, "feel_again")
    for set_up in ("feelers", "stand_out", "rock", "spots"):
        take_all(window, "table", set_up)
    stop = at(window, "table", "findings")
    assert "of play at the" in stop.banner.head.text()
    repair(window, "table", "scrape", tmp_path)
    proven = prove(window, "table", tmp_path)
    assert proven["play"].value.value < proven["play"].limit.limit_mm


def test_what_is_chosen_at_one_part_shows_in_the_prediction_of_another(lathe):
    survey(lathe, "ways", "headstock")
    stop = at(lathe, "headstock", "remedies")
    stop.look_at("leave")
    before = stop.left.text()
    lathe.frame.session.record(RemedyChosen(assembly="ways", remedy="level", reason=""))
    stop = at(lathe, "headstock", "remedies")
    stop.look_at("leave")
    assert stop.left.text() != before


def test_with_shims_in_a_level_counts_as_of_the_bed_with_them(lathe):
    session = lathe.frame.session
    before = session.cases.of("ways").estimate.readings
    session.record(FactStated(assembly="ways", field="shim.1", value="tail_rear 0.10"))
    stop = at(lathe, "ways", "survey")
    stop.bench.choose_set_up("level_across")
    assert "Shims are in" not in stop.bench.banner.head.text()
    take_all(lathe, "ways", "level_across")
    assert session.cases.of("ways").estimate.readings > before
    assert session.cases.of("ways").set_aside() == []
