"""Survey: readings with their set-ups."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import button, column, rule
from trebb.app.practice.help import PracticeHelp
from trebb.app.stops.bench_stop import BenchStop
from trebb.app.survey.worth_next import MOST, WorthNext

if TYPE_CHECKING:
    from trebb.app.window.host import Host


class SurveyStop(BenchStop):
    """Bench in the middle, pod and suggestions at the right."""

    paper = "readings"

    def __init__(self, frame: Host) -> None:
        super().__init__(frame, with_notes=True)
        self.worth = WorthNext(self.session)
        self.worth.chosen.connect(self.bench.choose_set_up)
        self.side = QWidget()
        side = column()
        self.side.setLayout(side)
        side.addWidget(self.pod, 1)
        self.help = PracticeHelp(self.session, self.set_up_now)
        self.bench.aimed.connect(self._show_help)
        side.addWidget(self.help)
        side.addWidget(rule())
        side.addWidget(self.worth)
        self.bring = button(
            "Readings from a spreadsheet",
            frame.bring_in,
            kind="link",
            tip="Pasted or from a file; shown before any is taken",
            key="Ctrl+Shift+V",
            name="bring_in",
        )
        side.addWidget(self.bring)
        self.body_box.addWidget(self.bench)

    def refresh(self) -> None:
        super().refresh()
        self.worth.refresh()
        self._show_help()

    def _show_help(self) -> None:
        """What may be done before the set-up on show is read."""
        here = self.bench.current if self.has_job() else None
        self.help.show_at(here, waits=here is not None and self.waits_for_set_up())
        silent = self.session.is_silent
        self.bring.setVisible(not silent)
        self.pod.table.setVisible(not silent)
        self.worth.show_at_most(1 if silent else MOST)
        self.worth.setVisible(self.session.is_told("next"))

    def show_job(self) -> None:
        self.bench.refresh()
