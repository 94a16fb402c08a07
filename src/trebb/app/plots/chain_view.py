"""The chain from spindle to indicator: what each link adds, with its ± and share."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFontMetricsF, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.families.spindle.findings import SpindleSplit
from trebb.core.units import UnitSystem, show_small, show_uncertain

HEAD = 14.0
FOOT = 136.0  # px below the bars: a name in two lines, share, figure, three lines of words


class ChainView(painting.Painted, QWidget):
    """One column a link, in the order the error passes through; the named ones stand out."""

    def __init__(self) -> None:
        super().__init__()
        self._split: SpindleSplit | None = None
        self._limit_mm = 0.0
        self._system = UnitSystem.INCH
        self.setMinimumHeight(230)
        self.setAccessibleName("Chain of causes")
        self.setToolTip("What each link adds at the work, runout or play; the bar's own is not the machine's")

    def show_split(self, split: SpindleSplit, limit_mm: float, system: UnitSystem) -> None:
        """Show another state of the readings."""
        self._split, self._limit_mm, self._system = split, limit_mm, system
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._split is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        links = self._split.links
        wide = (self.width() - 60) / len(links)
        floor = self.height() - FOOT
        top = max([link.value.value * 1.25 for link in links if link.is_read] + [self._limit_mm * 1.3])
        scale = (floor - HEAD) / top
        painter.setPen(painting.dashed_pen("within", 1.6))
        y = floor - scale * self._limit_mm
        painter.drawLine(QPointF(0, y), QPointF(self.width() - 58, y))
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.drawText(
            QRectF(self.width() - 56, y - 18, 56, 36),
            Qt.TextFlag.TextWordWrap | Qt.AlignmentFlag.AlignVCenter,
            f"limit {show_small(self._limit_mm, self._system)}",
        )
        painter.setPen(painting.pen("soft", 1.4))
        painter.drawLine(QPointF(0, floor), QPointF(self.width() - 60, floor))
        for i in range(len(links)):
            self._paint_link(
                painter, i, QRectF(i * wide, 0, wide, self.height()), scale, floor, last=i == len(links) - 1
            )

    def _paint_link(
        self, painter: QPainter, i: int, area: QRectF, scale: float, floor: float, *, last: bool
    ) -> None:
        assert self._split is not None
        link = self._split.links[i]
        named = link.key in self._split.named
        aside = not self._split.trusts_seat and link.key == "bar"
        bar = QRectF(area.center().x() - 19, floor - scale * link.value.value, 38, scale * link.value.value)
        painter.setPen(Qt.PenStyle.NoPen)
        shade = theme.colour("beyond" if named else "blue")
        shade.setAlphaF(0.85 if named else 0.45)
        painter.setBrush(shade)
        x = area.center().x()
        if link.is_read:
            painter.drawRect(bar)
            painter.setPen(painting.pen("ink", 1.5))
            low, high = floor - scale * link.value.low, max(2.0, floor - scale * link.value.high)
            painter.drawLine(QPointF(x, low), QPointF(x, high))
            for end in (low, high):
                painter.drawLine(QPointF(x - 5, end), QPointF(x + 5, end))
        painter.setBrush(theme.colour("sheet"))
        painter.setPen(painting.pen("ink", 1.6))
        painter.drawEllipse(QPointF(x, floor), 5, 5)
        if not last:
            painter.drawLine(QPointF(x + 5, floor), QPointF(x + area.width() - 5, floor))
        self._paint_words(painter, i, area, floor, is_named=named, is_aside=aside)

    def _paint_words(
        self, painter: QPainter, i: int, area: QRectF, floor: float, *, is_named: bool, is_aside: bool
    ) -> None:
        """Name, figure and what is known of a link; share and figure in two lines where one is too long."""
        assert self._split is not None
        link = self._split.links[i]
        middle = Qt.AlignmentFlag.AlignHCenter | Qt.TextFlag.TextWordWrap
        face = theme.font(theme.BODY, theme.SEMIBOLD if is_named else theme.REGULAR)
        face.setStrikeOut(is_aside)
        lines = [(link.label, face, "blue" if is_aside else "ink")]
        figure = "not told"
        if link.is_read:
            value = show_uncertain(link.value.value, link.value.half_width, self._system, unit=False)
            figure = f"{link.share:.0%}  {value}"
            if QFontMetricsF(theme.font(theme.SMALL, theme.MEDIUM)).horizontalAdvance(figure) > area.width():
                figure = f"{link.share:.0%}\n{value}"
        words = "set aside" if is_aside else link.words if link.is_read else "by what is read"
        lines.append((figure, theme.font(theme.SMALL, theme.MEDIUM), "ink"))
        lines.append((words, theme.font(theme.SMALL), "soft"))
        y = floor + 8
        for text, font, role in lines:
            painter.setFont(font)
            painter.setPen(theme.colour(role))
            room = QRectF(area.left() + 1, y, area.width() - 2, FOOT)
            high = painter.boundingRect(room, middle, text).height()
            painter.drawText(QRectF(room.left(), y, room.width(), high), middle, text)
            y += high + 1
