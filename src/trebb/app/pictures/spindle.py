"""A spindle: the chain of causes and the runout over the distance; its measures as a remedy would leave
them.
"""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QStackedWidget, QWidget

from trebb.app.chain_view import ChainView
from trebb.app.pictures.base import CasePicture, OutcomePlot
from trebb.app.reach_plot import ReachPlot
from trebb.app.session import Session
from trebb.app.widgets import column


class SpindlePicture(CasePicture):
    """Chain and curves as found; measures as predicted."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self._stack = QStackedWidget()
        box.addWidget(self._stack)
        found = QWidget()
        inside = column(spacing=8)
        found.setLayout(inside)
        self.chain, self.reach = ChainView(), ReachPlot(session)
        inside.addWidget(self.chain, 5)
        inside.addWidget(self.reach, 5)
        self.outcome = OutcomePlot()
        self._stack.addWidget(found)
        self._stack.addWidget(self.outcome)

    def show_found(self, *, known: bool) -> None:
        case = self.session.case
        self._stack.setCurrentIndex(0)
        self.chain.show_split(
            case.split, case.job.limit(f"{case.kind.key}_work").limit_mm, self.session.system
        )
        self.reach.refresh()

    def show_then(self, prediction: Any) -> None:
        self._stack.setCurrentIndex(1)
        self.outcome.show_outcome(self.session.case, prediction, self.session)
