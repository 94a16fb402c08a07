"""What every stop is to the frame."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget

if TYPE_CHECKING:
    from trebb.app.frame import Frame


class Stop(QWidget):
    """The middle of the window at one stop. It holds no state of the job.

    `side` is what stands at the right; `instead` what stands below the
    machine's elevation instead of its assemblies (None: the assemblies). The
    frame sends bench keys only while the chosen part has set-ups.
    """

    side: QWidget
    instead: QWidget | None = None

    def __init__(self, frame: Frame) -> None:
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

    def step(self, by: int) -> bool:
        """Up or down: the neighbouring place or line."""
        return False
