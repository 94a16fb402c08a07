"""The parts of the chosen remedy, as a row of tabs."""

from __future__ import annotations

from functools import partial

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QButtonGroup, QPushButton, QWidget

from trebb.app.look.flow import Flow
from trebb.app.look.widgets import button, clear
from trebb.core.parts import family


class PartTabs(QWidget):
    """One tab a part; `verb` begins its tooltip, `prefix` its name."""

    chosen = Signal(str)

    def __init__(self, verb: str, prefix: str) -> None:
        super().__init__()
        self._verb, self._prefix = verb, prefix
        self._box = Flow(self)
        self._group = QButtonGroup(self)
        self.tabs: dict[str, QPushButton] = {}

    def show_parts(self, keys: tuple[str, ...], current: str) -> None:
        """Show other parts, or another as the one looked at."""
        if tuple(self.tabs) != keys:
            clear(self._box)
            self.tabs = {}
            for key in keys:
                title = family(key).title
                tab = button(
                    title,
                    partial(self.chosen.emit, key),
                    tip=f"{self._verb} the {title.lower()}",
                    name=f"{self._prefix}_{key}",
                )
                tab.setCheckable(True)
                self._group.addButton(tab)
                self._box.addWidget(tab)
                self.tabs[key] = tab
        for key, tab in self.tabs.items():
            tab.setChecked(key == current)
