"""What every stop is to the frame."""

from __future__ import annotations

from collections.abc import Sequence
from functools import partial
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QPushButton, QWidget

from trebb.app.look import theme
from trebb.app.look.widgets import Banner, button, column, field_link
from trebb.app.window.far_cover import Far
from trebb.app.window.machine_panel import assembly_figure
from trebb.core.survey import set_up
from trebb.core.words import small

if TYPE_CHECKING:
    from trebb.app.stops.unmeasured import Unmeasured
    from trebb.app.window.host import Host


class Stop(QWidget):
    """The middle of the window at one stop. It holds no state of the job.

    `side` is what stands at the right; `instead` what stands below the
    machine's elevation instead of its assemblies (None: the assemblies). The
    frame sends bench keys only while the chosen part has set-ups.
    """

    side: QWidget
    instead: QWidget | None = None
    paper = ""  # the paper that is printed from here first

    def __init__(self, frame: Host) -> None:
        super().__init__()
        self.frame = frame
        self.session = frame.session

    def refresh(self) -> None:
        """Show the job as it now is."""
        raise NotImplementedError

    def take(self) -> bool:
        """Space was pressed: take a reading or a size. False where there is nothing to take."""
        return False

    def typed(self, text: str) -> bool:
        """A figure was typed with nothing in focus, as a wedge cable does. False where it has no place."""
        return False

    def strike(self) -> bool:
        """Backspace: strike out the last reading. False where there is none."""
        return False

    def keys_back(self) -> None:
        """After something was typed and taken, space and the figures belong to the bench again."""
        self.frame.setFocus(Qt.FocusReason.OtherFocusReason)

    def turn_by(self, step: int) -> bool:
        """Left or right: the neighbouring angle of a turn. False where it means nothing."""
        return False

    def step(self, by: int) -> bool:
        """Up or down: the neighbouring place or line."""
        return False

    def far(self) -> Far:
        """What it says from two metres: the chosen part and its worst figure."""
        state, figure = assembly_figure(self.session, self.session.case.assembly)
        return Far(self.session.case.assembly.label, figure, role=theme.state_role(state))

    def far_key(self, key: Qt.Key) -> bool:
        """A key pressed from afar that is none of the bench's. False where it means nothing."""
        return False

    def open_set_up(self, key: str) -> None:
        """Go to a set-up at Survey: of the chosen part where it has it, else of the first that has."""
        session = self.session
        having = (
            c for c in (session.case, *session.cases.measurable()) if any(s.key == key for s in c.set_ups)
        )
        case = next(having, None)
        if case is None:
            return
        if case.assembly_key != session.assembly:
            session.choose(case.assembly_key)
        bench = getattr(self.frame.go_to("survey"), "bench", None)
        if bench is not None:
            bench.choose_set_up(key)

    def open_fact(self, key: str) -> None:
        """Go to the field in which a fact of the chosen assembly is stated: at Survey where it is asked
        there, else at Parts, or beside what it is seen by.
        """
        schema = self.session.case.schema
        if schema is None:
            return
        asked = schema.fact(key).asked
        if "seen" in asked:
            self.open_set_up("which_thread")
        stop = self.frame.go_to("parts" if asked == ("parts",) else "survey")
        show = getattr(stop, "show_fact", None)
        if show is not None:
            show(key)

    def fact_links(self, keys: Sequence[str]) -> list[QPushButton]:
        """A button for each fact that a sentence asks to be stated: it goes to its field."""
        schema = self.session.case.schema
        return [
            field_link(
                f"State it: {small(schema.fact(key).words)}", partial(self.open_fact, key), f"state_{key}"
            )
            for key in keys
            if schema is not None
        ]


class DriveStop(Stop):
    """A stop that has something to show for a part with set-ups, and says so plainly for any other.

    Subclasses fill `body_box` and implement `show_job`; `show_nothing` is for
    what stands beside the body. `waits_for` : what a stop waits for while nothing of a part is read or
    stated, in a sentence; "" where it waits for nothing.
    """

    waits_for = ""

    def __init__(self, frame: Host, *, spacing: int = 8) -> None:
        super().__init__(frame)
        box = column()
        self.setLayout(box)
        self.waiting = Banner()
        self.begin = button("", self._begin, kind="link", tip="Go to the first reading", name="begin")
        self.waiting.buttons.addWidget(self.begin)
        self.waiting.buttons.addStretch(1)
        self.waiting.hide()
        box.addWidget(self.waiting)
        self.body = QWidget()
        self.body_box = column(spacing=spacing)
        self.body.setLayout(self.body_box)
        box.addWidget(self.body, 1)
        self._box = box
        self._other: Unmeasured | None = None

    @property
    def other(self) -> Unmeasured:
        """What is said of a part without set-ups, built when the first such part is chosen."""
        if self._other is None:
            from trebb.app.stops.unmeasured import Unmeasured

            self._other = Unmeasured(self.session)
            self._other.wanted.connect(self.frame.add_piece)
            self._box.addWidget(self._other)
        return self._other

    def has_job(self) -> bool:
        """Whether there is anything to show for the chosen part."""
        return self.session.case.has_set_ups

    def refresh(self) -> None:
        on = self.has_job()
        self.body.setVisible(on)
        self._say_waiting()
        if on:
            if self._other is not None:
                self._other.hide()
            self.show_job()
        else:
            self.other.show()
            self.other.refresh()
            self.show_nothing()

    def _first_set_up(self) -> str:
        """The set-up that a part is begun with: worth most a minute, or the first where that is not told."""
        case = self.session.case
        ranked = case.suggestions() if self.session.is_told("expert") else []
        return ranked[0].key.split("/")[0] if ranked else case.set_ups[0].key

    def _say_waiting(self) -> None:
        case = self.session.case
        waits = bool(self.waits_for and case.has_set_ups and not case.is_measured and not case.facts)
        self.waiting.setVisible(waits)
        if waits:
            key = self._first_set_up()
            self.waiting.say("soft", f"{case.assembly.label}: nothing is read yet.", self.waits_for)
            self.begin.setText(f"Read first: {set_up(key).title}")

    def _begin(self) -> None:
        self.open_set_up(self._first_set_up())

    def show_job(self) -> None:
        """Show the chosen part's job."""
        raise NotImplementedError

    def show_nothing(self) -> None:
        """Empty what stands beside the body."""
