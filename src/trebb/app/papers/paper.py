"""A paper: pages of words and of drawings, put on a PDF, a printer or a preview alike."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path

from msgspec import Struct
from PySide6.QtCore import QMarginsF, QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import (
    QColor,
    QFontMetricsF,
    QPagedPaintDevice,
    QPageLayout,
    QPageSize,
    QPainter,
    QPdfWriter,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
    QTextFormat,
)
from PySide6.QtPrintSupport import QPrinter

from trebb.app.look import numerals, theme
from trebb.core.parts import Part
from trebb.core.parts.drawing import Title
from trebb.core.parts.page import TEXT, Page
from trebb.core.units import UnitSystem
from trebb.logbook.file.writing import is_pdf, written_beside

TEMPLATES = Path(__file__).parent.parent / "templates"
DOTS_PER_INCH = 288
MARGIN_MM = 14.0
MM_PER_INCH = 25.4
PX_PER_INCH = 96
PAPER_POINTS, HEAD_POINTS = 10.5, 17.0


class Words(Struct, frozen=True):
    """Upright pages of words, from a template of ours filled in."""

    html: str


class Drawn(Struct, frozen=True):
    """A drawing on a page of its own, lying."""

    part: Part
    system: UnitSystem
    title: Title | None = None


class Block(Struct, frozen=True):
    """A picture among others on a page, so many px high (96 to an inch); `draw(painter, wide)` paints it."""

    high: float
    draw: Callable[[QPainter, float], None]


class Pictured(Struct, frozen=True):
    """Pictures below each other on upright pages; none is cut in two."""

    blocks: Sequence[Block]


class Paper(Struct, frozen=True):
    """What is printed together, in order."""

    title: str
    sheets: Sequence[Words | Drawn | Pictured]


def filled(template: str, facts: Mapping[str, object]) -> Words:
    """Pages of a template in `templates`, filled in; every word of a job stays a word there."""
    from jinja2 import Environment

    text = (TEMPLATES / template).read_text(encoding="utf-8")
    made = Environment(autoescape=True, finalize=_said).from_string(text)
    return Words(made.render(facts))


def words_of(markdown: str) -> Words:
    """Pages of a text in Markdown, in points."""
    document = QTextDocument()
    face = theme.paper_font()
    face.setPointSizeF(PAPER_POINTS)
    document.setDefaultFont(face)
    document.setMarkdown(markdown)
    head, plain = QTextCharFormat(), QTextCharFormat()
    head.setFontPointSize(HEAD_POINTS)
    head.setProperty(QTextFormat.Property.FontSizeAdjustment, 0)
    plain.setFontPointSize(PAPER_POINTS)
    plain.setFontFamilies([face.family()])  # what is typed is no other face on paper
    block = document.begin()
    while block.isValid():
        cursor = QTextCursor(block)
        cursor.select(QTextCursor.SelectionType.BlockUnderCursor)
        form = block.blockFormat()
        cursor.mergeCharFormat(head if form.headingLevel() else plain)
        if form.headingLevel():
            form.setHeadingLevel(0)  # its size is said in points
            QTextCursor(block).setBlockFormat(form)
        block = block.next()
    return Words(document.toHtml())


def _said(value: object) -> object:
    """A word on paper, its numbers with the language's decimal mark; markup made by us is left."""
    return numerals.shown(value) if type(value) is str else value


def _layout(orientation: QPageLayout.Orientation) -> QPageLayout:
    """The country's paper to its edges; the margins of words are kept by whoever writes them."""
    size = QPageSize.PageSizeId.Letter if numerals.is_letter_paper() else QPageSize.PageSizeId.A4
    return QPageLayout(QPageSize(size), orientation, QMarginsF(0, 0, 0, 0))


def put_on(device: QPagedPaintDevice, paper: Paper) -> int:
    """Paint a paper on a device that was not painted on yet; returns the pages that took.

    A file's pages lie where a drawing is on them; a printer's stay upright,
    for paper lies in it one way, and the drawing is turned.
    """
    pages = 0
    painter = QPainter()
    turns = isinstance(device, QPdfWriter)
    if isinstance(device, QPrinter):
        device.setFullPage(True)
    for sheet in paper.sheets:
        lies = isinstance(sheet, Drawn)
        if turns or not pages:
            orientation = (
                QPageLayout.Orientation.Landscape if lies and turns else QPageLayout.Orientation.Portrait
            )
            device.setPageLayout(_layout(orientation))
        if pages:
            device.newPage()
        else:
            painter.begin(device)
        pages += (
            _put_drawing(painter, device, sheet)
            if isinstance(sheet, Drawn)
            else _put_pictures(painter, device, sheet)
            if isinstance(sheet, Pictured)
            else _put_words(painter, device, sheet)
        )
    painter.end()
    return pages


