"""Painting figures, marks and machine elevations from geometry."""

from __future__ import annotations

import math
import traceback
from collections.abc import Sequence
from typing import Any, cast

from PySide6.QtCore import QEvent, QPoint, QPointF, QRect, QRectF, Qt
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFontMetricsF,
    QHelpEvent,
    QPainter,
    QPainterPath,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QToolTip, QWidget

from trebb.app.look import copying, numerals, theme
from trebb.app.look.said import Said
from trebb.core.errors import TrebbError
from trebb.core.figure import Arrow, Circle, Figure, Indicator, Label, Role, Shape
from trebb.core.machine import State

_ROLE = {
    Role.INK: "ink",
    Role.SOFT: "soft",
    Role.BLUE: "blue",
    Role.WITHIN: "within",
    Role.BEYOND: "beyond",
    Role.HATCH: "line",
}
PEN_WIDTH = 1.3


def pen(role: str, width: float = PEN_WIDTH) -> QPen:
    """A round-joined pen of a role's colour."""
    made = QPen(theme.colour(role), width)
    made.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    made.setCapStyle(Qt.PenCapStyle.RoundCap)
    return made


def dashed_pen(role: str, width: float) -> QPen:
    """The same, dashed: limits and what is usual."""
    made = pen(role, width)
    made.setStyle(Qt.PenStyle.DashLine)
    return made


def paint_mark(painter: QPainter, centre: QPointF, state: State, size: float = 6.0) -> None:
    """Filled circle within limit, triangle near it, square beyond it, hollow ring not measured. Whoever hears
    it is told the first three in words.
    """
    if isinstance(painter, Words) and state is not State.UNKNOWN:
        spot = QRectF(centre.x() - size, centre.y() - size, 2 * size, 2 * size)
        painter.said.append(Said(state.value, painter.worldTransform().mapRect(spot), is_shape=True))
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    shade = theme.colour(theme.state_role(state))
    painter.setPen(QPen(shade, 1.8))
    painter.setBrush(Qt.BrushStyle.NoBrush if state is State.UNKNOWN else QBrush(shade))
    x, y = centre.x(), centre.y()
    if state is State.NEAR:
        painter.drawPolygon(
            QPolygonF(
                [QPointF(x, y - size), QPointF(x + size, y + 0.8 * size), QPointF(x - size, y + 0.8 * size)]
            )
        )
    elif state is State.BEYOND:
        painter.drawRect(QRectF(x - 0.85 * size, y - 0.85 * size, 1.7 * size, 1.7 * size))
    else:
        painter.drawEllipse(centre, 0.85 * size, 0.85 * size)
    painter.restore()


def figure_scale(figure: Figure, area: QRectF) -> tuple[float, QPointF]:
    """Scale and offset that centre a figure in an area."""
    scale = min(area.width() / figure.width, area.height() / figure.height)
    offset = QPointF(
        area.center().x() - scale * figure.width / 2, area.center().y() - scale * figure.height / 2
    )
    return scale, offset


def paint_figure(painter: QPainter, figure: Figure, area: QRectF, chosen: str = "", hover: str = "") -> None:
    """Draw a figure into an area; lines keep their width and words their size at any scale."""
    scale, offset = figure_scale(figure, area)

    def at(point: tuple[float, float]) -> QPointF:
        return QPointF(offset.x() + scale * point[0], offset.y() + scale * point[1])

    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    for item in figure.items:
        if isinstance(item, Shape):
            _pen_and_brush(painter, item.role, item.part, item.wash, item.closed, chosen, hover)
            polygon = QPolygonF([at(p) for p in item.points])
            if item.closed:
                painter.drawPolygon(polygon)
            else:
                painter.drawPolyline(polygon)
        elif isinstance(item, Circle):
            _pen_and_brush(painter, item.role, item.part, item.wash, True, chosen, hover)
            painter.drawEllipse(at(item.centre), scale * item.radius, scale * item.radius)
        elif isinstance(item, Arrow):
            paint_arrow(painter, at(item.tail), at(item.head), _ROLE[item.role], both=item.both_ways)
        elif isinstance(item, Label):
            _label(painter, at(item.at), item, area)
        elif isinstance(item, Indicator):
            _indicator(painter, at(item.touch), item.away, min(1.0, 1.15 * scale))
    painter.restore()


def _pen_and_brush(
    painter: QPainter, role: Role, part: str, wash: bool, closed: bool, chosen: str, hover: str
) -> None:
    is_chosen = bool(part) and part == chosen
    painter.setPen(
        pen("blue" if is_chosen or (part and part == hover) else _ROLE[role], 1.8 if is_chosen else PEN_WIDTH)
    )
    if not closed:
        painter.setBrush(Qt.BrushStyle.NoBrush)
    elif wash or is_chosen:
        painter.setBrush(theme.colour("blue_wash"))
    else:
        painter.setBrush(theme.colour("sheet"))


