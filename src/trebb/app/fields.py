"""A grid of fields, each with its refusal below it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QSizePolicy, QWidget

from trebb.app import theme
from trebb.app.widgets import Choice, LengthEdit, label
from trebb.core.errors import TrebbError

Commit = Callable[[str], object]


@dataclass
class _Line:
    read: Callable[[], str]
    edit: LengthEdit | None
    choice: QComboBox | None
    refusal: QLabel
    caption: QLabel
    commit: Commit


class Fields(QWidget):
    """Labelled fields. `read` gives what to show, `commit` takes what was typed and may raise a
    TrebbError.
    """

    def __init__(self, columns: int = 1) -> None:
        super().__init__()
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(10)
        self._grid.setVerticalSpacing(4)
        self._columns = columns
        self._lines: dict[str, _Line] = {}
        for k in range(columns):
            self._grid.setColumnStretch(3 * k + 1, 1)

    def _place(self) -> tuple[int, int]:
        n = len(self._lines)
        return 2 * (n // self._columns), 3 * (n % self._columns)

    def _add(
        self,
        key: str,
        words: str,
        read: Callable[[], str],
        commit: Commit,
        edit: LengthEdit | None,
        choice: QComboBox | None,
    ) -> None:
        r, c = self._place()
        caption, refusal = label(words), label("", "refused", wrap=True)
        refusal.hide()
        self._grid.addWidget(caption, r, c)
        field = edit or choice
        assert field is not None
        self._grid.addWidget(field, r, c + 1)
        self._grid.addWidget(refusal, r + 1, c, 1, 2)
        self._lines[key] = _Line(read, edit, choice, refusal, caption, commit)

    def add(
        self,
        key: str,
        words: str,
        read: Callable[[], str],
        commit: Commit,
        tip: str,
        preview: Callable[[str], str] | None = None,
    ) -> LengthEdit:
        """A typed field. `preview` shows a list back while it is typed, before it counts."""
        edit = LengthEdit(key, tip)
        edit.committed.connect(lambda text: self._commit(key, text))
        edit.dropped.connect(lambda: self._say(key, "", ""))
        self._add(key, words, read, commit, edit, None)
        if preview is not None:
            edit.textEdited.connect(lambda text: self._preview(key, preview, text))
        return edit

    def add_choice(
        self,
        key: str,
        words: str,
        choices: Mapping[str, str],
        read: Callable[[], str],
        commit: Commit,
        tip: str,
    ) -> QComboBox:
        """A field with a few choices, stored key → words."""
        box = Choice()
        box.setObjectName(key)
        box.setToolTip(tip)
        box.setAccessibleName(words)
        box.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Fixed)  # gives way in a narrow panel
        box.setMinimumWidth(70)
        for value, shown in choices.items():
            box.addItem(shown, value)
        box.activated.connect(lambda: self._commit(key, str(box.currentData())))
        self._add(key, words, read, commit, None, box)
        return box

    def _say(self, key: str, kind: str, sentence: str) -> None:
        """Words below a field: a refusal, or a list shown back."""
        refusal = self._lines[key].refusal
        if kind and refusal.property("kind") != kind:
            refusal.setProperty("kind", kind)
            theme.restyle(refusal)
        refusal.setText(sentence)
        refusal.setVisible(bool(sentence))

    def _preview(self, key: str, preview: Callable[[str], str], text: str) -> None:
        try:
            shown = preview(text) if text.strip() else ""
        except TrebbError:  # half a list is no mistake yet
            shown = ""
        self._say(key, "soft", f"read as {shown}" if shown else "")

    def _commit(self, key: str, text: str) -> bool:
        line = self._lines[key]
        try:
            line.commit(text)
        except TrebbError as error:
            self._say(key, "refused", f"{error}.")
            if line.edit is not None:
                line.edit.set_refused(True)
                line.edit.setModified(True)
            return False
        if line.edit is not None:
            line.edit.setModified(False)
        self.refused(key, "")
        self.refresh()
        return True

    def refused(self, key: str, sentence: str) -> None:
        """Show or clear a refusal below a field."""
        self._say(key, "refused", sentence)
        edit = self._lines[key].edit
        if edit is not None:
            edit.set_refused(bool(sentence))

    def refresh(self) -> None:
        """Show the job's values, except where someone is typing or was refused."""
        for line in self._lines.values():
            if line.edit is not None and line.edit.property("refused") != "true":
                line.edit.show_value(line.read())
            if line.choice is not None:
                line.choice.setCurrentIndex(max(0, line.choice.findData(line.read())))
