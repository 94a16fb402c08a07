"""A part's drawing on the screen and to files: one DXF document, rendered by ezdxf's drawing add-on."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QEvent, QRect, QRectF, Qt, Signal
from PySide6.QtGui import QContextMenuEvent, QMouseEvent, QPainter, QResizeEvent, QWheelEvent
from PySide6.QtWidgets import QGraphicsView

from trebb.app.look import copying, theme
from trebb.app.papers.paper import Drawn, Paper, write_pdf
from trebb.app.parts.drawing_scene import plain_config, ready_fonts, scene_of
from trebb.core.parts import Part, drawing_of
from trebb.core.parts.drawing import A4, SCREEN, Sheet, Title, laid_out, written
from trebb.core.parts.size_block import rows_of
from trebb.core.units import INCH_MM, UnitSystem
from trebb.logbook.file.writing import write_whole, written_beside


def save_dxf(part: Part, system: UnitSystem, path: Path, title: Title | None = None) -> None:
    """The document itself. Raises WriteError."""
    ready_fonts()
    with written_beside(path, lambda there: there.read_bytes().rstrip().endswith(b"EOF")) as beside:
        drawing_of(part, system, title).saveas(beside)


def save_svg(part: Part, system: UnitSystem, path: Path, title: Title | None = None) -> None:
    """The document rendered as SVG. Raises WriteError."""
    ready_fonts()
    from ezdxf.addons.drawing import Frontend, RenderContext, layout, svg
    from ezdxf.math import BoundingBox2d

    doc = drawing_of(part, system, title)
    backend = svg.SVGBackend()
    Frontend(RenderContext(doc), backend, config=plain_config("#ffffff")).draw_layout(doc.modelspace())
    sheet = BoundingBox2d([doc.header["$LIMMIN"], doc.header["$LIMMAX"]])
    text = backend.get_string(layout.Page(297, 210, layout.Units.mm), render_box=sheet)
    write_whole(path, text.encode("utf-8"))


def save_pdf(part: Part, system: UnitSystem, path: Path, title: Title | None = None) -> None:
    """The document rendered as one A4 page. Raises WriteError."""
    write_pdf(Paper(part.title, [Drawn(part, system, title)]), path)


# Layers whose colour is the screen's own there.
SCREEN_ROLES = (("DIMENSION", "blue"),)
WRITERS = {".dxf": save_dxf, ".svg": save_svg, ".pdf": save_pdf}


class DrawingView(QGraphicsView):
    """Shows one drawing, fitted; the wheel zooms."""

    pointed = Signal(int)  # the row of the sizes that the pointer is on; -1 for none

    def __init__(self) -> None:
        super().__init__()
        self._spots: list[QRectF] = []
        self._rows: list[int] = []
        self.lit = -1
        self.setMouseTracking(True)
        self._key: tuple[Part, UnitSystem, str, Title | None, Sheet, frozenset[str]] | None = None
        self._zoomed = False
        self._whole = False
        self.washes: list[list[tuple[float, float]]] = []  # what is washed, and the outline, in the scene
        self.outlines: list[list[tuple[float, float]]] = []
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

    def light(self, row: int) -> None:
        """Wash what a row of the part's sizes limits; -1 for none."""
        if row != self.lit:
            self.lit = row
            self.viewport().update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        super().mouseMoveEvent(event)
        at = self.mapToScene(event.position().toPoint())
        under = [i for i, spot in enumerate(self._spots) if spot.contains(at) and self._rows[i] >= 0]
        smallest = min(under, key=lambda i: self._spots[i].width() * self._spots[i].height(), default=-1)
        row = self._rows[smallest] if smallest >= 0 else -1
        if row != self.lit:
            self.light(row)
            self.pointed.emit(row)

    def leaveEvent(self, event: QEvent) -> None:
        super().leaveEvent(event)
        self.light(-1)
        self.pointed.emit(-1)

    def drawForeground(self, painter: QPainter, rect: QRectF | QRect) -> None:
        """What the row that is pointed at limits, washed over the drawing."""
        if self.lit < 0:
            return
        shade = theme.colour("blue")
        shade.setAlphaF(0.22)
        least = 3.0 / max(1e-9, abs(self.transform().m11()))
        for spot, row in zip(self._spots, self._rows, strict=True):
            if row == self.lit:
                painter.fillRect(spot.adjusted(-least, -least, least, least), shade)

    def _draw(self) -> None:
        assert self._key is not None
        part, system, ground, title, sheet, cut = self._key
        self.setBackgroundBrush(theme.colour("sheet"))
        page, size = laid_out(part, system, title or Title(), A4 if self._whole else sheet, cut)
        doc = written(page, size, system)
        each = (1 / INCH_MM if system is UnitSystem.INCH else 1.0) / size
        self._spots = [
            QRectF(b.left * each, b.low * each, (b.right - b.left) * each, (b.high - b.low) * each)
            for b in (spot.box for spot in page.spots)
        ]
        self._rows = rows_of(part, [spot.what for spot in page.spots])
        self.lit = -1
        for name, role in SCREEN_ROLES:  # paper has its own colours; here they stand on the screen's ground
            shade = theme.colour(role)
            doc.layers.get(name).rgb = (shade.red(), shade.green(), shade.blue())
        lines = doc.modelspace().query('LWPOLYLINE[layer=="OUTLINE"]')
        self.washes, self.outlines = [], [[(p[0], p[1]) for p in line.get_points()] for line in lines]
        for hatch in doc.modelspace().query("HATCH"):
            if hatch.has_solid_fill:
                self.washes.append([(p[0], p[1]) for p in hatch.paths[0].vertices])
                shade = theme.colour("blue_wash")
                hatch.rgb = (shade.red(), shade.green(), shade.blue())
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

    def contextMenuEvent(self, event: QContextMenuEvent) -> None:
        """The drawing as a picture."""
        copying.menu_for(self, (), event.pos(), ()).popup(event.globalPos())

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
