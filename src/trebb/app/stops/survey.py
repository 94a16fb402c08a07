"""Survey: readings with their set-ups."""

from __future__ import annotations

from PySide6.QtWidgets import QWidget

from trebb.app.bench import Bench
from trebb.app.pod import Pod
from trebb.app.stops.base import Stop
from trebb.app.stops.unmeasured import Unmeasured
from trebb.app.widgets import column, rule
from trebb.app.worth_next import WorthNext


class SurveyStop(Stop):
    """Bench in the middle, pod and suggestions at the right."""

    phase = "before"

    def __init__(self, frame) -> None:  # type: ignore[no-untyped-def]
        super().__init__(frame)
        self.pod = Pod(self.session, frame.link)
        self.worth = WorthNext(self.session)
        self.side = QWidget()
        side = column(spacing=8)
        self.side.setLayout(side)
        side.addWidget(self.pod, 1)
        side.addWidget(rule())
        side.addWidget(self.worth)
        self.bench = Bench(self.session, self.pod, self.phase, with_notes=True)
        self.other = Unmeasured(self.session)
        box = column()
        self.setLayout(box)
        box.addWidget(self.bench)
        box.addWidget(self.other)
        self.bench.aimed.connect(self.stand)
        self.bench.done.connect(self.keys_back)
        self.pod.taken.connect(self.bench.take)
        self.pod.taken.connect(self.keys_back)
        self.pod.strike.connect(self.bench.strike_last)
        self.pod.far.connect(frame.show_from_afar)
        self.pod.changed_instrument.connect(self.stand)
        self.worth.chosen.connect(self.bench.choose_set_up)

    def refresh(self) -> None:
        on = self.session.is_on_drive
        self.bench.setVisible(on)
        self.other.setVisible(not on)
        if on:
            self.bench.refresh()
        else:
            self.other.refresh()
            self.pod.aim(None, None)
        self.worth.refresh()

    def stand(self) -> None:
        """Let the simulated machine stand at the place to be read."""
        place = self.bench.place()
        machine = self.session.case.practice(self.phase)
        if machine is not None and place is not None and self.session.is_on_drive:
            count = len(self.session.job.readings(self.session.assembly, self.bench.current.key, self.phase, place.key))
            self.frame.link.stand_at(self.bench.current, machine.reading(self.bench.current, place.key, count))

    def take(self) -> bool:
        self.pod.take()
        return True

    def typed(self, text: str) -> bool:
        self.pod.entry.setFocus()
        self.pod.entry.insert(text)
        return True

    def strike(self) -> bool:
        return self.bench.strike_last()

    def step(self, by: int) -> bool:
        self.bench.step(by)
        return True
