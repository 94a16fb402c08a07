"""The pod filling the window: numerals that can be read from two metres."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter

from trebb.app.look import painting, sounds, theme
from trebb.app.look.widgets import Overlay
from trebb.app.survey.pod import FRAME_MS, Pod

if TYPE_CHECKING:
    from trebb.app.window.host import Host
    from trebb.logbook.log.fold_log import Reading


class FromAfar(painting.Painted, Overlay):
    """Covers the frame; space takes, any escape goes back. Figures typed reach the pod as before."""

    def __init__(self, frame: Host, pod: Pod) -> None:
        super().__init__(frame)
        self._frame, self._pod = frame, pod
        self.setAccessibleName("Reading from afar")
        self.setToolTip("Space takes the reading; Esc or F11 goes back")
        self._timer = QTimer(self)
        self._timer.setInterval(FRAME_MS)
        self._timer.timeout.connect(self._follow)
        self._timer.start()
        self._last = self._newest()

    def _newest(self) -> Reading | None:
        bench = getattr(self._frame.stop, "bench", None)
        phase = bench.phase if bench is not None else "before"
        return self._frame.session.job.last_reading(self._frame.session.assembly, phase)

    def _follow(self) -> None:
        self._pod.poll()
        newest = self._newest()
        if newest is not None and (self._last is None or newest.id > self._last.id):
            sounds.speak(self._pod.show_raw(newest.taken.value))
        self._last = newest
        self.update()

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        painter.fillRect(self.rect(), theme.colour("sheet"))
        height = self.height()
        painter.setPen(theme.colour("ink"))
        painter.setFont(theme.font(max(96, int(height * 0.42)), theme.MEDIUM))
        painter.drawText(
            QRectF(0, height * 0.14, self.width(), height * 0.5),
            Qt.AlignmentFlag.AlignCenter,
            self._pod.numeral.text(),
        )
        painter.setFont(theme.font(max(30, int(height * 0.065)), theme.SEMIBOLD))
        painter.setPen(theme.colour("blue"))
        painter.drawText(
            QRectF(0, height * 0.05, self.width(), height * 0.1),
            Qt.AlignmentFlag.AlignCenter,
            self._pod.where.text(),
        )
        painter.setFont(theme.font(max(24, int(height * 0.05))))
        painter.setPen(theme.colour("beyond" if self._pod.refusal.text() else "soft"))
        words = self._pod.refusal.text() or self._state()
        painter.drawText(
            QRectF(40, height * 0.66, self.width() - 80, height * 0.14),
            Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap,
            words,
        )
        painter.setFont(theme.font(theme.TITLE))
        painter.setPen(theme.colour("soft"))
        painter.drawText(
            QRectF(0, height * 0.9, self.width(), height * 0.07),
            Qt.AlignmentFlag.AlignCenter,
            "Space takes it    ·    Backspace strikes out    ·    Esc goes back",
        )

    def _state(self) -> str:
        bench = getattr(self._frame.stop, "bench", None)
        if bench is None or not self._frame.session.case.has_set_ups:
            return ""
        total = len(bench.current.places(self._frame.session.case.subject))
        done = len(
            self._frame.session.job.standing(self._frame.session.assembly, bench.current.key, bench.phase)
        )
        last = self._frame.session.job.last_reading(self._frame.session.assembly, bench.phase)
        taken = (
            f"taken: {self._pod.show_raw(last.taken.value)} at {last.taken.place}"
            if last and last.taken.set_up == bench.current.key
            else ""
        )
        return f"{bench.current.title}, {min(done, total)} of {total} places    {taken}"

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Escape, Qt.Key.Key_F11):
            self._back()
        else:
            self._frame.keyPressEvent(event)
            self.setFocus()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        self._back()

    def _back(self) -> None:
        self._frame.removeEventFilter(self)
        self._timer.stop()
        self.hide()
        self._frame.setFocus()
        self.close()
