"""What every picture of readings is to the bench."""

from __future__ import annotations

from msgspec import Struct
from PySide6.QtCore import Signal
from PySide6.QtWidgets import QWidget

from trebb.app.window.session import Session
from trebb.core.survey import AnySetUp, Place
from trebb.logbook.log.fold_log import Reading


class Shown(Struct, frozen=True):
    """What a view is asked to show: the set-up in a phase, and the place to be read next.

    `angle_deg` is where the simulated spindle stands, None where there is none.
    `aside` is the reason why the readings are set aside, or "".
    """

    session: Session
    set_up: AnySetUp
    phase: str
    place: Place | None
    aside: str = ""
    angle_deg: float | None = None

    def readings(self) -> list[Reading]:
        """Every reading of the set-up in this phase, struck ones included."""
        return self.session.job.readings(self.session.assembly, self.set_up.key, self.phase)


class ReadingView(QWidget):
    """A picture of a set-up's readings. It holds no state of the job.

    `chosen` names a place to read, `figure_chosen` a reading to strike out,
    `turned` the angle to which the simulated spindle was turned by hand.
    """

    chosen = Signal(str)
    figure_chosen = Signal(int)
    turned = Signal(float)

    def show_readings(self, shown: Shown) -> None:
        """Show the readings as they now are."""
        raise NotImplementedError

    def turn_by(self, step: int) -> bool:
        """Left or right arrow. False where it means nothing here."""
        return False

    def take(self) -> bool:
        """Space, where the view itself has something to take."""
        return False
