"""Tasks of the plan, a row each: its box, what it is, the day, hours."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter

from trebb.app.look import painting, theme
from trebb.app.look.painted_rows import PaintedRows
from trebb.core.dual_units import in_units
from trebb.core.units import UnitSystem
from trebb.logbook.plan.job_plan import JobPlan, Line
from trebb.logbook.plan.plan_words import day_of

ROW = 25.0
DAY, HOURS = 92.0, 62.0


def takes_words(line: Line) -> str:
    """How long a task takes, as one says it."""
    hours = line.task.hours
    if line.task.waits:
        return f"{hours / 24:.0f} d" if hours >= 48 else f"{hours:.0f} h"
    return f"{hours:.1f} h" if hours >= 1 else f"{60 * hours:.0f} min"


class TaskRows(painting.Painted, PaintedRows):
    """Click a row to look at it, its box to tick it; Space ticks, Enter opens its stop."""

    is_list = True

    chosen = Signal(str)
    ticked = Signal(str)
    opened = Signal(str)

    def __init__(self) -> None:
        super().__init__(ROW)
        self._plan: JobPlan | None = None
        self._lines: tuple[Line, ...] = ()
        self._at = ""
        self._system = UnitSystem.INCH
        self.setAccessibleName("Tasks by day")
        self.setToolTip("Click a box, or press Space, to tick a task; Enter opens its stop")

    def show_plan(self, plan: JobPlan, at: str, system: UnitSystem) -> None:
        """Show another plan."""
        self._plan, self._lines, self._at, self._system = plan, plan.lines, at, system
        self.setMinimumHeight(int(self._row_px * max(1, len(self._lines))) + 2)
        here = next((x for x in self._lines if x.task.key == at), None)
        self.setAccessibleDescription(here.task.title if here else "no task")
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for i, line in enumerate(self._lines):
            area = self._row_area(i)
            if line.task.key == self._at:
                self._paint_here(painter, area)
            self._paint_line(painter, area, line)

    def _paint_line(self, painter: QPainter, area: QRectF, line: Line) -> None:
        plan = self._plan
        assert plan is not None
        middle = area.center().y()
        painting.paint_box(painter, QRectF(5, middle - 7, 14, 14), line.is_done)
        if line.is_deciding and not line.is_done:  # a ring: any delay of it delays the end
            painter.setPen(painting.pen("ink", 1.6))
            painter.drawEllipse(QPointF(30, middle), 4, 4)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft" if line.is_done or line.work.missing else "ink"))
        words = in_units(line.task.title, self._system)
        if line.work.missing:
            words = f"{words} (missing: {line.work.missing})"
        room = area.width() - 42 - DAY - HOURS
        centre = Qt.AlignmentFlag.AlignVCenter
        painting.write_in(painter, QRectF(42, area.top(), room - 6, area.height()), centre, words)
        right = area.right()
        painter.setPen(theme.colour("soft"))
        if line.is_done:
            day = "done"
        elif line.task.key not in plan.starts:
            day = "–"
        else:
            day = day_of(plan, line.last if line.task.waits else line.first)
        painter.drawText(QRectF(right - DAY - HOURS, area.top(), DAY, area.height()), centre, day)
        takes = f"{line.work.spent:.1f} h" if line.is_done and line.work.spent else takes_words(line)
        painter.drawText(
            QRectF(right - HOURS, area.top(), HOURS - 6, area.height()),
            centre | Qt.AlignmentFlag.AlignRight,
            "" if line.is_done and not line.work.spent else takes,
        )

    def _here(self) -> int:
        keys = [x.task.key for x in self._lines]
        return keys.index(self._at) if self._at in keys else 0

    def _look_at(self, i: int) -> None:
        if 0 <= i < len(self._lines):
            self.chosen.emit(self._lines[i].task.key)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int(event.position().y() // self._row_px)
        if not 0 <= i < len(self._lines):
            return
        key = self._lines[i].task.key
        self.chosen.emit(key)
        if event.position().x() <= 24:
            self.ticked.emit(key)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if event.position().x() > 24 and self._at:
            self.opened.emit(self._at)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and self._at:
            self.ticked.emit(self._at)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._at:
            self.opened.emit(self._at)
        else:
            super().keyPressEvent(event)
