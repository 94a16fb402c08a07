"""What the pages share that bring many readings: a banner, and the button that takes them in one gesture."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtWidgets import QWidget

from trebb.app.look.cover_page import CoverPage
from trebb.app.look.widgets import Banner, button
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.logbook.log.entries import ReadingTaken


class ReadingsPage(CoverPage):
    """Covers the job; `name` begins the names of its buttons. `to_take` says what is understood."""

    def __init__(
        self, parent: QWidget, session: Session, title: str, *, name: str, beside: Sequence[QWidget | None]
    ) -> None:
        super().__init__(parent, title, name=name, tip="Take nothing", beside=beside)
        self._session = session
        self.banner = Banner()
        self.outer.addWidget(self.banner)
        self.take_button = button(
            "Take them",
            self.take,
            kind="primary",
            tip="One gesture: it can be undone whole",
            key="Ctrl+Return",
            shortcut=True,
            name=f"{name}_take",
        )

    def to_take(self) -> Sequence[ReadingTaken]:
        """The readings that are understood."""
        raise NotImplementedError

    def take(self) -> None:
        """Take what is understood, in one gesture."""
        readings = self.to_take()
        if not readings:
            return
        try:
            taken = self._session.record(*readings)
        except TrebbError as error:
            self.banner.say("beyond", "Not taken.", str(error))
            return
        if taken:
            self.close()
