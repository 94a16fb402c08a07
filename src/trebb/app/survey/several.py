"""Several readings typed at once: where they land, and how that is said before they count."""

from __future__ import annotations

import contextlib
from collections.abc import Callable

from PySide6.QtWidgets import QLineEdit

from trebb.app.look.beneath import Beneath
from trebb.app.window.session import Session
from trebb.core.dual_units import in_units
from trebb.core.errors import InputError
from trebb.core.survey.several import Landing


class LandingLine(Beneath):
    """Says where several readings will land while they are typed, before they count."""

    def __init__(self, session: Session, entry: QLineEdit, several: Callable[[str], list[Landing]]) -> None:
        super().__init__(entry)
        self._session, self._several = session, several
        entry.textChanged.connect(self._show)

    def _show(self, text: str) -> None:
        landed: list[Landing] = []
        with contextlib.suppress(InputError):  # half of them is no mistake yet
            landed = self._several(text)
        if len({x.place for x in landed}) == 1:
            words = f"{len(landed)} readings of {landed[0].label}"
        else:
            words = "; ".join(f"{x.label}: {x.typed}" for x in landed)
        self.say(in_units(words, self._session.system) if landed else "")
