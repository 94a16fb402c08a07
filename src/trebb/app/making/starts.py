"""Several starts: the screw's end, and every way to come from one to the next."""

from __future__ import annotations

import math
from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import Mark, clear, column, label, row, scrolled
from trebb.app.making.base import OperationView, Setting
from trebb.app.window.session import Session
from trebb.core.gears.trains import exact_lead
from trebb.core.machine import State
from trebb.core.making.indexing import indexings
from trebb.core.making.operations import Operation, dial_of
from trebb.core.units import show_size


class StartsView(OperationView):
    """The screw's end with its starts, and every way to come from one to the next."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = row(spacing=16)
        self.setLayout(box)
        self.picture = _StartsPicture()
        box.addWidget(self.picture, 2)
        inner = QWidget()
        self._rows = column(spacing=8)
        inner.setLayout(self._rows)
        box.addWidget(scrolled(inner), 5)

    def show_operation(self, part: str, operation: Operation) -> Sequence[Setting]:
        case, system = self.case, self.session.system
        spec = case.made_drive.thread
        self.picture.show_starts(spec.starts)
        clear(self._rows)
        for way in indexings(
            exact_lead(spec.lead_mm), spec.starts, dial_of(case.workshop), case.train(), system
        ):
            line = row(spacing=10)
            line.addWidget(Mark(State.WITHIN if way.is_possible else State.BEYOND))
            words = column(spacing=0)
            words.addWidget(label(way.title, "strong"))
            words.addWidget(label(way.how, "" if way.is_possible else "soft", wrap=True))
            line.addLayout(words, 1)
            self._rows.addLayout(line)
        self._rows.addStretch(1)
        return (
            ("Starts", str(spec.starts), True),
            ("Start to start", show_size(spec.pitch_mm, system), True),
            ("Lead", show_size(spec.lead_mm, system), False),
            ("Spindle turns to index", f"{360 / spec.starts:g}°", False),
        )


class _StartsPicture(painting.Painted, QWidget):
    """The end of the screw with a mark for each start."""

    def __init__(self) -> None:
        super().__init__()
        self._starts = 2
        self.setMinimumSize(120, 120)
        self.setToolTip("The starts at the screw's end")

    def show_starts(self, starts: int) -> None:
        """Show another number."""
        self._starts = starts
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle, r = (
            QPointF(self.width() / 2, min(self.height(), 240) / 2),
            min(self.width(), self.height(), 230) / 2 - 18,
        )
        painter.setPen(painting.pen("ink", 1.6))
        painter.setBrush(theme.colour("metal"))
        painter.drawEllipse(middle, r, r)
        painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD))
        for k in range(self._starts):
            angle = 2 * math.pi * k / self._starts - math.pi / 2
            out = QPointF(math.cos(angle), math.sin(angle))
            across = QPointF(-out.y(), out.x())
            painter.setBrush(theme.colour("sheet"))
            painter.drawPolygon(
                QPolygonF(
                    [
                        middle + out * (r + 1) + across * 9,
                        middle + out * (r * 0.78) + across * 5,
                        middle + out * (r * 0.78) - across * 5,
                        middle + out * (r + 1) - across * 9,
                    ]
                )
            )
            spot = middle + out * (r * 0.5)
            painter.drawText(
                QRectF(spot.x() - 12, spot.y() - 10, 24, 20), Qt.AlignmentFlag.AlignCenter, str(k + 1)
            )