def _put_words(painter: QPainter, device: QPagedPaintDevice, sheet: Words) -> int:
    document = QTextDocument()
    document.documentLayout().setPaintDevice(device)
    document.setDefaultFont(theme.paper_font(theme.SMALL))
    document.setHtml(sheet.html)
    margin = MARGIN_MM / MM_PER_INCH * device.logicalDpiX()
    wide, high = device.width() - 2 * margin, device.height() - 2 * margin
    document.setDocumentMargin(0)
    document.setPageSize(QSizeF(wide, high))
    count = document.pageCount()
    for page in range(count):
        if page:
            device.newPage()
        painter.save()
        painter.translate(margin, margin - page * high)
        document.drawContents(painter, QRectF(0, page * high, wide, high))
        painter.restore()
    return count


def _put_pictures(painter: QPainter, device: QPagedPaintDevice, sheet: Pictured) -> int:
    each = device.logicalDpiX() / PX_PER_INCH
    margin = MARGIN_MM / MM_PER_INCH * PX_PER_INCH
    wide, high = device.width() / each - 2 * margin, device.height() / each - 2 * margin
    pages, down = 1, 0.0
    for block in sheet.blocks:
        if down and down + block.high > high:
            device.newPage()
            pages, down = pages + 1, 0.0
        painter.save()
        painter.scale(each, each)
        painter.translate(margin, margin + down)
        with theme.as_on_paper():
            block.draw(painter, wide)
        painter.restore()
        down += block.high
    return pages


def _put_drawing(painter: QPainter, device: QPagedPaintDevice, sheet: Drawn) -> int:
    from trebb.app.parts.drawing_scene import scene_of
    from trebb.core.parts.drawing import A4, LETTER, Title, laid_out, written

    paper = LETTER if numerals.is_letter_paper() else A4
    page, size = laid_out(sheet.part, sheet.system, sheet.title or Title(), paper)
    scene = scene_of(written(page, size, sheet.system), "#ffffff", with_words=False)
    area, source = QRectF(0, 0, device.width(), device.height()), scene.sceneRect()
    painter.save()
    painter.translate(area.center())
    if area.height() > area.width():
        painter.rotate(-90)
        area = area.transposed()
    # The scene counts y upward as a drawing does; the page counts downward.
    scale = min(area.width() / source.width(), area.height() / source.height())
    painter.scale(scale, -scale)
    painter.translate(-source.center())
    scene.render(painter, source, source, Qt.AspectRatioMode.IgnoreAspectRatio)
    painter.restore()
    painter.save()
    painter.translate(QRectF(0, 0, device.width(), device.height()).center())
    if device.height() > device.width():
        painter.rotate(-90)
    dots = area.width() / page.sheet[0]  # to a millimetre of the sheet
    painter.translate(-area.width() / 2, area.height() / 2)
    _write_words(painter, page, dots)
    painter.restore()
    return 1


def _write_words(painter: QPainter, page: Page, dots: float) -> None:
    """The words of a drawing as text in the face it is laid out in, from the sheet's lower left corner."""
    words = [(t.words, t.at, t.high, t.is_middle, t.layer) for t in page.texts]
    words += [(d.words, d.text_at, TEXT, True, "DIMENSION") for d in page.dims]
    for text, (x, y), high, is_middle, layer in words:
        face = theme.drawing_font(high * dots)
        # A word's height is that of its capitals, here as in the document.
        wide = QFontMetricsF(face).horizontalAdvance(text) if is_middle else 0.0
        painter.setFont(face)
        painter.setPen(QColor(theme.LIGHT.blue) if layer == "DIMENSION" else Qt.GlobalColor.black)
        down = -y * dots + (high * dots / 2 if is_middle else 0.0)
        painter.drawText(QPointF(x * dots - wide / 2, down), text)


def write_pdf(paper: Paper, path: Path) -> int:
    """A paper as PDF whose words can be copied; returns its pages. Raises WriteError when it cannot be
    written.
    """
    with written_beside(path, is_pdf) as beside:
        writer = QPdfWriter(str(beside))
        writer.setTitle(paper.title)
        writer.setResolution(DOTS_PER_INCH)
        pages = put_on(writer, paper)
        del writer  # the file's end is written when the writer goes
    return pages
