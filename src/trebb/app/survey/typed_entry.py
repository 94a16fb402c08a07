"""Where a typed reading or a wedge cable's figures land."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent

from trebb.app.look import theme
from trebb.app.look.typed import BenchEdit
from trebb.app.look.widgets import SaysWhole, Settles


class TypedEntry(Settles, SaysWhole, BenchEdit):
    """Where a typed reading or a wedge cable's figures land; space in the empty field takes the
    instrument's.
    """

    at_buttons = False  # the pod's own button takes it

    def __init__(self, take: Callable[[], object], take_typed: Callable[[str], object]) -> None:
        super().__init__()
        self._take, self._take_typed = take, take_typed
        self.setObjectName("typed_reading")
        self.setAccessibleName("Typed reading")
        self.setToolTip("Type a reading in any unit, then Enter; a wedge cable types here by itself")
        self.returnPressed.connect(lambda: take_typed(self.text()) if self.text().strip() else take())

    def words_room(self) -> tuple[str, int]:
        """What may be typed here, and the width there is for it, px."""
        return self.placeholderText(), self.width() - 18

    def settle(self) -> bool:
        if self.text().strip():
            self._take_typed(self.text())
        return not self.text().strip()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Space and not self.text().strip():
            self._take()
        else:
            super().keyPressEvent(event)

    def mark(self, refused: bool) -> None:
        """Outline it where it was refused."""
        if bool(self.property("refused") == "true") != refused:
            self.setProperty("refused", "true" if refused else "false")
            theme.restyle(self)
