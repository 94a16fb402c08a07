"""Contact with blue: the face unrolled, painted with the mouse or the keys."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import button, column, label, row
from trebb.app.views.base import ReadingView, Shown
from trebb.core.survey.contact import COLUMNS, ROWS, SURFACES, Surface, cells_of, text_of
from trebb.logbook.log.entries import ContactPainted, phase_of


class ContactView(ReadingView):
    """The painted face, its percent, and what the pattern means."""

    def __init__(self) -> None:
        super().__init__()
        box = column(spacing=6)
        self.setLayout(box)
        self._shown: Shown | None = None
        self.paint = Unrolled()
        self.paint.painted.connect(self._record)
        box.addWidget(self.paint, 1)
        line = row(spacing=10)
        self.share = label("", "head")
        line.addWidget(self.share)
        line.addStretch()
        self.look = button(
            "Look at the bar",
            self._look,
            tip="What the simulated taper leaves on its bar",
            name="contact_look",
        )
        line.addWidget(self.look)
        line.addWidget(
            button(
                "Rub it all off",
                lambda: self._record(frozenset()),
                kind="link",
                tip="Begin anew; what was painted stays in the logbook",
                name="contact_clear",
            )
        )
        box.addLayout(line)
        self.words = label("", wrap=True)
        box.addWidget(self.words)

    def _record(self, cells: frozenset[int]) -> None:
        if self._shown is not None:
            body = ContactPainted(self._shown.session.assembly, phase_of(self._shown.phase), text_of(cells))
            self._shown.session.record(body)

    def _look(self) -> None:
        machine = self._shown.session.case.practice(self._shown.phase) if self._shown is not None else None
        if machine is not None:
            self._record(machine.contact())

    def show_readings(self, shown: Shown) -> None:
        self._shown = shown
        surface = SURFACES[shown.set_up.key]
        self.look.setVisible(shown.session.case.practice(shown.phase) is not None)
        self.look.setText(surface.look)
        cells = cells_of(shown.session.job.contact(shown.session.assembly, shown.phase))
        self.paint.show_cells(cells, surface)
        if not cells:
            self.share.setText("Nothing painted yet")
            self.words.setText(f"Paint where {surface.rubbed}: drag with the mouse, or arrow keys and Enter.")
            return
        head, words = surface.verdict(cells)
        self.share.setText(head)
        self.words.setText(words)

    def turn_by(self, step: int) -> bool:
        self.paint.move_by(0, step)
        return True


class Unrolled(painting.Painted, QWidget):
    """8 by 24 cells of a face. A stroke is recorded when the mouse is let go."""

    painted = Signal(frozenset)

    def __init__(self) -> None:
        super().__init__()
        self._cells: frozenset[int] = frozenset()
        self._surface = SURFACES["contact"]
        self._stroke: set[int] | None = None
        self._adding = True
        self._at = (0, 0)
        self.setMinimumSize(260, 120)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("The face, unrolled")
        self.setToolTip("Paint with the mouse, or arrow keys and Enter")

    def show_cells(self, cells: frozenset[int], surface: Surface) -> None:
        """Show what is painted on a face."""
        self._cells, self._surface = cells, surface
        self.update()

    def _area(self) -> QRectF:
        return QRectF(self.rect()).adjusted(52, 4, -36, -22)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        area = self._area()
        wide, high = area.width() / COLUMNS, area.height() / ROWS
        shown = (
            self._cells
            if self._stroke is None
            else (self._cells | self._stroke if self._adding else self._cells - self._stroke)
        )
        painter.setPen(painting.pen("line", 1))
        for i in range(ROWS * COLUMNS):
            spot = QRectF(area.left() + (i % COLUMNS) * wide, area.top() + (i // COLUMNS) * high, wide, high)
            painter.setBrush(theme.colour("blue") if i in shown else theme.colour("metal"))
            painter.drawRect(spot)
            if i in shown:  # shape with the colour: rubbed cells carry a stroke
                painter.setPen(painting.pen("on_blue", 1))
                painter.drawLine(spot.bottomLeft() + QPointF(3, -3), spot.topRight() + QPointF(-3, 3))
                painter.setPen(painting.pen("line", 1))
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        middle = Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight
        painter.drawText(QRectF(0, area.top(), 46, high * 2), middle, self._surface.upper)
        painter.drawText(QRectF(0, area.bottom() - high * 2, 46, high * 2), middle, self._surface.lower)
        marks = self._surface.along
        for i, words in enumerate(marks):
            x = area.left() + i / (len(marks) - 1) * area.width()
            painter.drawText(QRectF(x - 34, area.bottom() + 2, 68, 18), Qt.AlignmentFlag.AlignCenter, words)
        if self.hasFocus():
            r, c = self._at
            painter.setPen(painting.pen("ink", 2.4))
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRect(QRectF(area.left() + c * wide, area.top() + r * high, wide, high))

    def _cell_at(self, point: QPointF) -> int | None:
        area = self._area()
        if not area.contains(point):
            return None
        c, r = (
            int((point.x() - area.left()) / area.width() * COLUMNS),
            int((point.y() - area.top()) / area.height() * ROWS),
        )
        self._at = (min(r, ROWS - 1), min(c, COLUMNS - 1))
        return self._at[0] * COLUMNS + self._at[1]

    def mousePressEvent(self, event: QMouseEvent) -> None:
        cell = self._cell_at(event.position())
        if cell is not None:
            self._adding = cell not in self._cells
            self._stroke = {cell}
            self.update()

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        cell = self._cell_at(event.position())
        if self._stroke is not None and cell is not None:
            self._stroke.add(cell)
            self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        if self._stroke is None:
            return
        stroke, self._stroke = frozenset(self._stroke), None
        self.painted.emit(self._cells | stroke if self._adding else self._cells - stroke)

    def move_by(self, rows: int, columns: int) -> None:
        """Move the painting cell."""
        self._at = (max(0, min(ROWS - 1, self._at[0] + rows)), (self._at[1] + columns) % COLUMNS)
        self.update()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        move = {
            Qt.Key.Key_Left: (0, -1),
            Qt.Key.Key_Right: (0, 1),
            Qt.Key.Key_Up: (-1, 0),
            Qt.Key.Key_Down: (1, 0),
        }.get(Qt.Key(event.key()))
        if move is not None:
            self.move_by(*move)
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            cell = self._at[0] * COLUMNS + self._at[1]
            self.painted.emit(self._cells ^ {cell})
        else:
            super().keyPressEvent(event)
