"""Which memory is in use, where a shop keeps more than one."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtWidgets import QWidget

from trebb.app.look.typed import BenchEdit
from trebb.app.look.widgets import Choice, button, column, label, row
from trebb.core.errors import TrebbError
from trebb.logbook.memory.shop_place import in_use, memories, use


class WhichMemory(QWidget):
    """The memory in use, another to choose, and one to begin; `chosen` once it is another."""

    def __init__(self, chosen: Callable[[], object]) -> None:
        super().__init__()
        self._chosen = chosen
        self.box = Choice()
        self.box.setObjectName("which_memory")
        self.box.setAccessibleName("Memory in use")
        self.box.setToolTip("What is taught and asked from now on; the others stay as they are")
        self.box.activated.connect(lambda: self._use(self.box.currentText()))
        self.name = BenchEdit()
        self.name.setObjectName("new_memory")
        self.name.setToolTip("Its name; Enter begins it")
        self.name.setPlaceholderText("name of another shop or kind of work")
        self.name.setAccessibleName("Name of a memory to begin")
        self.name.setMinimumWidth(260)
        self.name.returnPressed.connect(lambda: self._use(self.name.text()))
        self.said = label("", "soft", wrap=True)
        self.refusal = label("", "refused", wrap=True)
        box, line = column(spacing=2), row(spacing=10)
        self.setLayout(box)
        box.addLayout(line)
        box.addWidget(self.said)
        box.addWidget(self.refusal)
        line.addWidget(label("Memory in use", "soft"))
        line.addWidget(self.box)
        line.addSpacing(20)
        line.addWidget(label("Begin another", "soft"))
        line.addWidget(self.name)
        line.addWidget(
            button("Begin", lambda: self._use(self.name.text()), tip="Begin and use it", name="begin_memory")
        )
        line.addStretch()
        self.refresh()

    def refresh(self) -> None:
        """Show which there are, and the one in use."""
        self.box.clear()
        self.box.addItems(memories())
        self.box.setCurrentText(in_use())

    def _use(self, name: str) -> None:
        try:
            use(name)
        except (TrebbError, OSError) as error:
            self.said.setText("")
            self.refusal.setText(f"{error}.")
            return
        self.refusal.setText("")
        self.said.setText("Used from now on; the job that is open goes by it too.")
        self.name.clear()
        self.refresh()
        self._chosen()
