"""What is typed: fields that take any unit, lines and notes of words, and what is kept of words half typed.

Words are taken when whoever types them rests for a second, leaves the field, presses any button, or the
window ends, whichever way it ends. What no entry holds yet is kept as a draft beside the job.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import cast

from PySide6.QtCore import QEvent, QObject, Qt, QTimer, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import QLineEdit, QPlainTextEdit

from trebb.app.look import numerals, theme
from trebb.app.look.widgets import SaysWhole, Settles
from trebb.core.errors import TrebbError
from trebb.logbook.file.drafts import Drafts

REST_MS = 1000  # so long nothing is typed: it is taken


class AtRest(Settles):
    """Base of a field of words: they are settled when nothing was typed for a second, and when the field is
    left. Stands before the Qt class; that one calls `was_typed` for each change.
    """

    _rest: QTimer | None = None

    def was_typed(self) -> None:
        """Something was typed: it is taken in a second, unless more is."""
        if self._rest is None:
            self._rest = QTimer(cast(QObject, self))
            self._rest.setSingleShot(True)
            self._rest.timeout.connect(self.at_rest)
        self._rest.start(REST_MS)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        super().focusOutEvent(event)  # type: ignore[misc]  # the Qt class that stands beside it
        if event.reason() != Qt.FocusReason.PopupFocusReason:
            self.at_rest()

    def at_rest(self) -> None:
        """Take what stands here, or keep it."""
        self.settle()


class Notes(AtRest, QPlainTextEdit):
    """A few lines of words: `read` gives what is kept; `commit` keeps what was typed, and gives [] where it
    could not; `about` says of what they are: words for one thing are never kept of another.
    """

    def __init__(
        self,
        name: str,
        tip: str,
        read: Callable[[], str],
        commit: Callable[[str], object],
        *,
        about: Callable[[], object] = lambda: None,
        placeholder: str = "",
        height: int = 54,
    ) -> None:
        super().__init__()
        self._read, self._commit, self._about_now = read, commit, about
        self._about = about()
        self._shown = ""
        self.setObjectName(name)
        self.setToolTip(tip)
        self.setAccessibleName(tip)
        self.setPlaceholderText(placeholder or tip)
        self.setTabChangesFocus(True)
        self.setFixedHeight(height)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)  # the wheel alone brings no focus
        self.textChanged.connect(self._changed)

    @property
    def is_typed(self) -> bool:
        """Whether something other than what was shown stands here."""
        return self.toPlainText() != self._shown

    def _changed(self) -> None:
        if self.is_typed:
            self.was_typed()

    def show_value(self) -> None:
        """Show what is kept, unless something was typed that is not."""
        about, self._about = self._about, self._about_now()
        if self.is_typed and about == self._about:
            return
        kept = self._read()
        self._shown = kept
        if self.toPlainText() != kept:
            self.setPlainText(kept)

    def settle(self) -> bool:
        if self.is_typed:
            typed = self.toPlainText()
            before, self._shown = self._shown, typed
            try:
                is_kept = self._commit(typed.strip()) != []
            except TrebbError as error:
                is_kept = False
                self.setToolTip(f"{error}.")
            if not is_kept:  # it stays, and is tried again when more is typed or it is left
                self._shown = before
            return is_kept
        return True


class BenchEdit(QLineEdit):
    """A typed field that leaves our own keys to us: units, colours and ticks work while someone types."""

    def event(self, event: QEvent) -> bool:
        if event.type() == QEvent.Type.ShortcutOverride and isinstance(event, QKeyEvent):
            ours = event.modifiers() == Qt.KeyboardModifier.ControlModifier and event.key() in (
                Qt.Key.Key_U,
                Qt.Key.Key_E,
                Qt.Key.Key_D,
            )
            if ours:
                event.ignore()
                return True
        return super().event(event)


class LengthEdit(Settles, SaysWhole, BenchEdit):
    """A field that takes any unit or fraction, and gives the sentence of a refusal to `refused`."""

    committed = Signal(str)
    dropped = Signal()

    def __init__(self, name: str, tip: str) -> None:
        super().__init__()
        self.setObjectName(name)
        self.setAccessibleName(tip)
        self.setToolTip(tip)
        self._shown = ""
        self.setMinimumWidth(56)
        self.textChanged.connect(self.say_whole)
        self.returnPressed.connect(self._commit)
        self.editingFinished.connect(self._commit)

    def words_room(self) -> tuple[str, int]:
        """What stands here, and the width there is for it, px."""
        return self.text(), self.width() - 18

    @property
    def is_typed(self) -> bool:
        """Whether something other than the value shown stands here and was not entered yet."""
        return self.isModified() and self.text().strip() != self._shown

    def settle(self) -> bool:
        if self.is_typed:
            self.setModified(False)
            self.committed.emit(self.text())
        if self.property("refused") == "true":
            self.setFocus(Qt.FocusReason.OtherFocusReason)
            return False
        return True

    def drop(self) -> None:
        """Forget what was typed: the value stands again."""
        self.setText(self._shown)
        self.setModified(False)
        self.set_refused(False)
        self.dropped.emit()

    def show_value(self, text: str) -> None:
        """Show a value unless someone is typing."""
        text = numerals.shown_field(text)
        if self.hasFocus() and self.text().strip() == text:  # taken at rest: whoever types goes on
            self._shown = text
            self.setModified(False)
            self.set_refused(False)
        elif not (self.hasFocus() and self.isModified()):
            self._shown = text
            if text != self.text():
                self.setText(text)
                self.setCursorPosition(0)
            self.setModified(False)
            self.set_refused(False)

    def set_refused(self, refused: bool) -> None:
        """Outline the field where it was refused; what was typed stays."""
        if (self.property("refused") == "true") == refused:
            return
        self.setProperty("refused", "true" if refused else "false")
        theme.restyle(self)

    def _commit(self) -> None:
        if self.is_typed:
            self.setModified(False)
            self.committed.emit(self.text())


class DraftEdit(AtRest, BenchEdit):
    """A line for something new, entered with Enter: until then what stands in it is kept as a draft of the
    job, and stands there again when that is next opened.
    """

    def __init__(self, name: str, words: str, drafts: Callable[[], Drafts]) -> None:
        super().__init__()
        self.setObjectName(name)
        self.setAccessibleName(words)
        self._drafts = drafts
        self.setText(drafts().of(name))
        self.textEdited.connect(lambda _: self.was_typed())

    def settle(self) -> bool:
        self._drafts().keep(self.objectName(), self.text())
        return True

    def entered(self) -> None:
        """It was taken: the line is empty again."""
        self.clear()
        self.settle()


class WordsEdit(AtRest, LengthEdit):
    """A field of words alone: they need no unit, and are taken at rest."""

    def __init__(self, name: str, tip: str) -> None:
        super().__init__(name, tip)
        self.textEdited.connect(lambda _: self.was_typed())

    def at_rest(self) -> None:
        self._commit()  # one that is refused stays, and does not call the keys back
