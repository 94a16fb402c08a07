"""Before and after side by side, each figure a line: where it was, where it is, what was predicted, the
limit.
"""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.dual_units import in_units
from trebb.core.machine import State, state_of
from trebb.core.units import UnitSystem, show_small, small_unit
from trebb.logbook.cases.before_after import Grown

LEAST_ROW, MOST_ROW = 17.0, 27.0
HEAD = 24.0
FOOT = 22.0


class ProofRow(Struct, frozen=True):
    """One figure, mm: was, is (None: not read again yet), predicted with its half width, and its own limit.
    `note` stands at the right.
    """

    label: str
    was_mm: float
    was_half_mm: float
    is_mm: float | None
    predicted_mm: float | None
    predicted_half_mm: float | None
    limit_mm: float
    note: str = ""


def grown_row(grown: Grown, system: UnitSystem) -> ProofRow:
    """A figure as found, foretold and proven."""
    then, now = grown.foretold, grown.proven
    return ProofRow(
        in_units(grown.label, system),
        grown.found.value,
        grown.found.half_width,
        now.value if now is not None else None,
        (then.low + then.high) / 2 if then is not None else None,
        then.half_width if then is not None else None,
        grown.limit_mm,
        "" if now is None else "yes" if grown.is_shown else "not shown",
    )


