"""The remedies as rows: what each would leave against the limit, its money, hours and waiting."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.condition import Quantity
from trebb.core.machine import State
from trebb.core.remedies import Remedy
from trebb.core.units import THOU_MM, UnitSystem, show_small

ROW, LOW_ROW, LEAST_ROW, MANY = 41, 29, 23, 8
HEAD = 24
TICK = 24  # px from the left within which a click ticks


class RemedyRow(Struct, frozen=True):
    """A remedy, or several together, as a row: what it leaves, by itself or with what is ticked, and what
    hinders it. `apart` says why it cannot stand with what is ticked; `is_ticked` None where there is no box.
    """

    remedy: Remedy
    left: Quantity
    state: State
    hinder: str = ""
    is_ticked: bool | None = None
    apart: str = ""


class RemedyRows(painting.Painted, QWidget):
    """One row a remedy; the bar is the worst lash left, its band hatched, the limit a dashed line through
    all.
    """

    is_list = True

    chosen = Signal(str)
    ticked = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self._rows: Sequence[RemedyRow] = ()
        self._with = ""
        self._limit_mm = THOU_MM
        self._now_mm = THOU_MM
        self._system = UnitSystem.INCH
        self._money = ""
        self._current = ""
        self._taken = ""
        self._low = False
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.setAccessibleName("Remedies")
        self.setToolTip(
            "Choose a remedy to look at (up and down); tick several that are done together (box, or Space)"
        )

    def show_rows(
        self,
        rows: Sequence[RemedyRow],
        limit_mm: float,
        now_mm: float,
        system: UnitSystem,
        money: str,
        current: str,
        taken: str,
        beside: str = "",
    ) -> None:
        """Show what each would leave; `current` is looked at, `taken` is the one chosen, `beside` what the
        figures of the others are with, in words.
        """
        self._with = beside
        self._rows, self._limit_mm, self._now_mm, self._system, self._money = (
            rows,
            limit_mm,
            now_mm,
            system,
            money,
        )
        self._current, self._taken = current, taken
        self.setFixedHeight(HEAD + self._row() * len(rows))
        self.update()

    def sizeHint(self) -> QSize:
        return QSize(600, HEAD + self._row() * max(1, len(self._rows)))

    @property
    def rows(self) -> Sequence[RemedyRow]:
        """What is shown, from the top."""
        return self._rows

    def set_low(self, low: bool) -> None:
        """Low rows, where the window leaves no more."""
        if low != self._low:
            self._low = low
            self.setFixedHeight(HEAD + self._row() * len(self._rows))
            self.update()

    def _row(self) -> int:
        many = len(self._rows) > MANY
        row = LEAST_ROW if self._low and many else LOW_ROW if self._low or many else ROW
        return round(theme.target(row))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        bar_left, bar_right = min(276.0, 0.43 * self.width()), self.width() - 212.0
        scale = (bar_right - bar_left) / max(self._now_mm * 1.12, self._limit_mm * 1.5)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        columns = (
            (self.width() - 146.0, "money"),
            (self.width() - 94.0, "hours"),
            (self.width() - 44.0, "wait"),
        )
        painter.drawText(
            QRectF(bar_left, 0, 220, 20), Qt.AlignmentFlag.AlignLeft, f"leaves, {self._with or 'at worst'}"
        )
        for x, head in columns:
            painter.drawText(QRectF(x - 20, 0, 56, 20), Qt.AlignmentFlag.AlignRight, head)
        row = self._row()
        most = (bar_right - bar_left + 30) / scale
        for i, one in enumerate(self._rows):
            area = QRectF(0, HEAD + i * row, self.width(), row - 3)
            self._paint_row(painter, area, one, bar_left, scale, most, [x for x, _ in columns])
        if all(one.state is State.UNKNOWN for one in self._rows):
            return  # there is nothing to hold against a limit
        x = bar_left + scale * self._limit_mm
        painter.setPen(painting.dashed_pen("within", 1.8))
        painter.drawLine(QPointF(x, HEAD - 4), QPointF(x, HEAD + row * len(self._rows) - 3))

    def _paint_row(
        self,
        painter: QPainter,
        area: QRectF,
        one: RemedyRow,
        left: float,
        scale: float,
        most: float,
        columns: list[float],
    ) -> None:
        remedy, state = one.remedy, one.state
        current = remedy.key == self._current
        if current:
            painting.mark_here(painter, area)
        painter.setPen(painting.pen("blue", 1.6) if current else Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("blue_wash" if current else "ground"))
        painter.drawRoundedRect(area.adjusted(1, 1, -1, -1), 3, 3)
        middle = Qt.AlignmentFlag.AlignVCenter
        if one.is_ticked is not None:
            box = QRectF(6, area.center().y() - 7, 14, 14)
            painting.paint_box(painter, box, one.is_ticked, "soft" if one.apart else "ink")
            if one.apart:
                painter.drawLine(box.topLeft(), box.bottomRight())
        painting.paint_mark(painter, QPointF(34, area.center().y()), state, 5.6)
        painter.setPen(theme.colour("soft" if one.hinder or one.apart else "ink"))
        painter.setFont(
            theme.font(theme.BODY, theme.SEMIBOLD if current or remedy.key == self._taken else theme.REGULAR)
        )
        words = QRectF(48, area.top(), left - 74, area.height())
        painting.write_in(painter, words, middle | Qt.AlignmentFlag.AlignLeft, remedy.title)
        self._paint_left(painter, area, one.left, state, left, scale, most, columns, current, middle)
        painter.setFont(theme.font(theme.BODY))
        figures = (
            f"{self._money}{remedy.cost:g}" if remedy.cost else "0",
            f"{remedy.hours:g} h",
            f"{remedy.wait_days:g} d" if remedy.wait_days else "none",
        )
        for x, figure in zip(columns, figures, strict=True):
            painter.drawText(
                QRectF(x - 24, area.top(), 60, area.height()), middle | Qt.AlignmentFlag.AlignRight, figure
            )
        if remedy.key == self._taken:
            y = area.center().y()
            painter.setPen(painting.pen("blue", 2.6))
            painter.drawPolyline([QPointF(left - 22, y), QPointF(left - 17, y + 5), QPointF(left - 8, y - 7)])

    def _paint_left(
        self,
        painter: QPainter,
        area: QRectF,
        worst: Quantity,
        state: State,
        left: float,
        scale: float,
        most: float,
        columns: list[float],
        current: bool,
        middle: Qt.AlignmentFlag,
    ) -> None:
        y = area.center().y()
        if state is State.UNKNOWN:  # what is usual of such machines is no figure of this one
            painter.setFont(theme.font(theme.BODY))
            painter.setPen(theme.colour("soft"))
            limit = scale * self._limit_mm
            at = left + (
                limit + 5 if limit < painter.fontMetrics().horizontalAdvance("not read") + 4 else 0.0
            )
            room = QRectF(at, area.top(), columns[0] - 26 - at, area.height())
            painting.write_in(painter, room, middle, "not read")
            painter.setPen(theme.colour("ink"))
            return
        painter.setPen(Qt.PenStyle.NoPen)
        shade = theme.colour(theme.state_role(state))
        shade.setAlphaF(0.75)
        painter.setBrush(shade)
        painter.drawRect(QRectF(left, y - 5, scale * worst.value, 10))
        painter.setPen(painting.pen("ink", 1.6))
        high = min(worst.high, most)
        painter.drawLine(QPointF(left + scale * worst.low, y), QPointF(left + scale * high, y))
        for end in (worst.low, high):
            painter.drawLine(QPointF(left + scale * end, y - 4), QPointF(left + scale * end, y + 4))
        painter.setFont(theme.font(theme.BODY, theme.MEDIUM))
        text = show_small(worst.value, self._system, unit=False)
        wide = painter.fontMetrics().horizontalAdvance(text) + 2.0
        at, limit = left + scale * high + 6, left + scale * self._limit_mm
        if at - 4 < limit < at + wide + 2:  # the limit's line would run through the figure
            at = limit + 5
        at = min(at, columns[0] - 26 - wide)
        painter.fillRect(
            QRectF(at - 2, y - 9, wide + 2, 18), theme.colour("blue_wash" if current else "ground")
        )
        painter.drawText(
            QRectF(at, area.top(), wide, area.height()),
            middle | Qt.AlignmentFlag.AlignLeft,
            text,
        )

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int((event.position().y() - HEAD) // self._row())
        if not 0 <= i < len(self._rows):
            return
        row = self._rows[i]
        if event.position().x() <= TICK and row.is_ticked is not None:
            self.ticked.emit(row.remedy.key)
        else:
            self.chosen.emit(row.remedy.key)
