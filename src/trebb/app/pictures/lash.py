"""A feed screw: its lash along the travel, screw and nut in section, and the dial against the slide."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import column, label
from trebb.app.parts.thread_section import SectionCanvas, crest_words
from trebb.app.pictures.base import CasePicture, Leaves
from trebb.app.plots.error_curve import ErrorCurve
from trebb.app.plots.lash import TravelPlot, show_prediction, show_split, show_wear
from trebb.app.window.session import Session
from trebb.core.condition import Estimate
from trebb.logbook.cases.drive_case import DriveCase


class LashPicture(CasePicture):
    """Layers of lash; behind a prediction, today's as a ghost. The section is dragged along the travel."""

    def __init__(self, session: Session) -> None:
        super().__init__(session)
        box = column()
        self.setLayout(box)
        self.plot = TravelPlot()
        inner = QWidget()
        inside = column(spacing=2)
        inner.setLayout(inside)
        self.section = SectionCanvas()
        self.section.moved.connect(self._say)
        inside.addWidget(self.section, 1)
        self.said = label("", "strong", wrap=True)
        inside.addWidget(self.said)
        self.wear = TravelPlot()
        self.error = ErrorCurve()
        self.leaves = Leaves(
            (
                (
                    "lash",
                    "Lash along the travel",
                    "The lash along the travel, by what it comes from",
                    self.plot,
                ),
                ("wear", "Wear", "The screw's wear along the travel, as read and smoothed", self.wear),
                (
                    "section",
                    "Thread in section",
                    "Screw and nut engaged, true to size; drag along the travel",
                    inner,
                ),
                ("error", "Dial against slide", "What the slide does less what the turns say", self.error),
            )
        )
        box.addWidget(self.leaves)

    def _case(self) -> DriveCase:
        case = self.session.case
        assert isinstance(case, DriveCase)
        return case

    def _say(self) -> None:
        case = self._case()
        self.said.setText(
            f"{self.section.words()} "
            f"{crest_words(case.drive, self.section.wear().value, self.session.system)}"
        )

    def _show(self, now: Estimate, ghost: Estimate | None = None) -> None:
        case, system = self._case(), self.session.system
        self.section.show_thread(case.drive, now, system)
        self._say()
        self.error.show_error(case.drive, now, system, ghost=ghost)
        show_wear(self.wear, case.drive, now, case.wear_read() if ghost is None else (), system)

    def show_found(self, *, known: bool) -> None:
        case, system = self._case(), self.session.system
        if case.is_measured:
            show_split(
                self.plot,
                case.split,
                case.limit.limit_mm,
                system,
                known=known,
                start=case.drive.end_names[0],
                key=case.drive.has_dial,
            )
        else:
            self.plot.begin(system, start=case.drive.end_names[0])
        self._show(case.estimate)

    def show_then(self, prediction: Any) -> None:
        case = self._case()
        show_prediction(
            self.plot,
            case.split,
            prediction.lash,
            case.limit.limit_mm,
            self.session.system,
            start=case.drive.end_names[0],
        )
        self._show(prediction.after, case.estimate)
