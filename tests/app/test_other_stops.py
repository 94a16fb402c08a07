"""Intake, Findings, Remedies, Parts, Make, Fit-up and Prove through the real window."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QComboBox, QLabel, QLineEdit, QPlainTextEdit

from tests.app.conftest import cable, click, keys, picture, press, until
from trebb.app.look.widgets import plain_tip
from trebb.app.shell.walk import cut_parts, fit_together, take_what_is_left
from trebb.core.machine import State
from trebb.core.units import THOU_MM, UnitSystem
from trebb.logbook.cases.casework import SCREW
from trebb.logbook.log.entries import RemedyChosen


def set_field(frame, name: str, text: str):
    field = frame.findChild(QLineEdit, name)
    field.setFocus()
    field.selectAll()
    keys(field, text)
    press(field, Qt.Key.Key_Return)


def pick(frame, name: str, value: str):
    box = frame.findChild(QComboBox, name)
    box.setCurrentIndex(box.findData(value))
    box.activated.emit(box.currentIndex())


def choose(frame, remedy: str):
    frame.session.record(RemedyChosen(assembly=SCREW, remedy=remedy, reason=""))


# Intake ---------------------------------------------------------------------------------------


def test_intake_grades_a_part_notes_it_and_names_the_number_one_problem(make_window):
    frame = make_window("new").frame
    frame.session.choose("ways")
    click(frame, "grade_accuracy")
    note = frame.findChild(QPlainTextEdit, "grade_note")
    note.setFocus()
    keys(note, "ridge at the chuck")
    frame.stop.words.setFocus()
    click(frame, "number_one")
    graded = frame.session.job.grade("ways")
    assert (graded.grade, graded.note, frame.session.job.number_one) == (
        "accuracy",
        "ridge at the chuck",
        "ways",
    )


def test_a_limit_from_the_machine_s_own_card_is_recorded_as_such(frame):
    frame.go_to("intake")
    set_field(frame, "limit", "4 thou")
    limit = frame.session.case.limit
    assert limit.limit_mm == pytest.approx(4 * THOU_MM)
    assert limit.source == "from this machine's own card"


def test_a_limit_that_is_none_is_refused_below_the_field(frame):
    frame.go_to("intake")
    set_field(frame, "limit", "soon")
    assert any(
        "write a length" in w.text()
        for w in frame.stop.limits.findChildren(type(frame.stop.title))
        if w.isVisible()
    )
    assert frame.findChild(QLineEdit, "limit").text() == "soon"


def test_a_photograph_is_copied_into_the_job(frame, tmp_path):
    frame.go_to("intake")
    path = picture(tmp_path)
    frame.stop.add_photo(path)
    path.unlink()
    (photo,) = frame.session.job.photos(SCREW)
    assert frame.session.file.photograph(photo.sha256)[1][:4] == b"\x89PNG"
    assert frame.stop.photos.count() == 1


def test_a_file_that_is_no_picture_is_refused_in_words(frame, tmp_path):
    frame.go_to("intake")
    (tmp_path / "a.jpg").write_text("words")
    frame.stop.add_photo(tmp_path / "a.jpg")
    assert "this is not a photograph" in frame.stop.photo_refusal.text()
    assert frame.session.job.photos() == []


def test_a_spindle_bore_and_a_count_are_read_or_refused(frame):
    frame.go_to("intake")
    set_field(frame, "spindle_bore_mm", "1-1/2")
    assert frame.session.case.workshop.spindle_bore_mm == pytest.approx(38.1)
    set_field(frame, "dial_marks", "many")
    assert frame.session.case.workshop.dial_marks == 8


# Findings and remedies ------------------------------------------------------------------------


def test_findings_say_what_is_not_told_apart_and_then_the_split(frame):
    frame.go_to("findings")
    first = frame.session.case.findings(UnitSystem.INCH)
    assert any("cannot be told apart yet" in f.sentence for f in first)
    take_what_is_left(frame.session.case, "before", frame.session.record)
    assert "The screw is worn" in frame.stop.banner.head.text()
    assert "20 places read" in frame.stop.sure.text()


def test_a_suggestion_at_findings_leads_to_its_set_up(frame):
    frame.go_to("findings")
    frame.stop.worth.chosen.emit("end_float")
    assert frame.stop.bench.current.key == "end_float"


def test_findings_with_nothing_read_say_where_to_begin(make_window):
    frame = make_window("new").frame
    frame.go_to("findings")
    assert frame.stop.banner.head.text() == "Nothing is read yet."


def test_a_remedy_is_chosen_with_its_reason_and_can_be_undone(surveyed):
    stop = surveyed.go_to("remedies")
    assert stop.current == "pair_thrust"
    press(surveyed, Qt.Key.Key_Up)
    assert stop.current == "new_pair"
    stop.reason.setPlainText("cheap enough")
    click(surveyed, "choose_remedy")
    chosen = surveyed.session.job.chosen(SCREW)
    assert (chosen.remedy, chosen.reason) == ("new_pair", "cheap enough")
    assert "Chosen: New screw and nut" in stop.said.text()
    press(surveyed, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert surveyed.session.job.chosen(SCREW) is None


# Parts ----------------------------------------------------------------------------------------


def test_a_size_set_by_hand_redraws_the_part_and_its_checks(surveyed):
    stop = surveyed.go_to("parts")
    set_field(surveyed, "screw_collar_dia", "1.6 in")
    assert surveyed.session.case.part("screw").largest_mm == pytest.approx(40.64)
    assert any(not c.is_ok for c in surveyed.session.case.part("screw").checks)
    assert stop.drawing.scene().items()


def test_a_thread_that_cannot_be_is_refused_and_the_old_one_stays(surveyed):
    surveyed.go_to("parts")
    set_field(surveyed, "pitch_mm", "1 tpi")
    assert surveyed.session.case.drive.thread.pitch_mm == pytest.approx(3.175)
    assert surveyed.findChild(QLineEdit, "pitch_mm").property("refused") == "true"


def test_form_hand_and_class_are_set_by_hand(surveyed):
    surveyed.go_to("parts")
    pick(surveyed, "hand", "right")
    pick(surveyed, "tolerance_class", "3G")
    set_field(surveyed, "pitch_mm", "10 tpi")
    thread = surveyed.session.case.drive.thread
    assert (thread.hand.value, thread.tolerance_class, round(thread.pitch_mm, 2)) == ("right", "3G", 2.54)


@pytest.mark.parametrize(("suffix", "head"), [("dxf", b"  0"), ("svg", b"<?xml"), ("pdf", b"%PDF")])
def test_a_drawing_is_written_in_each_format(surveyed, tmp_path, suffix, head):
    stop = surveyed.go_to("parts")
    stop.save_to(tmp_path / f"screw.{suffix}")
    assert (tmp_path / f"screw.{suffix}").read_bytes().startswith(head)
    assert "Saved" in stop.saved.text()


def test_a_drawing_that_cannot_be_written_is_said(surveyed, tmp_path):
    stop = surveyed.go_to("parts")
    stop.save_to(tmp_path / "nowhere" / "screw.dxf")
    assert "not written" in stop.saved.text()
    stop.save_to(tmp_path / "screw.doc")
    assert "saved as .dxf, .svg or .pdf" in stop.saved.text()


# Make -----------------------------------------------------------------------------------------


def to_thread(frame):
    choose(frame, "pair_thrust")
    stop = frame.go_to("make")
    stop.show_step("thread")
    return stop


def test_sizes_rewrite_the_passes_until_the_band_is_reached(surveyed):
    stop = to_thread(surveyed)
    before = len(stop.view().passes.rows())
    press(surveyed, Qt.Key.Key_Space)
    assert len(stop.view().passes.rows()) < before
    cable(surveyed, stop.entry, "0.7540")
    assert stop.numeral.text() == "0.7540"
    assert "Inside the band" in stop.banner.head.text()
    assert all("spring" in r.move for r in stop.view().passes.rows())


def test_an_overshoot_is_said_at_once_with_what_can_be_done(surveyed):
    stop = to_thread(surveyed)
    stop.take_typed("0.7380")
    assert stop.banner.head.text() == "Under the band."
    assert "Cut the nut to suit" in stop.banner.text.text()
    press(surveyed, Qt.Key.Key_Backspace)
    assert surveyed.session.case.made_screw_pitch_dia() is None


def test_a_size_that_is_none_is_refused_where_it_was_typed(surveyed):
    stop = to_thread(surveyed)
    stop.take_typed("3 in")
    assert "this thread reads about" in stop.refusal.text()
    assert surveyed.session.job.sizes("screw", "thread") == []


@pytest.mark.parametrize("scheme", ["straight", "compound", "alternate"])
def test_each_infeed_school_has_its_own_passes(surveyed, scheme):
    stop = to_thread(surveyed)
    click(surveyed, f"infeed_{scheme}")
    assert stop.session.case.scheme.name.lower() == scheme
    first = stop.view().passes.rows()[0]
    assert first.move == ("compound in" if scheme == "compound" else "cross slide in")
    assert ("headstock" in first.total) is (scheme == "alternate")


def test_an_operation_is_ticked_and_the_next_one_follows(surveyed):
    choose(surveyed, "new_pair")
    stop = surveyed.go_to("make")
    click(surveyed, "mark_done")
    assert surveyed.session.job.steps_done("screw") == {"blanks"}
    assert stop.operation().key == "centre"
    stop.show_step("blanks")
    click(surveyed, "mark_done")
    assert surveyed.session.job.steps_done("screw") == set()


def test_the_nut_s_play_is_taken_on_the_bench(surveyed):
    choose(surveyed, "made_nut")
    stop = surveyed.go_to("make")
    stop.show_step("nut_thread")
    stop.take_typed("1.6")
    assert surveyed.session.case.nut_play_mm() == pytest.approx(1.6 * THOU_MM)
    assert "as wanted" in stop.banner.head.text()


def test_a_remedy_without_parts_has_nothing_to_make(surveyed):
    choose(surveyed, "leave")
    stop = surveyed.go_to("make")
    assert "makes no part" in stop.other.text.text()


# Fit-up and prove -----------------------------------------------------------------------------


def test_a_step_cannot_be_ticked_before_what_it_needs_and_says_why(surveyed):
    choose(surveyed, "pair_thrust")
    stop = surveyed.go_to("fit_up")
    stop.show_step("covers")
    click(surveyed, "fit_done")
    assert surveyed.session.job.steps_done("fit") == set()
    assert stop.banner.head.text().startswith("First “Dial and handwheel on")
    stop.show_step("clean")
    click(surveyed, "fit_done")
    assert surveyed.session.job.steps_done("fit") == {"clean"}


def test_a_tick_that_others_stand_on_is_not_taken_back(surveyed):
    choose(surveyed, "pair_thrust")
    stop = surveyed.go_to("fit_up")
    fit_together(surveyed.session.case, surveyed.session.record)
    stop.show_step("clean")
    click(surveyed, "fit_done")
    assert "was done on top of it" in stop.banner.head.text()
    assert "clean" in surveyed.session.job.steps_done("fit")


def test_the_repaired_machine_is_read_again_and_proven(surveyed, tmp_path):
    choose(surveyed, "pair_thrust")
    cut_parts(surveyed.session.case, surveyed.session.record)
    stop = surveyed.go_to("prove")
    for _ in range(23):
        if stop.bench.place() is None:
            break
        expected = surveyed.session.case.practice("after").reading(
            stop.bench.current,
            stop.bench.place().key,
            len(
                surveyed.session.job.readings(SCREW, stop.bench.current.key, "after", stop.bench.place().key)
            ),
        )
        assert until(
            lambda value=expected: (
                stop.pod._raw is not None and abs(stop.pod._raw - value) < 0.3 * max(value, 0.01)
            )
        )
        press(surveyed, Qt.Key.Key_Space)
    assert surveyed.session.case.progress("after") == (11, 11)
    assert "The dial still loses up to" in stop.banner.head.text()
    stop.left.setPlainText("look again in a month")
    stop.write_to(tmp_path / "sheet.pdf")
    assert (tmp_path / "sheet.pdf").read_bytes().startswith(b"%PDF")
    assert "1 page" in stop.said.text()
    assert surveyed.session.job.note("left") == "look again in a month"


def test_the_machine_shows_the_proven_figure(surveyed):
    from trebb.app.window.machine_panel import assembly_figure

    assembly = surveyed.session.case.assembly
    assert assembly_figure(surveyed.session, assembly)[0] is State.BEYOND
    choose(surveyed, "pair_thrust")
    take_what_is_left(surveyed.session.case, "after", surveyed.session.record)
    assert assembly_figure(surveyed.session, assembly)[0] is State.WITHIN


@pytest.mark.parametrize("stop", ["findings", "remedies", "parts", "make", "fit_up", "prove"])
@pytest.mark.parametrize("kind", ["lathe", "mill", "drill"])
def test_every_stop_opens_on_a_new_job_of_any_kind(make_window, kind, stop):
    frame = make_window("new", machine_kind=kind).frame
    assert frame.go_to(stop).isVisible()
    press(frame, Qt.Key.Key_Space)
    press(frame, Qt.Key.Key_Down)


@pytest.mark.parametrize("stop", ["survey", "findings", "remedies", "parts", "make", "fit_up", "prove"])
@pytest.mark.parametrize("form", ["square", "trapezoidal", "stub Acme"])
def test_every_stop_holds_when_the_form_is_restated_after_measuring(surveyed, form, stop):
    choose(surveyed, "pair_thrust")
    cut_parts(surveyed.session.case, surveyed.session.record)
    surveyed.go_to("parts")
    pick(surveyed, "form", form)
    shown = surveyed.go_to(stop)
    if stop == "make":
        shown.show_step("thread")
        press(surveyed, Qt.Key.Key_Space)
    assert shown.isVisible()
    assert surveyed.session.case.drive.thread.form.value == form


def test_words_of_a_job_are_never_markup(make_window, tmp_path):
    """A name that is HTML is shown as it is typed: in labels, buttons, tooltips and on the sheet."""
    name = '<img src="file:///etc/passwd"><b>Lathe</b>'
    window = make_window("new", machine=name)
    labels = [x for x in window.findChildren(QLabel) if name in x.text()]
    assert labels
    assert all(x.textFormat() is Qt.TextFormat.PlainText for x in window.findChildren(QLabel) if x.text())
    path = tmp_path / "<b>x<b>.png"
    picture(tmp_path).rename(path)
    window.frame.go_to("intake").add_photo(path)
    window.frame.refresh()
    tips = [x.toolTip() for x in window.findChildren(QLabel)]
    assert any("&lt;b&gt;x&lt;b&gt;" in tip for tip in tips)
    assert not any("<b>" in tip for tip in tips)
    assert plain_tip("more than less") == "more than less"
