"""The pod filling the window: numerals that can be read from two metres."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import QRectF, Qt, QTimer
from PySide6.QtGui import QPainter

from trebb.app.look import sounds, theme
from trebb.app.survey.pod import FRAME_MS, Pod
from trebb.app.window.far_cover import BACK, FarCover

if TYPE_CHECKING:
    from trebb.app.window.host import Host
    from trebb.logbook.log.fold_log import Reading


class FromAfar(FarCover):
    """Covers the frame; space takes, any escape goes back. Figures typed reach the pod as before."""

    def __init__(self, frame: Host, pod: Pod) -> None:
        super().__init__(frame, "Reading from afar", "Space takes the reading; ")
        self._pod = pod
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
        self.draw_keys(painter, f"Space takes it    ·    Backspace strikes out    ·    {BACK}")

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

    def back(self) -> None:
        self._timer.stop()
        super().back()
