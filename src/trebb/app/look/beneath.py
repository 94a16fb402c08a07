"""A note beneath a field while one types in it, over what stands there: nothing moves under the pointer."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QObject, QPoint
from PySide6.QtWidgets import QWidget

from trebb.app.look.widgets import Label

NARROWEST = 150  # px: below, words would stand one to a line
GAP = 2


class Beneath(Label):
    """Words shown beneath a field, above it where the window ends; gone when the field is left."""

    def __init__(self, field: QWidget) -> None:
        super().__init__("")
        self._field = field
        self.setParent(field)
        self.setProperty("kind", "beneath")
        self.setWordWrap(True)
        self.hide()
        field.installEventFilter(self)
        field.destroyed.connect(self.deleteLater)  # shown once, it hangs on the window

    def say(self, words: str) -> None:
        """Show words; none hides it."""
        self.setText(words)
        if not words or not self._field.isVisible():
            self.hide()
            return
        window = self._field.window()
        if self.parent() is not window:
            self.setParent(window)
        self.ensurePolished()
        wide = min(max(NARROWEST, self._field.width()), window.width())
        high = self.heightForWidth(wide)
        at = self._field.mapTo(window, QPoint(0, self._field.height() + GAP))
        if at.y() + high > window.height():
            at = self._field.mapTo(window, QPoint(0, -high - GAP))
        self.setGeometry(max(0, min(at.x(), window.width() - wide)), max(0, at.y()), wide, high)
        self.raise_()
        self.show()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Left, hidden or moved, the field has no note."""
        if event.type() in (QEvent.Type.FocusOut, QEvent.Type.Hide, QEvent.Type.Move, QEvent.Type.Resize):
            self.hide()
        return super().eventFilter(watched, event)
