"""Help over the window, on F1: of what is on the screen, and everything else by search."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent, QTextCursor
from PySide6.QtWidgets import QFileDialog, QListWidget, QListWidgetItem, QTextBrowser, QTextEdit, QWidget

from trebb.app.help.keys import keys_text
from trebb.app.help.topics import (
    FIRST_STEPS,
    Library,
    Topic,
    keys_topic,
    library,
    set_up_topic,
    written_topics,
)
from trebb.app.look import numerals, theme
from trebb.app.look.cover_page import CoverPage
from trebb.app.look.typed import BenchEdit
from trebb.app.look.widgets import FigureView, button, column, row, sheet
from trebb.app.papers.paper import Paper, words_of, write_pdf
from trebb.app.stops.base import Stop
from trebb.app.window.behind import Behind
from trebb.core.dual_units import in_units
from trebb.core.errors import TrebbError
from trebb.core.units import UnitSystem
from trebb.logbook.lookup.index import marked_words

if TYPE_CHECKING:
    from trebb.app.window.frame import Frame

LIST_WIDE = 300
GAP = 9.0  # px below a paragraph
TOPIC = "topic:"
NOT_GATHERED = "The pages could not be gathered just now."


def _item(topic: Topic) -> QListWidgetItem:
    item = QListWidgetItem(topic.listed_as)
    item.setData(Qt.ItemDataRole.UserRole, topic.key)
    item.setToolTip(topic.listed_as)
    return item


class HelpCover(CoverPage):
    """Topics at the left, searched as one types; the one chosen at the right. Esc closes it."""

    def __init__(self, parent: QWidget, frame: Frame | None) -> None:
        self._frame, self._over = frame, parent.window()
        self.search = BenchEdit()
        self.search.setObjectName("help_search")
        self.search.setPlaceholderText("search")
        self.search.setAccessibleName("Search the help")
        self.search.setToolTip("Words to look for, in any order; Down goes to what was found")
        super().__init__(
            parent,
            "Help",
            name="help",
            tip="Back to what was on the screen",
            beside=(
                self.search,
                button("Save as PDF", self._save, tip="This page, to be printed", key="Ctrl+P", shortcut=True,
                       name="help_pdf"),
            ),
        )  # fmt: skip
        self.search.textChanged.connect(self._look)
        self.topics = self._here_topics()
        self.library: Library | None = None
        self._gathering = Behind(self, lambda _: library(), NOT_GATHERED)
        self._gathering.made.connect(self._gathered)
        self._gathering.failed.connect(self.text_said)
        middle = row(spacing=14)
        self.outer.addLayout(middle, 1)
        self.list = QListWidget()
        self.list.setObjectName("help_topics")
        self.list.setAccessibleName("Topics")
        self.list.setFixedWidth(LIST_WIDE)
        self.list.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.list.setTextElideMode(Qt.TextElideMode.ElideRight)
        self.list.currentItemChanged.connect(self._show)
        middle.addWidget(self.list)
        body = column(spacing=8)
        self.figure = FigureView()
        self.figure.setFixedHeight(170)
        body.addWidget(self.figure)
        self.text = QTextBrowser()
        self.text.setOpenLinks(False)  # nothing is ever fetched
        self.text.anchorClicked.connect(lambda url: self.choose(url.toString().removeprefix(TOPIC)))
        self.text.setObjectName("help_text")
        self.text.setAccessibleName("Help")
        self.text.document().setDefaultFont(theme.font())
        body.addWidget(self.text, 1)
        middle.addWidget(sheet(body, 16), 1)
        self._look("")
        self.choose(self._here())
        self.library = self._gathering.ask(None)

    def text_said(self, words: str) -> None:
        """Say something in the page's place."""
        self.text.setPlainText(words)

    def _gathered(self, made: Library) -> None:
        self.library = made
        if self.search.text().strip():
            self._look(self.search.text())

    def _here_topics(self) -> list[Topic]:
        topics = written_topics()
        topics.insert(1, keys_topic(keys_text(self._stop(), self._over)))
        if self._frame is not None:
            session = self._frame.session
            seen = dict.fromkeys(
                s for a in session.cases.kind.assemblies for s in session.cases.of(a.key).set_ups
            )
            topics += [set_up_topic(s) for s in seen]
        return topics

    def _stop(self) -> Stop | None:
        return self._frame.stop if self._frame is not None and self._frame.index >= 0 else None

    def _here(self) -> str:
        """The topic of what is on the screen: a set-up where one is being read."""
        if self._frame is None:
            return FIRST_STEPS
        pod = getattr(self._frame.stop, "pod", None)
        s = pod.set_up if pod is not None else None
        return f"set_up.{s.key}" if s is not None else self._frame.stop_key

    def choose(self, key: str) -> None:
        """Show a topic by its key, listed or not."""
        for i in range(self.list.count()):
            if self.list.item(i).data(Qt.ItemDataRole.UserRole) == key:
                self.list.setCurrentRow(i)
                return
        topic = self._topic(key)
        if topic is not None:
            self.list.insertItem(0, _item(topic))
            self.list.setCurrentRow(0)

    def _topic(self, key: str) -> Topic | None:
        """A page by its key: of what is here first, whose keys are those of the screen."""
        here = next((t for t in self.topics if t.key == key), None)
        return here or (self.library.topics.get(key) if self.library is not None else None)

    def _look(self, words: str) -> None:
        self.list.clear()
        said = words.strip()
        if said and self.library is None:
            self.text_said("…")
            return
        keys = self.library.index.found(said) if said and self.library is not None else []
        topics = [t for key in keys if (t := self._topic(key)) is not None] if said else self.topics
        for topic in topics:
            self.list.addItem(_item(topic))
        if said:
            self.list.setCurrentRow(0)
        if not self.list.count():
            self.figure.hide()
            self.text_said(f"Nothing in the help has anything of “{said}”. Try another word for it.")

    def _show(self) -> None:
        item = self.list.currentItem()
        topic = self._topic(item.data(Qt.ItemDataRole.UserRole)) if item is not None else None
        if topic is None:
            return
        system = self._frame.session.system if self._frame is not None else UnitSystem.INCH
        self.text.setMarkdown(numerals.shown(in_units(topic.text, system)))
        self._space()
        self._mark(marked_words(self.search.text()))
        self._show_figure(topic.key.removeprefix("set_up.") if topic.key.startswith("set_up.") else "")

    def _space(self) -> None:
        """Room between what is said and what is said next."""
        block = self.text.document().begin()
        while block.isValid():
            form = block.blockFormat()
            form.setBottomMargin(GAP / 2 if block.textList() is not None else GAP)
            QTextCursor(block).setBlockFormat(form)
            block = block.next()

    def _mark(self, words: list[str]) -> None:
        """Mark the words looked for, and go to the first of them."""
        marked, ink = [], theme.colour("ink")
        for word in words:
            at = self.text.document().find(word)
            while not at.isNull():
                one = QTextEdit.ExtraSelection()
                one.cursor = at
                one.format.setBackground(theme.colour("near_wash"))
                one.format.setForeground(ink)
                marked.append(one)
                at = self.text.document().find(word, at)
        self.text.setExtraSelections(marked)
        if marked:
            first = min((one.cursor for one in marked), key=lambda c: c.position())
            self.text.setTextCursor(QTextCursor(first.block()))
            self.text.ensureCursorVisible()

    def _show_figure(self, key: str) -> None:
        """The picture of a set-up of this machine."""
        cases = self._frame.session.cases if self._frame is not None else None
        case = None
        if cases is not None and key:
            of = (cases.of(a.key) for a in cases.kind.assemblies)
            case = next((c for c in of if any(s.key == key for s in c.set_ups)), None)
        s = next(s for s in case.set_ups if s.key == key) if case is not None else None
        places = s.places(case.subject) if s is not None and case is not None else ()
        self.figure.setVisible(bool(places))
        if s is not None and case is not None and places:
            self.figure.show_figure(s.figure(case.subject, places[0].key))

    def _save(self) -> None:
        start = str(Path.home() / f"{self._title()}.pdf")
        name, _ = QFileDialog.getSaveFileName(self, "Save the page", start, "PDF (*.pdf)")
        if name:
            self.save_to(Path(name))

    def _title(self) -> str:
        item = self.list.currentItem()
        return item.text() if item is not None else "Help"

    def save_to(self, path: Path) -> None:
        """Write the page that is shown onto the country's paper; says in its place why not."""
        try:
            write_pdf(Paper(self._title(), [words_of(self.text.toMarkdown())]), path)
        except TrebbError as error:
            self.text_said(f"{error}.")

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up) and self.search.hasFocus():
            self.list.setFocus()
            self.list.setCurrentRow(0)
        else:
            super().keyPressEvent(event)
