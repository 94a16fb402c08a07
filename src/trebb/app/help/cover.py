"""Help over the window, on F1: of what is on the screen, and everything else by search."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QListWidget, QListWidgetItem, QTextBrowser, QWidget

from trebb.app.help.keys import keys_text
from trebb.app.help.topics import FIRST_STEPS, KEYS, Topic, found, set_up_topic, written_topics
from trebb.app.look import numerals, theme
from trebb.app.look.cover_page import CoverPage
from trebb.app.look.typed import BenchEdit
from trebb.app.look.widgets import FigureView, column, row, sheet
from trebb.app.stops.base import Stop
from trebb.core.survey import AnySetUp

if TYPE_CHECKING:
    from trebb.app.window.frame import Frame

LIST_WIDE = 300


class HelpCover(CoverPage):
    """Topics at the left, searched as one types; the one chosen at the right. Esc closes it."""

    def __init__(self, parent: QWidget, frame: Frame | None) -> None:
        self._frame, self._over = frame, parent.window()
        self._set_ups: dict[str, AnySetUp] = {}
        self.search = BenchEdit()
        self.search.setObjectName("help_search")
        self.search.setPlaceholderText("search")
        self.search.setAccessibleName("Search the help")
        self.search.setToolTip("Words to look for, in any order; Down goes to what was found")
        super().__init__(
            parent, "Help", name="help", tip="Back to what was on the screen", beside=(self.search,)
        )
        self.search.textChanged.connect(self._look)
        self.topics = self._all_topics()
        middle = row(spacing=14)
        self.outer.addLayout(middle, 1)
        self.list = QListWidget()
        self.list.setObjectName("help_topics")
        self.list.setAccessibleName("Topics")
        self.list.setFixedWidth(LIST_WIDE)
        self.list.currentItemChanged.connect(self._show)
        middle.addWidget(self.list)
        body = column(spacing=8)
        self.figure = FigureView()
        self.figure.setFixedHeight(170)
        body.addWidget(self.figure)
        self.text = QTextBrowser()
        self.text.setOpenLinks(False)  # nothing is ever fetched
        self.text.setObjectName("help_text")
        self.text.setAccessibleName("Help")
        self.text.document().setDefaultFont(theme.font())
        body.addWidget(self.text, 1)
        middle.addWidget(sheet(body, 16), 1)
        self._look("")
        self.choose(self._here())

    def _all_topics(self) -> list[Topic]:
        topics = written_topics()
        topics.insert(1, Topic(KEYS, "Keys", keys_text(self._stop(), self._over)))
        if self._frame is not None:
            session = self._frame.session
            seen = dict.fromkeys(
                s for a in session.cases.kind.assemblies for s in session.cases.of(a.key).set_ups
            )
            topics += [set_up_topic(s, session.system) for s in seen]
            self._set_ups = {s.key: s for s in seen}
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
        """Show a topic by its key."""
        for i in range(self.list.count()):
            if self.list.item(i).data(Qt.ItemDataRole.UserRole) == key:
                self.list.setCurrentRow(i)
                return

    def _look(self, words: str) -> None:
        self.list.clear()
        for topic in found(self.topics, words):
            item = QListWidgetItem(topic.title)
            item.setData(Qt.ItemDataRole.UserRole, topic.key)
            item.setToolTip(topic.title)
            self.list.addItem(item)
        if words.strip():
            self.list.setCurrentRow(0)
        if not self.list.count():
            self.figure.hide()
            self.text.setPlainText(f"Nothing in the help has all of “{words.strip()}”. Try fewer words.")

    def _show(self) -> None:
        item = self.list.currentItem()
        if item is None:
            return
        key = item.data(Qt.ItemDataRole.UserRole)
        topic = next(t for t in self.topics if t.key == key)
        self.text.setMarkdown(numerals.shown(topic.text))
        s = self._set_ups.get(key.removeprefix("set_up.")) if self._frame is not None else None
        self.figure.setVisible(s is not None)
        if s is not None and self._frame is not None:
            cases = self._frame.session.cases
            case = next(c for a in cases.kind.assemblies if s in (c := cases.of(a.key)).set_ups)
            places = s.places(case.subject)
            if places:
                self.figure.show_figure(s.figure(case.subject, places[0].key))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up) and self.search.hasFocus():
            self.list.setFocus()
            self.list.setCurrentRow(0)
        else:
            super().keyPressEvent(event)