def paint_arrow(painter: QPainter, tail: QPointF, head: QPointF, role: str, *, both: bool = False) -> None:
    """A line with a filled head, or one at each end."""
    painter.setPen(pen(role, 1.8))
    painter.setBrush(theme.colour(role))
    painter.drawLine(tail, head)
    for tip, start in ((head, tail), (tail, head)) if both else ((head, tail),):
        angle = math.atan2(tip.y() - start.y(), tip.x() - start.x())
        wing = [
            QPointF(tip.x() - 9 * math.cos(angle + s), tip.y() - 9 * math.sin(angle + s)) for s in (0.4, -0.4)
        ]
        painter.drawPolygon(QPolygonF([tip, *wing]))


def _label(painter: QPainter, point: QPointF, label: Label, area: QRectF) -> None:
    face = theme.font(theme.SMALL, theme.SEMIBOLD if label.strong else theme.REGULAR)
    painter.setFont(face)
    painter.setPen(theme.colour(_ROLE[label.role]))
    width = QFontMetricsF(face).horizontalAdvance(label.text)
    shift = {"left": 0.0, "middle": width / 2, "right": width}[label.anchor]
    x = max(area.left(), min(point.x() - shift, area.right() - width))  # never out of the picture
    painter.drawText(QPointF(x, point.y()), label.text)


def _indicator(painter: QPainter, touch: QPointF, away: tuple[float, float], size: float) -> None:
    stem, radius = 26.0 * size, 15.0 * size
    body = QPointF(touch.x() + away[0] * (stem + radius), touch.y() + away[1] * (stem + radius))
    painter.setPen(pen("blue", 2.2))
    painter.drawLine(touch, QPointF(touch.x() + away[0] * stem, touch.y() + away[1] * stem))
    painter.setBrush(theme.colour("sheet"))
    painter.drawEllipse(body, radius, radius)
    painter.drawLine(body, QPointF(body.x() + 7 * size, body.y() - 8 * size))
    painter.setBrush(theme.colour("blue"))
    painter.drawEllipse(touch, 3, 3)


def part_at(figure: Figure, area: QRectF, point: QPointF) -> str:
    """The part whose filled shape lies under a point, topmost first; "" for none."""
    scale, offset = figure_scale(figure, area)
    x, y = (point.x() - offset.x()) / scale, (point.y() - offset.y()) / scale
    for item in reversed(figure.items):
        if (
            isinstance(item, Circle)
            and item.part
            and math.hypot(x - item.centre[0], y - item.centre[1]) <= item.radius + 2
        ):
            return item.part
        if isinstance(item, Shape) and item.part and item.closed:
            path = QPainterPath()
            path.addPolygon(QPolygonF([QPointF(*p) for p in item.points]))
            if path.boundingRect().adjusted(-2, -2, 2, 2).contains(QPointF(x, y)):
                return item.part
    return ""


def words_on(painter: QPainter, at: QPointF, text: str) -> None:
    """Words from their base line's left end, on a piece of sheet so that no line runs through them; a little
    further where other words stand already.
    """
    box = QRectF(painter.fontMetrics().boundingRect(text)).adjusted(-2, 0, 2, 0)
    taken = [one.spot for one in painter.said] if isinstance(painter, Words) else []

    def is_free(spot: QPointF) -> bool:
        room = painter.worldTransform().mapRect(box.translated(spot))
        return not any(room.intersects(one) for one in taken)

    spots = [at + QPointF(x, y) for x in (0, 24) for y in (0, -16, 16)]
    spot = next((one for one in spots if is_free(one)), at)
    painter.fillRect(box.translated(spot), theme.colour("sheet"))
    painter.drawText(spot, text)


def wash(role: str) -> QColor:
    """The wash that goes with a state's role."""
    return (
        theme.colour(f"{role}_wash")
        if role in ("within", "near", "beyond", "blue")
        else theme.colour("ground")
    )


def fill_profile(painter: QPainter, points: Sequence[QPointF], edge_y: float, fill: QColor) -> None:
    """Metal between a profile and a straight edge above or below it; no outline."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(fill)
    painter.drawPolygon(QPolygonF([QPointF(points[0].x(), edge_y), *points, QPointF(points[-1].x(), edge_y)]))
    painter.setBrush(Qt.BrushStyle.NoBrush)


# What could not be drawn, newest last, for whoever tests the window; the picture itself says it too.
TROUBLES: list[str] = []
MOST_TROUBLES = 50


class Words(QPainter):
    """A painter that remembers what it wrote, so that it can be spoken, and shown whole under the mouse."""

    def __init__(self, widget: QWidget) -> None:
        super().__init__(widget)
        self.said: list[Said] = []
        self.here: QRectF | None = None  # the row that is chosen
        self._whole = ""

    def fillRect(self, *args: Any) -> None:
        """A rectangle filled with a colour. Qt's own asks the binding for its gradients first, and a class of
        two hundred names is made for it.
        """
        *place, colour = args
        pen, brush = self.pen(), self.brush()
        self.setPen(Qt.PenStyle.NoPen)
        self.setBrush(colour)
        self.drawRect(*place)
        self.setPen(pen)
        self.setBrush(brush)

    def drawText(self, *args: Any) -> Any:
        """As Qt's, remembered."""
        args = tuple(numerals.shown(a) if isinstance(a, str) else a for a in args)
        text = next((a for a in args if isinstance(a, str)), "")
        if text.strip():
            first = args[0]
            if isinstance(first, QRectF | QRect):
                spot = QRectF(first)
            else:
                at = QPointF(first) if isinstance(first, QPointF | QPoint) else QPointF(args[0], args[1])
                high = QFontMetricsF(self.font()).ascent()
                spot = QRectF(at.x(), at.y() - high, 1, high)
            flags = next((a for a in args if isinstance(a, Qt.AlignmentFlag)), Qt.AlignmentFlag.AlignLeft)
            if flags & Qt.AlignmentFlag.AlignRight:  # it stands at the right end of its room
                spot.setLeft(max(spot.left(), spot.right() - self.fontMetrics().horizontalAdvance(text)))
            self.said.append(
                Said(self._whole or text, self.worldTransform().mapRect(spot), is_cut=bool(self._whole))
            )
        return super().drawText(*args)

    def draw_whole(self, room: QRectF, flags: Qt.AlignmentFlag, shown: str, text: str) -> None:
        """Words cut to their room, remembered whole."""
        self._whole = text if shown != text else ""
        self.drawText(room, flags, shown)
        self._whole = ""


