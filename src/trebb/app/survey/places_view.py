"""The places of a set-up with their readings: one row each, painted."""

from __future__ import annotations

from functools import partial

from msgspec import Struct
from PySide6.QtCore import QPoint, QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QFontMetricsF, QMouseEvent, QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import copying, painting, theme

MANY = 12  # places, from which the rows may be lower
LOW = 20.0  # a row's height below which its words are small
NARROW = 330.0  # below which bars and the last repeats give way to the words
MOST_FIGURES = 6  # of a place: the newest, as far as there is room


class Figure(Struct, frozen=True):
    """One reading as shown: text, struck reason or None, and its id."""

    id: int
    text: str
    struck: str | None


class PlaceRow(Struct, frozen=True):
    """One place: label, note, readings, mean as text and as share of the longest bar, spread as text."""

    key: str
    label: str
    note: str
    figures: tuple[Figure, ...]
    mean: str
    share: float
    spread: str
    is_done: bool


class PlacesView(painting.Painted, QWidget):
    """Rows of places; the one to be read next is blue."""

    is_list = True

    chosen = Signal(str)
    figure_chosen = Signal(int)

    def __init__(self) -> None:
        super().__init__()
        self._rows: tuple[PlaceRow, ...] = ()
        self._current = ""
        self._hits: list[tuple[QRectF, int]] = []
        self.setAccessibleName("Places")
        self.setToolTip("Choose a place (up and down); click a reading to strike it out")

    def show_rows(self, rows: tuple[PlaceRow, ...], current: str) -> None:
        """Show places; `current` is where the next reading goes."""
        if rows != self._rows or current != self._current:
            self._rows, self._current = rows, current
            self.setMinimumHeight(round(theme.target(23 if len(rows) < MANY else 18)) * len(rows))
            self.update()

    def rows(self) -> tuple[PlaceRow, ...]:
        """The rows on the screen."""
        return self._rows

    def sizeHint(self) -> QSize:
        return QSize(400, 36 * max(1, len(self._rows)))

    def _height(self) -> float:
        return min(theme.target(38.0), self.height() / max(1, len(self._rows)))

    def current(self) -> str:
        """Key of the place to be read next."""
        return self._current

    def spot_of_current(self) -> QRectF | None:
        """Where the row to be read next lies, None where there is none."""
        return next(
            (
                QRectF(0, i * self._height(), self.width(), self._height())
                for i, r in enumerate(self._rows)
                if r.key == self._current
            ),
            None,
        )

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        self._hits = []
        height = self._height()
        for i, place in enumerate(self._rows):
            self._paint(painter, QRectF(0.5, i * height + 1.5, self.width() - 1, height - 3), place)

    def _paint(self, painter: QPainter, area: QRectF, place: PlaceRow) -> None:
        current = place.key == self._current
        if current:
            painting.mark_here(painter, area)
        painter.setPen(painting.pen("blue", 1.6) if current else Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("blue_wash" if current else "ground"))
        painter.drawRoundedRect(area, 3, 3)
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        size = theme.BODY if area.height() >= LOW else theme.SMALL
        face = theme.font(size, theme.SEMIBOLD if current else theme.REGULAR)
        painter.setFont(face)
        painter.setPen(theme.colour("ink"))
        painter.drawText(area.adjusted(10, 0, 0, 0), flags, place.label)
        x = area.left() + max(96.0, QFontMetricsF(face).horizontalAdvance(place.label) + 22)
        painter.setFont(theme.font(theme.SMALL))
        if place.note and not place.figures:
            painter.setPen(theme.colour("soft"))
            room = area.right() - x - (70 if place.mean else 64 if current else 10)
            painting.write_in(painter, QRectF(x, area.top(), room, area.height()), flags, place.note)
        x = self._paint_figures(painter, area, place, x)
        right = area.adjusted(0, 0, -10, 0)
        if place.mean:
            painter.setFont(theme.font(size, theme.MEDIUM))
            painter.setPen(theme.colour("ink"))
            painter.drawText(right, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, place.mean)
            self._paint_bar(painter, area, place.share)
        elif current:
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
            painter.setPen(theme.colour("blue"))
            painter.drawText(right, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight, "take")
            y, edge = area.center().y(), right.right() - 34
            painter.setBrush(theme.colour("blue"))
            painter.drawPolygon(
                QPolygonF([QPointF(edge - 8, y - 5), QPointF(edge, y), QPointF(edge - 8, y + 5)])
            )

    def _paint_figures(self, painter: QPainter, area: QRectF, place: PlaceRow, x: float) -> float:
        limit = area.right() - (190 if area.width() >= NARROW else 70)
        shown = place.figures[-MOST_FIGURES:]
        for figure in shown:
            face: QFont = theme.font(theme.SMALL)
            face.setStrikeOut(figure.struck is not None)
            painter.setFont(face)
            painter.setPen(theme.colour("blue" if figure.struck is not None else "soft"))
            width = QFontMetricsF(face).horizontalAdvance(figure.text)
            if x + width > limit:
                break
            spot = QRectF(x, area.top(), width + 2, area.height())
            painter.drawText(spot, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, figure.text)
            self._hits.append((spot.adjusted(-3, 0, 3, 0), figure.id))
            x += width + 10
        if place.spread and x < area.right() - 184:
            painter.setFont(theme.font(theme.SMALL))
            painter.setPen(theme.colour("soft"))
            spot = QRectF(area.right() - 182, area.top(), 62, area.height())
            painter.drawText(spot, Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, place.spread)
        return x

    def _paint_bar(self, painter: QPainter, area: QRectF, share: float) -> None:
        if share <= 0 or area.width() < NARROW:
            return
        painter.setPen(Qt.PenStyle.NoPen)
        tint = theme.colour("blue")
        tint.setAlphaF(0.4)
        painter.setBrush(tint)
        painter.drawRoundedRect(
            QRectF(area.right() - 122, area.center().y() - 4, 56 * min(1.0, share), 8), 1, 1
        )

    def offers(self, at: QPoint) -> list[copying.Offer]:
        """Strike out the reading there; read there next."""
        spot = QPointF(at)
        found: list[copying.Offer] = [
            (f"Strike out {figure.text}", partial(self.figure_chosen.emit, figure.id))
            for hit, reading in self._hits
            if hit.contains(spot)
            for row in self._rows
            for figure in row.figures
            if figure.id == reading and figure.struck is None
        ]
        i = int(spot.y() / self._height())
        if 0 <= i < len(self._rows):
            found.append((f"Read {self._rows[i].label} next", partial(self.chosen.emit, self._rows[i].key)))
        return found

    def mousePressEvent(self, event: QMouseEvent) -> None:
        for spot, reading in self._hits:
            if spot.contains(event.position()):
                self.figure_chosen.emit(reading)
                return
        i = int(event.position().y() / self._height())
        if 0 <= i < len(self._rows):
            self.chosen.emit(self._rows[i].key)
