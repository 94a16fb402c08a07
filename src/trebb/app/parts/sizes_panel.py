"""The sizes of a part, as a column of figures."""

from __future__ import annotations

import math

from PySide6.QtCore import QEvent, QObject, Qt, Signal
from PySide6.QtWidgets import QGridLayout, QWidget

from trebb.app.look import theme
from trebb.app.look.widgets import label
from trebb.core.parts import SizeRow
from trebb.core.threads import Band
from trebb.core.units import UnitSystem, show_size, show_sizes, show_small


def size_text(line: SizeRow, system: UnitSystem) -> str:
    """A line's value as text."""
    value = line.value
    if isinstance(value, Band):
        if value.high_mm < 0.6:  # a play
            return f"{show_small(value.low_mm, system, unit=False)} to {show_small(value.high_mm, system)}"
        return show_sizes(value.low_mm, value.high_mm, system, unit=False)
    if line.kind == "text" or isinstance(value, str):
        return str(value)
    if line.kind == "angle":
        return f"{math.degrees(value):.2f}°".replace("-", "−")
    return show_small(value, system) if line.kind == "small" else show_size(value, system, unit=False)


LONG = 22  # letters of a figure that find no room beside its caption


class SizesPanel(QWidget):
    """Label and figure a line; key sizes are bold, notes stand below."""

    pointed = Signal(int)  # the row that the pointer is on; -1 for none

    def __init__(self) -> None:
        super().__init__()
        self._of: dict[QWidget, int] = {}
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setHorizontalSpacing(8)
        self._grid.setVerticalSpacing(1)
        self._grid.setColumnStretch(0, 1)
        self._shown: tuple[object, ...] = ()

    def show_rows(self, rows: tuple[SizeRow, ...], system: UnitSystem) -> None:
        """Show other sizes."""
        if (rows, system) == self._shown:
            return
        self._shown = (rows, system)
        self._of = {}
        while (item := self._grid.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        for at in range(self._grid.rowCount()):  # what stretched before stands elsewhere now
            self._grid.setRowStretch(at, 0)
            self._grid.setRowMinimumHeight(at, 0)
        at = 0
        for i, line in enumerate(rows):
            text = size_text(line, system)
            is_long = len(text) > LONG
            caption = label(line.label, "" if line.is_key else "soft", wrap=True)
            figure = label(text, "strong" if line.is_key else "", wrap=is_long)
            figure.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignTop)
            for widget in (caption, figure):
                self._of[widget] = i
                widget.installEventFilter(self)
            if is_long:  # words, below their caption
                self._grid.addWidget(caption, at, 0, 1, 2)
                at += 1
                self._grid.addWidget(figure, at, 0, 1, 2)
            else:
                self._grid.addWidget(caption, at, 0)
                self._grid.addWidget(figure, at, 1)
            at += 1
            if line.note:
                note = label(line.note, "small", wrap=True)
                note.setAlignment(Qt.AlignmentFlag.AlignRight)
                self._grid.addWidget(note, at, 0, 1, 2)
                at += 1
            self._grid.setRowMinimumHeight(at, 4)
            at += 1
        self._grid.setRowStretch(at, 1)

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """The row that the pointer comes on or leaves."""
        if event.type() in (QEvent.Type.Enter, QEvent.Type.Leave) and isinstance(watched, QWidget):
            row = self._of.get(watched, -1) if event.type() == QEvent.Type.Enter else -1
            self.light(row)
            self.pointed.emit(row)
        return super().eventFilter(watched, event)

    def light(self, row: int) -> None:
        """Wash a row; -1 for none."""
        for widget, i in self._of.items():
            lit = "true" if i == row else "false"
            if (widget.property("lit") or "false") != lit:
                widget.setProperty("lit", lit)
                theme.restyle(widget)
