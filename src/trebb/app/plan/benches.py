"""The plan as evenings: each a bench as long as its hours with what lies on it in order, below it the machine
whole or in pieces, then its tasks by name; what was ordered comes in on its day.
"""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct
from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPainterPath
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.painted_rows import PaintedRows
from trebb.core.dual_units import in_units
from trebb.core.units import UnitSystem
from trebb.core.words import large
from trebb.logbook.plan.job_plan import JobPlan, Line
from trebb.logbook.plan.plan_words import day_of

ROW, TONIGHT_ROW = 25.0, 29.0
HEAD, TONIGHT_HEAD = 33.0, 45.0
DATE, STATE = 112.0, 74.0  # beside a bench: its date, and how the machine stands
GUTTER = 22.0  # where threads run
BOX, WORDS, HOURS = 40.0, 74.0, 66.0  # of a row: its box, its words, its hours at the right end
FREE = 3  # evenings with nothing on them that are drawn as one
CENTRE = Qt.AlignmentFlag.AlignVCenter


def takes_words(line: Line) -> str:
    """How long a task takes, as one says it."""
    hours = line.task.hours
    if line.task.waits:
        return f"{hours / 24:.0f} d" if hours >= 48 else f"{hours:.0f} h"
    return f"{hours:.1f} h" if hours >= 1 else f"{60 * hours:.0f} min"


class Bench(Struct, frozen=True):
    """An evening: its day, the tasks that begin or come in on it, what lies on it with from when to when, in
    hours of the evening. Of no day `title` says what its tasks are; `free` evenings in a row have nothing.
    """

    day: int | None
    lines: tuple[Line, ...] = ()
    title: str = ""
    free: int = 0
    lies: tuple[tuple[Line, float, float], ...] = ()


def shares_of(plan: JobPlan, line: Line) -> Iterator[tuple[int, float, float]]:
    """On which days a task lies on the bench, from when to when in hours of each evening."""
    if line.is_done or line.task.waits or line.task.key not in plan.starts or line.task.hours <= 0:
        return
    for day in range(line.first, line.last + 1):
        begin = plan.evenings.start_of(day)
        start = max(0.0, plan.starts[line.task.key] - begin)
        end = min(plan.evenings.hours[day], plan.starts[line.task.key] + line.task.hours - begin)
        if end - start > 1e-6:
            yield day, start, end


def benches(plan: JobPlan) -> list[Bench]:
    """Evenings from tonight on, then what cannot be planned, then what is done."""
    by_day: dict[int, list[Line]] = {}
    lies: dict[int, list[tuple[Line, float, float]]] = {}
    left: list[Line] = []
    for line in plan.lines:
        for day, start, end in shares_of(plan, line):
            lies.setdefault(day, []).append((line, start, end))
        if not line.is_done and line.task.key in plan.starts:
            by_day.setdefault(line.day, []).append(line)
        elif not line.is_done:
            left.append(line)
    found: list[Bench] = []
    free: list[int] = []

    def close() -> None:
        if len(free) >= FREE:
            found.append(Bench(free[0], free=len(free)))
        else:
            found.extend(Bench(d) for d in free)
        free.clear()

    for day in range(plan.days):
        if day in by_day or day in lies:
            close()
            found.append(Bench(day, tuple(by_day.get(day, ())), lies=tuple(lies.get(day, ()))))
        elif plan.evenings.hours[day]:
            free.append(day)
    close()
    if left:
        found.append(Bench(None, tuple(left), "Not planned"))
    done = tuple(x for x in plan.lines if x.is_done)
    if done:
        found.append(Bench(None, done, "Done"))
    return found


class Planks(painting.Painted, QWidget):
    """Benches alone, without their tasks' names: for whoever looks from afar."""

    def __init__(self) -> None:
        super().__init__()
        self._plan: JobPlan | None = None
        self.setAccessibleName("The evenings to come")
        self.setToolTip("Each evening a bench as long as its hours; below it the machine, whole or in pieces")

    def show_plan(self, plan: JobPlan, most: int) -> None:
        """Show the first evenings of a plan."""
        self._plan = plan
        self._benches = [b for b in benches(plan) if b.day is not None][:most]
        self.setFixedHeight(int(HEAD * len(self._benches)) + 2)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._plan is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for i, bench in enumerate(self._benches):
            paint_bench(painter, QRectF(0, i * HEAD, self.width(), HEAD), self._plan, bench, "")


