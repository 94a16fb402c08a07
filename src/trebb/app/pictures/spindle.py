"""A spindle: the chain of causes and the runout over the distance; its measures as a remedy would leave
them.
"""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QSizePolicy, QStackedWidget, QWidget

from trebb.app.look.widgets import column
from trebb.app.pictures.base import CasePicture, OutcomePlot
from trebb.app.plots.chain_view import ChainView
from trebb.app.plots.reach_plot import ReachPlot
from trebb.app.window.session import Session


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
        self._pages = (found, self.outcome)
        for page in self._pages:
            self._stack.addWidget(page)

    def show_found(self, *, known: bool) -> None:
        case = self.session.case
        self._show_page(0)
        self.chain.show_split(
            case.split, case.job.limit(f"{case.kind.works_as}_work").limit_mm, self.session.system
        )
        self.reach.refresh()

    def _show_page(self, index: int) -> None:
        """One of the two; the other asks for no room, so that a long list above keeps its own."""
        for i, page in enumerate(self._pages):
            policy = QSizePolicy.Policy.Preferred if i == index else QSizePolicy.Policy.Ignored
            page.setSizePolicy(policy, policy)
        self._stack.setCurrentIndex(index)

    def show_then(self, prediction: Any) -> None:
        self._show_page(1)
        self.outcome.show_outcome(self.session.case, prediction, self.session)
