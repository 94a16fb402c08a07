"""Readings of the dial against a readout: rows, and the screw's error so far."""

from __future__ import annotations

import statistics

from PySide6.QtGui import QResizeEvent

from trebb.app.plots.error_curve import ErrorCurve
from trebb.app.views.base import Shown
from trebb.app.views.rows import WithRows
from trebb.core.families.screw_drive.lead_error import way_mm
from trebb.core.survey.base import station_of

LOW = 200


class LeadView(WithRows):
    """Rows above, the curve below them."""

    def __init__(self) -> None:
        super().__init__()
        self.curve = ErrorCurve()
        self.beside(self.curve, rows=4, picture_share=6, below=True)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Where there is room for one only, the rows stay: they are read into."""
        super().resizeEvent(event)
        self.curve.setVisible(self.height() > LOW)

    def show_readings(self, shown: Shown) -> None:
        self.rows.show_readings(shown)
        session = shown.session
        drive = session.case.subject
        along, turn = [], []
        for p in session.job.standing(session.assembly, shown.set_up.key, shown.phase):
            mean = statistics.fmean(p.values)
            if p.place.startswith("travel"):
                along.append((way_mm(drive, station_of(p.place)), mean))
            else:
                turn.append((float(p.place.rsplit(" ", 1)[1]) / 360, mean))
        now = session.case.estimate if shown.phase == "before" else session.case.proof_estimate
        self.curve.show_error(drive, now, session.system, read=along, turn=turn)
