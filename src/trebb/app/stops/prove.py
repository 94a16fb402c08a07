"""Prove: the same set-ups again, side by side with before, the limit and what was predicted."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtWidgets import QFileDialog, QStackedWidget, QWidget

from trebb.app.look.typed import Notes
from trebb.app.look.widgets import Banner, button, column, exclusive, label, row, rule, scrolled
from trebb.app.parts.tool_table_panel import ToolTablePanel
from trebb.app.plots.proof_plot import ProofPlot, ProofRow, grown_row
from trebb.app.stops.bench_stop import BenchStop
from trebb.core.errors import TrebbError
from trebb.core.proof import Comparison
from trebb.core.survey import set_up
from trebb.core.words import small
from trebb.logbook.cases.before_after import before_and_after
from trebb.logbook.cases.spindle_case import SpindleCase
from trebb.logbook.cases.verdict import proof_verdict, since_verdict
from trebb.logbook.log.entries import NoteWritten

if TYPE_CHECKING:
    from trebb.app.window.host import Host


PHASES = (
    ("after", "After the repair", "The same set-ups again, once it is mended"),
    ("later", "Looked at again", "A month or a year on: what it wore since"),
)


class ProveStop(BenchStop):
    """Bench above, comparison below, pod at the right; the acceptance sheet as PDF."""

    paper = "acceptance"

    phase = "after"

    def __init__(self, frame: Host) -> None:
        super().__init__(frame, with_notes=False)
        line = row(spacing=4)
        self.phases = exclusive(self, line, PHASES, self.show_phase, prefix="phase")
        line.addStretch(1)
        self.body_box.addLayout(line)
        self.side = QWidget()
        side = column(spacing=7)
        self.side.setLayout(side)
        side.addWidget(self.pod, 1)
        side.addWidget(rule())
        side.addWidget(label("What is left to do", "strong"))
        self.left = Notes(
            "left_to_do",
            "What is left to do: it goes onto the acceptance sheet",
            lambda: self.session.job.note("left"),
            lambda text: self.session.record(NoteWritten(topic="left", text=text)),
            placeholder="look again in a month; oil cap to find …",
            height=70,
        )
        side.addWidget(self.left)
        self.sheet_button = button(
            "Write the acceptance sheet",
            self._write,
            tip="Two pages at most, as PDF",
            key="Ctrl+P",
            shortcut=True,
            name="write_sheet",
        )
        side.addWidget(self.sheet_button)
        self.table_button = button(
            "Shift a tool table",
            lambda: self.show_table(True),
            tip="Every stored tool length moves by the new spindle's difference",
            key="Ctrl+T",
            shortcut=True,
            name="shift_table",
        )
        side.addWidget(self.table_button)
        self.said = label("", "small", wrap=True)
        self.said.hide()
        side.addWidget(self.said)
        self.bench.figure.hide()
        self.bench.purpose.hide()
        body = self.body_box
        body.addWidget(self.bench, 5)
        body.addWidget(rule())
        self.plot = ProofPlot()
        self.pages = QStackedWidget()
        self.pages.addWidget(scrolled(self.plot))
        self.table = ToolTablePanel(self.session)
        self.table.closed.connect(lambda: self.show_table(False))
        self.pages.addWidget(self.table)
        body.addWidget(self.pages, 5)
        self.banner = Banner()
        body.addWidget(self.banner)

    def show_phase(self, phase: str) -> None:
        """Read after the repair, or looked at again later."""
        self.phase = self.bench.phase = phase
        self.refresh()
        self.stand()

    def taken(self, raw: float, typed: str, instrument: str) -> None:
        """Record it; when a set-up is read through, the next one follows by itself."""
        super().taken(raw, typed, instrument)
        self._follow()

    def turn_taken(self, found: Sequence[tuple[str, float]], typed: str) -> None:
        super().turn_taken(found, typed)
        self._follow()

    def _follow(self) -> None:
        if self.bench.place() is None:
            following = next(
                (s for s in self.bench.set_ups if self.session.case.places_left(s, self.phase)), None
            )
            if following is not None:
                self.bench.choose_set_up(following.key)

    def show_table(self, on: bool) -> None:
        """The tool table instead of before and after, or back."""
        self.pages.setCurrentIndex(1 if on else 0)
        self.table.refresh()

    def show_nothing(self) -> None:
        super().show_nothing()
        self.sheet_button.setEnabled(self.session.case.is_written)

    def show_job(self) -> None:
        self.sheet_button.setEnabled(True)
        has_tools = isinstance(self.session.case, SpindleCase)
        self.table_button.setVisible(has_tools)
        if not has_tools:
            self.pages.setCurrentIndex(0)
        self.table.refresh()
        self.bench.refresh()
        self.bench.title.setText(f"Taken again: {self.bench.current.title.lower()}")
        for key, chip in self.phases.items():
            chip.setChecked(key == self.phase)
        case, system = self.session.case, self.session.system
        if self.phase == "later":
            self.plot.show_rows([self._row(r) for r in case.since()], system)
            self.banner.say(*since_verdict(case, system))
        else:
            rows = case.comparisons()
            figures = [
                grown_row(g, system) for g in before_and_after(case) if g.proven is not None or not rows
            ]
            self.plot.show_rows([*figures, *(self._row(r) for r in rows)], system)
            self.banner.say(*proof_verdict(case, system))
        self.left.show_value()

    def _row(self, r: Comparison) -> ProofRow:
        short = set_up(r.set_up).short
        place = (
            r.place.replace("station ", "").replace(" at ", ", ")
            if r.place not in ("collar", "nose face", "arm")
            else ""
        )
        limit = self.session.case.limit_of(r).limit_mm
        return ProofRow(
            f"{small(short)} {place}".strip(),
            r.before_mm,
            r.before_half_mm,
            r.after_mm,
            r.predicted_mm,
            r.predicted_half_mm,
            limit,
            "yes" if r.is_shown else "not shown",
        )

    def _write(self) -> None:
        start = self.session.path.with_name(f"{self.session.path.stem}-acceptance.pdf")
        name, _ = QFileDialog.getSaveFileName(self, "Write the acceptance sheet", str(start), "PDF (*.pdf)")
        if name:
            self.write_to(Path(name))

    def write_to(self, path: Path) -> None:
        """Write the sheet; says here where it is, or why not."""
        from trebb.app.parts.report import write_sheet

        self.left.settle()
        self.said.show()
        try:
            pages = write_sheet(self.session.case, self.session.system, path)
        except TrebbError as error:
            self.said.setText(f"{error}.")
            return
        self.said.setText(f"Written, {pages} page{'s' if pages > 1 else ''}: {path}")
