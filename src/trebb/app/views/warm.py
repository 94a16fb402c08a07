"""The warm run: temperature against time, where it will settle, and the noise in a word."""

from __future__ import annotations

import math
import statistics

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QPainter, QPolygonF

from trebb.app.look import painting, theme
from trebb.app.look.widgets import column, exclusive, label, row
from trebb.app.views.base import ReadingView, Shown
from trebb.app.views.plane import Curve, Plane
from trebb.core.condition import Z95
from trebb.core.families.spindle.warm_run import USUAL_RISE_C, minutes_of, warm_run
from trebb.logbook.log.entries import NoteWritten

NOISES = ("quiet", "hums", "whines", "growls", "knocks")
SHOWN_MIN = 60.0


class WarmView(ReadingView):
    """The curve with its settling value, and five words for the noise."""

    def __init__(self) -> None:
        super().__init__()
        box = column(spacing=6)
        self.setLayout(box)
        self.curve = _Curve()
        self.curve.chosen_by = self.chosen.emit
        box.addWidget(self.curve, 1)
        line = row(spacing=4)
        line.addWidget(label("Noise", "soft"))
        self._shown: Shown | None = None
        self.noises = exclusive(
            self,
            line,
            ((word, word, f"It {word}: the same words before and after") for word in NOISES),
            self._grade,
            prefix="noise",
        )
        line.addStretch()
        box.addLayout(line)

    def _topic(self) -> str:
        assert self._shown is not None
        return f"noise.{self._shown.session.assembly}.{self._shown.phase}"

    def _grade(self, word: str) -> None:
        if self._shown is not None:
            self._shown.session.record(NoteWritten(topic=self._topic(), text=word))

    def show_readings(self, shown: Shown) -> None:
        self._shown = shown
        self.curve.show_readings(shown)
        said = shown.session.job.note(self._topic())
        for word, choice in self.noises.items():
            choice.setChecked(word == said)


class _Curve(painting.Painted, Curve):
    """Temperature over an hour; what was read, and the settling value with its band."""

    def __init__(self) -> None:
        super().__init__("Temperature against time", "Choose a time to read (up and down)")

    def places_along(self) -> list[tuple[float, str]]:
        assert self._shown is not None
        return [
            (minutes_of(p.key), p.key) for p in self._shown.set_up.places(self._shown.session.case.subject)
        ]

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        if self._shown is None:
            return
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        session = self._shown.session
        standing = session.job.standing(session.assembly, self._shown.set_up.key, self._shown.phase)
        points = [(minutes_of(p.place), statistics.fmean(p.values)) for p in standing]
        run = warm_run(standing)
        start = run.start_c if run else points[0][1] if points else 17.0
        top = max(
            [start + USUAL_RISE_C + 6]
            + [c + 3 for _, c in points]
            + ([start + run.rise_c + 2 * run.sd_c + 2] if run else [])
        )
        area = QRectF(self.rect()).adjusted(48, 24, -118, -38)
        plane = self._plane = Plane(area, (0, SHOWN_MIN), (start - 4, top))
        plane.grid(painter, "minutes", "°C over the front bearing")
        painter.setPen(painting.dashed_pen("within", 1.6))
        level = plane.at(SHOWN_MIN, start + USUAL_RISE_C)
        painter.drawLine(plane.at(0, start + USUAL_RISE_C), level)
        painter.setFont(theme.font(theme.SMALL))
        painter.drawText(level + QPointF(6, 5), f"usual, {USUAL_RISE_C:.0f} °C over")
        if run is not None:
            settled = start + run.rise_c
            band = theme.colour("blue")
            band.setAlphaF(0.18)
            painter.fillRect(
                QRectF(
                    plane.at(points[-1][0], min(top, settled + Z95 * run.sd_c)),
                    plane.at(SHOWN_MIN, max(plane.y[0], settled - Z95 * run.sd_c)),
                ),
                band,
            )
            painter.setPen(painting.pen("blue", 2))
            painter.drawPolyline(
                QPolygonF(
                    [
                        plane.at(t, start + run.rise_c * (1 - math.exp(-t / run.tau_min)))
                        for t in range(int(SHOWN_MIN) + 1)
                    ]
                )
            )
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
            painter.setPen(theme.colour("blue"))
            spot = plane.at(SHOWN_MIN, settled)
            painter.drawText(spot + QPointF(6, 0), f"settles {settled:.0f} °C")
            painter.drawText(spot + QPointF(6, 15), f"± {Z95 * run.sd_c:.0f} °C")
        place = self._shown.place
        if place is not None:
            painter.setPen(painting.pen("blue", 1.4))
            x = minutes_of(place.key)
            painter.drawLine(plane.at(x, plane.y[0]), plane.at(x, plane.y[1]))
            painter.setFont(theme.font(theme.SMALL, theme.SEMIBOLD))
            painter.setPen(theme.colour("blue"))
            painter.drawText(plane.at(x, plane.y[1]) + QPointF(5, 12), f"next: {place.label}")
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.colour("ink"))
        for t, c in points:
            painter.drawEllipse(plane.at(t, c), 4, 4)
