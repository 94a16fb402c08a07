"""Prove: a tool table read, every length shifted, old and new side by side, written beside the original."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter
from PySide6.QtWidgets import QFileDialog, QWidget

from trebb.app.look import painting, theme
from trebb.app.look.widgets import Choice, button, column, label, row, scrolled
from trebb.app.window.session import Session
from trebb.core.errors import InputError, TrebbError
from trebb.core.proof.tool_table import ShiftedTool, ToolTable, read_table, shift_table
from trebb.core.units import UnitSystem, show_uncertain
from trebb.logbook.cases.spindle_case import SpindleCase
from trebb.logbook.file.given_files import read_text
from trebb.logbook.file.writing import WriteError, write_whole
from trebb.logbook.log.entries import NoteWritten

TOPIC = "tool_table.columns"


class ToolTablePanel(QWidget):
    """Choose a file, say once which column is which, write it back. `closed` goes back to the proof."""

    closed = Signal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._path: Path | None = None
        self._table: ToolTable | None = None
        self._text = ""
        box = column(spacing=8)
        self.setLayout(box)
        head = row()
        head.addWidget(label("Shift a tool table", "head"))
        head.addStretch()
        head.addWidget(
            button(
                "Back to the proof",
                self.closed.emit,
                kind="link",
                tip="Back to before and after",
                name="table_back",
            )
        )
        box.addLayout(head)
        self.by = label("", wrap=True)
        box.addWidget(self.by)
        line = row()
        line.addWidget(
            button(
                "Choose the table", self._choose, tip="A CSV file of tools and lengths", name="choose_table"
            )
        )
        self.tool, self.length, self.unit = Choice(), Choice(), Choice()
        for words, box_, name in (
            ("Tool", self.tool, "table_tool"),
            ("Length", self.length, "table_length"),
            ("in", self.unit, "table_unit"),
        ):
            box_.setObjectName(name)
            box_.setToolTip(f"Column of the {words.lower()}" if words != "in" else "Unit of the lengths")
            box_.setAccessibleName(words)
            box_.activated.connect(self._match)
            line.addWidget(label(words, "soft"))
            line.addWidget(box_)
        self.unit.addItem("inches", "in")
        self.unit.addItem("millimetres", "mm")
        line.addStretch()
        box.addLayout(line)
        self.list = _Lengths()
        box.addWidget(scrolled(self.list), 1)
        foot = row()
        self.write = button(
            "Write it beside the original",
            self._write,
            kind="dark",
            tip="A new file; the original is not touched",
            name="write_table",
        )
        foot.addWidget(self.write)
        self.said = label("", wrap=True)
        foot.addWidget(self.said, 1)
        box.addLayout(foot)

    def refresh(self) -> None:
        """Show the shift as measured, and the table with it."""
        case = self._session.case
        shift = case.length_shift() if isinstance(case, SpindleCase) else None
        if shift is None:
            self.by.setText(
                "Measure one tool's length before the spindle comes out and again after it is back (K, Tool "
                "length): the difference is what every stored length shifts by."
            )
        else:
            size = show_uncertain(shift.value, shift.half_width, self._session.system)
            way = "longer" if shift.value >= 0 else "shorter"
            shown = (
                ""
                if abs(shift.value) > shift.half_width
                else " That is no more than the measuring: not shown."
            )
            self.by.setText(
                f"Every length becomes {way}: {size}, from the one tool measured before and after.{shown}"
            )
        self.write.setEnabled(shift is not None and self._table is not None)
        self._show()

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self, "Choose the tool table", str(Path.home()), "Tables (*.csv *.txt *.tsv);;All files (*)"
        )
        if name:
            self.open_table(Path(name))

    def open_table(self, path: Path) -> None:
        """Read a table; says here why it is none."""
        try:
            text = read_text(path)
        except TrebbError as error:
            self.said.setText(f"{error}.")
            return
        try:
            table = read_table(text)
        except TrebbError as error:
            self.said.setText(f"{path.name}: {error}.")
            return
        self._path, self._table = path, table
        self.said.setText(path.name)
        tool, length = table.usual_columns
        names = list(table.header)
        kept = self._session.job.note(TOPIC).split("|")
        if len(kept) == 3 and kept[0] in names and kept[1] in names:
            tool, length = names.index(kept[0]), names.index(kept[1])
            self.unit.setCurrentIndex(max(0, self.unit.findData(kept[2])))
        else:
            self.unit.setCurrentIndex(0 if self._session.system is UnitSystem.INCH else 1)
        for choice, chosen in ((self.tool, tool), (self.length, length)):
            choice.clear()
            for i, name in enumerate(names):
                choice.addItem(name, i)
            choice.setCurrentIndex(chosen)
        self.refresh()

    def _match(self) -> None:
        """The columns were matched by hand: remembered for the next table."""
        if self._table is not None:
            names = self._table.header
            text = "|".join(
                (
                    names[self.tool.currentIndex()],
                    names[self.length.currentIndex()],
                    str(self.unit.currentData()),
                )
            )
            self._session.record(NoteWritten(topic=TOPIC, text=text))
        self.refresh()

    def _shifted(self) -> tuple[list[ShiftedTool], str]:
        case = self._session.case
        shift = case.length_shift() if isinstance(case, SpindleCase) else None
        if self._table is None or shift is None:
            return [], ""
        return shift_table(
            self._table,
            self.tool.currentIndex(),
            self.length.currentIndex(),
            shift.value,
            str(self.unit.currentData()),
        )

    def _show(self) -> None:
        try:
            rows, self._text = self._shifted()
        except InputError as error:
            self.said.setText(f"{error}.")
            rows = []
        self.list.show_rows(rows)

    def _write(self) -> None:
        if self._path is None or not self._text:
            return
        self.write_to(free_name(self._path))

    def write_to(self, path: Path) -> None:
        """Write the shifted table; says here where it is, or why not."""
        try:
            if path.exists():
                raise WriteError(path.name, "not written: a file of this name is there already")
            write_whole(path, self._text.encode("utf-8"))
        except WriteError as error:
            self.said.setText(f"{error}.")
            return
        self.said.setText(f"Written: {path}")


def free_name(path: Path) -> Path:
    """A name beside the original that no file has."""
    number = 1
    while True:
        tail = "" if number == 1 else f"-{number}"
        found = path.with_name(f"{path.stem}-shifted{tail}{path.suffix}")
        if not found.exists():
            return found
        number += 1


class _Lengths(painting.Painted, QWidget):
    """Tool, old and new, a line each."""

    ROW = 24

    def __init__(self) -> None:
        super().__init__()
        self._rows: list[ShiftedTool] = []
        self.setAccessibleName("Lengths, old and new")

    def show_rows(self, rows: list[ShiftedTool]) -> None:
        """Show other lengths."""
        self._rows = rows
        self.setMinimumHeight(self.ROW * (len(rows) + 1))
        self.update()

    def rows(self) -> list[ShiftedTool]:
        """What is shown."""
        return list(self._rows)

    def sizeHint(self) -> QSize:
        return QSize(400, self.ROW * (len(self._rows) + 1))

    def draw(self, painter: QPainter) -> None:
        """Paint it as it now is."""
        flags, right = (
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft,
            Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignRight,
        )
        painter.setFont(theme.font(theme.SMALL))
        painter.setPen(theme.colour("soft"))
        columns = ((0.0, 160.0, "tool", flags), (170.0, 110.0, "old", right), (300.0, 110.0, "new", right))
        for x, wide, words, way in columns:
            painter.drawText(QRectF(x + 8, 0, wide, self.ROW), way, words)
        for i, tool in enumerate(self._rows):
            y = self.ROW * (i + 1)
            painter.fillRect(QRectF(0, y + 1, self.width(), self.ROW - 2), theme.colour("ground"))
            painter.setFont(theme.font(theme.BODY))
            painter.setPen(theme.colour("ink"))
            for (x, wide, _, way), words in zip(columns, (tool.tool, tool.old, tool.new), strict=True):
                painter.drawText(QRectF(x + 8, y, wide, self.ROW), way, words)
            if tool.problem:
                painter.setPen(painting.pen("near"))
                painter.drawText(
                    QRectF(430, y, self.width() - 440, self.ROW), flags, f"left as it is: {tool.problem}"
                )
