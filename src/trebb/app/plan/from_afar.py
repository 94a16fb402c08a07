"""The plan from two metres: the day it is ready, tonight, the evenings to come."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QKeyEvent, QPainter

from trebb.app.look import painting, theme
from trebb.app.plan.benches import Planks
from trebb.app.window.far_cover import BACK, FarCover
from trebb.core.dual_units import in_units
from trebb.logbook.plan.plan_words import when_words

if TYPE_CHECKING:
    from trebb.app.window.host import Host
    from trebb.logbook.plan.job_plan import JobPlan

MOST_LINES, MOST_BENCHES = 6, 6


class PlanFromAfar(FarCover):
    """Covers the frame; any escape goes back."""

    def __init__(self, frame: Host, plan: JobPlan) -> None:
        super().__init__(frame, "The plan from afar", "")
        self._plan = plan
        self._picture = Planks()
        self._picture.setParent(self)
        self._picture.show_plan(plan, MOST_BENCHES)

    def lines(self) -> list[str]:
        """What is shown large: tonight, then what to order."""
        system = self._frame.session.system
        found = [in_units(x.task.title, system) for x, _ in self._plan.tonight]
        return found[:MOST_LINES] or ["Nothing tonight"]

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.fillRect(self.rect(), theme.colour("sheet"))
        wide, high = self.width(), self.height()
        big = max(30, int(0.062 * high))
        ready = self._plan.ready
        painter.setFont(theme.font(max(40, int(0.085 * high)), theme.SEMIBOLD))
        painter.setPen(theme.colour("blue"))
        head = when_words(self._plan) if ready else "No plan"
        room = QRectF(40, 0.03 * high, wide - 80, 0.12 * high)
        painting.write_in(painter, room, Qt.AlignmentFlag.AlignVCenter, head)
        y = 0.17 * high
        painter.setFont(theme.font(big, theme.MEDIUM))
        painter.setPen(theme.colour("ink"))
        for words in self.lines():
            room = QRectF(40, y, wide - 80, 1.3 * big)
            painting.write_in(painter, room, Qt.AlignmentFlag.AlignVCenter, words)
            y += 1.3 * big
        tall = self._picture.height()
        self._picture.setGeometry(40, int(high - tall - 0.06 * high), wide - 80, tall)
        self.draw_keys(painter, BACK)

    def pressed(self, event: QKeyEvent) -> None:
        """The plan has no bench keys."""
