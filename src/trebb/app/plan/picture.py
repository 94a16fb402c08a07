"""The plan as a picture: days across, assemblies down; hands busy full, waits hatched, below them on which
days something stands apart.
"""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.core.machine import MachineKind
from trebb.logbook.plan.job_plan import JobPlan, Line

ROW, HEAD, BAND = 21.0, 22.0, 20.0
NAME, LEAST_DAY, MOST_DAY = 132.0, 9.0, 46.0


class _Bar(Struct, frozen=True):
    line: Line
    area: QRectF


class PlanPicture(painting.Painted, QWidget):
    """Click a bar to look at its task; drag it to another day to hold it until then."""

    chosen = Signal(str)
    held = Signal(str, int)

    def __init__(self) -> None:
        super().__init__()
        self._plan: JobPlan | None = None
        self._names: list[tuple[str, str]] = []
        self._at = ""
        self._drag: tuple[str, float, float] | None = None
        self.setAccessibleName("Plan by day and assembly")
        self.setToolTip("Click a bar for its task; drag it to a later day to hold it until then")

    def show_plan(self, plan: JobPlan, at: str, kind: MachineKind) -> None:
        """Show another plan."""
        self._plan, self._at = plan, at
        with_work = {x.work.assembly for x in plan.lines if not x.is_done}
        self._names = [(a.key, a.label) for a in kind.assemblies if a.key in with_work]
        if "" in with_work:
            self._names.append(("", "of no assembly"))
        self.setFixedHeight(int(HEAD + ROW * max(1, len(self._names)) + BAND + 4))
        said = f"ready {plan.ready:%d %B}" if plan.ready else "no plan"
        self.setAccessibleDescription(f"{said}, {len(self._names)} assemblies, {plan.days} days")
        self.update()

    @property
    def day_px(self) -> float:
        """Width of a day."""
        assert self._plan is not None
        ends = [x.last + 1 for x in self._plan.lines if not x.is_done]
        days = max([self._plan.days, *ends, 7])
        return min(MOST_DAY, max(LEAST_DAY, (self.width() - NAME - 6) / days))

    def bars(self) -> list[_Bar]:
        """Bars with where they stand: of one assembly work above, waits below."""
        if self._plan is None:
            return []
        rows = {key: i for i, (key, _) in enumerate(self._names)}
        day = self.day_px
        found = []
        for x in self._plan.lines:
            if x.is_done or x.work.assembly not in rows or x.task.key not in self._plan.starts:
                continue
            top = HEAD + ROW * rows[x.work.assembly]
            begin, end = self._span(x)
            wide = max(4.0, (end - begin) * day - 1)
            area = (
                QRectF(NAME + begin * day, top + 13, wide, 5)
                if x.task.waits
                else QRectF(NAME + begin * day, top + 3, wide, 9)
            )
            found.append(_Bar(x, area))
        return found

    def _span(self, x: Line) -> tuple[float, float]:
        """Beginning and end in days: of work its share of the evening, of a wait the clock's."""
        plan = self._plan
        assert plan is not None
        start = plan.starts[x.task.key]
        if x.task.waits:
            return start / 24, (start + x.task.hours) / 24
        evenings = plan.evenings

        def at(bench: float, day: int) -> float:
            hours = evenings.hours[day] or 1.0
            return day + min(1.0, max(0.0, (bench - evenings.start_of(day)) / hours))

        return at(start, x.first), at(start + x.task.hours, x.last)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        plan = self._plan
        if plan is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        day = self.day_px
        painter.setFont(theme.font(theme.SMALL))
        bottom = HEAD + ROW * len(self._names)
        shown = int((self.width() - NAME) / day)
        every = next(n for n in (1, 2, 7, 14, 28, 56) if n * day >= 58 or n == 56)
        for d in range(shown):
            x = NAME + d * day
            if not plan.evenings.hours[d] and not plan.trouble:
                painter.fillRect(QRectF(x, HEAD, day, bottom - HEAD), theme.colour("ground"))
            monday = plan.day(d).weekday() == 0
            if (every < 7 and d % every == 0) or (every >= 7 and monday and (d // 7) % (every // 7) == 0):
                painter.setPen(theme.colour("soft"))
                date = plan.day(d)
                words = f"{date:%a} {date.day}" if every < 7 else f"{date.day} {date:%b}"
                if x + 2 + painter.fontMetrics().horizontalAdvance(words) <= self.width():
                    painter.drawText(QRectF(x + 2, 0, 90, HEAD - 3), Qt.AlignmentFlag.AlignBottom, words)
                painter.setPen(painting.pen("line", 1))
                painter.drawLine(QPointF(x, HEAD), QPointF(x, bottom))
        self._paint_names(painter)
        if plan.ready_by is not None:
            x = NAME + ((plan.ready_by - plan.today).days + 1) * day
            painter.setPen(painting.dashed_pen("beyond", 1.6))
            painter.drawLine(QPointF(x, HEAD - 4), QPointF(x, bottom + BAND))
        for bar in self.bars():
            self._paint_bar(painter, bar)
        self._paint_band(painter, bottom, day, shown)
        painter.setPen(painting.pen("brass", 2.2))  # today
        painter.drawLine(QPointF(NAME, HEAD - 6), QPointF(NAME, bottom + BAND))

    def _paint_names(self, painter: QPainter) -> None:
        for i, (_, name) in enumerate(self._names):
            top = HEAD + ROW * i
            painter.setPen(painting.pen("line", 0.8))
            painter.drawLine(QPointF(0, top + ROW), QPointF(self.width(), top + ROW))
            painter.setPen(theme.colour("ink"))
            painting.write_in(painter, QRectF(0, top, NAME - 8, ROW), Qt.AlignmentFlag.AlignVCenter, name)

    def _paint_bar(self, painter: QPainter, bar: _Bar) -> None:
        is_here = bar.line.task.key == self._at
        role = "ink" if bar.line.is_deciding else "blue"
        if is_here:
            painter.setPen(painting.pen("brass", 3.0))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(bar.area.adjusted(-2, -2, 2, 2))
        painter.setPen(painting.pen(role, 1.0))
        if bar.line.task.waits:
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(bar.area)
            x = bar.area.left() + 4
            while x < bar.area.right():
                painter.drawLine(
                    QPointF(x, bar.area.bottom()), QPointF(min(x + 4, bar.area.right()), bar.area.top())
                )
                x += 6
        else:
            painter.setBrush(theme.colour(role))
            painter.drawRect(bar.area)

    def _paint_band(self, painter: QPainter, bottom: float, day: float, shown: int) -> None:
        """The machine whole, or something of it apart."""
        plan = self._plan
        assert plan is not None
        painter.setPen(theme.colour("soft"))
        painter.drawText(QRectF(0, bottom + 2, NAME - 6, BAND), Qt.AlignmentFlag.AlignVCenter, "the machine")
        y = bottom + 2 + BAND / 2
        for d in range(min(shown, max(plan.days, 1))):
            x = NAME + d * day
            if d in plan.apart_days:  # in pieces: two halves apart; whole: one line
                painter.setPen(painting.pen("beyond", 2.0))
                painter.drawLine(QPointF(x + 1, y - 4), QPointF(x + 0.45 * day, y - 4))
                painter.drawLine(QPointF(x + 0.55 * day, y + 4), QPointF(x + day - 1, y + 4))
            else:
                painter.setPen(painting.pen("within", 3.0))
                painter.drawLine(QPointF(x, y), QPointF(x + day, y))

    def bar_at(self, place: QPointF) -> Line | None:
        """The task whose bar stands at a place; the smallest where several do."""
        near = [b for b in self.bars() if b.area.adjusted(-2, -3, 2, 3).contains(place)]
        return min(near, key=lambda b: b.area.width()).line if near else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        line = self.bar_at(event.position())
        if line is not None:
            self._drag = (line.task.key, event.position().x(), event.position().x())
            self.chosen.emit(line.task.key)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._drag is None or self._plan is None:
            return
        key, start, _ = self._drag
        self._drag = None
        moved = event.position().x() - start
        if abs(moved) >= 0.5 * self.day_px and abs(moved) > 5:
            line = next((x for x in self._plan.lines if x.task.key == key), None)
            if line is not None:
                self.held.emit(key, max(0, line.first + round(moved / self.day_px)))
