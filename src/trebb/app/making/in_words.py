"""An operation in words: what holds it, the tool, the time, beside each other: its picture has the room."""

from __future__ import annotations

from PySide6.QtWidgets import QGridLayout, QLabel, QWidget

from trebb.app.look import theme
from trebb.app.look.widgets import label
from trebb.core.making.operations import Operation
from trebb.core.units import show_minutes

ROOM = {"Hold": 5, "Tool": 4, "Time": 2}  # shares of the line


class InWords(QWidget):
    """Hold, tool, time."""

    def __init__(self) -> None:
        super().__init__()
        self._grid = grid = QGridLayout(self)
        grid.setHorizontalSpacing(18)
        grid.setVerticalSpacing(0)
        self._figures: dict[str, QLabel] = {}
        for i, (words, share) in enumerate(ROOM.items()):
            figure = label("", "head", wrap=True)
            grid.addWidget(label(words, "soft"), 0, i)
            grid.addWidget(figure, 1, i)
            grid.setColumnStretch(i, share)
            self._figures[words] = figure
        self.set_low(low=False)

    def set_low(self, low: bool) -> None:
        """Smaller where a picture of the operation's own stands below."""
        for figure in self._figures.values():
            kind = "" if low else "head"
            if figure.property("kind") != kind:
                figure.setProperty("kind", kind)
                theme.restyle(figure)
        self._grid.setContentsMargins(0, 0 if low else 4, 0, 0 if low else 4)

    def show_operation(self, operation: Operation) -> None:
        """Show another operation."""
        self._figures["Hold"].setText(operation.hold or "–")
        self._figures["Tool"].setText(operation.tool or "–")
        self._figures["Time"].setText(f"about {show_minutes(operation.minutes)}")
