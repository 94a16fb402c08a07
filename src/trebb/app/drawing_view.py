"""A part's drawing on the screen and to files: one DXF document, rendered by ezdxf's drawing add-on."""

from __future__ import annotations

import contextlib
import io
from datetime import date
from pathlib import Path
from typing import Any

from PySide6.QtCore import QMarginsF, QRectF, Qt
from PySide6.QtGui import QPageLayout, QPageSize, QPainter, QPdfWriter, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QGraphicsScene, QGraphicsView

from trebb.app import theme
from trebb.core.parts import Part, drawing_of
from trebb.core.parts.drawing import A4, SCREEN, Sheet, Title
from trebb.core.units import UnitSystem
from trebb.logbook.case import Case
from trebb.logbook.writing import is_pdf, write_whole, written_beside

_fonts_ready = False


def _ready_fonts() -> None:
    """Give ezdxf our shipped face and no other."""
    global _fonts_ready
    if not _fonts_ready:
        from ezdxf.fonts import font_manager, fonts

        font_manager.DEFAULT_FONTS[:] = [
            "BarlowSemiCondensed-Medium.ttf"
        ]  # without a fallback of ours every text is an error
        fonts.font_manager.clear()
        fonts.font_manager.build([str(theme.FONT_FOLDER)], support_dirs=False)
        _fonts_ready = True


def _config(background: str) -> Any:
    from ezdxf.addons.drawing import config

    return config.Configuration(
        background_policy=config.BackgroundPolicy.CUSTOM,
        custom_bg_color=background,
        lineweight_scaling=1.0,
        min_lineweight=0.13,
    )


def scene_of(doc: Any, background: str) -> QGraphicsScene:
    """The document as a Qt scene."""
    _ready_fonts()
    from ezdxf.addons.drawing import Frontend, RenderContext

    with contextlib.redirect_stdout(io.StringIO()):  # it greets at its first import; what is printed is data
        from ezdxf.addons.drawing.pyqt import PyQtBackend

    scene = QGraphicsScene()
    backend = PyQtBackend(scene)
    Frontend(RenderContext(doc), backend, config=_config(background)).draw_layout(doc.modelspace())
    low, high = doc.header["$LIMMIN"], doc.header["$LIMMAX"]  # the sheet
    scene.setSceneRect(QRectF(low[0], low[1], high[0] - low[0], high[1] - low[1]))
    return scene


def title_of(case: Case) -> Title:
    """What the title block says of the job that a part belongs to, today."""
    started = case.job.started
    return Title(
        machine=f"{started.machine}: {case.assembly.label}" if started else case.assembly.label,
        job=started.shop if started else "",
        date=date.today().isoformat(),
        projection=case.job.card("projection"),
    )


def save_dxf(part: Part, system: UnitSystem, path: Path, title: Title | None = None) -> None:
    """The document itself. Raises WriteError."""
    _ready_fonts()
    with written_beside(path, lambda there: there.read_bytes().rstrip().endswith(b"EOF")) as beside:
        drawing_of(part, system, title).saveas(beside)


def save_svg(part: Part, system: UnitSystem, path: Path, title: Title | None = None) -> None:
    """The document rendered as SVG. Raises WriteError."""
    _ready_fonts()
    from ezdxf.addons.drawing import Frontend, RenderContext, layout, svg
    from ezdxf.math import BoundingBox2d

    doc = drawing_of(part, system, title)
    backend = svg.SVGBackend()
    Frontend(RenderContext(doc), backend, config=_config("#ffffff")).draw_layout(doc.modelspace())
    sheet = BoundingBox2d([doc.header["$LIMMIN"], doc.header["$LIMMAX"]])
    text = backend.get_string(layout.Page(297, 210, layout.Units.mm), render_box=sheet)
    write_whole(path, text.encode("utf-8"))


def pdf_writer(path: Path, title: str, margin_mm: float) -> QPdfWriter:
    """An A4 page to paint on."""
    writer = QPdfWriter(str(path))
    writer.setPageSize(QPageSize(QPageSize.PageSizeId.A4))
    writer.setPageMargins(QMarginsF(margin_mm, margin_mm, margin_mm, margin_mm), QPageLayout.Unit.Millimeter)
    writer.setTitle(title)
    return writer


def save_pdf(part: Part, system: UnitSystem, path: Path, title: Title | None = None) -> None:
    """The document rendered as one A4 page. Raises WriteError."""
    scene = scene_of(drawing_of(part, system, title), "#ffffff")
    with written_beside(path, is_pdf) as beside:
        writer = pdf_writer(beside, part.title, 0)
        writer.setPageOrientation(QPageLayout.Orientation.Landscape)
        painter = QPainter(writer)
        area = QRectF(0, 0, writer.width(), writer.height())
        source = scene.sceneRect()
        # The scene counts y upward as a drawing does; the page counts downward.
        scale = min(area.width() / source.width(), area.height() / source.height())
        painter.translate(area.center())
        painter.scale(scale, -scale)
        painter.translate(-source.center())
        scene.render(painter, source, source, Qt.AspectRatioMode.IgnoreAspectRatio)
        painter.end()


WRITERS = {".dxf": save_dxf, ".svg": save_svg, ".pdf": save_pdf}


class DrawingView(QGraphicsView):
    """Shows one drawing, fitted; the wheel zooms."""

    def __init__(self) -> None:
        super().__init__()
        self._key: tuple[Part, UnitSystem, str, Title | None, Sheet, frozenset[str]] | None = None
        self._zoomed = False
        self._whole = False
        self.setRenderHint(QPainter.RenderHint.Antialiasing)
        self.setFrameShape(QGraphicsView.Shape.NoFrame)
        self.setDragMode(QGraphicsView.DragMode.ScrollHandDrag)
        self.setTransformationAnchor(QGraphicsView.ViewportAnchor.AnchorUnderMouse)
        self.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Drawing of the part")
        self.viewport().setAccessibleName("Drawing of the part")
        self.setToolTip("Wheel zooms, drag moves, double click shows the whole sheet, and the part again")
        self.setMinimumHeight(220)

    def show_part(
        self,
        part: Part,
        system: UnitSystem,
        title: Title | None = None,
        sheet: Sheet = SCREEN,
        cut: frozenset[str] = frozenset(),
    ) -> None:
        """Draw a part if it is not the one shown; `cut` is washed."""
        key = (part, system, theme.roles().sheet, title, sheet, cut)
        if key == self._key:
            return
        self._key = key
        self._whole = False
        self._draw()

    def _draw(self) -> None:
        assert self._key is not None
        part, system, ground, title, sheet, cut = self._key
        self.setBackgroundBrush(theme.colour("sheet"))
        doc = drawing_of(part, system, title, A4 if self._whole else sheet, cut)
        self.setScene(scene_of(doc, ground))
        self.fit()

    def fit(self) -> None:
        """The whole drawing in the view."""
        if self.scene() is not None:
            self._zoomed = False
            self.resetTransform()
            self.scale(1, -1)
            self.fitInView(self.scene().sceneRect(), Qt.AspectRatioMode.KeepAspectRatio)

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        if not self._zoomed:
            self.fit()

    def wheelEvent(self, event: QWheelEvent) -> None:
        self._zoomed = True
        factor = 1.2 if event.angleDelta().y() > 0 else 1 / 1.2
        self.scale(factor, factor)

    def mouseDoubleClickEvent(self, event: object) -> None:
        if self._zoomed or self._key is None:
            self.fit()
            return
        self._whole = not self._whole
        self._draw()
