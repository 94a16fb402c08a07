"""What the frame is to what stands in it: stops and the view from afar know this, and not the frame."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QWidget

from trebb.app.survey.instrument_link import InstrumentLink
from trebb.app.window.session import Session
from trebb.core.survey import AnySetUp


class Host(QWidget):
    """Holds the open job, its instrument and the stop on the screen."""

    session: Session
    link: InstrumentLink

    @property
    def stop(self) -> Any:
        """The stop on the screen."""
        raise NotImplementedError

    @property
    def stop_key(self) -> str:
        """Key of the stop on the screen."""
        raise NotImplementedError

    def go_to(self, key: str) -> Any:
        """Move to a stop by its key; returns it."""
        raise NotImplementedError

    def add_piece(self, family: str) -> None:
        """Add a piece of that family to the chosen assembly, and choose it."""
        raise NotImplementedError

    def show_table(self, s: AnySetUp, phase: str) -> None:
        """Many readings of a set-up at once, of the chosen part."""
        raise NotImplementedError

    def show_from_afar(self) -> None:
        """Numerals for arm's length, and back."""
        raise NotImplementedError

    def show_where_from(self) -> None:
        """What the figures of the chosen assembly rest on."""
        raise NotImplementedError

    def bring_in(self) -> None:
        """Readings from a spreadsheet, pasted or from a file."""
        raise NotImplementedError
