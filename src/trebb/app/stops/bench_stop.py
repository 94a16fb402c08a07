"""What Survey and Prove share: a pod, a bench, and the simulated machine standing where the next reading
is.
"""

from __future__ import annotations

import sys
from collections.abc import Sequence
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer

from trebb.app.stops.base import DriveStop
from trebb.app.survey.bench import Bench
from trebb.app.survey.pod import Pod
from trebb.logbook.practice.state import is_begun, standing_at, stood

if TYPE_CHECKING:
    from trebb.app.window.host import Host

STAND_AFTER_MS = 80


class BenchStop(DriveStop):
    """A stop at which readings are taken; `phase` is "before" or "after" the repair."""

    phase = "before"

    def __init__(self, frame: Host, *, with_notes: bool) -> None:
        super().__init__(frame)
        self._later = QTimer(self)
        self._later.setSingleShot(True)
        self._later.setInterval(STAND_AFTER_MS)
        self._later.timeout.connect(self._stand_now)
        self.pod = Pod(self.session, frame.link, self.phase)
        self.bench = Bench(self.session, self.pod, self.phase, with_notes=with_notes)
        self.bench.aimed.connect(self.stand)
        self.bench.done.connect(self.keys_back)
        self.pod.taken.connect(self.taken)
        self.pod.taken.connect(self.keys_back)
        self.pod.several_taken.connect(self.bench.take_several)
        self.pod.several_taken.connect(self.keys_back)
        self.pod.turn_taken.connect(self.turn_taken)
        self.pod.turn_taken.connect(self.keys_back)
        self.pod.strike.connect(self.bench.strike_last)
        self.pod.far.connect(frame.show_from_afar)
        self.pod.many.connect(lambda: frame.show_table(self.bench.current, self.phase))
        self.pod.changed_instrument.connect(self.stand)

    def taken(self, raw: float, typed: str, instrument: str) -> None:
        """Record a reading."""
        self.bench.take(raw, typed, instrument)

    def turn_taken(self, found: Sequence[tuple[str, float]], typed: str) -> None:
        """Record a whole turn typed as one figure."""
        self.bench.take_turn(found, typed)

    def stand(self) -> None:
        """Let the simulated machine, as it is in this phase, stand at the place to be read.

        Its chance is a library of its own: where that is not loaded yet, the window is seen first.
        """
        if "numpy.random" in sys.modules:
            self._stand_now()
        else:
            self._later.start()

    def _stand_now(self) -> None:
        place = self.bench.place()
        machine = self.session.case.practice(self.phase)
        self.frame.link.hide(is_hidden=self.waits_for_set_up())
        if self.waits_for_set_up():
            return
        if machine is not None and place is not None:
            s = self.bench.current
            self._was_seen(place.key)
            count = len(self.session.job.readings(self.session.assembly, s.key, self.phase, place.key))
            turned = self.bench.angle_deg
            if turned is None:
                self.frame.link.stand_at(s, machine.reading(s, place.key, count))
            else:  # between the marks: what the indicator shows there
                self.frame.link.stand_at(s, machine.exact(s, f"{place.group}, {round(turned, 1):g}°", count))

    def waits_for_set_up(self) -> bool:
        """Whether a hidden machine is played and what is on show is not set up: its minutes begin then."""
        place, session = self.bench.place(), self.session
        if not session.is_silent or self.phase != "before" or place is None:
            return False
        s = self.bench.current
        lots = (lot.places for lot in s.all_lots(session.case.subject) if place.key in lot.places)
        return not is_begun(session.job, session.assembly, s.key, next(lots, (place.key,)))

    def set_up_now(self) -> None:
        """Set up what is on show: from now on the indicator is seen, and its minutes count."""
        place = self.bench.place()
        if place is not None:
            self.session.record(standing_at(self.session.assembly, self.bench.current.key, place.key))

    def _was_seen(self, place: str) -> None:
        """A place that the indicator of a hidden machine stands at counts, taken or not."""
        session, at = self.session, (self.session.assembly, self.bench.current.key, place)
        if session.is_silent and self.phase == "before" and at not in stood(session.job):
            read = {p.place for p in session.job.standing(at[0], at[1])}
            if place not in read:
                session.record(standing_at(*at))

    def show_fact(self, key: str) -> None:
        """Put the keys into the field of a fact: beside the readings, or among what was seen of a thread."""
        bench = self.bench
        if getattr(bench.view(), "show_fact", lambda key: False)(key):
            return
        if bench.aside.isHidden():  # its view takes that room
            plain = next((s for s in bench.set_ups if s.view not in ("naming", "gear_names")), None)
            if plain is not None:
                bench.choose_set_up(plain.key)
        bench.aside.show_fact(key)

    def show_nothing(self) -> None:
        self.pod.aim(None, None)

    def take(self) -> bool:
        if self.waits_for_set_up():
            self.set_up_now()
        else:
            self.pod.take()
        return True

    def typed(self, text: str) -> bool:
        self.pod.entry.setFocus()
        self.pod.entry.insert(text)
        return True

    def turn_by(self, step: int) -> bool:
        return self.bench.turn_by(step)

    def strike(self) -> bool:
        return self.bench.strike_last()

    def step(self, by: int) -> bool:
        self.bench.step(by)
        return True
