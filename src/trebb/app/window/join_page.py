"""Two copies of one job that went apart, joined: what each brings, and which stands of what both state."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import ExitStack
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QGridLayout, QWidget

from trebb.app.look.beside_page import BesidePage
from trebb.app.look.widgets import button, clear, column, label, row, scrolled, sheet
from trebb.core import clock
from trebb.core.errors import TrebbError
from trebb.core.units import UnitSystem
from trebb.logbook.cases.clash_words import clash_about, clash_said
from trebb.logbook.file.joining import Joined, Side, chosen, joined, write_joined
from trebb.logbook.file.looking import JobLookedAt
from trebb.logbook.log.fold import Job

if TYPE_CHECKING:
    from trebb.app.window.start_page import Opener

WORDS = "A bench laptop's and an office's: nothing is lost, nothing comes twice, neither file is changed"
SIDES: tuple[Side, Side] = ("first", "second")
JOBS = "Trebb jobs (*.trebb)"


class JoinPage(BesidePage):
    """Two files, then a line a clash: the one that said it last stands, unless the other is chosen."""

    def __init__(self, window: Opener, back: Callable[[], object]) -> None:
        super().__init__("Join two copies", WORDS, back, name="join")
        self._window = window
        self.paths: dict[Side, Path] = {}
        self.found: Joined | None = None
        self.sides: list[Side] = []
        body = column(spacing=8)
        self.files = {}
        for side in SIDES:
            line = row(spacing=8)
            self.files[side] = label("no file yet", "soft")
            line.addWidget(
                button(
                    f"The {side} copy",
                    partial(self._choose, side),
                    tip=f"Choose the {side} of the two",
                    name=f"join_{side}",
                )
            )
            line.addWidget(self.files[side], 1)
            body.addLayout(line)
        inner = QWidget()
        box = column()
        inner.setLayout(box)
        self.grid = QGridLayout()
        self.grid.setHorizontalSpacing(12)
        box.addLayout(self.grid)
        box.addStretch()
        body.addWidget(scrolled(inner), 1)
        self.write_button = button(
            "Join as …",
            self._choose_target,
            kind="primary",
            tip="Write a new job of both, and open it",
            name="join_write",
        )
        self.write_button.setEnabled(False)
        body.addWidget(self.write_button)
        self.outer.addWidget(sheet(body, 20), 1)

    def _choose(self, side: Side) -> None:
        name, _ = QFileDialog.getOpenFileName(self, f"The {side} copy", str(Path.home()), JOBS)
        if name:
            self.take(side, Path(name))

    def take(self, side: Side, path: Path) -> None:
        """One of the two; says here why both are not of one job."""
        self.paths[side] = path
        self.files[side].setText(str(path))
        self.found, self.sides = None, []
        if len(self.paths) == len(SIDES):
            try:
                with ExitStack() as held:
                    one, other = (held.enter_context(JobLookedAt.look(self.paths[s])) for s in SIDES)
                    self.found = joined(one.entries(), other.entries())
            except TrebbError as error:
                self.banner.say("beyond", "These cannot be joined.", f"{error}.")
            else:
                self.sides = [c.newer for c in self.found.clashes]
        self._show()

    def stands(self, at: int, side: Side) -> None:
        """Whose stands of what both state otherwise."""
        self.sides[at] = side
        self._show()

    def _show(self) -> None:
        clear(self.grid)
        found = self.found
        self.write_button.setEnabled(found is not None)
        if found is None:
            return
        clashes = len(found.clashes)
        self.banner.say(
            "near" if clashes else "within",
            f"{found.of_both} entries of both, {found.of_first} of the first alone, {found.of_second} of the "
            "second.",
            f"Both state {clashes} thing{'s' if clashes != 1 else ''} otherwise: choose which stands."
            if clashes
            else "",
        )
        job, system = Job(found.entries), self._window.kept_units() or UnitSystem.INCH
        for i, clash in enumerate(found.clashes):
            self.grid.addWidget(label(clash_about(clash, job), "strong", wrap=True), i, 0)
            for k, side in enumerate(SIDES, start=1):
                chip = button(
                    f"{side}: {clash_said(clash, side, job, system)}",
                    partial(self.stands, i, side),
                    kind="chip",
                    tip=f"What the {side} copy says stands{', said last' if clash.newer == side else ''}",
                    name=f"clash_{i}_{side}",
                )
                chip.setCheckable(True)
                chip.setChecked(self.sides[i] == side)
                self.grid.addWidget(chip, i, k)
        self.grid.setColumnStretch(len(SIDES) + 1, 1)

    def _choose_target(self) -> None:
        name, _ = QFileDialog.getSaveFileName(self, "Join as", str(Path.home() / "joined.trebb"), JOBS)
        if name:
            self.write(Path(name if name.endswith(".trebb") else f"{name}.trebb"))

    def write(self, target: Path) -> None:
        """Write the job of both and open it; says here why it could not be."""
        if self.found is None:
            return
        entries = chosen(self.found, self.sides, clock.now().isoformat(timespec="milliseconds"))
        try:
            with ExitStack() as held:
                copies = {s: held.enter_context(JobLookedAt.look(self.paths[s])) for s in SIDES}
                write_joined(target, copies, entries)
        except TrebbError as error:
            self.banner.say("beyond", "Not joined.", f"{error}.")
            return
        self._window.open_path(target)
