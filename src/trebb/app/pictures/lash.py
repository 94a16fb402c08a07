"""The lash of a feed screw along its travel."""

from __future__ import annotations

from typing import Any

from trebb.app.pictures.base import CasePicture
from trebb.app.plots import TravelPlot, show_prediction, show_split
from trebb.app.session import Session
from trebb.app.widgets import column


class LashPicture(CasePicture):
    """Layers of lash; behind a prediction, today's as a ghost."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.plot = TravelPlot()
        box.addWidget(self.plot)

    def show_found(self, *, known: bool) -> None:
        case, system = self.session.case, self.session.system
        if case.is_measured:
            show_split(self.plot, case.split, case.limit.limit_mm, system, known=known)
        else:
            self.plot.begin(system)

    def show_then(self, prediction: Any) -> None:
        case = self.session.case
        show_prediction(self.plot, case.split, prediction.lash, case.limit.limit_mm, self.session.system)
