"""What the pages beside the start page share: margins, a title, the way back, a banner."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PySide6.QtWidgets import QBoxLayout, QVBoxLayout, QWidget

from trebb.app.look.widgets import Banner, button, column, label, row


class BesidePage(QWidget):
    """A page with its head; what it shows goes into `outer`."""

    def __init__(
        self,
        title: str,
        words: str,
        back: Callable[[], object],
        *,
        name: str,
        tools: Sequence[QWidget] = (),
    ) -> None:
        super().__init__()
        self.setObjectName("window")
        self.outer: QVBoxLayout = column(spacing=10)
        self.outer.setContentsMargins(40, 24, 40, 24)
        self.setLayout(self.outer)
        self.head: QBoxLayout = row(spacing=10)
        self.title = label(title, "title")
        self.head.addWidget(self.title)
        if words:
            self.head.addWidget(label(words, "soft"))
        self.head.addStretch()
        for tool in tools:
            self.head.addWidget(tool)
        self.head.addWidget(
            button("Back", back, tip="To the start page", key="Esc", shortcut=True, name=f"{name}_back")
        )
        self.outer.addLayout(self.head)
        self.banner = Banner()
        self.banner.hide()
        self.outer.addWidget(self.banner)
