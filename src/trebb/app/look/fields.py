"""A grid of fields, each with its refusal below it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import cached_property

from msgspec import Struct
from PySide6.QtCore import QSize
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QComboBox, QGridLayout, QLabel, QSizePolicy, QWidget

from trebb.app.look import theme
from trebb.app.look.beneath import Beneath
from trebb.app.look.typed import LengthEdit, WordsEdit
from trebb.app.look.widgets import Choice, label
from trebb.core.errors import TrebbError

Commit = Callable[[str], object]


class _Line(Struct, eq=False, dict=True):
    read: Callable[[], str]
    edit: LengthEdit | None
    choice: QComboBox | None
    refusal: QLabel
    caption: QLabel
    commit: Commit

    @property
    def field(self) -> QWidget:
        """The field itself."""
        field = self.edit or self.choice
        assert field is not None
        return field

    @cached_property
    def caption_px(self) -> int:
        """Width of its caption in one line."""
        self.caption.ensurePolished()
        return self.caption.fontMetrics().horizontalAdvance(self.caption.text()) + 2

    def field_px(self, most: int) -> int:
        """Width in which what stands in it can be read, as far as that is asked for."""
        if self.choice is not None:
            words, frame = self.choice.currentText(), Choice.ARROW + FIELD_FRAME // 2
        else:
            words, frame = self.edit.text() if self.edit is not None else "", FIELD_FRAME
        return max(56, min(most, self.field.fontMetrics().horizontalAdvance(words)) + frame)


FIELD_FRAME = 20  # px round a field's words
# Words longer than this have a tooltip instead: of fields in one column, and of those beside each other.
WIDEST, WIDEST_BESIDE = 180, 110
GAP = 10
USUAL = "usual: nobody stated or measured it"


class Fields(QWidget):
    """Labelled fields: as many beside each other as find room for what stands in them, and where even one
    does not, below its caption. `read` gives what to show, `commit` takes what was typed and may raise a
    TrebbError.
    """

    def __init__(self, columns: int = 1) -> None:
        super().__init__()
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(GAP)
        self._grid.setVerticalSpacing(4)
        self._columns = columns
        self._lines: dict[str, _Line] = {}
        # Whether what a field shows is a usual value that nobody stated: such a one is drawn hollow.
        self.is_usual: Callable[[str], bool] = lambda key: False
        self.is_asked: Callable[[str], bool] = lambda key: True  # what is not, is not shown
        self._stands: tuple[int, tuple[bool, ...]] = (0, ())

    def _add(
        self,
        key: str,
        words: str,
        read: Callable[[], str],
        commit: Commit,
        edit: LengthEdit | None,
        choice: QComboBox | None,
    ) -> None:
        caption, refusal = label(words), label("", "refused", wrap=True)
        for widget in (caption, edit or choice, refusal):
            assert widget is not None
            widget.setParent(self)
            widget.show()
        refusal.hide()
        self._lines[key] = _Line(read, edit, choice, refusal, caption, commit)
        self._arrange()

    # where they stand --------------------------------------------------------------------------

    def minimumSizeHint(self) -> QSize:
        return QSize(100, self._grid.minimumSize().height())

    def resizeEvent(self, event: QResizeEvent) -> None:
        super().resizeEvent(event)
        self._arrange()

    def _arrange(self) -> None:
        """Put captions and fields where there is room for them."""
        lines = [line for line in self._lines.values() if not line.field.isHidden()]
        stands = self._room_for(lines)
        if stands == self._stands:
            return
        self._stands = stands
        columns, below = stands
        while self._grid.takeAt(0) is not None:
            pass
        for k in range(2 * self._columns):
            self._grid.setColumnStretch(k, int(k % 2 and k < 2 * columns))
        for i, (line, is_below) in enumerate(zip(lines, below, strict=True)):
            r, c = 3 * (i // columns), 2 * (i % columns)
            line.caption.setWordWrap(is_below)
            self._grid.addWidget(line.caption, r, c, 1, 2 if is_below else 1)
            if is_below:
                self._grid.addWidget(line.field, r + 1, c, 1, 2)
            else:
                self._grid.addWidget(line.field, r, c + 1)
            self._grid.addWidget(line.refusal, r + 2, c, 1, 2)
        self.updateGeometry()

    def _room_for(self, lines: list[_Line]) -> tuple[int, tuple[bool, ...]]:
        """How many stand beside each other, and which below their caption."""
        wide = self.width()
        for columns in range(self._columns, 0, -1):
            each = [lines[k::columns] for k in range(columns)]
            most = WIDEST_BESIDE if columns > 1 else WIDEST
            needs = sum(
                max(line.caption_px for line in one) + GAP + max(line.field_px(most) for line in one)
                for one in each
                if one
            )
            if needs + GAP * (columns - 1) <= wide:
                return columns, (False,) * len(lines)
        beside = [line for line in lines if line.caption_px + GAP + line.field_px(WIDEST) <= wide]
        while beside:
            caption = max(line.caption_px for line in beside)
            tight = [line for line in beside if caption + GAP + line.field_px(WIDEST) > wide]
            widest = [line for line in beside if line.caption_px == caption]
            if not tight:
                break
            goes = min(tight, widest, key=len)
            beside = [line for line in beside if line not in goes]
        return 1, tuple(line not in beside for line in lines)

    def add(
        self,
        key: str,
        words: str,
        read: Callable[[], str],
        commit: Commit,
        tip: str,
        preview: Callable[[str], str] | None = None,
        *,
        is_words: bool = False,
    ) -> LengthEdit:
        """A typed field. `preview` shows a list back while it is typed, before it counts; `is_words`: any
        words will do, and are taken at rest.
        """
        edit = WordsEdit(key, tip) if is_words else LengthEdit(key, tip)
        edit.committed.connect(lambda text: self._commit(key, text))
        edit.dropped.connect(lambda: self._say(key, ""))
        self._add(key, words, read, commit, edit, None)
        if preview is not None:
            note = Beneath(edit)
            edit.textEdited.connect(lambda text: self._preview(note, preview, text))
            edit.committed.connect(lambda _: note.say(""))
            edit.dropped.connect(lambda: note.say(""))
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

    def field(self, key: str) -> QWidget | None:
        """The field of a key, None where there is none."""
        line = self._lines.get(key)
        return None if line is None else line.field

    def _say(self, key: str, sentence: str) -> None:
        refusal = self._lines[key].refusal
        refusal.setText(sentence)
        refusal.setVisible(bool(sentence))

    def _preview(self, note: Beneath, preview: Callable[[str], str], text: str) -> None:
        try:
            shown = preview(text) if text.strip() else ""
        except TrebbError:  # half a list is no mistake yet
            shown = ""
        note.say(f"read as {shown}" if shown else "")

    def _commit(self, key: str, text: str) -> bool:
        line = self._lines[key]
        try:
            line.commit(text)
        except TrebbError as error:
            self._say(key, f"{error}.")
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
        self._say(key, sentence)
        edit = self._lines[key].edit
        if edit is not None:
            edit.set_refused(bool(sentence))

    def refresh(self) -> None:
        """Show the job's values, except where someone is typing or was refused."""
        for key, line in self._lines.items():
            if line.edit is not None and line.edit.property("refused") != "true":
                line.edit.show_value(line.read())
            if line.choice is not None:
                line.choice.setCurrentIndex(max(0, line.choice.findData(line.read())))
            self._dress(key, line)
            self._ask(key, line)
        self._arrange()

    def _ask(self, key: str, line: _Line) -> None:
        """Show it only while it is asked for; what others hide stays hidden."""
        asked = self.is_asked(key)
        if asked == bool(line.field.property("unasked")):
            line.field.setProperty("unasked", not asked)
            for widget in (line.caption, line.field):
                widget.setVisible(asked)
            line.refusal.setVisible(asked and bool(line.refusal.text()))

    def _dress(self, key: str, line: _Line) -> None:
        usual = "true" if self.is_usual(key) else "false"
        if (line.field.property("usual") or "false") != usual:
            line.field.setProperty("usual", usual)
            line.field.setAccessibleDescription(USUAL if usual == "true" else "")
            theme.restyle(line.field)
