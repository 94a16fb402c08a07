"""Readings from a spreadsheet, pasted or from a file: shown as they are understood before any is taken."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QFileDialog, QPlainTextEdit, QWidget

from trebb.app.look.widgets import button, clear, column, label, row, scrolled, sheet
from trebb.app.survey.readings_page import ReadingsPage
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.core.survey import set_up
from trebb.core.survey.shown import reading_text
from trebb.core.units import UnitSystem
from trebb.logbook.exchange.readings_csv import ImportedReadings, readings_from_csv
from trebb.logbook.file.given_files import read_text
from trebb.logbook.log.entries import ReadingTaken

MOST_BYTES = 5_000_000
MOST_SHOWN = 200


class BringIn(ReadingsPage):
    """Covers the job: text at the left, what is understood of it at the right."""

    def __init__(self, parent: QWidget, session: Session) -> None:
        words = "Nothing is taken before you say so. Columns: set_up, place, value_mm, value_thou …"
        from_file = button(
            "From a file", self._choose, tip="A CSV or .xlsx of any spreadsheet", name="bring_file"
        )
        beside = (label(words, "soft"), None, from_file)
        super().__init__(parent, session, "Bring readings in", name="bring", beside=beside)
        self._found: ImportedReadings | None = None
        middle = row(spacing=14)
        self.outer.addLayout(middle, 1)
        self.text = QPlainTextEdit()
        self.text.setObjectName("bring_text")
        self.text.setAccessibleName("Readings as pasted")
        self.text.setPlaceholderText("set_up\tplace\tvalue_thou\nend_float\tcollar\t12.5")
        self.text.setToolTip("Paste from a spreadsheet, the line with the names of its columns too")
        self.text.textChanged.connect(self._understand)
        middle.addWidget(self.text, 2)
        inner = QWidget()
        self.rows = column(spacing=2)
        inner.setLayout(self.rows)
        body = column(spacing=8)
        body.addWidget(scrolled(inner), 1)
        body.addWidget(self.take_button)
        middle.addWidget(sheet(body, 16), 3)
        pasted = QGuiApplication.clipboard().text()
        self.text.setPlainText(pasted if "set_up" in pasted[:2000] else "")
        self._understand()

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Readings", str(Path.home()), "Spreadsheets (*.csv *.tsv *.txt *.xlsx)"
        )
        if name:
            self.read(Path(name))

    def read(self, path: Path) -> None:
        """Show what a file holds; says here why it cannot be read."""
        try:
            if path.suffix.lower() == ".xlsx":
                from trebb.logbook.exchange.spreadsheet import readings_text

                self.text.setPlainText(readings_text(path))
            else:
                self.text.setPlainText(read_text(path, most_bytes=MOST_BYTES))
        except TrebbError as error:
            self._say("beyond", "Nothing of this can be taken.", f"{error}.")

    def _say(self, tone: str, head: str, text: str = "") -> None:
        self.banner.say(tone, head, text)

    def _understand(self) -> None:
        clear(self.rows)
        self._found = None
        text = self.text.toPlainText()
        try:
            if text.strip():
                self._found = readings_from_csv(text, self._session.cases)
        except TrebbError as error:
            self._say("beyond", "Nothing of this can be taken.", str(error))
        found = self._found
        self.take_button.setEnabled(found is not None and bool(found.readings))
        if found is None:
            if not text.strip():
                self._say("soft", "Paste readings at the left, or choose a file.")
            return
        aside = len(found.set_aside)
        self._say(
            "near" if aside else "within",
            f"{len(found.readings)} readings are understood"
            + (f", {aside} line{'s' if aside != 1 else ''} would be left out." if aside else "."),
        )
        for reading in found.readings[:MOST_SHOWN]:
            self.rows.addWidget(label(self._words(reading, self._session.system)))
        for reason in found.set_aside[:MOST_SHOWN]:
            self.rows.addWidget(label(f"left out: {reason}", "refused", wrap=True))
        self.rows.addStretch()

    def _words(self, reading: ReadingTaken, system: UnitSystem) -> str:
        s = set_up(reading.set_up)
        name = self._session.cases.kind.assembly(reading.assembly).label
        phase = "" if reading.phase == "before" else f", {reading.phase}"
        value = reading_text(reading.value, s, system, unit=True)
        return f"{name} · {s.title} · {reading.place}{phase}: {value}"

    def to_take(self) -> Sequence[ReadingTaken]:
        """The readings that are understood."""
        return self._found.readings if self._found is not None else ()
