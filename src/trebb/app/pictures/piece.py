"""A piece whose family says in its record how it is drawn: that figure, and its measures now and then."""

from __future__ import annotations

from typing import Any

from trebb.app.look.widgets import FigureView, column
from trebb.app.pictures.base import CasePicture, Leaves, OutcomePlot
from trebb.app.window.session import Session
from trebb.core.figure import said_in
from trebb.logbook.cases.piece_case import PieceCase

MOST_HIGH = 260  # figures are wide: what is taller stands empty


class PiecePicture(CasePicture):
    """The piece as read; the measures where a remedy is looked at."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.figure = FigureView()
        self.figure.setMaximumHeight(MOST_HIGH)
        self.outcome = OutcomePlot()
        self.leaves = Leaves(
            (
                ("piece", "As read", "What was read of it", self.figure),
                ("outcome", "Figures", "Each figure now and then, against its limit", self.outcome),
            )
        )
        box.addWidget(self.leaves)

    def _show(self) -> None:
        case, system = self.session.case, self.session.system
        assert isinstance(case, PieceCase)
        draw = case.judging.picture
        if draw is not None:
            self.figure.show_figure(said_in(draw(case.known("before", system)), system))

    def show_found(self, *, known: bool) -> None:
        self.leaves.offer("outcome", on=False)
        self._show()

    def show_then(self, prediction: Any) -> None:
        self.leaves.offer("outcome", on=True)
        self._show()
        self.outcome.show_outcome(self.session.case, prediction, self.session)