def paint_box(painter: QPainter, box: QRectF, ticked: bool, role: str = "ink") -> None:
    """A box of 14 px to tick."""
    painter.setPen(pen(role, 1.2))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(box)
    if ticked:
        painter.setPen(pen("within", 2.0))
        painter.drawPolyline([box.topLeft() + QPointF(x, y) for x, y in ((3, 7), (6, 11), (12, 2))])


def write_in(
    painter: QPainter,
    room: QRectF,
    flags: Qt.AlignmentFlag,
    text: str,
    elided: Qt.TextElideMode = Qt.TextElideMode.ElideRight,
) -> None:
    """Words in a room; where they are longer they end in dots, or, for names that may differ at their end,
    have them in the middle; whole under the mouse.
    """
    shown = painter.fontMetrics().elidedText(text, elided, int(room.width()))
    if isinstance(painter, Words):
        painter.draw_whole(room, flags, shown, text)
    else:
        painter.drawText(room, flags, shown)


def mark_here(painter: QPainter, area: QRectF) -> None:
    """Say which row is chosen; what it looks like is the caller's."""
    if isinstance(painter, Words):
        painter.here = painter.worldTransform().mapRect(area)


class Painted:
    """Base of every widget that paints itself; stands before the Qt class among the bases.

    Painting never raises and always ends its painter: a painter left open
    spoils everything that Qt draws after it. `draw` is what a subclass gives.
    """

    said: Sequence[Said] = ()  # what was written when it was last painted
    here: QRectF | None = None  # the row that is chosen, in a list
    said_in_columns = False  # whether it is read column by column
    spoken_value = ""  # what it shows, where that is not what is written on it
    is_list = False  # whether what is written are rows to choose from, for whoever hears it

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        raise NotImplementedError

    def offers(self, at: QPoint) -> Sequence[copying.Offer]:
        """What can be done at a spot, beside copying: words, and what they do."""
        return ()

    def event(self, event: QEvent) -> bool:
        """Words that were cut are shown whole under the mouse; the right button offers what can be done and
        copied, and presses nothing; so does Ctrl+C.
        """
        if copying.answers(cast(QWidget, self), event, self.said, self.offers):
            return True
        if event.type() == QEvent.Type.ToolTip and isinstance(event, QHelpEvent):
            cut = next((s for s in self.said if s.is_cut and s.spot.contains(event.pos())), None)
            if cut is not None:
                import html

                words = html.escape(cut.text)
                QToolTip.showText(event.globalPos(), f"<qt>{words}</qt>", cast(QWidget, self))
                return True
        return bool(super().event(event))  # type: ignore[misc]  # the Qt class that stands beside it

    def paintEvent(self, event: QPaintEvent) -> None:
        """Let the Qt class paint, then `draw`; where that fails, say so in its place."""
        super().paintEvent(event)  # type: ignore[misc]  # the Qt class that stands beside it
        painter = Words(cast(QWidget, self))
        try:
            painter.save()
            self.draw(painter)
            painter.restore()
            self.said, self.here = painter.said, painter.here
        except Exception as error:  # whatever it is, an exception that leaves a paint event ends the window
            TROUBLES.append(f"{type(self).__name__}: {traceback.format_exc()}")
            del TROUBLES[:-MOST_TROUBLES]
            _say_cannot(painter, cast(QWidget, self), error)
        finally:
            painter.end()


def _say_cannot(painter: QPainter, widget: QWidget, error: Exception) -> None:
    painter.resetTransform()
    painter.setClipping(False)
    painter.fillRect(widget.rect(), theme.colour("ground"))
    painter.setFont(theme.font(theme.SMALL))
    painter.setPen(theme.colour("beyond"))
    why = str(error) if isinstance(error, TrebbError) else f"{type(error).__name__}: {error}"
    painter.drawText(
        widget.rect().adjusted(6, 6, -6, -6),
        Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap,
        f"This cannot be drawn ({why[:200]}).",
    )