class ProofPlot(painting.Painted, QWidget):
    """One line a figure. Grey ring before, filled shape after, blue band what was predicted, dashed green
    the limit.

    Where the limits differ, each line is drawn against its own limit.
    """

    def __init__(
        self,
        empty: str = "Nothing is read of it before the repair: there is nothing to hold it against.",
        heads: tuple[str, str, str] = ("was", "is", "shown"),
    ) -> None:
        super().__init__()
        self._rows: Sequence[ProofRow] = ()
        self._system = UnitSystem.INCH
        self._empty, self._heads = empty, heads
        self.setToolTip("Ring: before. Filled: after. Band: predicted. Dashed: the limit")

    def show_rows(self, rows: Sequence[ProofRow], system: UnitSystem) -> None:
        """Show figures."""
        self._rows, self._system = list(rows), system
        self.setMinimumHeight(int(HEAD + FOOT + LEAST_ROW * max(3, len(self._rows))))
        self.update()

    def rows(self) -> list[ProofRow]:
        """What is shown."""
        return list(self._rows)

    def _height(self) -> float:
        return min(MOST_ROW, (self.height() - HEAD - FOOT) / max(1, len(self._rows)))

    def sizeHint(self) -> QSize:
        return QSize(600, int(HEAD + FOOT + 22 * max(3, len(self._rows))))

    def _unit_of(self, row: ProofRow) -> float:
        """What one of the axis is for a row, mm: a millimetre, or its own limit."""
        return 1.0 if len({r.limit_mm for r in self._rows}) == 1 else row.limit_mm

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self._rows:
            painter.setFont(theme.font())
            painter.setPen(theme.colour("soft"))
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, self._empty)
            return
        left, right = 176.0, self.width() - 190.0
        top = (
            max(
                max(abs(r.was_mm) + r.was_half_mm, abs(r.is_mm or 0.0), r.limit_mm) / self._unit_of(r)
                for r in self._rows
            )
            * 1.06
        )
        scale = (right - left) / top
        self._axis(painter, left, scale, top)
        height = self._height()
        for i, row in enumerate(self._rows):
            self._paint_row(
                painter,
                QRectF(0, HEAD + i * height, self.width(), height),
                row,
                left,
                scale / self._unit_of(row),
            )
        painter.setPen(painting.dashed_pen("within", 1.8))
        one = self._rows[0]
        x = left + scale * one.limit_mm / self._unit_of(one)
        painter.drawLine(QPointF(x, HEAD - 4), QPointF(x, HEAD + height * len(self._rows)))
        painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
        painter.setPen(theme.colour("within"))
        words = (
            f"limit {show_small(one.limit_mm, self._system)}"
            if self._unit_of(one) == 1.0
            else "limit, each its own"
        )
        # Left of its line: the columns' heads begin at the plot's right edge.
        painter.drawText(
            QRectF(x - 166, 0, 160, 20), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, words
        )

    def _axis(self, painter: QPainter, left: float, scale: float, top: float) -> None:
        own = self._unit_of(self._rows[0]) != 1.0
        name, unit = ("× limit", 1.0) if own else small_unit(self._system)
        steps = (0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500)
        step = next((s for s in steps if top / unit / s <= 7), 1000)
        y = HEAD + self._height() * len(self._rows)
        painter.setFont(theme.font(theme.SMALL))
        k = 0
        while k * step * unit <= top:
            x = left + scale * k * step * unit
            painter.setPen(painting.pen("line", 1))
            painter.drawLine(QPointF(x, HEAD), QPointF(x, y))
            painter.setPen(theme.colour("soft"))
            painter.drawText(
                QRectF(x - 40, y + 1, 80, 20),
                Qt.AlignmentFlag.AlignCenter,
                f"{k * step:g}" + (f" {name}" if k == 0 else ""),
            )
            k += 1
        for x, words in zip(
            (self.width() - 182.0, self.width() - 124.0, self.width() - 66.0), self._heads, strict=True
        ):
            painter.drawText(QRectF(x, 0, 66, 20), Qt.AlignmentFlag.AlignLeft, words)

    def _paint_row(self, painter: QPainter, area: QRectF, row: ProofRow, left: float, scale: float) -> None:
        y = area.center().y()
        flags = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft
        painter.setFont(theme.font(theme.BODY if area.height() > 19 else theme.SMALL))
        painter.setPen(theme.colour("ink"))
        painting.write_in(
            painter, QRectF(area.left() + 2, area.top(), left - 10, area.height()), flags, row.label
        )
        if row.predicted_mm is not None and row.predicted_half_mm is not None:
            predicted = row.predicted_mm * (
                -1 if (row.was_mm if row.is_mm is None else row.is_mm) < 0 else 1
            )  # a limit holds on both sides: all lies by its size
            low = max(0.0, predicted - row.predicted_half_mm)
            band = theme.colour("blue")
            band.setAlphaF(0.25)
            end = min(self.width() - 190.0, left + scale * max(0.0, predicted + row.predicted_half_mm))
            painter.fillRect(  # one of nothing is a line still
                QRectF(
                    left + scale * low - 1.5,
                    y - min(8, area.height() / 2 - 1),
                    end - left - scale * low + 3,
                    min(16, area.height() - 2),
                ),
                band,
            )
        painter.setPen(painting.pen("soft", 1.4))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        before = left + scale * abs(row.was_mm)
        state = State.UNKNOWN if row.is_mm is None else state_of(abs(row.is_mm), row.limit_mm)
        if row.is_mm is not None:
            after = left + scale * abs(row.is_mm)
            toward = 1 if before > after else -1
            if abs(before - after) > 12:
                painter.drawLine(QPointF(after + toward * 7, y), QPointF(before - toward * 5, y))
            painting.paint_mark(painter, QPointF(after, y), state, 5.6)
            painter.setPen(painting.pen("soft", 1.4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(QPointF(before, y), 5, 5)
        painter.setFont(theme.font(theme.BODY, theme.MEDIUM))
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QRectF(self.width() - 182, area.top(), 60, area.height()),
            flags,
            show_small(row.was_mm, self._system, unit=False),
        )
        painter.setPen(theme.colour("ink" if state is State.WITHIN else theme.state_role(state)))
        painter.drawText(
            QRectF(self.width() - 124, area.top(), 60, area.height()),
            flags,
            "–" if row.is_mm is None else show_small(row.is_mm, self._system, unit=False),
        )
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        painter.drawText(QRectF(self.width() - 66, area.top(), 66, area.height()), flags, row.note)
