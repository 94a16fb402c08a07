"""Many readings at once: a table of a set-up's places, for who comes with a full sheet of paper."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct
from PySide6.QtCore import Qt
from PySide6.QtGui import QBrush, QGuiApplication, QKeyEvent, QKeySequence
from PySide6.QtWidgets import QAbstractItemDelegate, QHeaderView, QTableWidget, QTableWidgetItem, QWidget

from trebb.app.look import theme
from trebb.app.look.widgets import button, label
from trebb.app.survey.readings_page import ReadingsPage
from trebb.app.window.session import Session
from trebb.core.errors import InputError
from trebb.core.survey import AnySetUp
from trebb.core.survey.admitting import readings_typed
from trebb.core.survey.shown import reading_text, reading_unit
from trebb.logbook.cases.asking import asked_first
from trebb.logbook.log.entries import ReadingTaken, phase_of

PLACE, HAD, FIRST = 0, 1, 2
LEAST_COLUMNS = 2
SEVERAL = 3  # sentences said at once


class Typed(Struct, frozen=True):
    """What was typed in a cell: readings that it makes; `why_not` it makes none, or what is `asked` of it."""

    place: str
    text: str
    found: tuple[tuple[str, float], ...] = ()
    why_not: str = ""
    asked: str = ""


class _Grid(QTableWidget):
    """Enter goes to the place below; what was copied is pasted from the cell on, line by line."""

    def closeEditor(self, editor: QWidget, hint: QAbstractItemDelegate.EndEditHint) -> None:
        goes_on = hint == QAbstractItemDelegate.EndEditHint.SubmitModelCache
        super().closeEditor(editor, QAbstractItemDelegate.EndEditHint.NoHint if goes_on else hint)
        if goes_on:
            self.go_on()

    def go_on(self) -> None:
        """The place below; from the last one the first of the next column."""
        row, column = self.currentRow() + 1, self.currentColumn()
        if row == self.rowCount():
            row, column = 0, column + 1
        if column < self.columnCount() - 1:
            self.setCurrentCell(row, column)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.matches(QKeySequence.StandardKey.Paste):
            self.paste(QGuiApplication.clipboard().text())
        elif event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter) and not event.modifiers():
            if self.state() != QTableWidget.State.EditingState:  # else what is typed goes on as it closes
                self.go_on()
        elif event.key() in (Qt.Key.Key_Delete, Qt.Key.Key_Backspace) and self.currentColumn() >= FIRST:
            item = self.currentItem()
            if item is not None:
                item.setText("")
        else:
            super().keyPressEvent(event)

    def paste(self, text: str) -> None:
        """Lines go down, what stands between tabs goes to the right."""
        at_row, at_column = max(0, self.currentRow()), max(FIRST, self.currentColumn())
        for i, line in enumerate(text.rstrip("\n").split("\n")):
            for j, cell in enumerate(line.rstrip("\r").split("\t")):
                row, column = at_row + i, at_column + j
                item = self.item(row, column) if column < self.columnCount() - 1 else None
                if item is not None:
                    item.setText(cell.strip())


class ReadingsTable(ReadingsPage):
    """Places of a set-up down, readings across; how each will count stands behind it before it is taken."""

    def __init__(self, parent: QWidget, session: Session, s: AnySetUp, phase: str) -> None:
        unit = reading_unit(s, session.system)
        words = f"in {unit}; Enter goes down, what was copied is pasted; nothing counts before it is taken"
        super().__init__(parent, session, s.title, name="table", beside=(label(words, "soft"), None))
        self._s, self._phase = s, phase
        self._places = session.case.places(s.key)
        self.typed: list[Typed] = []
        self.grid = _Grid(len(self._places), FIRST + max(LEAST_COLUMNS, s.wanted) + 1)
        self._fill()
        self.outer.addWidget(self.grid, 1)
        self.with_asked = button(
            "Also those asked about",
            self._understand,
            kind="chip",
            tip="They are what the instrument shows: take them too",
            name="table_asked",
        )
        self.with_asked.setCheckable(True)
        self.outer.addWidget(self.with_asked)
        self.outer.addWidget(self.take_button)
        self.grid.cellChanged.connect(lambda row, column: self._changed(column))
        self._understand()

    def _fill(self) -> None:
        grid, s, system = self.grid, self._s, self._session.system
        across = grid.columnCount() - 1
        grid.setObjectName("table_grid")
        grid.setAccessibleName("Readings by place")
        grid.setHorizontalHeaderLabels(
            ["Place", "Read already", *(f"Reading {i + 1}" for i in range(across - FIRST)), "Counts as"]
        )
        grid.verticalHeader().hide()
        grid.horizontalHeader().setSectionResizeMode(QHeaderView.ResizeMode.Stretch)
        had = {
            p.place: p.values
            for p in self._session.job.standing(self._session.assembly, s.key, phase_of(self._phase))
        }
        for row, place in enumerate(self._places):
            values = (reading_text(v, s, system) for v in had.get(place.key, ()))
            for column, words in ((PLACE, place.key), (HAD, "  ".join(values)), (across, "")):
                item = QTableWidgetItem(words)
                item.setFlags(Qt.ItemFlag.ItemIsEnabled)
                item.setForeground(QBrush(theme.colour("ink" if column == PLACE else "soft")))
                grid.setItem(row, column, item)
            for column in range(FIRST, across):
                grid.setItem(row, column, QTableWidgetItem(""))
        unread = (row for row, p in enumerate(self._places) if p.key not in had)
        grid.setCurrentCell(next(unread, 0), FIRST)

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self.grid.setFocus(Qt.FocusReason.OtherFocusReason)

    def _changed(self, column: int) -> None:
        if FIRST <= column < self.grid.columnCount() - 1:
            self._understand()

    def _understand(self) -> None:
        """What each cell makes, marked where it stands."""
        self.grid.blockSignals(True)
        self.typed = []
        across = self.grid.columnCount() - 1
        for row, place in enumerate(self._places):
            counts: list[str] = []
            also: list[float] = []
            for column in range(FIRST, across):
                item = self.grid.item(row, column)
                assert item is not None
                one = self._read(place.key, item.text().strip(), also)
                role = "beyond" if one.why_not else "near" if one.asked else "ink"
                item.setForeground(QBrush(theme.colour(role)))
                item.setToolTip(one.why_not or one.asked)
                if one.text:
                    self.typed.append(one)
                counts += [reading_text(raw, self._s, self._session.system) for _, raw in one.found]
            last = self.grid.item(row, across)
            assert last is not None
            last.setText("  ".join(counts))
        self.grid.blockSignals(False)
        self._say()

    def _read(self, place: str, text: str, also: list[float]) -> Typed:
        if not text:
            return Typed(place, text)
        case, system = self._session.case, self._session.system
        phase = phase_of(self._phase)
        try:
            found = readings_typed(self._s, case.read_as(phase), place, text, system)
        except InputError as error:
            return Typed(place, text, (), str(error))
        asked = next(
            (
                doubt
                for at, raw in found
                if (doubt := asked_first(case, self._s, phase, at, raw, text, system, also))
            ),
            "",
        )
        also += [raw for at, raw in found if at == place]
        return Typed(place, text, tuple(found), "", asked)

    def _say(self) -> None:
        wrong = [t for t in self.typed if t.why_not]
        asked = [t for t in self.typed if t.asked]
        taken = self._taken_cells()
        self.with_asked.setVisible(bool(asked))
        self.take_button.setEnabled(bool(taken))
        self.take_button.setText(f"Take {len(taken)}" if taken else "Take them")
        said = [f"{t.place}, “{t.text}”: {t.why_not or t.asked}" for t in (*wrong, *asked)]
        more = f" And {len(said) - SEVERAL} more." if len(said) > SEVERAL else ""
        head = (
            f"{len(taken)} readings will count."
            if self.typed
            else "Type, or paste, what stands on the sheet."
        )
        tone = "beyond" if wrong else "near" if asked else "within" if taken else "soft"
        self.banner.say(tone, head, " ".join(said[:SEVERAL]) + more)

    def _taken_cells(self) -> list[Typed]:
        return [t for t in self.typed if not t.why_not and (not t.asked or self.with_asked.isChecked())]

    def to_take(self) -> Sequence[ReadingTaken]:
        """The readings that are understood; what is not stands on."""
        return [
            self._session.reading(self._s, at, self._phase, raw, t.text, "typed")
            for t in self._taken_cells()
            for at, raw in t.found
        ]
