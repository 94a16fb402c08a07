"""What is printed: a part whole, its route, readings, the cards, looked at before."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtWidgets import QApplication

from tests.app.conftest import click, press
from trebb.app import cli
from trebb.app.papers.cover import PrintCover
from trebb.app.papers.of_job import KINDS, paper_of
from trebb.app.papers.paper import Drawn, put_on, write_pdf
from trebb.app.papers.readings import readings_group
from trebb.core.errors import InputError
from trebb.core.units import UnitSystem
from trebb.logbook.log.entries import NoteWritten, ReadingStruck, RemedyChosen, StepDone

INCH = UnitSystem.INCH


def text_of(path) -> str:
    from pypdf import PdfReader

    return " ".join(" ".join(page.extract_text() for page in PdfReader(path).pages).split())


@pytest.fixture
def chosen(surveyed):
    """The demo's screw, surveyed, its repair chosen."""
    surveyed.session.record(RemedyChosen(assembly="cross_slide", remedy="pair_thrust", reason=""))
    return surveyed


def test_a_part_whole_is_drawing_sizes_and_route_in_one_pdf(chosen, tmp_path):
    from pypdf import PdfReader

    session = chosen.session
    paper = paper_of(session.cases, session.case, "part", "screw", INCH)
    assert isinstance(paper.sheets[0], Drawn)
    pages = write_pdf(paper, tmp_path / "screw.pdf")
    read = PdfReader(tmp_path / "screw.pdf").pages
    assert len(read) == pages >= 3
    assert read[0].mediabox.width > read[0].mediabox.height  # the drawing lies
    assert read[1].mediabox.width < read[1].mediabox.height
    text = text_of(tmp_path / "screw.pdf")
    part = session.case.part("screw", INCH)
    for line in part.rows:
        assert line.label in text
    drawing = " ".join(read[0].extract_text().split())  # its words are text, not outlines
    for words in ("Screw, 3/4-8 Acme left hand", "Over wires", "tip flat .0430", "general tolerance"):
        assert words in drawing
    for operation in session.case.route("screw", INCH):
        assert operation.title.split(",")[0] in text


def test_the_route_has_a_box_an_operation_ticked_where_it_is_done(chosen, tmp_path):
    session = chosen.session
    route = session.case.route("screw", INCH)
    session.record(StepDone(plan=session.case.part_name("screw"), step=route[0].key))
    html = paper_of(session.cases, session.case, "route", "screw", INCH).sheets[0].html
    assert html.count("☑") == 1
    assert html.count("☐") == len(route) - 1


def test_readings_are_printed_as_taken_and_struck_ones_with_their_reason(surveyed, tmp_path):
    session = surveyed.session
    first = session.job.readings("cross_slide", "end_float", "before")[0]
    session.record(ReadingStruck(reading=first.id, reason="<b>a chip</b> under the foot"))
    write_pdf(paper_of(session.cases, session.case, "readings", "", INCH), tmp_path / "readings.pdf")
    said = text_of(tmp_path / "readings.pdf")
    assert "struck out: <b>a chip</b> under the foot" in said  # a job's words are never markup
    for s in session.case.set_ups:
        taken = session.job.readings("cross_slide", s.key, "before")
        if taken:
            assert f"{s.title}, before" in said
            group = readings_group(session.case, s, "before", INCH)
            standing = [r for r in taken if r.struck is None]
            assert sum(len(line.values.split(", ")) for line in group.lines if line.values) == len(standing)
            assert all(line.values in said for line in group.lines)


def test_nothing_to_print_is_said_where_the_paper_was_asked_for(window):
    frame = window.frame
    frame.session.choose("compound")
    frame.go_to("make")
    press(frame, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    cover = frame.findChild(PrintCover)
    assert cover.kinds["route"].isChecked()
    click(cover, "paper_acceptance")
    assert cover.paper is None
    assert "take readings first" in cover.banner.text.text()
    assert not cover.print_button.isEnabled()
    press(cover, Qt.Key.Key_Escape)


def test_the_preview_shows_the_pages_that_are_written(chosen, tmp_path):
    chosen.go_to("parts")
    press(chosen, Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    cover = chosen.findChild(PrintCover)
    assert cover.kinds["part"].isChecked()
    cover.preview.updatePreview()
    shown = cover.preview.pageCount()
    cover.save_to(tmp_path / "part.pdf")
    assert "part.pdf" in cover.banner.head.text()
    from pypdf import PdfReader

    assert len(PdfReader(tmp_path / "part.pdf").pages) == shown
    cover.save_to(tmp_path)
    assert "folder" in cover.banner.text.text()
    cover.close()


@pytest.mark.parametrize("kind", ["card", "oil", "week"])
def test_the_papers_of_the_whole_job_are_looked_at_too(chosen, kind):
    chosen.session.record(NoteWritten(topic="left", text="the gib"))
    chosen.go_to("intake")
    chosen.show_print()
    cover = chosen.findChild(PrintCover)
    cover.show_kind(kind)
    assert cover.paper is not None or cover.banner.text.text()
    cover.close()


def test_a_printer_takes_the_same_pages(chosen, tmp_path):
    printer = QPrinter()
    printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
    printer.setOutputFileName(str(tmp_path / "printed.pdf"))
    session = chosen.session
    paper = paper_of(session.cases, session.case, "part", "screw", INCH)
    assert put_on(printer, paper) == write_pdf(paper, tmp_path / "written.pdf")


def test_papers_from_the_shell(chosen, tmp_path, capsys):
    path = chosen.session.path
    chosen.session.file.close()
    out = tmp_path / "route.pdf"
    assert cli.main(["paper", str(path), "route", "cross_slide", str(out), "--part", "screw"]) == 0
    assert "route" in text_of(out).lower()
    assert cli.main(["paper", str(path), "poster", "cross_slide", str(out)]) == 1
    said = capsys.readouterr().err
    assert all(kind.key in said for kind in KINDS)


def test_a_part_that_is_none_is_refused_by_name(chosen):
    session = chosen.session
    with pytest.raises(InputError, match="must be one of"):
        paper_of(session.cases, session.case, "part", "gear", INCH)


def test_the_printer_goes_with_the_page_that_showed_it(make_window):
    import shiboken6

    frame = make_window("lathe").frame
    frame.session.choose("cross_slide")
    frame.go_to("parts")
    for _ in range(2):
        frame.show_print()
        QApplication.processEvents()
        (cover,) = (c for c in frame.findChildren(PrintCover) if c.isVisible())
        cover.close()
        assert not shiboken6.isValid(cover.printer)
        assert not shiboken6.isValid(cover.preview)