def plank_of(area: QRectF, plan: JobPlan, day: int) -> QRectF:
    """Where the bench of a day stands in its area: the longest evening takes all the room there is."""
    room = area.width() - DATE - STATE
    wide = room * plan.evenings.hours[day] / plan.evenings.longest
    high = 15.0 if area.height() > HEAD else 11.0
    return QRectF(area.left() + DATE, area.center().y() - 0.6 * high, wide, high)


def paint_bench(painter: QPainter, area: QRectF, plan: JobPlan, bench: Bench, at: str) -> None:
    """An evening's date, its bench with what lies on it, the machine below."""
    day = bench.day
    assert day is not None
    is_tonight = day == 0 and not bench.free
    painter.setFont(
        theme.font(theme.TITLE, theme.SEMIBOLD) if is_tonight else theme.font(theme.SMALL, theme.MEDIUM)
    )
    painter.setPen(theme.colour("ink"))
    date = QRectF(area.left(), area.top(), DATE - 6, area.height())
    if bench.free:
        painter.setPen(theme.colour("soft"))
        words = f"{bench.free} evenings free, until what is waited for is here"
        painting.write_in(painter, area.adjusted(DATE, 0, 0, 0), CENTRE, words)
        painting.write_in(painter, date, CENTRE, day_of(plan, day))
        return
    name = day_of(plan, day)
    painting.write_in(painter, date, CENTRE, large(name))
    plank = plank_of(area, plan, day)
    if plank.width() > 0:
        painter.setPen(painting.pen("line", 1.2))
        painter.setBrush(theme.colour("ground"))
        painter.drawRoundedRect(plank, 2, 2)
    else:
        painter.setPen(theme.colour("soft"))
        painting.write_in(painter, area.adjusted(DATE, -4, 0, -4), CENTRE, "no evening")
    for line, block in blocks_on(plan, bench, plank):
        _paint_block(painter, line, block, is_here=line.task.key == at)
    if plan.is_one_machine:
        _paint_machine(painter, plan, day, plank, area)


def blocks_on(plan: JobPlan, bench: Bench, plank: QRectF) -> Iterator[tuple[Line, QRectF]]:
    """What lies on a bench, and where."""
    hours = plan.evenings.hours[bench.day or 0]
    for line, start, end in bench.lies:
        scale = plank.width() / hours
        wide = max(3.0, (end - start) * scale - 1.5)
        yield line, QRectF(plank.left() + start * scale, plank.top() + 1, wide, plank.height() - 2)


def _paint_block(painter: QPainter, line: Line, block: QRectF, *, is_here: bool) -> None:
    if is_here:
        painter.setPen(painting.pen("brass", 3.0))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(block.adjusted(-2, -3, 2, 3))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.colour("ink" if line.is_deciding else "blue"))
    painter.drawRect(block)


def _paint_machine(painter: QPainter, plan: JobPlan, day: int, plank: QRectF, area: QRectF) -> None:
    """The machine below a bench: one line where it is whole, two halves apart where something is off."""
    y = plank.bottom() + 5
    left, right = area.left() + DATE, max(plank.right(), area.left() + DATE + 40)
    apart = day in plan.apart_days
    if apart:
        painter.setPen(painting.pen("beyond", 2.2))
        half = 0.5 * (left + right)
        painter.drawLine(QPointF(left, y - 1.5), QPointF(half - 4, y - 1.5))
        painter.drawLine(QPointF(half + 4, y + 2), QPointF(right, y + 2))
    else:
        painter.setPen(painting.pen("within", 2.2))
        painter.drawLine(QPointF(left, y), QPointF(right, y))
    painter.setFont(theme.font(theme.SMALL))
    painter.setPen(theme.colour("soft"))
    words = QRectF(area.right() - STATE, area.top(), STATE - 6, area.height())
    end = CENTRE | Qt.AlignmentFlag.AlignRight
    painting.write_in(painter, words, end, "in pieces" if apart else "whole")


