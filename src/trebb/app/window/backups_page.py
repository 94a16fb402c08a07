"""Back-ups: copies of jobs made at their close, to be restored under a new name."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QGridLayout, QWidget

from trebb.app.look.beside_page import BesidePage
from trebb.app.look.widgets import button, clear, column, label, scrolled, sheet
from trebb.core.dates import full_words
from trebb.core.errors import TrebbError
from trebb.logbook.file.backups import BackUp, backup_folder, backups, restore

if TYPE_CHECKING:
    from trebb.app.window.start_page import Opener


class BackupsPage(BesidePage):
    """A line a copy, the newest first."""

    def __init__(self, window: Opener, back: Callable[[], object]) -> None:
        where = f"Made when a job is closed, ten of each kept, in {backup_folder()}"
        super().__init__("Back-ups", where, back, name="backups")
        self._window = window
        inner = QWidget()
        box = column()
        inner.setLayout(box)
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(24)
        self.grid.setVerticalSpacing(4)
        box.addLayout(self.grid)
        box.addStretch()
        body = column()
        body.addWidget(scrolled(inner))
        self.outer.addWidget(sheet(body, 20), 1)
        self.refresh()

    def refresh(self) -> None:
        """Show what there is."""
        clear(self.grid)
        self.found = backups()
        if not self.found:
            self.grid.addWidget(
                label("None yet: one is made when a job that something was added to is closed.", "soft"),
                0,
                0,
            )
        for i, one in enumerate(self.found):
            local = one.at.astimezone()
            self.grid.addWidget(label(one.machine, "strong"), i, 0)
            self.grid.addWidget(label(f"{full_words(local.date())}, {local:%H:%M}"), i, 1)
            self.grid.addWidget(label(f"{one.entries} entries"), i, 2)
            self.grid.addWidget(
                button(
                    "Restore as …",
                    partial(self._choose, one),
                    kind="chip",
                    tip="Write this copy as a new job, and open it; no job is written over",
                    name=f"restore_{i}",
                ),
                i,
                3,
            )
        self.grid.setColumnStretch(2, 1)

    def _choose(self, one: BackUp) -> None:
        name, _ = QFileDialog.getSaveFileName(
            self, "Restore as", str(Path.home() / f"{one.machine}-restored.trebb"), "Trebb jobs (*.trebb)"
        )
        if name:
            self.restore_to(one, Path(name if name.endswith(".trebb") else f"{name}.trebb"))

    def restore_to(self, one: BackUp, target: Path) -> None:
        """Restore a copy and open it; says here why it could not be."""
        try:
            restore(one, target)
        except TrebbError as error:
            self.banner.say("beyond", "Not restored.", str(error))
            return
        self._window.open_path(target)
