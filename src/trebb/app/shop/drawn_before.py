"""A part as it was drawn in another job, copied into this one."""

from __future__ import annotations

from functools import partial

from PySide6.QtWidgets import QMenu, QWidget

from trebb.app.look.widgets import button, column
from trebb.app.window.session import Session
from trebb.core.errors import TrebbError
from trebb.logbook.log.entries import PartSet
from trebb.logbook.memory.shop_place import has_memory

MOST = 12


class DrawnBefore(QWidget):
    """One button that opens the jobs in which such a part was drawn; not there where none is known."""

    def __init__(self, session: Session) -> None:
        super().__init__()
        self._session = session
        self._key = ""
        self._known: list[tuple[str, str, dict[str, str | float]]] | None = None
        box = column()
        self.setLayout(box)
        self.open_button = button(
            "As drawn before …",
            self.open_menu,
            kind="link",
            tip="Copy what was set of such a part in another job",
            name="drawn_before",
        )
        box.addWidget(self.open_button)
        self.hide()

    def show_part(self, key: str) -> None:
        """Show what is known of another part."""
        self._key = key
        self.setVisible(bool(self.offers()))

    def offers(self) -> list[tuple[str, dict[str, str | float]]]:
        """Jobs in which such a part was drawn, in words, with what was set."""
        if self._known is None:
            self._known = self._read()
        of = f"{self._session.case.family}/{self._key}"
        return [(words, facts) for what, words, facts in self._known if what == of][:MOST]

    @staticmethod
    def _read() -> list[tuple[str, str, dict[str, str | float]]]:
        if not has_memory():
            return []
        from trebb.logbook.memory.asked import memory_of
        from trebb.logbook.memory.shop import read_shop

        memory = memory_of(read_shop()[0])
        return [
            (t.of, f"{memory.jobs[t.job].given.machine}: {t.words}", t.facts)
            for t in reversed(memory.things)
            if t.what == "part" and t.job in memory.jobs and t.facts
        ]

    def open_menu(self) -> None:
        """Choose one."""
        menu = QMenu(self)
        for words, facts in self.offers():
            menu.addAction(words).triggered.connect(partial(self.copy, facts))
        menu.popup(self.mapToGlobal(self.rect().bottomLeft()))

    def copy(self, facts: dict[str, str | float], *_: object) -> None:
        """Copy what was set; what will not do here is left out, and said."""
        case = self._session.case
        fields = {f.key for f in case.part_fields(self._key, self._session.system)}
        bodies = [
            PartSet(part=case.part_name(self._key), field=field, value=value)
            for field, value in facts.items()
            if field in fields
        ]
        try:
            self._session.record(*bodies)
        except TrebbError as error:
            self._session.refused.emit(f"Not copied: {error}.")