class EveningRows(painting.Painted, PaintedRows):
    """Click a task to look at it, its box to tick it; drag it to another evening to hold it until then. Space
    ticks, Enter opens its stop.
    """

    is_list = True

    chosen = Signal(str)
    ticked = Signal(str)
    opened = Signal(str)
    held = Signal(str, int)

    def __init__(self) -> None:
        super().__init__(ROW)
        self._plan: JobPlan | None = None
        self._at = ""
        self._system = UnitSystem.INCH
        self._heads: list[tuple[Bench, QRectF]] = []
        self._rows: list[tuple[Line, QRectF]] = []
        self._drag = ""
        self.setAccessibleName("Evenings with their tasks")
        self.setToolTip(
            "Click a box, or press Space, to tick a task; Enter opens its stop; drag it to another evening "
            "to hold it until then"
        )

    @property
    def lines(self) -> list[Line]:
        """Tasks in the order they are shown."""
        return [line for line, _ in self._rows]

    def show_plan(self, plan: JobPlan, at: str, system: UnitSystem) -> None:
        """Show another plan."""
        self._plan, self._at, self._system = plan, at, system
        self._lay_out()
        here = next((x for x in plan.lines if x.task.key == at), None)
        self.setAccessibleDescription(here.task.title if here else "no task")
        self.update()

    def _lay_out(self) -> None:
        assert self._plan is not None
        self._heads, self._rows = [], []
        y, wide = 0.0, float(self.width())
        for bench in benches(self._plan):
            is_tonight = bench.day == 0 and not bench.free
            head = TONIGHT_HEAD if is_tonight else HEAD
            self._heads.append((bench, QRectF(GUTTER, y, wide - GUTTER, head)))
            y += head
            row = theme.target(TONIGHT_ROW) if is_tonight else self._row_px
            for line in bench.lines:
                self._rows.append((line, QRectF(0, y, wide, row - 2)))
                y += row
            y += 4 if bench.lines else 0
        self.setMinimumHeight(int(y) + 2)

    def area_of(self, key: str) -> QRectF:
        """Where a task's row stands; nowhere where it has none."""
        return next((area for line, area in self._rows if line.task.key == key), QRectF())

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        plan = self._plan
        if plan is None:
            return
        if self._heads and self._heads[0][1].right() != self.width():
            self._lay_out()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        for line, area in self._rows:
            if line.task.key == self._at:
                self._paint_here(painter, area)
        self._paint_threads(painter)
        for bench, area in self._heads:
            if bench.day is not None:
                paint_bench(painter, area, plan, bench, self._at)
                continue
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
            painter.setPen(theme.colour("ink"))
            painting.write_in(painter, area, CENTRE, bench.title)
        tonight = {line.task.key for bench, _ in self._heads if bench.day == 0 for line in bench.lines}
        for line, area in self._rows:
            painter.setFont(theme.font(theme.BODY if line.task.key in tonight else theme.SMALL))
            self._paint_line(painter, area, line)

    def _paint_threads(self, painter: QPainter) -> None:
        """From the task looked at to what it waits for, and dashed to what waits for it."""
        here = next(((x, a) for x, a in self._rows if x.task.key == self._at), None)
        if here is None:
            return
        painter.setBrush(Qt.BrushStyle.NoBrush)
        for line, area in self._rows:
            if line.task.key in here[0].task.after:
                painter.setPen(painting.pen("blue", 1.6))
            elif self._at in line.task.after:
                painter.setPen(painting.dashed_pen("soft", 1.4))
            else:
                continue
            one, other = here[1].center().y(), area.center().y()
            side = GUTTER - 4 - min(15.0, 4 + 0.04 * abs(other - one))  # the longer the further out
            down = 8.0 if other > one else -8.0
            path = QPainterPath(QPointF(BOX - 4, one))
            path.cubicTo(QPointF(side, one), QPointF(side, one), QPointF(side, one + down))
            path.lineTo(QPointF(side, other - down))
            path.cubicTo(QPointF(side, other), QPointF(side, other), QPointF(BOX - 4, other))
            painter.drawPath(path)

    def _paint_line(self, painter: QPainter, area: QRectF, line: Line) -> None:
        plan = self._plan
        assert plan is not None
        middle = area.center().y()
        painting.paint_box(painter, QRectF(BOX, middle - 7, 14, 14), line.is_done)
        if line.task.waits and not line.is_done:
            _paint_parcel(painter, QPointF(BOX + 23, middle), is_deciding=line.is_deciding)
        elif line.is_deciding and not line.is_done:  # a ring: any delay of it delays the end
            painter.setPen(painting.pen("ink", 1.6))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawEllipse(QPointF(BOX + 23, middle), 4, 4)
        painter.setPen(theme.colour("soft" if line.is_done or line.work.missing else "ink"))
        words = in_units(line.task.title, self._system)
        if line.work.missing:
            words = f"{words} (missing: {line.work.missing})"
        elif not line.task.waits and line.task.key in plan.starts and line.last > line.first:
            words = f"{words}, to {day_of(plan, line.last)}"
        room = QRectF(WORDS, area.top(), area.width() - WORDS - HOURS - 6, area.height())
        painting.write_in(painter, room, CENTRE, words)
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        spent = line.work.spent
        takes = (f"{spent:.1f} h" if spent else "") if line.is_done else takes_words(line)
        painter.drawText(
            QRectF(area.right() - HOURS, area.top(), HOURS - 6, area.height()),
            CENTRE | Qt.AlignmentFlag.AlignRight,
            takes,
        )

    def _here(self) -> int:
        keys = [line.task.key for line in self.lines]
        return keys.index(self._at) if self._at in keys else 0

    def _look_at(self, i: int) -> None:
        if 0 <= i < len(self._rows):
            self.chosen.emit(self._rows[i][0].task.key)

    def _row_at(self, place: QPointF) -> str:
        """The task whose row, or whose block on a bench, stands at a place; "" for none."""
        for line, area in self._rows:
            if area.contains(place):
                return line.task.key
        for bench, area in self._heads:
            if self._plan is not None and bench.day is not None and area.contains(place) and not bench.free:
                plank = plank_of(area, self._plan, bench.day)
                for line, block in blocks_on(self._plan, bench, plank):
                    if block.adjusted(-1, -4, 1, 4).contains(place):
                        return line.task.key
        return ""

    def _day_at(self, y: float) -> int | None:
        """The evening whose bench or tasks stand at a height."""
        above = [bench for bench, area in self._heads if area.top() <= y]
        return above[-1].day if above else None

    def mousePressEvent(self, event: QMouseEvent) -> None:
        key = self._row_at(event.position())
        self._drag = key
        if key:
            self.chosen.emit(key)
            if event.position().x() <= BOX + 18 and self.area_of(key).contains(event.position()):
                self._drag = ""
                self.ticked.emit(key)

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        key, self._drag = self._drag, ""
        line = next((x for x in self.lines if x.task.key == key), None)
        day = self._day_at(event.position().y())
        if line is None or self._plan is None or day is None or key not in self._plan.starts:
            return
        if not self.area_of(key).adjusted(0, -2, 0, 2).contains(event.position()) and day != line.day:
            self.held.emit(key, day)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        if event.position().x() > BOX + 18 and self._at:
            self.opened.emit(self._at)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and self._at:
            self.ticked.emit(self._at)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._at:
            self.opened.emit(self._at)
        else:
            super().keyPressEvent(event)


def _paint_parcel(painter: QPainter, centre: QPointF, *, is_deciding: bool) -> None:
    """What comes in: a parcel with its string."""
    box = QRectF(centre.x() - 5, centre.y() - 5, 10, 10)
    painter.setPen(painting.pen("ink" if is_deciding else "blue", 1.4))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.drawRect(box)
    painter.drawLine(QPointF(centre.x(), box.top()), QPointF(centre.x(), box.bottom()))
    painter.drawLine(QPointF(box.left(), centre.y()), QPointF(box.right(), centre.y()))
