"""Five gestures for whoever opens the demo, or begins a job, first: each is asked for, and seen when it was
really done.
"""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct
from PySide6.QtWidgets import QVBoxLayout

from trebb.app.look.widgets import Banner, button, row
from trebb.app.window.host import Host


class Step(Struct, frozen=True):
    """A gesture: what to do, what it shows, whether it was done; `may_wait` : who does the next one first is
    not held up by it.
    """

    head: str
    text: str
    is_done: Callable[[Host, int], bool]
    may_wait: bool = False


def _read(host: Host, since: int) -> bool:
    return any(r.id > since for r in host.session.job.all_readings())


def _taken_back(host: Host, since: int) -> bool:
    return any(e.body.kind == "undone" and e.id > since for e in host.session.file.entries())


def _at(stop: str) -> Callable[[Host, int], bool]:
    return lambda host, since: host.stop_key == stop


# Of a job of one's own: its kind was chosen when it was begun.
OWN_STEPS = (
    Step("What it is was chosen: it stands at the left.", "", lambda host, since: True),
    Step(
        "Here at Intake (Ctrl+1): click the part that troubles you most, then Number one.",
        "The grades below say how the rest looked. What the machine is called and worth can wait.",
        lambda host, since: host.session.job.number_one is not None,
        may_wait=True,
    ),
    Step(
        "Press Ctrl+2: Survey. Do what the figure shows, type what you read, Enter.",
        "12, .012, 6 tenths, 1 to 2 thou: as you would say it. Worth taking next, at the right, says what "
        "settles most a minute.",
        _read,
    ),
    Step(
        "Press Ctrl+3: what it says.",
        "What one reading tells, with its ±; what nobody read is said to be not read.",
        _at("findings"),
    ),
    Step(
        "What next: click the first line under Worth taking next, and read it.",
        "So it goes on until the verdict stands. Ctrl+4 shows what each repair would leave.",
        _read,
    ),
)
STEPS = (
    Step(
        "Press Space: the reading is taken.",
        "It is what the needle shows, at the place that is blue. It is in the job from that moment.",
        _read,
    ),
    Step(
        "Press Ctrl+3: Findings.",
        "What the readings fix, each figure against its limit; what nobody read is said to be not read.",
        _at("findings"),
    ),
    Step(
        "Press Ctrl+4, and choose a remedy at the right.",
        "Each is shown with what it would leave. Up and Down look at another one.",
        lambda host, since: host.session.job.chosen(host.session.assembly) is not None,
    ),
    Step(
        "Press Ctrl+5: Parts.",
        "What that remedy needs made: its sizes from what was read, its drawing, its checks.",
        _at("parts"),
    ),
    Step(
        "Press Ctrl+Z: the last gesture is taken back.",
        "Any of them can be; nothing that was recorded is ever lost.",
        _taken_back,
    ),
)


class FirstSteps(Banner):
    """Stands above the job until the five are done, or it is closed; `over` is called then."""

    def __init__(self, host: Host, over: Callable[[], object], steps: tuple[Step, ...] = STEPS) -> None:
        super().__init__()
        self.steps = steps
        self.setObjectName("first_steps")
        self._host, self._over = host, over
        self.at = 0
        self._since = 0
        self.done_button = button(
            "Not now", self._close, kind="link", tip="Close this; F1 has it too", name="first_steps_close"
        )
        box = self.layout()
        assert isinstance(box, QVBoxLayout)
        box.removeWidget(self.head)
        line = row()  # one line: the job below needs the room
        line.addWidget(self.head, 1)
        line.addWidget(self.done_button)
        box.insertLayout(0, line)
        self._begin()
        self.refresh()

    def _begin(self) -> None:
        entries = self._host.session.file.entries()
        self._since = entries[-1].id if entries else 0
        step = self.steps[self.at]
        self.say("soft", f"{self.at + 1} of {len(self.steps)}   {step.head}", step.text)

    def _gone(self) -> int:
        """How many are behind, from the one asked for on."""
        now = self.steps[self.at]
        if now.is_done(self._host, self._since):
            return 1
        return 2 if now.may_wait and self.steps[self.at + 1].is_done(self._host, self._since) else 0

    def refresh(self) -> None:
        """The next one, where the one asked for was done."""
        if self.at < len(self.steps) and (gone := self._gone()):
            self.at += gone
            if self.at < len(self.steps):
                self._begin()
                return
            self.say(
                "within", "That is all there is to know first.", "F1 explains whatever is on the screen."
            )
            self.done_button.setText("Close")
            self._over()

    def _close(self) -> None:
        self.hide()
        self._over()
