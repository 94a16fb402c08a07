"""A page over the job: its title, what stands beside that, the way back. Esc closes it."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QBoxLayout, QVBoxLayout, QWidget

from trebb.app.look.widgets import Cover, button, column, label, row


class CoverPage(Cover):
    """What it shows goes into `outer`; widgets beside the title are given in their order, None for the room
    between.
    """

    def __init__(
        self, parent: QWidget, title: str, *, name: str, tip: str, beside: Sequence[QWidget | None] = ()
    ) -> None:
        super().__init__(parent)
        self.setObjectName("window")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.outer: QVBoxLayout = column(spacing=10)
        self.outer.setContentsMargins(40, 24, 40, 24)
        self.setLayout(self.outer)
        self.head: QBoxLayout = row(spacing=10)
        self.head.addWidget(label(title, "title"))
        for one in beside:
            if one is None:
                self.head.addStretch()
            else:
                self.head.addWidget(one)
        self.head.addWidget(button("Close", self.close, tip=tip, key="Esc", name=f"{name}_close"))
        self.outer.addLayout(self.head)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.close()
        else:
            event.accept()  # nothing of the bench's below
