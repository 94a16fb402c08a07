"""The look at a paper before it is printed or saved."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import shiboken6
from PySide6.QtGui import QCloseEvent
from PySide6.QtPrintSupport import QPrintDialog, QPrinter, QPrintPreviewWidget
from PySide6.QtWidgets import QFileDialog, QWidget

from trebb.app.look.cover_page import CoverPage
from trebb.app.look.widgets import Banner, button, exclusive, row
from trebb.app.papers.of_job import KINDS, paper_of
from trebb.app.papers.paper import DOTS_PER_INCH, Paper, put_on, write_pdf
from trebb.app.plan.papers import machine_card, oil_card, week_sheet
from trebb.app.window.session import Session
from trebb.core import clock
from trebb.core.errors import TrebbError
from trebb.logbook.plan.job_plan import job_plan


def _week(session: Session) -> Paper:
    return week_sheet(session, job_plan(session.cases, clock.now()))


OF_WHOLE_JOB: tuple[tuple[str, str, str, Callable[[Session], Paper]], ...] = (
    ("card", "Machine’s card", "What is known of the machine, for whoever has it next", machine_card),
    ("oil", "Oil card", "The oil plan, for the machine’s door", lambda session: oil_card(session.cases)),
    ("week", "Week", "The coming evenings, to hang up", _week),
)


class PrintCover(CoverPage):
    """Which paper, its pages as they come, and to the printer or into a file; Esc closes it."""

    def __init__(self, parent: QWidget, session: Session, part: str, kind: str) -> None:
        self.print_button = button(
            "Print …", self._print, kind="primary", tip="Choose a printer", name="print_now"
        )
        self.save_button = button("Save PDF", self._save, tip="The same pages as a file", name="print_save")
        super().__init__(
            parent,
            "Print",
            name="print",
            tip="Back to the job",
            beside=(None, self.print_button, self.save_button),
        )
        self._session, self._part, self._kind = session, part, kind
        self.paper: Paper | None = None
        outer = self.outer
        line = row(spacing=4)
        named = [(k.key, k.title, k.tip) for k in KINDS] + [k[:3] for k in OF_WHOLE_JOB]
        self.kinds = exclusive(self, line, named, self.show_kind, prefix="paper")
        line.addStretch()
        outer.addLayout(line)
        self.banner = Banner()
        self.banner.hide()
        outer.addWidget(self.banner)
        self.printer = QPrinter()
        self.printer.setResolution(DOTS_PER_INCH)
        self.preview = QPrintPreviewWidget(self.printer)
        self.preview.setAccessibleName("Pages as they will be printed")
        self.preview.paintRequested.connect(self._paint)
        outer.addWidget(self.preview, 1)
        self._empty = QWidget()
        outer.addWidget(self._empty, 1)
        self.show_kind(kind)

    def show_kind(self, kind: str) -> None:
        """Another paper of the same assembly; says here why there is none."""
        self._kind = kind
        for key, choice in self.kinds.items():
            choice.setChecked(key == kind)
        self.banner.hide()
        session = self._session
        try:
            whole = next((k[3] for k in OF_WHOLE_JOB if k[0] == kind), None)
            self.paper = (
                whole(session)
                if whole is not None
                else paper_of(session.cases, session.case, kind, self._part, session.system)
            )
        except TrebbError as error:
            self.paper = None
            self.banner.say("near", "There is nothing to print here yet.", f"{error}.")
        for widget in (self.print_button, self.save_button):
            widget.setEnabled(self.paper is not None)
        self.preview.setVisible(self.paper is not None)
        self._empty.setVisible(self.paper is None)
        if self.paper is not None:
            self.preview.updatePreview()

    def closeEvent(self, event: QCloseEvent) -> None:
        """The pages go with the page: a printer keeps every one it was shown until it goes itself."""
        super().closeEvent(event)
        if shiboken6.isValid(self.preview):
            self.preview.paintRequested.disconnect()
            shiboken6.delete(self.preview)
            shiboken6.delete(self.printer)

    def _paint(self, printer: QPrinter) -> None:
        if self.paper is not None:
            put_on(printer, self.paper)

    def _print(self) -> None:
        if self.paper is None:
            return
        printer = QPrinter()
        printer.setResolution(DOTS_PER_INCH)
        printer.setDocName(f"{self._session.path.stem}-{self._kind}")  # what the queue calls it
        if QPrintDialog(printer, self).exec() == QPrintDialog.DialogCode.Accepted:
            put_on(printer, self.paper)
            self.close()

    def _save(self) -> None:
        assert self.paper is not None
        start = self._session.path.with_name(f"{self._session.path.stem}-{self._kind}.pdf")
        name, _ = QFileDialog.getSaveFileName(self, "Save the pages", str(start), "PDF (*.pdf)")
        if name:
            self.save_to(Path(name))

    def save_to(self, path: Path) -> None:
        """Write the pages; says here where they are, or why not."""
        if self.paper is None:
            return
        try:
            pages = write_pdf(self.paper, path)
        except TrebbError as error:
            self.banner.say("beyond", "Not written.", f"{error}.")
            return
        self.banner.say("within", f"Written: {path}", f"{pages} page{'s' if pages > 1 else ''}.")
