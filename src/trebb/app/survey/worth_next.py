"""What is worth reading next, per minute of work."""

from __future__ import annotations

from PySide6.QtCore import QRectF, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter
from PySide6.QtWidgets import QWidget

from trebb.app.look import painting, theme
from trebb.app.window.session import WAITS, Session
from trebb.core.dual_units import in_units
from trebb.core.units import show_minutes

ROW = 44
MOST = 3
WORTH_PER_MINUTE = 2e-4  # below this an evening would not settle a tenth of what is in doubt


class WorthNext(painting.Painted, QWidget):
    """Up to three set-ups, best first, each with its reason; a click goes there."""

    is_list = True

    chosen = Signal(str)

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._rows: list[tuple[str, str, str, str]] = []
        self._is_told = True
        self.most = MOST
        self.setMinimumHeight(ROW * MOST + 26)
        self.setFocusPolicy(Qt.FocusPolicy.TabFocus)
        self.setAccessibleName("Worth taking next")
        self.setToolTip("Go to the set-up that settles most a minute (Enter takes the first)")

    def show_at_most(self, count: int) -> None:
        """So many rows: fewer where other things need the room."""
        if count != self.most:
            self.most = count
            self.setMinimumHeight(ROW * count + 26)
            self.refresh()

    def refresh(self) -> None:
        """Rank again from the readings."""
        system = self._session.system
        rows = []
        case = self._session.case
        self._is_told = self._session.is_told("next")
        if case.has_set_ups and self._is_told and not self._session.figures_wait:
            for s in case.suggestions()[: self.most]:
                if s.per_minute < WORTH_PER_MINUTE and s.key != "turns_travel":
                    continue
                set_up, lot = case.lot_of(s.key)
                reason = case.reason(s, system) if s.settles > 1e-3 else set_up.settles
                rows.append((s.key, in_units(lot.title, system), show_minutes(s.minutes), reason))
        self._rows = rows
        self.update()

    def rows(self) -> list[tuple[str, str, str, str]]:
        """What is shown: key, title, time, reason."""
        return list(self._rows)

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.setFont(theme.font(theme.LARGE, theme.SEMIBOLD))
        painter.setPen(theme.colour("ink"))
        painter.drawText(QRectF(0, 0, self.width(), 22), Qt.AlignmentFlag.AlignLeft, "Worth taking next")
        if not self._rows:
            painter.setFont(theme.font())
            painter.setPen(theme.colour("soft"))
            words = (
                WAITS
                if self._session.figures_wait
                else "Not told while you practise, unless you ask for it."
                if not self._is_told
                else "Nothing: the readings settle it."
                if self._session.case.is_measured
                else "No set-up for this part yet."
            )
            painter.drawText(QRectF(0, 26, self.width(), 40), Qt.TextFlag.TextWordWrap, words)
        for i, (_, title, minutes, reason) in enumerate(self._rows):
            area = QRectF(-1, 24 + i * ROW, self.width() + 1, ROW - 2)
            if i == 0:
                painting.mark_here(painter, area)
                painter.fillRect(area, theme.colour("blue_wash"))
                if self.hasFocus():
                    painter.setPen(painting.pen("blue", 2))
                    painter.drawRect(area.adjusted(1, 1, -2, -1))
            painter.setPen(theme.colour("ink"))
            painter.setFont(theme.font(theme.BODY, theme.SEMIBOLD if i == 0 else theme.REGULAR))
            left = area.adjusted(7, 3, -64, 0)
            painting.write_in(painter, left, Qt.AlignmentFlag.AlignLeft, title)
            painter.setPen(theme.colour("soft"))
            painter.setFont(theme.font(theme.SMALL))
            painter.drawText(area.adjusted(0, 4, -7, 0), Qt.AlignmentFlag.AlignRight, minutes)
            painting.write_in(painter, area.adjusted(7, 22, -5, 0), Qt.AlignmentFlag.AlignLeft, reason)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        i = int((event.position().y() - 24) // ROW)
        if 0 <= i < len(self._rows):
            self.chosen.emit(self._rows[i][0])

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and self._rows:
            self.chosen.emit(self._rows[0][0])
        else:
            super().keyPressEvent(event)
